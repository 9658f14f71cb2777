//! What the files of a package use through each other's names.
//!
//! That some file says `module.name` or `from module import name`, in its code or in a string, is enough for a rule to stay silent.
//! Each file tells what it uses when it is visited; others around it are read when somebody asks.

use std::collections::HashMap;
use std::collections::hash_map::Entry;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

use rustc_hash::{FxHashMap, FxHashSet};
use serde::{Deserialize, Serialize};

use super::hashes::{Gathering, Hashes, hash_of};
use crate::files::{EntryKind, Files};
use crate::project::Project;

/// More bytes than this are not looked through for one package; then anything may be used.
const LIMIT: usize = 64 << 20;

/// What one file uses.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Used {
    /// The length of its source in bytes.
    length: u32,
    /// Hashes of modules with a name in them.
    keys: Hashes,
}

impl Used {
    /// By the dots of a source, in its code, its strings and its comments.
    pub(super) fn of(source: &[u8]) -> Used {
        let mut gathering = GatheredUses::of(source);
        memchr::memchr_iter(b'.', source).for_each(|dot| gathering.at_dot(dot));
        gathering.into_used()
    }
}

/// The uses in packages, each gathered once.
#[derive(Debug, Default)]
pub(crate) struct Uses {
    known: Mutex<FxHashMap<PathBuf, Used>>,
    /// What files use that were not visited, once they have been read.
    read: Mutex<FxHashMap<PathBuf, Used>>,
    packages: Mutex<HashMap<Around, Arc<Package>>>,
}

/// The files that may use names of one: those of a folder, or of all folders below it.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
struct Around {
    root: PathBuf,
    deep: bool,
}

/// Hashes of a module's and a name in it, for all that a package uses; nothing if the package is too large.
type Package = Option<FxHashSet<u32>>;

impl Uses {
    /// Drops what is known of a file, and what was gathered with it.
    pub(super) fn forget(&self, path: &Path) {
        self.known.lock().unwrap_or_else(PoisonError::into_inner).remove(path);
        self.read.lock().unwrap_or_else(PoisonError::into_inner).remove(path);
        self.packages.lock().unwrap_or_else(PoisonError::into_inner).clear();
    }

    /// Notes what a file uses.
    pub(super) fn know(&self, path: PathBuf, used: Used) {
        self.known.lock().unwrap_or_else(PoisonError::into_inner).insert(path, used);
    }

    /// Whether a file of the package around `path` seems to use a name through a module.
    pub(crate) fn may_use(&self, project: &Project, path: &Path, module: &str, name: &str) -> bool {
        let around = Around::of(project, path);
        let mut found = self.package(project, &around, path);
        if found.is_none() {
            // Too much around the package: the package alone must do, if it is not too large itself.
            found = self.package(project, &Around { root: package_root(project, path), ..around }, path);
        }
        found.as_ref().as_ref().is_none_or(|uses| uses.contains(&key(module.as_bytes(), name.as_bytes())))
    }

    fn package(&self, project: &Project, around: &Around, path: &Path) -> Arc<Package> {
        let mut packages = self.packages.lock().unwrap_or_else(PoisonError::into_inner);
        let read = |around: &Around| Arc::new(self.look_through(&*project.files, around, path));
        Arc::clone(packages.entry(around.clone()).or_insert_with_key(read))
    }

    fn look_through(&self, files: &dyn Files, around: &Around, path: &Path) -> Package {
        let mut uses = FxHashSet::default();
        let mut total = 0;
        let known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        let mut others = self.read.lock().unwrap_or_else(PoisonError::into_inner);
        for neighbour in neighbours(files, around, path) {
            let used: &Used = match (known.get(&neighbour), others.entry(neighbour)) {
                (Some(used), _) => used,
                (None, Entry::Occupied(used)) => used.into_mut(),
                (None, Entry::Vacant(new)) => match files.read(new.key(), u64::MAX) {
                    Ok(bytes) => new.insert(Used::of(&bytes)),
                    Err(_) => continue,
                },
            };
            total += used.length as usize;
            if total > LIMIT {
                return None;
            }
            uses.extend(used.keys.iter());
        }
        Some(uses)
    }
}

fn key(module: &[u8], name: &[u8]) -> u32 {
    hash_of((module, name))
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

/// Gathers what one file uses.
struct GatheredUses<'b> {
    bytes: &'b [u8],
    /// Other names that modules have in the file, and the modules.
    aliases: Vec<(&'b [u8], &'b [u8])>,
    keys: Gathering,
}

impl<'b> GatheredUses<'b> {
    /// Begins with the imports.
    fn of(bytes: &'b [u8]) -> GatheredUses<'b> {
        let mut keys = Gathering::default();
        let aliases = imports(bytes, &mut keys);
        GatheredUses { bytes, aliases, keys }
    }

    /// Adds what the words on either side of a dot say.
    fn at_dot(&mut self, dot: usize) {
        let left = word_before(self.bytes, dot);
        let right = word_after(self.bytes, dot + 1);
        // No module is called `self`, and every third dot is after it; dots in numbers use nothing.
        if left == b"self" || right.is_empty() || left.first().is_none_or(u8::is_ascii_digit) {
            return;
        }
        self.keys.add(key(left, right));
        for (_, module) in self.aliases.iter().filter(|(alias, _)| *alias == left) {
            self.keys.add(key(module, right));
        }
    }

    fn into_used(self) -> Used {
        Used { length: self.bytes.len() as u32, keys: self.keys.into_hashes() }
    }
}

/// Adds the names that `from … import …` brings in; gives the other names that modules are given.
fn imports<'b>(bytes: &'b [u8], uses: &mut Gathering) -> Vec<(&'b [u8], &'b [u8])> {
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
                uses.add(key(module, word));
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
        let used = Used::of(source.as_bytes());
        used.keys.iter().any(|known| known == key(module.as_bytes(), name.as_bytes()))
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
        let uses = Uses::default();
        let path = folder.path().join("src/ferry/compat.py");
        assert!(uses.may_use(&project, &path, "compat", "StringIO"));
        assert!(!uses.may_use(&project, &path, "compat", "BytesIO"));
    }

    #[test]
    fn files_of_the_package_count() {
        let folder = tempfile::tempdir().unwrap();
        let write = |name: &str, text: &str| std::fs::write(folder.path().join(name), text).unwrap();
        write("__init__.py", "");
        write("util.py", "from os import sep\n");
        write("spawn.py", "from . import util\nprint(util.sep)\n");
        let project = Project::at(folder.path(), folder.path());
        let uses = Uses::default();
        assert!(uses.may_use(&project, &folder.path().join("util.py"), "util", "sep"));
        assert!(!uses.may_use(&project, &folder.path().join("util.py"), "util", "linesep"));
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
        let uses = Uses::default();
        let asked = [("fares", "child", "depth"), ("quays", "depth", "child"), ("fares", "child", "depth")];
        for (package, used, unused) in asked {
            let path = folder.path().join(package).join("compat.py");
            assert!(uses.may_use(&project, &path, "compat", used), "{package}");
            assert!(!uses.may_use(&project, &path, "compat", unused), "{package}");
        }
    }

    #[test]
    fn what_a_visit_has_brought_counts() {
        let folder = tempfile::tempdir().unwrap();
        std::fs::write(folder.path().join("user.py"), "import fares\n").unwrap();
        let project = Project::at(folder.path(), folder.path());
        let uses = Uses::default();
        uses.know(folder.path().join("user.py"), Used::of(b"import fares as f\nf.total()\n"));
        assert!(uses.may_use(&project, &folder.path().join("fares.py"), "fares", "total"));
        assert!(!uses.may_use(&project, &folder.path().join("fares.py"), "fares", "child"));
    }

    /// Dots in strings and comments count, those in numbers do not.
    #[test]
    fn what_is_before_and_behind_a_dot_is_used() {
        let source = b"from booking import fares as money\nx = money.total(1.5)\ny = f\"{tides.low} ferry.quay\"  # see boat.deck\n";
        let used = Used::of(source);
        let has = |used: &Used, module: &str, name: &str| {
            used.keys.iter().any(|known| known == key(module.as_bytes(), name.as_bytes()))
        };
        let pairs = [
            ("booking", "fares"),
            ("money", "total"),
            ("fares", "total"),
            ("tides", "low"),
            ("ferry", "quay"),
            ("boat", "deck"),
        ];
        for (module, name) in pairs {
            assert!(has(&used, module, name), "{module}.{name}");
        }
        assert!(!has(&used, "1", "5"));
    }
}
