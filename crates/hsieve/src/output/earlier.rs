//! An earlier run, read from the document that it left, to be compared with.

use std::collections::BTreeMap;
use std::path::Path;

use anyhow::Context;
use serde_json::Value;
use sieve_engine::outcome::folder_of;

/// How many findings an earlier run had.
#[derive(Debug, Default)]
pub struct Earlier {
    /// By rule.
    pub rules: BTreeMap<String, usize>,
    /// By folder.
    pub folders: BTreeMap<String, usize>,
    /// In all.
    pub all: usize,
    /// How many lines it checked.
    pub lines: usize,
}

impl Earlier {
    /// Reads a document of JSON that `sift` wrote, as far as its rules are asked for now too.
    pub fn read(path: &Path, is_asked: impl Fn(&str) -> bool) -> anyhow::Result<Earlier> {
        let bytes = sieve_engine::files::read(path)?;
        let shown = path.display();
        let document: Value = serde_json::from_slice(&bytes).with_context(|| format!("{shown} is not JSON"))?;
        let findings = document.get("findings").and_then(Value::as_array);
        let Some(findings) = findings.filter(|_| document["tool"] == "honest-sieve" && document["form"] == 1) else {
            anyhow::bail!(
                "{shown} was not written by `hsieve sift --output json`, or by a version that writes another form"
            );
        };
        let mut earlier =
            Earlier { lines: document["account"]["lines"].as_u64().unwrap_or(0) as usize, ..Earlier::default() };
        let counts =
            |finding: &&Value| finding["held"].is_null() && is_asked(finding["rule"].as_str().unwrap_or_default());
        for finding in findings.iter().filter(counts) {
            let word = |key: &str| finding[key].as_str().unwrap_or_default().to_string();
            *earlier.rules.entry(word("rule")).or_insert(0) += 1;
            *earlier.folders.entry(folder_of(&word("path")).to_string()).or_insert(0) += 1;
            earlier.all += 1;
        }
        Ok(earlier)
    }
}
