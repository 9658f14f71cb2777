//! Who wrote a line, and when.

use std::collections::BTreeMap;
use std::path::Path;

use jiff::Timestamp;
use jiff::civil::Date;
use jiff::tz::TimeZone;

use super::{Git, GitError};

/// Where a line comes from.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct LineOrigin {
    /// Who wrote it.
    pub author: String,
    /// On which day, by universal time.
    pub day: Date,
}

/// Where some lines of a working file come from, by their numbers from 1. Lines that are not committed yet are left out.
///
/// # Errors
/// When git does not run, or does not know the file.
pub fn line_origins(git: &Git, path: &Path, lines: &[u32]) -> Result<BTreeMap<u32, LineOrigin>, GitError> {
    let ranges: Vec<String> = lines.iter().map(|line| format!("-L{line},{line}")).collect();
    let path = path.display().to_string();
    let mut arguments = vec!["blame", "--line-porcelain", "--no-textconv"];
    arguments.extend(ranges.iter().map(String::as_str));
    arguments.extend(["--", &path]);
    Ok(origins(&git.run("tell who wrote a line", &arguments)?))
}

/// Reads git's answer: a head that names the line, facts, and the line itself after a tab.
fn origins(answer: &[u8]) -> BTreeMap<u32, LineOrigin> {
    let mut found = BTreeMap::new();
    let (mut line, mut committed, mut author, mut day) = (None, false, None, None);
    for text in answer.split(|byte| *byte == b'\n') {
        let text = String::from_utf8_lossy(text);
        if text.starts_with('\t') {
            if let (Some(line), Some(author), Some(day), true) = (line, author.take(), day.take(), committed) {
                found.insert(line, LineOrigin { author, day });
            }
            line = None;
        } else if let Some(name) = text.strip_prefix("author ") {
            author = Some(name.to_string());
        } else if let Some(seconds) = text.strip_prefix("author-time ") {
            let time = seconds.parse().ok().and_then(|seconds| Timestamp::from_second(seconds).ok());
            day = time.map(|time| time.to_zoned(TimeZone::UTC).date());
        } else if line.is_none() {
            let words: Vec<&str> = text.split(' ').collect();
            line = words.get(2).and_then(|number| number.parse().ok());
            committed = words[0].bytes().any(|digit| digit != b'0');
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lines_that_are_not_committed_have_no_origin() {
        let answer = b"ab12 3 7 1\nauthor A. Crew\nauthor-time 1772366400\nfilename a.py\n\tx = 1\n0000 9 9 1\nauthor Not Yet\nauthor-time 1772366400\n\ty\n";
        let found = origins(answer);
        assert_eq!(found.len(), 1);
        assert_eq!(found[&7], LineOrigin { author: "A. Crew".into(), day: jiff::civil::date(2026, 3, 1) });
    }
}
