//! What can be done about findings, as changes of files that nobody has made yet.

use std::collections::BTreeMap;
use std::path::PathBuf;

use sieve_engine::baseline::Baseline;
use sieve_engine::discover::language_of_name;
use sieve_engine::files::{self, Change};
use sieve_engine::outcome::Finding;
use sieve_engine::project::relative;
use sieve_engine::settings::{self, pattern_of};
use sieve_engine::{Date, NewWaiver, Workspace, waive};
use sieve_rules::{Level, RuleId};
use sieve_syntax::text::Text;

use super::item::Way;
use crate::run::{nearest_settings, overdrawn, shown};

/// What is to be done.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Act {
    /// Apply the fixes.
    Fix,
    /// Write waivers with a reason, and perhaps a last day.
    Waive(String, Option<Date>),
    /// Record them in the baseline.
    Record,
    /// Give their rule another level somewhere, perhaps with a reason.
    Level(Level, Somewhere, Option<String>),
    /// Pass over them.
    Skip,
}

/// Where a level is to hold.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Somewhere {
    /// In the file.
    File,
    /// In its folder and below.
    Folder,
    /// In the whole code base.
    Everywhere,
}

impl Act {
    /// What the findings are then.
    pub fn way(&self) -> Way {
        match self {
            Act::Fix => Way::Fixed,
            Act::Waive(..) => Way::Waived,
            Act::Record => Way::Recorded,
            Act::Level(..) => Way::Level,
            Act::Skip => Way::Skipped,
        }
    }
}

/// Changes that an action comes to, and what it cannot do.
#[derive(Debug, Default)]
pub struct Planned {
    /// The changes.
    pub changes: Vec<Change>,
    /// What was left out, in words.
    pub left_out: Vec<String>,
}

/// Works out an action for findings of one rule.
pub fn plan(workspace: &mut Workspace, act: &Act, findings: &[Finding]) -> anyhow::Result<Planned> {
    let Some(first) = findings.first() else { return Ok(Planned::default()) };
    let mut by_path: BTreeMap<PathBuf, Vec<&Finding>> = BTreeMap::new();
    for finding in findings {
        by_path.entry(workspace.project().path_of(&finding.path)).or_default().push(finding);
    }
    match act {
        Act::Fix => fixes(workspace, first.rule, &by_path),
        Act::Waive(because, until) => {
            let rule = workspace.settings()?.rule_set().name(first.rule).to_string();
            waivers(workspace, &NewWaiver { names: &[rule], because, until: *until }, &by_path)
        }
        Act::Record => record(workspace, findings),
        Act::Level(level, place, because) => {
            level_changes(workspace, first.rule, (*level, *place, because.as_deref()), &by_path)
        }
        Act::Skip => Ok(Planned::default()),
    }
}

fn fixes(
    workspace: &mut Workspace,
    rule: RuleId,
    by_path: &BTreeMap<PathBuf, Vec<&Finding>>,
) -> anyhow::Result<Planned> {
    let mut planned = Planned::default();
    for (path, findings) in by_path {
        let fixable = findings.iter().filter(|finding| finding.fix.is_some());
        let starts: Vec<u32> = fixable.map(|finding| finding.span.start).collect();
        if starts.is_empty() {
            continue;
        }
        let Some(fixed) = workspace.fixed_at(path, rule, &starts)? else { continue };
        let fixed = fixed?;
        let rules = workspace.settings()?;
        let blamed =
            fixed.fixed.blamed.iter().map(|blame| format!("{}: {}", fixed.shown, blame.describe(rules.rule_set())));
        planned.left_out.extend(blamed);
        if fixed.before != fixed.after {
            planned.changes.push(Change { path: fixed.path, before: Some(fixed.before), after: Some(fixed.after) });
        }
    }
    Ok(planned)
}

fn waivers(
    workspace: &mut Workspace,
    new: &NewWaiver<'_>,
    by_path: &BTreeMap<PathBuf, Vec<&Finding>>,
) -> anyhow::Result<Planned> {
    let settings = workspace.settings()?;
    let project = workspace.project();
    let mut planned = Planned::default();
    for (path, findings) in by_path {
        let before = files::read(path)?;
        let name = project.shown(path);
        let effective = settings.for_file(path).map_err(|error| shown(project, error))?;
        let text = language_of_name(&name, &before, &effective)
            .and_then(|language| Some((language, language.decode(before.clone()).ok()?)));
        let Some((language, mut text)) = text else {
            planned.left_out.push(format!("{name}: no waiver can be written in this file"));
            continue;
        };
        let mut lines: Vec<u32> = findings.iter().map(|finding| finding.start.line).collect();
        lines.sort_unstable();
        lines.dedup();
        // From the last one upwards: a waiver moves only what is below it.
        for line in lines.into_iter().rev() {
            match waive(language, &text, line, new) {
                Ok((source, _)) => text = Text::with_encoding(source, text.encoding()),
                Err(error) => planned.left_out.push(format!("{name}:{line}: {error}")),
            }
        }
        match text.encode() {
            Some(after) if after != before => {
                planned.changes.push(Change { path: path.clone(), before: Some(before), after: Some(after) });
            }
            Some(_) => {}
            None => {
                let encoding = text.encoding().name();
                planned.left_out.push(format!("{name}: the reason has no form in its encoding, {encoding}"));
            }
        }
    }
    Ok(planned)
}

fn record(workspace: &mut Workspace, findings: &[Finding]) -> anyhow::Result<Planned> {
    let settings = workspace.settings()?;
    let project = workspace.project();
    let known = Baseline::find(project)?;
    let before = known.as_ref().map(|known| files::read(&known.path)).transpose()?;
    let mut baseline = known.unwrap_or_else(|| Baseline::empty(Baseline::path_in(project)));
    baseline.add(project, findings.iter(), settings.rule_set(), sieve_engine::today());
    let effective = settings.for_folder(baseline.folder()).map_err(|error| shown(project, error))?;
    if let Some(over) = baseline.overdrawn(&effective.budgets, settings.rule_set()) {
        anyhow::bail!(overdrawn(project, over));
    }
    let after = Some(baseline.bytes());
    Ok(Planned { changes: vec![Change { path: baseline.path, before, after }], left_out: Vec::new() })
}

fn level_changes(
    workspace: &mut Workspace,
    rule: RuleId,
    (level, place, because): (Level, Somewhere, Option<&str>),
    by_path: &BTreeMap<PathBuf, Vec<&Finding>>,
) -> anyhow::Result<Planned> {
    let settings = workspace.settings()?;
    let (project, rules) = (workspace.project(), settings.rule_set());
    let name = rules.name(rule);
    let mut sources: BTreeMap<PathBuf, (Option<Vec<u8>>, String)> = BTreeMap::new();
    let mut seen = Vec::new();
    for path in by_path.keys() {
        let folder = path.parent().unwrap_or(path);
        let file = match place {
            Somewhere::Everywhere => project.root.join(settings::FILE_NAME),
            Somewhere::File | Somewhere::Folder => nearest_settings(project, folder),
        };
        let base = file.parent().unwrap_or(folder).to_path_buf();
        let pattern = match place {
            Somewhere::File => relative(&base, path).map(|inner| pattern_of(&inner)),
            Somewhere::Folder if folder != base => {
                relative(&base, folder).map(|inner| format!("{}/**", pattern_of(&inner)))
            }
            Somewhere::Folder | Somewhere::Everywhere => None,
        };
        if seen.contains(&(file.clone(), pattern.clone())) {
            continue;
        }
        seen.push((file.clone(), pattern.clone()));
        let (_, source) = match sources.entry(file.clone()) {
            std::collections::btree_map::Entry::Occupied(known) => known.into_mut(),
            std::collections::btree_map::Entry::Vacant(new) => {
                let before = if project.files.is_file(&file) { Some(files::read(&file)?) } else { None };
                let source = String::from_utf8(before.clone().unwrap_or_default())?;
                new.insert((before, source))
            }
        };
        let changed = match pattern {
            Some(pattern) => settings::set_for(&file, source, &pattern, name, (level, because), rules),
            None => settings::set(&file, source, name, level.word(), rules),
        };
        *source = changed?;
    }
    let changed = |(path, (before, after)): (PathBuf, (Option<Vec<u8>>, String))| {
        let after = Some(after.into_bytes());
        (before != after).then_some(Change { path, before, after })
    };
    Ok(Planned { changes: sources.into_iter().filter_map(changed).collect(), left_out: Vec::new() })
}
