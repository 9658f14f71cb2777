//! What the screen that stays shows.

use std::collections::{HashMap, HashSet};
use std::sync::Arc;

use sieve_engine::outcome::Finding;
use sieve_rules::{FixKind, RuleId};
use sieve_syntax::text::Span;

use super::block::{place, what};
use super::known::{Difference, Known};

/// What the last change brought, to be asked for each finding and each file.
#[derive(Debug, Default)]
pub struct Last {
    new: HashSet<(Arc<str>, RuleId, Span)>,
    gone: HashMap<Arc<str>, Vec<Finding>>,
}

impl Last {
    fn add(&mut self, difference: &Difference) {
        self.new.extend(difference.new.iter().map(place_of));
        for finding in &difference.gone {
            self.gone.entry(Arc::clone(&finding.path)).or_default().push(finding.clone());
        }
    }

    /// Whether it brought a finding.
    pub fn is_new(&self, finding: &Finding) -> bool {
        self.new.contains(&place_of(finding))
    }

    /// The findings that went from a file.
    pub fn gone_from(&self, path: &str) -> &[Finding] {
        self.gone.get(path).map_or(&[], Vec::as_slice)
    }
}

fn place_of(finding: &Finding) -> (Arc<str>, RuleId, Span) {
    (Arc::clone(&finding.path), finding.rule, finding.span)
}

/// What is shown.
#[derive(Debug, Default)]
pub struct View {
    /// The files that were saved since the start, the last one first.
    pub touched: Vec<Arc<str>>,
    /// What the last change brought.
    pub last: Last,
    /// Whether files that were not touched are shown, too.
    pub shows_all: bool,
    /// Whether changes are left for later.
    pub is_paused: bool,
    /// So many fixes in so many files wait for a yes.
    pub asked: Option<(usize, usize)>,
    /// What happened last.
    pub said: String,
    /// Whether it went wrong.
    pub is_wrong: bool,
    /// The first line that is shown.
    pub top: usize,
    /// Lines for findings in the last picture.
    pub page: usize,
}

impl View {
    /// Takes a change over: its files come first.
    pub fn take(&mut self, changed: &[String], difference: &Difference) {
        // What it did elsewhere is a part of the same change.
        if !changed.is_empty() {
            self.last = Last::default();
        }
        self.last.add(difference);
        let before = std::mem::take(&mut self.touched);
        let changed_now = changed.iter().map(|path| Arc::from(path.as_str()));
        let elsewhere = difference.new.iter().map(|finding| Arc::clone(&finding.path));
        let mut seen = HashSet::new();
        let all = changed_now.chain(before).chain(elsewhere);
        self.touched = all.filter(|path| seen.insert(Arc::clone(path))).collect();
        self.top = 0;
        let words = format!("{}: {}", place(changed), what(difference));
        let is_same_change = changed.is_empty() && !self.said.is_empty() && !self.is_wrong;
        self.say(&if is_same_change { format!("{} · {words}", self.said) } else { words });
    }

    /// Says what happened.
    pub fn say(&mut self, words: &str) {
        (self.said, self.is_wrong) = (words.to_string(), false);
    }

    /// Says what went wrong.
    pub fn complain(&mut self, words: String) {
        (self.said, self.is_wrong) = (words, true);
    }

    /// The files that are shown, in that order.
    pub fn shown(&self, known: &Known) -> Vec<Arc<str>> {
        let mut shown: Vec<Arc<str>> = self.touched.clone();
        if self.shows_all {
            let touched: HashSet<&Arc<str>> = self.touched.iter().collect();
            shown.extend(known.files().keys().filter(|path| !touched.contains(path)).cloned());
        }
        shown
    }

    /// Asks whether the exact fixes of what is shown are to be applied.
    pub fn ask(&mut self, known: &Known) {
        let shown = self.shown(known);
        let fixes = |path: &Arc<str>| {
            let findings = known.of_file(path).iter();
            findings.filter(|finding| finding.fix.as_ref().is_some_and(|fix| fix.kind == FixKind::Exact)).count()
        };
        let counts: Vec<usize> = shown.iter().map(fixes).filter(|count| *count > 0).collect();
        match counts.len() {
            0 => self.complain("nothing that is shown has an exact fix".into()),
            files => self.asked = Some((counts.iter().sum(), files)),
        }
    }
}
