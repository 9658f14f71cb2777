//! The code base while its findings are worked through: what is reported, what was done, and how it is taken back.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use sieve_engine::Workspace;
use sieve_engine::baseline::Baseline;
use sieve_engine::files::{Change, change_all};
use sieve_engine::fix::FixingRun;
use sieve_engine::outcome::{Finding, folder_of};
use sieve_engine::owners::Owners;
use sieve_engine::project::Project;
use sieve_engine::run::{Progress, Unwatched};
use sieve_engine::settings::{Overrides, SettingsTree};
use sieve_rules::{Level, RuleSet};

use super::acts::{self, Act, Somewhere};
use super::item::{State, Way};
use super::items::{Id, Items, Since};
use super::source::Source;
use crate::run::shown;
use crate::screen::{counted, grouped};

/// One action that was taken.
#[derive(Debug)]
pub struct Step {
    /// What was done.
    pub way: Way,
    /// With what, in words.
    pub what: String,
    ids: Vec<Id>,
    /// What had become of the items before.
    before: Vec<State>,
    changes: Vec<Change>,
}

/// What findings are listed.
#[derive(Debug)]
pub struct Chosen {
    /// Those below these paths; all if there are none.
    pub paths: Vec<PathBuf>,
    /// Those of this level and above.
    pub least: Level,
}

/// The code base and its findings.
pub struct Work {
    workspace: Workspace,
    /// The findings.
    pub items: Items,
    /// The rules there are.
    pub rules: Arc<RuleSet>,
    chosen: Chosen,
    owners: Option<Owners>,
    steps: Vec<Step>,
}

impl Work {
    /// Looks for the first time, while somebody watches.
    pub fn begin(workspace: Workspace, chosen: Chosen, progress: &(dyn Progress + Sync)) -> anyhow::Result<Work> {
        let owners = Owners::find(&workspace.project().root);
        let (items, rules) = (Items::default(), Arc::default());
        let mut work = Work { workspace, items, rules, chosen, owners, steps: Vec::new() };
        work.look_watched(&Since::default(), progress)?;
        Ok(work)
    }

    /// The folders.
    pub fn project(&self) -> &Project {
        self.workspace.project()
    }

    /// What was done, in that order.
    pub fn steps(&self) -> &[Step] {
        &self.steps
    }

    /// Takes over what is reported now; how many of the items with which something was done are not reported any more.
    pub fn look(&mut self, since: &Since<'_>) -> anyhow::Result<usize> {
        self.look_watched(since, &Unwatched)
    }

    fn look_watched(&mut self, since: &Since<'_>, progress: &(dyn Progress + Sync)) -> anyhow::Result<usize> {
        self.workspace.set_baseline(Baseline::find(self.workspace.project())?);
        let sifted = self.workspace.outcome_watched(progress);
        let Some(sifted) = sifted.map_err(|error| shown(self.workspace.project(), error))? else { return Ok(0) };
        let outcome = sifted.outcome;
        self.rules = outcome.rules;
        let project = self.workspace.project();
        let is_listed = |finding: &Finding| {
            let below = |path: &PathBuf| project.path_of(&finding.path).starts_with(path);
            finding.level >= self.chosen.least && (self.chosen.paths.is_empty() || self.chosen.paths.iter().any(below))
        };
        let listed = outcome.findings.into_iter().filter(is_listed);
        let (findings, held): (Vec<Finding>, Vec<Finding>) = listed.partition(|finding| finding.held.is_none());
        let owner = |path: &str| Some(self.owners.as_ref()?.of_path(&project.path_of(path))?.to_string());
        Ok(self.items.take(findings, &held, since, &owner))
    }

    /// Does something with findings of one rule. Says what came of it.
    pub fn act(&mut self, act: &Act, ids: &[Id]) -> anyhow::Result<String> {
        let way = act.way();
        let findings: Vec<Finding> = ids.iter().map(|id| self.items.get(*id).finding.clone()).collect();
        let before: Vec<State> = ids.iter().map(|id| self.items.get(*id).state).collect();
        let what = self.words_for(act, &findings);
        if *act == Act::Skip {
            ids.iter().for_each(|id| self.items.set(*id, State::Done(way)));
            self.steps.push(Step { way, what: what.clone(), ids: ids.to_vec(), before, changes: Vec::new() });
            return Ok(format!("skipped {what}"));
        }
        let planned = acts::plan(&mut self.workspace, act, &findings)?;
        let reason = planned.left_out.first().map_or(String::new(), |reason| format!(": {reason}"));
        if planned.changes.is_empty() {
            anyhow::bail!("nothing was changed{reason}");
        }
        self.change(&planned.changes)?;
        let vanished = self.look(&Since { done: Some((way, ids)), reopened: &[] });
        let came = match (&vanished, act) {
            // Wrong settings are not left behind.
            (Err(_), _) => 0,
            (Ok(_), Act::Level(level, ..)) => self.count_at_level(&findings, *level)?,
            (Ok(vanished), _) => *vanished,
        };
        if came == 0 {
            self.take_back(&planned.changes)?;
            self.look(&Since { done: None, reopened: ids })?;
            vanished?;
            let why = if matches!(act, Act::Level(..)) { ": nearer settings say otherwise" } else { &reason };
            anyhow::bail!("nothing came of it, so nothing was changed{why}");
        }
        self.steps.push(Step { way, what: what.clone(), ids: ids.to_vec(), before, changes: planned.changes });
        let of = if came < ids.len() { format!("{} of ", grouped(came)) } else { String::new() };
        Ok(match way {
            Way::Level => format!("level: {what}"),
            _ => format!("{} {of}{what}{reason}", way.word()),
        })
    }

    /// How many of some findings have a level by the settings, whatever the command line says.
    fn count_at_level(&self, findings: &[Finding], level: Level) -> anyhow::Result<usize> {
        let project = self.workspace.project();
        let settings = SettingsTree::new(project, None, Overrides::default())?;
        let mut count = 0;
        for finding in findings {
            let effective = settings.for_file(&project.path_of(&finding.path))?;
            count += usize::from(effective.level(finding.rule) == level);
        }
        Ok(count)
    }

    /// Takes the last action back. Says so, and with which items it was.
    pub fn undo(&mut self) -> anyhow::Result<(String, Vec<Id>)> {
        let Some(step) = self.steps.pop() else { anyhow::bail!("there is nothing to undo") };
        if let Err(error) = self.take_back(&step.changes) {
            self.steps.push(step);
            return Err(error);
        }
        for (id, state) in step.ids.iter().zip(&step.before) {
            self.items.set(*id, *state);
        }
        if !step.changes.is_empty() {
            self.look(&Since { done: None, reopened: &step.ids })?;
        }
        Ok((format!("undone: {} {}", step.way.word(), step.what), step.ids))
    }

    /// Changes files, while no other run does.
    fn change(&mut self, changes: &[Change]) -> anyhow::Result<()> {
        let project = self.workspace.project();
        let run = FixingRun::begin(project, false)?;
        let changed = change_all(changes);
        drop(run);
        changed.map_err(|mut error| {
            error.path = PathBuf::from(project.shown(&error.path));
            error
        })?;
        changes.iter().for_each(|change| self.workspace.forget(&change.path));
        Ok(())
    }

    /// Gives files back what they held before some changes.
    fn take_back(&mut self, changes: &[Change]) -> anyhow::Result<()> {
        let back: Vec<Change> = changes.iter().rev().map(Change::reversed).collect();
        self.change(&back)
    }

    /// The code of a file, read in the language that it has by its settings.
    pub fn source(&mut self, path: &Path) -> Option<Source> {
        let settings = self.workspace.settings().ok()?.for_file(path).ok()?;
        Source::read(path, &self.workspace.project().shown(path), &settings)
    }

    /// A file that somebody else may have changed.
    pub fn forget(&mut self, path: &Path) {
        self.workspace.forget(path);
    }

    /// What is done with which findings, in few words.
    fn words_for(&self, act: &Act, findings: &[Finding]) -> String {
        let Some(first) = findings.first() else { return String::new() };
        let rule = self.rules.name(first.rule);
        if let Act::Level(level, place, _) = act {
            let files = findings.iter().map(|finding| &*finding.path).collect::<BTreeSet<&str>>();
            let others = if files.len() > 1 { " and others" } else { "" };
            return match place {
                Somewhere::File => format!("{rule} {level} in {}{others}", first.path),
                Somewhere::Folder => format!("{rule} {level} below {}/{others}", folder_of(&first.path)),
                Somewhere::Everywhere => format!("{rule} {level} everywhere"),
            };
        }
        let [_] = findings else {
            let in_file = findings.iter().all(|finding| finding.path == first.path);
            let place = if in_file { format!(" in {}", first.path) } else { String::new() };
            return format!("{} of {rule}{place}", counted(findings.len(), "finding", "findings"));
        };
        format!("{}:{}:{}  {rule}", first.path, first.start.line, first.start.column)
    }
}
