//! What the files of a project say of themselves, for the questions of others.

use std::path::Path;

use crate::project::{Project, relative};
use crate::workspace::discover::Candidate;
use crate::workspace::modules::ModuleIndex;

use super::Facts;
use super::free_names::FreeNameIndex;
use super::references::ReferenceIndex;
use super::schemas::SchemaIndex;
use super::styles::StyleIndex;
use super::uses::Uses;
use super::words::WordIndex;

/// What the visits of files have brought; where a file was not visited, it is read when the first question comes to it.
#[derive(Debug, Default)]
pub struct Index {
    pub(crate) modules: ModuleIndex,
    pub(crate) uses: Uses,
    pub(crate) words: WordIndex,
    pub(crate) free_names: FreeNameIndex,
    pub(crate) styles: StyleIndex,
    pub(crate) references: ReferenceIndex,
    pub(crate) schemas: SchemaIndex,
}

impl Index {
    /// Whatever is known of a file holds no more: it has other content now.
    pub(crate) fn forget(&self, path: &Path) {
        self.modules.forget(path);
        self.uses.forget(path);
        self.words.forget(path);
        self.free_names.forget(path);
        self.styles.forget(path);
        self.references.forget(path);
        self.schemas.forget(path);
    }

    /// Takes what a file says of itself out of its facts, in the place of what it said before.
    pub(crate) fn know(&self, project: &Project, candidate: &Candidate, facts: &mut Facts) {
        self.forget(&candidate.path);
        if let Some((summary, path)) = facts.summary.take().zip(relative(&project.root, &candidate.path)) {
            self.modules.know(candidate.path.clone(), path, summary);
        }
        if let Some(declarations) = facts.declarations.take() {
            self.modules.know_declarations(&candidate.path, declarations);
        }
        if let Some(opened) = facts.opened.take() {
            self.modules.know_opened(&candidate.path, opened);
        }
        if let Some(used) = facts.used.take() {
            self.uses.know(candidate.path.clone(), used);
        }
        if let Some(words) = facts.words.take() {
            self.words.know(candidate.path.clone(), words);
        }
        if let Some(names) = facts.free_names.take() {
            self.free_names.know(candidate.path.clone(), names);
        }
    }
}
