//! Tells the client what was found, and nothing twice.

use std::collections::BTreeSet;
use std::hash::{Hash, Hasher};
use std::path::{Path, PathBuf};

use lsp_types::{Diagnostic, MessageType, Uri};
use rustc_hash::FxHasher;
use serde::Serialize;
use serde_json::json;
use serde_json::value::{RawValue, to_raw_value};
use sieve_engine::files;
use sieve_engine::outcome::Finding;
use sieve_engine::settings::SettingsError;
use sieve_syntax::text::Text;

use super::diagnostics::{Form, of_settings};
use super::far::Everything;
use super::session::Session;
use super::uri::uri_of;

/// Smaller code bases are done before somebody could read how far that has come.
const FEWEST_FOR_PROGRESS: usize = 400;

impl Session {
    /// Tells what is in a text that is open, if that is news of this version.
    pub(super) fn publish_document(&mut self, path: &Path) {
        if self.able.pulls {
            return;
        }
        let Some(document) = self.documents.get(path) else { return };
        let (uri, version) = (document.uri.clone(), Some(document.version));
        let diagnostics = written(&self.diagnostics_of(path));
        let now = hash_of(&diagnostics) ^ version.map_or(0, |version| version as u64 + 1);
        if self.published.insert(path.to_path_buf(), now) == Some(now) {
            return;
        }
        self.client.notify("textDocument/publishDiagnostics", Published { uri, version, diagnostics });
    }

    /// Tells what is in a file, open or not, if that is news.
    pub(super) fn publish_file(&mut self, index: usize, path: &Path) {
        if self.documents.contains_key(path) {
            return self.publish_document(path);
        }
        if self.able.pulls {
            return;
        }
        let is_shown = self.options.project && !self.loose.contains(&self.folders[index].path);
        let diagnostics = if is_shown { self.diagnostics_of_disk(index, path) } else { Vec::new() };
        let (before, is_empty) = (self.published.get(path), diagnostics.is_empty());
        let diagnostics = written(&diagnostics);
        let now = hash_of(&diagnostics);
        if before == Some(&now) || before.is_none() && is_empty {
            return;
        }
        if is_empty {
            self.published.remove(path);
        } else {
            self.published.insert(path.to_path_buf(), now);
        }
        let params = Published { uri: uri_of(path), version: None, diagnostics };
        self.client.notify("textDocument/publishDiagnostics", params);
    }

    /// Takes everything back that was told of a file.
    pub(super) fn publish_nothing(&mut self, path: &Path) {
        if self.published.remove(path).is_some() && !self.able.pulls {
            let params = Published { uri: uri_of(path), version: None, diagnostics: written(&[]) };
            self.client.notify("textDocument/publishDiagnostics", params);
        }
    }

    /// Tells everything again, as the user wants it now.
    pub(super) fn publish_all(&mut self) {
        for index in 0..self.folders.len() {
            self.publish_folder(index);
        }
        self.answer_waiting();
    }

    fn publish_folder(&mut self, index: usize) {
        let folder = &self.folders[index];
        let found = folder.everything.iter().flat_map(|everything| everything.findings.keys());
        let known = self.published.keys().filter(|path| path.starts_with(&folder.path));
        let open = self.documents.keys().filter(|path| path.starts_with(&folder.path));
        let all: BTreeSet<PathBuf> = found.chain(known).chain(open).cloned().collect();
        all.iter().for_each(|path| self.publish_file(index, path));
    }

    /// The diagnostics of a text that is open.
    pub(super) fn diagnostics_of(&mut self, path: &Path) -> Vec<Diagnostic> {
        let index = self.folder_of(path);
        let Some(document) = self.documents.get(path) else { return Vec::new() };
        let folder = &self.folders[index];
        let fault = folder.fault.iter().filter(|fault| fault.path == path);
        let mut diagnostics: Vec<Diagnostic> =
            fault.map(|fault| of_settings(fault, Some(&document.text), self.able)).collect();
        let checked = self.checked.get(path);
        let rules = checked.map(|checked| &checked.rules).or(folder.everything.as_ref().map(|all| &all.rules));
        if let Some(rules) = rules {
            let form = self.form(index, rules);
            let own = checked.map_or(&[][..], |checked| &checked.findings);
            let mut all: Vec<&Finding> = own.iter().chain(&document.over_files).collect();
            all.sort_by_key(|finding| (finding.span.start, finding.rule, finding.span.end));
            diagnostics.extend(form.all_in(&document.text, &all));
        }
        diagnostics
    }

    /// The diagnostics of a file that is not open.
    pub(super) fn diagnostics_of_disk(&self, index: usize, path: &Path) -> Vec<Diagnostic> {
        let folder = &self.folders[index];
        let fault = folder.fault.iter().filter(|fault| fault.path == path);
        let text = || Some(Text::new(String::from_utf8(files::read(path).ok()?).ok()?));
        let mut diagnostics: Vec<Diagnostic> =
            fault.map(|fault| of_settings(fault, text().as_ref(), self.able)).collect();
        if let Some(everything) = &folder.everything {
            diagnostics.extend(self.form(index, &everything.rules).all_of_disk(folder.found_in(path)));
        }
        diagnostics
    }

    fn form<'f>(&'f self, index: usize, rules: &'f sieve_rules::RuleSet) -> Form<'f> {
        Form {
            rules,
            project: self.folders[index].near.project(),
            able: self.able,
            shows_held: self.options.held,
            pages: &self.pages,
        }
    }

    /// What is wrong with the settings of a folder now.
    pub(super) fn set_fault(&mut self, index: usize, fault: Option<SettingsError>) {
        if self.folders[index].fault == fault {
            return;
        }
        let before = std::mem::replace(&mut self.folders[index].fault, fault);
        let after = self.folders[index].fault.clone();
        let paths = before.iter().chain(&after).map(|fault| fault.path.clone());
        for path in paths.collect::<BTreeSet<PathBuf>>() {
            self.publish_file(index, &path);
        }
        if before.is_none()
            && let Some(fault) = after
        {
            let place = fault.place.map_or(String::new(), |place| format!(":{}:{}", place.line, place.column));
            let shown = self.folders[index].near.project().shown(&fault.path);
            self.complain(&format!("hsieve: {shown}{place}: {}", fault.message));
        }
    }

    /// A look at everything is over.
    pub fn everything_found(&mut self, path: &Path, of: u64, found: Result<Option<Everything>, SettingsError>) {
        self.end_progress(path);
        let Some(index) = self.folders.iter().position(|folder| folder.path == path) else { return };
        if !self.folders[index].far.is_latest(of) {
            return;
        }
        match found {
            Ok(None) => return,
            Err(error) => self.set_fault(index, Some(error)),
            Ok(Some(everything)) => {
                if self.tells.remove(path) {
                    self.client.show(MessageType::INFO, &everything.summary);
                }
                self.folders[index].everything = Some(everything);
                self.set_fault(index, None);
                for document in self.documents.values_mut().filter(|document| document.path.starts_with(path)) {
                    document.over_files = self.folders[index].over_files(&document.path);
                }
                self.publish_folder(index);
                // Who does not tell what changes on the disk is served from what is there now.
                if !self.able.watches {
                    self.folders[index].near.refresh();
                    self.dirty = self.documents.keys().cloned().collect();
                }
            }
        }
        self.answer_waiting();
        if self.able.pulls && self.able.refreshes && self.waiting.is_empty() {
            self.client.request("workspace/diagnostic/refresh", json!(null));
        }
    }

    /// Tells how far a look at everything has come, if the client shows that.
    pub fn tell_progress(&mut self, folder: &Path, done: usize, files: usize) {
        if !self.able.progress || files < FEWEST_FOR_PROGRESS && !self.tells.contains(folder) {
            return;
        }
        if done == 0 {
            self.end_progress(folder);
            let token = format!("everything-{}", folder.display());
            self.client.request("window/workDoneProgress/create", json!({ "token": token }));
            let value = json!({ "kind": "begin", "title": "Sifting", "cancellable": true, "percentage": 0 });
            self.client.notify("$/progress", json!({ "token": token, "value": value }));
            self.progress.insert(folder.to_path_buf(), (token, 0));
        } else if let Some((token, before)) = self.progress.get_mut(folder) {
            // Threads may tell of more files before of fewer.
            let now = done * 100 / files.max(1);
            if now <= *before {
                return;
            }
            *before = now;
            let message = format!("{done} of {files} files");
            let value = json!({ "kind": "report", "message": message, "percentage": now });
            self.client.notify("$/progress", json!({ "token": token, "value": value }));
        }
    }

    fn end_progress(&mut self, folder: &Path) {
        if let Some((token, _)) = self.progress.remove(folder) {
            self.client.notify("$/progress", json!({ "token": token, "value": { "kind": "end" } }));
        }
    }

    /// The user does not want to wait for a look at everything.
    pub(super) fn cancel_progress(&mut self, token: Option<&serde_json::Value>) {
        let token = token.and_then(serde_json::Value::as_str);
        let folders = self.progress.iter().filter(|(_, (known, _))| Some(known.as_str()) == token);
        let folders: Vec<PathBuf> = folders.map(|(folder, _)| folder.clone()).collect();
        for path in folders {
            if let Some(folder) = self.folders.iter().find(|folder| folder.path == path) {
                folder.far.cancel();
            }
            self.end_progress(&path);
            self.tells.remove(&path);
        }
    }
}

/// The parameters of `textDocument/publishDiagnostics`, which are written once: to be compared, and to be sent.
#[derive(Serialize)]
struct Published {
    uri: Uri,
    #[serde(skip_serializing_if = "Option::is_none")]
    version: Option<i32>,
    diagnostics: Box<RawValue>,
}

pub(super) fn written(diagnostics: &[Diagnostic]) -> Box<RawValue> {
    to_raw_value(diagnostics).unwrap_or_default()
}

pub(super) fn hash_of(diagnostics: &RawValue) -> u64 {
    let mut hasher = FxHasher::default();
    diagnostics.get().hash(&mut hasher);
    hasher.finish()
}
