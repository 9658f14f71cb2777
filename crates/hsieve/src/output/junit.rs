//! A test report in the XML that build servers read: a suite for each file, a test for each finding, and one for all files without any.

use std::fmt::Write;

use sieve_engine::outcome::Finding;

use super::{Shown, Since, held_by};
use crate::screen::counted;

pub(super) fn text(shown: &Shown<'_>) -> String {
    let findings: Vec<(&Finding, Option<Since>)> = shown.with_held(true).collect();
    let by_file: Vec<&[(&Finding, Option<Since>)]> =
        findings.chunk_by(|one, other| one.0.path == other.0.path).collect();
    let clean = shown.outcome.files.saturating_sub(by_file.len());
    let mut text = String::from("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
    let (failures, skipped) = counts(shown, &findings);
    let tests = findings.len() + usize::from(clean > 0) + shown.outcome.errors.len();
    let errors = shown.outcome.errors.len();
    let _ = writeln!(
        text,
        "<testsuites name=\"Honest Sieve\" tests=\"{tests}\" failures=\"{failures}\" errors=\"{errors}\" skipped=\"{skipped}\">"
    );
    for of_file in by_file {
        suite(&mut text, shown, of_file);
    }
    rest(&mut text, shown, clean);
    text + "</testsuites>\n"
}

/// How many tests fail, and how many are skipped.
fn counts(shown: &Shown<'_>, findings: &[(&Finding, Option<Since>)]) -> (usize, usize) {
    let failures = findings.iter().filter(|(finding, _)| fails(shown, finding)).count();
    (failures, findings.iter().filter(|(finding, _)| finding.held.is_some()).count())
}

fn fails(shown: &Shown<'_>, finding: &Finding) -> bool {
    finding.held.is_none() && finding.level >= shown.failing && shown.failing != sieve_rules::Level::Off
}

fn suite(text: &mut String, shown: &Shown<'_>, findings: &[(&Finding, Option<Since>)]) {
    let path = escaped(&findings[0].0.path);
    let (failures, skipped) = counts(shown, findings);
    let tests = findings.len();
    let _ = writeln!(
        text,
        "  <testsuite name=\"{path}\" tests=\"{tests}\" failures=\"{failures}\" errors=\"0\" skipped=\"{skipped}\">"
    );
    for (finding, since) in findings {
        let rule = escaped(shown.outcome.rules.name(finding.rule));
        let (line, column) = (finding.start.line, finding.start.column);
        let since = since.map_or(String::new(), |since| format!(" ({})", since.word()));
        let message = escaped(&format!("{}{since}", finding.message));
        let _ = writeln!(
            text,
            "    <testcase classname=\"{path}\" name=\"{rule} {line}:{column}\" file=\"{path}\" line=\"{line}\">"
        );
        let level = finding.level.word();
        let _ = match &finding.held {
            Some(held) => writeln!(text, "      <skipped message=\"{}\"/>", escaped(&held_by(held))),
            None if fails(shown, finding) => {
                let advice = finding.advice.as_deref().map_or(String::new(), |advice| format!("\ndo: {advice}"));
                let words = escaped(&format!("{}:{line}:{column}: {level}: {}{advice}", finding.path, finding.message));
                writeln!(text, "      <failure type=\"{level}\" message=\"{message}\">{words}</failure>")
            }
            None => writeln!(text, "      <system-out>{level}: {message}</system-out>"),
        };
        text.push_str("    </testcase>\n");
    }
    text.push_str("  </testsuite>\n");
}

/// The files without findings, and what could not be read.
fn rest(text: &mut String, shown: &Shown<'_>, clean: usize) {
    if clean > 0 {
        let name = format!("{} without findings", counted(clean, "file", "files"));
        let _ = writeln!(
            text,
            "  <testsuite name=\"{name}\" tests=\"1\" failures=\"0\" errors=\"0\" skipped=\"0\">\n    <testcase classname=\"hsieve\" name=\"{name}\"/>\n  </testsuite>"
        );
    }
    let errors = &shown.outcome.errors;
    if !errors.is_empty() {
        let count = errors.len();
        let _ = writeln!(
            text,
            "  <testsuite name=\"files that could not be read\" tests=\"{count}\" failures=\"0\" errors=\"{count}\" skipped=\"0\">"
        );
        for error in errors {
            let path = escaped(&error.path.to_string_lossy());
            let message = escaped(&error.without_path());
            let _ = writeln!(
                text,
                "    <testcase classname=\"{path}\" name=\"{path}\">\n      <error message=\"{message}\"/>\n    </testcase>"
            );
        }
        text.push_str("  </testsuite>\n");
    }
}

/// Text as XML 1.0 takes it in attributes and elements. What no document may hold is shown as an escape of ours.
fn escaped(text: &str) -> String {
    let mut result = String::with_capacity(text.len());
    for character in text.chars() {
        match character {
            '&' => result.push_str("&amp;"),
            '<' => result.push_str("&lt;"),
            '>' => result.push_str("&gt;"),
            '"' => result.push_str("&quot;"),
            '\n' => result.push_str("&#10;"),
            other if crate::screen::is_unsafe(other) || matches!(other, '\u{fffe}' | '\u{ffff}') => {
                let _ = write!(result, "\\u{{{:x}}}", u32::from(other));
            }
            other => result.push(other),
        }
    }
    result
}

#[cfg(test)]
mod tests {
    use super::escaped;

    #[test]
    fn what_xml_does_not_take_is_escaped() {
        assert_eq!(escaped("a < \"b\" & c"), "a &lt; &quot;b&quot; &amp; c");
        assert_eq!(escaped("\u{1b}[2J\u{ffff}\n"), "\\u{1b}[2J\\u{ffff}&#10;");
    }
}
