//! What makes a finding the same in another version of the code.

use sieve_rules::Finding;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, Role, TokenId, TokenKind, Tree};
use xxhash_rust::xxh3::xxh3_64;

use crate::outcome::Identity;

/// Longer code is told by its beginning and a hash of the whole.
const LONGEST_CODE: usize = 120;

/// What makes a finding of this text the same one later.
pub(crate) fn identity_of(text: &Text, tree: &Tree, finding: &Finding) -> Identity {
    Identity { within: names_around(text, tree, finding.span), code: shortened(code(text, tree, finding)) }
}

fn names_around(text: &Text, tree: &Tree, span: Span) -> String {
    let innermost = tree.covering(Span::at(span.start));
    let mut names: Vec<&str> = std::iter::once(innermost)
        .chain(innermost.ancestors())
        .filter(|node| matches!(node.kind(), Kind::Function | Kind::Class))
        .filter_map(|node| node.child(Role::Name))
        .filter(|name| !name.span().contains(span))
        .map(|name| text.slice(name.span()))
        .collect();
    names.reverse();
    names.join(".")
}

/// The flagged tokens, joined by blanks. Where the place holds no token of the program, those of its line.
fn code(text: &Text, tree: &Tree, finding: &Finding) -> String {
    if let Some(anchor) = finding.anchor {
        return joined(text, tree, anchor);
    }
    let flagged = joined(text, tree, finding.span);
    if !flagged.is_empty() {
        return flagged;
    }
    let lines = text.lines();
    joined(text, tree, lines.line(text.source(), lines.line_of(finding.span.start)))
}

fn joined(text: &Text, tree: &Tree, span: Span) -> String {
    if span.is_empty() {
        return String::new();
    }
    let tokens = tree.tokens_in(span);
    let solid: Vec<TokenId> = tokens.clone().filter(|token| is_solid(tree.token_kind(*token))).collect();
    // Only where nothing else stands there does a comment count.
    let chosen = if solid.is_empty() {
        tokens.filter(|token| tree.token_kind(*token) == TokenKind::Comment).collect()
    } else {
        solid
    };
    let words = chosen.iter().flat_map(|token| text.slice(tree.token_span(*token)).split_whitespace());
    words.collect::<Vec<&str>>().join(" ")
}

fn is_solid(kind: TokenKind) -> bool {
    !kind.is_trivia() && !kind.is_layout()
}

fn shortened(code: String) -> String {
    if code.len() <= LONGEST_CODE {
        return code;
    }
    let start: String = code.chars().take(LONGEST_CODE / 2).collect();
    format!("{start}… {:016x}", xxh3_64(code.as_bytes()))
}
