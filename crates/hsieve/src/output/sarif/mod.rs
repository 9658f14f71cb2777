//! A log in the Static Analysis Results Interchange Format 2.1.0 (OASIS standard, errata 01): for code hosts and editors that read it.
//!
//! It holds no time and no path of this machine, so that the same run gives the same bytes.

mod results;
mod rules;

use serde_json::{Map, Value, json};
use sieve_engine::files::FileError;

use super::Shown;
use super::json::document_text;
use super::marks::TOOL;
use crate::status::Status;
use results::{absent, artifact, result};
use rules::Rules;

const SCHEMA: &str = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json";

pub(super) fn text(shown: &Shown<'_>) -> anyhow::Result<String> {
    document_text(&json!({ "$schema": SCHEMA, "version": "2.1.0", "runs": [run(shown)] }))
}

fn run(shown: &Shown<'_>) -> Value {
    let rules = Rules::of(shown);
    let mut results: Vec<Value> =
        shown.with_held(true).map(|(finding, since)| result(finding, since, &rules, shown)).collect();
    let gone = shown.comparison.iter().flat_map(|comparison| &comparison.gone);
    results.extend(gone.map(|gone| absent(gone, &rules)));
    let mut run = json!({
        "tool": { "driver": {
            "name": TOOL,
            "version": env!("CARGO_PKG_VERSION"),
            "semanticVersion": env!("CARGO_PKG_VERSION"),
            "rules": rules.descriptors(),
        } },
        "invocations": [invocation(shown)],
        "originalUriBaseIds": { results::BASE: { "description": { "text": "the folder that paths start from" } } },
        "columnKind": "unicodeCodePoints",
        "results": results,
        "properties": { "files": shown.outcome.files, "lines": shown.outcome.lines, "more": shown.more() },
    });
    let members = run.as_object_mut().expect("it is an object");
    let taxonomies = rules.taxonomies();
    if !taxonomies.is_empty() {
        let supported: Vec<Value> =
            taxonomies.iter().enumerate().map(|(index, one)| json!({ "name": one["name"], "index": index })).collect();
        members["tool"]["driver"]["supportedTaxonomies"] = supported.into();
        members.insert("taxonomies".into(), taxonomies.into());
    }
    if let Some(provenance) = &shown.provenance {
        let mut known = json!({ "repositoryUri": provenance.address, "revisionId": provenance.revision });
        if let Some(branch) = &provenance.branch {
            known["branch"] = branch.as_str().into();
        }
        members.insert("versionControlProvenance".into(), json!([known]));
    }
    run
}

/// How the run ended, and what it did not see.
fn invocation(shown: &Shown<'_>) -> Value {
    let mut notifications: Vec<Value> = shown.outcome.errors.iter().map(failure).collect();
    if shown.left_out {
        notifications.extend(shown.outcome.left_out.iter().map(|(path, cause)| {
            let words = format!("left out: {}", cause.describe());
            json!({
                "level": "note",
                "message": { "text": words },
                "locations": [{ "physicalLocation": { "artifactLocation": artifact(path) } }],
            })
        }));
    } else {
        notifications.extend(shown.outcome.left_out_by_cause().iter().map(|(cause, count)| {
            json!({ "level": "note", "message": { "text": format!("files left out: {count} {}", cause.describe()) } })
        }));
    }
    if shown.more() > 0 {
        let words = format!("{} more findings are not in this log", shown.more());
        notifications.push(json!({ "level": "note", "message": { "text": words } }));
    }
    let mut invocation = Map::new();
    invocation.insert("executionSuccessful".into(), (shown.status != Status::Failed).into());
    invocation.insert("exitCode".into(), (shown.status as u8).into());
    if !notifications.is_empty() {
        invocation.insert("toolExecutionNotifications".into(), notifications.into());
    }
    invocation.into()
}

fn failure(error: &FileError) -> Value {
    json!({
        "level": "error",
        "message": { "text": error.without_path() },
        "locations": [{ "physicalLocation": { "artifactLocation": artifact(&error.path.to_string_lossy()) } }],
    })
}
