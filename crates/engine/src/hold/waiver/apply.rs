//! Which findings the waivers of a file hold back.

use std::collections::BTreeMap;
use std::sync::Arc;

use jiff::civil::Date;
use sieve_rules::{Concern, Level, RuleId, RuleSet, RuleView};
use sieve_syntax::text::Text;
use sieve_syntax::tree::{TokenKind, Tree};

use super::directive::{self, Directive, Verb, Word};
use super::region::{Lines, Regions};
use crate::outcome::{Finding, Held, UnsurePlace, WaiverNote, WaiverState};
use crate::settings::Effective;

/// What a name in a waiver represents.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Waived {
    Rule(RuleId),
    Concern(Concern),
    /// Neither a rule nor a concern has this name.
    Nothing,
}

impl Waived {
    fn named(rules: &RuleSet, name: &str) -> Waived {
        match (rules.known(name), Concern::named(name)) {
            (Some(known), _) => Waived::Rule(known.rule),
            (None, Some(concern)) => Waived::Concern(concern),
            (None, None) => Waived::Nothing,
        }
    }

    pub(super) fn covers(self, id: RuleId, rule: RuleView<'_>) -> bool {
        match self {
            Waived::Rule(waived) => waived == id,
            Waived::Concern(concern) => rule.concern == concern,
            Waived::Nothing => false,
        }
    }

    /// Whether all rules that it represents are on and need no other file, so that they would have found what the waiver is for.
    pub(super) fn would_show(self, settings: &Effective) -> bool {
        let mut covered = settings.rule_set().iter().filter(|(id, rule)| self.covers(*id, *rule));
        covered.all(|(id, rule)| settings.level(id) != Level::Off && !rule.goes_over_files())
    }
}

/// A directive with the lines it holds for and what its names represent.
#[derive(Debug)]
pub(super) struct Waiver {
    pub(super) directive: Directive,
    pub(super) lines: Lines,
    /// For each name: what it represents, and how many findings and undecided places it covers.
    pub(super) names: Vec<(Waived, u32)>,
    /// Where a pause ends, and for which names; for all where there are none.
    pub(super) resumed: Vec<(u32, Vec<Waived>)>,
    /// Names of a `resume` that were not paused, as indexes; for one without names, whether nothing was.
    pub(super) not_paused: Vec<usize>,
    pub(super) resumes_nothing: bool,
    /// How many findings it holds back.
    pub(super) holds: u32,
    pub(super) expired: bool,
}

impl Waiver {
    /// Whether it can hold anything back.
    pub(super) fn is_in_force(&self) -> bool {
        let holds = matches!(self.directive.verb, Some(Verb::Waive | Verb::WaiveFile | Verb::Pause));
        holds && !self.expired && self.directive.wrong_day.is_none()
    }

    /// The lines on which it holds for a rule.
    fn lines_for(&self, id: RuleId, rule: RuleView<'_>) -> Lines {
        let ends = |names: &[Waived]| names.is_empty() || names.iter().any(|waived| waived.covers(id, rule));
        let end = self.resumed.iter().find(|(_, names)| ends(names)).map_or(*self.lines.end(), |(line, _)| *line);
        *self.lines.start()..=end
    }
}

/// The waivers of a file.
#[derive(Debug)]
pub(crate) struct Waivers<'r> {
    pub(super) all: Vec<Waiver>,
    /// The rules that they may mention.
    rules: &'r RuleSet,
}

impl<'r> Waivers<'r> {
    /// Reads the directives in the comments of a file, given as its tree and those of what it holds in other languages. Costs one search
    /// where there are none.
    pub(crate) fn of<'t>(
        text: &Text,
        trees: impl IntoIterator<Item = &'t Tree>,
        rules: &'r RuleSet,
        today: Date,
    ) -> Waivers<'r> {
        let mut waivers = Waivers { all: Vec::new(), rules };
        if memchr::memmem::find(text.source().as_bytes(), b"sieve:").is_none() {
            return waivers;
        }
        let mut found: Vec<(Directive, &Tree)> = trees.into_iter().flat_map(|tree| directives(text, tree)).collect();
        found.sort_by_key(|(directive, _)| directive.comment.start);
        // The pauses that may still go on, by their indexes.
        let mut open = Vec::new();
        let mut regions = Regions::default();
        for (directive, tree) in found {
            let line = text.lines().line_of(directive.comment.start);
            let lines = match directive.verb {
                Some(Verb::Waive) => regions.of_comment(text, tree, directive.comment),
                Some(Verb::WaiveFile) => 0..=u32::MAX,
                Some(Verb::Pause) => line..=u32::MAX,
                Some(Verb::Resume | Verb::Tells) | None => line..=line,
            };
            waivers.add((line, lines), directive, today, &mut open);
        }
        waivers
    }

    /// Adds a directive: its line, and the lines that it holds for.
    fn add(&mut self, (line, lines): (u32, Lines), directive: Directive, today: Date, open: &mut Vec<usize>) {
        let named = |name: &Word| (Waived::named(self.rules, &name.text), 0);
        let names: Vec<(Waived, u32)> = directive.names.iter().map(named).collect();
        let expired = directive.until.is_some_and(|last_day| last_day < today);
        let mut waiver = Waiver {
            directive,
            lines,
            names,
            resumed: Vec::new(),
            not_paused: Vec::new(),
            resumes_nothing: false,
            holds: 0,
            expired,
        };
        match waiver.directive.verb {
            Some(Verb::Pause) => open.push(self.all.len()),
            Some(Verb::Resume) => self.resume(&mut waiver, line, open),
            _ => {}
        }
        self.all.push(waiver);
    }

    /// Ends what the open pauses hold back: what a `resume` names, or all if it names nothing.
    fn resume(&mut self, resume: &mut Waiver, line: u32, open: &mut Vec<usize>) {
        let names: Vec<Waived> = resume.names.iter().map(|(waived, _)| *waived).collect();
        resume.resumes_nothing = open.is_empty();
        if names.is_empty() {
            open.drain(..).for_each(|index| self.all[index].resumed.push((line, Vec::new())));
            return;
        }
        let mut found = vec![false; names.len()];
        open.retain(|index| {
            let pause = &mut self.all[*index];
            let ended: Vec<Waived> = names.iter().copied().filter(|waived| pause.pauses(*waived, self.rules)).collect();
            names.iter().zip(&mut found).for_each(|(waived, found)| *found |= ended.contains(waived));
            if !ended.is_empty() {
                pause.resumed.push((line, ended));
            }
            // A pause of which every name is resumed is over.
            let over = |(waived, _): &(Waived, u32)| pause.resumed.iter().any(|(_, ended)| ended.contains(waived));
            !pause.names.iter().all(over)
        });
        resume.not_paused =
            (0..names.len()).filter(|index| !found[*index] && names[*index] != Waived::Nothing).collect();
    }

    /// The waivers as a list.
    pub(crate) fn notes(&self, text: &Text, path: &Arc<str>, settings: &Effective) -> Vec<WaiverNote> {
        let holding =
            |waiver: &&Waiver| matches!(waiver.directive.verb, Some(Verb::Waive | Verb::WaiveFile | Verb::Pause));
        self.all.iter().filter(holding).map(|waiver| waiver.note(text, path, settings)).collect()
    }
}

/// The directives in the comments of a tree.
fn directives<'t>(text: &Text, tree: &'t Tree) -> impl Iterator<Item = (Directive, &'t Tree)> {
    let comments = (0..).zip(tree.tokens()).filter(|(_, token)| token.kind == TokenKind::Comment);
    comments.filter_map(move |(id, _)| {
        let comment = tree.token_span(id);
        Some((directive::read(comment, text.slice(comment))?, tree))
    })
}

impl Waiver {
    /// Whether a pause holds back what a name represents, or a part of it.
    fn pauses(&self, wanted: Waived, rules: &RuleSet) -> bool {
        self.names.iter().any(|(waived, _)| match (*waived, wanted) {
            (Waived::Concern(concern), Waived::Rule(rule)) => rules.rule(rule).concern == concern,
            (Waived::Rule(rule), Waived::Concern(concern)) => rules.rule(rule).concern == concern,
            (one, other) => one == other,
        })
    }

    fn note(&self, text: &Text, path: &Arc<str>, settings: &Effective) -> WaiverNote {
        let covers = self.names.iter().any(|(_, covered)| *covered > 0);
        let state = match self.holds {
            _ if self.expired => WaiverState::Expired,
            0 if covers || !self.names.iter().all(|(waived, _)| waived.would_show(settings)) => WaiverState::Unsure,
            0 => WaiverState::Stale,
            _ => WaiverState::Holds,
        };
        WaiverNote {
            path: Arc::clone(path),
            line: text.lines().line_of(self.directive.comment.start),
            names: self.directive.names.iter().map(|name| name.text.clone()).collect(),
            reason: self.directive.reason.clone(),
            until: self.directive.until,
            holds: self.holds,
            state,
        }
    }
}

/// Marks the findings that a waiver covers, and counts each at the first waiver that holds it, those of single statements first.
/// A place that a rule could not decide is covered too: with more knowledge it might be what the waiver is for.
///
/// Takes time for the waivers and the findings, not for their product: the findings of a rule are sorted by their lines, and
/// those that are held already are skipped.
pub(crate) fn hold_back(waivers: &mut Waivers<'_>, text: &Text, findings: &mut [Finding], unsure: &[UnsurePlace]) {
    if waivers.all.is_empty() {
        return;
    }
    let mut by_rule: BTreeMap<RuleId, OfRule> = BTreeMap::new();
    for (index, finding) in findings.iter().enumerate() {
        by_rule.entry(finding.rule).or_default().findings.push((finding.start.line, index));
    }
    for place in unsure {
        by_rule.entry(place.rule).or_default().unsure.push(place.start.line);
    }
    by_rule.values_mut().for_each(OfRule::sort);
    let rules = waivers.rules;
    let is_wide = |waiver: &Waiver| waiver.directive.verb != Some(Verb::Waive);
    let mut order: Vec<usize> = (0..waivers.all.len()).filter(|index| waivers.all[*index].is_in_force()).collect();
    order.sort_by_key(|index| is_wide(&waivers.all[*index]));
    for index in order {
        let waiver = &mut waivers.all[index];
        let line = text.lines().line_of(waiver.directive.comment.start);
        for name in 0..waiver.names.len() {
            let waived = waiver.names[name].0;
            let covered: Vec<RuleId> = match waived {
                Waived::Nothing => Vec::new(),
                Waived::Rule(rule) => vec![rule],
                Waived::Concern(_) => {
                    by_rule.keys().copied().filter(|id| waived.covers(*id, rules.rule(*id))).collect()
                }
            };
            for id in covered {
                let Some(of_rule) = by_rule.get_mut(&id) else { continue };
                let lines = waiver.lines_for(id, rules.rule(id));
                waiver.names[name].1 += of_rule.covered(&lines);
                for held in of_rule.take(&lines) {
                    waiver.holds += 1;
                    findings[held].held = Some(Held::Waiver { line, reason: waiver.directive.reason.clone() });
                }
            }
        }
    }
}

/// The findings and undecided places of a rule.
#[derive(Default)]
struct OfRule {
    /// Lines and indexes, sorted.
    findings: Vec<(u32, usize)>,
    /// Lines, sorted.
    unsure: Vec<u32>,
    /// For each finding, the next one from it on that may be free: steps over those that are held.
    next: Vec<usize>,
}

impl OfRule {
    fn sort(&mut self) {
        self.findings.sort_unstable();
        self.unsure.sort_unstable();
        self.next = (0..=self.findings.len()).collect();
    }

    /// How many findings and undecided places are on some lines.
    fn covered(&self, lines: &Lines) -> u32 {
        let findings = self.findings.partition_point(|(line, _)| line <= lines.end())
            - self.findings.partition_point(|(line, _)| line < lines.start());
        let unsure = self.unsure.partition_point(|line| line <= lines.end())
            - self.unsure.partition_point(|line| line < lines.start());
        (findings + unsure) as u32
    }

    /// Takes the findings on some lines that nobody took before.
    fn take(&mut self, lines: &Lines) -> Vec<usize> {
        let mut taken = Vec::new();
        let end = self.findings.partition_point(|(line, _)| line <= lines.end());
        let mut at = self.free_from(self.findings.partition_point(|(line, _)| line < lines.start()));
        while at < end {
            taken.push(self.findings[at].1);
            self.next[at] = at + 1;
            at = self.free_from(at + 1);
        }
        taken
    }

    fn free_from(&mut self, start: usize) -> usize {
        let mut at = start;
        while self.next[at] != at {
            // Each second step shortens the way for the next who comes here.
            self.next[at] = self.next[self.next[at]];
            at = self.next[at];
        }
        at
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn of_rule(lines: &[u32]) -> OfRule {
        let mut of_rule = OfRule { findings: lines.iter().copied().zip(0..).collect(), ..OfRule::default() };
        of_rule.sort();
        of_rule
    }

    #[test]
    fn each_finding_is_taken_once_and_covered_by_all() {
        let mut of_rule = of_rule(&[1, 3, 3, 7]);
        assert_eq!(of_rule.take(&(2..=5)), [1, 2]);
        assert_eq!(of_rule.take(&(0..=u32::MAX)), [0, 3]);
        assert!(of_rule.take(&(0..=u32::MAX)).is_empty());
        assert_eq!(of_rule.covered(&(3..=7)), 3);
        assert_eq!(of_rule.covered(&(8..=9)), 0);
    }
}
