//! Examples of rules made large in one or two ways: a part that may be there many times is there many times, with names of its own each
//! time. So attacks are looked for that nobody thought of.

use sieve_rules::catalogue;
use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{NodeRef, TokenId, TokenKind, Tree};

use crate::bench::Bench;
use crate::{MOST, alone, with_all_rules, work_at};

/// One of so many parts, and of so many pairs of them, is made large: all take minutes, and what one rule does wrong with one part it
/// mostly does with others. Whoever runs the tests may want others, or all.
fn one_of() -> usize {
    std::env::var("AMPLIFY_ONE_OF").map_or(9, |one_of| one_of.parse().expect("a number"))
}

/// How often a part is there: few times, to see what may grow too fast, and often, where what is bounded no longer grows.
const TIMES: [[usize; 2]; 2] = [[40, 160], [320, 1280]];

#[cfg(debug_assertions)]
#[test]
fn examples_made_large_cost_what_they_are_long() {
    let _alone = alone();
    let bench = with_all_rules();
    let (one_of, mut chosen, mut wrong) = (one_of(), 0, Vec::new());
    for (rule, language, code) in examples() {
        let example = Example::new(language, code);
        let parts = example.parts();
        let pairs = parts.iter().zip(parts.iter().skip(parts.len() / 2)).filter(|(one, other)| one.end <= other.start);
        let alone = parts.iter().map(|part| vec![*part]);
        for set in alone.chain(pairs.map(|(one, other)| vec![*one, *other])) {
            chosen += 1;
            if chosen % one_of == 0 && TIMES.iter().all(|times| grows_too_fast(&bench, &example, &set, *times)) {
                let units: Vec<&str> = set.iter().map(|part| &code[part.range()]).collect();
                wrong.push(format!("{rule}: {units:?} of {code:?}"));
            }
        }
    }
    assert!(chosen > 10_000, "{chosen} ways");
    assert!(wrong.is_empty(), "these grow faster than the source:\n{}", wrong.join("\n"));
}

/// All examples of all rules.
fn examples() -> impl Iterator<Item = (&'static str, Language, &'static str)> {
    let of_rules = catalogue::rules().flat_map(|(_, rule)| rule.examples.iter().map(|examples| (rule.name, examples)));
    of_rules.filter(|(_, examples)| Language::ALL.contains(&examples.language)).flat_map(|(name, examples)| {
        let wrong = examples.wrong.iter().map(|wrong| wrong.code);
        wrong.chain(examples.right.iter().copied()).map(move |code| (name, examples.language, code))
    })
}

/// Whether steps or bytes grow much faster than the source between two sizes.
fn grows_too_fast(bench: &Bench, example: &Example, parts: &[Span], [few, many]: [usize; 2]) -> bool {
    let work = |times: usize| work_at(bench, example.language, example.amplified(parts, times));
    let (small, large) = (work(few), work(many));
    let ratios = small.iter().flatten().zip(large.iter().flatten()).map(|(small, large)| *large as f64 / *small as f64);
    ratios.into_iter().any(|ratio| ratio > MOST)
}

struct Example {
    language: Language,
    text: Text,
    tree: Tree,
}

impl Example {
    fn new(language: Language, code: &str) -> Example {
        let text = Text::new(code.to_string());
        let tree = language.parse(&text);
        Example { language, text, tree }
    }

    /// The parts that may be there many times: each node with what is between it and the next one, and each line.
    fn parts(&self) -> Vec<Span> {
        let to_next = |node: NodeRef| Some(Span::new(node.span().start, node.next_sibling()?.span().start));
        let lines = self.text.lines();
        let count = lines.line_of(self.text.source().len() as u32);
        let mut parts: Vec<Span> = self.tree.nodes().filter_map(to_next).collect();
        parts.extend((1..=count).map(|line| lines.full_line(line)));
        parts.retain(|part| !part.is_empty());
        parts.sort_by_key(|part| (part.start, part.end));
        parts.dedup();
        parts
    }

    /// The source with more copies of some parts before them, whose names differ by numbers.
    fn amplified(&self, parts: &[Span], times: usize) -> String {
        let source = self.text.source();
        let tokens = self.tree.tokens_with_spans(0..self.tree.tokens().len() as TokenId);
        let names: Vec<Span> =
            tokens.filter(|(_, kind, _)| *kind == TokenKind::Name).map(|(_, _, span)| span).collect();
        let mut made = String::new();
        let mut copied = 0;
        for part in parts {
            made.push_str(&source[copied..part.start as usize]);
            copied = part.start as usize;
            let ends: Vec<usize> =
                names.iter().filter(|name| part.contains(**name)).map(|name| name.end as usize).collect();
            for copy in 0..times {
                let mut from = part.start as usize;
                for end in &ends {
                    made.push_str(&source[from..*end]);
                    made.push_str(&copy.to_string());
                    from = *end;
                }
                made.push_str(&source[from..part.end as usize]);
            }
        }
        made + &source[copied..]
    }
}

#[test]
fn parts_are_repeated_with_names_of_their_own() {
    let _alone = alone();
    let example = Example::new(Language::Python, "moor(quay, 3)\n");
    let written = |span: &Span| &example.text.source()[span.range()];
    assert_eq!(example.parts().iter().map(written).collect::<Vec<_>>(), ["moor", "moor(quay, 3)\n", "quay, "]);
    let quay = example.parts()[2];
    assert_eq!(example.amplified(&[quay], 2), "moor(quay0, quay1, quay, 3)\n");
}
