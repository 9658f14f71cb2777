//! Waivers that are in the settings, for whole paths.

use std::sync::Arc;

use jiff::civil::Date;
use sieve_meaning::data::{Data, Value};
use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::Tree;

use crate::outcome::{Finding, Held, Outcome, WaiverNote, WaiverState};
use crate::project::Project;
use crate::subject::Subject;
use crate::workspace::discover::Candidate;

/// Marks the findings that a waiver in the settings covers: in all of the file, or at one place of its data.
pub(crate) fn hold_by_settings(
    subject: &Subject<'_>,
    (text, tree): (&Text, &Tree),
    findings: &mut [Finding],
    today: Date,
) {
    for waiver in subject.settings.waivers().iter().filter(|waiver| waiver.until.is_none_or(|day| day >= today)) {
        let mut covered = findings
            .iter_mut()
            .filter(|finding| waiver.rules.contains(&finding.rule) && finding.held.is_none())
            .peekable();
        if covered.peek().is_none() {
            continue;
        }
        let stretches = waiver.pointer.as_deref().map(|pointer| stretches_at(subject.language, text, tree, pointer));
        let is_there = |finding: &&mut Finding| {
            stretches.as_ref().is_none_or(|all| all.iter().any(|stretch| stretch.contains(finding.span)))
        };
        let at = subject.settings_place(&waiver.source);
        for finding in covered.filter(is_there) {
            finding.held = Some(Held::SettingsWaiver { at: at.clone(), reason: waiver.because.clone() });
        }
    }
}

/// The entries that a pointer leads to, one in each document of a file of data: their keys with their values.
fn stretches_at(language: Language, text: &Text, tree: &Tree, pointer: &str) -> Vec<Span> {
    if !language.is_data() {
        return Vec::new();
    }
    let data = Data::of(language, text, tree);
    let entry = |value: Value<'_, '_>| {
        let (key, value) = (value.key_span(), value.span());
        key.map_or(value, |key| Span::new(key.start.min(value.start), key.end.max(value.end)))
    };
    data.documents().filter_map(|document| document.at(pointer)).map(entry).collect()
}

/// Waivers of the settings, once each, with what they hold back in this file.
pub(crate) fn add_settings_waivers(
    notes: &mut Vec<WaiverNote>,
    findings: &[Finding],
    project: &Project,
    candidate: &Candidate,
) {
    for waiver in candidate.settings.waivers() {
        let path: Arc<str> = project.shown(&waiver.source.path).into();
        let at = format!("{path}:{}", waiver.source.line);
        let by_it =
            |finding: &&Finding| matches!(&finding.held, Some(Held::SettingsWaiver { at: held, .. }) if *held == at);
        let holds = findings.iter().filter(by_it).count() as u32;
        let known = notes.iter_mut().find(|note| note.path == path && note.line == waiver.source.line);
        match known {
            Some(note) => note.holds += holds,
            None => notes.push(WaiverNote {
                path,
                line: waiver.source.line,
                names: waiver.names.clone(),
                reason: Some(waiver.because.clone()),
                until: waiver.until,
                holds,
                state: WaiverState::Holds,
            }),
        }
    }
}

/// What the waivers of the settings have come to, when all files are done.
pub(crate) fn settle_waivers(outcome: &mut Outcome, today: Date) {
    for note in &mut outcome.waivers {
        if note.until.is_some_and(|day| day < today) {
            note.state = WaiverState::Expired;
        } else if note.holds == 0 && note.state == WaiverState::Holds {
            note.state = WaiverState::Stale;
        }
    }
    outcome.waivers.sort_by(|one, other| (one.state, &one.path, one.line).cmp(&(other.state, &other.path, other.line)));
}
