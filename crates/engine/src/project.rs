//! Where a run takes place: the working folder, the root of the code base around it, and the files as the run sees them.

use std::path::{Component, Path, PathBuf};
use std::sync::Arc;

use crate::files::{Disk, Files};

/// The folders that paths start from.
#[derive(Debug, Clone)]
pub struct Project {
    /// The working folder; paths in output are relative to it.
    pub folder: PathBuf,
    /// The root of the repository around; the working folder where there is none.
    pub root: PathBuf,
    /// The files of the code base.
    pub files: Arc<dyn Files>,
}

impl Project {
    /// Finds the root around a working folder.
    pub fn around(folder: &Path) -> Project {
        let root = folder.ancestors().find(|ancestor| is_repository(ancestor)).unwrap_or(folder);
        Project::at(folder, root)
    }

    /// Finds the root for paths that are named in a working folder: that of its repository, if they are all in it, or else of theirs.
    pub fn with_paths(folder: &Path, paths: &[PathBuf]) -> Project {
        let here = Project::around(folder);
        let mut paths = paths.iter().map(|path| absolute(folder, path));
        let Some(first) = paths.next() else { return here };
        let above = paths.fold(first, |above, path| common_ancestor(&above, &path));
        let (is_within, is_repository) = (above.starts_with(&here.root), is_repository(&here.root));
        if is_within && is_repository {
            return here;
        }
        match above.ancestors().find(|ancestor| self::is_repository(ancestor)) {
            Some(root) => Project::at(folder, root),
            None if is_within => here,
            None if above.is_file() => Project::at(folder, above.parent().unwrap_or(folder)),
            None => Project::at(folder, &above),
        }
    }

    /// A working folder and its root, with the files of the disk.
    pub fn at(folder: &Path, root: &Path) -> Project {
        Project { folder: folder.to_path_buf(), root: root.to_path_buf(), files: Arc::new(Disk) }
    }

    /// The same with other files.
    pub fn with_files(self, files: Arc<dyn Files>) -> Project {
        Project { files, ..self }
    }

    /// A path as it is shown: relative to the working folder, with `/`; absolute where it lies elsewhere.
    pub fn shown(&self, path: &Path) -> String {
        relative(&self.folder, path).unwrap_or_else(|| with_slashes(path))
    }

    /// The absolute path of a file by the path that is shown of it.
    pub fn path_of(&self, shown: &str) -> PathBuf {
        absolute(&self.folder, Path::new(shown))
    }
}

fn is_repository(folder: &Path) -> bool {
    folder.join(".git").exists()
}

/// The innermost folder that holds both.
fn common_ancestor(one: &Path, other: &Path) -> PathBuf {
    one.components().zip(other.components()).take_while(|(one, other)| one == other).map(|(one, _)| one).collect()
}

/// The way from a folder to a path within it or beside it, with `/`; `None` if they share no root.
pub fn relative(folder: &Path, path: &Path) -> Option<String> {
    if path.is_relative() {
        return Some(with_slashes(path));
    }
    let mut up = String::new();
    for ancestor in folder.ancestors() {
        if let Ok(rest) = path.strip_prefix(ancestor) {
            let rest = with_slashes(rest);
            return Some(if up.is_empty() && rest.is_empty() { ".".into() } else { format!("{up}{rest}") });
        }
        up.push_str("../");
        if up.len() > "../../../".len() {
            return None;
        }
    }
    None
}

fn with_slashes(path: &Path) -> String {
    let mut text = String::new();
    for component in path.components() {
        match component {
            Component::RootDir => text.push('/'),
            Component::CurDir => {}
            other => {
                if !text.is_empty() && !text.ends_with('/') {
                    text.push('/');
                }
                text.push_str(&other.as_os_str().to_string_lossy());
            }
        }
    }
    text
}

/// The path made absolute and free of `.` and `..`, without asking the file system.
pub fn absolute(folder: &Path, path: &Path) -> PathBuf {
    let mut whole = PathBuf::new();
    for component in folder.join(path).components() {
        match component {
            Component::CurDir => {}
            Component::ParentDir => {
                whole.pop();
            }
            other => whole.push(other),
        }
    }
    whole
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn paths_from_elsewhere_have_the_root_of_their_own_repository() {
        let folder = tempfile::tempdir().unwrap();
        let at = |path: &str| folder.path().join(path);
        for repository in ["ferry/.git", "ferry/vendor/tide/.git", "quay/.git"] {
            std::fs::create_dir_all(at(repository)).unwrap();
        }
        std::fs::create_dir_all(at("loose/boats")).unwrap();
        std::fs::write(at("loose/a.py"), "").unwrap();
        let root = |folder: &str, paths: &[&str]| {
            let paths: Vec<PathBuf> = paths.iter().map(PathBuf::from).collect();
            let project = Project::with_paths(&at(folder), &paths);
            assert_eq!(project.folder, at(folder));
            project.root.strip_prefix(at("")).unwrap().to_str().unwrap().to_string()
        };
        assert_eq!(root("ferry", &[]), "ferry");
        assert_eq!(root("ferry/booking", &["desk.py", "../tides"]), "ferry");
        assert_eq!(root("ferry", &["vendor/tide"]), "ferry", "its settings hold for what is below it");
        assert_eq!(root("ferry", &["../quay/a.py", "../quay/b"]), "quay");
        assert_eq!(root("", &["quay"]), "quay");
        assert_eq!(root("", &["quay", "ferry"]), "");
        assert_eq!(root("loose", &["a.py", "boats"]), "loose");
        assert_eq!(root("ferry", &["../loose/a.py"]), "loose");
        assert_eq!(root("ferry", &["../loose/boats"]), "loose/boats");
    }

    #[test]
    fn paths_are_told_from_the_working_folder() {
        let folder = Path::new("/ferry/booking");
        assert_eq!(relative(folder, Path::new("/ferry/booking/fares.py")).as_deref(), Some("fares.py"));
        assert_eq!(relative(folder, Path::new("/ferry/tides.py")).as_deref(), Some("../tides.py"));
        assert_eq!(relative(folder, Path::new("/ferry/booking")).as_deref(), Some("."));
        assert_eq!(absolute(folder, Path::new("./../a/b.py")), Path::new("/ferry/a/b.py"));
    }
}
