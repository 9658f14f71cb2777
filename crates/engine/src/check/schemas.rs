//! Holds the values of a data file against the schemas that settings name for it.

use sieve_meaning::data::Data;
use sieve_rules::schema::{MOST, TOO_LARGE};
use sieve_rules::{Finding, Level, Unsure};

use super::view::View;

/// The rule that reports what a schema does not allow.
const RULE: &str = "schema-check";

/// What the schemas have against the documents of a file, and documents that are too large to be told.
pub(super) fn check_schemas(view: &View<'_>) -> (Vec<Finding>, Vec<Unsure>) {
    let View { text, tree, subject, .. } = *view;
    let settings = subject.settings;
    let (mut findings, mut unsure) = (Vec::new(), Vec::new());
    // Most settings name no schema.
    if settings.schemas.is_empty() || subject.language.is_code() {
        return (findings, unsure);
    }
    let schemas: Vec<_> = settings.schemas_of(subject.path).collect();
    let rule = settings.rule_set().named(RULE).filter(|rule| settings.level(*rule) != Level::Off);
    let Some(rule) = rule.filter(|_| !schemas.is_empty()) else { return (findings, unsure) };
    let data = Data::of(subject.language, text, tree);
    for document in data.documents() {
        for placed in &schemas {
            match placed.schema.problems(document, MOST) {
                Ok(problems) => findings.extend(problems.into_iter().map(|problem| Finding {
                    rule,
                    span: problem.span,
                    message: problem.message,
                    advice: Some(placed.advice(subject.project).into()),
                    related: Vec::new(),
                    fix: None,
                    anchor: None,
                    unless: None,
                })),
                Err(_) => unsure.push(Unsure { rule, span: document.span(), reason: TOO_LARGE }),
            }
        }
    }
    (findings, unsure)
}
