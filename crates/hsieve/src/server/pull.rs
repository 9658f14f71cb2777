//! Diagnostics that the client asks for.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

use lsp_types::{Diagnostic, DocumentDiagnosticParams, WorkspaceDiagnosticParams};
use serde_json::{Value, json};

use super::publish::{hash_of, written};
use super::session::{Session, State, cancelled, file_of};
use super::uri::{path_of, uri_of};
use super::waiting::Waiting;
use super::wire::{Fault, Id};

/// So many files are reported at once, where the client takes parts.
const PART: usize = 100;

impl Session {
    /// What is in a text, in full or by its id where nothing changed.
    pub(super) fn pull(&mut self, params: DocumentDiagnosticParams) -> Result<Value, Fault> {
        let path = file_of(&params.text_document.uri)?;
        self.look_if_needed(&path);
        let diagnostics = if self.documents.contains_key(&path) {
            self.diagnostics_of(&path)
        } else {
            let index = self.folder_of(&path);
            self.diagnostics_of_disk(index, &path)
        };
        Ok(report(&diagnostics, params.previous_result_id.as_deref()))
    }

    /// Everything in all folders: at once if there is something new, or else as soon as there is.
    pub(super) fn pull_all(&mut self, id: Id, params: Value) {
        if self.state != State::Running {
            return;
        }
        let part = params.get("partialResultToken").cloned();
        let params: WorkspaceDiagnosticParams = match serde_json::from_value(params) {
            Ok(params) => params,
            Err(error) => {
                let fault = Fault::new(Fault::INVALID_PARAMS, error.to_string());
                return self.client.respond(Some(&id), Err(fault));
            }
        };
        let known = params.previous_result_ids.into_iter();
        let known = known.filter_map(|known| Some((path_of(&known.uri)?, known.value))).collect();
        self.waiting.push(Waiting { id, known, part });
        self.answer_waiting();
    }

    /// Answers the requests for everything to which there is something to say.
    pub(super) fn answer_waiting(&mut self) {
        let is_known = self.folders.iter().all(|folder| folder.everything.is_some() || folder.fault.is_some());
        if self.waiting.is_empty() || !is_known || self.folders.is_empty() {
            return;
        }
        let now = self.all_diagnostics();
        for waiting in std::mem::take(&mut self.waiting) {
            let gone = waiting.known.keys().filter(|path| !now.contains_key(*path));
            let none = (None, Vec::new());
            let all = now.iter().chain(gone.map(|path| (path, &none)));
            let known = |path: &Path| waiting.known.get(path).map(String::as_str);
            let changed: Vec<Value> = all
                .filter(|(path, (_, found))| known(path) != Some(&id_of(found)))
                .map(|(path, (version, found))| {
                    let mut report = report(found, None);
                    report["uri"] = json!(uri_of(path));
                    report["version"] = json!(version);
                    report
                })
                .collect();
            if changed.is_empty() {
                self.waiting.push(waiting);
                continue;
            }
            let mut items = json!(changed);
            if let Some(token) = &waiting.part {
                for part in changed.chunks(PART) {
                    self.client.notify("$/progress", json!({ "token": token, "value": { "items": part } }));
                }
                items = json!([]);
            }
            self.client.respond(Some(&waiting.id), Ok(json!({ "items": items })));
        }
    }

    /// The diagnostics of all files that have some and of all that are open, with the versions of these.
    fn all_diagnostics(&mut self) -> BTreeMap<PathBuf, (Option<i32>, Vec<Diagnostic>)> {
        let mut all = BTreeMap::new();
        let open: Vec<(PathBuf, i32)> =
            self.documents.values().map(|document| (document.path.clone(), document.version)).collect();
        for (path, version) in open {
            all.insert(path.clone(), (Some(version), self.diagnostics_of(&path)));
        }
        for index in (0..self.folders.len()).filter(|_| self.options.project) {
            let folder = &self.folders[index];
            let found = folder.everything.iter().flat_map(|everything| everything.findings.keys().cloned());
            let paths: BTreeSet<PathBuf> = found.chain(folder.fault.iter().map(|fault| fault.path.clone())).collect();
            for path in paths.into_iter().filter(|path| !self.documents.contains_key(path)) {
                let diagnostics = self.diagnostics_of_disk(index, &path);
                all.insert(path, (None, diagnostics));
            }
        }
        all.retain(|_, (version, found)| version.is_some() || !found.is_empty());
        all
    }

    pub(super) fn cancel_waiting_for(&mut self, id: &Id) {
        if let Some(at) = self.waiting.iter().position(|waiting| waiting.id == *id) {
            self.waiting.remove(at);
            self.client.respond(Some(id), Err(cancelled()));
        }
    }

    pub(super) fn cancel_waiting(&mut self) {
        for waiting in std::mem::take(&mut self.waiting) {
            self.client.respond(Some(&waiting.id), Err(cancelled()));
        }
    }
}

/// Tells a state of the diagnostics of a file from others.
fn id_of(diagnostics: &[Diagnostic]) -> String {
    format!("{:016x}", hash_of(&written(diagnostics)))
}

fn report(diagnostics: &[Diagnostic], known: Option<&str>) -> Value {
    let id = id_of(diagnostics);
    if known == Some(&id) {
        return json!({ "kind": "unchanged", "resultId": id });
    }
    json!({ "kind": "full", "resultId": id, "items": diagnostics })
}
