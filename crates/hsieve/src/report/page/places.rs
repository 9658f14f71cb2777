//! The work list: every place with its code and a box to check.

use maud::{Markup, html};

use super::words::{anchor, sentence};
use crate::report::export::line_of;
use crate::report::facts::{Facts, NOBODY, Work};
use crate::screen::{counted, grouped, safe};

/// The most places that the page lists; a file beside it has all.
pub const MOST_PLACES: usize = 3000;

pub(super) fn list(facts: &Facts<'_>, rest: Option<&str>) -> Option<Markup> {
    let all = facts.outcome.caught().count();
    if all == 0 {
        return None;
    }
    let mut left = MOST_PLACES;
    let mut shown: Vec<(Work<'_>, usize)> = Vec::new();
    for work in facts.work() {
        let count = work.findings.len().min(left);
        left -= count;
        shown.push((work, count));
    }
    let by_owner = shown.chunk_by(|one, other| one.0.owner == other.0.owner);
    Some(html! {
        p class="filter" hidden {
            label for="filter" { "List only places with" } " "
            input id="filter" type="search" autocomplete="off";
            " " output for="filter" {}
        }
        @if all > MOST_PLACES {
            p {
                "The first " (grouped(MOST_PLACES)) " of " (grouped(all)) " places"
                @if let Some(rest) = rest { "; " a href=(rest) { (rest) } " has all of them" }
                "."
            }
        }
        @for works in by_owner {
            @let owner = &works[0].0.owner;
            div data-owner=(safe(owner)) {
                @if facts.owners.is_some() {
                    h3 { @if owner == NOBODY { "Owned by nobody" } @else { "Owned by " (safe(owner)) } }
                }
                @for (work, count) in works.iter().filter(|(_, count)| *count > 0) { (group(facts, work, *count)) }
            }
        }
    })
}

/// The places of one rule.
fn group(facts: &Facts<'_>, work: &Work<'_>, count: usize) -> Markup {
    let rule = facts.outcome.rules.rule(work.rule);
    html! {
        details data-group="" open[work.findings.len() <= 20] {
            summary {
                span class={ "level " (work.level.word()) } { (work.level.word()) } " "
                strong { (rule.name) } " "
                (counted(work.findings.len(), "place", "places"))
            }
            p { (sentence(rule.what)) " " a href={ "#" (anchor(rule.name)) } { "Why" } }
            ul class="places" {
                @for finding in work.findings.iter().take(count) {
                    li data-place="" {
                        label {
                            input type="checkbox"; " "
                            code { (safe(&finding.path)) ":" (finding.start.line) ":" (finding.start.column) }
                        }
                        " " (safe(&finding.message))
                        @let line = line_of(finding);
                        @if !line.is_empty() { pre { (line) } }
                    }
                }
            }
        }
    }
}
