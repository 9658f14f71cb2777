//! Texts that are opened, changed and closed, and files that change on the disk.

use std::path::{Path, PathBuf};

use lsp_types::{
    DidChangeTextDocumentParams, DidChangeWatchedFilesParams, DidCloseTextDocumentParams, DidOpenTextDocumentParams,
    DidSaveTextDocumentParams,
};
use sieve_engine::baseline;
use sieve_engine::files;
use sieve_syntax::text::Text;

use super::document::Document;
use super::session::Session;
use super::uri::path_of;

impl Session {
    pub(super) fn opened(&mut self, params: DidOpenTextDocumentParams) {
        let opened = params.text_document;
        let Some(path) = path_of(&opened.uri) else { return };
        let document = Document {
            uri: opened.uri,
            path: path.clone(),
            version: opened.version,
            text: Text::new(opened.text),
            over_files: Vec::new(),
        };
        self.documents.insert(path.clone(), document);
        let is_new = self.give_text(&path);
        let index = self.folder_of(&path);
        let over_files = self.folders[index].over_files(&path);
        if let Some(document) = self.documents.get_mut(&path) {
            document.over_files = over_files;
        }
        if is_new {
            self.look_around(&path);
        }
        self.look_soon(&path);
    }

    pub(super) fn changed(&mut self, params: DidChangeTextDocumentParams) {
        let (uri, version) = (params.text_document.uri, params.text_document.version);
        let Some(path) = path_of(&uri) else { return };
        let Some(document) = self.documents.get_mut(&path) else {
            return self.client.log("a change of a text that is not open");
        };
        if version <= document.version {
            self.client.log(&format!("version {version} comes after {}", document.version));
        }
        document.change(version, params.content_changes, self.able.units);
        self.give_text(&path);
        self.look_around(&path);
        self.look_soon(&path);
    }

    pub(super) fn saved(&mut self, params: DidSaveTextDocumentParams) {
        let Some(path) = path_of(&params.text_document.uri) else { return };
        if path.file_name().is_some_and(|name| name == baseline::FILE_NAME) {
            let index = self.folder_of(&path);
            self.folders[index].reload_baseline();
        }
        // Others tell of what is saved.
        if !self.able.watches {
            self.look_far_later();
        }
    }

    pub(super) fn closed(&mut self, params: DidCloseTextDocumentParams) {
        let Some(path) = path_of(&params.text_document.uri) else { return };
        let Some(document) = self.documents.remove(&path) else { return };
        self.checked.remove(&path);
        self.dirty.retain(|other| *other != path);
        let index = self.folder_of(&path);
        let is_as_on_disk = files::read(&path).is_ok_and(|bytes| bytes == document.bytes());
        if is_as_on_disk {
            self.folders[index].near.forget(&path);
            self.folders[index].far.forget_quietly(&path);
        } else {
            self.folders[index].forget(&path);
            self.look_around(&path);
        }
        self.publish_file(index, &path);
    }

    pub(super) fn changed_on_disk(&mut self, params: DidChangeWatchedFilesParams) {
        let mut paths: Vec<PathBuf> = params.changes.iter().filter_map(|change| path_of(&change.uri)).collect();
        // A text that is open counts, whatever is on the disk.
        paths.retain(|path| !self.documents.contains_key(path));
        for path in &paths {
            let index = self.folder_of(path);
            if path.file_name().is_some_and(|name| name == baseline::FILE_NAME) {
                self.folders[index].reload_baseline();
            }
            if path.extension().is_some_and(|ending| ending == "toml") {
                self.pages.renew();
            }
            self.folders[index].forget(path);
        }
        self.dirty = self.documents.keys().cloned().collect();
        self.look_far_later();
    }

    /// Gives the folder of a text what it is now; whether that is news to it.
    fn give_text(&mut self, path: &Path) -> bool {
        let index = self.folder_of(path);
        let Some(document) = self.documents.get(path) else { return false };
        let bytes = document.bytes();
        let folder = &mut self.folders[index];
        let is_as_known = folder.near.project().files.read(path, u64::MAX).is_ok_and(|known| known == bytes);
        if is_as_known {
            folder.near.set_overlay(path, bytes);
        } else {
            folder.set_text(path, bytes);
        }
        !is_as_known
    }

    /// After folders came or went, texts may belong to others.
    pub(super) fn give_texts_to_folders(&mut self) {
        let paths: Vec<PathBuf> = self.documents.keys().cloned().collect();
        for path in &paths {
            self.give_text(path);
        }
        self.dirty = paths.into();
    }

    /// The text that the user is in is looked at first.
    fn look_soon(&mut self, path: &Path) {
        self.dirty.retain(|other| other != path);
        self.dirty.push_front(path.to_path_buf());
    }

    /// What others say may be something else now: the other texts that are open are looked at, and then everything.
    fn look_around(&mut self, path: &Path) {
        if path.extension().is_some_and(|ending| ending == "toml") {
            self.pages.renew();
        }
        let others = self.documents.keys().filter(|other| *other != path && !self.dirty.contains(other));
        let others: Vec<PathBuf> = others.cloned().collect();
        self.dirty.extend(others);
        self.look_far_later();
    }
}
