//! Runs house rules over a file. A rule costs a file the nodes of its kinds, and nothing at all where the words of its query are not in it.

use std::sync::Arc;

use aho_corasick::{AhoCorasick, AhoCorasickKind, MatchKind};
use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use sieve_syntax::tree::NodeId;

use super::HouseRule;
use crate::interface::{File, Finding, Fix, OptionValue, Report, RuleId, Unsure};
use crate::query::{Query, QueryError, Shared};

/// The fastest search takes memory for each word, in a table: for more words than this a smaller one is made.
const MOST_IN_TABLE: usize = 500;

/// A house rule that is on, with its options in its query.
#[derive(Debug, Clone)]
pub struct EnabledHouse {
    id: RuleId,
    rule: Arc<HouseRule>,
    query: Arc<Query>,
}

impl EnabledHouse {
    /// A rule with the values of its options, in their order.
    ///
    /// # Errors
    /// When a value is none that its query can take.
    pub fn new(id: RuleId, rule: &Arc<HouseRule>, values: &[OptionValue]) -> Result<EnabledHouse, QueryError> {
        Ok(EnabledHouse { id, query: rule.query_with(values)?, rule: Arc::clone(rule) })
    }

    pub(crate) fn needs_names(&self) -> bool {
        self.query.needs_names()
    }

    /// Reports what its query matches; at the given offsets, if any, is something that this is written with.
    fn check(&self, shared: &Shared<'_>, offsets: Option<&[u32]>, file: File<'_>, report: &mut Report) {
        let asked = self.query.of(shared);
        let matches = offsets.map_or_else(|| asked.all(), |offsets| asked.all_with(offsets));
        let span = |node: &NodeId| file.tree.node(*node).span();
        // Nothing is fixed in a file that is not understood as a whole.
        let offered = self.rule.fix.as_ref().filter(|_| file.tree.faults().is_empty());
        for node in &matches.found {
            let fix = offered.and_then(|fix| {
                let edits = asked.repaired(&fix.repair, *node)?;
                Some(Fix { kind: fix.kind, edits })
            });
            report.findings.push(Finding {
                rule: self.id,
                span: span(node),
                message: asked.message(&self.rule.message, *node),
                advice: self.rule.advice.as_ref().map(|advice| asked.message(advice, *node).into()),
                related: Vec::new(),
                fix,
                anchor: None,
                unless: None,
            });
        }
        let reason = "what a name of the query stands for here cannot be known";
        report.unsure.extend(matches.unsure.iter().map(|node| Unsure { rule: self.id, span: span(node), reason }));
    }
}

/// The house rules that are on for one language, and the words that tell where they can find anything.
#[derive(Debug, Default)]
pub(crate) struct Ready {
    rules: Vec<EnabledHouse>,
    /// Finds the words of all rules in one look at a text.
    words: Option<AhoCorasick>,
    /// For each rule, its words among them: those that what it finds is written with.
    wanted: Vec<Vec<Wanted>>,
}

/// A word that a rule wants, by its place among those of all rules.
#[derive(Debug, Clone, Copy)]
struct Wanted {
    word: usize,
    is_referred: bool,
}

impl Ready {
    pub(crate) fn new(language: Language, enabled: &[EnabledHouse]) -> Ready {
        let is_for = |one: &&EnabledHouse| one.rule.languages.contains(&language) && one.query.is_for(language);
        let rules: Vec<EnabledHouse> = enabled.iter().filter(is_for).cloned().collect();
        let mut words: Vec<&str> = Vec::new();
        let mut places: FxHashMap<&str, usize> = FxHashMap::default();
        let mut wanted = Vec::new();
        for rule in &rules {
            let own = rule.query.literals().iter().map(|literal| {
                let word = *places.entry(&literal.text).or_insert_with(|| {
                    words.push(&literal.text);
                    words.len() - 1
                });
                Wanted { word, is_referred: literal.is_referred }
            });
            wanted.push(own.collect());
        }
        let kind = (words.len() <= MOST_IN_TABLE).then_some(AhoCorasickKind::DFA);
        let search = || AhoCorasick::builder().match_kind(MatchKind::Standard).kind(kind).build(&words);
        // Words that are too many to be compiled are not looked for: then each rule is asked.
        let words = if words.is_empty() { None } else { search().ok() };
        Ready { words, wanted, rules }
    }

    /// Whether one of the rules asks what names mean.
    pub(crate) fn needs_names(&self) -> bool {
        self.rules.iter().any(EnabledHouse::needs_names)
    }

    /// Runs the rules over a file.
    pub(crate) fn check(&self, file: File<'_>, report: &mut Report) {
        let places = self.places(file.text.source());
        let mut shared = None;
        for (rule, wanted) in self.rules.iter().zip(&self.wanted) {
            let Some(places) = &places else {
                rule.check(shared.get_or_insert_with(|| Shared::new(file)), None, file, report);
                continue;
            };
            if wanted.iter().any(|one| places[one.word].is_empty()) {
                continue;
            }
            let written = wanted.iter().filter(|one| !one.is_referred || !file.renames_imports());
            let rarest = written.map(|one| places[one.word].as_slice()).min_by_key(|places| places.len());
            rule.check(shared.get_or_insert_with(|| Shared::new(file)), rarest, file, report);
        }
    }

    /// Where each word is in a text; nothing where they are not looked for.
    fn places(&self, source: &str) -> Option<Vec<Vec<u32>>> {
        let words = self.words.as_ref()?;
        let mut places = vec![Vec::new(); words.patterns_len()];
        for found in words.find_overlapping_iter(source) {
            places[found.pattern().as_usize()].push(found.start() as u32);
        }
        Some(places)
    }
}
