//! Turns what a rule says into a finding that can be shown: place, level, excerpt, identity.

use std::sync::Arc;

use sieve_rules::{self as rules, Fix};
use sieve_syntax::text::{Place, Span, Text};
use sieve_syntax::tree::Tree;

use crate::hold::baseline::Identities;
use crate::outcome::{Excerpt, Finding, Held, RelatedPlace, UnsurePlace};
use crate::subject::{Subject, Wants};

/// The most characters of a line that an excerpt keeps.
const EXCERPT_WIDTH: u32 = 240;

/// A text with all that turns a rule's finding into one that can be shown.
#[derive(Clone, Copy)]
pub(crate) struct View<'v> {
    pub(crate) text: &'v Text,
    pub(crate) tree: &'v Tree,
    pub(crate) subject: &'v Subject<'v>,
    pub(crate) wants: Wants,
    pub(crate) identities: &'v Identities<'v>,
}

impl View<'_> {
    pub(crate) fn finding(&self, finding: rules::Finding) -> Finding {
        let identity = self.wants.identities.then(|| self.identities.of(&finding));
        let settings = self.subject.settings;
        let aside = settings.aside(finding.rule);
        let excerpt = self.wants.excerpts.then(|| excerpt(self.text, finding.span, finding.fix.as_ref()));
        Finding {
            rule: finding.rule,
            level: aside.map_or(settings.level(finding.rule), |aside| aside.level),
            path: Arc::clone(self.subject.shown),
            span: finding.span,
            start: self.text.place(finding.span.start),
            end: self.text.place(finding.span.end),
            message: finding.message,
            advice: finding.advice,
            related: finding.related.into_iter().map(|place| self.related(place)).collect(),
            fix: finding.fix,
            held: self.scope_of(finding.rule),
            identity: identity.map(Box::new),
            excerpt: excerpt.map(Box::new),
        }
    }

    /// What holds back the findings of a rule that a scope switches off.
    pub(crate) fn scope_of(&self, rule: rules::RuleId) -> Option<Held> {
        let aside = self.subject.settings.aside(rule)?;
        Some(Held::Scope { at: self.subject.settings_place(&aside.source), reason: aside.because.clone() })
    }

    fn related(&self, place: rules::Related) -> RelatedPlace {
        match place {
            rules::Related::Here { span, label } => RelatedPlace {
                path: Arc::clone(self.subject.shown),
                start: self.text.place(span.start),
                end: self.text.place(span.end),
                label,
            },
            rules::Related::Elsewhere { path, line, label } => {
                let project = self.subject.project;
                let start = Place { line, column: 1 };
                let path = project.shown(&project.root.join(path)).into();
                RelatedPlace { path, start, end: start, label }
            }
        }
    }

    pub(crate) fn unsure(&self, unsure: &rules::Unsure) -> UnsurePlace {
        UnsurePlace {
            rule: unsure.rule,
            path: Arc::clone(self.subject.shown),
            start: self.text.place(unsure.span.start),
            reason: unsure.reason.into(),
        }
    }
}

/// The lines around a place, and the places of a fix.
pub(crate) fn excerpt(text: &Text, span: Span, fix: Option<&Fix>) -> Excerpt {
    let lines = text.lines();
    let number = lines.line_of(span.start);
    let line = lines.line(text.source(), number);
    let column = text.place(span.start).column;
    let cut = if column > EXCERPT_WIDTH { column - EXCERPT_WIDTH / 3 } else { 0 };
    let mut characters = text.slice(line).chars().skip(cut as usize);
    let part: String = characters.by_ref().take(EXCERPT_WIDTH as usize).collect();
    let before = (number > 1).then(|| text.slice(lines.line(text.source(), number - 1)));
    let before = before.filter(|before| !before.trim().is_empty() && cut == 0);
    Excerpt {
        before: before.map(|before| before.chars().take(EXCERPT_WIDTH as usize).collect()),
        line: part,
        cut,
        goes_on: characters.next().is_some(),
        edits: fix.map_or(Vec::new(), |fix| fix.edits.iter().map(|edit| places(text, edit.span)).collect()),
    }
}

fn places(text: &Text, span: Span) -> (Place, Place) {
    (text.place(span.start), text.place(span.end))
}
