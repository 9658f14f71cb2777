//! Tries the rules of packs on their own examples, which are their tests.

mod cost;

use std::sync::Arc;

use sieve_rules::house::{EnabledHouse, HouseExample, HouseRule};
use sieve_rules::{Dispatch, Edit, Report, RuleId, RuleSet, run};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::edits::{Whole, apply_edits, new_faults, without_conflicts};

pub use cost::{Cost, costs};

/// What became of the examples of a rule.
#[derive(Debug)]
pub struct Tried {
    /// The rule.
    pub rule: Arc<HouseRule>,
    /// What is not as it should be.
    pub failures: Vec<Failure>,
}

/// An example that does not show what it is to show.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Failure {
    /// The line of the pack with the example, from 1; nothing where an example lacks.
    pub line: Option<u32>,
    /// The code of the example.
    pub code: String,
    /// What is wrong.
    pub problem: Problem,
}

/// What is wrong with an example.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Problem {
    /// The rule has no example of this kind: `wrong` or `right`.
    Lacks(&'static str),
    /// A wrong example says not where it is to be reported.
    NoPlaces {
        /// Where it is.
        found: Vec<String>,
    },
    /// The code is not what its language allows.
    Faults(String),
    /// It is reported elsewhere than it says.
    Places {
        /// Where it is to be reported.
        expected: Vec<String>,
        /// Where it is reported.
        found: Vec<String>,
        /// Where that cannot be known.
        unsure: Vec<String>,
    },
    /// Its fix makes something else of it.
    Fixed {
        /// What the fix is to make of it.
        expected: String,
        /// What it makes of it; nothing where no fix is offered.
        found: Option<String>,
    },
    /// Its fix leaves code that its language does not allow.
    BreaksSyntax(String),
}

/// Tries the rules of a pack, in the order of their names.
pub fn examples(rules: &RuleSet, pack: &str) -> Vec<Tried> {
    let own = rules.iter().filter(|(_, rule)| rule.pack() == Some(pack));
    own.filter_map(|(id, _)| Some(try_rule(id, rules.house_rule(id)?))).collect()
}

fn try_rule(id: RuleId, rule: &Arc<HouseRule>) -> Tried {
    let mut failures = Vec::new();
    for (is_wrong, kind) in [(true, "wrong"), (false, "right")] {
        if !rule.examples.iter().any(|example| example.is_wrong == is_wrong) {
            failures.push(Failure { line: None, code: String::new(), problem: Problem::Lacks(kind) });
        }
    }
    let dispatch = dispatch_of(id, rule);
    for example in &rule.examples {
        let failure = |problem| Failure { line: Some(example.line), code: example.code.clone(), problem };
        failures.extend(problems(example, &dispatch).into_iter().map(failure));
    }
    Tried { rule: Arc::clone(rule), failures }
}

/// The rule alone, with its options as they are by default.
fn dispatch_of(id: RuleId, rule: &Arc<HouseRule>) -> Dispatch {
    let values: Vec<_> = rule.options.iter().map(|option| option.default.clone()).collect();
    // With the defaults the rule was made.
    let enabled: Vec<EnabledHouse> = EnabledHouse::new(id, rule, &values).into_iter().collect();
    Dispatch::new(Vec::new()).with_house(&enabled)
}

fn problems(example: &HouseExample, dispatch: &Dispatch) -> Vec<Problem> {
    let text = Text::new(example.code.clone());
    let tree = example.language.parse(&text);
    if let Some(fault) = tree.faults().first() {
        let place = text.place(fault.span.start);
        return vec![Problem::Faults(format!("{}:{}: {}", place.line, place.column, fault.problem))];
    }
    let report = run(&example.path, example.language, &text, &tree, dispatch);
    let place = |offset: u32| {
        let place = text.place(offset);
        format!("{}:{}", place.line, place.column)
    };
    let in_order = |mut offsets: Vec<u32>| {
        offsets.sort_unstable();
        offsets.into_iter().map(place).collect::<Vec<String>>()
    };
    let found = in_order(report.findings.iter().map(|finding| finding.span.start).collect());
    let unsure = in_order(report.unsure.iter().map(|place| place.span.start).collect());
    let mut problems = Vec::new();
    if example.is_wrong && example.at.is_empty() {
        problems.push(Problem::NoPlaces { found });
    } else if example.at != found {
        problems.push(Problem::Places { expected: example.at.clone(), found, unsure });
    }
    if let Some(expected) = &example.fixed {
        problems.extend(fixing_problem(example.language, &text, &report, expected));
    }
    problems
}

/// What is wrong with what the fixes make of an example.
fn fixing_problem(language: Language, text: &Text, report: &Report, expected: &str) -> Option<Problem> {
    let fixes: Vec<&[Edit]> =
        report.findings.iter().filter_map(|finding| finding.fix.as_ref()).map(|fix| fix.edits.as_slice()).collect();
    if fixes.is_empty() {
        return Some(Problem::Fixed { expected: expected.to_string(), found: None });
    }
    let mut edits: Vec<&Edit> = without_conflicts(&fixes).into_iter().flat_map(|index| fixes[index]).collect();
    edits.sort_by_key(|edit| edit.span);
    let fixed = apply_edits(text.source(), &edits);
    let fixed_text = Text::new(fixed.clone());
    let (before, after) = (language.parse(text), language.parse(&fixed_text));
    let whole = |text, tree| Whole::of(language, text, tree);
    if new_faults(&whole(text, &before), &whole(&fixed_text, &after)).is_some() {
        return Some(Problem::BreaksSyntax(fixed));
    }
    (fixed != expected).then(|| Problem::Fixed { expected: expected.to_string(), found: Some(fixed) })
}
