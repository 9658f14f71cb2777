//! Rounds of fixes over one text, until nothing changes.

use std::collections::hash_map::Entry;
use std::collections::{BTreeMap, BTreeSet, HashMap};

use jiff::civil::Date;
use sieve_rules::{Concern, Edit, Fix, FixKind, RuleId, RuleSet};
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;
use xxhash_rust::xxh3::xxh3_128;

use crate::check::{FileOutcome, sift_tree};
use crate::edits::{Broken, Whole, apply_edits, code_changed, new_faults, only_there, without_conflicts};
use crate::outcome::Finding;
use crate::subject::{Subject, Wants};

/// More rounds than any chain of fixes needs: each round applies all fixes that do not touch.
const ROUNDS: usize = 64;

/// More fixes of one file than this are not tried one by one: then the rules that are to blame are left aside.
const MOST_DISCARDED: usize = 24;

/// A text with its exact fixes applied.
#[derive(Debug, Default)]
pub struct FixedText {
    /// The text.
    pub source: String,
    /// How many fixes of each rule are in it.
    pub applied: BTreeMap<RuleId, usize>,
    /// Fixes that were discarded.
    pub blamed: Vec<Blame>,
}

/// Why fixes were discarded.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Blame {
    /// A fix of a rule broke the syntax.
    BrokeSyntax(RuleId),
    /// A fix of a layout rule changed the code.
    ChangedCode(RuleId),
    /// A fix of a rule in a pack changed what the code around it means.
    ChangedElsewhere(RuleId),
    /// Rules undid each other's fixes.
    Loop(Vec<RuleId>),
    /// There was still something to fix after the last round.
    Unsettled(Vec<RuleId>),
    /// The fixed text cannot be written in the file's encoding.
    Encoding(&'static str),
}

impl Blame {
    /// The same in words.
    pub fn describe(&self, rules: &RuleSet) -> String {
        let name = |rule: &RuleId| rules.name(*rule);
        let names = |all: &[RuleId]| all.iter().map(name).collect::<Vec<&str>>().join(" and ");
        match self {
            Blame::BrokeSyntax(rule) => {
                format!("a fix of {} would have broken the syntax and was left out", name(rule))
            }
            Blame::ChangedCode(rule) => {
                format!("a fix of {} would have changed the code and was left out", name(rule))
            }
            Blame::ChangedElsewhere(rule) => {
                format!("a fix of {} would have changed the code around it and was left out", name(rule))
            }
            Blame::Loop(rules) if rules.len() == 1 => {
                format!("fixes of {} change the text and change it back; these were left out", names(rules))
            }
            Blame::Loop(rules) => format!("{} undo each other's fixes; these were left out", names(rules)),
            Blame::Unsettled(rules) => {
                format!("after {ROUNDS} rounds there are still fixes of {}; run fix again", names(rules))
            }
            Blame::Encoding(encoding) => format!("the fixed text has no form in {encoding} and was left out"),
        }
    }
}

/// Which fixes are to be applied.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Which<'w> {
    /// Every exact one, in rounds.
    Exact,
    /// Those of the findings of a rule that begin at these bytes, exact or not, in one round.
    At(RuleId, &'w [u32]),
}

impl Which<'_> {
    /// The edits of a finding's fix, if it is one of these.
    pub(super) fn edits(self, finding: &Finding) -> Option<&[Edit]> {
        match self {
            Which::Exact => exact(finding.fix.as_ref()),
            Which::At(rule, starts) => {
                let is_meant = finding.rule == rule && starts.contains(&finding.span.start);
                finding.fix.as_ref().filter(|_| is_meant).map(|fix| fix.edits.as_slice())
            }
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
    fix_some(text, subject, Which::Exact, today, identities, keep)
}

/// The same with some of the fixes.
pub(super) fn fix_some(
    text: &Text,
    subject: &Subject<'_>,
    which: Which<'_>,
    today: Date,
    identities: bool,
    keep: &dyn Fn(&Text, &mut FileOutcome),
) -> FixedText {
    let mut state = State {
        text: text.clone(),
        tree: subject.language.parse(text),
        blamed: Vec::new(),
        left_aside: BTreeSet::new(),
        discarded: Vec::new(),
    };
    // What each round applied, and the text after it.
    let mut rounds: Vec<BTreeMap<RuleId, usize>> = Vec::new();
    let mut seen = HashMap::from([(hash(text), 0)]);
    loop {
        let wants = Wants { identities, ..Wants::NONE };
        let mut found = sift_tree(&state.text, &state.tree, subject, wants, today);
        keep(&state.text, &mut found);
        let fixes = state.fixes(subject, which, &found.findings);
        if fixes.is_empty() {
            break;
        }
        if rounds.len() == ROUNDS {
            let rules: BTreeSet<RuleId> = fixes.iter().map(|fix| fix.rule).collect();
            state.blamed.push(Blame::Unsettled(rules.into_iter().collect()));
            break;
        }
        let applied = state.round(subject, &fixes);
        if applied.is_empty() {
            // All of them were discarded; others may have waited for their places.
            continue;
        }
        rounds.push(applied);
        if which != Which::Exact {
            // What is at these places now is something else.
            break;
        }
        match seen.entry(hash(&state.text)) {
            Entry::Vacant(new) => {
                new.insert(rounds.len());
            }
            // The text is what it was some rounds ago: their rules undo each other.
            Entry::Occupied(old) => {
                let cycle: BTreeSet<RuleId> = rounds.drain(*old.get()..).flat_map(BTreeMap::into_keys).collect();
                state.left_aside.extend(&cycle);
                state.blamed.push(Blame::Loop(cycle.into_iter().collect()));
            }
        }
    }
    let mut result =
        FixedText { source: state.text.source().to_string(), blamed: state.blamed, ..FixedText::default() };
    for (rule, count) in rounds.into_iter().flatten() {
        *result.applied.entry(rule).or_insert(0) += count;
    }
    result
}

fn hash(text: &Text) -> u128 {
    xxh3_128(text.source().as_bytes())
}

/// A fix of a finding.
#[derive(Debug, Clone, Copy)]
struct OneFix<'f> {
    rule: RuleId,
    edits: &'f [Edit],
    /// Where its finding begins.
    at: u32,
}

struct State {
    text: Text,
    tree: Tree,
    blamed: Vec<Blame>,
    /// Rules whose fixes are not applied in this file any more.
    left_aside: BTreeSet<RuleId>,
    /// Findings whose fixes were discarded: rule and place, kept in step with the text.
    discarded: Vec<(RuleId, u32)>,
}

impl State {
    /// The fixes that can be applied together.
    fn fixes<'f>(&self, subject: &Subject<'_>, which: Which<'_>, findings: &'f [Finding]) -> Vec<OneFix<'f>> {
        let is_left = |finding: &Finding| {
            self.left_aside.contains(&finding.rule) || self.discarded.contains(&(finding.rule, finding.span.start))
        };
        let fixes: Vec<OneFix> = findings
            .iter()
            .filter(|finding| finding.held.is_none() && !is_left(finding))
            .filter_map(|finding| {
                let edits = which.edits(finding)?;
                Some(OneFix { rule: finding.rule, edits, at: finding.span.start })
            })
            .collect();
        // Layout has rounds of its own: only there must all the code stay as it is.
        let is_layout = |fix: &OneFix| subject.settings.rule_set().rule(fix.rule).concern == Concern::Layout;
        let only_layout = fixes.iter().all(is_layout);
        let fixes: Vec<OneFix> = fixes.into_iter().filter(|fix| only_layout || !is_layout(fix)).collect();
        let edits: Vec<&[Edit]> = fixes.iter().map(|fix| fix.edits).collect();
        without_conflicts(&edits).into_iter().map(|index| fixes[index]).collect()
    }

    /// One round; how many fixes of each rule were applied.
    fn round(&mut self, subject: &Subject<'_>, fixes: &[OneFix<'_>]) -> BTreeMap<RuleId, usize> {
        let mut good = Vec::new();
        let mut bad = Vec::new();
        let applied = self.extend(subject, &mut good, fixes, &mut bad);
        for fix in bad {
            self.discarded.push((fix.rule, fix.at));
        }
        let Some((text, tree)) = applied else { return BTreeMap::new() };
        let mut edits: Vec<&Edit> = good.iter().flat_map(|fix: &OneFix<'_>| fix.edits).collect();
        edits.sort_by_key(|edit| edit.span);
        for (_, at) in &mut self.discarded {
            *at = moved(*at, &edits);
        }
        (self.text, self.tree) = (text, tree);
        let mut counts = BTreeMap::new();
        for fix in good {
            *counts.entry(fix.rule).or_insert(0) += 1;
        }
        counts
    }

    /// Adds to the good fixes what can be applied together with them. Where something breaks, each half is tried for itself, so
    /// that a bad fix costs a few attempts and no other fix. Gives the text with all the good ones.
    fn extend<'f>(
        &mut self,
        subject: &Subject<'_>,
        good: &mut Vec<OneFix<'f>>,
        fixes: &[OneFix<'f>],
        bad: &mut Vec<OneFix<'f>>,
    ) -> Option<(Text, Tree)> {
        if bad.len() > MOST_DISCARDED {
            self.left_aside.extend(fixes.iter().map(|fix| fix.rule));
            return None;
        }
        let all: Vec<OneFix> = good.iter().chain(fixes).copied().collect();
        let broken = match self.applied(subject, &all) {
            Ok(applied) => {
                good.extend(fixes);
                return Some(applied);
            }
            Err(broken) => broken,
        };
        if let [fix] = fixes {
            // What is wrong only together with others waits for another round.
            let alone = if good.is_empty() { Err(broken) } else { self.applied(subject, &[*fix]) };
            if let Err(broken) = alone {
                let blame = match broken {
                    Broken::Syntax => Blame::BrokeSyntax(fix.rule),
                    Broken::Code => Blame::ChangedCode(fix.rule),
                    Broken::Elsewhere => Blame::ChangedElsewhere(fix.rule),
                };
                if !self.blamed.contains(&blame) {
                    self.blamed.push(blame);
                }
                bad.push(*fix);
            }
            return None;
        }
        let (first, second) = fixes.split_at(fixes.len() / 2);
        let one = self.extend(subject, good, first, bad);
        let both = self.extend(subject, good, second, bad);
        both.or(one)
    }

    /// The text with fixes in it, if it still says what it said.
    fn applied(&self, subject: &Subject<'_>, fixes: &[OneFix<'_>]) -> Result<(Text, Tree), Broken> {
        let edits: Vec<&Edit> = fixes.iter().flat_map(|fix| fix.edits).collect();
        let (text, tree) = with_edits(&self.text, &edits, subject);
        let only_layout = fixes.iter().all(|fix| subject.settings.rule_set().rule(fix.rule).concern == Concern::Layout);
        let before = Whole::of(subject.language, &self.text, &self.tree);
        let after = Whole::of(subject.language, &text, &tree);
        let changed = || code_changed(&before, &after);
        // What a rule of this program edits is proved in its tests; what a pack says is not.
        let is_house = |fix: &&OneFix<'_>| subject.settings.rule_set().house_rule(fix.rule).is_some();
        let elsewhere = || {
            let stays = !fixes.iter().any(|fix| is_house(&fix)) || only_there(&before, &after, &edits);
            (!stays).then_some(Broken::Elsewhere)
        };
        let broken = new_faults(&before, &after);
        let broken = broken.or_else(|| if only_layout { changed() } else { None }).or_else(elsewhere);
        match broken {
            Some(broken) => Err(broken),
            None => Ok((text, tree)),
        }
    }
}

/// Where an offset is after edits, which are sorted.
pub(super) fn moved(offset: u32, edits: &[&Edit]) -> u32 {
    let end = edits.partition_point(|edit| edit.span.start <= offset);
    let before = edits[..end]
        .iter()
        .filter(|edit| edit.span.end <= offset && (edit.span.start < offset || !edit.text.is_empty()));
    let moved = before.fold(i64::from(offset), |at, edit| at + edit.text.len() as i64 - i64::from(edit.span.len()));
    moved.max(0) as u32
}

/// A text with edits in it, parsed again.
pub(super) fn with_edits(text: &Text, edits: &[&Edit], subject: &Subject<'_>) -> (Text, Tree) {
    let text = Text::with_encoding(apply_edits(text.source(), edits), text.encoding());
    let tree = subject.language.parse(&text);
    (text, tree)
}

fn exact(fix: Option<&Fix>) -> Option<&[Edit]> {
    fix.filter(|fix| fix.kind == FixKind::Exact).map(|fix| fix.edits.as_slice())
}
