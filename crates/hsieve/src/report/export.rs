//! The work list for other programs: Markdown with check boxes for issue trackers, tables of comma-separated values for spreadsheets.

use std::fmt::Write;

use sieve_engine::outcome::Finding;

use super::facts::Facts;
use crate::output::{code, words};
use crate::screen::{counted, safe};

/// The list in Markdown.
pub fn markdown(facts: &Facts<'_>) -> String {
    let count = facts.outcome.caught().count();
    let mut text = format!("# {}: {}\n", words(&facts.title), counted(count, "finding", "findings"));
    let _ = writeln!(text, "\nFound by Honest Sieve {}.", env!("CARGO_PKG_VERSION"));
    let mut owner = None;
    for work in facts.work() {
        if owner.as_ref() != Some(&work.owner) {
            let _ = writeln!(text, "\n## {}", words(&work.owner));
            owner = Some(work.owner);
        }
        let rule = facts.outcome.rules.rule(work.rule);
        let _ = writeln!(text, "\n### {} ({}): {}\n", code(rule.name), work.level.word(), words(rule.what));
        for finding in work.findings {
            let at = format!("{}:{}:{}", finding.path, finding.start.line, finding.start.column);
            let _ = writeln!(text, "- [ ] {}: {}", code(&at), words(&finding.message));
        }
    }
    text
}

/// The list as a table of comma-separated values (RFC 4180), with a head.
pub fn csv(facts: &Facts<'_>) -> anyhow::Result<String> {
    let mut writer = csv::WriterBuilder::new().terminator(csv::Terminator::CRLF).from_writer(Vec::new());
    writer.write_record(["owner", "level", "rule", "path", "line", "column", "message", "advice"])?;
    for work in facts.work() {
        let rule = facts.outcome.rules.name(work.rule);
        for finding in &work.findings {
            let (line, column) = (finding.start.line.to_string(), finding.start.column.to_string());
            let advice = cell(finding.advice.as_deref().unwrap_or_default());
            let (owner, path, message) = (cell(&work.owner), cell(&finding.path), cell(&finding.message));
            writer.write_record([&owner, finding.level.word(), rule, &path, &line, &column, &message, &advice])?;
        }
    }
    Ok(String::from_utf8(writer.into_inner()?)?)
}

/// Text of others in a cell: no spreadsheet takes it for a formula.
fn cell(text: &str) -> String {
    let text = safe(text);
    if text.starts_with(['=', '+', '-', '@', '\t', '\r']) { format!("'{text}") } else { text }
}

/// The line of code of a finding, as far as it was kept.
pub fn line_of(finding: &Finding) -> String {
    finding.excerpt.as_ref().map_or(String::new(), |excerpt| {
        let start = if excerpt.cut > 0 { "…" } else { "" };
        let end = if excerpt.goes_on { "…" } else { "" };
        format!("{start}{}{end}", safe(excerpt.line.trim()))
    })
}

#[cfg(test)]
mod tests {
    use super::cell;

    #[test]
    fn no_cell_is_a_formula() {
        assert_eq!(cell("=1+1"), "'=1+1");
        assert_eq!(cell("booking/fares.py"), "booking/fares.py");
    }
}
