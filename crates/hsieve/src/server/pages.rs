//! The pages of rules as files, for clients that open what a diagnostic leads to.

use std::collections::HashSet;
use std::path::PathBuf;
use std::sync::{Mutex, OnceLock};

use lsp_types::Uri;
use sieve_rules::RuleView;

use super::uri::uri_of;
use crate::output::page::page;

/// A folder of the server's own, with a page for each rule that was reported; there is none before the first.
pub struct Pages {
    folder: OnceLock<Option<tempfile::TempDir>>,
    written: Mutex<HashSet<String>>,
}

impl Pages {
    /// Without pages. What is written goes when the server ends.
    pub fn new() -> Pages {
        Pages { folder: OnceLock::new(), written: Mutex::default() }
    }

    /// Where the page of a rule is; nothing where it cannot be written.
    pub fn uri(&self, rule: RuleView<'_>) -> Option<Uri> {
        let path = self.path(rule.name)?;
        let mut written = self.written.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
        if !written.contains(rule.name) {
            std::fs::write(&path, page(rule)).ok()?;
            written.insert(rule.name.to_string());
        }
        Some(uri_of(&path))
    }

    /// Rules of packs are written anew: the pack may have changed.
    pub fn renew(&self) {
        let mut written = self.written.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
        written.retain(|name| !name.contains(':'));
    }

    fn path(&self, rule: &str) -> Option<PathBuf> {
        // Names of packs and rules are letters, digits, hyphens and one colon.
        let folder = self.folder.get_or_init(|| tempfile::Builder::new().prefix("hsieve-pages").tempdir().ok());
        Some(folder.as_ref()?.path().join(format!("{}.md", rule.replace(':', "."))))
    }
}
