//! What the files of a project declare in the namespaces that others open.

use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_meaning::opened::{Opened, OpeningQuestion, not_understood, opened_by, opens_namespaces};

use super::{LARGEST, read};
use crate::project::Project;
use crate::workspace::discover::of_name;
use crate::workspace::walk::{Hidden, walk};

/// What is known of them: from the visits of files, and together, once somebody asks.
#[derive(Debug, Default)]
pub(super) struct OpenedIndex(Mutex<Known>);

#[derive(Debug, Default)]
struct Known {
    files: FxHashMap<PathBuf, Vec<Opened>>,
    /// Files that may have changed since.
    stale: FxHashSet<PathBuf>,
    /// Those that no run has visited are among them.
    has_all: bool,
    together: Option<Arc<Namespaces>>,
}

/// What several files declare, by the namespace.
type Namespaces = FxHashMap<String, Vec<Opened>>;

impl OpenedIndex {
    /// Notes what a file declares.
    pub(super) fn know(&self, path: &Path, opened: Vec<Opened>) {
        let mut known = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        known.stale.remove(path);
        known.note(path.to_path_buf(), Some(opened));
    }

    /// Drops what is known of a file, unless it turns out to be the same.
    pub(super) fn forget(&self, path: &Path) {
        if of_name(path).is_some_and(opens_namespaces) {
            self.0.lock().unwrap_or_else(PoisonError::into_inner).stale.insert(path.to_path_buf());
        }
    }

    /// Those namespaces of a question that files declare, the one that asks among them, and of which it names nothing.
    pub(super) fn in_vain(&self, project: &Project, question: &OpeningQuestion, own: &[Opened]) -> Vec<String> {
        let declared = self.together(project);
        let own: FxHashMap<&str, &Opened> = own.iter().map(|one| (one.name.as_str(), one)).collect();
        question.in_vain(|namespace| {
            let of_others = declared.get(namespace).into_iter().flatten();
            of_others.chain(own.get(namespace).copied())
        })
    }

    fn together(&self, project: &Project) -> Arc<Namespaces> {
        let mut known = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        for path in std::mem::take(&mut known.stale) {
            let opened = declared_in(project, &path);
            known.note(path, opened);
        }
        if !std::mem::replace(&mut known.has_all, true) {
            known.read_others(project);
        }
        let Known { files, together, .. } = &mut *known;
        Arc::clone(together.get_or_insert_with(|| Arc::new(by_namespace(files))))
    }
}

impl Known {
    /// Notes what a file declares; nothing where it is gone.
    fn note(&mut self, path: PathBuf, opened: Option<Vec<Opened>>) {
        if self.files.get(&path) == opened.as_ref() {
            return;
        }
        self.together = None;
        match opened {
            Some(opened) => drop(self.files.insert(path, opened)),
            None => drop(self.files.remove(&path)),
        }
    }

    /// Files that no run has visited declare something too.
    fn read_others(&mut self, project: &Project) {
        for path in walk(&*project.files, &project.root, &project.root, Hidden::Skip).files {
            if !self.files.contains_key(&path)
                && let Some(opened) = declared_in(project, &path)
            {
                self.note(path, Some(opened));
            }
        }
    }
}

fn by_namespace(files: &FxHashMap<PathBuf, Vec<Opened>>) -> Namespaces {
    let mut together = Namespaces::default();
    for opened in files.values().flatten() {
        together.entry(opened.name.clone()).or_default().push(opened.clone());
    }
    together
}

/// What is larger is read for what it says of namespaces alone, up to so many bytes.
const LARGEST_SKIMMED: u64 = LARGEST << 4;

/// What a file declares, as far as it is understood; nothing where it is in another language, or cannot be read.
fn declared_in(project: &Project, path: &Path) -> Option<Vec<Opened>> {
    if let Some((language, text, tree)) = read(project, path, opens_namespaces) {
        return opened_by(language, &text, &tree);
    }
    of_name(path).filter(|language| opens_namespaces(*language))?;
    let bytes = project.files.read(path, LARGEST_SKIMMED).ok()?;
    // In other encodings half of the bytes may be zero.
    let written = String::from_utf8_lossy(&bytes).replace('\0', "");
    Some(not_understood(&written).collect())
}
