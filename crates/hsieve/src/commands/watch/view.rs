//! What the screen that stays shows.

use std::sync::Arc;

use sieve_rules::FixKind;

use super::block::{place, what};
use super::known::{Difference, Known};

/// What is shown.
#[derive(Debug, Default)]
pub struct View {
    /// The files that were saved since the start, the last one first.
    pub touched: Vec<Arc<str>>,
    /// What the last change brought to each of them.
    pub last: Difference,
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
        let touched: Vec<Arc<str>> = match changed {
            [] => Vec::new(),
            changed => changed.iter().map(|path| Arc::from(path.as_str())).collect(),
        };
        self.touched.retain(|path| !touched.contains(path));
        self.touched.splice(0..0, touched);
        // What it did elsewhere is a part of the same change.
        if !changed.is_empty() {
            self.last = Difference::default();
        }
        let others = difference.new.iter().map(|finding| &finding.path);
        let others: Vec<Arc<str>> = others.filter(|path| !self.touched.contains(path)).cloned().collect();
        for path in others {
            if !self.touched.contains(&path) {
                self.touched.push(path);
            }
        }
        self.last.new.extend(difference.new.iter().cloned());
        self.last.gone.extend(difference.gone.iter().cloned());
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
            shown.extend(known.files().keys().filter(|path| !self.touched.contains(path)).cloned());
        }
        shown
    }

    /// Asks whether the exact fixes of what is shown are to be applied.
    pub fn ask(&mut self, known: &Known) {
        let shown = self.shown(known);
        let fixes = |path: &Arc<str>| {
            let findings = known.files().get(path).into_iter().flatten();
            findings.filter(|finding| finding.fix.as_ref().is_some_and(|fix| fix.kind == FixKind::Exact)).count()
        };
        let counts: Vec<usize> = shown.iter().map(fixes).filter(|count| *count > 0).collect();
        match counts.len() {
            0 => self.complain("nothing that is shown has an exact fix".into()),
            files => self.asked = Some((counts.iter().sum(), files)),
        }
    }
}
