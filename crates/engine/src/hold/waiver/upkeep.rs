//! What is to be said of the waivers themselves.

use sieve_rules::catalogue::history;
use sieve_rules::{Concern, Edit, Finding, Fix, FixKind, Level};
use sieve_syntax::text::{Span, Text};

use super::apply::{Waived, Waiver, Waivers};
use super::directive::{Verb, Word, verbs};
use super::region;
use crate::settings::{Effective, nearest};

/// Findings about waivers, for the rules of upkeep that are on. To be called when the waivers have held back what they can.
pub(crate) fn upkeep_findings(waivers: &Waivers<'_>, text: &Text, settings: &Effective) -> Vec<Finding> {
    let mut found = Found { settings, findings: Vec::new() };
    for waiver in &waivers.all {
        match waiver.directive.verb {
            None => found.unknown_verb(&waiver.directive.verb_word),
            Some(Verb::Tells) => {}
            Some(Verb::Resume) => found.on_resume(waiver),
            Some(_) => found.on_waiver(waiver, text),
        }
    }
    found.findings
}

/// The rule about directives that cannot be understood.
const BROKEN: &str = "broken-directive";

struct Found<'s> {
    settings: &'s Effective,
    findings: Vec<Finding>,
}

impl Found<'_> {
    fn add(&mut self, rule: &str, span: Span, message: String, advice: String, edits: Vec<Edit>) {
        let Some(rule) = self.settings.rule_set().named(rule).filter(|rule| self.settings.level(*rule) != Level::Off)
        else {
            return;
        };
        let fix = (!edits.is_empty()).then_some(Fix { kind: FixKind::Exact, edits });
        self.findings.push(Finding {
            rule,
            span,
            message,
            advice: Some(advice.into()),
            related: Vec::new(),
            fix,
            anchor: None,
            unless: None,
        });
    }

    fn unknown_verb(&mut self, word: &Word) {
        let message = format!("\"{}\" is no directive{}", word.text, nearest(&word.text, verbs()));
        self.add(BROKEN, word.span, message, "correct it, or remove the comment".into(), Vec::new());
    }

    fn on_resume(&mut self, resume: &Waiver) {
        let advice = || "remove it, or write the pause that it ends".to_string();
        let directive = &resume.directive;
        if directive.names.is_empty() && resume.resumes_nothing {
            self.add(BROKEN, directive.span, "nothing is paused here".into(), advice(), Vec::new());
        }
        for name in resume.not_paused.iter().map(|index| &directive.names[*index]) {
            self.add(BROKEN, name.span, format!("\"{}\" is not paused here", name.text), advice(), Vec::new());
        }
        self.unknown_names(resume);
    }

    fn on_waiver(&mut self, waiver: &Waiver, text: &Text) {
        let directive = &waiver.directive;
        if directive.names.is_empty() {
            let message = "this waiver names no rule".to_string();
            self.add(
                "unknown-waived-rule",
                directive.verb_word.span,
                message,
                "name what it is for".into(),
                Vec::new(),
            );
        }
        if directive.reason.is_none() {
            let message = "this waiver gives no reason".to_string();
            let span = Span::new(
                directive.span.start,
                directive.names.last().map_or(directive.span.end, |name| name.span.end),
            );
            self.add("unexplained-waiver", span, message, "say why: because …".into(), Vec::new());
        }
        if let Some(word) = &directive.wrong_day {
            let (span, message) = match word.text.as_str() {
                "" => (directive.span, "this waiver names no last day behind \"until\"".to_string()),
                text => (word.span, format!("\"{text}\" is no day, so this waiver holds nothing back")),
            };
            self.add(BROKEN, span, message, "write the last day like 2027-03-01".into(), Vec::new());
            return;
        }
        if waiver.expired {
            let last_day = directive.until.map(|day| day.to_string()).unwrap_or_default();
            let message = format!("this waiver held until {last_day} and holds no longer");
            self.add(
                "expired-waiver",
                directive.span,
                message,
                "fix what it was for, or give it a new last day".into(),
                Vec::new(),
            );
            return;
        }
        self.on_names(waiver, text);
    }

    fn unknown_names(&mut self, waiver: &Waiver) {
        for (index, _) in waiver.names.iter().enumerate().filter(|(_, (waived, _))| *waived == Waived::Nothing) {
            let name = &waiver.directive.names[index];
            let known = self.settings.rule_set().names().chain(Concern::ALL.iter().map(|concern| concern.word()));
            let message = format!("there is no rule or concern \"{}\"{}", name.text, nearest(&name.text, known));
            self.add("unknown-waived-rule", name.span, message, "correct the name".into(), Vec::new());
        }
    }

    fn on_names(&mut self, waiver: &Waiver, text: &Text) {
        self.unknown_names(waiver);
        for (index, (waived, held)) in waiver.names.iter().enumerate() {
            let name = &waiver.directive.names[index];
            if let Some(history::Known { rule, renamed_in: Some(release) }) = history::known(&name.text) {
                let new = self.settings.rule_set().name(rule);
                let message = format!("\"{}\" is called {new} since {release}", name.text);
                let edits = vec![Edit::replace(name.span, new)];
                self.add("renamed-rule", name.span, message, "use the name of today".into(), edits);
            }
            if *held == 0 && *waived != Waived::Nothing && waived.would_show(self.settings) {
                let message = format!("nothing here is held back by waiving {}", name.text);
                let edits = removal(waiver, index, text);
                self.add("stale-waiver", name.span, message, "remove it".into(), edits);
            }
        }
    }
}

/// Removes one name, or the whole comment with its last one.
fn removal(waiver: &Waiver, index: usize, text: &Text) -> Vec<Edit> {
    let names = &waiver.directive.names;
    if names.len() > 1 {
        let span = match names.get(index + 1) {
            Some(next) => Span::new(names[index].span.start, next.span.start),
            None => Span::new(names[index - 1].span.end, names[index].span.end),
        };
        return vec![Edit::remove(span)];
    }
    let comment = waiver.directive.comment;
    let line = text.lines().line_of(comment.start);
    if region::stands_alone(text, comment) {
        return vec![Edit::remove(text.lines().full_line(line))];
    }
    let before = text.slice(Span::new(text.lines().full_line(line).start, comment.start));
    let blanks = before.len() - before.trim_end().len();
    vec![Edit::remove(Span::new(comment.start - blanks as u32, comment.end))]
}
