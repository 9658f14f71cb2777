//! What holds for every query: random ones are asked of real code.

use proptest::prelude::*;
use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Kind;

use super::{Matches, Query};
use crate::input::Input;

#[path = "../../tests/all/queries/random.rs"]
mod random;

use random::{CODE, KINDS, PATHS, TESTS, pick, term};

fn python() -> Language {
    Language::named("python").expect("a language")
}

/// What a query matches in each of the texts; nothing for one that could never match.
fn asked(source: &str, change: fn(&mut Query)) -> Option<Vec<Matches>> {
    let mut query = Query::new(source, &[python()]).ok()?;
    change(&mut query);
    let of = |code: &&str| {
        let text = Text::new((*code).to_string());
        let tree = python().parse(&text);
        let names = names_of(python(), &text, &tree);
        query.matches(&Input {
            path: "a.py",
            language: python(),
            text: &text,
            tree: &tree,
            names: Some(&names),
            others: &Alone,
        })
    };
    Some(CODE.iter().map(of).collect())
}

/// How many nodes of a kind there are in each of the texts.
fn nodes_of(kind: &str) -> Vec<usize> {
    let count = |code: &&str| {
        let tree = python().parse(&Text::new((*code).to_string()));
        tree.nodes().filter(|node| kind == "any" || Some(node.kind()) == Kind::named(kind)).count()
    };
    CODE.iter().map(count).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    #[test]
    fn no_text_makes_a_query_panic(source in "(call|[{}(),.a-z \"/$=<>0-9-]|inside|holding|not|as|é){0,40}") {
        drop(Query::new(&source, Language::ALL));
    }

    #[test]
    fn a_printed_query_is_the_same(source in term()) {
        if let Ok(query) = Query::new(&source, &[python()]) {
            let printed = query.to_string();
            prop_assert_eq!(Query::new(&printed, &[python()]).expect("it is right").to_string(), printed.as_str());
            prop_assert_eq!(asked(&source, |_| {}), asked(&printed, |_| {}));
        }
    }

    #[test]
    fn what_is_looked_up_is_what_each_node_says(source in term()) {
        let found = asked(&source, |_| {});
        let naive = asked(&source, |query| query.plan.terms.iter_mut().for_each(|term| term.is_free = false));
        prop_assert_eq!(found, naive, "{}", source);
    }

    #[test]
    fn not_is_the_rest_of_the_kind(kind in pick(KINDS), path in pick(PATHS), test in pick(TESTS)) {
        let with = asked(&format!("{kind} {{ {path} {test} }}"), |_| {});
        let without = asked(&format!("{kind} {{ not {path} {test} }}"), |_| {});
        if let (Some(with), Some(without)) = (with, without) {
            for ((with, without), all) in with.iter().zip(&without).zip(nodes_of(&kind)) {
                prop_assert_eq!(&with.unsure, &without.unsure);
                prop_assert!(with.found.iter().all(|node| !without.found.contains(node)));
                prop_assert_eq!(with.found.len() + without.found.len() + with.unsure.len(), all);
            }
        }
    }
}
