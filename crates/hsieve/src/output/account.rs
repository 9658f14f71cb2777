//! The account: the last lines of a run, which hide nothing.

use std::cmp::Ordering;
use std::collections::BTreeMap;
use std::time::Duration;

use sieve_engine::outcome::{BudgetNote, Outcome};
use sieve_engine::{SharedWork, Work};
use sieve_rules::{FixKind, Level, RuleId};

use super::{Form, Origin, Shown};
use crate::screen::{FAINT, STRONG, Screen, by_level, complain_styled, counted, grouped, safe, styled, wrapped};

/// Writes the account: below cards and counts, to standard error beside lines, nowhere beside JSON.
pub fn write(shown: &Shown<'_>, form: Form, took: Duration, screen: &mut Screen) -> anyhow::Result<()> {
    match form {
        Form::Cards | Form::Counts => screen.line(text(shown, took, screen.width())),
        other if other.has_account() => Ok(()),
        _ => {
            screen.finish()?;
            write_aside(shown, took, screen.width());
            Ok(())
        }
    }
}

/// Writes the account to standard error.
pub fn write_aside(shown: &Shown<'_>, took: Duration, columns: usize) {
    complain_styled(&text(shown, took, columns));
}

/// Columns before the words of a row.
const MARGIN: usize = 23;

fn text(shown: &Shown<'_>, took: Duration, columns: usize) -> String {
    let outcome = shown.outcome;
    let files = counted(outcome.files, "file", "files");
    let lines = counted(outcome.lines, "line", "lines");
    let mut text = styled(STRONG, &format!("Sifted {files}, {lines}"));
    text += &styled(FAINT, &format!(" in {:.2} s", took.as_secs_f64()));
    let mut row = |label: &str, number: String, words: String| {
        let lines = wrapped(&words, columns.saturating_sub(MARGIN).max(30));
        let words = lines.join(&format!("\n{:MARGIN$}", ""));
        text += &format!("\n  {label:<10} {number:>6}    {words}");
    };
    row("caught", grouped(outcome.caught().count()), caught(outcome, shown.least));
    if let Some(comparison) = shown.comparison {
        let (new, unchanged) = comparison.counts();
        let gone = comparison.gone.len();
        row(
            "new",
            grouped(new),
            format!("since the earlier run; {} unchanged, {} gone", grouped(unchanged), grouped(gone)),
        );
    }
    let held = outcome.held();
    let gone = outcome.gone_from_baseline;
    if !held.is_empty() {
        row("held back", grouped(held.values().sum()), held_back(outcome));
    }
    if gone > 0 {
        let entries = if gone == 1 { "entry of the baseline is gone" } else { "entries of the baseline are gone" };
        let strict = if outcome.strict { ", which fails the run" } else { "" };
        row("paid off", grouped(gone), format!("{entries}{strict} (`hsieve baseline trim` drops what is gone)"));
    }
    for budget in &outcome.budgets {
        if let Some(words) = budget_words(budget, outcome.strict) {
            row("budget", grouped(budget.used as usize), words);
        }
    }
    if let Some(changes) = &outcome.changes {
        row("unchanged", grouped(outcome.unchanged), format!("findings not counted, on {changes}"));
    }
    if !outcome.unsure.is_empty() {
        row("unsure", grouped(outcome.unsure.len()), unsure(shown));
    }
    if !outcome.left_out.is_empty() {
        let causes: Vec<String> = outcome
            .left_out_by_cause()
            .iter()
            .map(|(cause, count)| format!("{} {}", grouped(*count), cause.describe()))
            .collect();
        row("left out", grouped(outcome.left_out.len()), format!("files: {}", causes.join(", ")));
    }
    if !outcome.errors.is_empty() {
        row("failed", grouped(outcome.errors.len()), "files or folders that could not be read".into());
    }
    if let Some(origin) = &shown.origin {
        origin_rows(origin, &mut row);
    }
    if let Some(density) = outcome.density().filter(|_| outcome.changes.is_none()) {
        let before = shown.density_before.map_or(String::new(), |before| format!(", was {before:.2} last time"));
        row("density", format!("{density:.2}"), format!("findings per 1000 lines{before}"));
    }
    text
}

/// Where results came from: what was known of files, and what a shared cache had.
fn origin_rows(origin: &Origin, row: &mut impl FnMut(&str, String, String)) {
    match origin.work {
        Some(Work { kept, renewed, sifted, .. }) => {
            let renewed =
                if renewed > 0 { format!(", {} for house rules alone", grouped(renewed)) } else { String::new() };
            let words = format!("results of files from earlier runs; {} worked out now{renewed}", grouped(sifted));
            row("reused", grouped(kept), words);
        }
        None => row("reused", "0".into(), "results of files: this run used no cache".into()),
    }
    let Some(work) = origin.shared else { return };
    if work == SharedWork::default() {
        return row("shared", "0".into(), "the shared cache was not asked".into());
    }
    let (missing, written) = (grouped(work.missing), grouped(work.written));
    let mut words = format!("entries from the shared cache; {missing} not there, {written} put there");
    for (count, what) in [(work.refused, "refused as damaged or of others"), (work.failed, "failed")] {
        if count > 0 {
            words += &format!(", {} {what}", grouped(count));
        }
    }
    words += &format!("; waited {:.2} s", work.waited.as_secs_f64());
    if work.given_up {
        words += ", then given up";
    }
    row("shared", grouped(work.found), words);
}

/// What is to be said of a budget that is not kept, or could be lowered.
fn budget_words(budget: &BudgetNote, strict: bool) -> Option<String> {
    let BudgetNote { at, used, most, .. } = budget;
    match used.cmp(most) {
        Ordering::Greater => Some(format!("of {most} entries that {} allows: the run fails", safe(at))),
        Ordering::Less if strict => {
            Some(format!("of {most} entries that {} allows: `hsieve baseline trim` lowers it", safe(at)))
        }
        _ => None,
    }
}

/// The rules that could not decide, the most frequent first.
fn unsure(shown: &Shown<'_>) -> String {
    let mut counts: BTreeMap<RuleId, usize> = BTreeMap::new();
    for place in &shown.outcome.unsure {
        *counts.entry(place.rule).or_insert(0) += 1;
    }
    let mut rules: Vec<(RuleId, usize)> = counts.into_iter().collect();
    rules.sort_by_key(|(rule, count)| (std::cmp::Reverse(*count), *rule));
    let names: Vec<String> =
        rules.iter().map(|(rule, count)| format!("{} {}", grouped(*count), shown.outcome.rules.name(*rule))).collect();
    let how = if shown.unsure { "" } else { " (--unsure lists them)" };
    format!("places not decided: {}{how}", names.join(", "))
}

fn caught(outcome: &Outcome, least: Level) -> String {
    if outcome.caught().next().is_none() {
        return match outcome.mesh {
            Some((_, mesh)) => format!("nothing, with the {mesh} mesh"),
            None => "nothing".into(),
        };
    }
    let mut text = by_level(|level| outcome.caught_at(level));
    match (outcome.fixable(FixKind::Exact), outcome.fixable(FixKind::Review)) {
        (0, 0) => {}
        (exact, 0) => text += &format!("; {} an exact fix", have(exact)),
        (0, review) => text += &format!("; {} a fix to review", have(review)),
        (exact, review) => text += &format!("; {} an exact fix, {} a fix to review", have(exact), grouped(review)),
    }
    let hidden = outcome.caught().filter(|finding| finding.level < least).count();
    if hidden > 0 {
        text += &format!("; {} below --level {least} not shown", grouped(hidden));
    }
    text
}

fn have(count: usize) -> String {
    format!("{} {}", grouped(count), if count == 1 { "has" } else { "have" })
}

fn held_back(outcome: &Outcome) -> String {
    let mut parts: Vec<String> = Vec::new();
    for (what, count) in outcome.held() {
        parts.push(match (what, count) {
            ("waiver" | "scope", count) if count > 1 => format!("{} by {what}s", grouped(count)),
            ("waiver" | "scope", _) => format!("1 by a {what}"),
            (_, count) => format!("{} by the {what}", grouped(count)),
        });
    }
    parts.join(", ")
}
