//! The report of one change.

use std::cmp::Ordering;

use serde_json::{Value, json};
use sieve_engine::outcome::Finding;

use super::known::{Difference, Known};
use crate::output::{finding_as_json, finding_as_line};
use crate::screen::{FAINT, STRONG, Screen, counted, grouped, safe, styled};

/// The report of a change: where it was, what it did, and the account.
pub struct Block<'b> {
    /// The files that changed, as they are shown; none where it reports what that did elsewhere.
    pub changed: &'b [String],
    /// What it brought.
    pub difference: &'b Difference,
    /// What is reported now.
    pub known: &'b Known,
}

impl Block<'_> {
    /// Writes it, as lines or as an object of JSON on one.
    pub fn write(&self, as_json: bool, screen: &mut Screen) -> anyhow::Result<()> {
        if as_json {
            screen.raw(format!("{}\n", self.as_json()).as_bytes())?;
        } else {
            self.write_lines(screen)?;
        }
        screen.finish()
    }

    fn write_lines(&self, screen: &mut Screen) -> anyhow::Result<()> {
        screen.gap()?;
        let Difference { new, gone } = self.difference;
        screen.line(format!("{}  {}", styled(STRONG, &place(self.changed)), what(self.difference)))?;
        for (sign, findings) in [("+", new), ("-", gone)] {
            for finding in findings {
                let mut line = String::new();
                finding_as_line(&mut line, finding, &self.known.rules);
                let line = if sign == "-" { styled(FAINT, line.trim_end()) } else { line.trim_end().to_string() };
                screen.line(format!("{} {line}", styled(STRONG, sign)))?;
            }
        }
        let (now, start) = (self.known.count(), self.known.count_at_start());
        screen.line(styled(FAINT, &format!("{}, {}", counted(now, "finding", "findings"), since_start(now, start))))
    }

    fn as_json(&self) -> Value {
        let all = |findings: &[Finding]| -> Vec<Value> {
            findings.iter().map(|finding| finding_as_json(finding, &self.known.rules)).collect()
        };
        let Difference { new, gone } = self.difference;
        let (now, start) = (self.known.count(), self.known.count_at_start());
        json!({ "changed": self.changed, "new": all(new), "gone": all(gone), "findings": now, "at-start": start })
    }
}

/// Where a change was, in few words.
pub fn place(changed: &[String]) -> String {
    match changed {
        [] => "elsewhere".to_string(),
        [one] => safe(one),
        [first, rest @ ..] => format!("{} and {}", safe(first), counted(rest.len(), "other file", "other files")),
    }
}

/// What it brought, in numbers.
pub fn what(difference: &Difference) -> String {
    match (difference.new.len(), difference.gone.len()) {
        (0, 0) => "nothing new".to_string(),
        (new, 0) => format!("{} new", grouped(new)),
        (0, gone) => format!("{} gone", grouped(gone)),
        (new, gone) => format!("{} new, {} gone", grouped(new), grouped(gone)),
    }
}

/// How a number went since the start.
pub fn since_start(now: usize, start: usize) -> String {
    match now.cmp(&start) {
        Ordering::Equal => "as many as at the start".to_string(),
        Ordering::Greater => format!("{} more than at the start", grouped(now - start)),
        Ordering::Less => format!("{} fewer than at the start", grouped(start - now)),
    }
}
