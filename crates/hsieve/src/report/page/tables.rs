//! Where findings are, what they are, and whose.

use maud::{Markup, html};
use sieve_rules::RuleId;

use super::words::anchor;
use crate::output::Count;
use crate::report::facts::{Facts, Folder, NOBODY};
use crate::report::treemap::{Area, areas};
use crate::screen::{grouped, safe};

/// So many folders have a row of their own.
const FOLDERS: usize = 40;

/// So many folders have an area of their own.
const AREAS: usize = 60;

/// So many files are called the worst.
const WORST: usize = 10;

const WHOLE: Area = Area { x: 0.0, y: 0.0, width: 960.0, height: 300.0 };

/// Folders and the worst files.
pub(super) fn places(facts: &Facts<'_>) -> Option<Markup> {
    let folders = facts.folders();
    if folders.is_empty() {
        return None;
    }
    let mut by_count = folders.clone();
    by_count.sort_by_key(|folder| (std::cmp::Reverse(folder.count.total()), folder.path.clone()));
    by_count.retain(|folder| folder.count.total() > 0);
    let hidden = by_count.len().saturating_sub(FOLDERS);
    let worst = facts.worst_files(WORST);
    let most = by_count.iter().map(|folder| folder.count.total()).max().unwrap_or(1);
    Some(html! {
        (map(&folders))
        @if !by_count.is_empty() {
            table {
                caption { "Folders with findings" }
                thead { tr { th scope="col" { "folder" } (level_heads()) th scope="col" class="number" { "per 1000 lines" } th scope="col" { span class="unseen" { "share" } } } }
                tbody {
                    @for folder in by_count.iter().take(FOLDERS) {
                        tr {
                            th scope="row" { code { (safe(&folder.path)) } }
                            (level_cells(folder.count))
                            td class="number" { (format!("{:.1}", folder.density())) }
                            td { (bar(folder.count.total(), most)) }
                        }
                    }
                }
            }
            @if hidden > 0 { p { "and " (grouped(hidden)) " more folders" } }
        }
        @if !worst.is_empty() {
            table {
                caption { "The files with the most findings" }
                thead { tr { th scope="col" { "file" } (level_heads()) th scope="col" { span class="unseen" { "share" } } } }
                tbody {
                    @for (path, count) in &worst {
                        tr { th scope="row" { code { (safe(path)) } } (level_cells(*count)) td { (bar(count.total(), worst[0].1.total())) } }
                    }
                }
            }
        }
    })
}

/// Folders as areas: as large as their lines are many, the darker the denser their findings.
fn map(folders: &[Folder]) -> Markup {
    let mut folders: Vec<&Folder> = folders.iter().filter(|folder| folder.lines > 0).collect();
    folders.sort_by_key(|folder| (std::cmp::Reverse(folder.lines), folder.path.clone()));
    folders.truncate(AREAS);
    let weights: Vec<f64> = folders.iter().map(|folder| folder.lines as f64).collect();
    let densest = folders.iter().map(|folder| folder.density()).fold(0.0, f64::max);
    let shade = |folder: &Folder| if densest > 0.0 { (folder.density() / densest * 4.0).ceil() as u32 } else { 0 };
    html! {
        @if folders.len() > 1 {
            figure {
                figcaption { "Folders by lines (area) and findings per 1000 lines (shade)" }
                svg viewBox={ "0 0 " (WHOLE.width) " " (WHOLE.height) } role="img" aria-label="Folders by lines and density; the table has the numbers" {
                    @for (folder, area) in folders.iter().zip(areas(&weights, WHOLE)) {
                        g {
                            rect class={ "area shade" (shade(folder)) } x=(px(area.x)) y=(px(area.y)) width=(px(area.width)) height=(px(area.height)) {
                                title { (safe(&folder.path)) ": " (grouped(folder.lines)) " lines, " (format!("{:.1}", folder.density())) " findings per 1000 lines" }
                            }
                            @if let Some(name) = fitting(&folder.path, area) {
                                text class={ "name shade" (shade(folder)) } x=(px(area.x + 6.0)) y=(px(area.y + 17.0)) { (name) }
                            }
                        }
                    }
                }
            }
        }
    }
}

/// The name of a folder, or its last part, if there is room for it.
fn fitting(path: &str, area: Area) -> Option<String> {
    let room = ((area.width - 12.0) / 7.4) as usize;
    let last = path.rsplit('/').next().unwrap_or(path);
    let name = [path, last].into_iter().find(|name| name.chars().count() <= room)?;
    (area.height > 22.0).then(|| safe(name))
}

fn px(length: f64) -> String {
    format!("{length:.1}")
}

/// Rules by concern, with how sure they are.
pub(super) fn rules(facts: &Facts<'_>) -> Option<Markup> {
    let rules = facts.rules();
    let most = rules.first()?.1.total();
    let row = |(id, count): &(RuleId, Count)| {
        let rule = facts.outcome.rules.rule(*id);
        html! {
            tr {
                th scope="row" { a href={ "#" (anchor(rule.name)) } { (rule.name) } }
                td { (rule.concern.word()) }
                td { (rule.certainty.word()) }
                (level_cells(*count))
                td { (bar(count.total(), most)) }
            }
        }
    };
    Some(html! {
        table {
            caption { "Rules with findings" }
            thead { tr { th scope="col" { "rule" } th scope="col" { "concern" } th scope="col" { "certainty" } (level_heads()) th scope="col" { span class="unseen" { "share" } } } }
            tbody { @for one in &rules { (row(one)) } }
        }
    })
}

/// The owners of files; nothing where nobody is named.
pub(super) fn owners(facts: &Facts<'_>) -> Option<Markup> {
    facts.owners.as_ref()?;
    let owners = facts.by_owner();
    let most = owners.first()?.1.total();
    Some(html! {
        table {
            caption { "Owners of files with findings" }
            thead { tr { th scope="col" { "owner" } (level_heads()) th scope="col" { span class="unseen" { "share" } } } }
            tbody {
                @for (name, count) in &owners {
                    tr {
                        th scope="row" { @if name == NOBODY { em { (NOBODY) } } @else { (safe(name)) } }
                        (level_cells(*count))
                        td { (bar(count.total(), most)) }
                    }
                }
            }
        }
    })
}

fn level_heads() -> Markup {
    html! { @for name in ["errors", "warnings", "notes"] { th scope="col" class="number" { (name) } } }
}

fn level_cells(count: Count) -> Markup {
    html! {
        @for (number, class) in count.levels.into_iter().zip(["error", "warning", "note"]) {
            @if number == 0 { td class="number none" { "·" } } @else { td class={ "number " (class) } { (grouped(number)) } }
        }
    }
}

/// A bar for the eye; the numbers are beside it.
fn bar(count: usize, most: usize) -> Markup {
    let share = count as f64 * 100.0 / most.max(1) as f64;
    html! { span class="bar" aria-hidden="true" style={ "width:" (format!("{share:.0}")) "%" } {} }
}
