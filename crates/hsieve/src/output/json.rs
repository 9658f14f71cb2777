//! One document of JSON; its shape is described in `docs/guide/output.md`.

use std::sync::Arc;

use serde::{Serialize, Serializer};
use serde_json::{Map, Value, json};
use sieve_engine::files::FileError;
use sieve_engine::outcome::{Finding, Held, LeftOut, Outcome, RelatedPlace, UnsurePlace};
use sieve_rules::{Level, RuleSet};
use sieve_syntax::text::Place;

use super::earlier::EarlierFinding;
use super::marks::FORM;
use super::{Shown, Since};
use crate::screen::is_unsafe;

#[derive(Serialize)]
struct Document<'d> {
    tool: &'static str,
    version: &'static str,
    form: u32,
    findings: Findings<'d>,
    #[serde(skip_serializing_if = "Option::is_none")]
    more: Option<usize>,
    #[serde(skip_serializing_if = "Option::is_none")]
    gone: Option<Vec<Value>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    unsure: Option<Undecided<'d>>,
    #[serde(rename = "left-out", skip_serializing_if = "Option::is_none")]
    left_out: Option<Vec<Value>>,
    account: Value,
}

pub(super) fn text(shown: &Shown<'_>) -> anyhow::Result<String> {
    let document = Document {
        tool: "honest-sieve",
        version: env!("CARGO_PKG_VERSION"),
        form: FORM,
        findings: Findings(shown),
        more: shown.limit.map(|_| shown.more()),
        gone: shown.comparison.map(|comparison| comparison.gone.iter().map(gone).collect()),
        unsure: shown.unsure.then_some(Undecided(shown.outcome)),
        left_out: shown.left_out.then(|| shown.outcome.left_out.iter().map(left_out).collect()),
        account: account(shown),
    };
    document_text(&document)
}

/// A document of JSON in which nothing can act on a terminal: characters that could are escaped, as JSON allows for any.
pub fn document_text(document: &impl Serialize) -> anyhow::Result<String> {
    Ok(escaped(serde_json::to_string_pretty(document)? + "\n"))
}

/// The same on one line.
pub fn line_text(document: &impl Serialize) -> anyhow::Result<String> {
    Ok(escaped(serde_json::to_string(document)? + "\n"))
}

fn escaped(text: String) -> String {
    let unsafe_inside = |character: char| is_unsafe(character) && character != '\n';
    let mut result = String::new();
    let mut rest = text.as_str();
    // Nearly all is plain ASCII, which is gone through byte by byte.
    while let Some(odd) = rest.bytes().position(|byte| byte != b'\n' && !(b' '..=b'~').contains(&byte)) {
        let (plain, odd) = rest.split_at(odd);
        let character = odd.chars().next().unwrap_or_default();
        result.push_str(plain);
        // Such characters are in strings only, and none of them needs two units of UTF-16.
        match unsafe_inside(character) {
            true => result += &format!("\\u{:04x}", u32::from(character)),
            false => result.push(character),
        }
        rest = &odd[character.len_utf8()..];
    }
    if result.is_empty() {
        return text;
    }
    result + rest
}

/// The findings, each made when it is written: there may be a million.
struct Findings<'s>(&'s Shown<'s>);

impl Serialize for Findings<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_seq(self.0.findings().map(|(one, since)| compared(one, since, &self.0.outcome.rules)))
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

/// A finding with whether an earlier run had it.
pub(super) fn compared(one: &Finding, since: Option<Since>, rules: &RuleSet) -> Value {
    let mut value = finding(one, rules);
    if let (Some(since), Value::Object(members)) = (since, &mut value) {
        members.insert("since".into(), since.word().into());
    }
    value
}

/// A finding that is not there any more.
pub(super) fn gone(gone: &EarlierFinding) -> Value {
    json!({
        "rule": gone.rule,
        "level": gone.level,
        "path": gone.path,
        "start": { "line": gone.line, "column": gone.column },
        "message": gone.message,
        "fingerprint": gone.fingerprint,
    })
}

/// A file that was left out, and why.
pub(super) fn left_out((path, cause): &(Arc<str>, LeftOut)) -> Value {
    json!({ "path": &**path, "cause": cause.key() })
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
        "fingerprint": finding.identity.as_ref().map(|_| finding.fingerprint(rules)),
    })
}

fn related(place: &RelatedPlace) -> Value {
    let at = |place: Place| json!({ "line": place.line, "column": place.column });
    json!({ "path": &*place.path, "start": at(place.start), "end": at(place.end), "message": place.label })
}

fn place(place: Place, byte: u32) -> Value {
    json!({ "line": place.line, "column": place.column, "byte": byte })
}

pub(super) fn unsure(place: &UnsurePlace, rules: &RuleSet) -> Value {
    json!({
        "rule": rules.name(place.rule),
        "path": &*place.path,
        "start": { "line": place.start.line, "column": place.start.column },
        "reason": place.reason,
    })
}

/// The numbers of the run, and what could not be read.
pub(super) fn account(shown: &Shown<'_>) -> Value {
    let outcome = shown.outcome;
    let levels = [Level::Error, Level::Warning, Level::Note];
    let caught: Map<String, Value> =
        levels.iter().map(|level| (level.word().to_string(), outcome.caught_at(*level).into())).collect();
    let left_out: Map<String, Value> =
        outcome.left_out_by_cause().iter().map(|(cause, count)| (cause.key().to_string(), (*count).into())).collect();
    let since = shown.comparison.map(|comparison| {
        let (new, unchanged) = comparison.counts();
        json!({ "new": new, "unchanged": unchanged, "gone": comparison.gone.len() })
    });
    json!({
        "files": outcome.files,
        "lines": outcome.lines,
        "caught": caught,
        "since": since,
        "held": outcome.held(),
        "paid-off": outcome.gone_from_baseline,
        "unchanged": outcome.changes.as_ref().map(|_| outcome.unchanged),
        "unsure": outcome.unsure.len(),
        "left-out": left_out,
        "failed": outcome.errors.iter().map(error).collect::<Vec<Value>>(),
    })
}
