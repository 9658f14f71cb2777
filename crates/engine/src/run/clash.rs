//! Paths that differ only in small and capital letters.

use std::collections::BTreeMap;
use std::sync::Arc;

use sieve_rules::{Level, catalogue};
use sieve_syntax::text::{Place, Span};

use crate::outcome::{Finding, Identity};
use crate::workspace::discover::Candidate;

/// A finding for each file whose path another one has in other letters.
pub(crate) fn clashes(files: &[Candidate]) -> Vec<Finding> {
    let Some(rule) = catalogue::named("letter-case-clash") else { return Vec::new() };
    let mut by_letters: BTreeMap<String, Vec<&Candidate>> = BTreeMap::new();
    for file in files {
        by_letters.entry(file.shown.to_lowercase()).or_default().push(file);
    }
    let mut findings = Vec::new();
    for (letters, same) in by_letters.into_iter().filter(|(_, same)| same.len() > 1) {
        for (file, other) in same[1..].iter().zip(&same) {
            let level = file.settings.level(rule);
            if level == Level::Off {
                continue;
            }
            let start = Place { line: 1, column: 1 };
            findings.push(Finding {
                rule,
                level,
                path: Arc::clone(&file.shown),
                span: Span::at(0),
                start,
                end: start,
                message: format!("this path and {} differ only in capitals", other.shown),
                advice: Some("give one of the two another name".into()),
                fix: None,
                held: None,
                related: Vec::new(),
                identity: Some(Box::new(Identity { within: String::new(), code: letters.clone() })),
                excerpt: None,
            });
        }
    }
    findings
}
