//! Entries and their form in the file: JSON Lines, whose first line gives the form, the others sorted.

use std::fmt;
use std::path::{Path, PathBuf};

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use sieve_rules::RuleId;
use sieve_rules::catalogue::{self, history};
use sieve_syntax::text::Span;

use crate::outcome::Identity;

/// The attribute that makes git keep the entries of both sides when it merges.
pub const UNION: &str = "sieve-baseline.jsonl merge=union";

/// The form that this version reads and writes.
const FORM: u32 = 1;

#[derive(Debug, Serialize, Deserialize)]
struct Header {
    tool: String,
    form: u32,
}

/// One recorded finding. The order of the fields is that of the sorted file.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Entry {
    /// The file, relative to the baseline's folder, with `/`.
    pub path: String,
    /// The rule's name.
    pub rule: String,
    /// The named things around it, from the outermost, joined by dots.
    pub within: String,
    /// The flagged tokens.
    pub code: String,
    /// Its ordinal among entries that are otherwise equal, from 1.
    #[serde(default = "first", skip_serializing_if = "is_first")]
    pub nth: u32,
    /// The day on which it was recorded.
    pub since: Date,
}

fn first() -> u32 {
    1
}

fn is_first(nth: &u32) -> bool {
    *nth == 1
}

impl Entry {
    pub(super) fn new(rule: &str, path: String, identity: &Identity, since: Date) -> Entry {
        let rule = rule.to_string();
        Entry { path, rule, within: identity.within.clone(), code: identity.code.clone(), nth: 1, since }
    }

    /// Whether two entries record equal findings.
    fn equals(&self, other: &Entry) -> bool {
        (&self.path, &self.rule, &self.within, &self.code) == (&other.path, &other.rule, &other.within, &other.code)
    }
}

/// Sorts entries and numbers equal ones.
pub(super) fn order(entries: &mut [Entry]) {
    entries.sort();
    number(entries);
}

/// Numbers equal entries, in sorted ones.
fn number(entries: &mut [Entry]) {
    for index in 0..entries.len() {
        let nth = if index > 0 && entries[index - 1].equals(&entries[index]) { entries[index - 1].nth + 1 } else { 1 };
        entries[index].nth = nth;
    }
}

/// What is wrong with a baseline file.
#[derive(Debug, PartialEq, Eq)]
pub struct BaselineError {
    path: PathBuf,
    line: usize,
    problem: BaselineProblem,
}

#[derive(Debug, PartialEq, Eq)]
enum BaselineProblem {
    NoHeader,
    OtherForm(u32),
    CutOff,
    Conflict,
    NotAnEntry(String),
}

impl fmt::Display for BaselineError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "{}:{}: ", self.path.display(), self.line)?;
        let again = "bring it back from version control, or remove it and run `hsieve baseline take`";
        match &self.problem {
            BaselineProblem::NoHeader => write!(out, "this is no baseline of Honest Sieve; {again}"),
            BaselineProblem::OtherForm(form) => write!(
                out,
                "this baseline has form {form}, and this version knows form {FORM}; use the version that wrote it, or remove it and run `hsieve baseline take`"
            ),
            BaselineProblem::CutOff => write!(out, "the file ends in the middle of an entry; {again}"),
            BaselineProblem::Conflict => write!(
                out,
                "this line is the mark of a merge conflict; keep the entries of both sides and remove the marks \
                 (the line `{UNION}` in .gitattributes lets git do so by itself)"
            ),
            BaselineProblem::NotAnEntry(why) => write!(out, "this line is no entry ({why}); {again}"),
        }
    }
}

impl std::error::Error for BaselineError {}

/// A rule called by a name that it had, with its place in the file.
#[derive(Debug, Clone, Copy)]
pub(crate) struct OldName {
    pub(crate) span: Span,
    pub(crate) rule: RuleId,
}

/// The marks that version control leaves where both sides of a merge changed the same place.
const CONFLICT_MARKS: &[&str] = &["<<<<<<< ", "=======", ">>>>>>> ", "||||||| "];

fn is_conflict_mark(line: &str) -> bool {
    CONFLICT_MARKS.iter().any(|mark| line.starts_with(mark))
}

/// What the head of a file of this form is written as: a merge that keeps both sides may leave a second one.
fn head() -> String {
    serde_json::to_string(&Header { tool: "honest-sieve".into(), form: FORM }).unwrap_or_default()
}

/// The entries, with rules by their names of today, and the old names in the file.
pub(super) fn read_all(path: &Path, bytes: &[u8]) -> Result<(Vec<Entry>, Vec<OldName>), BaselineError> {
    let wrong = |line: usize, problem| BaselineError { path: path.to_path_buf(), line, problem };
    let text = std::str::from_utf8(bytes).map_err(|_| wrong(1, BaselineProblem::NoHeader))?;
    if let Some((index, _)) = text.lines().enumerate().find(|(_, line)| is_conflict_mark(line)) {
        return Err(wrong(index + 1, BaselineProblem::Conflict));
    }
    let mut lines = text.lines().enumerate();
    let header = lines.next().and_then(|(_, line)| serde_json::from_str::<Header>(line).ok());
    let header =
        header.filter(|header| header.tool == "honest-sieve").ok_or_else(|| wrong(1, BaselineProblem::NoHeader))?;
    if header.form != FORM {
        return Err(wrong(1, BaselineProblem::OtherForm(header.form)));
    }
    let mut entries = Vec::new();
    let mut old_names = Vec::new();
    let count = text.lines().count();
    let head = head();
    for (index, line) in lines.filter(|(_, line)| !line.trim().is_empty() && *line != head) {
        let mut entry: Entry = serde_json::from_str(line).map_err(|error| {
            let last = index + 1 == count && !text.ends_with('\n');
            let reason = error.to_string();
            let reason = reason.split(" at line").next().unwrap_or_default().to_string();
            wrong(index + 1, if last { BaselineProblem::CutOff } else { BaselineProblem::NotAnEntry(reason) })
        })?;
        if let Some(history::Known { rule, renamed_in: Some(_) }) = history::known(&entry.rule) {
            let offset = line.as_ptr() as usize - text.as_ptr() as usize;
            old_names.extend(place_of_rule(line, &entry.rule, offset).map(|span| OldName { span, rule }));
            entry.rule = catalogue::rule(rule).name.to_string();
        }
        entries.push(entry);
    }
    // What both sides of a merge have is one entry.
    entries.sort();
    entries.dedup_by(|one, other| one.equals(other) && one.nth == other.nth);
    number(&mut entries);
    Ok((entries, old_names))
}

/// Where the name of the rule is in an entry's line, which begins at `offset`.
fn place_of_rule(line: &str, name: &str, offset: usize) -> Option<Span> {
    let key = "\"rule\":\"";
    let start = offset + line.find(&format!("{key}{name}\""))? + key.len();
    Some(Span::new(start as u32, (start + name.len()) as u32))
}

pub(super) fn write_all(entries: &[Entry]) -> String {
    let mut text = head() + "\n";
    for entry in entries {
        text += &serde_json::to_string(entry).unwrap_or_default();
        text.push('\n');
    }
    text
}

#[cfg(test)]
mod tests {
    use super::*;

    fn entry(code: &str) -> Entry {
        Entry {
            path: "fares.py".into(),
            rule: "magic-number".into(),
            within: "child".into(),
            code: code.into(),
            nth: 1,
            since: jiff::civil::date(2026, 3, 1),
        }
    }

    #[test]
    fn what_is_written_is_read_again() {
        let mut entries = vec![entry("0.55"), entry("0.4"), entry("0.55")];
        order(&mut entries);
        assert_eq!(entries.iter().map(|entry| entry.nth).collect::<Vec<_>>(), [1, 1, 2]);
        let text = write_all(&entries);
        assert_eq!(read_all(Path::new("b"), text.as_bytes()).unwrap().0, entries);
    }

    #[test]
    fn what_a_merge_of_both_sides_leaves_is_read() {
        let mut both = vec![entry("0.55"), entry("0.55"), entry("0.4")];
        order(&mut both);
        let (ours, theirs) = (write_all(&both[..2]), write_all(&both[1..]));
        let merged = format!("{theirs}{ours}");
        assert_eq!(read_all(Path::new("b"), merged.as_bytes()).unwrap().0, both);
        let conflict = format!("{ours}<<<<<<< HEAD\n{theirs}=======\n>>>>>>> north\n");
        let error = read_all(Path::new("b"), conflict.as_bytes()).unwrap_err();
        assert_eq!((error.line, &error.problem), (4, &BaselineProblem::Conflict));
    }

    #[test]
    fn damage_is_reported_with_its_line() {
        let text = write_all(&[entry("0.55")]);
        let cut = read_all(Path::new("b"), &text.as_bytes()[..text.len() - 9]).unwrap_err();
        assert_eq!((cut.line, &cut.problem), (2, &BaselineProblem::CutOff));
        let other = read_all(Path::new("b"), b"{\"tool\":\"honest-sieve\",\"form\":7}\n").unwrap_err();
        assert_eq!(other.problem, BaselineProblem::OtherForm(7));
        let garbage = read_all(Path::new("b"), b"\xff\xfe").unwrap_err();
        assert_eq!(garbage.problem, BaselineProblem::NoHeader);
    }
}
