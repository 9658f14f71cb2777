//! Runs house rules over a file. A rule costs a file the nodes of its kinds, and nothing at all where the words of its query are not in it.

use std::sync::Arc;

use aho_corasick::{AhoCorasick, MatchKind};
use sieve_syntax::language::Language;
use sieve_syntax::tree::NodeId;

use super::HouseRule;
use crate::interface::{File, Finding, Fix, OptionValue, Report, RuleId, Unsure};
use crate::query::{Query, QueryError, Shared};

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

    fn check(&self, shared: &Shared<'_>, file: File<'_>, report: &mut Report) {
        let asked = self.query.of(shared);
        let matches = asked.all();
        let span = |node: &NodeId| file.tree.node(*node).span();
        for node in &matches.found {
            let fix = self.rule.fix.as_ref().and_then(|fix| {
                let edits = asked.repaired(&fix.repair, *node)?;
                Some(Fix { kind: fix.kind, edits })
            });
            report.findings.push(Finding {
                rule: self.id,
                span: span(node),
                message: asked.message(&self.rule.message, *node),
                advice: self.rule.advice.as_ref().map(|advice| asked.message(advice, *node).into()),
                related: Vec::new(),
                fix: fix.filter(|_| file.tree.faults().is_empty()),
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
    /// For each word, the rule that wants it.
    wanted_by: Vec<usize>,
    /// For each rule, how many words it wants.
    wanted: Vec<usize>,
}

impl Ready {
    pub(crate) fn new(language: Language, enabled: &[EnabledHouse]) -> Ready {
        let is_for = |one: &&EnabledHouse| one.rule.languages.contains(&language) && one.query.is_for(language);
        let rules: Vec<EnabledHouse> = enabled.iter().filter(is_for).cloned().collect();
        let mut words: Vec<&str> = Vec::new();
        let (mut wanted_by, mut wanted) = (Vec::new(), Vec::new());
        for (index, rule) in rules.iter().enumerate() {
            let literals = rule.query.literals();
            words.extend(literals.iter().map(String::as_str));
            wanted_by.extend(literals.iter().map(|_| index));
            wanted.push(literals.len());
        }
        // Words that are too many to be compiled are not looked for: then each rule is asked.
        let words = (!words.is_empty()).then(|| AhoCorasick::builder().match_kind(MatchKind::Standard).build(&words));
        let words = words.and_then(Result::ok);
        Ready { words, wanted_by, wanted, rules }
    }

    /// Runs the rules over a file.
    pub(crate) fn check(&self, file: File<'_>, report: &mut Report) {
        let missing = self.missing(file.text.source());
        let mut shared = None;
        for (rule, _) in self.rules.iter().zip(&missing).filter(|(_, missing)| **missing == 0) {
            rule.check(shared.get_or_insert_with(|| Shared::new(file)), file, report);
        }
    }

    /// How many of the words that each rule wants are not in a text.
    fn missing(&self, source: &str) -> Vec<usize> {
        let Some(words) = &self.words else { return vec![0; self.rules.len()] };
        let mut missing = self.wanted.clone();
        let mut found = vec![false; self.wanted_by.len()];
        for word in words.find_overlapping_iter(source) {
            let word = word.pattern().as_usize();
            if !std::mem::replace(&mut found[word], true) {
                missing[self.wanted_by[word]] -= 1;
            }
        }
        missing
    }
}
