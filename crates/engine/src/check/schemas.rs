//! Holds the values of a data file against the schemas that settings name for it, and against the one that it names itself.

use sieve_meaning::data::{Data, Value};
use sieve_rules::schema::{MOST, Schema, TOO_LARGE};
use sieve_rules::{Finding, Level, RuleId, Unsure, file_beside};

use super::view::View;
use crate::subject::Subject;

/// The rule that reports what a schema does not allow.
const RULE: &str = "schema-check";

/// The key of a document that names its own schema.
const OWN: &str = "$schema";

/// What schemas have against the documents of a file.
#[derive(Default)]
pub(super) struct SchemaReport {
    pub(super) findings: Vec<Finding>,
    /// Documents that are too large to be decided.
    pub(super) unsure: Vec<Unsure>,
    /// The file that has the document's own schema, where that file has not been asked yet: its path from the root.
    pub(super) asked: Option<String>,
}

/// Holds the documents of a file against their schemas.
pub(super) fn check_schemas(view: &View<'_>) -> SchemaReport {
    let View { text, tree, subject, .. } = *view;
    let settings = subject.settings;
    let mut report = SchemaReport::default();
    let names_its_own = || memchr::memmem::find(text.source().as_bytes(), OWN.as_bytes()).is_some();
    if !subject.language.is_data() {
        return report;
    }
    let placed: Vec<_> = settings.schemas_of(subject.path).collect();
    // Few files have a schema.
    if placed.is_empty() && !names_its_own() {
        return report;
    }
    let rule = settings.rule_set().named(RULE).filter(|rule| settings.level(*rule) != Level::Off);
    let Some(rule) = rule else { return report };
    let data = Data::of(subject.language, text, tree);
    for document in data.documents() {
        for placed in &placed {
            hold_against(&placed.schema, rule, document, || placed.advice(subject.project), &mut report);
        }
        let Some(path) = own_schema(document, subject) else { continue };
        if !subject.asks_others {
            report.asked = Some(path);
        } else if let Some(own) = subject.index.schemas.named(subject.project, &path) {
            let advice = || format!("{} says what may be here", subject.project.shown(&own.path));
            hold_against(&own.schema, rule, document, advice, &mut report);
        }
    }
    report
}

/// The file of the code base that a document names as the one of its schema: its path from the root. An address names none.
fn own_schema(document: Value<'_, '_>, subject: &Subject<'_>) -> Option<String> {
    let named = document.get(OWN)?.as_str()?;
    Some(file_beside(&subject.rooted_path(), &named)?.path)
}

fn hold_against(
    schema: &Schema,
    rule: RuleId,
    document: Value<'_, '_>,
    advice: impl Fn() -> String,
    report: &mut SchemaReport,
) {
    match schema.problems(document, MOST) {
        Ok(problems) => report.findings.extend(problems.into_iter().map(|problem| Finding {
            rule,
            span: problem.span,
            message: problem.message,
            advice: Some(advice().into()),
            related: Vec::new(),
            fix: None,
            anchor: None,
            unless: None,
        })),
        Err(_) => report.unsure.push(Unsure { rule, span: document.span(), reason: TOO_LARGE }),
    }
}
