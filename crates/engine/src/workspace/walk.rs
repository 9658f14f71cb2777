//! Goes through the folders of a code base: past what git ignores, what is hidden, and repositories within it.
//!
//! Ignore lists belong to the code base and so may be hostile: they are read only where they are regular files of a sensible
//! size below the root ([`Files::read_within`]). The patterns are those of gitignore(5).

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

use ignore::gitignore::{Gitignore, GitignoreBuilder, gitconfig_excludes_path};

use crate::files::{EntryKind, FileError, Files};
use crate::git::Git;

/// A larger ignore list is not read.
const LARGEST_LIST: u64 = 1 << 20;

/// What is looked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Hidden {
    /// Names that begin with a dot are passed over.
    Skip,
    /// Only git's own folder is passed over.
    Visit,
    /// What git ignores is visited too, apart from folders of installed packages.
    VisitIgnored,
}

/// What a walk came upon, in no order.
#[derive(Debug, Default)]
pub(crate) struct Walked {
    pub(crate) files: Vec<PathBuf>,
    /// Folders that were gone through.
    pub(crate) folders: Vec<PathBuf>,
    pub(crate) links: Vec<PathBuf>,
    pub(crate) errors: Vec<FileError>,
}

/// Everything below a folder of a code base with this root. Links are not followed.
pub(crate) fn walk(files: &dyn Files, root: &Path, folder: &Path, hidden: Hidden) -> Walked {
    let mut walk = Walk::new(files, root, folder, hidden);
    walk.folder(folder);
    if walk.ignored_some {
        walk.add_tracked(folder);
    }
    walk.found
}

/// Whether a walk through a code base comes upon a file, which need not be there.
pub(crate) fn comes_upon(files: &dyn Files, root: &Path, file: &Path, hidden: Hidden) -> bool {
    let Ok(inner) = file.strip_prefix(root) else { return false };
    let mut walk = Walk::new(files, root, file.parent().unwrap_or(root), hidden);
    walk.add_list(file.parent().unwrap_or(root), &file.parent().unwrap_or(root).join(".gitignore"));
    let is_hidden = inner.iter().any(|name| {
        let starts_so = hidden == Hidden::Skip && name.as_encoded_bytes().starts_with(b".");
        starts_so || name == ".git"
    });
    let folders = || file.ancestors().skip(1).take_while(|folder| *folder != root);
    let is_elsewhere = walk.in_repository && folders().any(|folder| files.target_kind(&folder.join(".git")).is_ok());
    if is_hidden || is_elsewhere || files.kind(file).is_ok_and(|kind| kind == EntryKind::Link) {
        return false;
    }
    if walk.ignores(file, false) || folders().any(|folder| walk.ignores(folder, true)) {
        walk.add_tracked(root);
        return walk.found.files.iter().any(|tracked| tracked == file);
    }
    true
}

struct Walk<'w> {
    files: &'w dyn Files,
    root: &'w Path,
    hidden: Hidden,
    /// The root is a repository's, so that others within it are not part of the code base.
    in_repository: bool,
    /// Ignore lists by their precedence, the strongest last.
    lists: Vec<Gitignore>,
    ignored_some: bool,
    found: Walked,
}

impl<'w> Walk<'w> {
    fn new(files: &'w dyn Files, root: &'w Path, folder: &Path, hidden: Hidden) -> Walk<'w> {
        let in_repository = files.target_kind(&root.join(".git")).is_ok();
        // Asked for the sake of those who note what decides over a walk.
        gitconfig_excludes_path().into_iter().for_each(|list| drop(files.stat(&list)));
        let mut walk = Walk {
            files,
            root,
            hidden,
            in_repository,
            lists: vec![Gitignore::global().0],
            ignored_some: false,
            found: Walked::default(),
        };
        walk.add_list(root, &root.join(".git/info/exclude"));
        let above: Vec<&Path> = folder.ancestors().skip(1).take_while(|above| above.starts_with(root)).collect();
        for folder in above.into_iter().rev() {
            walk.add_list(folder, &folder.join(".gitignore"));
        }
        walk
    }

    /// Adds an ignore list, if it is there; gives whether it is.
    fn add_list(&mut self, folder: &Path, path: &Path) -> bool {
        let Ok(bytes) = self.files.read_within(self.root, path, LARGEST_LIST) else { return false };
        let mut builder = GitignoreBuilder::new(folder);
        for line in String::from_utf8_lossy(&bytes).trim_start_matches('\u{feff}').lines() {
            // git passes over a pattern that it does not understand, too.
            let _ = builder.add_line(None, line);
        }
        let list = builder.build();
        self.lists.extend(list.ok());
        true
    }

    fn ignores(&self, path: &Path, is_folder: bool) -> bool {
        if !self.files.obeys_ignore_lists() {
            return false;
        }
        let decided = self.lists.iter().rev().map(|list| list.matched(path, is_folder)).find(|found| !found.is_none());
        decided.is_some_and(|found| found.is_ignore())
    }

    fn folder(&mut self, folder: &Path) {
        let entries = match self.files.list(folder) {
            Ok(entries) => entries,
            Err(cause) => {
                return self.found.errors.push(FileError { path: folder.to_path_buf(), doing: "read", cause });
            }
        };
        let mut inner = Vec::new();
        for entry in entries {
            match entry {
                Ok(entry) => inner.push(entry),
                Err(cause) => self.found.errors.push(FileError { path: folder.to_path_buf(), doing: "read", cause }),
            }
        }
        let named = |name: &str| inner.iter().any(|(inner, _)| inner == name);
        if self.in_repository && folder != self.root && named(".git") {
            return;
        }
        self.found.folders.push(folder.to_path_buf());
        let lists = self.lists.len();
        if named(".gitignore") {
            self.add_list(folder, &folder.join(".gitignore"));
        }
        for (name, kind) in inner {
            let is_hidden = self.hidden == Hidden::Skip && name.as_encoded_bytes().starts_with(b".");
            if is_hidden || name == ".git" {
                continue;
            }
            let path = folder.join(&name);
            let visits_ignored = self.hidden == Hidden::VisitIgnored;
            if visits_ignored
                && kind == EntryKind::Folder
                && (name == "node_modules" || self.files.kind(&path.join("pyvenv.cfg")).is_ok())
            {
                continue;
            }
            if !visits_ignored && self.ignores(&path, kind == EntryKind::Folder) {
                self.ignored_some = true;
            } else if kind == EntryKind::Folder {
                self.folder(&path);
            } else if kind == EntryKind::Link {
                self.found.links.push(path);
            } else if kind == EntryKind::File {
                self.found.files.push(path);
            }
        }
        self.lists.truncate(lists);
    }

    /// Adds files that git keeps although an ignore list names them. Where git cannot be asked, the lists alone decide.
    fn add_tracked(&mut self, folder: &Path) {
        if !self.in_repository {
            return;
        }
        let _ = self.files.stat(&index_of(self.files, self.root));
        let Ok(tracked) = Git::tracked(self.root) else { return };
        let known: BTreeSet<&PathBuf> = self.found.files.iter().collect();
        let is_hidden = |inner: &Path| inner.iter().any(|name| name.as_encoded_bytes().starts_with(b"."));
        let mut more = Vec::new();
        for path in tracked.into_iter().filter(|path| !known.contains(path)) {
            let Ok(inner) = path.strip_prefix(folder) else { continue };
            let wanted = self.hidden != Hidden::Skip || !is_hidden(inner);
            if wanted && self.files.kind(&path).is_ok_and(|kind| kind == EntryKind::File) {
                more.push(path);
            }
        }
        self.found.files.append(&mut more);
    }
}

/// The file in which git notes what it keeps; `.git` is a file that names a folder where the working tree is one of several.
fn index_of(files: &dyn Files, root: &Path) -> PathBuf {
    let own = root.join(".git");
    let named = files.read(&own, LARGEST_LIST).ok().and_then(|bytes| String::from_utf8(bytes).ok());
    let named = named.and_then(|line| Some(root.join(line.strip_prefix("gitdir: ")?.trim_end())));
    named.unwrap_or(own).join("index")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::files::Disk;

    fn names(root: &Path, folder: &str, hidden: Hidden) -> Vec<String> {
        let mut found: Vec<String> = walk(&Disk, root, &root.join(folder), hidden)
            .files
            .iter()
            .map(|path| path.strip_prefix(root).unwrap().to_string_lossy().into_owned())
            .collect();
        found.sort();
        found
    }

    fn folder_with(files: &[(&str, &str)]) -> tempfile::TempDir {
        let folder = tempfile::tempdir().unwrap();
        for (name, text) in files {
            let path = folder.path().join(name);
            std::fs::create_dir_all(path.parent().unwrap()).unwrap();
            std::fs::write(path, text).unwrap();
        }
        folder
    }

    const LISTS: &[(&str, &str)] = &[
        (".gitignore", "*.log\n/build/\n"),
        ("a.log", ""),
        ("build/a.py", ""),
        ("inner/build/a.py", ""),
        ("inner/.gitignore", "!keep.log\nb.py\n"),
        ("inner/keep.log", ""),
        ("inner/b.py", ""),
        ("b.py", ""),
        (".hidden/c.py", ""),
    ];

    #[test]
    fn inner_lists_are_stronger_and_hold_below_their_folder() {
        let folder = folder_with(LISTS);
        assert_eq!(names(folder.path(), "", Hidden::Skip), ["b.py", "inner/build/a.py", "inner/keep.log"]);
        assert_eq!(names(folder.path(), "inner", Hidden::Skip), ["inner/build/a.py", "inner/keep.log"]);
        let all = names(folder.path(), "", Hidden::Visit);
        assert!(all.contains(&".hidden/c.py".to_string()) && all.contains(&".gitignore".to_string()));
    }

    #[test]
    fn a_file_is_come_upon_if_a_walk_finds_it() {
        let inner = [("lib/.git", "gitdir: elsewhere\n"), ("lib/d.py", "")];
        let all = [LISTS, &inner].concat();
        for in_repository in [false, true] {
            let folder = folder_with(&all);
            if in_repository {
                std::fs::create_dir(folder.path().join(".git")).unwrap();
            }
            for hidden in [Hidden::Skip, Hidden::Visit] {
                let found = names(folder.path(), "", hidden);
                for (name, _) in &all {
                    let is_found = found.iter().any(|found| found == name);
                    let path = folder.path().join(name);
                    assert_eq!(comes_upon(&Disk, folder.path(), &path, hidden), is_found, "{name}");
                }
            }
        }
    }

    #[test]
    fn repositories_within_a_repository_are_left_alone() {
        let files = [
            ("a.py", ""),
            ("lib/.git", "gitdir: elsewhere\n"),
            ("lib/b.py", ""),
            ("clone/.git/HEAD", ""),
            ("clone/c.py", ""),
        ];
        let folder = folder_with(&files);
        assert_eq!(names(folder.path(), "", Hidden::Skip), ["a.py", "clone/c.py", "lib/b.py"]);
        std::fs::create_dir(folder.path().join(".git")).unwrap();
        assert_eq!(names(folder.path(), "", Hidden::Skip), ["a.py"]);
    }

    #[test]
    fn the_index_is_where_the_working_tree_says() {
        let folder = folder_with(&[(".git/HEAD", ""), ("other/.git", "gitdir: ../.git/worktrees/other\n")]);
        assert_eq!(index_of(&Disk, folder.path()), folder.path().join(".git/index"));
        let other = folder.path().join("other");
        assert_eq!(index_of(&Disk, &other), other.join("../.git/worktrees/other/index"));
    }

    #[cfg(unix)]
    #[test]
    fn an_ignore_list_that_leads_away_is_not_read() {
        let folder = folder_with(&[("a.py", ""), ("inner/b.py", "")]);
        let outside = folder_with(&[("list", "*.py\n")]);
        std::os::unix::fs::symlink("/dev/zero", folder.path().join(".gitignore")).unwrap();
        std::os::unix::fs::symlink(outside.path().join("list"), folder.path().join("inner/.gitignore")).unwrap();
        assert_eq!(names(folder.path(), "", Hidden::Skip), ["a.py", "inner/b.py"]);
    }
}
