//! What is held back, what is not decided, and how the run was made.

use std::collections::BTreeMap;

use maud::{Markup, html};
use sieve_engine::outcome::{WaiverNote, WaiverState};

use crate::report::facts::Facts;
use crate::screen::{counted, grouped, safe};

/// So many waivers, and so many undecided places for each reason, are listed.
const MOST: usize = 200;

/// So many files that were left out are listed.
const MOST_FILES: usize = 100;

pub(super) fn section(facts: &Facts<'_>) -> Option<Markup> {
    let outcome = facts.outcome;
    let held = outcome.held();
    if held.is_empty() && outcome.waivers.is_empty() && outcome.unsure.is_empty() {
        return None;
    }
    let mut waivers: Vec<&WaiverNote> = outcome.waivers.iter().collect();
    // Those that need care first, then those that end soon.
    waivers.sort_by(|one, other| {
        let last = |note: &WaiverNote| (note.state, note.until.is_none(), note.until);
        last(one).cmp(&last(other)).then_with(|| (&one.path, one.line).cmp(&(&other.path, other.line)))
    });
    let mut unsure: BTreeMap<(&str, &str), usize> = BTreeMap::new();
    for place in &outcome.unsure {
        *unsure.entry((outcome.rules.name(place.rule), &place.reason)).or_insert(0) += 1;
    }
    let mut unsure: Vec<((&str, &str), usize)> = unsure.into_iter().collect();
    unsure.sort_by_key(|(key, count)| (std::cmp::Reverse(*count), *key));
    Some(html! {
        @if !held.is_empty() {
            p { @for (index, (what, count)) in held.iter().enumerate() { @if index > 0 { ", " } (grouped(*count)) " by " (what) } "." }
        }
        @if !waivers.is_empty() {
            table {
                caption { "Waivers, those that need care first" }
                thead { tr { th scope="col" { "place" } th scope="col" { "state" } th scope="col" { "for" } th scope="col" { "because" } th scope="col" { "last day" } th scope="col" class="number" { "holds" } } }
                tbody { @for note in waivers.iter().take(MOST) { (waiver(note)) } }
            }
            @if waivers.len() > MOST { p { "and " (grouped(waivers.len() - MOST)) " more waivers" } }
        }
        @if !unsure.is_empty() {
            table {
                caption { "Places that could not be decided" }
                thead { tr { th scope="col" { "rule" } th scope="col" { "why" } th scope="col" class="number" { "places" } } }
                tbody {
                    @for ((rule, reason), count) in unsure.iter().take(MOST) {
                        tr { th scope="row" { (rule) } td { (safe(reason)) } td class="number" { (grouped(*count)) } }
                    }
                }
            }
        }
    })
}

fn waiver(note: &WaiverNote) -> Markup {
    let needs_care = matches!(note.state, WaiverState::Expired | WaiverState::Stale);
    html! {
        tr {
            th scope="row" { code { (safe(&note.path)) ":" (note.line) } }
            td class=[needs_care.then_some("warning")] { (note.state.word()) }
            td { (safe(&note.names.join(", "))) }
            td { (safe(note.reason.as_deref().unwrap_or("no reason given"))) }
            td { (note.until.map_or(String::new(), |day| day.to_string())) }
            td class="number" { (note.holds) }
        }
    }
}

/// Settings, what was left out, and what could not be read.
pub(super) fn run(facts: &Facts<'_>) -> Option<Markup> {
    let outcome = facts.outcome;
    let causes = outcome.left_out_by_cause();
    Some(html! {
        table {
            caption { "Settings in force at the root" }
            tbody { @for (name, value) in &facts.settings { tr { th scope="row" { code { (name) } } td { (safe(value)) } } } }
        }
        @if !outcome.errors.is_empty() {
            h3 { "Could not be read" }
            ul { @for error in &outcome.errors { li { (safe(&error.to_string())) } } }
        }
        @if causes.is_empty() {
            p { "No file was left out." }
        } @else {
            details {
                summary { (counted(outcome.left_out.len(), "file was left out", "files were left out")) }
                ul {
                    @for (cause, count) in &causes { li { (grouped(*count)) " " (cause.describe()) } }
                }
                ul class="places" {
                    @for (path, cause) in outcome.left_out.iter().take(MOST_FILES) { li { code { (safe(path)) } " " (cause.describe()) } }
                    @if outcome.left_out.len() > MOST_FILES { li { "and " (grouped(outcome.left_out.len() - MOST_FILES)) " more" } }
                }
            }
        }
    })
}
