//! `hsieve settings set` and `hsieve settings upgrade`

use std::path::PathBuf;
use std::sync::Arc;

use sieve_engine::files;
use sieve_engine::fix::{self, FixOutcome, FixedFile, FixedText, FixingRun};
use sieve_engine::outcome::Outcome;
use sieve_engine::project::{Project, absolute};
use sieve_engine::run::{Request, Unwatched, Wants, sift};
use sieve_engine::settings::{self, EditError, Overrides, Packs, SettingsTree};
use sieve_rules::catalogue::history::CURRENT;
use sieve_rules::{Level, RuleId, RuleSet, catalogue};

use crate::arguments::{SetArguments, UpgradeArguments};
use crate::run::{here, nearest_settings, shown};
use crate::screen::{FAINT, STRONG, Screen, TYPED, complain, counted, grouped, level_style, safe, styled, width};
use crate::status::{Status, usage};

/// Changes one value.
pub fn set(arguments: &SetArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let project = here()?;
    let path = match &arguments.file {
        Some(path) => absolute(&project.folder, path),
        None => nearest_settings(&project, &project.folder),
    };
    let name = project.shown(&path);
    let before = settings::source_of(&path)?;
    let packs = Packs::of(&project, None, &[]).map_err(|error| shown(&project, error))?;
    let after = match settings::set(&path, &before, &arguments.key, &arguments.value, packs.rules()) {
        Ok(after) => after,
        Err(EditError::Wrong(error)) => return Err(shown(&project, error).into()),
        Err(error) => return usage(error.to_string()),
    };
    if after == before && !before.is_empty() {
        screen.line(format!("{} has it so already", safe(&name)))?;
        return Ok(Status::Clean);
    }
    files::write(&path, after.as_bytes())?;
    let made = if before.is_empty() { " (made)" } else { "" };
    screen.line(format!("{}{made}", styled(STRONG, &safe(&name))))?;
    let old: Vec<&str> = before.lines().collect();
    for (index, line) in after.lines().enumerate().filter(|(_, line)| !old.contains(line) && !line.is_empty()) {
        screen.line(format!("{}  {}", styled(FAINT, &format!("{:>7}", index + 1)), styled(TYPED, &safe(line))))?;
    }
    Ok(Status::Clean)
}

/// Shows what the names and defaults of this release would change on this code base, and changes it if asked to.
pub fn upgrade(arguments: &UpgradeArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let project = here()?;
    let upgrade = Upgrade::look(&project)?;
    if upgrade.behind.is_empty() && upgrade.names.files.is_empty() {
        screen.line(format!("Nothing to upgrade: settings and names are those of {CURRENT}."))?;
        return Ok(Status::Clean);
    }
    upgrade.show(screen)?;
    if !arguments.write {
        screen.gap()?;
        screen
            .line(format!("Nothing is changed yet; {} does it.", styled(TYPED, "hsieve settings upgrade --write")))?;
        return Ok(Status::Clean);
    }
    let files = upgrade.files()?;
    let run = FixingRun::begin(&project, true)?;
    let written = run.write_all(&files)?;
    screen.gap()?;
    for file in &written.files {
        screen.line(format!("changed  {}", styled(STRONG, &safe(&file.shown))))?;
    }
    screen.finish()?;
    for error in written.errors.iter().chain(&written.not_undoable) {
        complain(error);
    }
    Ok(if written.errors.is_empty() { Status::Clean } else { Status::Failed })
}

/// What an upgrade comes to.
struct Upgrade<'u> {
    project: &'u Project,
    rules: Arc<RuleSet>,
    /// Settings files that name an earlier release.
    behind: Vec<(PathBuf, String)>,
    /// Rules whose level would be another, with both levels and what they would find.
    levels: Vec<(RuleId, Level, Level, usize)>,
    /// Old names, fixed.
    names: FixOutcome,
}

impl<'u> Upgrade<'u> {
    fn look(project: &'u Project) -> anyhow::Result<Upgrade<'u>> {
        let now = SettingsTree::new(&project, None, Overrides::default())?;
        let then = Overrides { defaults: Some(CURRENT), ..Overrides::default() };
        let then = SettingsTree::new(&project, None, then)?;
        let only = catalogue::named("renamed-rule").into_iter().collect();
        let names = SettingsTree::new(&project, None, Overrides { only, ..Overrides::default() })?;
        let wrong = |error| shown(project, error);
        let outcome = sifted(project, &then).map_err(wrong)?;
        let baseline = sieve_engine::baseline::Baseline::find(project)?;
        let mut request = request(project, &names);
        request.baseline = baseline.as_ref();
        let fixed_names = fix::plan(&request).map_err(wrong)?;
        let (before, after) =
            (now.for_folder(&project.root).map_err(wrong)?, then.for_folder(&project.root).map_err(wrong)?);
        let rules = Arc::clone(now.rule_set());
        let levels = rules
            .iter()
            .map(|(id, _)| (id, before.level(id), after.level(id)))
            .filter(|(_, before, after)| before != after)
            .map(|(id, before, after)| (id, before, after, count(&outcome, id)))
            .collect();
        let behind = then.behind().into_iter().map(|(path, release)| (path, release.to_string())).collect();
        Ok(Upgrade { project, rules, behind, levels, names: fixed_names })
    }

    fn show(&self, screen: &mut Screen) -> anyhow::Result<()> {
        for (path, release) in &self.behind {
            let name = safe(&self.project.shown(path));
            screen.line(format!("{}  defaults of {release} → {CURRENT}", styled(STRONG, &name)))?;
        }
        if !self.levels.is_empty() {
            screen.gap()?;
            screen.line(styled(STRONG, "rules whose level changes, and what they find here"))?;
            let names = self.levels.iter().map(|(id, ..)| width(self.rules.name(*id))).max().unwrap_or(0);
            for (id, before, after, found) in &self.levels {
                let after = styled(level_style(*after), &format!("{:<7}", after.word()));
                screen.line(format!(
                    "  {:<names$}  {:>7} → {after}  {:>6}",
                    self.rules.name(*id),
                    before.word(),
                    grouped(*found)
                ))?;
            }
        }
        if !self.names.files.is_empty() {
            screen.gap()?;
            screen.line(styled(STRONG, "rules called by old names"))?;
            let names = self.names.files.iter().map(|file| width(&file.shown)).max().unwrap_or(0);
            for file in &self.names.files {
                let uses: usize = file.fixed.applied.values().sum();
                screen.line(format!("  {:<names$}  {}", safe(&file.shown), counted(uses, "place", "places")))?;
            }
        }
        Ok(())
    }

    /// All files with the changes in them.
    fn files(self) -> anyhow::Result<Vec<FixedFile>> {
        let mut files = self.names.files;
        for (path, _) in &self.behind {
            match files.iter_mut().find(|file| file.path == *path) {
                Some(file) => file.after = settings::with_current_defaults(path, &file.after, &self.rules)?,
                None => {
                    let before = sieve_engine::files::read(path)?;
                    let after = settings::with_current_defaults(path, &before, &self.rules)?;
                    let shown = self.project.shown(path).into();
                    files.push(FixedFile {
                        path: path.clone(),
                        shown,
                        before,
                        after,
                        fixed: FixedText::default(),
                        moved_to: None,
                    });
                }
            }
        }
        Ok(files)
    }
}

fn count(outcome: &Outcome, rule: RuleId) -> usize {
    outcome.caught().filter(|finding| finding.rule == rule).count()
}

fn request<'r>(project: &'r Project, settings: &'r SettingsTree) -> Request<'r> {
    Request {
        project,
        settings,
        paths: std::slice::from_ref(&project.root),
        baseline: None,
        only_changes: None,
        wants: Wants::default(),
        shared: None,
        cache: true,
        today: sieve_engine::today(),
        threads: None,
        progress: &Unwatched,
    }
}

fn sifted(project: &Project, settings: &SettingsTree) -> Result<Outcome, settings::SettingsError> {
    Ok(sift(&request(project, settings))?.outcome)
}
