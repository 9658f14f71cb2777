//! Whether what files refer to in each other is there: a file, or a value in it.

use std::path::Path;
use std::sync::Arc;

use sieve_meaning::data::{Data, Shape, Value};
use sieve_syntax::language::Language;

use super::hashes::{Hashes, hash_of};
use crate::files::EntryKind;
use crate::project::{Project, absolute};
use crate::workspace::once::OncePerFile;

/// Larger files are not looked into for the sake of others, in bytes.
const LARGEST: u64 = 64 << 20;

/// The files that others refer to, each read once for all of them: the pointers to their values.
#[derive(Debug, Default)]
pub(crate) struct ReferenceIndex(OncePerFile<Arc<Hashes>>);

impl ReferenceIndex {
    /// Drops what is known of a file.
    pub(super) fn forget(&self, path: &Path) {
        self.0.forget(path);
    }

    /// Whether a file of the project is there, and the value in it that a pointer names. What cannot be looked into may have any.
    pub(crate) fn leads(&self, project: &Project, path: &str, pointer: Option<&str>) -> bool {
        let path = absolute(&project.root, Path::new(path));
        if !path.starts_with(&project.root) || !matches!(project.files.kind(&path), Ok(EntryKind::File)) {
            return false;
        }
        let Some(pointer) = pointer.filter(|pointer| !pointer.is_empty()) else { return true };
        let pointers = self.0.of(&path, || pointers_of(project, &path).map(Arc::new));
        pointers.is_none_or(|all| all.contains(hash_of_pointer(pointer)))
    }
}

/// Nothing for a file that has no values, or cannot be read.
fn pointers_of(project: &Project, path: &Path) -> Option<Hashes> {
    let language = Language::of_file_name(path.file_name()?.to_str()?).filter(|language| language.is_data())?;
    let text = language.decode(project.files.read_within(&project.root, path, LARGEST).ok()?).ok()?;
    let tree = language.parse(&text);
    if !tree.faults().is_empty() {
        return None;
    }
    let data = Data::of(language, &text, &tree);
    let mut hashes = Vec::new();
    let mut waiting: Vec<(u32, Value<'_, '_>)> = data.root().map(|root| (ROOT, root)).into_iter().collect();
    while let Some((hash, value)) = waiting.pop() {
        // What an alias stands for has a pointer of its own as well; going on there could have no end.
        if value.is_alias() {
            return None;
        }
        hashes.push(hash);
        for (index, child) in value.children().enumerate() {
            let token = match (value.shape(), child.key()) {
                (Shape::Object, Some(key)) => key.replace('~', "~0").replace('/', "~1"),
                _ => index.to_string(),
            };
            waiting.push((hash_of((hash, token.as_str())), child));
        }
    }
    Some(Hashes::of(hashes))
}

/// The hash of the pointer to a whole document.
const ROOT: u32 = 0;

/// The hash of a pointer: that of the one to the value around, and of its last token.
fn hash_of_pointer(pointer: &str) -> u32 {
    pointer.split('/').skip(1).fold(ROOT, |hash, token| hash_of((hash, token)))
}
