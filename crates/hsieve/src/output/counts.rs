//! Tables of numbers: by concern and rule, and by folder.

use std::collections::BTreeMap;

use sieve_engine::outcome::Finding;
use sieve_rules::{FixKind, Level, RuleId, catalogue};

use super::Shown;
use crate::screen::{FAINT, STRONG, grouped, level_style, safe, styled};

/// Columns of the longest bar.
const BAR: usize = 24;

#[derive(Default)]
struct Count {
    levels: [usize; 3],
    fixable: usize,
}

impl Count {
    fn add(&mut self, finding: &Finding) {
        let level = match finding.level {
            Level::Error => 0,
            Level::Warning => 1,
            _ => 2,
        };
        self.levels[level] += 1;
        self.fixable += usize::from(finding.fix.as_ref().is_some_and(|fix| fix.kind == FixKind::Exact));
    }

    fn total(&self) -> usize {
        self.levels.iter().sum()
    }
}

pub(super) fn text(view: &Shown<'_>, _columns: usize) -> String {
    let mut by_rule: BTreeMap<(&str, RuleId), Count> = BTreeMap::new();
    let mut by_folder: BTreeMap<String, Count> = BTreeMap::new();
    for finding in view.findings() {
        let concern = catalogue::rule(finding.rule).concern.word();
        by_rule.entry((concern, finding.rule)).or_default().add(finding);
        by_folder.entry(folder_of(&finding.path)).or_default().add(finding);
    }
    if by_rule.is_empty() {
        return String::new();
    }
    let rules: Vec<(String, String, &Count)> = by_rule
        .iter()
        .map(|((concern, rule), count)| (catalogue::rule(*rule).name.to_string(), (*concern).to_string(), count))
        .collect();
    let folders: Vec<(String, String, &Count)> =
        by_folder.iter().map(|(folder, count)| (safe(folder), String::new(), count)).collect();
    table("rule", "concern", &rules) + "\n" + &table("folder", "", &folders)
}

fn folder_of(path: &str) -> String {
    path.rsplit_once('/').map_or(".".to_string(), |(folder, _)| folder.to_string())
}

fn table(first: &str, second: &str, rows: &[(String, String, &Count)]) -> String {
    let name_width = rows.iter().map(|(name, ..)| name.chars().count()).max().unwrap_or(0).max(first.len());
    let group_width = rows.iter().map(|(_, group, _)| group.len()).max().unwrap_or(0).max(second.len());
    let most = rows.iter().map(|(.., count)| count.total()).max().unwrap_or(1).max(1);
    let mut text = styled(
        STRONG,
        &format!(
            "{first:<name_width$}  {second:<group_width$}  {:>7} {:>8} {:>6} {:>6}",
            "errors", "warnings", "notes", "exact"
        ),
    );
    text.push('\n');
    for (name, group, count) in rows {
        let levels = [(Level::Error, 7), (Level::Warning, 8), (Level::Note, 6)];
        let cells: Vec<String> = levels
            .iter()
            .zip(count.levels)
            .map(|((level, width), number)| {
                let cell = format!("{:>width$}", if number == 0 { "·".into() } else { grouped(number) });
                if number == 0 { styled(FAINT, &cell) } else { styled(level_style(*level), &cell) }
            })
            .collect();
        let bar = "▪".repeat((count.total() * BAR).div_ceil(most));
        let group = styled(FAINT, &format!("{group:<group_width$}"));
        let fixable = if count.fixable == 0 {
            styled(FAINT, &format!("{:>6}", "·"))
        } else {
            format!("{:>6}", grouped(count.fixable))
        };
        text += &format!("{name:<name_width$}  {group}  {} {fixable}  {}\n", cells.join(" "), styled(FAINT, &bar));
    }
    text
}
