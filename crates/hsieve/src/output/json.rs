//! One document of JSON; its shape is described in `docs/guide/output.md`.

use serde::{Serialize, Serializer};
use serde_json::{Map, Value, json};
use sieve_engine::files::FileError;
use sieve_engine::outcome::{Finding, Held, Outcome, RelatedPlace, UnsurePlace};
use sieve_rules::{Level, RuleSet};
use sieve_syntax::text::Place;

use super::Shown;
use crate::screen::is_unsafe;

/// The version of the shape.
const FORM: u32 = 1;

#[derive(Serialize)]
struct Document<'d> {
    tool: &'static str,
    version: &'static str,
    form: u32,
    findings: Findings<'d>,
    #[serde(skip_serializing_if = "Option::is_none")]
    unsure: Option<Undecided<'d>>,
    account: Value,
    errors: Vec<Value>,
}

pub(super) fn text(shown: &Shown<'_>) -> anyhow::Result<String> {
    let document = Document {
        tool: "honest-sieve",
        version: env!("CARGO_PKG_VERSION"),
        form: FORM,
        findings: Findings(shown),
        unsure: shown.unsure.then_some(Undecided(shown.outcome)),
        account: account(shown.outcome),
        errors: shown.outcome.errors.iter().map(error).collect(),
    };
    document_text(&document)
}

/// A document of JSON in which nothing can act on a terminal: characters that could are escaped, as JSON allows for any.
pub fn document_text(document: &impl Serialize) -> anyhow::Result<String> {
    let text = serde_json::to_string_pretty(document)? + "\n";
    let unsafe_inside = |character: char| is_unsafe(character) && character != '\n';
    if !text.contains(unsafe_inside) {
        return Ok(text);
    }
    // Such characters are in strings only, and none of them needs two units of UTF-16.
    let shown = |character: char| match character {
        other if unsafe_inside(other) => format!("\\u{:04x}", u32::from(other)),
        other => String::from(other),
    };
    Ok(text.chars().map(shown).collect())
}

/// The findings, each made when it is written: there may be a million.
struct Findings<'s>(&'s Shown<'s>);

impl Serialize for Findings<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_seq(self.0.findings().map(|one| finding(one, &self.0.outcome.rules)))
    }
}

/// The places that could not be decided, likewise.
struct Undecided<'s>(&'s Outcome);

impl Serialize for Undecided<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_seq(self.0.unsure.iter().map(|place| unsure(place, &self.0.rules)))
    }
}

fn error(error: &FileError) -> Value {
    json!({ "path": error.path.to_string_lossy(), "message": error.to_string() })
}

/// A finding, as it is in the document.
pub fn finding(finding: &Finding, rules: &RuleSet) -> Value {
    let rule = rules.rule(finding.rule);
    let fix = finding.fix.as_ref().map(|fix| {
        let edits: Vec<Value> = fix
            .edits
            .iter()
            .filter(|edit| !edit.span.is_empty() || !edit.text.is_empty())
            .map(|edit| json!({ "start": edit.span.start, "end": edit.span.end, "text": edit.text }))
            .collect();
        json!({ "kind": fix.kind.word(), "edits": edits })
    });
    let held = finding.held.as_ref().map(|held| match held {
        Held::Baseline => json!({ "by": "baseline" }),
        Held::SettingsWaiver { at, reason } => json!({ "by": "waiver", "at": at, "because": reason }),
        Held::Scope { at, reason } => json!({ "by": "scope", "at": at, "because": reason }),
        Held::Waiver { line, reason } => json!({ "by": "waiver", "line": line, "because": reason }),
    });
    json!({
        "rule": rule.name,
        "concern": rule.concern.word(),
        "level": finding.level.word(),
        "certainty": rule.certainty.word(),
        "path": &*finding.path,
        "start": place(finding.start, finding.span.start),
        "end": place(finding.end, finding.span.end),
        "message": finding.message,
        "advice": finding.advice,
        "related": finding.related.iter().map(related).collect::<Vec<Value>>(),
        "fix": fix,
        "held": held,
    })
}

fn related(place: &RelatedPlace) -> Value {
    let at = |place: Place| json!({ "line": place.line, "column": place.column });
    json!({ "path": &*place.path, "start": at(place.start), "end": at(place.end), "message": place.label })
}

fn place(place: Place, byte: u32) -> Value {
    json!({ "line": place.line, "column": place.column, "byte": byte })
}

fn unsure(place: &UnsurePlace, rules: &RuleSet) -> Value {
    json!({
        "rule": rules.name(place.rule),
        "path": &*place.path,
        "start": { "line": place.start.line, "column": place.start.column },
        "reason": place.reason,
    })
}

fn account(outcome: &Outcome) -> Value {
    let levels = [Level::Error, Level::Warning, Level::Note];
    let caught: Map<String, Value> =
        levels.iter().map(|level| (level.word().to_string(), outcome.caught_at(*level).into())).collect();
    let left_out: Map<String, Value> =
        outcome.left_out.iter().map(|(cause, count)| (cause.key().to_string(), (*count).into())).collect();
    json!({
        "files": outcome.files,
        "lines": outcome.lines,
        "caught": caught,
        "held": outcome.held(),
        "paid-off": outcome.gone_from_baseline,
        "unchanged": outcome.changes.as_ref().map(|_| outcome.unchanged),
        "unsure": outcome.unsure.len(),
        "left-out": left_out,
    })
}
