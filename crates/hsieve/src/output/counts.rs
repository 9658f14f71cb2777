//! Tables of numbers: by concern, rule and folder, the sizes of the code, and what changed since an earlier run.

use std::collections::BTreeMap;

use sieve_engine::outcome::Finding;
use sieve_engine::outcome::folder_of;
use sieve_rules::{FixKind, Level, RuleSet, Sizes};

use super::{Earlier, Shown};
use crate::screen::{FAINT, STRONG, counted, grouped, level_style, safe, styled};

/// Columns of the longest bar.
const BAR: usize = 24;

/// Numbers of findings.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Count {
    /// By level: errors, warnings, notes.
    pub levels: [usize; 3],
    /// How many have an exact fix.
    fixable: usize,
}

impl Count {
    /// Counts a finding.
    pub fn add(&mut self, finding: &Finding) {
        let level = match finding.level {
            Level::Error => 0,
            Level::Warning => 1,
            _ => 2,
        };
        self.levels[level] += 1;
        self.fixable += usize::from(finding.fix.as_ref().is_some_and(|fix| fix.kind == FixKind::Exact));
    }

    /// All of them.
    pub fn total(&self) -> usize {
        self.levels.iter().sum()
    }
}

pub(super) fn text(view: &Shown<'_>, _columns: usize) -> String {
    let mut concerns: BTreeMap<String, Count> = BTreeMap::new();
    let mut rules: BTreeMap<(String, String), Count> = BTreeMap::new();
    let mut folders: BTreeMap<String, Count> = BTreeMap::new();
    let earlier = view.comparison.map(|comparison| &comparison.earlier);
    let rules_then = earlier.map(Earlier::by_rule).unwrap_or_default();
    let folders_then = earlier.map(Earlier::by_folder).unwrap_or_default();
    for (finding, _) in view.all(view.held) {
        let rule = view.outcome.rules.rule(finding.rule);
        let concern = rule.concern.word().to_string();
        concerns.entry(concern.clone()).or_default().add(finding);
        rules.entry((concern, rule.name.to_string())).or_default().add(finding);
        folders.entry(folder_of(&finding.path).to_string()).or_default().add(finding);
    }
    if let Some(earlier) = earlier {
        add_gone(&mut rules, &mut folders, earlier, &view.outcome.rules);
    }
    let mut parts = Vec::new();
    if !rules.is_empty() {
        let was = |name: &str| earlier.map(|_| rules_then.get(name).copied().unwrap_or(0));
        let rows = |(concern, name): &(String, String)| (name.clone(), concern.clone());
        let by_rule = rules.iter().map(|(key, count)| (rows(key), count, was(&key.1)));
        let by_concern = concerns.iter().map(|(name, count)| ((name.clone(), String::new()), count, None));
        let was_in = |folder: &str| earlier.map(|_| folders_then.get(folder).copied().unwrap_or(0));
        let by_folder = folders
            .iter()
            .map(|(folder, count)| ((safe(folder).to_string(), density(view, folder, count)), count, was_in(folder)));
        if concerns.len() > 1 {
            parts.push(table("concern", "", by_concern.collect()));
        }
        parts.push(table("rule", "concern", by_rule.collect()));
        parts.push(table("folder", "density", by_folder.collect()));
    }
    parts.extend(sizes(view));
    parts.extend(difference(view));
    parts.join("\n")
}

/// Rules and folders that have no findings any more.
fn add_gone(
    rules: &mut BTreeMap<(String, String), Count>,
    folders: &mut BTreeMap<String, Count>,
    earlier: &Earlier,
    set: &RuleSet,
) {
    for name in earlier.by_rule().into_keys() {
        let concern = set.named(name).map_or("gone", |id| set.rule(id).concern.word());
        rules.entry((concern.to_string(), name.to_string())).or_default();
    }
    for folder in earlier.by_folder().into_keys() {
        folders.entry(folder.to_string()).or_default();
    }
}

/// Findings per 1000 lines of a folder.
fn density(view: &Shown<'_>, folder: &str, count: &Count) -> String {
    let lines = view.outcome.sizes.get(folder).map_or(0, |sizes| sizes.lines());
    if lines == 0 { String::new() } else { format!("{:.1}", count.total() as f64 * 1000.0 / lines as f64) }
}

/// What the lines are, and how much is described.
fn sizes(view: &Shown<'_>) -> Option<String> {
    let mut all = Sizes::default();
    view.outcome.sizes.values().for_each(|sizes| all.add(*sizes));
    let lines = all.lines();
    if lines == 0 {
        return None;
    }
    let share = |part: usize, whole: usize| format!("{:>3} %", (part * 100 + whole / 2) / whole.max(1));
    let mut text = styled(STRONG, "lines");
    text.push('\n');
    let data = (all.data > 0).then_some(("data", all.data));
    let others = [("comments", all.comments), ("strings", all.texts), ("blank", all.blank)];
    for (name, part) in [("code", all.code)].into_iter().chain(data).chain(others) {
        text += &format!("{name:<12}{:>9}  {}\n", grouped(part), styled(FAINT, &share(part, lines)));
    }
    if all.public > 0 {
        let of = format!(
            "{} of {} public modules, types and functions",
            share(all.described, all.public).trim_start(),
            grouped(all.public)
        );
        text += &format!("{:<12}{:>9}  {}\n", "described", grouped(all.described), styled(FAINT, &of));
    }
    Some(text)
}

/// What became of all findings since the earlier run.
fn difference(view: &Shown<'_>) -> Option<String> {
    let earlier = &view.comparison?.earlier;
    let all = earlier.findings.len();
    let now = view.all(view.held).count();
    let per = |count: usize, lines: usize| if lines == 0 { 0.0 } else { count as f64 * 1000.0 / lines as f64 };
    Some(format!(
        "{}  {}, were {} ({}); {:.2} per 1000 lines, were {:.2}\n",
        styled(STRONG, "since then"),
        counted(now, "finding", "findings"),
        grouped(all),
        signed(now, all),
        per(now, view.outcome.lines),
        per(all, earlier.lines)
    ))
}

/// How much more or less than before.
fn signed(now: usize, before: usize) -> String {
    match now.cmp(&before) {
        std::cmp::Ordering::Less => format!("-{}", grouped(before - now)),
        std::cmp::Ordering::Equal => "=".to_string(),
        std::cmp::Ordering::Greater => format!("+{}", grouped(now - before)),
    }
}

type Row<'c> = ((String, String), &'c Count, Option<usize>);

fn table(first: &str, second: &str, rows: Vec<Row<'_>>) -> String {
    let name_width = rows.iter().map(|((name, _), ..)| name.chars().count()).max().unwrap_or(0).max(first.len());
    let group_width = rows.iter().map(|((_, group), ..)| group.len()).max().unwrap_or(0).max(second.len());
    let most = rows.iter().map(|(_, count, _)| count.total()).max().unwrap_or(1).max(1);
    let compared = rows.iter().any(|(.., was)| was.is_some());
    let since = if compared { format!(" {:>8}", "since") } else { String::new() };
    let head = format!(
        "{first:<name_width$}  {second:<group_width$}  {:>7} {:>8} {:>6} {:>6}{since}",
        "errors", "warnings", "notes", "exact"
    );
    let mut text = styled(STRONG, &head) + "\n";
    for ((name, group), count, was) in rows {
        let cells = cells(count);
        let bar = "▪".repeat((count.total() * BAR).div_ceil(most));
        let group = styled(FAINT, &format!("{group:<group_width$}"));
        let since = was.map(|was| format!(" {:>8}", signed(count.total(), was))).unwrap_or_default();
        text += &format!("{name:<name_width$}  {group}  {cells}{since}  {}\n", styled(FAINT, &bar));
    }
    text
}

/// The numbers of a row.
fn cells(count: &Count) -> String {
    let levels = [(Level::Error, 7), (Level::Warning, 8), (Level::Note, 6)];
    let mut cells: Vec<String> = levels
        .iter()
        .zip(count.levels)
        .map(|((level, width), number)| match number {
            0 => styled(FAINT, &format!("{:>width$}", "·")),
            _ => styled(level_style(*level), &format!("{:>width$}", grouped(number))),
        })
        .collect();
    cells.push(match count.fixable {
        0 => styled(FAINT, &format!("{:>6}", "·")),
        fixable => format!("{:>6}", grouped(fixable)),
    });
    cells.join(" ")
}
