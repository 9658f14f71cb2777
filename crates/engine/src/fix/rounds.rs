//! Rounds of fixes over one text, until nothing changes.

use std::collections::{BTreeMap, BTreeSet, HashSet};
use std::fmt;

use jiff::civil::Date;
use sieve_rules::{Concern, Edit, Fix, FixKind, RuleId, catalogue};
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;
use xxhash_rust::xxh3::xxh3_128;

use super::apply::{apply_edits, without_conflicts};
use super::verify::{Broken, code_changed, new_faults};
use crate::outcome::Finding;
use crate::sift::{FileOutcome, Subject, Wants, sift_tree};

/// More rounds than any chain of fixes needs: each round applies all fixes that do not touch.
const ROUNDS: usize = 64;

/// A text with its exact fixes applied.
#[derive(Debug, Default)]
pub struct FixedText {
    /// The text.
    pub source: String,
    /// How many fixes of each rule are in it.
    pub applied: BTreeMap<RuleId, usize>,
    /// Fixes that were thrown away.
    pub blamed: Vec<Blame>,
}

/// Why fixes were thrown away.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Blame {
    /// A rule's fixes broke the syntax.
    BrokeSyntax(RuleId),
    /// A layout rule's fixes changed the code.
    ChangedCode(RuleId),
    /// Rules undid each other's fixes.
    Loop(Vec<RuleId>),
    /// The fixed text cannot be written in the file's encoding.
    Encoding(&'static str),
}

impl fmt::Display for Blame {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        let name = |rule: &RuleId| catalogue::rule(*rule).name;
        match self {
            Blame::BrokeSyntax(rule) => {
                write!(out, "the fixes of {} would have broken the syntax and were left out", name(rule))
            }
            Blame::ChangedCode(rule) => {
                write!(out, "the fixes of {} would have changed the code and were left out", name(rule))
            }
            Blame::Loop(rules) => {
                let names: Vec<&str> = rules.iter().map(name).collect();
                write!(out, "{} undo each other's fixes; all were left out", names.join(" and "))
            }
            Blame::Encoding(encoding) => write!(out, "the fixed text has no form in {encoding} and was left out"),
        }
    }
}

/// Applies the exact fixes of findings that nothing holds back. `keep` is handed the findings of each round: it marks those that a
/// baseline knows, and drops those that do not count.
pub fn fix_text(
    text: &Text,
    subject: &Subject<'_>,
    today: Date,
    identities: bool,
    keep: &dyn Fn(&Text, &mut FileOutcome),
) -> FixedText {
    let mut state = State {
        text: text.clone(),
        tree: subject.language.parse(text),
        result: FixedText::default(),
        left_aside: BTreeSet::new(),
    };
    let mut seen = HashSet::from([hash(text)]);
    for _ in 0..ROUNDS {
        let wants = Wants { identities, excerpts: false };
        let mut found = sift_tree(&state.text, &state.tree, subject, wants, today);
        keep(&state.text, &mut found);
        let applied = state.round(subject, &found.findings);
        if applied.is_empty() {
            break;
        }
        if !seen.insert(hash(&state.text)) {
            state.result = FixedText { source: text.source().to_string(), ..FixedText::default() };
            state.result.blamed.push(Blame::Loop(applied.into_iter().collect()));
            return state.result;
        }
    }
    state.result.source = state.text.source().to_string();
    state.result
}

fn hash(text: &Text) -> u128 {
    xxh3_128(text.source().as_bytes())
}

struct State {
    text: Text,
    tree: Tree,
    result: FixedText,
    /// Rules whose fixes broke something in this file.
    left_aside: BTreeSet<RuleId>,
}

impl State {
    /// One round; the rules whose fixes were applied.
    fn round(&mut self, subject: &Subject<'_>, findings: &[Finding]) -> BTreeSet<RuleId> {
        loop {
            let fixes: Vec<(RuleId, &[Edit])> = findings
                .iter()
                .filter(|finding| finding.held.is_none() && !self.left_aside.contains(&finding.rule))
                .filter_map(|finding| exact(finding.fix.as_ref()).map(|edits| (finding.rule, edits)))
                .collect();
            let edits: Vec<&[Edit]> = fixes.iter().map(|(_, edits)| *edits).collect();
            let chosen: Vec<(RuleId, &[Edit])> =
                without_conflicts(&edits).into_iter().map(|index| fixes[index]).collect();
            if chosen.is_empty() {
                return BTreeSet::new();
            }
            match self.applied(subject, &chosen) {
                Ok((text, tree)) => {
                    self.text = text;
                    self.tree = tree;
                    for (rule, _) in &chosen {
                        *self.result.applied.entry(*rule).or_insert(0) += 1;
                    }
                    return chosen.into_iter().map(|(rule, _)| rule).collect();
                }
                Err(_) => self.blame(subject, &chosen),
            }
        }
    }

    /// The text with fixes in it, if it still says what it said.
    fn applied(&self, subject: &Subject<'_>, fixes: &[(RuleId, &[Edit])]) -> Result<(Text, Tree), Broken> {
        let edits: Vec<&Edit> = fixes.iter().flat_map(|(_, edits)| edits.iter()).collect();
        let (text, tree) = with_edits(&self.text, &edits, subject);
        let only_layout = fixes.iter().all(|(rule, _)| catalogue::rule(*rule).concern == Concern::Layout);
        let changed = || code_changed(subject.language, (&self.text, &self.tree), (&text, &tree));
        match new_faults(&self.tree, &tree).or_else(|| if only_layout { changed() } else { None }) {
            Some(broken) => Err(broken),
            None => Ok((text, tree)),
        }
    }

    /// Finds the rules whose fixes alone break the text, and leaves them aside; if none does alone, all of them.
    fn blame(&mut self, subject: &Subject<'_>, fixes: &[(RuleId, &[Edit])]) {
        let rules: BTreeSet<RuleId> = fixes.iter().map(|(rule, _)| *rule).collect();
        let mut guilty = Vec::new();
        for rule in &rules {
            let own: Vec<(RuleId, &[Edit])> = fixes.iter().filter(|(other, _)| other == rule).copied().collect();
            if let Err(broken) = self.applied(subject, &own) {
                guilty.push((*rule, broken));
            }
        }
        if guilty.is_empty() {
            guilty.extend(rules.iter().map(|rule| (*rule, Broken::Syntax)));
        }
        for (rule, broken) in guilty {
            self.left_aside.insert(rule);
            self.result.blamed.push(match broken {
                Broken::Syntax => Blame::BrokeSyntax(rule),
                Broken::Code => Blame::ChangedCode(rule),
            });
        }
    }
}

/// A text with edits in it, parsed again.
pub(super) fn with_edits(text: &Text, edits: &[&Edit], subject: &Subject<'_>) -> (Text, Tree) {
    let text = Text::with_encoding(apply_edits(text.source(), edits), text.encoding());
    let tree = subject.language.parse(&text);
    (text, tree)
}

pub(super) fn exact(fix: Option<&Fix>) -> Option<&[Edit]> {
    fix.filter(|fix| fix.kind == FixKind::Exact).map(|fix| fix.edits.as_slice())
}
