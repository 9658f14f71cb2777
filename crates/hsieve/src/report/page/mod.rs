//! The report as one page of HTML: no network, and no script needed to read it.

mod chart;
mod held;
mod places;
mod rules;
mod tables;
mod words;

use maud::{DOCTYPE, Markup, PreEscaped, html};

use super::facts::Facts;
use crate::screen::{counted, grouped, safe};
pub use places::MOST_PLACES;

const STYLE: &str = include_str!("style.css");
const SCRIPT: &str = include_str!("filter.js");

/// The page. Where there are more places than it lists, `rest` names the file that has them all.
pub fn page(facts: &Facts<'_>, rest: Option<&str>) -> String {
    let title = format!("{}: what the sieve caught", safe(&facts.title));
    let parts = [
        ("trend", "Over time", chart::trend(facts)),
        ("where", "Where", tables::places(facts)),
        ("what", "What", tables::rules(facts)),
        ("who", "Who", tables::owners(facts)),
        ("work", "Work list", places::list(facts, rest)),
        ("held", "Held back and undecided", held::section(facts)),
        ("rules", "The rules", rules::section(facts)),
        ("run", "This run", held::run(facts)),
    ];
    let parts: Vec<(&str, &str, Markup)> =
        parts.into_iter().filter_map(|(id, title, part)| Some((id, title, part?))).collect();
    let page = html! {
        (DOCTYPE)
        html lang="en" {
            head {
                meta charset="utf-8";
                meta name="viewport" content="width=device-width, initial-scale=1";
                meta name="color-scheme" content="light dark";
                meta name="generator" content="Honest Sieve";
                title { (title) }
                style { (PreEscaped(STYLE)) }
            }
            body {
                header {
                    h1 { (safe(&facts.title)) }
                    (head(facts))
                    nav aria-label="Parts" {
                        @for (id, title, _) in &parts { a href={ "#" (id) } { (title) } " " }
                    }
                }
                main {
                    @for (id, title, part) in parts {
                        section aria-labelledby={ (id) "-title" } id=(id) {
                            h2 id={ (id) "-title" } { (title) }
                            (part)
                        }
                    }
                }
                footer { p { "Written by Honest Sieve " (env!("CARGO_PKG_VERSION")) " on " (facts.day) "." } }
                script { (PreEscaped(SCRIPT)) }
            }
        }
    };
    page.into_string()
}

/// The account.
fn head(facts: &Facts<'_>) -> Markup {
    let outcome = facts.outcome;
    let caught = outcome.caught().count();
    let before = facts.records.last();
    let change = before.map(|record| change(caught, record.count()));
    let held: usize = outcome.held().values().sum();
    let revision = facts.revision.as_ref().map(|revision| &revision[..revision.len().min(12)]);
    html! {
        p class="lead" {
            (counted(outcome.files, "file", "files")) ", " (counted(outcome.lines, "line", "lines"))
            @if let Some(revision) = revision { ", at " code { (revision) } }
            ", " (facts.day)
        }
        dl class="figures" {
            (figure("findings", &grouped(caught), change.as_deref()))
            @for level in super::record::LEVELS {
                (figure(&format!("{level}s"), &grouped(outcome.caught_at(level)), None))
            }
            @if let Some(density) = outcome.density() {
                (figure("per 1000 lines", &format!("{density:.2}"), None))
            }
            (figure("held back", &grouped(held), None))
            (figure("not decided", &grouped(outcome.unsure.len()), None))
        }
    }
}

fn figure(name: &str, value: &str, note: Option<&str>) -> Markup {
    html! {
        div {
            dt { (name) }
            dd { (value) @if let Some(note) = note { " " small { (note) } } }
        }
    }
}

/// What changed since the last recorded run.
fn change(now: usize, before: usize) -> String {
    match now.cmp(&before) {
        std::cmp::Ordering::Less => format!("{} fewer than last time", grouped(before - now)),
        std::cmp::Ordering::Equal => "as many as last time".to_string(),
        std::cmp::Ordering::Greater => format!("{} more than last time", grouped(now - before)),
    }
}
