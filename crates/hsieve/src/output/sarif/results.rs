//! The results of a log.

use percent_encoding::percent_encode;
use serde_json::{Value, json};
use sieve_engine::outcome::{Excerpt, Finding, Held};
use sieve_rules::FixKind;
use sieve_syntax::text::Place;

use super::rules::{Rules, level_word};
use crate::output::earlier::EarlierFinding;
use crate::output::marks::{ENCODED, FINGERPRINT};
use crate::output::{Shown, Since};

/// The name of the folder that paths start from.
pub(super) const BASE: &str = "ROOT";

/// A file by its shown path.
pub(super) fn artifact(path: &str) -> Value {
    json!({ "uri": percent_encode(path.as_bytes(), ENCODED).to_string(), "uriBaseId": BASE })
}

/// A finding.
pub(super) fn result(finding: &Finding, since: Option<Since>, rules: &Rules<'_>, shown: &Shown<'_>) -> Value {
    let rule = shown.outcome.rules.rule(finding.rule);
    let mut place = json!({
        "artifactLocation": artifact(&finding.path),
        "region": region(finding.start, finding.end),
    });
    if let Some(context) = finding.excerpt.as_ref().and_then(|excerpt| context(finding, excerpt)) {
        place["contextRegion"] = context;
    }
    let mut result = json!({
        "ruleId": rule.name,
        "ruleIndex": rules.place(finding.rule),
        "level": level_word(finding.level),
        "message": { "text": finding.message },
        "locations": [{ "physicalLocation": place }],
        "partialFingerprints": { FINGERPRINT: finding.fingerprint(&shown.outcome.rules) },
        "properties": { "certainty": rule.certainty.word(), "advice": finding.advice },
    });
    if !finding.related.is_empty() {
        let related = finding.related.iter().map(|place| {
            json!({
                "physicalLocation": { "artifactLocation": artifact(&place.path), "region": region(place.start, place.end) },
                "message": { "text": place.label },
            })
        });
        result["relatedLocations"] = related.collect();
    }
    if let Some(fix) = fix(finding) {
        result["fixes"] = json!([fix]);
    }
    result["suppressions"] = finding.held.iter().map(suppression).collect();
    if let Some(since) = since {
        result["baselineState"] = since.word().into();
    }
    result
}

/// A finding that is not there any more.
pub(super) fn absent(gone: &EarlierFinding, rules: &Rules<'_>) -> Value {
    let mut result = json!({
        "ruleId": gone.rule,
        "level": gone.level,
        "message": { "text": gone.message },
        "locations": [{ "physicalLocation": {
            "artifactLocation": artifact(&gone.path),
            "region": { "startLine": gone.line, "startColumn": gone.column },
        } }],
        "partialFingerprints": { FINGERPRINT: gone.fingerprint },
        "baselineState": "absent",
    });
    if let Some(place) = rules.place_of(&gone.rule) {
        result["ruleIndex"] = place.into();
    }
    result
}

fn region(start: Place, end: Place) -> Value {
    json!({ "startLine": start.line, "startColumn": start.column, "endLine": end.line, "endColumn": end.column })
}

/// The lines around a finding; nothing where its line is too long to be shown whole.
fn context(finding: &Finding, excerpt: &Excerpt) -> Option<Value> {
    if excerpt.cut > 0 || excerpt.goes_on || finding.end.line != finding.start.line {
        return None;
    }
    let line = excerpt.line.trim_end_matches(['\r', '\n']);
    let (first, text) = match &excerpt.before {
        Some(before) => (finding.start.line - 1, format!("{}\n{line}", before.trim_end_matches(['\r', '\n']))),
        None => (finding.start.line, line.to_string()),
    };
    Some(json!({ "startLine": first, "endLine": finding.start.line, "snippet": { "text": text } }))
}

/// The fix as replacements of regions; nothing where the places of its edits are not known.
fn fix(finding: &Finding) -> Option<Value> {
    let fix = finding.fix.as_ref()?;
    let places = &finding.excerpt.as_ref()?.edits;
    let replacements: Vec<Value> = fix
        .edits
        .iter()
        .zip(places)
        .filter(|(edit, _)| !edit.span.is_empty() || !edit.text.is_empty())
        .map(|(edit, (start, end))| {
            json!({ "deletedRegion": region(*start, *end), "insertedContent": { "text": edit.text } })
        })
        .collect();
    if replacements.is_empty() {
        return None;
    }
    let description = match fix.kind {
        FixKind::Exact => "keeps the meaning of the code, or writes what was obviously intended",
        FixKind::Review => "to be reviewed",
    };
    Some(json!({
        "description": { "text": description },
        "artifactChanges": [{ "artifactLocation": artifact(&finding.path), "replacements": replacements }],
        "properties": { "kind": fix.kind.word() },
    }))
}

/// What holds a finding back.
fn suppression(held: &Held) -> Value {
    let (kind, reason) = match held {
        Held::Waiver { reason, .. } => ("inSource", reason.clone()),
        Held::Baseline => ("external", Some("the baseline knows it".to_string())),
        Held::SettingsWaiver { at, reason } => ("external", Some(format!("{reason} (waiver in {at})"))),
        Held::Scope { at, reason } => {
            let reason = reason.as_deref().unwrap_or("no reason given");
            ("external", Some(format!("{reason} (scope in {at})")))
        }
    };
    let mut suppression = json!({ "kind": kind, "status": "accepted" });
    if let Some(reason) = reason {
        suppression["justification"] = reason.into();
    }
    suppression
}
