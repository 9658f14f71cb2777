//! Runs house rules over a file. A rule costs a file the nodes of its kinds, and nothing at all where the words of its query are not in it.

use std::sync::Arc;

use sieve_syntax::language::Language;
use sieve_syntax::tree::NodeId;

use super::HouseRule;
use super::data::DataCheck;
use super::words::Words;
use crate::interface::{File, Finding, Fix, OptionValue, Report, RuleId, Unsure};
use crate::query::{Query, QueryError, Shared, WordPlaces};

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

    /// Reports what its query matches.
    fn check<'f>(&'f self, shared: &'f Shared<'f>, words: Option<WordPlaces<'f>>, file: File<'f>, report: &mut Report) {
        let asked = self.query.of(shared, words);
        let matches = asked.all();
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
    words: Words,
}

impl Ready {
    pub(crate) fn new(language: Language, enabled: &[EnabledHouse]) -> Ready {
        let is_for = |one: &&EnabledHouse| one.rule.languages.contains(&language) && one.query.is_for(language);
        let rules: Vec<EnabledHouse> = enabled.iter().filter(is_for).cloned().collect();
        Ready { words: Words::of(rules.iter().map(|one| &*one.query)), rules }
    }

    /// Whether one of the rules asks what names mean.
    pub(crate) fn needs_names(&self) -> bool {
        self.rules.iter().any(EnabledHouse::needs_names)
    }

    /// Whether what one of the rules finds depends on which files there are, and on what is in them.
    pub(crate) fn asks_files(&self) -> bool {
        self.rules.iter().filter_map(|one| one.rule.data()).any(DataCheck::asks_files)
    }

    /// Runs the rules over a file.
    pub(crate) fn check(&self, file: File<'_>, report: &mut Report) {
        let places = self.words.places(file.text.source());
        let mut shared = None;
        for (index, rule) in self.rules.iter().enumerate() {
            if let Some(check) = rule.rule.data() {
                check.report(rule.id, file, report);
                continue;
            }
            let words = places.as_deref().map(|places| WordPlaces { places, wanted: self.words.wanted(index), file });
            if words.as_ref().is_none_or(|words| rule.query.may_match_at(words)) {
                rule.check(shared.get_or_insert_with(|| Shared::new(file)), words, file, report);
            }
        }
    }
}
