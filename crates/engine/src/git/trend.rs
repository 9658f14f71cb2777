//! How many lines a file had after each of its changes.

use std::path::Path;

use jiff::civil::Date;

use super::{Git, GitError};

/// A day, and how many lines a file had at its end.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct TrendPoint {
    /// The day.
    pub day: Date,
    /// The lines.
    pub lines: usize,
}

/// The lines that a file had after each day on which it changed, along the main line of history, the oldest first.
///
/// # Errors
/// When git does not run.
pub fn line_counts(git: &Git, path: &Path) -> Result<Vec<TrendPoint>, GitError> {
    let Ok(inner) = path.strip_prefix(&git.root) else { return Ok(Vec::new()) };
    let inner = inner.to_string_lossy().replace('\\', "/");
    let arguments = [
        "log",
        "--first-parent",
        "-m",
        "--reverse",
        "--no-renames",
        "--numstat",
        "--no-ext-diff",
        "--no-textconv",
        "--no-show-signature",
        "--format=@%cs",
        "--",
        &inner,
    ];
    if git.commit("HEAD")?.is_none() {
        return Ok(Vec::new());
    }
    Ok(counts(&String::from_utf8_lossy(&git.run("read the history", &arguments)?)))
}

fn counts(log: &str) -> Vec<TrendPoint> {
    let mut points: Vec<TrendPoint> = Vec::new();
    let mut day = None;
    let mut lines = 0_usize;
    for line in log.lines() {
        if let Some(date) = line.strip_prefix('@') {
            day = date.parse::<Date>().ok();
            continue;
        }
        let mut words = line.split('\t');
        let (Some(Ok(added)), Some(Ok(removed)), Some(day)) =
            (words.next().map(str::parse::<usize>), words.next().map(str::parse::<usize>), day)
        else {
            continue;
        };
        lines = (lines + added).saturating_sub(removed);
        match points.last_mut().filter(|last| last.day == day) {
            Some(last) => last.lines = lines,
            None => points.push(TrendPoint { day, lines }),
        }
    }
    points
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lines_add_up_by_day() {
        let log = "@2026-03-01\n\n301\t0\tb.jsonl\n@2026-03-01\n\n0\t1\tb.jsonl\n@2026-04-02\n\n0\t50\tb.jsonl\n";
        let points: Vec<(String, usize)> =
            counts(log).into_iter().map(|point| (point.day.to_string(), point.lines)).collect();
        assert_eq!(points, [("2026-03-01".to_string(), 300), ("2026-04-02".to_string(), 250)]);
    }
}
