//! What changed since some commits: files, lines, and the contents before.
//!
//! git lists the files and exports the contents of its objects; the working files are read and all lines are compared here, so
//! that no filter of contents is needed, and no setting of the repository has a say in the result.

use std::collections::{BTreeMap, BTreeSet, HashMap};
use std::path::{Path, PathBuf};

use super::{Git, GitError, Pushed, one_line, path_of, succeeded};
use crate::files;

pub use super::lines::ChangedLines;

/// Since when changes count.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Since {
    /// What is not committed yet, files that git does not know yet included.
    LastCommit,
    /// What is committed or not since the current line of history left that of a revision.
    Revision(String),
    /// What is to be committed next: the index, not the working files.
    Staged,
    /// What the commits of a branch bring that is about to be pushed: its content, not the working files.
    Pushed(Pushed),
}

impl Since {
    /// Whether the working files are compared, and not contents that git keeps.
    fn is_of_files(&self) -> bool {
        matches!(self, Since::LastCommit | Since::Revision(_))
    }
}

/// The changed files of a repository.
#[derive(Debug)]
pub struct Changes {
    /// Since when.
    pub since: Since,
    /// By absolute path.
    pub files: BTreeMap<PathBuf, ChangedFile>,
}

/// A file that was added or changed.
#[derive(Debug, Default)]
pub struct ChangedFile {
    /// The lines that are new or different.
    pub lines: ChangedLines,
    /// Its bytes in each of the commits that it is compared with, where it was there.
    pub before: Vec<Vec<u8>>,
}

/// One file of a difference, as git lists it.
struct Entry {
    before: String,
    after: String,
    is_file: bool,
    was_file: bool,
    path: Vec<u8>,
}

impl Changes {
    /// Asks git what changed.
    ///
    /// # Errors
    /// When git is not there, knows no such revision, or fails.
    pub fn find(git: &Git, since: Since) -> Result<Changes, GitError> {
        let bases = bases(git, &since)?;
        let mut listed = Listed::default();
        for base in &bases {
            let entries = match &since {
                Since::Pushed(pushed) => entries(&git.run("compare", &tree_difference(base, &pushed.commit))?),
                _ => entries(&git.run("compare", &index_difference(base))?),
            };
            listed.add(entries);
        }
        if since.is_of_files() {
            listed.add_unstaged(git)?;
        }
        let objects = objects(git, &listed.ids(bases.len()))?;
        let mut changes = Changes { since, files: BTreeMap::new() };
        for (path, file) in listed.files {
            changes.add(path_of(&git.root, &path), &file, bases.len(), &objects);
        }
        if changes.since.is_of_files() {
            changes.add_unknown(git)?;
        }
        Ok(changes)
    }

    /// Adds a file, if it differs from what it was in every one of the commits.
    fn add(&mut self, path: PathBuf, listed: &ListedFile, bases: usize, objects: &HashMap<String, Vec<u8>>) {
        // A file that is as in one of the commits was left out of that comparison: none of its lines is new.
        if !listed.is_file || (listed.compared < bases && !listed.unstaged) {
            return;
        }
        let content =
            if self.since.is_of_files() { None } else { listed.after.as_ref().and_then(|id| objects.get(id)) };
        let before: Vec<Vec<u8>> = listed.before.iter().filter_map(|id| objects.get(id)).cloned().collect();
        let now = match content {
            Some(content) => Some(content.clone()),
            None => files::read(&path).ok(),
        };
        let mut lines = ChangedLines::All;
        // A file that cannot be read is reported where it is sifted.
        for (before, now) in before.iter().filter_map(|before| Some((before, now.as_ref()?))) {
            lines = lines.and(ChangedLines::between(before, now));
        }
        // Where lines only went, no line is new, but what is left may be wrong for it.
        let differs = now.as_ref().is_none_or(|now| before.iter().all(|before| before != now));
        if differs || listed.is_renamed {
            self.files.insert(path, ChangedFile { lines, before });
        }
    }

    /// Adds the files that git does not know yet and does not ignore.
    fn add_unknown(&mut self, git: &Git) -> Result<(), GitError> {
        let listed = git.run("list new files", &["ls-files", "-z", "--others", "--exclude-standard"])?;
        for path in listed.split(|byte| *byte == 0).filter(|path| !path.is_empty() && !path.ends_with(b"/")) {
            self.files.entry(path_of(&git.root, path)).or_default();
        }
        Ok(())
    }

    /// Which lines do not count, in a few words for an account.
    pub fn what_does_not_count(&self) -> String {
        match &self.since {
            Since::LastCommit => "lines that are as in the last commit".into(),
            Since::Revision(name) => format!("lines that did not change since {name}"),
            Since::Staged => "lines that are not part of what is staged".into(),
            Since::Pushed(pushed) => format!("lines that {} has already", pushed.name),
        }
    }

    /// A file's changes, by its absolute path.
    pub fn of(&self, path: &Path) -> Option<&ChangedFile> {
        self.files.get(path)
    }
}

/// A file as some comparisons list it.
#[derive(Default)]
struct ListedFile {
    /// How many of the comparisons list it.
    compared: usize,
    /// Its content in each of the commits.
    before: Vec<String>,
    /// Its content that git keeps for the next commit.
    after: Option<String>,
    is_file: bool,
    is_renamed: bool,
    /// The working file may differ from what git keeps for the next commit.
    unstaged: bool,
}

/// Files by their paths below the top folder.
#[derive(Default)]
struct Listed {
    files: BTreeMap<Vec<u8>, ListedFile>,
}

impl Listed {
    fn add(&mut self, entries: Vec<(Entry, bool)>) {
        for (entry, is_renamed) in entries {
            let file = self.files.entry(entry.path).or_default();
            file.compared += 1;
            file.is_file = entry.is_file;
            file.is_renamed |= is_renamed;
            file.before.extend(Some(entry.before).filter(|id| entry.was_file && is_object(id)));
            file.after = Some(entry.after);
        }
    }

    /// Adds files of which the working version may differ from the one that git keeps. Whether it does is for the contents to say.
    fn add_unstaged(&mut self, git: &Git) -> Result<(), GitError> {
        let arguments = ["diff-files", "--raw", "-z", "--no-abbrev", "--no-renames", "--ignore-submodules=all"];
        for (entry, _) in entries(&git.run("compare", &arguments)?) {
            let file = self.files.entry(entry.path).or_default();
            file.unstaged = true;
            file.is_file = entry.is_file;
            if file.compared == 0 {
                // As in the commit but for the working file.
                file.before.extend(Some(entry.before).filter(|id| entry.was_file && is_object(id)));
            }
        }
        Ok(())
    }

    /// The objects whose contents are needed: each once.
    fn ids(&self, bases: usize) -> BTreeSet<&str> {
        let counts = |file: &&ListedFile| file.is_file && (file.compared >= bases || file.unstaged);
        let files = self.files.values().filter(counts);
        files
            .flat_map(|file| file.before.iter().chain(&file.after))
            .map(String::as_str)
            .filter(|id| is_object(id))
            .collect()
    }
}

/// Whether an id names an object, and not nothing.
fn is_object(id: &str) -> bool {
    id.bytes().any(|digit| digit != b'0')
}

/// The commits or trees that contents are compared with. A line counts only if it is new in comparison with each.
fn bases(git: &Git, since: &Since) -> Result<Vec<String>, GitError> {
    match since {
        Since::LastCommit => Ok(vec![git.commit("HEAD")?.map_or_else(|| empty_tree(git), Ok)?]),
        Since::Staged => {
            let mut bases = vec![git.commit("HEAD")?.map_or_else(|| empty_tree(git), Ok)?];
            // While a merge is going on, the next commit has more than one parent.
            bases.extend(merged_heads(git)?);
            Ok(bases)
        }
        Since::Revision(name) => {
            let commit = git.commit(name)?.ok_or_else(|| GitError::NoRevision(name.clone()))?;
            let output = git.output(&["merge-base", &commit, "HEAD"], None)?;
            match one_line(&output.stdout) {
                base if !base.is_empty() => Ok(vec![base]),
                _ if git.is_shallow() => Err(GitError::Shallow(name.clone())),
                _ => Err(GitError::Unrelated(name.clone())),
            }
        }
        Since::Pushed(pushed) => {
            let mut bases = boundary(git, pushed)?;
            if bases.is_empty() {
                // Nothing of it is known on the other side.
                bases.push(empty_tree(git)?);
            }
            Ok(bases)
        }
    }
}

/// Before the first commit everything is new.
fn empty_tree(git: &Git) -> Result<String, GitError> {
    const DOING: &str = "name the empty tree";
    Ok(one_line(&succeeded(DOING, git.run_with(DOING, &["hash-object", "-t", "tree", "--stdin"], b"")?)?))
}

/// The commits that are being merged into the current one.
fn merged_heads(git: &Git) -> Result<Vec<String>, GitError> {
    let printed = git.run("look for a merge", &["rev-parse", "--git-path", "MERGE_HEAD"])?;
    let path = git.root.join(one_line(&printed));
    let Ok(bytes) = files::read_bounded(&path, 1 << 16) else { return Ok(Vec::new()) };
    let names = String::from_utf8_lossy(&bytes).into_owned();
    let commits: Result<Vec<Option<String>>, GitError> = names.lines().map(|name| git.commit(name)).collect();
    Ok(commits?.into_iter().flatten().collect())
}

/// The commits on which the pushed ones are: all that the other side has of what was merged into them, too. None where nothing
/// of it is known there.
fn boundary(git: &Git, pushed: &Pushed) -> Result<Vec<String>, GitError> {
    let remote = format!("--remotes={}", pushed.remote);
    let mut arguments = vec!["rev-list", "--boundary", &pushed.commit, "--not", &remote];
    arguments.extend(pushed.known.as_deref());
    let listed = git.run("list what is pushed", &arguments)?;
    let listed = String::from_utf8_lossy(&listed).into_owned();
    if listed.trim().is_empty() {
        // All of its commits are known, and so is its content.
        return Ok(vec![pushed.commit.clone()]);
    }
    Ok(listed.lines().filter_map(|line| line.strip_prefix('-')).map(str::to_string).collect())
}

const RAW: [&str; 6] = ["--raw", "-z", "--no-abbrev", "--find-renames", "--ignore-submodules=all", "--no-ext-diff"];

fn index_difference(base: &str) -> Vec<&str> {
    let mut arguments = vec!["diff-index", "--cached"];
    arguments.extend(RAW);
    arguments.extend([base, "--"]);
    arguments
}

fn tree_difference<'a>(base: &'a str, commit: &'a str) -> Vec<&'a str> {
    let mut arguments = vec!["diff-tree", "-r"];
    arguments.extend(RAW);
    arguments.extend([base, commit, "--"]);
    arguments
}

/// The files that git lists, and whether each got its name from another.
fn entries(output: &[u8]) -> Vec<(Entry, bool)> {
    let mut entries = Vec::new();
    let mut rest = output;
    while rest.first() == Some(&b':') {
        let Some((head, behind)) = cut(rest) else { break };
        let Some((mut path, mut behind)) = cut(behind) else { break };
        let words: Vec<&str> = std::str::from_utf8(&head[1..]).unwrap_or_default().split(' ').collect();
        let [mode_before, mode_after, before, after, status] = words[..] else { break };
        let is_renamed = status.starts_with(['R', 'C']);
        if is_renamed {
            let Some((new, further)) = cut(behind) else { break };
            (path, behind) = (new, further);
        }
        rest = behind;
        // Links have a mode that begins with 12, other repositories one that begins with 16.
        let is_file = |mode: &str| mode.starts_with("10");
        let entry = Entry {
            before: before.to_string(),
            after: after.to_string(),
            is_file: is_file(mode_after) && !status.starts_with('D'),
            was_file: is_file(mode_before),
            path: path.to_vec(),
        };
        entries.push((entry, is_renamed));
    }
    entries
}

/// What is before the next zero byte, and what is after it.
fn cut(bytes: &[u8]) -> Option<(&[u8], &[u8])> {
    let at = memchr::memchr(0, bytes)?;
    Some((&bytes[..at], &bytes[at + 1..]))
}

/// The contents of objects by their ids. A partial clone may lack some; they are not fetched.
fn objects(git: &Git, ids: &BTreeSet<&str>) -> Result<HashMap<String, Vec<u8>>, GitError> {
    const DOING: &str = "read contents";
    let mut found = HashMap::new();
    if ids.is_empty() {
        return Ok(found);
    }
    let asked: String = ids.iter().flat_map(|id| [*id, "\n"]).collect();
    let output = succeeded(DOING, git.run_with(DOING, &["cat-file", "--batch"], asked.as_bytes())?)?;
    let mut rest = output.as_slice();
    while let Some(end) = memchr::memchr(b'\n', rest) {
        let head = String::from_utf8_lossy(&rest[..end]).into_owned();
        rest = &rest[end + 1..];
        let mut words = head.split(' ');
        let (Some(id), Some(_), Some(size)) = (words.next(), words.next(), words.next()) else {
            let lacking = "an object is not there; in a partial clone, `git fetch --refetch --no-filter` gets all";
            return Err(GitError::Failed(DOING, lacking.into()));
        };
        let size = size.parse::<usize>().ok().filter(|size| *size < rest.len());
        let size = size.ok_or_else(|| GitError::Failed(DOING, "its answer is cut off".into()))?;
        found.insert(id.to_string(), rest[..size].to_vec());
        rest = &rest[size + 1..];
    }
    Ok(found)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lists_of_files_hold_renames_and_leave_out_other_repositories() {
        let output = b":100644 100644 aa bb M\0a.py\0:100644 100644 cc dd R090\0old.py\0new name.py\0:160000 160000 ee ff M\0sub\0";
        let entries = entries(output);
        let names: Vec<_> =
            entries.iter().map(|(entry, renamed)| (entry.path.as_slice(), entry.is_file, *renamed)).collect();
        assert_eq!(names, [(&b"a.py"[..], true, false), (b"new name.py", true, true), (b"sub", false, false)]);
    }
}
