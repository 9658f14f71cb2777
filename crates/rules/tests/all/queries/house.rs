//! Promises of house rules, for queries at random.

use std::sync::Arc;

use proptest::prelude::*;
use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_rules::house::{Definition, EnabledHouse, HouseRule};
use sieve_rules::query::Query;
use sieve_rules::{Dispatch, Input, RuleId, run_on};
use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};

use crate::queries::random::{CODE, term};

fn rule(find: &str, language: Language) -> Option<Arc<HouseRule>> {
    let definition =
        Definition { find: find.into(), message: "{text}".into(), ..Definition::named("ferry:any", vec![language]) };
    HouseRule::new(definition).ok().map(Arc::new)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// Rules look only where their words are; that makes no difference to what they find, alone or among others.
    #[test]
    fn a_rule_reports_what_its_query_matches(sources in proptest::collection::vec(term(), 1..5)) {
        let python = Language::named("python").expect("a language");
        let rules: Vec<_> = sources.iter().filter_map(|source| Some((source, rule(source, python)?))).collect();
        let id = |index: usize| RuleId(1000 + index as u16);
        let enabled = rules.iter().enumerate().map(|(index, (_, rule))| EnabledHouse::new(id(index), rule, &[]));
        let enabled: Vec<EnabledHouse> = enabled.collect::<Result<_, _>>().expect("right queries");
        let dispatch = Dispatch::new(Vec::new()).with_house(&enabled);
        for code in CODE {
            let text = Text::new((*code).to_string());
            let tree = python.parse(&text);
            let names = names_of(python, &text, &tree);
            let input =
                Input { path: "a.py", language: python, text: &text, tree: &tree, names: Some(&names), others: &Alone };
            let report = run_on(&input, &dispatch);
            for (index, (source, _)) in rules.iter().enumerate() {
                let query = Query::new(source, &[python]).expect("a right query");
                let matches = query.matches(&input);
                let span = |node: &sieve_syntax::tree::NodeId| tree.node(*node).span();
                let expected: Vec<Span> = matches.found.iter().map(span).collect();
                let found = report.findings.iter().filter(|finding| finding.rule == id(index));
                prop_assert_eq!(found.map(|finding| finding.span).collect::<Vec<_>>(), expected, "{}", source);
                let unsure = report.unsure.iter().filter(|place| place.rule == id(index)).count();
                prop_assert_eq!(unsure, matches.unsure.len(), "{}", source);
            }
        }
    }
}
