//! A summary in Markdown, for a proposal or the page of a job: what is new, how much there is, and what is held back.

use std::collections::BTreeMap;
use std::fmt::Write;

use sieve_engine::outcome::Finding;

use super::{Shown, Since};
use crate::screen::{by_level, counted, grouped, safe};

/// So many findings are in the table unless a limit is given.
const MOST: usize = 20;

pub(super) fn text(shown: &Shown<'_>) -> String {
    let outcome = shown.outcome;
    let mut text = String::new();
    let _ = writeln!(text, "### Honest Sieve: {}\n", headline(shown));
    // With an earlier run only what it had not is worth a look.
    let listed: Vec<&Finding> = shown
        .all(shown.held)
        .filter(|(_, since)| shown.comparison.is_none() || *since == Some(Since::New))
        .map(|(finding, _)| finding)
        .collect();
    if !listed.is_empty() {
        table(&mut text, shown, &listed);
    }
    details(&mut text, "by rule", &by_rule(shown));
    let gone = shown.comparison.map_or(&[][..], |comparison| &comparison.gone);
    let gone_rows: Vec<String> = gone
        .iter()
        .map(|gone| {
            format!(
                "- {} {}: {}",
                code(&format!("{}:{}", gone.path, gone.line)),
                code(&gone.rule),
                words(&gone.message)
            )
        })
        .collect();
    details(&mut text, &format!("{} gone", grouped(gone.len())), &gone_rows);
    let held: Vec<String> =
        outcome.held().iter().map(|(what, count)| format!("- {} by {what}", grouped(*count))).collect();
    details(&mut text, "held back", &held);
    let causes = outcome.left_out_by_cause();
    let mut left_out: Vec<String> =
        causes.iter().map(|(cause, count)| format!("- {} {}", grouped(*count), cause.describe())).collect();
    if shown.left_out {
        left_out =
            outcome.left_out.iter().map(|(path, cause)| format!("- {} {}", code(path), cause.describe())).collect();
    }
    details(&mut text, "files left out", &left_out);
    if shown.unsure {
        let places = outcome.unsure.iter().map(|place| {
            let at = format!("{}:{}", place.path, place.start.line);
            format!("- {} {}: {}", code(&at), code(outcome.rules.name(place.rule)), words(&place.reason))
        });
        details(&mut text, "places not decided", &places.collect::<Vec<String>>());
    }
    let failed: Vec<String> = outcome.errors.iter().map(|error| format!("- {}", words(&error.to_string()))).collect();
    details(&mut text, "what could not be read", &failed);
    let (files, lines) = (counted(outcome.files, "file", "files"), counted(outcome.lines, "line", "lines"));
    let density = outcome.density().map_or(String::new(), |density| format!(", {density:.2} findings per 1000 lines"));
    let unsure = counted(outcome.unsure.len(), "place", "places");
    let _ = writeln!(text, "{files}, {lines}{density}; {unsure} not decided");
    text
}

fn headline(shown: &Shown<'_>) -> String {
    if let Some(comparison) = shown.comparison {
        let (new, unchanged) = comparison.counts();
        let gone = grouped(comparison.gone.len());
        return format!("{} new, {gone} gone, {} unchanged", grouped(new), grouped(unchanged));
    }
    let counts = by_level(|level| shown.outcome.caught_at(level));
    if counts.is_empty() { "no findings".to_string() } else { counts }
}

fn table(text: &mut String, shown: &Shown<'_>, findings: &[&Finding]) {
    let most = shown.limit.unwrap_or(MOST);
    text.push_str("| level | place | rule | what |\n|---|---|---|---|\n");
    for finding in findings.iter().take(most) {
        let at = format!("{}:{}", finding.path, finding.start.line);
        let rule = shown.outcome.rules.name(finding.rule);
        let level = finding.level.word();
        let _ = writeln!(text, "| {level} | {} | {} | {} |", code(&at), code(rule), words(&finding.message));
    }
    if findings.len() > most {
        let _ = writeln!(text, "\nand {} more", grouped(findings.len() - most));
    }
    text.push('\n');
}

/// Numbers by rule, the most frequent first.
fn by_rule(shown: &Shown<'_>) -> Vec<String> {
    let mut counts: BTreeMap<&str, usize> = BTreeMap::new();
    shown
        .all(shown.held)
        .for_each(|(finding, _)| *counts.entry(shown.outcome.rules.name(finding.rule)).or_insert(0) += 1);
    let mut counts: Vec<(&str, usize)> = counts.into_iter().collect();
    counts.sort_by_key(|(name, count)| (std::cmp::Reverse(*count), *name));
    counts.iter().map(|(name, count)| format!("- {} {}", grouped(*count), code(name))).collect()
}

/// Lines that unfold; nothing where there are none.
fn details(text: &mut String, summary: &str, lines: &[String]) {
    if !lines.is_empty() {
        let _ = writeln!(text, "<details><summary>{summary}</summary>\n\n{}\n\n</details>\n", lines.join("\n"));
    }
}

/// Text of others on one line: nothing in it is Markdown or HTML.
pub fn words(text: &str) -> String {
    let mut result = String::new();
    for character in safe(text).chars() {
        match character {
            '<' => result.push_str("&lt;"),
            '>' => result.push_str("&gt;"),
            '&' => result.push_str("&amp;"),
            '\\' | '`' | '*' | '_' | '[' | ']' | '|' | '#' | '~' | '@' | '!' => {
                result.push('\\');
                result.push(character);
            }
            other => result.push(other),
        }
    }
    result
}

/// A name as code. One with marks that would end the code is plain words.
pub fn code(text: &str) -> String {
    let text = safe(text);
    if text.contains(['`', '|']) { words(&text) } else { format!("`{text}`") }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn nothing_in_a_message_is_markup() {
        assert_eq!(words("a|b <img> `x` [y](z)\n"), "a\\|b &lt;img&gt; \\`x\\` \\[y\\](z)\\\\n");
        assert_eq!(code("booking/fares.py:3"), "`booking/fares.py:3`");
        assert_eq!(code("a`b"), "a\\`b");
    }
}
