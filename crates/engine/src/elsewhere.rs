//! What the files of a package use through each other's names.
//!
//! Only strings are checked, without parsing: that some file says `module.name` or `from module import name` is enough for a rule to
//! stay silent. A package is read the first time that somebody asks, which is seldom, and in one pass over its bytes.

use std::collections::HashMap;
use std::hash::{Hash, Hasher};
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::SystemTime;

use rustc_hash::{FxHashSet, FxHasher};
use xxhash_rust::xxh3::xxh3_128;

use crate::cache::Stats;
use crate::files::{EntryKind, Files};
use crate::mentions::Mentions;
use crate::modules::ModuleIndex;
use crate::project::Project;

/// More bytes than this are not read for one package; then anything may be used.
const LIMIT: usize = 64 << 20;

/// The uses in packages, each gathered once.
#[derive(Debug, Default)]
pub struct Elsewhere {
    packages: Mutex<HashMap<Around, Arc<Package>>>,
    fingerprints: Mutex<HashMap<Around, Option<u128>>>,
    pub(crate) modules: ModuleIndex,
    pub(crate) mentions: Mentions,
}

/// The files that may use names of one: those of a folder, or of all folders below it.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
struct Around {
    root: PathBuf,
    deep: bool,
}

/// Hashes of a module's and a name in it, for all that a package uses; nothing if the package is too large.
type Package = Option<FxHashSet<u64>>;

impl Elsewhere {
    /// Whether a file of the package around `path` seems to use a name through a module.
    pub fn may_use(&self, project: &Project, path: &Path, module: &str, name: &str) -> bool {
        let around = Around::of(project, path);
        let mut found = self.package(project, &around, path);
        if found.is_none() {
            // Too much around the package: the package alone must do, if it is not too large itself.
            found = self.package(project, &Around { root: package_root(project, path), ..around }, path);
        }
        match &*found {
            Some(uses) => uses.contains(&key(module.as_bytes(), name.as_bytes())),
            None => true,
        }
    }

    /// What tells the files around `path` from those of another day; nothing where one was written so lately that its times do
    /// not tell.
    pub(crate) fn fingerprint(&self, project: &Project, path: &Path, stats: &Stats, now: SystemTime) -> Option<u128> {
        let around = Around::of(project, path);
        let mut fingerprints = self.fingerprints.lock().unwrap_or_else(PoisonError::into_inner);
        *fingerprints
            .entry(around)
            .or_insert_with_key(|around| fingerprint_of(&*project.files, around, path, stats, now))
    }

    fn package(&self, project: &Project, around: &Around, path: &Path) -> Arc<Package> {
        let mut packages = self.packages.lock().unwrap_or_else(PoisonError::into_inner);
        Arc::clone(
            packages
                .entry(around.clone())
                .or_insert_with_key(|around| Arc::new(read_package(&*project.files, around, path))),
        )
    }
}

fn key(module: &[u8], name: &[u8]) -> u64 {
    let mut hasher = FxHasher::default();
    (module, name).hash(&mut hasher);
    hasher.finish()
}

/// The outermost folder around a file that is a package, below the root, or the file's own folder.
fn package_root(project: &Project, path: &Path) -> PathBuf {
    let inside = path.ancestors().skip(1).take_while(|folder| folder.starts_with(&project.root));
    let folders = inside.take_while(|folder| project.files.is_file(&folder.join("__init__.py")));
    folders.last().or(path.parent()).unwrap_or(Path::new("")).to_path_buf()
}

impl Around {
    /// The package around a file, or the folder that holds it together with its tests; beside a file of no package, its folder.
    fn of(project: &Project, path: &Path) -> Around {
        let package = package_root(project, path);
        if !project.files.is_file(&package.join("__init__.py")) {
            return Around { root: package, deep: false };
        }
        let has_tests =
            |folder: &&Path| ["tests", "test"].iter().any(|name| project.files.is_folder(&folder.join(name)));
        let above = package.ancestors().skip(1).take_while(|folder| folder.starts_with(&project.root));
        let with_tests = above.take(2).find(has_tests).map(Path::to_path_buf);
        Around { root: with_tests.unwrap_or(package), deep: true }
    }
}

/// The files that may use names of the one at `path`.
fn neighbours(files: &dyn Files, around: &Around, path: &Path) -> Vec<PathBuf> {
    let extension = path.extension();
    let (mut folders, mut found) = (vec![around.root.clone()], Vec::new());
    while let Some(folder) = folders.pop() {
        for (name, kind) in files.list(&folder).into_iter().flatten().flatten() {
            let inner = folder.join(name);
            match kind {
                EntryKind::Folder if around.deep => folders.push(inner),
                EntryKind::File if inner.extension() == extension => found.push(inner),
                _ => {}
            }
        }
    }
    found
}

fn fingerprint_of(files: &dyn Files, around: &Around, path: &Path, stats: &Stats, now: SystemTime) -> Option<u128> {
    let mut known = Vec::new();
    for neighbour in neighbours(files, around, path) {
        let stat = stats.get(&neighbour).cloned().or_else(|| files.stat(&neighbour))?;
        if stat.is_fresh(now) {
            return None;
        }
        known.push((neighbour, stat));
    }
    known.sort_by(|(one, _), (other, _)| one.cmp(other));
    let mut bytes = Vec::new();
    for (neighbour, stat) in known {
        bytes.extend_from_slice(neighbour.as_os_str().as_encoded_bytes());
        bytes.extend_from_slice(&stat.as_bytes());
    }
    Some(xxh3_128(&bytes))
}

fn read_package(files: &dyn Files, around: &Around, path: &Path) -> Package {
    let mut uses = FxHashSet::default();
    let mut total = 0;
    for neighbour in neighbours(files, around, path) {
        let Ok(bytes) = files.read(&neighbour, u64::MAX) else { continue };
        total += bytes.len();
        if total > LIMIT {
            return None;
        }
        gather(&bytes, &mut uses);
    }
    Some(uses)
}

/// Adds what one file uses.
fn gather(bytes: &[u8], uses: &mut FxHashSet<u64>) {
    let aliases = imports(bytes, uses);
    for dot in memchr::memchr_iter(b'.', bytes) {
        let left = word_before(bytes, dot);
        let right = word_after(bytes, dot + 1);
        // No module is called `self`, and every third dot is after it.
        if left.is_empty() || right.is_empty() || left == b"self" {
            continue;
        }
        uses.insert(key(left, right));
        for (_, module) in aliases.iter().filter(|(alias, _)| *alias == left) {
            uses.insert(key(module, right));
        }
    }
}

/// Adds the names that `from … import …` brings in; gives the other names that modules are given.
fn imports<'b>(bytes: &'b [u8], uses: &mut FxHashSet<u64>) -> Vec<(&'b [u8], &'b [u8])> {
    let mut aliases = Vec::new();
    let finder = memchr::memmem::Finder::new(b"import");
    let mut done = 0;
    // Each byte belongs to one statement at most.
    while let Some(at) = finder.find(&bytes[done..]).map(|at| done + at) {
        done = at + b"import".len();
        let module = word_before(bytes, trimmed_end(bytes, at));
        let module = if module == b"from" { b"".as_slice() } else { module };
        let statement = end_of_import(&bytes[done..]);
        done += statement.len();
        let mut last: &[u8] = b"";
        let mut renames = false;
        for word in statement.split(|byte| !is_word(*byte)).filter(|word| !word.is_empty()) {
            if renames {
                aliases.push((word, last));
            } else if !module.is_empty() {
                uses.insert(key(module, word));
            }
            renames = word == b"as";
            if !renames {
                last = word;
            }
        }
    }
    aliases
}

/// The names after `import`: to the end of the statement, or to the closing bracket.
fn end_of_import(rest: &[u8]) -> &[u8] {
    let open = rest.iter().position(|byte| !byte.is_ascii_whitespace()).is_some_and(|at| rest[at] == b'(');
    let end = if open { memchr::memchr(b')', rest) } else { memchr::memchr2(b'\n', b';', rest) };
    &rest[..end.unwrap_or(rest.len())]
}

fn is_word(byte: u8) -> bool {
    byte == b'_' || byte.is_ascii_alphanumeric() || !byte.is_ascii()
}

fn trimmed_end(bytes: &[u8], end: usize) -> usize {
    bytes[..end].trim_ascii_end().len()
}

fn word_before(bytes: &[u8], end: usize) -> &[u8] {
    let start = bytes[..end].iter().rposition(|byte| !is_word(*byte)).map_or(0, |at| at + 1);
    &bytes[start..end]
}

fn word_after(bytes: &[u8], start: usize) -> &[u8] {
    let rest = &bytes[start..];
    &rest[..rest.iter().position(|byte| !is_word(*byte)).unwrap_or(rest.len())]
}

#[cfg(test)]
mod tests {
    use super::*;

    fn uses(source: &str, module: &str, name: &str) -> bool {
        let mut uses = FxHashSet::default();
        gather(source.as_bytes(), &mut uses);
        uses.contains(&key(module.as_bytes(), name.as_bytes()))
    }

    #[test]
    fn all_ways_of_using_a_name_count() {
        assert!(uses("import fares\nfares.total(1)\n", "fares", "total"));
        assert!(uses("from booking.fares import (\n    child,\n    total as t,\n)\n", "fares", "total"));
        assert!(uses("import booking.fares as money\nmoney.total(1)\n", "fares", "total"));
        assert!(uses("from booking import fares as money\nmoney.total(1)\n", "fares", "total"));
        assert!(!uses("fares.subtotal(1)\ntotal = 1\n", "fares", "total"));
    }

    #[test]
    fn tests_beside_the_package_count() {
        let folder = tempfile::tempdir().unwrap();
        for name in ["src/ferry", "tests"] {
            std::fs::create_dir_all(folder.path().join(name)).unwrap();
        }
        let write = |name: &str, text: &str| std::fs::write(folder.path().join(name), text).unwrap();
        write("src/ferry/__init__.py", "");
        write("src/ferry/compat.py", "from io import StringIO, BytesIO\n");
        write("tests/test_compat.py", "from ferry.compat import StringIO\n");
        let project = Project::at(folder.path(), folder.path());
        let elsewhere = Elsewhere::default();
        let path = folder.path().join("src/ferry/compat.py");
        assert!(elsewhere.may_use(&project, &path, "compat", "StringIO"));
        assert!(!elsewhere.may_use(&project, &path, "compat", "BytesIO"));
    }

    #[test]
    fn files_of_the_package_count() {
        let folder = tempfile::tempdir().unwrap();
        let write = |name: &str, text: &str| std::fs::write(folder.path().join(name), text).unwrap();
        write("__init__.py", "");
        write("util.py", "from os import sep\n");
        write("spawn.py", "from . import util\nprint(util.sep)\n");
        let project = Project::at(folder.path(), folder.path());
        let elsewhere = Elsewhere::default();
        assert!(elsewhere.may_use(&project, &folder.path().join("util.py"), "util", "sep"));
        assert!(!elsewhere.may_use(&project, &folder.path().join("util.py"), "util", "linesep"));
    }

    /// What is too large to be read around two packages is read for each of them alone, whichever is asked first.
    #[test]
    fn each_package_has_its_own_uses_where_too_much_is_around() {
        let folder = tempfile::tempdir().unwrap();
        let write = |name: &str, text: &str| {
            let path = folder.path().join(name);
            std::fs::create_dir_all(path.parent().unwrap()).unwrap();
            std::fs::write(path, text).unwrap();
        };
        write("test/large.py", &"#".repeat(LIMIT + 1));
        for (package, name) in [("fares", "child"), ("quays", "depth")] {
            write(&format!("{package}/__init__.py"), "");
            write(&format!("{package}/compat.py"), &format!("from m import {name}\n"));
            write(&format!("{package}/user.py"), &format!("from .compat import {name}\n"));
        }
        let project = Project::at(folder.path(), folder.path());
        let elsewhere = Elsewhere::default();
        let asked = [("fares", "child", "depth"), ("quays", "depth", "child"), ("fares", "child", "depth")];
        for (package, used, unused) in asked {
            let path = folder.path().join(package).join("compat.py");
            assert!(elsewhere.may_use(&project, &path, "compat", used), "{package}");
            assert!(!elsewhere.may_use(&project, &path, "compat", unused), "{package}");
        }
    }
}
