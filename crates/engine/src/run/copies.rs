//! Copies of code that go over files: the windows of all files of a run are compared when the files are done.

use std::collections::BTreeMap;
use std::path::Path;

use rayon::prelude::*;
use sieve_rules as rules;
use sieve_rules::catalogue;
use sieve_rules::copies::{ADVICE, Copied, Window, copies};
use sieve_syntax::text::Text;

use crate::check::load;
use crate::join::Index;
use crate::outcome::{Finding, Outcome, WaiverNote, WaiverState};
use crate::project::relative;
use crate::subject::{Subject, Wants};
use crate::workspace::discover::Candidate;
use crate::workspace::shares::in_shares;

use super::{Request, in_pool};
use crate::check::view::View;
use crate::hold::baseline::Identities;
use crate::hold::waiver::{Waivers, add_settings_waivers, hold_back, hold_by_settings};

/// A file of the run, and its code that may be in others too.
pub(crate) type Windowed<'r> = (&'r Candidate, Vec<Window>);

/// What is found in one file, and which of its waivers hold some of it back.
struct InFile<'r> {
    candidate: &'r Candidate,
    findings: Vec<Finding>,
    notes: Vec<WaiverNote>,
}

/// A finding for each stretch that is in an earlier file too. What holds them back is counted at the waivers of the outcome.
pub(crate) fn copied(request: &Request<'_>, files: &[Windowed<'_>], outcome: &mut Outcome) -> Vec<Finding> {
    let all: Vec<&[Window]> = files.iter().map(|(_, windows)| windows.as_slice()).collect();
    let mut by_file: BTreeMap<usize, Vec<Copied>> = BTreeMap::new();
    for copied in copies(&all).into_iter().filter(|copied| copied.file != copied.first_file) {
        by_file.entry(copied.file).or_default().push(copied);
    }
    let by_file: Vec<(usize, Vec<Copied>)> = by_file.into_iter().collect();
    let found: Vec<Option<InFile<'_>>> = in_pool(request.threads, || {
        in_shares(&by_file).map(|(file, copied)| in_file(request, files, files[*file].0, copied)).collect()
    });
    let mut findings = Vec::new();
    for file in found.into_iter().flatten() {
        count_at_waivers(&mut outcome.waivers, &file.notes);
        add_settings_waivers(&mut outcome.waivers, &file.findings, request.project, file.candidate);
        findings.extend(file.findings);
    }
    findings
}

/// The findings of one file, held back by what holds for it. Nothing where it cannot be read as it was.
fn in_file<'r>(
    request: &Request<'_>,
    files: &[Windowed<'_>],
    candidate: &'r Candidate,
    copied: &[Copied],
) -> Option<InFile<'r>> {
    let text = load::text(candidate, request.project).ok()?.ok()?;
    let tree = candidate.language.parse(&text);
    let index = Index::default();
    let subject = Subject::of(candidate, &index, request.project);
    let wants = Wants { identities: request.needs_identities(), ..request.wants };
    let identities = Identities::new(&text, &tree);
    let view = View { text: &text, tree: &tree, subject: &subject, wants, identities: &identities };
    let of_copy = |copied: &Copied| {
        Some(view.finding(finding(&request.project.root, &text, copied, files[copied.first_file].0)?))
    };
    let mut findings: Vec<Finding> = copied.iter().filter_map(of_copy).collect();
    let mut waivers = Waivers::of(&text, [&tree], subject.settings.rule_set(), request.today);
    hold_back(&mut waivers, &text, &mut findings, &[]);
    hold_by_settings(&subject, (&text, &tree), &mut findings, request.today);
    let notes = waivers.notes(&text, &candidate.shown, &candidate.settings);
    Some(InFile { candidate, findings, notes })
}

/// What is said of a copy; nothing if its file was changed meanwhile.
fn finding(root: &Path, text: &Text, copied: &Copied, first: &Candidate) -> Option<rules::Finding> {
    text.source().get(copied.span.start as usize..copied.span.end as usize)?;
    Some(rules::Finding {
        rule: catalogue::named("repeated-block")?,
        span: copied.span,
        message: format!("these statements are a copy of those in {}:{}", first.shown, copied.first_line),
        advice: Some(ADVICE.into()),
        related: vec![rules::Related::Elsewhere {
            path: relative(root, &first.path)?,
            line: copied.first_line,
            label: "the first copy begins here".into(),
        }],
        fix: None,
        anchor: None,
        unless: None,
    })
}

/// Adds what the waivers of a file hold back here to what they hold back in the file itself.
fn count_at_waivers(all: &mut [WaiverNote], notes: &[WaiverNote]) {
    for note in notes.iter().filter(|note| note.holds > 0) {
        let known = all.iter_mut().find(|known| known.path == note.path && known.line == note.line);
        if let Some(known) = known {
            known.holds += note.holds;
            known.state = WaiverState::Holds;
        }
    }
}
