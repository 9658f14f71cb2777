//! Which findings the waivers of a file hold back.

use std::sync::Arc;

use jiff::civil::Date;
use sieve_rules::catalogue::{self, history};
use sieve_rules::{Concern, Level, Rule, RuleId, Unsure};
use sieve_syntax::text::Text;
use sieve_syntax::tree::{TokenKind, Tree};

use super::directive::{self, Directive, Verb};
use super::region::{self, Lines};
use crate::outcome::{Finding, Held, WaiverNote, WaiverState};
use crate::settings::Effective;

/// What a name in a waiver stands for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Waived {
    Rule(RuleId),
    Concern(Concern),
    /// Neither a rule nor a concern has this name.
    Nothing,
}

impl Waived {
    fn named(name: &str) -> Waived {
        match (history::known(name), Concern::named(name)) {
            (Some(known), _) => Waived::Rule(known.rule),
            (None, Some(concern)) => Waived::Concern(concern),
            (None, None) => Waived::Nothing,
        }
    }

    pub(super) fn covers(self, id: RuleId, rule: &Rule) -> bool {
        match self {
            Waived::Rule(waived) => waived == id,
            Waived::Concern(concern) => rule.concern == concern,
            Waived::Nothing => false,
        }
    }

    /// Whether all rules that it stands for are on and need no other file, so that they would have found what the waiver is for.
    pub(super) fn would_show(self, settings: &Effective) -> bool {
        let mut covered = catalogue::rules().filter(|(id, rule)| self.covers(*id, rule));
        covered.all(|(id, rule)| settings.level(id) != Level::Off && !rule.goes_over_files())
    }
}

/// A directive with the lines it holds for and what its names stand for.
#[derive(Debug)]
pub(super) struct Waiver {
    pub(super) directive: Directive,
    pub(super) lines: Lines,
    /// For each name: what it stands for, and how many findings and undecided places it covers.
    pub(super) names: Vec<(Waived, u32)>,
    /// How many findings it holds back.
    pub(super) holds: u32,
    pub(super) expired: bool,
}

/// The waivers of a file.
#[derive(Debug, Default)]
pub(crate) struct Waivers {
    pub(super) all: Vec<Waiver>,
}

impl Waivers {
    /// Reads the directives in a file's comments. Costs one search where there are none.
    pub(crate) fn of(text: &Text, tree: &Tree, today: Date) -> Waivers {
        let mut waivers = Waivers::default();
        if memchr::memmem::find(text.source().as_bytes(), b"sieve:").is_none() {
            return waivers;
        }
        for (token, kind) in tree.tokens().iter().map(|token| token.kind).enumerate() {
            if kind != TokenKind::Comment {
                continue;
            }
            let comment = tree.token_span(token as u32);
            if let Some(directive) = directive::read(comment, text.slice(comment)) {
                waivers.add(text, tree, directive, today);
            }
        }
        waivers
    }

    fn add(&mut self, text: &Text, tree: &Tree, directive: Directive, today: Date) {
        let line = text.lines().line_of(directive.comment.start);
        let lines = match directive.verb {
            Some(Verb::Waive) => region::of_comment(text, tree, directive.comment),
            Some(Verb::WaiveFile) => 0..=u32::MAX,
            Some(Verb::Pause) => line..=u32::MAX,
            Some(Verb::Resume) => {
                self.resume(&directive, line);
                line..=line
            }
            Some(Verb::Tells) | None => line..=line,
        };
        let names = directive.names.iter().map(|name| (Waived::named(&name.text), 0)).collect();
        let expired = directive.until.is_some_and(|last_day| last_day < today);
        self.all.push(Waiver { directive, lines, names, holds: 0, expired });
    }

    /// The waivers as a list.
    pub(crate) fn notes(&self, text: &Text, path: &Arc<str>, settings: &Effective) -> Vec<WaiverNote> {
        let holding =
            |waiver: &&Waiver| matches!(waiver.directive.verb, Some(Verb::Waive | Verb::WaiveFile | Verb::Pause));
        self.all.iter().filter(holding).map(|waiver| waiver.note(text, path, settings)).collect()
    }

    /// Ends the pauses before it: those with one of its names, or all if it has none.
    fn resume(&mut self, resume: &Directive, line: u32) {
        for pause in self.all.iter_mut().filter(|waiver| waiver.directive.verb == Some(Verb::Pause)) {
            let names = &pause.directive.names;
            let meant = resume.names.is_empty()
                || names.iter().any(|name| resume.names.iter().any(|other| other.text == name.text));
            if meant && *pause.lines.end() == u32::MAX {
                pause.lines = *pause.lines.start()..=line;
            }
        }
    }
}

impl Waiver {
    fn note(&self, text: &Text, path: &Arc<str>, settings: &Effective) -> WaiverNote {
        let covers = self.names.iter().any(|(_, covered)| *covered > 0);
        let state = match self.holds {
            _ if self.expired => WaiverState::Expired,
            0 if covers || !self.names.iter().all(|(waived, _)| waived.would_show(settings)) => WaiverState::Unsure,
            0 => WaiverState::Stale,
            _ => WaiverState::Holds,
        };
        WaiverNote {
            path: Arc::clone(path),
            line: text.lines().line_of(self.directive.comment.start),
            names: self.directive.names.iter().map(|name| name.text.clone()).collect(),
            reason: self.directive.reason.clone(),
            until: self.directive.until,
            holds: self.holds,
            state,
        }
    }
}

/// Marks the findings that a waiver covers, and counts them at the waiver.
/// A place that a rule could not decide counts too: with more knowledge it might be what the waiver is for.
pub(crate) fn hold_back(waivers: &mut Waivers, text: &Text, findings: &mut [Finding], unsure: &[Unsure]) {
    for waiver in &mut waivers.all {
        let holds = matches!(waiver.directive.verb, Some(Verb::Waive | Verb::WaiveFile | Verb::Pause));
        if !holds || waiver.expired {
            continue;
        }
        for place in unsure.iter().filter(|place| waiver.lines.contains(&text.lines().line_of(place.span.start))) {
            let rule = catalogue::rule(place.rule);
            for (_, held) in waiver.names.iter_mut().filter(|(waived, _)| waived.covers(place.rule, rule)) {
                *held += 1;
            }
        }
        let line = text.lines().line_of(waiver.directive.comment.start);
        for finding in findings.iter_mut().filter(|finding| waiver.lines.contains(&finding.start.line)) {
            let rule = catalogue::rule(finding.rule);
            for (_, held) in waiver.names.iter_mut().filter(|(waived, _)| waived.covers(finding.rule, rule)) {
                *held += 1;
                waiver.holds += 1;
                finding.held.get_or_insert_with(|| Held::Waiver { line, reason: waiver.directive.reason.clone() });
            }
        }
    }
}
