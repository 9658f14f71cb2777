//! Keeps only what a change brought: findings on changed lines, and those elsewhere in a changed file that the change caused.

use sieve_rules::RuleSet;
use sieve_syntax::text::Text;

use super::{Before, Request};
use crate::check::{FileOutcome, FileResult, OneFile, load, sift_text, sift_tree};
use crate::files::FileError;

use crate::git::{ChangedFile, ChangedLines, Changes};
use crate::hold::baseline::{Baseline, Matching};
use crate::outcome::Finding;
use crate::subject::{Subject, Wants};
use crate::workspace::discover::Candidate;

/// A changed file, and all that its strings before and after are sifted with.
pub(crate) struct ChangedSubject<'c> {
    pub(crate) file: &'c ChangedFile,
    pub(crate) candidate: &'c Candidate,
    pub(crate) before: &'c Before,
    pub(crate) request: &'c Request<'c>,
}

impl ChangedSubject<'_> {
    /// Drops from an outcome what was there before the change, and says there how much.
    pub(super) fn keep_in_outcome(&self, outcome: &mut FileOutcome) {
        let lines = &self.file.lines;
        outcome.unchanged = self.keep_caused(&mut outcome.findings, lines);
        outcome.unsure.retain(|place| lines.touch(place.start.line..=place.start.line));
    }

    /// Keeps the findings that the change brought into a text that may have been edited since.
    pub(crate) fn keep_in_text(&self, text: &Text, findings: &mut Vec<Finding>) {
        if self.file.lines != ChangedLines::All {
            let lines = self.texts_before().iter().fold(ChangedLines::All, |lines, before| {
                lines.and(ChangedLines::between(before.source().as_bytes(), text.source().as_bytes()))
            });
            self.keep_caused(findings, &lines);
        }
    }

    fn rules(&self) -> &RuleSet {
        self.request.settings.rule_set()
    }

    fn texts_before(&self) -> Vec<Text> {
        self.file.before.iter().filter_map(|bytes| load::text_of(self.candidate, bytes.clone()).ok()).collect()
    }

    /// Keeps the findings on some lines, and those elsewhere that were not there before; gives the others.
    fn keep_caused(&self, findings: &mut Vec<Finding>, lines: &ChangedLines) -> Vec<Finding> {
        if *lines == ChangedLines::All {
            return Vec::new();
        }
        let on_changed = |finding: &Finding| lines.touch(finding.start.line..=finding.end.line.max(finding.start.line));
        let (mut kept, elsewhere): (Vec<Finding>, Vec<Finding>) =
            std::mem::take(findings).into_iter().partition(on_changed);
        // A change in one line can make a finding in another, such as an import that nothing uses any more.
        let looks_around = |finding: &Finding| self.rules().rule(finding.rule).looks_around();
        let (mut caused, mut old): (Vec<Finding>, Vec<Finding>) = elsewhere.into_iter().partition(looks_around);
        if !caused.is_empty() {
            old.append(&mut self.take_old(&mut caused));
        }
        kept.append(&mut caused);
        kept.sort_by_key(|finding| (finding.start, finding.rule, finding.end));
        *findings = kept;
        old
    }

    /// Takes out the findings that a text before the change has, too.
    fn take_old(&self, findings: &mut Vec<Finding>) -> Vec<Finding> {
        let mut all_old = Vec::new();
        for before in self.texts_before() {
            let known = self.known_before(&before);
            let bare = |finding: &Finding| Finding { held: None, ..finding.clone() };
            let mut marked: Vec<Finding> = findings.iter().map(bare).collect();
            Matching::new(&known, self.rules()).match_file(&self.candidate.shown, &mut marked, None);
            let with_marks = std::mem::take(findings).into_iter().zip(marked);
            let (old, new): (Vec<_>, Vec<_>) = with_marks.partition(|(_, marked)| marked.held.is_some());
            *findings = new.into_iter().map(|(finding, _)| finding).collect();
            all_old.extend(old.into_iter().map(|(finding, _)| finding));
        }
        all_old
    }

    /// The findings of a text before the change, among the files of then, in the form that findings are recognised by.
    fn known_before(&self, text: &Text) -> Baseline {
        let wants = Wants { identities: true, ..Wants::NONE };
        let subject = Subject::of(self.candidate, &self.before.index, &self.before.project);
        let mut findings = sift_text(text, &subject, wants, self.request.today).findings;
        for finding in &mut findings {
            finding.held = None;
        }
        Baseline::of_file(&self.candidate.shown, &findings, self.rules(), self.request.today)
    }
}

/// Sifts a changed file, and keeps what the change brought.
pub(super) fn one_file(
    request: &Request<'_>,
    file: &OneFile<'_>,
    changes: &Changes,
    before: &Before,
) -> Result<FileResult, FileError> {
    let text = match load::text(file.candidate, request.project)? {
        Err(cause) => return Ok(FileResult::LeftOut(cause)),
        Ok(text) => text,
    };
    let subject = Subject::of(file.candidate, file.index, request.project);
    let tree = match load::tree_of(file.candidate, &text) {
        Err(cause) => return Ok(FileResult::LeftOut(cause)),
        Ok(tree) => tree,
    };
    let mut outcome = sift_tree(&text, &tree, &subject, file.wants, request.today);
    if let Some(lines) = changes.of(&file.candidate.path) {
        let changed = ChangedSubject { file: lines, candidate: file.candidate, before, request };
        changed.keep_in_outcome(&mut outcome);
    }
    Ok(FileResult::Sifted(outcome))
}
