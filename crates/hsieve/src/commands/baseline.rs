//! `hsieve baseline`

use std::collections::{BTreeMap, BTreeSet};

use sieve_engine::baseline::{Attributes, Baseline, Entry, FILE_NAME, UNION};
use sieve_engine::git::{Git, TrendPoint, line_counts};
use sieve_engine::outcome::Outcome;
use sieve_engine::owners::Owners;
use sieve_engine::run::{Sifted, Wants};
use sieve_engine::settings;

use crate::arguments::{BaselineArguments, BaselineCommand, StatusArguments, TakeArguments, TrimArguments};
use crate::ask;
use crate::run::{Setup, overdrawn, shown};
use crate::screen::{FAINT, STRONG, Screen, complain, counted, grouped, safe, styled};
use crate::status::{Status, usage};

/// Columns of the longest bar.
const BAR: usize = 30;

/// Takes, shows or trims the baseline.
pub fn run(arguments: &BaselineArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    match &arguments.command {
        BaselineCommand::Take(arguments) => take(arguments, screen),
        BaselineCommand::Status(arguments) => status(arguments, screen),
        BaselineCommand::Trim(arguments) => trim(arguments, screen),
    }
}

fn take(arguments: &TakeArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let setup = Setup::new(&arguments.common)?;
    let Sifted { outcome, .. } = setup.sift(Wants::IDENTITIES)?;
    let new = outcome.caught().count();
    if setup.baseline.is_some() && new > 0 && !arguments.add_new {
        return usage(format!(
            "there is a baseline already, and {} not in it; --add-new adds them, `hsieve baseline trim` drops what is gone",
            if new == 1 { "1 finding is".to_string() } else { format!("{} findings are", grouped(new)) }
        ));
    }
    let known = setup.baseline.as_ref().map_or(0, |baseline| baseline.entries.len());
    let path = Baseline::path_in(&setup.project);
    let mut baseline = setup.baseline.clone().unwrap_or_else(|| Baseline::empty(path));
    let added = baseline.add(&setup.project, outcome.caught(), &outcome.rules, setup.today);
    keep_to_budgets(&setup, &baseline)?;
    baseline.write()?;
    let shown = setup.project.shown(&baseline.path);
    let before = if known == 0 { String::new() } else { format!(", {} were there before", grouped(known)) };
    screen.line(format!(
        "{} in {}{before}",
        styled(STRONG, &format!("Recorded {}", counted(added, "finding", "findings"))),
        shown
    ))?;
    screen.line(styled(
        FAINT,
        "They no longer fail a run. Commit the file; `hsieve baseline status` shows what is left to pay.",
    ))?;
    offer_union(&setup, &baseline, screen)?;
    failed(&outcome.errors)
}

/// Where somebody can answer, offers to have branches merge their baselines; else says how.
fn offer_union(setup: &Setup, baseline: &Baseline, screen: &mut Screen) -> anyhow::Result<()> {
    let Some(attributes) = Attributes::lacking(&baseline.path) else { return Ok(()) };
    if !ask::can_ask() {
        let hint = format!("The line `{UNION}` in .gitattributes lets git keep the entries of both sides of a merge.");
        return screen.line(styled(FAINT, &hint));
    }
    if ask::agree(Attributes::QUESTION, screen)? {
        attributes.write()?;
        screen.line(format!("wrote {}", setup.project.shown(&attributes.path)))?;
    }
    Ok(())
}

/// Refuses a baseline that would hold more than a budget allows.
fn keep_to_budgets(setup: &Setup, baseline: &Baseline) -> anyhow::Result<()> {
    let settings = setup.settings.for_folder(baseline.folder()).map_err(|error| shown(&setup.project, error))?;
    match baseline.overdrawn(&settings.budgets, setup.settings.rule_set()) {
        Some(over) => usage(overdrawn(&setup.project, over)),
        None => Ok(()),
    }
}

fn failed(errors: &[sieve_engine::files::FileError]) -> anyhow::Result<Status> {
    for error in errors {
        complain(error);
    }
    Ok(if errors.is_empty() { Status::Clean } else { Status::Failed })
}

fn no_baseline<T>(setup: &Setup) -> anyhow::Result<T> {
    let path = setup.project.shown(&Baseline::path_in(&setup.project));
    usage(format!("there is no baseline ({path}); `hsieve baseline take` records one"))
}

fn status(arguments: &StatusArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let setup = Setup::new(&arguments.common)?;
    let Some(baseline) = &setup.baseline else { return no_baseline(&setup) };
    let sifted = setup.sift(Wants::IDENTITIES)?;
    let gone = sifted.gone.len();
    let entries = &baseline.entries;
    let headline = format!("{} in {FILE_NAME}", counted(entries.len(), "entry", "entries"));
    screen.line(format!(
        "{}, {} still there, {} gone",
        styled(STRONG, &headline),
        grouped(entries.len() - gone),
        grouped(gone)
    ))?;
    let all_gone: BTreeSet<&Entry> = sifted.gone.iter().collect();
    let left: Vec<&Entry> = entries.iter().filter(|entry| !all_gone.contains(entry)).collect();
    table("rule", &left, |entry| entry.rule.clone(), true, screen)?;
    table("folder", &left, |entry| folder_of(&entry.path), true, screen)?;
    if let Some(owners) = Owners::find(&setup.project.root) {
        let owner = |entry: &Entry| {
            let path = baseline.folder().join(&entry.path);
            owners.of_path(&path).unwrap_or("nobody").to_string()
        };
        table("owner", &left, owner, true, screen)?;
    }
    table("recorded in", &left, |entry| entry.since.strftime("%Y-%m").to_string(), false, screen)?;
    budgets(&sifted.outcome, screen)?;
    burn_down(&setup, baseline, screen)?;
    if gone > 0 {
        screen.gap()?;
        screen.line(styled(FAINT, "`hsieve baseline trim` drops the entries that are gone."))?;
    }
    failed(&sifted.outcome.errors)
}

/// How much of each budget is used.
fn budgets(outcome: &Outcome, screen: &mut Screen) -> anyhow::Result<()> {
    for (index, budget) in outcome.budgets.iter().enumerate() {
        if index == 0 {
            screen.gap()?;
            screen.line(styled(STRONG, "budget"))?;
        }
        let used = budget.used as usize;
        let over = if budget.used > budget.most { "  overdrawn" } else { "" };
        let of = format!("{:>6} of {}", grouped(used), grouped(budget.most as usize));
        let paths = styled(FAINT, &safe(&budget.paths));
        screen.line(format!("  {}  {of}  {paths}{}", safe(&budget.at), styled(STRONG, over)))?;
    }
    Ok(())
}

/// The most days of the history that are shown.
const DAYS: usize = 12;

/// How the number of entries went, by the history of the file: the first and the last day, and days evenly between.
fn burn_down(setup: &Setup, baseline: &Baseline, screen: &mut Screen) -> anyhow::Result<()> {
    // Outside a repository, or with a file that was never committed, there is no history to show.
    let points =
        Git::around(&setup.project.folder).and_then(|git| line_counts(&git, &baseline.path)).unwrap_or_default();
    if points.len() < 2 {
        return Ok(());
    }
    // The first line of the file tells its form.
    let entries = |point: &TrendPoint| point.lines.saturating_sub(1);
    let rows = points.len().min(DAYS);
    let shown = (0..rows).map(|row| &points[row * (points.len() - 1) / (rows - 1)]);
    bars("burn-down", &shown.map(|point| (point.day.to_string(), entries(point))).collect::<Vec<_>>(), screen)
}

fn folder_of(path: &str) -> String {
    path.rsplit_once('/').map_or(".".to_string(), |(folder, _)| folder.to_string())
}

/// Numbers by a key, with bars; the largest first, or in the order of the keys.
fn table(
    title: &str,
    entries: &[&Entry],
    key: impl Fn(&Entry) -> String,
    largest_first: bool,
    screen: &mut Screen,
) -> anyhow::Result<()> {
    let mut counts: BTreeMap<String, usize> = BTreeMap::new();
    for entry in entries {
        *counts.entry(key(entry)).or_insert(0) += 1;
    }
    let mut rows: Vec<(String, usize)> = counts.into_iter().collect();
    if largest_first {
        rows.sort_by(|one, other| (other.1, &one.0).cmp(&(one.1, &other.0)));
    }
    bars(title, &rows, screen)
}

/// Names with numbers, each with a bar.
fn bars(title: &str, rows: &[(String, usize)], screen: &mut Screen) -> anyhow::Result<()> {
    let most = rows.iter().map(|(_, count)| *count).max().unwrap_or(1).max(1);
    let names = rows.iter().map(|(name, _)| name.chars().count()).max().unwrap_or(0);
    screen.gap()?;
    screen.line(styled(STRONG, title))?;
    for (name, count) in rows {
        let bar = "▪".repeat((count * BAR).div_ceil(most));
        screen.line(format!("  {:<names$}  {:>6}  {}", safe(name), grouped(*count), styled(FAINT, &bar)))?;
    }
    Ok(())
}

fn trim(arguments: &TrimArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let setup = Setup::new(&arguments.common)?;
    let Some(baseline) = &setup.baseline else { return no_baseline(&setup) };
    let sifted = setup.sift(Wants::IDENTITIES)?;
    let mut trimmed = baseline.clone();
    let (dropped, followed) = trimmed.trim(&sifted.gone, &sifted.moved);
    if dropped + followed > 0 {
        trimmed.write()?;
    }
    let lowered = lower_budgets(&setup, &sifted.outcome)?;
    let left = counted(trimmed.entries.len(), "entry", "entries");
    screen.line(format!("{}, {left} left", styled(STRONG, &format!("Dropped {}", grouped(dropped)))))?;
    if followed > 0 {
        screen.line(format!("{} what was moved or renamed", counted(followed, "entry follows", "entries follow")))?;
    }
    if lowered > 0 {
        screen.line(format!("Lowered {}", counted(lowered, "budget", "budgets")))?;
    }
    failed(&sifted.outcome.errors)
}

/// Where the baseline is strict, budgets follow what is used; says how many did.
fn lower_budgets(setup: &Setup, outcome: &Outcome) -> anyhow::Result<usize> {
    if !outcome.strict {
        return Ok(0);
    }
    let path = Baseline::path_in(&setup.project);
    let settings =
        setup.settings.for_folder(path.parent().unwrap_or(&path)).map_err(|error| shown(&setup.project, error))?;
    let used: Vec<u64> = outcome.budgets.iter().map(|budget| budget.used).collect();
    Ok(settings::lower_budgets(&settings, &used)?)
}
