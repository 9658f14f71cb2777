//! The report of one change.

use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

use serde_json::{Value, json};
use sieve_engine::outcome::{Finding, Identity, Outcome};
use sieve_rules::{RuleId, RuleSet};

use crate::output::{finding_as_json, finding_as_line};
use crate::screen::{FAINT, STRONG, Screen, counted, grouped, safe, styled};

/// What is reported now, file by file.
#[derive(Debug, Default)]
pub struct Known {
    files: BTreeMap<Arc<str>, Vec<Finding>>,
    /// The rules there are.
    pub rules: Arc<RuleSet>,
}

/// What changed of it.
#[derive(Debug, Default)]
pub struct Difference {
    /// Findings that were not there before.
    pub new: Vec<Finding>,
    /// Findings that are not there any more.
    pub gone: Vec<Finding>,
}

impl Difference {
    /// Whether nothing changed.
    pub fn is_empty(&self) -> bool {
        self.new.is_empty() && self.gone.is_empty()
    }

    /// The files that it is in.
    pub fn paths(&self) -> BTreeSet<&str> {
        self.new.iter().chain(&self.gone).map(|finding| &*finding.path).collect()
    }

    /// What differs between the findings of a file before and now. A finding that only moved is the same.
    fn add(&mut self, before: &[Finding], now: &[Finding]) {
        let mut left: BTreeMap<Key<'_>, Vec<&Finding>> = BTreeMap::new();
        before.iter().for_each(|finding| left.entry(key(finding)).or_default().push(finding));
        for finding in now {
            match left.get_mut(&key(finding)).filter(|same| !same.is_empty()) {
                Some(same) => drop(same.remove(0)),
                None => self.new.push(finding.clone()),
            }
        }
        let mut gone: Vec<Finding> = left.into_values().flatten().cloned().collect();
        gone.sort_by_key(|finding| (finding.start, finding.rule));
        self.gone.extend(gone);
    }
}

type Key<'k> = (RuleId, Option<&'k Identity>, &'k str);

fn key(finding: &Finding) -> Key<'_> {
    (finding.rule, finding.identity.as_ref(), &finding.message)
}

impl Known {
    /// Takes a whole outcome over.
    pub fn take(&mut self, outcome: Outcome) -> Difference {
        let mut files: BTreeMap<Arc<str>, Vec<Finding>> = BTreeMap::new();
        for finding in outcome.findings.into_iter().filter(|finding| finding.held.is_none()) {
            files.entry(Arc::clone(&finding.path)).or_default().push(finding);
        }
        self.rules = outcome.rules;
        let before = std::mem::replace(&mut self.files, files);
        let mut difference = Difference::default();
        let paths: BTreeSet<&Arc<str>> = before.keys().chain(self.files.keys()).collect();
        let of =
            |files: &BTreeMap<Arc<str>, Vec<Finding>>, path: &Arc<str>| files.get(path).cloned().unwrap_or_default();
        paths.into_iter().for_each(|path| difference.add(&of(&before, path), &of(&self.files, path)));
        difference
    }

    /// Takes over what was found in one file alone. What only a look at all files can find stays as it was.
    pub fn take_file(&mut self, path: &str, outcome: Outcome) -> Difference {
        let over_files = |finding: &Finding| outcome.rules.rule(finding.rule).goes_over_files();
        let is_own = |finding: &Finding| *finding.path == *path && finding.held.is_none() && !over_files(finding);
        let before = self.files.remove(path).unwrap_or_default();
        let kept = before.iter().filter(|finding| over_files(finding)).cloned();
        let now: Vec<Finding> =
            outcome.findings.iter().filter(|finding| is_own(finding)).cloned().chain(kept).collect();
        let mut difference = Difference::default();
        difference.add(&before, &now);
        if !now.is_empty() {
            self.files.insert(path.into(), now);
        }
        difference
    }

    /// How many findings there are.
    pub fn count(&self) -> usize {
        self.files.values().map(Vec::len).sum()
    }
}

/// The report of a change: where it was, what it did, and the account.
pub struct Block<'b> {
    /// The files that changed, as they are shown; none where it reports what that did elsewhere.
    pub changed: &'b [String],
    /// What it brought.
    pub difference: &'b Difference,
    /// The rules there are.
    pub rules: &'b RuleSet,
    /// How many findings there are now, and at the start.
    pub counts: (usize, usize),
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
        let place = match self.changed {
            [] => "elsewhere".to_string(),
            [one] => safe(one),
            [first, rest @ ..] => format!("{} and {}", safe(first), counted(rest.len(), "other file", "other files")),
        };
        let what = match (new.len(), gone.len()) {
            (0, 0) => "nothing new".to_string(),
            (new, 0) => format!("{} new", grouped(new)),
            (0, gone) => format!("{} gone", grouped(gone)),
            (new, gone) => format!("{} new, {} gone", grouped(new), grouped(gone)),
        };
        screen.line(format!("{}  {what}", styled(STRONG, &place)))?;
        for (sign, findings) in [("+", new), ("-", gone)] {
            for finding in findings {
                let mut line = String::new();
                finding_as_line(&mut line, finding, self.rules);
                let line = if sign == "-" { styled(FAINT, line.trim_end()) } else { line.trim_end().to_string() };
                screen.line(format!("{} {line}", styled(STRONG, sign)))?;
            }
        }
        let (now, start) = self.counts;
        let since = match now.cmp(&start) {
            std::cmp::Ordering::Equal => "as many as at the start".to_string(),
            std::cmp::Ordering::Greater => format!("{} more than at the start", grouped(now - start)),
            std::cmp::Ordering::Less => format!("{} fewer than at the start", grouped(start - now)),
        };
        screen.line(styled(FAINT, &format!("{}, {since}", counted(now, "finding", "findings"))))
    }

    fn as_json(&self) -> Value {
        let all = |findings: &[Finding]| -> Vec<Value> {
            findings.iter().map(|finding| finding_as_json(finding, self.rules)).collect()
        };
        let Difference { new, gone } = self.difference;
        let (now, start) = self.counts;
        json!({ "changed": self.changed, "new": all(new), "gone": all(gone), "findings": now, "at-start": start })
    }
}
