//! Findings as diagnostics.

use std::collections::BTreeMap;
use std::sync::Arc;

use lsp_types::{
    CodeDescription, Diagnostic, DiagnosticRelatedInformation, DiagnosticSeverity, DiagnosticTag, Location,
    NumberOrString, Position, Range, Uri,
};
use sieve_engine::outcome::{Finding, RelatedPlace};
use sieve_engine::project::Project;
use sieve_engine::settings::SettingsError;
use sieve_rules::{Concern, Level, RuleSet};
use sieve_syntax::text::{Place, Text};

use super::client::Abilities;
use super::pages::Pages;
use super::uri::uri_of;

/// What diagnostics say they come from.
pub const SOURCE: &str = "hsieve";

/// A larger file is not read to count the columns of a place in it, in bytes.
const LARGEST: u64 = 32 << 20;

/// Makes diagnostics of findings.
pub struct Form<'f> {
    /// The rules.
    pub rules: &'f RuleSet,
    /// Where paths start.
    pub project: &'f Project,
    /// What the client understands.
    pub able: Abilities,
    /// Whether what is held back is shown as a hint.
    pub shows_held: bool,
    /// The pages of rules.
    pub pages: &'f Pages,
}

impl Form<'_> {
    /// The diagnostics of findings in a file with this text.
    pub fn all_in(&self, text: &Text, findings: &[&Finding]) -> Vec<Diagnostic> {
        let mut lines = Lines::of(self);
        let shown = findings.iter().filter(|finding| self.shows(finding));
        shown.map(|finding| self.one(finding, self.able.units.range(text, finding.span), &mut lines)).collect()
    }

    /// The diagnostics of findings in files that are not open.
    pub fn all_of_disk(&self, findings: &[Finding]) -> Vec<Diagnostic> {
        let mut lines = Lines::of(self);
        let shown = findings.iter().filter(|finding| self.shows(finding));
        shown
            .map(|finding| {
                let range = lines.range(&finding.path, finding.start, finding.end);
                self.one(finding, range, &mut lines)
            })
            .collect()
    }

    fn shows(&self, finding: &Finding) -> bool {
        finding.held.is_none() || self.shows_held
    }

    fn one(&self, finding: &Finding, range: Range, lines: &mut Lines<'_>) -> Diagnostic {
        let rule = self.rules.rule(finding.rule);
        let mut message = finding.message.clone();
        if let Some(advice) = &finding.advice {
            message = format!("{message}\n{advice}");
        }
        let severity = match finding.level {
            _ if finding.held.is_some() => DiagnosticSeverity::HINT,
            Level::Error => DiagnosticSeverity::ERROR,
            Level::Warning => DiagnosticSeverity::WARNING,
            _ => DiagnosticSeverity::INFORMATION,
        };
        let related = self.able.related && !finding.related.is_empty();
        let related = related.then(|| finding.related.iter().map(|place| self.related(place, lines)).collect());
        let href = self.pages.uri(rule);
        Diagnostic {
            range,
            severity: Some(severity),
            code: Some(NumberOrString::String(rule.name.to_string())),
            code_description: href.map(|href| CodeDescription { href }),
            source: Some(SOURCE.to_string()),
            message,
            related_information: related,
            tags: (rule.concern == Concern::Leftover).then(|| vec![DiagnosticTag::UNNECESSARY]),
            data: None,
        }
    }

    fn related(&self, place: &RelatedPlace, lines: &mut Lines<'_>) -> DiagnosticRelatedInformation {
        DiagnosticRelatedInformation {
            location: Location::new(self.uri(&place.path), lines.range(&place.path, place.start, place.end)),
            message: place.label.clone(),
        }
    }

    fn uri(&self, shown: &str) -> Uri {
        uri_of(&self.project.path_of(shown))
    }
}

/// What is wrong with a settings file.
pub fn of_settings(error: &SettingsError, text: Option<&Text>, able: Abilities) -> Diagnostic {
    let place = error.place.unwrap_or(Place { line: 1, column: 1 });
    let line = text.map(|text| text.slice(text.lines().line(text.source(), place.line)));
    let start = able.units.of_place(place, line);
    // To the end of the word, or of the string.
    let rest = line.and_then(|line| line.get(line.char_indices().nth(place.column as usize - 1)?.0..));
    let length = rest.map_or(1, |rest| {
        let is_part = |one: char| one.is_alphanumeric() || "-_:\"".contains(one);
        rest.chars().take_while(|one| is_part(*one)).count().max(1)
    });
    let end = able.units.of_place(Place { column: place.column + length as u32, ..place }, line);
    Diagnostic {
        range: Range::new(start, end),
        severity: Some(DiagnosticSeverity::ERROR),
        source: Some(SOURCE.to_string()),
        message: error.message.clone(),
        ..Diagnostic::default()
    }
}

/// The lines of other files, read where columns cannot be counted without them.
struct Lines<'l> {
    form: &'l Form<'l>,
    texts: BTreeMap<Arc<str>, Option<Text>>,
}

impl<'l> Lines<'l> {
    fn of(form: &'l Form<'l>) -> Lines<'l> {
        Lines { form, texts: BTreeMap::new() }
    }

    fn range(&mut self, path: &Arc<str>, start: Place, end: Place) -> Range {
        Range::new(self.position(path, start), self.position(path, end))
    }

    fn position(&mut self, path: &Arc<str>, place: Place) -> Position {
        let units = self.form.able.units;
        if place.column <= 1 {
            return units.of_place(place, None);
        }
        let project = self.form.project;
        let read = || {
            let bytes = project.files.read(&project.path_of(path), LARGEST).ok()?;
            (!bytes.is_ascii()).then(|| Text::new(String::from_utf8_lossy(&bytes).into_owned()))
        };
        let text = self.texts.entry(Arc::clone(path)).or_insert_with(read).as_ref();
        units.of_place(place, text.map(|text| text.slice(text.lines().line(text.source(), place.line))))
    }
}
