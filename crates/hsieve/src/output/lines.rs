//! A line for each finding: `path:line:column: level: message [rule]`, after "Formatting Error Messages" of the GNU Coding
//! Standards.

use std::fmt::Write;

use sieve_engine::outcome::Finding;
use sieve_rules::RuleSet;

use super::{Put, Shown};
use crate::screen::{counted, safe};

/// Gives line after line, so that they need not all be there at once.
pub(super) fn write(shown: &Shown<'_>, put: &mut Put<'_>) -> anyhow::Result<()> {
    let mut text = String::new();
    for (finding, since) in shown.findings() {
        text.clear();
        line(&mut text, finding, &shown.outcome.rules);
        if let Some(since) = since {
            text.pop();
            let _ = writeln!(text, " ({})", since.word());
        }
        put(&text)?;
    }
    put(&after(shown))
}

/// What comes after the findings.
fn after(shown: &Shown<'_>) -> String {
    let mut text = String::new();
    if shown.more() > 0 {
        let _ = writeln!(text, "and {}", counted(shown.more(), "more finding", "more findings"));
    }
    for gone in shown.comparison.iter().flat_map(|comparison| &comparison.gone) {
        let (path, rule, message) = (safe(&gone.path), safe(&gone.rule), safe(&gone.message));
        let _ = writeln!(text, "{path}:{}:{}: gone: {message} [{rule}]", gone.line, gone.column);
    }
    if shown.left_out {
        for (path, cause) in &shown.outcome.left_out {
            let _ = writeln!(text, "{}: left out: {}", safe(path), cause.describe());
        }
    }
    if shown.unsure {
        for place in &shown.outcome.unsure {
            let (path, start) = (safe(&place.path), place.start);
            let rule = shown.outcome.rules.name(place.rule);
            let _ = writeln!(text, "{path}:{}:{}: unsure: {} [{rule}]", start.line, start.column, safe(&place.reason));
        }
    }
    text
}

/// Adds the line of a finding.
pub fn line(text: &mut String, finding: &Finding, rules: &RuleSet) {
    let (path, start, level) = (safe(&finding.path), finding.start, finding.level);
    let rule = rules.name(finding.rule);
    let held = finding.held.as_ref().map_or(String::new(), |held| format!(" (held back by {})", held.word()));
    let message = safe(&finding.message);
    let _ = writeln!(text, "{path}:{}:{}: {level}: {message} [{rule}]{held}", start.line, start.column);
}
