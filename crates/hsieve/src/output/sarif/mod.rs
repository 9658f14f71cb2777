//! A log in the Static Analysis Results Interchange Format 2.1.0 (OASIS standard, errata 01): for code hosts and editors that read it.
//!
//! It holds no time and no path of this machine, so that the same run gives the same bytes.

mod results;
mod rules;

use serde::{Serialize, Serializer};
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
    document_text(&Log { schema: SCHEMA, version: "2.1.0", runs: [run(shown)] })
}

#[derive(Serialize)]
struct Log<'l> {
    #[serde(rename = "$schema")]
    schema: &'static str,
    version: &'static str,
    runs: [Run<'l>; 1],
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Run<'r> {
    tool: Value,
    invocations: [Value; 1],
    original_uri_base_ids: Value,
    column_kind: &'static str,
    results: Results<'r>,
    properties: Value,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    taxonomies: Vec<Value>,
    #[serde(skip_serializing_if = "Option::is_none")]
    version_control_provenance: Option<[Value; 1]>,
}

/// The results, each made when it is written: there may be a million.
struct Results<'r> {
    shown: &'r Shown<'r>,
    rules: Rules<'r>,
}

impl Serialize for Results<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let Results { shown, rules } = self;
        let there = shown.with_held(true).map(|(finding, since)| result(finding, since, rules, shown));
        let gone = shown.comparison.iter().flat_map(|comparison| &comparison.gone);
        serializer.collect_seq(there.chain(gone.map(|gone| absent(gone, rules))))
    }
}

fn run<'r>(shown: &'r Shown<'r>) -> Run<'r> {
    let rules = Rules::of(shown);
    let taxonomies = rules.taxonomies();
    let mut driver = json!({
        "name": TOOL,
        "version": env!("CARGO_PKG_VERSION"),
        "semanticVersion": env!("CARGO_PKG_VERSION"),
        "rules": rules.descriptors(),
    });
    if !taxonomies.is_empty() {
        let supported: Vec<Value> =
            taxonomies.iter().enumerate().map(|(index, one)| json!({ "name": one["name"], "index": index })).collect();
        driver["supportedTaxonomies"] = supported.into();
    }
    let provenance = shown.provenance.as_ref().map(|provenance| {
        let mut known = json!({ "repositoryUri": provenance.address, "revisionId": provenance.revision });
        if let Some(branch) = &provenance.branch {
            known["branch"] = branch.as_str().into();
        }
        [known]
    });
    Run {
        tool: json!({ "driver": driver }),
        invocations: [invocation(shown)],
        original_uri_base_ids: json!({ results::BASE: { "description": { "text": "the folder that paths start from" } } }),
        column_kind: "unicodeCodePoints",
        results: Results { shown, rules },
        properties: json!({ "files": shown.outcome.files, "lines": shown.outcome.lines, "more": shown.more() }),
        taxonomies,
        version_control_provenance: provenance,
    }
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
