//! What each rule costs on plain code, counted and not timed: steps over the tree, and allocations. A rule that looks further than it
//! must, or prepares what it will not say, goes over its budget.

use std::alloc::System;
use std::path::Path;

use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_rules::{Check, Dispatch, Enabled, Input, Rule, RuleId, TeamPolicy, catalogue, run_on};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::steps;
use stats_alloc::{INSTRUMENTED_SYSTEM, Region, StatsAlloc};

#[global_allocator]
static ALLOCATOR: &StatsAlloc<System> = &INSTRUMENTED_SYSTEM;

/// The allocations that a finding takes with its message, advice and edits.
const FOR_FINDING: f64 = 16.0;

/// The most steps for each byte of source, and the most allocations for each 1000 bytes, besides those for what is found. What is
/// shared, such as the graphs of flow and the scan of the whitespace, is each rule's here, for it runs alone.
fn budget(facts: &Rule) -> (f64, f64) {
    match (facts.check, facts.name) {
        (Check::Spacing(_), _) => (1.6, 0.5),
        (Check::Flows(_), _) => (1.8, 36.0),
        (Check::Calls(_), _) => (0.9, 10.0),
        (Check::Copies(_), _) => (0.6, 0.5),
        // They look at each word of a command, and at each statement of a function.
        (_, "unquoted-expansion" | "format-from-variable") => (2.4, 40.0),
        // They ask where each member and each callee comes from.
        (_, "missing-member") => (0.35, 20.0),
        (_, "ignored-result" | "variable-slip" | "repeated-definition") => (0.7, 4.5),
        (_, "unquoted-arguments" | "branch-count" | "many-returns") => (0.6, 0.5),
        // They know the variables of a script by all that happens to them.
        (_, "variable-name" | "constant-name") => (0.75, 3.0),
        (_, "import-order") => (0.2, 10.0),
        _ => (0.35, 4.5),
    }
}

/// The sources of the demo in a language, many times over.
fn sample(language: Language) -> Text {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    let mut files: Vec<_> = ["booking", "ops", "web/src", "tools"]
        .iter()
        .flat_map(|folder| std::fs::read_dir(demo.join(folder)).expect("a folder of the demo"))
        .map(|entry| entry.expect("an entry").path())
        .filter(|path| path.extension().and_then(|ending| Language::of_extension(ending.to_str()?)) == Some(language))
        .collect();
    files.sort();
    let all: String = files.iter().map(|path| std::fs::read_to_string(path).expect("a source")).collect();
    assert!(!all.is_empty(), "the demo has no {}", language.name());
    Text::new(all.repeat(40_000 / all.len() + 1))
}

/// Steps of one run of some rules, and its allocations besides those for findings.
fn counted(input: &Input<'_>, rules: &[RuleId]) -> [f64; 2] {
    let enabled = rules.iter().map(|rule| {
        let facts = catalogue::rule(*rule);
        let values = facts.options.iter().map(|option| option.default_value()).collect();
        Enabled { rule: *rule, facts, values }
    });
    let dispatch = Dispatch::new(enabled.collect()).with_policy(TeamPolicy::default());
    // What is made once for all files is not the rule's.
    run_on(input, &dispatch);
    let region = Region::new(ALLOCATOR);
    let before = steps::taken();
    let report = run_on(input, &dispatch);
    let taken = (steps::taken() - before) as f64;
    let change = region.change();
    let for_findings = (report.findings.len() + report.unsure.len()) as f64 * FOR_FINDING;
    [taken, ((change.allocations + change.reallocations) as f64 - for_findings).max(0.0)]
}

#[test]
fn no_rule_costs_more_than_its_budget() {
    let mut over = Vec::new();
    for language in [Language::Python, Language::TypeScript, Language::Shell] {
        let text = sample(language);
        let tree = language.parse(&text);
        let names = names_of(language, &text, &tree);
        let path = "quays/board";
        let input = Input { path, language, text: &text, tree: &tree, names: Some(&names), others: &Alone };
        let bytes = text.source().len() as f64;
        let nothing = counted(&input, &[]);
        for (rule, facts) in catalogue::rules().filter(|(_, facts)| facts.languages.contains(&language)) {
            let cost = counted(&input, &[rule]);
            let steps = (cost[0] - nothing[0]) / bytes;
            let allocations = (cost[1] - nothing[1]) / bytes * 1000.0;
            let (most_steps, most_allocations) = budget(facts);
            if steps > most_steps || allocations > most_allocations {
                over.push(format!(
                    "{} {}: {steps:.2} steps, {allocations:.1} allocations",
                    language.name(),
                    facts.name
                ));
            }
        }
    }
    assert!(over.is_empty(), "more than the budget for each byte, or each 1000 of them:\n{}", over.join("\n"));
}
