//! Walks through the fixes that somebody must check: one at a time, each shown with what it changes.

use std::collections::BTreeSet;
use std::sync::Arc;

use sieve_rules::{Edit, FixKind, RuleId};
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use super::diff::unified_diff;
use super::rounds::{Blame, FixedText, moved, with_edits};
use super::{Around, FixOutcome, FixedFile, Reading, read};
use crate::check::sift_tree;
use crate::edits::{Whole, new_faults};
use crate::outcome::Finding;
use crate::run::Request;
use crate::settings::SettingsError;
use crate::subject::{Subject, Wants};
use crate::workspace::discover;

/// A fix to decide on.
#[derive(Debug)]
pub struct Proposal<'p> {
    /// The finding that it removes, with the lines around it.
    pub finding: &'p Finding,
    /// What it changes, as a unified diff.
    pub diff: &'p [u8],
}

/// What to do with a proposal.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Decision {
    /// Take it.
    Yes,
    /// Leave it.
    No,
    /// Take it and all others of its rule.
    AllOfRule,
    /// Leave it and all others.
    Quit,
}

/// Asks about each fix to review of a finding that nothing holds back, in the order of their places. Writes nothing.
///
/// # Errors
/// When a settings file is wrong.
pub fn review(
    request: &Request<'_>,
    decide: &mut dyn FnMut(&Proposal<'_>) -> Decision,
) -> Result<FixOutcome, SettingsError> {
    let discovery = discover::discover(&request.search())?;
    let around = Around::of(request);
    let mut outcome =
        FixOutcome { errors: discovery.errors, looked_at: discovery.files.len(), ..FixOutcome::default() };
    let mut walk = Walk { decide, all_of: BTreeSet::new(), over: false };
    for candidate in &discovery.files {
        if walk.over {
            break;
        }
        let reading = match read(request, candidate, around.before.as_ref()) {
            Ok(Some(reading)) => reading,
            Ok(None) => continue,
            Err(error) => {
                outcome.errors.push(error);
                continue;
            }
        };
        let subject = Subject::of(candidate, &around.index, request.project);
        let mut fixed = walk.one_text(request, &reading, &subject);
        let after = reading.encoded(&mut fixed);
        outcome.blamed.extend(fixed.blamed.drain(..).map(|blame| (Arc::clone(&candidate.shown), blame)));
        if after != reading.before {
            let (path, shown) = (candidate.path.clone(), Arc::clone(&candidate.shown));
            outcome.files.push(FixedFile { path, shown, before: reading.before, after, fixed, moved_to: None });
        }
    }
    Ok(outcome)
}

struct Walk<'w> {
    decide: &'w mut dyn FnMut(&Proposal<'_>) -> Decision,
    /// Rules whose fixes are all to be taken.
    all_of: BTreeSet<RuleId>,
    over: bool,
}

impl Walk<'_> {
    fn one_text(&mut self, request: &Request<'_>, reading: &Reading<'_>, subject: &Subject<'_>) -> FixedText {
        let mut text = reading.text.clone();
        let mut tree = subject.language.parse(&text);
        let mut result = FixedText::default();
        // Where findings begin that were declined or cannot be fixed, kept in step with the text.
        let mut left: Vec<(RuleId, u32)> = Vec::new();
        let wants = Wants { identities: reading.identities, excerpts: true, ..Wants::NONE };
        while !self.over {
            let mut found = sift_tree(&text, &tree, subject, wants, request.today);
            (reading.keep)(&text, &mut found);
            let next = found.findings.iter().find(|finding| {
                let to_review = finding.fix.as_ref().is_some_and(|fix| fix.kind == FixKind::Review);
                to_review && finding.held.is_none() && !left.contains(&(finding.rule, finding.span.start))
            });
            let Some(finding) = next else { break };
            let edits = finding.fix.as_ref().map_or(&[][..], |fix| &fix.edits);
            let Some((new_text, new_tree)) = applied(&text, &tree, edits, subject) else {
                result.blamed.push(Blame::BrokeSyntax(finding.rule));
                left.push((finding.rule, finding.span.start));
                continue;
            };
            if self.takes(finding, &text, &new_text) {
                let mut edits: Vec<&Edit> = edits.iter().collect();
                edits.sort_by_key(|edit| edit.span);
                for (_, start) in &mut left {
                    *start = moved(*start, &edits);
                }
                *result.applied.entry(finding.rule).or_insert(0) += 1;
                // A fix that does not remove its finding would be proposed for ever.
                left.push((finding.rule, moved(finding.span.start, &edits)));
                (text, tree) = (new_text, new_tree);
            } else {
                left.push((finding.rule, finding.span.start));
            }
        }
        result.source = text.source().to_string();
        result
    }

    fn takes(&mut self, finding: &Finding, before: &Text, after: &Text) -> bool {
        if self.all_of.contains(&finding.rule) {
            return true;
        }
        let diff = unified_diff(finding.path.as_bytes(), before.source().as_bytes(), after.source().as_bytes());
        match (self.decide)(&Proposal { finding, diff: &diff }) {
            Decision::Yes => true,
            Decision::No => false,
            Decision::AllOfRule => self.all_of.insert(finding.rule),
            Decision::Quit => {
                self.over = true;
                false
            }
        }
    }
}

/// The text with edits in it, if it is no worse for it.
fn applied(text: &Text, tree: &Tree, edits: &[Edit], subject: &Subject<'_>) -> Option<(Text, Tree)> {
    let (new, new_tree) = with_edits(text, &edits.iter().collect::<Vec<_>>(), subject);
    let whole = |text, tree| Whole::of(subject.language, text, tree);
    let is_worse = || new_faults(&whole(text, tree), &whole(&new, &new_tree)).is_some();
    if new.source() == text.source() || is_worse() {
        return None;
    }
    Some((new, new_tree))
}
