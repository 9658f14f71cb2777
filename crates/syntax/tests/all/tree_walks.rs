//! Ways through a tree against their definitions, over samples of every language, whole and broken.

use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{NodeRef, Role, TokenId, Tree};

use crate::random::Random;

const SAMPLES: &[(Language, &str)] = &[
    (
        Language::Python,
        "import os\n\n\n@fare\nclass Quay(Berth):\n    depth: int = 3\n\n    def moor(self, *boats, late=False):\n        for boat in boats:\n            if boat and not late:\n                yield f'{boat!r:>3}', [x for x in boat if x]\n        return self.depth ** 2\n",
    ),
    (
        Language::JavaScript,
        "import { low } from './tides';\nexport class Quay extends Berth {\n  #depth = 3;\n  moor(boat, ...rest) {\n    const { name = 'Tern', ...more } = boat ?? {};\n    for (const one of rest) if (one?.late) continue;\n    return `${name} ${more}` + /a[b]c/g;\n  }\n}\n",
    ),
    (
        Language::TypeScript,
        "type Tide<T> = T extends string ? 'low' : { [K in keyof T]?: T[K] };\nexport function moor<T extends object>(boat: T, day?: Date): asserts boat is T {\n  return (boat as unknown) satisfies T;\n}\nenum Depth { Low = 1, High }\n",
    ),
    (
        Language::Tsx,
        "const board = (quays: Quay[]) => <ul className=\"board\">{quays.map((one) => <li key={one.id}>{one.name}</li>)}</ul>;\n",
    ),
    (
        Language::Shell,
        "#!/bin/bash\nmoor() {\n  local boat=${1:-Tern}\n  if [[ $boat == T* ]]; then echo \"$(date) $boat\" | tee -a log; fi\n}\nfor quay in north south; do moor \"$quay\"; done\ncat <<end\n$quay\nend\n",
    ),
];

/// Each sample whole, and with some of its text cut out.
fn trees() -> Vec<(String, Tree)> {
    let mut random = Random::new(3);
    let mut trees = Vec::new();
    for (language, source) in SAMPLES {
        let mut versions = vec![(*source).to_string()];
        for _ in 0..12 {
            let starts: Vec<usize> = source.char_indices().map(|(at, _)| at).collect();
            let from = starts[random.below(starts.len())];
            let length = 1 + random.below(6);
            versions.push(
                source
                    .chars()
                    .enumerate()
                    .filter(|(at, _)| *at < from || *at >= from + length)
                    .map(|(_, c)| c)
                    .collect(),
            );
        }
        trees.extend(versions.into_iter().map(|source| {
            let tree = language.parse(&Text::new(source.clone()));
            (source, tree)
        }));
    }
    trees
}

/// Asserts something of each node.
fn each_node(assert: impl Fn(&str, &Tree, NodeRef<'_>)) {
    for (source, tree) in trees() {
        assert!(tree.nodes().len() > 5, "{source}");
        for node in tree.nodes() {
            assert(&source, &tree, node);
        }
    }
}

#[test]
fn children_are_the_nodes_whose_parent_one_is() {
    each_node(|source, tree, node| {
        let expected: Vec<_> = tree.nodes().filter(|other| other.parent() == Some(node)).collect();
        assert_eq!(node.children().collect::<Vec<_>>(), expected, "{node:?} in {source}");
    });
}

#[test]
fn descendants_are_the_nodes_with_one_among_their_ancestors() {
    each_node(|source, tree, node| {
        let expected: Vec<_> = tree.nodes().filter(|other| other.ancestors().any(|above| above == node)).collect();
        assert_eq!(node.descendants().collect::<Vec<_>>(), expected, "{node:?} in {source}");
        let mut backwards: Vec<_> = node.descendants().rev().collect();
        backwards.reverse();
        assert_eq!(backwards, expected);
        assert!(expected.iter().all(|inner| node.holds(inner.id())) && node.holds(node.id()));
        assert!(tree.nodes().filter(|other| node.holds(other.id())).count() == expected.len() + 1);
    });
}

#[test]
fn siblings_are_neighbours_among_the_children_of_one() {
    each_node(|source, _, node| {
        let Some(parent) = node.parent() else {
            assert!(node.next_sibling().is_none() && node.previous_sibling().is_none());
            return;
        };
        let all: Vec<_> = parent.children().collect();
        let place = all.iter().position(|one| *one == node).expect("a child of its parent");
        assert_eq!(node.next_sibling(), all.get(place + 1).copied(), "{node:?} in {source}");
        assert_eq!(node.previous_sibling(), place.checked_sub(1).map(|before| all[before]), "{node:?} in {source}");
    });
}

#[test]
fn children_by_role_are_those_in_it() {
    let roles = [Role::Name, Role::Body, Role::Value, Role::Argument, Role::Statement, Role::Condition, Role::Target];
    each_node(|_, _, node| {
        for role in roles {
            let expected: Vec<_> = node.children().filter(|child| child.role() == role).collect();
            assert_eq!(node.children_in(role).collect::<Vec<_>>(), expected);
            assert_eq!(node.child(role), expected.first().copied());
        }
    });
}

#[test]
fn children_at_the_ends_are_those_that_all_children_show() {
    let roles = [Role::Name, Role::Body, Role::Value, Role::Module, Role::Target, Role::Parameter];
    each_node(|source, _, node| {
        let all: Vec<_> = node.children().collect();
        assert_eq!(node.last_child(), all.last().copied(), "{node:?} in {source}");
        let ends = || all.iter().take(2).chain(all.iter().rev().take(3));
        for role in roles {
            let expected = ends().find(|child| child.role() == role).copied();
            assert_eq!(node.child_at_end(role), expected, "{node:?} in {source}");
            assert_eq!(node.child_of(node.kind(), role), node.child(role), "{node:?} in {source}");
            let other = node.parent().map(NodeRef::kind).filter(|kind| *kind != node.kind());
            assert_eq!(other.and_then(|kind| node.child_of(kind, role)), None, "{node:?} in {source}");
        }
    });
}

#[test]
fn levels_pair_each_node_with_the_one_around_it() {
    each_node(|source, _, node| {
        let levels: Vec<_> = node.levels().collect();
        assert_eq!(levels.len(), node.ancestors().count(), "{node:?} in {source}");
        assert!(levels.iter().all(|(inner, around)| inner.parent() == Some(*around)), "{node:?} in {source}");
        assert!(levels.first().is_none_or(|(inner, _)| *inner == node), "{node:?} in {source}");
        let function = node.ancestors().find(|around| around.kind().name() == "function");
        assert_eq!(node.function_around(), function, "{node:?} in {source}");
    });
}

#[test]
fn a_node_begins_and_ends_with_tokens_that_mean_something() {
    each_node(|source, tree, node| {
        let range = node.token_range();
        assert!(range.start <= range.end);
        if node.parent().is_none() || range.is_empty() {
            return;
        }
        let span = node.span();
        assert_eq!(span.start, tree.token_start(range.start), "{node:?} in {source}");
        assert_eq!(span.end, tree.token_span(range.end - 1).end, "{node:?} in {source}");
        let solid: Vec<TokenId> = node.significant_tokens().map(|(token, _)| token).collect();
        let expected: Vec<TokenId> = range.filter(|token| !tree.token_kind(*token).is_trivia()).collect();
        assert_eq!(solid, expected, "{node:?} in {source}");
        assert_eq!(node.first_token_kind(), tree.token_kind(node.token_range().start));
    });
}

#[test]
fn tokens_are_found_by_offset_and_by_stretch() {
    for (source, tree) in trees() {
        let count = tree.tokens().len() as TokenId;
        for offset in (0..source.len() as u32).filter(|offset| source.is_char_boundary(*offset as usize)) {
            let holds = |token: &TokenId| {
                let span = tree.token_span(*token);
                span.start <= offset && offset < span.end
            };
            let expected = (0..count).find(holds).expect("every byte belongs to a token");
            assert_eq!(tree.token_at(offset), expected, "{offset} in {source}");
            let from = (0..count).find(|token| tree.token_start(*token) >= offset).unwrap_or(count);
            assert_eq!(tree.token_from(offset), from, "{offset} in {source}");
        }
        for node in tree.nodes().filter(|node| !node.span().is_empty()) {
            let inside = tree.tokens_in(node.span());
            let span = Span::new(tree.token_start(inside.start), tree.token_span(inside.end - 1).end);
            assert_eq!(span, node.span(), "{node:?} in {source}");
        }
    }
}

#[test]
fn the_class_around_is_the_nearest_one() {
    each_node(|source, _, node| {
        let nearest = node.ancestors().find(|around| matches!(around.kind().name(), "class" | "class-expression"));
        if let Some(found) = node.class_around() {
            assert_eq!(Some(found), nearest, "{node:?} in {source}");
        }
    });
}

/// The range of every node, and the empty one past the last token.
#[test]
fn tokens_come_with_the_kinds_and_stretches_that_each_has() {
    each_node(|source, tree, node| {
        let count = tree.tokens().len() as TokenId;
        for range in [node.token_range(), count..count] {
            let one_by_one: Vec<_> =
                range.clone().map(|token| (token, tree.token_kind(token), tree.token_span(token))).collect();
            let at_once: Vec<_> = tree.tokens_with_spans(range).collect();
            assert_eq!(at_once, one_by_one, "{node:?} in {source}");
        }
    });
}
