//! From options to a run of the engine.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use anyhow::Context;
use sieve_engine::baseline::Baseline;
use sieve_engine::files::{self, Overlay, OverwriteError};
use sieve_engine::git::{Changes, Git, GitError, Since, Snapshot};
use sieve_engine::project::{Project, absolute};
use sieve_engine::run::{Request, Sifted, Wants, sift};
use sieve_engine::settings::{self, Budget, Overrides, PackSource, Packs, SettingsTree, nearest};
use sieve_engine::{Access, Date, SharedCache};
use sieve_rules::catalogue::history::is_only_by_name;
use sieve_rules::{Level, Mesh, RuleId, RuleSet};

use crate::arguments::{Common, Counting};
use crate::progress::Bar;
use crate::screen::{FAINT, complain_styled, counted, grouped, safe, styled};
use crate::status::usage;

/// Everything that a run needs, put together from the options.
pub struct Setup {
    /// The folders that paths start from.
    pub project: Project,
    /// The settings.
    pub settings: SettingsTree,
    /// The baseline, if there is one and it counts.
    pub baseline: Option<Baseline>,
    /// What changed, if only that counts.
    pub changes: Option<Changes>,
    /// What to sift.
    pub paths: Vec<PathBuf>,
    /// The day.
    pub today: Date,
    /// What the options say on top of the settings.
    pub overrides: Overrides,
    /// The cache that machines share, if there is one.
    pub shared: Option<SharedCache>,
    threads: Option<usize>,
    quiet: bool,
    cache: bool,
}

impl Setup {
    /// Reads options, settings and the baseline.
    pub fn new(common: &Common) -> anyhow::Result<Setup> {
        Setup::with_changes(common, None, true)
    }

    /// The same where only some findings count.
    pub fn counting(common: &Common, counting: &Counting, staged: bool) -> anyhow::Result<Setup> {
        let since = match &counting.changed {
            Some(Some(revision)) => Some(Since::Revision(revision.clone())),
            Some(None) => Some(Since::LastCommit),
            None => staged.then_some(Since::Staged),
        };
        Setup::with_changes(common, since, !counting.no_baseline)
    }

    /// The same as if a file had other content.
    pub fn with_file(common: &Common, path: PathBuf, content: Vec<u8>) -> anyhow::Result<Setup> {
        let project = project_of(&common.paths)?;
        let mut files = Overlay::over(Arc::clone(&project.files));
        files.set(path, content);
        Setup::of(common, project.with_files(Arc::new(files)), None, true)
    }

    /// The same where only some changes count.
    pub fn since(common: &Common, since: Since) -> anyhow::Result<Setup> {
        Setup::with_changes(common, Some(since), true)
    }

    fn with_changes(common: &Common, since: Option<Since>, has_baseline: bool) -> anyhow::Result<Setup> {
        let (project, changes) = match since {
            None => (project_of(&common.paths)?, None),
            Some(since) => {
                let (project, changes) = changed(since)?;
                (project, Some(changes))
            }
        };
        Setup::of(common, project, changes, has_baseline)
    }

    fn of(common: &Common, project: Project, changes: Option<Changes>, has_baseline: bool) -> anyhow::Result<Setup> {
        let fixed = common.settings.as_ref().map(|path| absolute(&project.folder, path));
        let packs = Packs::of(&project, fixed.as_deref(), &packs_of(common)).map_err(|error| shown(&project, error))?;
        if !common.quiet {
            tell_digests(&packs);
        }
        let overrides = overrides(common, packs.rules())?;
        let settings = SettingsTree::with_packs(&project, fixed.as_deref(), Arc::new(packs), overrides.clone())
            .map_err(|error| shown(&project, error))?;
        let baseline = if has_baseline { Baseline::find(&project)? } else { None };
        // Wrong settings at the root are reported where they count.
        let root = settings.for_folder(&project.root).ok().filter(|_| !common.no_cache);
        let address = root.as_ref().and_then(|root| root.shared.value.as_deref());
        let shared = address.map(|address| SharedCache::new(address, access(common)));
        Ok(Setup {
            shared,
            project,
            settings,
            baseline,
            changes,
            paths: common.paths.clone(),
            today: sieve_engine::today(),
            overrides,
            threads: common.threads.map(usize::from),
            quiet: common.quiet,
            cache: !common.no_cache,
        })
    }

    /// Sifts one file alone, which has other content than on the disk.
    pub fn sift_only(&mut self, path: PathBuf, content: Vec<u8>) {
        let mut files = Overlay::over(Arc::clone(&self.project.files));
        files.set(path.clone(), content);
        self.project = self.project.clone().with_files(Arc::new(files));
        self.paths = vec![path];
    }

    /// The engine's request, with a bar to watch.
    pub fn with_request<T>(&self, wants: Wants, work: impl FnOnce(&Request<'_>) -> T) -> T {
        let bar = Bar::new(self.quiet);
        let request = Request {
            project: &self.project,
            settings: &self.settings,
            paths: &self.paths,
            baseline: self.baseline.as_ref(),
            only_changes: self.changes.as_ref(),
            cache: self.cache,
            shared: self.shared.as_ref(),
            wants,
            today: self.today,
            threads: self.threads,
            progress: &bar,
        };
        let result = work(&request);
        bar.clear();
        result
    }

    /// Writes output to a file; none of those that were sifted.
    pub fn write_output(&self, path: &Path, bytes: &[u8], sifted: &[Arc<str>]) -> anyhow::Result<()> {
        let sifted: Vec<PathBuf> = sifted.iter().map(|shown| self.project.path_of(shown)).collect();
        match files::overwrite(path, bytes, &sifted) {
            Ok(()) => Ok(()),
            Err(error @ OverwriteError::IsSource(_)) => usage(error.to_string()),
            Err(OverwriteError::File(error)) => Err(error.into()),
        }
    }

    /// Sifts.
    pub fn sift(&self, wants: Wants) -> anyhow::Result<Sifted> {
        Ok(self.with_request(wants, sift).map_err(|error| shown(&self.project, error))?)
    }
}

/// What changed, by git, and the code base as it is then: for what is staged or pushed, all of it is read from there.
fn changed(since: Since) -> anyhow::Result<(Project, Changes)> {
    let project = here()?;
    let asked =
        Git::around(&project.folder).and_then(|git| Ok((Snapshot::of(&git, &since)?, Changes::find(&git, since)?)));
    match asked {
        Ok((None, changes)) => Ok((project, changes)),
        Ok((Some(snapshot), changes)) => Ok((project.with_files(Arc::new(snapshot)), changes)),
        Err(error @ (GitError::NotThere(_) | GitError::Failed(..))) => Err(error.into()),
        Err(error) => usage(error.to_string()),
    }
}

/// The project around the working folder.
pub fn here() -> anyhow::Result<Project> {
    project_of(&[])
}

/// The project around some paths.
pub fn project_of(paths: &[PathBuf]) -> anyhow::Result<Project> {
    let folder = std::env::current_dir().context("the working folder cannot be read")?;
    Ok(Project::with_paths(&folder, paths))
}

/// The nearest settings file from a folder upwards; where there is none, one at the root.
pub fn nearest_settings(project: &Project, folder: &Path) -> PathBuf {
    let above = folder.ancestors().take_while(|folder| folder.starts_with(&project.root));
    let found = above.map(|folder| folder.join(settings::FILE_NAME)).find(|path| project.files.is_file(path));
    found.unwrap_or_else(|| project.root.join(settings::FILE_NAME))
}

/// The error with its path as it is shown elsewhere.
pub fn shown(
    project: &Project,
    mut error: sieve_engine::settings::SettingsError,
) -> sieve_engine::settings::SettingsError {
    // The address of a pack is no path.
    if !error.path.to_string_lossy().contains("://") {
        error.path = PathBuf::from(project.shown(Path::new(&error.path)));
    }
    error
}

/// Says that a budget allows less than there would be.
pub fn overdrawn(project: &Project, (budget, used): (&Budget, u64)) -> String {
    let at = format!("{}:{}", project.shown(&budget.source.path), budget.source.line);
    let most = counted(budget.most as usize, "entry", "entries");
    format!("nothing was recorded: {at} allows {most}, and there would be {}", grouped(used as usize))
}

/// How the environment allows the shared cache to be used.
fn access(common: &Common) -> Access {
    let variable = |name: &str| std::env::var(name).ok().filter(|value| !value.is_empty());
    Access {
        token: variable("HSIEVE_CACHE_TOKEN"),
        key: variable("HSIEVE_CACHE_KEY").unwrap_or_default(),
        write: common.cache_write || variable("HSIEVE_CACHE_WRITE").is_some_and(|value| value == "1"),
    }
}

/// The packs that the command line names.
fn packs_of(common: &Common) -> Vec<PackSource> {
    common.pack.iter().map(|word| PackSource::written(word)).collect()
}

/// Says of packs that are not pinned what they would be pinned with.
fn tell_digests(packs: &Packs) {
    for pack in packs.list() {
        if let PackSource::Address { address, sha256: None } = &pack.source {
            let (name, address) = (safe(&pack.name), safe(address));
            complain_styled(&styled(FAINT, &format!("the pack {name} from {address} has the sha-256 {}", pack.sha256)));
        }
    }
}

fn overrides(common: &Common, rules: &RuleSet) -> anyhow::Result<Overrides> {
    Ok(Overrides {
        mesh: common.choice.mesh.as_deref().map(|word| word_of("--mesh", word, Mesh::ALL, Mesh::word)).transpose()?,
        only: asked_for("--only", &common.choice.only, rules)?,
        without: rules_named("--without", &common.choice.without, rules)?,
        defaults: None,
    })
}

/// A level given by an option.
pub fn level(option: &str, word: &str) -> anyhow::Result<Level> {
    word_of(option, word, Level::ALL, Level::word)
}

/// The value of a scale that an option names.
pub fn word_of<T: Copy>(option: &str, word: &str, all: &[T], text: fn(T) -> &'static str) -> anyhow::Result<T> {
    match all.iter().copied().find(|value| text(*value) == word) {
        Some(value) => Ok(value),
        None => {
            let hint = nearest(word, all.iter().map(|value| text(*value)));
            usage(format!("{option} cannot be \"{word}\"{hint}"))
        }
    }
}

/// The rules that are to run. A concern does not ask for those that only their own names switch on.
fn asked_for(option: &str, words: &[String], rules: &RuleSet) -> anyhow::Result<Vec<RuleId>> {
    let named = rules_named(option, words, rules)?;
    let by_own_name = |rule: &RuleId| {
        let name = rules.name(*rule);
        !is_only_by_name(name) || words.iter().any(|word| word.trim() == name)
    };
    Ok(named.into_iter().filter(by_own_name).collect())
}

/// Tells of a rule's name whether the options leave the rule in.
pub fn left_in<'r>(common: &Common, rules: &'r RuleSet) -> impl Fn(&str) -> bool + use<'r> {
    let named = |words: &[String]| -> BTreeSet<&'r str> {
        let ids = words.iter().flat_map(|word| settings::rules_named(rules, word.trim()));
        ids.map(|id| rules.name(id)).collect()
    };
    let (only, without, all) =
        (named(&common.choice.only), named(&common.choice.without), common.choice.only.is_empty());
    move |rule| (all || only.contains(rule)) && !without.contains(rule)
}

/// The rules that a list of rules and concerns names.
fn rules_named(option: &str, words: &[String], rules: &RuleSet) -> anyhow::Result<Vec<RuleId>> {
    let mut named = Vec::new();
    for word in words.iter().map(|word| word.trim()).filter(|word| !word.is_empty()) {
        if !settings::is_known(rules, word) {
            return unknown_rule(&format!("{option}: "), word, rules);
        }
        named.extend(settings::rules_named(rules, word));
    }
    if named.is_empty() && !words.is_empty() {
        return usage(format!("{option}: no rule there is belongs to {}", words.join(", ")));
    }
    Ok(named)
}

/// The complaint about a name that no rule or concern has.
pub fn unknown_rule<T>(before: &str, word: &str, rules: &RuleSet) -> anyhow::Result<T> {
    usage(format!("{before}{} (`hsieve rules` lists them)", settings::unknown(rules, word)))
}
