//! `hsieve baseline`

use std::collections::BTreeMap;

use sieve_engine::baseline::{Baseline, Entry, FILE_NAME};
use sieve_engine::sift::{Sifted, Wants};

use crate::arguments::{BaselineArguments, BaselineCommand, StatusArguments, TakeArguments, TrimArguments};
use crate::run::Setup;
use crate::screen::{FAINT, STRONG, Screen, counted, grouped, safe, styled};
use crate::status::{Status, usage};

/// Columns of the longest bar.
const BAR: usize = 30;

const WANTS: Wants = Wants { excerpts: false, identities: true };

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
    if arguments.common.no_baseline {
        return usage("`baseline take` and --no-baseline contradict each other");
    }
    let Sifted { outcome, .. } = setup.sift(WANTS)?;
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
    let added = baseline.add(&setup.project, outcome.caught(), setup.today);
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
    failed(&outcome.errors)
}

fn failed(errors: &[sieve_engine::files::FileError]) -> anyhow::Result<Status> {
    for error in errors {
        eprintln!("hsieve: {error}");
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
    let sifted = setup.sift(WANTS)?;
    let gone = sifted.gone.len();
    let entries = &baseline.entries;
    let headline = format!("{} in {FILE_NAME}", counted(entries.len(), "entry", "entries"));
    screen.line(format!(
        "{}, {} still there, {} gone",
        styled(STRONG, &headline),
        grouped(entries.len() - gone),
        grouped(gone)
    ))?;
    let left: Vec<&Entry> = entries.iter().filter(|entry| !sifted.gone.contains(entry)).collect();
    table("rule", &left, |entry| entry.rule.clone(), true, screen)?;
    table("folder", &left, |entry| folder_of(&entry.path), true, screen)?;
    table("recorded in", &left, |entry| entry.since.strftime("%Y-%m").to_string(), false, screen)?;
    if gone > 0 {
        screen.gap()?;
        screen.line(styled(FAINT, "`hsieve baseline trim` drops the entries that are gone."))?;
    }
    failed(&sifted.outcome.errors)
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
    let most = rows.iter().map(|(_, count)| *count).max().unwrap_or(1);
    let names = rows.iter().map(|(name, _)| name.chars().count()).max().unwrap_or(0);
    screen.gap()?;
    screen.line(styled(STRONG, title))?;
    for (name, count) in rows {
        let bar = "▪".repeat((count * BAR).div_ceil(most));
        screen.line(format!("  {:<names$}  {:>6}  {}", safe(&name), grouped(count), styled(FAINT, &bar)))?;
    }
    Ok(())
}

fn trim(arguments: &TrimArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let setup = Setup::new(&arguments.common)?;
    let Some(baseline) = &setup.baseline else { return no_baseline(&setup) };
    let sifted = setup.sift(WANTS)?;
    if !sifted.outcome.errors.is_empty() {
        // What could not be read may still hold findings: nothing is dropped.
        return failed(&sifted.outcome.errors);
    }
    let mut trimmed = baseline.clone();
    let dropped = trimmed.drop_entries(&sifted.gone);
    if dropped > 0 {
        trimmed.write()?;
    }
    let left = counted(trimmed.entries.len(), "entry", "entries");
    screen.line(format!("{}, {left} left", styled(STRONG, &format!("Dropped {}", grouped(dropped)))))?;
    Ok(Status::Clean)
}
