//! What the other files of a package mention.
//!
//! Only texts are searched: that a file mentions a module and a name is enough for a rule to stay silent. Files are read the first
//! time that somebody asks, which is seldom.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

use ignore::WalkBuilder;

use crate::files;

/// More bytes than this are not read for one package; then anything may be mentioned.
const LIMIT: usize = 64 << 20;

/// The texts of packages, each read once.
#[derive(Debug, Default)]
pub struct Elsewhere {
    packages: Mutex<HashMap<PathBuf, Arc<Package>>>,
}

/// The files of a package; nothing if they are too many.
type Package = Option<Vec<(PathBuf, Vec<u8>)>>;

impl Elsewhere {
    /// Whether another file of the package around `path` seems to use a name through a module.
    pub fn may_use(&self, path: &Path, module: &str, name: &str) -> bool {
        let Some(files) = &*self.package(path) else { return true };
        let mention = Mention::new(module, name);
        files.iter().any(|(other, bytes)| other != path && mention.is_in(bytes))
    }

    fn package(&self, path: &Path) -> Arc<Package> {
        let root = package_root(path);
        let mut packages = self.packages.lock().unwrap_or_else(PoisonError::into_inner);
        Arc::clone(packages.entry(root).or_insert_with_key(|root| Arc::new(read_package(root, path))))
    }
}

/// The outermost folder around a file that is a package, or the file's own folder.
fn package_root(path: &Path) -> PathBuf {
    let folders = path.ancestors().skip(1).take_while(|folder| folder.join("__init__.py").is_file());
    folders.last().or(path.parent()).unwrap_or(Path::new("")).to_path_buf()
}

fn read_package(root: &Path, path: &Path) -> Package {
    let extension = path.extension();
    let depth = if root.join("__init__.py").is_file() { None } else { Some(1) };
    let mut texts = Vec::new();
    let mut total = 0;
    let walk = WalkBuilder::new(root).max_depth(depth).standard_filters(false).follow_links(false).build();
    for entry in walk.flatten() {
        let is_source = entry.file_type().is_some_and(|sort| sort.is_file()) && entry.path().extension() == extension;
        if !is_source {
            continue;
        }
        let Ok(bytes) = files::read(entry.path()) else { continue };
        total += bytes.len();
        if total > LIMIT {
            return None;
        }
        texts.push((entry.into_path(), bytes));
    }
    Some(texts)
}

/// The ways in which a name is used through a module: `module.name`, `from module import name`, or `import module as other`
/// with `.name` somewhere.
struct Mention {
    member: String,
    imported: String,
    renamed: String,
    dotted: String,
    name: String,
}

impl Mention {
    fn new(module: &str, name: &str) -> Mention {
        Mention {
            member: format!("{module}.{name}"),
            imported: format!("{module} import"),
            renamed: format!("{module} as"),
            dotted: format!(".{name}"),
            name: name.to_string(),
        }
    }

    fn is_in(&self, bytes: &[u8]) -> bool {
        has_word(bytes, &self.name)
            && (has_word(bytes, &self.member)
                || has_word(bytes, &self.imported)
                || (has_word(bytes, &self.renamed) && memchr::memmem::find(bytes, self.dotted.as_bytes()).is_some()))
    }
}

fn has_word(bytes: &[u8], word: &str) -> bool {
    let joins = |byte: u8| byte == b'_' || byte.is_ascii_alphanumeric();
    memchr::memmem::find_iter(bytes, word).any(|at| {
        let before = at.checked_sub(1).map(|before| bytes[before]);
        let after = bytes.get(at + word.len()).copied();
        !before.is_some_and(joins) && !after.is_some_and(joins)
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_found_whole() {
        assert!(has_word(b"fares.total(1)", "total"));
        assert!(!has_word(b"subtotal = 1", "total"));
    }

    #[test]
    fn only_other_files_of_the_package_count() {
        let folder = tempfile::tempdir().unwrap();
        let write = |name: &str, text: &str| std::fs::write(folder.path().join(name), text).unwrap();
        write("__init__.py", "");
        write("util.py", "from os import sep\n");
        write("spawn.py", "from . import util\nprint(util.sep)\n");
        let elsewhere = Elsewhere::default();
        assert!(elsewhere.may_use(&folder.path().join("util.py"), "util", "sep"));
        assert!(!elsewhere.may_use(&folder.path().join("util.py"), "util", "linesep"));
    }
}
