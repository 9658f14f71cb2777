//! What holds for every tree, whatever the text.

use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, TokenKind, Tree};

/// Tokens join to the text; ranges nest; roles are those of the table; each solid token belongs to a node.
pub fn assert_sound(tree: &Tree, source: &str) {
    for fault in tree.faults() {
        assert!(source.get(fault.span.range()).is_some(), "a fault within a character: {fault:?} in {source:?}");
    }
    let tokens = tree.tokens();
    assert_eq!(tokens.first().map_or(0, |token| token.start), 0);
    assert!(tokens.windows(2).all(|pair| pair[0].start <= pair[1].start));
    assert_eq!(tokens.last().map(|token| token.kind), Some(TokenKind::EndOfFile));
    assert!(tokens.iter().all(|token| source.is_char_boundary(token.start as usize)));
    let joined: usize = (0..tokens.len() as u32).map(|token| tree.token_span(token).len() as usize).sum();
    assert_eq!(joined, source.len());

    assert_eq!(tree.root().token_range(), 0..tokens.len() as u32);
    for node in tree.nodes() {
        let Some(parent) = node.parent() else { continue };
        assert!(parent.id() < node.id() && node.end() <= parent.end(), "{node:?} in {parent:?}");
        let (inner, outer) = (node.token_range(), parent.token_range());
        assert!(outer.start <= inner.start && inner.end <= outer.end, "{node:?} in {parent:?}: {inner:?} {outer:?}");
        if let Some(next) = node.next_sibling() {
            assert!(inner.end <= next.token_range().start, "{node:?} overlaps {next:?}");
        }
    }
    if tree.faults().is_empty() {
        assert_roles(tree);
    }
}

/// Each part has a role that its node has; what is not understood holds whatever was begun in it.
pub fn assert_roles(tree: &Tree) {
    for node in tree.nodes() {
        let Some(parent) = node.parent().filter(|parent| parent.kind() != Kind::Error) else { continue };
        let role = node.role();
        assert!(parent.kind().roles().contains(&role), "{node:?} has the role {role} in {parent:?}");
    }
}

/// The table of kinds says which languages have one.
pub fn assert_kinds(language: Language, tree: &Tree) {
    for node in tree.nodes() {
        assert!(language.produces(node.kind()), "{} is said not to have a {}", language.name(), node.kind());
    }
}

/// What a node is made of: kinds, with those of their parts in parentheses.
pub fn shape(node: NodeRef<'_>) -> String {
    let children: Vec<String> = node.children().map(shape).collect();
    if children.is_empty() {
        node.kind().name().into()
    } else {
        format!("{}({})", node.kind().name(), children.join(" "))
    }
}

/// The smallest node that covers a stretch, found by going through all children: what [`Tree::covering`] must find faster.
fn covering_by_search(tree: &Tree, span: sieve_syntax::text::Span) -> NodeRef<'_> {
    let mut found = tree.root();
    while let Some(inner) = found.children().find(|child| !child.span().is_empty() && child.span().contains(span)) {
        found = inner;
    }
    found
}

#[test]
fn covering_nodes_are_those_that_a_search_finds() {
    use sieve_syntax::language::Language;
    use sieve_syntax::text::{Span, Text};
    let samples = [
        (
            Language::Python,
            "import os\n\n\ndef f(a, b=[1, 2], *c):\n    if a: return b[0]\n    x = y = f'{a}b'\n\n\n# end\n",
        ),
        (Language::Python, "def broken(:\n  x = (1,\n"),
        (Language::Tsx, "const a = <b c={1}>d {e} </b>;\nfor (;;) {}\nclass X<T> { #y = z?.w; }\n"),
        (Language::Shell, "#!/bin/sh\nif a; then b \"$c\" | d; fi\ncat <<E\n$x\nE\n"),
    ];
    for (language, source) in samples {
        let tree = language.parse(&Text::new(source.to_string()));
        let length = source.len() as u32;
        for start in 0..=length {
            for end in start..=length.min(start + 12) {
                let span = Span::new(start, end);
                assert_eq!(tree.covering(span), covering_by_search(&tree, span), "{span:?} in {source:?}");
            }
        }
    }
}
