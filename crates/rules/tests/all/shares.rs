//! Threads may share the rules of a file: together the shares say what all rules say, whatever the file holds.

use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_rules::{Dispatch, Enabled, Input, Report, Share, catalogue, run_share_on};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// What a report says, in an order of its own.
fn said(report: Report) -> Vec<String> {
    let findings = report.findings.iter().map(|finding| format!("{finding:?}"));
    let unsure = report.unsure.iter().map(|unsure| format!("{unsure:?}"));
    let windows = report.windows.iter().map(|window| format!("{window:?}"));
    let mut said: Vec<String> = findings.chain(unsure).chain(windows).collect();
    said.sort_unstable();
    said
}

/// The code of all examples of a language, each by itself and all in one.
fn sources(language: Language) -> Vec<String> {
    let examples = catalogue::rules().flat_map(|(_, rule)| rule.examples);
    let own = examples.filter(|examples| examples.language == language);
    let mut sources: Vec<String> = own
        .flat_map(|examples| examples.wrong.iter().map(|wrong| wrong.code).chain(examples.right.iter().copied()))
        .map(str::to_string)
        .collect();
    sources.push(sources.join("\n"));
    sources
}

#[test]
fn shares_say_together_what_all_rules_say() {
    let all = catalogue::rules().map(|(id, facts)| {
        let values = facts.options.iter().map(sieve_rules::OptionFacts::default_value).collect();
        Enabled { rule: id, facts, values }
    });
    let dispatch = Dispatch::new(all.collect());
    let mut compared = 0;
    for language in Language::ALL {
        let path = format!("booking/example.{}", language.spec().extensions[0]);
        for source in sources(*language) {
            let text = Text::new(source);
            let tree = language.parse(&text);
            let names = names_of(*language, &text, &tree);
            let input =
                Input { path: &path, language: *language, text: &text, tree: &tree, names: None, others: &Alone };
            let with_names = Input { names: Some(&names), ..input };
            let whole = run_share_on(&with_names, &dispatch, Share::Whole);
            let mut shared = Report::default();
            for share in Share::ALL {
                let input = if share == Share::Names { &with_names } else { &input };
                shared.add(run_share_on(input, &dispatch, share));
            }
            compared += whole.findings.len();
            assert_eq!(said(shared), said(whole), "{language:?}: {}", text.source());
        }
    }
    assert!(compared > 2000, "only {compared} findings were compared");
}
