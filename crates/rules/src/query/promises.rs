//! What holds for every query: random ones are asked of real code.

use proptest::prelude::*;
use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Kind;

use super::{Matches, Query};
use crate::input::Input;

const CODE: &[&str] = &[
    "import os\nfrom tides import *\n\n\ndef sail(boat, quay=1):\n    if boat.late:\n        return moor(quay, low(boat))\n    moor(boat)\n    print('tide', 3)\n    a, b, a = boat\n",
    "class Quay(Pier, key=1):\n    depth = 3\n\n    def sail(self, boat):\n        for one in boat:\n            try:\n                self.moor(one, 'x')\n            except Error:\n                pass\n        return [lambda x: moor(x, boat)]\n",
    "print(print(1, 2), moor(moor(boat)))\nx = f(x)\nif x:\n    import tides\nelse:\n    moor(3)\n",
];

const KINDS: &[&str] =
    &["any", "call", "function", "name", "block", "import", "string", "if", "class", "arguments", "assignment"];
const PATHS: &[&str] = &[
    "name",
    "callee",
    "argument",
    "body",
    "text",
    "target",
    "value",
    "argument.2",
    "argument.1.kind",
    "callee.name",
    "argument.value",
    "lines",
    "depth",
];
const TESTS: &[&str] = &[
    "is \"moor\"",
    "is \"boat\"",
    "in [\"x\", \"print\"]",
    "matches /^[a-m]/",
    "starts \"b\"",
    "ends \"t\"",
    "like \"m*\"",
    "> 1",
    "= 3",
    "exists",
    "refers \"print\"",
    "refers \"tides.low\"",
];
const WAYS: &[&str] = &["inside", "holding", "directly inside", "directly holding", "after", "before"];

fn pick(words: &'static [&'static str]) -> impl Strategy<Value = String> {
    proptest::sample::select(words).prop_map(str::to_string)
}

fn not() -> impl Strategy<Value = &'static str> {
    prop_oneof![3 => Just(""), 1 => Just("not ")]
}

/// A term of the grammar, as text.
fn term() -> impl Strategy<Value = String> {
    let test = (not(), pick(PATHS), pick(TESTS)).prop_filter_map("a test of a path", |(not, path, test)| {
        let is_attribute = matches!(path.as_str(), "text" | "value" | "lines" | "depth");
        (!(is_attribute && test.starts_with("refers"))).then(|| format!("{not}{path} {test}"))
    });
    let function =
        (not(), prop_oneof![Just("count"), Just("repeated"), Just("lines"), Just("complexity")], pick(PATHS))
            .prop_map(|(not, function, path)| format!("{not}{function}({path}) > 1"));
    let leaf = (pick(KINDS), proptest::collection::vec(prop_oneof![4 => test, 1 => function], 0..3))
        .prop_map(|(kind, tests)| if tests.is_empty() { kind } else { format!("{kind} {{ {} }}", tests.join(", ")) });
    leaf.prop_recursive(3, 12, 3, |inner| {
        let related = (inner.clone(), not(), pick(WAYS), inner.clone())
            .prop_map(|(one, not, way, other)| format!("({one} {not}{way} {other})"));
        let either = (inner.clone(), inner.clone()).prop_map(|(one, other)| format!("({one} or {other})"));
        let within = (pick(KINDS), not(), pick(PATHS), pick(WAYS), inner.clone())
            .prop_map(|(kind, not, path, way, other)| format!("{kind} {{ {not}{path} {way} {other} }}"));
        let same = (pick(KINDS), pick(PATHS), pick(PATHS))
            .prop_map(|(kind, one, other)| format!("{kind} {{ {one} as x, {other} same x }}"));
        prop_oneof![related, either, within, same]
    })
}

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
