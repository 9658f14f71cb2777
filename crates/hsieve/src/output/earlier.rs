//! An earlier run, read from the document that it left, to be compared with.

use std::collections::BTreeMap;
use std::path::Path;

use anyhow::Context;
use percent_encoding::percent_decode_str;
use serde_json::Value;
use sieve_engine::outcome::folder_of;

use super::marks::{FINGERPRINT, FORM, TOOL};

/// What an earlier run reported.
#[derive(Debug, Default)]
pub struct Earlier {
    /// Its findings, in their order; what was held back is not among them.
    pub findings: Vec<EarlierFinding>,
    /// How many lines it checked.
    pub lines: usize,
}

/// A finding of an earlier run.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct EarlierFinding {
    /// The rule's name.
    pub rule: String,
    /// The word of its level.
    pub level: String,
    /// The path as it was shown.
    pub path: String,
    /// Its line, from 1.
    pub line: u64,
    /// Its column, in characters, from 1.
    pub column: u64,
    /// What was wrong.
    pub message: String,
    /// What tells it from others in its file.
    pub fingerprint: String,
}

impl Earlier {
    /// Reads a document of JSON or SARIF that `sift` wrote, as far as its rules are asked for now too.
    pub fn read(path: &Path, is_asked: impl Fn(&str) -> bool) -> anyhow::Result<Earlier> {
        let bytes = sieve_engine::files::read(path)?;
        let shown = path.display();
        let document: Value = serde_json::from_slice(&bytes).with_context(|| format!("{shown} is not JSON"))?;
        let read = match document.get("runs") {
            Some(runs) => of_sarif(&runs[0]),
            None => of_json(&document),
        };
        let cut = [&document["more"], &document["runs"][0]["properties"]["more"]];
        if cut.into_iter().any(|more| more.as_u64().is_some_and(|more| more > 0)) {
            anyhow::bail!("{shown} was cut off by --limit, and does not say what there was");
        }
        let Some(mut earlier) = read else {
            anyhow::bail!(
                "{shown} was not written by `hsieve sift --output json` or sarif, or by a version that writes another form"
            );
        };
        earlier.findings.retain(|finding| is_asked(&finding.rule));
        Ok(earlier)
    }

    /// How many findings there were by rule.
    pub fn by_rule(&self) -> BTreeMap<&str, usize> {
        self.counted(|finding| &finding.rule)
    }

    /// How many findings there were by folder.
    pub fn by_folder(&self) -> BTreeMap<&str, usize> {
        self.counted(|finding| folder_of(&finding.path))
    }

    fn counted<'e>(&'e self, key: impl Fn(&'e EarlierFinding) -> &'e str) -> BTreeMap<&'e str, usize> {
        let mut counts = BTreeMap::new();
        self.findings.iter().for_each(|finding| *counts.entry(key(finding)).or_insert(0) += 1);
        counts
    }
}

fn of_json(document: &Value) -> Option<Earlier> {
    if document["tool"] != "honest-sieve" || document["form"] != FORM {
        return None;
    }
    let findings = document["findings"].as_array()?.iter().filter(|finding| finding["held"].is_null());
    let read = |finding: &Value| {
        let word = |value: &Value| value.as_str().map(str::to_string);
        Some(EarlierFinding {
            rule: word(&finding["rule"])?,
            level: word(&finding["level"])?,
            path: word(&finding["path"])?,
            line: finding["start"]["line"].as_u64()?,
            column: finding["start"]["column"].as_u64()?,
            message: word(&finding["message"])?,
            fingerprint: word(&finding["fingerprint"])?,
        })
    };
    let findings = findings.map(read).collect::<Option<Vec<EarlierFinding>>>()?;
    Some(Earlier { findings, lines: document["account"]["lines"].as_u64()? as usize })
}

fn of_sarif(run: &Value) -> Option<Earlier> {
    if run["tool"]["driver"]["name"] != TOOL {
        return None;
    }
    let is_reported = |result: &&Value| {
        result["suppressions"].as_array().is_none_or(Vec::is_empty) && result["baselineState"] != "absent"
    };
    let read = |result: &Value| {
        let word = |value: &Value| value.as_str().map(str::to_string);
        let place = &result["locations"][0]["physicalLocation"];
        let path = percent_decode_str(place["artifactLocation"]["uri"].as_str()?).decode_utf8_lossy().into_owned();
        Some(EarlierFinding {
            rule: word(&result["ruleId"])?,
            level: word(&result["level"])?,
            path,
            line: place["region"]["startLine"].as_u64()?,
            column: place["region"]["startColumn"].as_u64()?,
            message: word(&result["message"]["text"])?,
            fingerprint: word(&result["partialFingerprints"][FINGERPRINT])?,
        })
    };
    let findings = run["results"].as_array()?.iter().filter(is_reported).map(read);
    let lines = run["properties"]["lines"].as_u64()? as usize;
    Some(Earlier { findings: findings.collect::<Option<Vec<EarlierFinding>>>()?, lines })
}
