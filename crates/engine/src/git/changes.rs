//! What changed since a commit: files, lines, and the contents before.

use std::collections::{BTreeMap, HashMap};
use std::ops::RangeInclusive;
use std::path::{Path, PathBuf};

use super::{Git, GitError, one_line, path_of, succeeded};

/// Since when changes count.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Since {
    /// What is not committed yet, files that git does not know yet included.
    LastCommit,
    /// What is committed or not since the current line of history left that of a revision.
    Revision(String),
    /// What is to be committed next: the index, not the working files.
    Staged,
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
    /// Its bytes before the change; nothing where it was not there.
    pub before: Option<Vec<u8>>,
    /// Its bytes where they are not those of the working file.
    pub content: Option<Vec<u8>>,
}

/// Lines of a file, from 1.
#[derive(Debug, Default, Clone, PartialEq, Eq)]
pub enum ChangedLines {
    /// The whole file.
    #[default]
    All,
    /// These, in order.
    Some(Vec<RangeInclusive<u32>>),
}

impl ChangedLines {
    /// Whether a stretch of lines holds a changed one.
    pub fn touch(&self, lines: RangeInclusive<u32>) -> bool {
        match self {
            ChangedLines::All => true,
            ChangedLines::Some(ranges) => {
                let next = ranges.partition_point(|range| range.end() < lines.start());
                ranges.get(next).is_some_and(|range| range.start() <= lines.end())
            }
        }
    }
}

/// One file of a difference, as git lists it.
struct Entry {
    before: String,
    after: String,
    is_file: bool,
    was_file: bool,
    path: Vec<u8>,
}

/// The mode of a link; a folder of another repository has one that begins with 16.
const LINK: &str = "120000";

impl Changes {
    /// Asks git what changed.
    ///
    /// # Errors
    /// When git is not there, knows no such revision, or fails.
    pub fn find(git: &Git, since: Since) -> Result<Changes, GitError> {
        let base = base(git, &since)?;
        let mut changes = Changes { since, files: BTreeMap::new() };
        let staged = changes.since == Since::Staged;
        let output = difference(git, &base, staged)?;
        let (entries, patch) = entries(&output);
        let lines = changed_lines(patch, entries.len());
        let mut contents = Contents::default();
        for (entry, lines) in entries.into_iter().zip(lines).filter(|(entry, _)| entry.is_file) {
            let path = path_of(&git.root, &entry.path);
            let before = Some(entry.before).filter(|id| entry.was_file && id.bytes().any(|digit| digit != b'0'));
            contents.want(&path, before, staged.then_some(entry.after));
            let lines = if entry.was_file { lines } else { ChangedLines::All };
            changes.files.insert(path, ChangedFile { lines, before: None, content: None });
        }
        if !staged {
            changes.add_unknown(git)?;
        }
        changes.drop_ignored(git)?;
        contents.read(git, &mut changes.files)?;
        Ok(changes)
    }

    /// Adds the files that git does not know yet and is not told to ignore.
    fn add_unknown(&mut self, git: &Git) -> Result<(), GitError> {
        let listed = git.run("list new files", &["ls-files", "-z", "--others", "--exclude-standard"])?;
        for path in listed.split(|byte| *byte == 0).filter(|path| !path.is_empty() && !path.ends_with(b"/")) {
            self.files.entry(path_of(&git.root, path)).or_default();
        }
        Ok(())
    }

    /// Drops files that git keeps although it is told to ignore them: a run over all files passes them over, too.
    fn drop_ignored(&mut self, git: &Git) -> Result<(), GitError> {
        if self.files.is_empty() {
            return Ok(());
        }
        let mut input = Vec::new();
        for path in self.files.keys() {
            input.extend_from_slice(path.strip_prefix(&git.root).unwrap_or(path).as_os_str().as_encoded_bytes());
            input.push(0);
        }
        let output = git.run_with("list ignored files", &["check-ignore", "--no-index", "-z", "--stdin"], &input)?;
        for path in output.stdout.split(|byte| *byte == 0).filter(|path| !path.is_empty()) {
            self.files.remove(&path_of(&git.root, path));
        }
        Ok(())
    }

    /// Which lines do not count, in a few words for an account.
    pub fn what_does_not_count(&self) -> String {
        match &self.since {
            Since::LastCommit => "lines that are as in the last commit".into(),
            Since::Revision(name) => format!("lines that did not change since {name}"),
            Since::Staged => "lines that are not part of what is staged".into(),
        }
    }

    /// A file's changes, by its absolute path.
    pub fn of(&self, path: &Path) -> Option<&ChangedFile> {
        self.files.get(path)
    }
}

/// The commit or tree that the files are compared with.
fn base(git: &Git, since: &Since) -> Result<String, GitError> {
    let head = git.commit("HEAD")?;
    let Since::Revision(name) = since else {
        return match head {
            Some(head) => Ok(head),
            // Before the first commit everything is new.
            None => {
                let output = git.run_with("name the empty tree", &["hash-object", "-t", "tree", "--stdin"], b"")?;
                Ok(one_line(&succeeded("name the empty tree", output)?))
            }
        };
    };
    let commit = git.commit(name)?.ok_or_else(|| GitError::NoRevision(name.clone()))?;
    let output = git.output(&["merge-base", &commit, "HEAD"], None)?;
    let base = one_line(&output.stdout);
    if base.is_empty() { Err(GitError::Unrelated(name.clone())) } else { Ok(base) }
}

fn difference(git: &Git, base: &str, staged: bool) -> Result<Vec<u8>, GitError> {
    let mut arguments = vec![
        "diff",
        "--patch-with-raw",
        "-z",
        "--no-abbrev",
        "--find-renames",
        "--unified=0",
        "--inter-hunk-context=0",
        "--no-color",
        "--no-ext-diff",
        "--no-textconv",
        "--ignore-submodules=all",
    ];
    if staged {
        arguments.push("--cached");
    }
    arguments.extend([base, "--"]);
    git.run("compare", &arguments)
}

/// The list of files at the head of git's output, and the rest, which tells the lines.
fn entries(output: &[u8]) -> (Vec<Entry>, &[u8]) {
    let mut entries = Vec::new();
    let mut rest = output;
    while rest.first() == Some(&b':') {
        let Some((head, behind)) = cut(rest) else { break };
        let Some((mut path, mut behind)) = cut(behind) else { break };
        let words: Vec<&str> = std::str::from_utf8(&head[1..]).unwrap_or_default().split(' ').collect();
        let [mode_before, mode_after, before, after, status] = words[..] else { break };
        if status.starts_with(['R', 'C']) {
            let Some((new, further)) = cut(behind) else { break };
            (path, behind) = (new, further);
        }
        rest = behind;
        let is_file = |mode: &str| mode.starts_with("10") && mode != LINK;
        entries.push(Entry {
            before: before.to_string(),
            after: after.to_string(),
            is_file: is_file(mode_after) && !status.starts_with('D'),
            was_file: is_file(mode_before),
            path: path.to_vec(),
        });
    }
    (entries, rest.strip_prefix(b"\0").unwrap_or(rest))
}

/// What stands before the next zero byte, and what stands behind it.
fn cut(bytes: &[u8]) -> Option<(&[u8], &[u8])> {
    let at = memchr::memchr(0, bytes)?;
    Some((&bytes[..at], &bytes[at + 1..]))
}

/// The changed lines of each file of a patch without context. Where the patch is not what is expected, all lines count.
fn changed_lines(patch: &[u8], files: usize) -> Vec<ChangedLines> {
    let mut sections: Vec<Vec<RangeInclusive<u32>>> = Vec::new();
    // Lines of content begin with a sign, so that they are never taken for a head.
    for line in patch.split(|byte| *byte == b'\n') {
        if line.starts_with(b"diff --git ") {
            sections.push(Vec::new());
        } else if let (Some(section), Some(hunk)) = (sections.last_mut(), line.strip_prefix(b"@@ -")) {
            section.extend(new_lines(hunk));
        }
    }
    if sections.len() != files {
        return vec![ChangedLines::All; files];
    }
    sections.into_iter().map(ChangedLines::Some).collect()
}

/// The new lines that a hunk's head names: `12,0 +13,2 @@`.
fn new_lines(hunk: &[u8]) -> Option<RangeInclusive<u32>> {
    let text = std::str::from_utf8(hunk.split(|byte| *byte == b'@').next()?).ok()?;
    let new = text.split('+').nth(1)?.trim();
    let (start, count) = new.split_once(',').unwrap_or((new, "1"));
    let (start, count): (u32, u32) = (start.parse().ok()?, count.parse().ok()?);
    (count > 0).then(|| start..=start + count - 1)
}

/// Which part of a changed file an object holds.
#[derive(Debug, Clone, Copy)]
enum Part {
    Before,
    Content,
}

/// Objects to be read in one go.
#[derive(Default)]
struct Contents {
    wanted: Vec<(String, PathBuf, Part)>,
}

impl Contents {
    fn want(&mut self, path: &Path, before: Option<String>, content: Option<String>) {
        self.wanted.extend(before.map(|id| (id, path.to_path_buf(), Part::Before)));
        self.wanted.extend(content.map(|id| (id, path.to_path_buf(), Part::Content)));
    }

    fn read(self, git: &Git, files: &mut BTreeMap<PathBuf, ChangedFile>) -> Result<(), GitError> {
        let wanted: Vec<_> = self.wanted.into_iter().filter(|(_, path, _)| files.contains_key(path)).collect();
        if wanted.is_empty() {
            return Ok(());
        }
        let ids: Vec<&str> = wanted.iter().map(|(id, ..)| id.as_str()).collect();
        let objects = objects(git, &ids)?;
        for (id, path, part) in &wanted {
            let (Some(file), Some(bytes)) = (files.get_mut(path), objects.get(id)) else { continue };
            match part {
                Part::Before => file.before = Some(bytes.clone()),
                Part::Content => file.content = Some(bytes.clone()),
            }
        }
        Ok(())
    }
}

/// The contents of objects.
fn objects(git: &Git, ids: &[&str]) -> Result<HashMap<String, Vec<u8>>, GitError> {
    const DOING: &str = "read contents";
    let output = git.run_with(DOING, &["cat-file", "--batch"], (ids.join("\n") + "\n").as_bytes())?;
    let output = succeeded(DOING, output)?;
    let mut rest = output.as_slice();
    let mut found = HashMap::new();
    while let Some(end) = memchr::memchr(b'\n', rest) {
        let head = String::from_utf8_lossy(&rest[..end]).into_owned();
        rest = &rest[end + 1..];
        let mut words = head.split(' ');
        let (Some(id), Some(_), Some(size)) = (words.next(), words.next(), words.next()) else { continue };
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
    fn heads_of_hunks_name_the_new_lines() {
        assert_eq!(new_lines(b"12,0 +13,2 @@ def fare():"), Some(13..=14));
        assert_eq!(new_lines(b"12 +12 @@"), Some(12..=12));
        assert_eq!(new_lines(b"12,3 +11,0 @@"), None);
    }

    #[test]
    fn a_stretch_touches_lines_that_it_shares() {
        let lines = ChangedLines::Some(vec![3..=4, 9..=9]);
        assert!(lines.touch(4..=5) && lines.touch(1..=20) && lines.touch(9..=9));
        assert!(!lines.touch(5..=8) && !lines.touch(10..=11) && !lines.touch(1..=2));
    }

    #[test]
    fn lists_of_files_hold_renames_and_leave_out_other_repositories() {
        let output = b":100644 100644 aa bb M\0a.py\0:100644 100644 cc dd R090\0old.py\0new name.py\0:160000 160000 ee ff M\0sub\0\0diff --git a/a.py b/a.py\n@@ -1 +1 @@\n-x\n+y\ndiff --git x\ndiff --git y\n";
        let (entries, patch) = entries(output);
        let names: Vec<_> = entries.iter().map(|entry| (entry.path.as_slice(), entry.is_file)).collect();
        assert_eq!(names, [(&b"a.py"[..], true), (b"new name.py", true), (b"sub", false)]);
        assert_eq!(changed_lines(patch, 3)[0], ChangedLines::Some(vec![1..=1]));
        assert_eq!(changed_lines(patch, 2), [ChangedLines::All, ChangedLines::All]);
    }
}
