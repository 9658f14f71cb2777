//! The files of a repository as its index or a commit has them, whatever the working files are.
//!
//! A file of which git says that the working copy is the same is read from the disk; the contents of the others come from one
//! process that lasts as long as the snapshot. Files that git does not know are not there, and ignore lists have no say.

use std::collections::{BTreeMap, HashMap, HashSet};
use std::ffi::OsString;
use std::io::{self, BufRead, BufReader, Read, Write};
use std::path::{Path, PathBuf};
use std::process::{Child, ChildStdin, ChildStdout, Stdio};
use std::sync::{Arc, Mutex, PoisonError};

use super::{Git, GitError, Since, path_of};
use crate::files::{Disk, EntryKind, FileError, FileStat, Files, bounded};

/// The files of a commit, or of the index.
#[derive(Debug)]
pub struct Snapshot {
    root: PathBuf,
    /// What is in each folder, by absolute path.
    folders: HashMap<PathBuf, BTreeMap<OsString, EntryKind>>,
    /// The objects of files that may differ from the working ones, and their sizes in bytes.
    objects: HashMap<PathBuf, (String, u64)>,
    reader: Mutex<Objects>,
}

/// A file as git lists it.
struct Entry {
    id: String,
    kind: EntryKind,
}

impl Snapshot {
    /// The files that changes of this sort compare; nothing where these are the working files.
    ///
    /// # Errors
    /// When git fails.
    pub fn of(git: &Git, since: &Since) -> Result<Option<Snapshot>, GitError> {
        let index = || listed(git, &["ls-files", "-z", "--stage"]);
        let (entries, index) = match since {
            Since::LastCommit | Since::Revision(_) => return Ok(None),
            Since::Staged => (index()?, None),
            Since::Pushed(pushed) => {
                (listed(git, &["ls-tree", "-r", "-z", "--full-tree", &pushed.commit])?, Some(index()?))
            }
        };
        let working = changed_in_folder(git)?;
        let is_other = |path: &PathBuf, entry: &Entry| {
            let in_index = index.as_ref().is_none_or(|index| index.get(path).is_some_and(|other| other.id == entry.id));
            // A sparse working folder does not hold every file.
            let is_there = || Disk.kind(path).is_ok_and(|kind| kind == EntryKind::File);
            entry.kind == EntryKind::File && (!in_index || working.contains(path) || !is_there())
        };
        let others: Vec<(&PathBuf, &str)> = entries
            .iter()
            .filter(|(path, entry)| is_other(path, entry))
            .map(|(path, entry)| (path, entry.id.as_str()))
            .collect();
        let sizes = sizes(git, &others)?;
        let objects = others.iter().zip(sizes).map(|((path, id), size)| ((*path).clone(), ((*id).to_string(), size)));
        let objects = objects.collect();
        let folders = folders(&git.root, &entries);
        Ok(Some(Snapshot { root: git.root.clone(), folders, objects, reader: Mutex::new(Objects::of(git)) }))
    }

    /// What is at a path; nothing where it is not below the root, or is git's own.
    fn entry(&self, path: &Path) -> Option<io::Result<EntryKind>> {
        let inner = path.strip_prefix(&self.root).ok()?;
        if inner.starts_with(".git") {
            return None;
        }
        let known = match inner.file_name() {
            None => Some(EntryKind::Folder),
            Some(name) => path.parent().and_then(|folder| self.folders.get(folder)?.get(name).copied()),
        };
        Some(known.ok_or_else(|| io::ErrorKind::NotFound.into()))
    }

    fn content(&self, path: &Path) -> io::Result<Option<Arc<[u8]>>> {
        match self.entry(path) {
            Some(Ok(EntryKind::File)) => {}
            Some(Ok(EntryKind::Folder)) => return Err(io::ErrorKind::IsADirectory.into()),
            Some(Ok(_)) => return Err(io::Error::other("it is no regular file")),
            Some(Err(error)) => return Err(error),
            None => return Ok(None),
        }
        let Some((id, _)) = self.objects.get(path) else { return Ok(None) };
        self.reader.lock().unwrap_or_else(PoisonError::into_inner).content(id).map(Some)
    }
}

impl Files for Snapshot {
    fn read(&self, path: &Path, limit: u64) -> Result<Vec<u8>, FileError> {
        let failed = |cause| FileError { path: path.to_path_buf(), doing: "read", cause };
        match self.content(path).map_err(failed)? {
            Some(content) => bounded(Ok(&content), limit).map_err(failed),
            None => Disk.read(path, limit),
        }
    }

    fn read_start(&self, path: &Path, limit: usize) -> Result<Vec<u8>, FileError> {
        match self.content(path).map_err(|cause| FileError { path: path.to_path_buf(), doing: "read", cause })? {
            Some(content) => Ok(content[..content.len().min(limit)].to_vec()),
            None => Disk.read_start(path, limit),
        }
    }

    fn kind(&self, path: &Path) -> io::Result<EntryKind> {
        self.entry(path).unwrap_or_else(|| Disk.kind(path))
    }

    fn target_kind(&self, path: &Path) -> io::Result<EntryKind> {
        match self.entry(path) {
            // Where a link leads to is not followed through versions.
            Some(Ok(EntryKind::Link)) => Ok(EntryKind::Other),
            Some(known) => known,
            None => Disk.target_kind(path),
        }
    }

    fn size(&self, path: &Path) -> u64 {
        match (self.entry(path), self.objects.get(path)) {
            (Some(_), Some((_, size))) => *size,
            (Some(Err(_)), None) => 0,
            _ => Disk.size(path),
        }
    }

    fn list(&self, folder: &Path) -> io::Result<Vec<io::Result<(OsString, EntryKind)>>> {
        match self.entry(folder) {
            Some(Err(error)) => Err(error),
            Some(Ok(_)) => {
                let entries = self.folders.get(folder).into_iter().flatten();
                Ok(entries.map(|(name, kind)| Ok((name.clone(), *kind))).collect())
            }
            None => Disk.list(folder),
        }
    }

    fn stat(&self, path: &Path) -> Option<FileStat> {
        let is_of_disk = !matches!(self.entry(path), Some(Err(_))) && !self.objects.contains_key(path);
        if is_of_disk { Disk.stat(path) } else { None }
    }

    fn real(&self, path: &Path) -> io::Result<PathBuf> {
        match self.entry(path) {
            Some(Ok(EntryKind::Link)) => Err(io::Error::other("it is a link")),
            Some(known) => known.map(|_| path.to_path_buf()),
            None => Disk.real(path),
        }
    }

    fn obeys_ignore_lists(&self) -> bool {
        false
    }
}

/// The files that git lists with their modes and objects. Of a file in conflict, the version of this side counts.
fn listed(git: &Git, arguments: &[&str]) -> Result<BTreeMap<PathBuf, Entry>, GitError> {
    let output = git.run("list its files", arguments)?;
    let mut entries = BTreeMap::new();
    for line in output.split(|byte| *byte == 0).filter(|line| !line.is_empty()) {
        let Some(tab) = memchr::memchr(b'\t', line) else { continue };
        let words = String::from_utf8_lossy(&line[..tab]).into_owned();
        let words: Vec<&str> = words.split(' ').collect();
        // `MODE ID STAGE` of the index, `MODE TYPE ID` of a tree.
        let (mode, id, is_ours) = match words[..] {
            [mode, "blob" | "commit", id] => (mode, id, true),
            [mode, id, stage] => (mode, id, matches!(stage, "0" | "2")),
            _ => continue,
        };
        let kind = match mode {
            _ if mode.starts_with("10") => EntryKind::File,
            "120000" => EntryKind::Link,
            _ => continue,
        };
        if is_ours {
            entries.insert(path_of(&git.root, &line[tab + 1..]), Entry { id: id.to_string(), kind });
        }
    }
    Ok(entries)
}

/// The files of the index whose working copies may differ from it.
fn changed_in_folder(git: &Git) -> Result<HashSet<PathBuf>, GitError> {
    let arguments = ["diff-files", "-z", "--name-only", "--no-renames", "--ignore-submodules=all", "--no-ext-diff"];
    let output = git.run("compare", &arguments)?;
    Ok(output.split(|byte| *byte == 0).filter(|path| !path.is_empty()).map(|path| path_of(&git.root, path)).collect())
}

/// What is in each folder.
fn folders(root: &Path, entries: &BTreeMap<PathBuf, Entry>) -> HashMap<PathBuf, BTreeMap<OsString, EntryKind>> {
    let mut folders: HashMap<PathBuf, BTreeMap<OsString, EntryKind>> = HashMap::new();
    for (path, entry) in entries {
        let (mut inner, mut kind) = (path.as_path(), entry.kind);
        while let (Some(folder), Some(name)) = (inner.parent(), inner.file_name()) {
            let known = folders.entry(folder.to_path_buf()).or_default().insert(name.to_os_string(), kind).is_some();
            if known || folder == root {
                break;
            }
            (inner, kind) = (folder, EntryKind::Folder);
        }
    }
    folders
}

/// The sizes of objects, in bytes.
fn sizes(git: &Git, objects: &[(&PathBuf, &str)]) -> Result<Vec<u64>, GitError> {
    const DOING: &str = "read contents";
    if objects.is_empty() {
        return Ok(Vec::new());
    }
    let asked: String = objects.iter().flat_map(|(_, id)| [*id, "\n"]).collect();
    let output = git.run_with(DOING, &["cat-file", "--batch-check=%(objectsize)"], asked.as_bytes())?;
    let output = super::succeeded(DOING, output)?;
    let sizes: Vec<u64> = String::from_utf8_lossy(&output).lines().filter_map(|line| line.parse().ok()).collect();
    if sizes.len() == objects.len() {
        return Ok(sizes);
    }
    let lacking = "an object is not there; in a partial clone, `git fetch --refetch --no-filter` gets all";
    Err(GitError::Failed(DOING, lacking.into()))
}

/// Reads the contents of objects, one after the other.
#[derive(Debug)]
struct Objects {
    git: Git,
    process: Option<(Child, ChildStdin, BufReader<ChildStdout>)>,
}

impl Objects {
    fn of(git: &Git) -> Objects {
        Objects { git: git.clone(), process: None }
    }

    fn content(&mut self, id: &str) -> io::Result<Arc<[u8]>> {
        if self.process.is_none() {
            self.process = Some(self.start()?);
        }
        let cut_off = || io::Error::other("git does not answer");
        let (_, input, output) = self.process.as_mut().ok_or_else(cut_off)?;
        writeln!(input, "{id}")?;
        input.flush()?;
        let mut head = String::new();
        output.read_line(&mut head)?;
        let size = head.trim_end().rsplit(' ').next().and_then(|size| size.parse::<u64>().ok());
        let size = size.ok_or_else(|| io::Error::other("the repository does not hold its content"))?;
        let mut content = Vec::new();
        output.take(size).read_to_end(&mut content)?;
        let mut line_feed = [0];
        output.read_exact(&mut line_feed)?;
        if content.len() as u64 == size { Ok(content.into()) } else { Err(cut_off()) }
    }

    fn start(&self) -> io::Result<(Child, ChildStdin, BufReader<ChildStdout>)> {
        let mut command = self.git.command(&["cat-file", "--batch"]);
        let mut child = command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::null()).spawn()?;
        let pipes = child.stdin.take().zip(child.stdout.take());
        let (input, output) = pipes.ok_or_else(|| io::Error::other("git cannot be asked"))?;
        Ok((child, input, BufReader::new(output)))
    }
}

impl Drop for Objects {
    fn drop(&mut self) {
        if let Some((mut child, input, output)) = self.process.take() {
            // Without input it ends.
            drop((input, output));
            let _ = child.wait();
        }
    }
}
