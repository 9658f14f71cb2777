//! The list as it is shown: groups, what the filter leaves, and where the cursor is.

use std::collections::BTreeMap;

use sieve_rules::RuleSet;

use super::item::{Item, State};
use super::items::{Id, Items};

/// What findings are grouped by.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Grouping {
    /// Their files.
    File,
    /// Their rules, the serious ones first.
    Rule,
    /// The owners of their files.
    Owner,
}

impl Grouping {
    /// The word for it.
    pub fn word(self) -> &'static str {
        match self {
            Grouping::File => "file",
            Grouping::Rule => "rule",
            Grouping::Owner => "owner",
        }
    }

    fn next(self) -> Grouping {
        match self {
            Grouping::File => Grouping::Rule,
            Grouping::Rule => Grouping::Owner,
            Grouping::Owner => Grouping::File,
        }
    }
}

/// How far a key reaches.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Reach {
    /// The finding under the cursor.
    One,
    /// All listed findings of its rule in its file.
    InFile,
    /// All listed findings of its rule.
    Everywhere,
}

impl Reach {
    /// The next one, round and round.
    pub fn next(self) -> Reach {
        match self {
            Reach::One => Reach::InFile,
            Reach::InFile => Reach::Everywhere,
            Reach::Everywhere => Reach::One,
        }
    }
}

/// A row of the list.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Row {
    /// The head of a group: its name, how many findings of it are left, and how many it has.
    Head(String, usize, usize),
    /// A finding.
    Item(Id),
}

/// The rows, and the cursor.
#[derive(Debug)]
pub struct List {
    /// What findings are grouped by.
    pub grouping: Grouping,
    /// Words that all must be in a finding's place, rule or message.
    pub filter: String,
    /// Whether what is done is listed.
    pub shows_done: bool,
    rows: Vec<Row>,
    /// The cursor's row.
    at: usize,
    /// The first row that is shown.
    top: usize,
}

impl Default for List {
    fn default() -> List {
        List { grouping: Grouping::File, filter: String::new(), shows_done: true, rows: Vec::new(), at: 0, top: 0 }
    }
}

impl List {
    /// The rows.
    pub fn rows(&self) -> &[Row] {
        &self.rows
    }

    /// The cursor's row.
    pub fn at(&self) -> usize {
        self.at
    }

    /// The finding under the cursor.
    pub fn current(&self) -> Option<Id> {
        match self.rows.get(self.at) {
            Some(Row::Item(id)) => Some(*id),
            _ => None,
        }
    }

    /// Groups by something else.
    pub fn regroup(&mut self, items: &Items, rules: &RuleSet) {
        self.grouping = self.grouping.next();
        self.rebuild(items, rules);
    }

    /// Makes the rows again. The cursor stays on its finding, or goes to the one that follows.
    pub fn rebuild(&mut self, items: &Items, rules: &RuleSet) {
        let current = self.current();
        let after: Vec<Id> = self.rows[self.at.min(self.rows.len())..].iter().filter_map(item_of).collect();
        let words: Vec<String> = self.filter.split_whitespace().map(str::to_lowercase).collect();
        let mut groups: BTreeMap<(u8, String), Vec<Id>> = BTreeMap::new();
        for (id, item) in items.iter() {
            let is_listed = self.shows_done || item.state == State::Open || Some(id) == current;
            if is_listed && fits(item, rules, &words) {
                groups.entry(self.group_of(item, rules)).or_default().push(id);
            }
        }
        self.rows.clear();
        for ((_, name), ids) in groups {
            let left = ids.iter().filter(|id| items.get(**id).state == State::Open).count();
            self.rows.push(Row::Head(name, left, ids.len()));
            self.rows.extend(ids.into_iter().map(Row::Item));
        }
        let place = |wanted: &Id| self.rows.iter().position(|row| *row == Row::Item(*wanted));
        let at = current.iter().chain(&after).find_map(place);
        self.at = at.unwrap_or(self.at.min(self.rows.len().saturating_sub(1)));
        self.settle(true);
    }

    /// What it is listed under, with what puts it before others.
    fn group_of(&self, item: &Item, rules: &RuleSet) -> (u8, String) {
        match self.grouping {
            Grouping::File => (0, item.finding.path.to_string()),
            Grouping::Rule => {
                let rule = rules.rule(item.finding.rule);
                (u8::MAX - rule.level as u8, rule.name.to_string())
            }
            Grouping::Owner => match &item.owner {
                Some(owner) => (0, owner.clone()),
                None => (1, "nobody".to_string()),
            },
        }
    }

    /// Moves the cursor by findings; it stops at either end.
    pub fn step(&mut self, by: isize) {
        let mut left = by.unsigned_abs();
        let mut at = self.at;
        while left > 0 {
            let next = if by < 0 { at.checked_sub(1) } else { Some(at + 1).filter(|next| *next < self.rows.len()) };
            let Some(next) = next else { break };
            at = next;
            if matches!(self.rows[at], Row::Item(_)) {
                self.at = at;
                left -= 1;
            }
        }
    }

    /// Moves the cursor to the first or the last finding.
    pub fn jump(&mut self, to_end: bool) {
        self.at = if to_end { self.rows.len().saturating_sub(1) } else { 0 };
        self.settle(!to_end);
    }

    /// Moves the cursor to a finding, if it is listed.
    pub fn go_to(&mut self, id: Id) {
        self.at = self.rows.iter().position(|row| *row == Row::Item(id)).unwrap_or(self.at);
    }

    /// Moves the cursor to the next finding that is open, from the top again if need be.
    pub fn next_open(&mut self, items: &Items) {
        let is_open = |at: &usize| matches!(self.rows[*at], Row::Item(id) if items.get(id).state == State::Open);
        let next = (self.at + 1..self.rows.len()).find(is_open).or_else(|| (0..self.at).find(is_open));
        self.at = next.unwrap_or(self.at);
    }

    /// From a head the cursor goes on to a finding.
    fn settle(&mut self, downwards: bool) {
        if let Some(Row::Head(..)) = self.rows.get(self.at) {
            self.at = if downwards { (self.at + 1).min(self.rows.len() - 1) } else { self.at.saturating_sub(1) };
        }
    }

    /// The rows that are shown in so many lines: they move only as far as the cursor needs it.
    pub fn visible(&mut self, height: usize) -> std::ops::Range<usize> {
        let height = height.max(1);
        let last = self.rows.len().saturating_sub(height);
        // Above a group's first finding its head is shown, too.
        let above = usize::from(self.at > 0 && matches!(self.rows.get(self.at - 1), Some(Row::Head(..))) && height > 1);
        self.top = self.top.min(self.at - above).max((self.at + 1).saturating_sub(height)).min(last);
        self.top..(self.top + height).min(self.rows.len())
    }

    /// The findings that a key acts on.
    pub fn reached(&self, items: &Items, reach: Reach) -> Vec<Id> {
        let Some(current) = self.current() else { return Vec::new() };
        let chosen = items.get(current);
        if reach == Reach::One {
            return Some(current).filter(|_| chosen.is_reported).into_iter().collect();
        }
        let is_reached = |id: &Id| {
            let item = items.get(*id);
            let in_file = reach == Reach::Everywhere || item.finding.path == chosen.finding.path;
            item.finding.rule == chosen.finding.rule && in_file && item.state == State::Open
        };
        self.rows.iter().filter_map(item_of).filter(is_reached).collect()
    }
}

fn item_of(row: &Row) -> Option<Id> {
    match row {
        Row::Item(id) => Some(*id),
        Row::Head(..) => None,
    }
}

/// Whether every word is in a finding's place, rule or message.
fn fits(item: &Item, rules: &RuleSet, words: &[String]) -> bool {
    if words.is_empty() {
        return true;
    }
    let finding = &item.finding;
    let owner = item.owner.as_deref().unwrap_or_default();
    let all = format!("{} {} {} {owner}", finding.path, rules.name(finding.rule), finding.message).to_lowercase();
    words.iter().all(|word| all.contains(word))
}
