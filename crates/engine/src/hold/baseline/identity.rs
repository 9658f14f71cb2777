//! What makes a finding the same in another version of the code.

use sieve_rules::Finding;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, Role, TokenId, TokenKind, Tree};
use xxhash_rust::xxh3::xxh3_64;

use crate::outcome::Identity;

/// Longer code is recorded by its beginning and a hash of the whole.
const LONGEST_CODE: usize = 120;

/// What makes a finding of this text the same one later.
pub(crate) fn identity_of(text: &Text, tree: &Tree, finding: &Finding) -> Identity {
    Identity { within: names_around(text, tree, finding.span), code: shortened(code(text, tree, finding)) }
}

/// The named things in a file, functions and classes, each with those around it.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Scopes {
    hashes: Vec<u64>,
}

impl Scopes {
    /// The named things in a tree. Takes time for its nodes.
    pub(crate) fn of(text: &Text, tree: &Tree) -> Scopes {
        let mut hashes = Vec::new();
        // What is open, outermost first: where it ends, and its whole name.
        let mut open: Vec<(u32, String)> = Vec::new();
        for node in tree.nodes().filter(|node| is_named_thing(node.kind())) {
            let Some(name) = node.child(Role::Name) else { continue };
            while open.last().is_some_and(|(end, _)| *end <= node.span().start) {
                open.pop();
            }
            let name = text.slice(name.span());
            let whole = open.last().map_or(name.to_string(), |(_, outer)| format!("{outer}.{name}"));
            hashes.push(xxh3_64(whole.as_bytes()));
            // Names as deep as that are distinguished by their hash alone: nothing grows with the depth.
            let kept = if whole.len() > LONGEST_NAME { format!("{:016x}", xxh3_64(whole.as_bytes())) } else { whole };
            open.push((node.span().end, kept));
        }
        hashes.sort_unstable();
        hashes.dedup();
        Scopes { hashes }
    }

    pub(crate) fn from_hashes(hashes: Vec<u64>) -> Scopes {
        Scopes { hashes }
    }

    pub(crate) fn hashes(&self) -> &[u64] {
        &self.hashes
    }

    /// Whether the surroundings of a finding are in the file; a finding outside of all named things has the file itself.
    pub fn hold(&self, within: &str) -> bool {
        within.is_empty()
            || within.len() > LONGEST_NAME
            || self.hashes.binary_search(&xxh3_64(within.as_bytes())).is_ok()
    }
}

/// Longer surroundings are never said to be gone.
const LONGEST_NAME: usize = 1000;

fn is_named_thing(kind: Kind) -> bool {
    matches!(kind, Kind::Function | Kind::Class)
}

fn names_around(text: &Text, tree: &Tree, span: Span) -> String {
    let innermost = tree.covering(Span::at(span.start));
    let mut names: Vec<&str> = std::iter::once(innermost)
        .chain(innermost.ancestors())
        .filter(|node| is_named_thing(node.kind()))
        .filter_map(|node| node.child(Role::Name))
        .filter(|name| !name.span().contains(span))
        .map(|name| text.slice(name.span()))
        .collect();
    names.reverse();
    names.join(".")
}

/// The flagged tokens, joined by whitespace. Where the place holds no token of the program, those of its line.
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
    // Only where nothing else is there does a comment count.
    let chosen = if solid.is_empty() {
        tokens.filter(|token| tree.token_kind(*token) == TokenKind::Comment).collect()
    } else {
        solid
    };
    let mut joined = String::new();
    let mut add = |word: &str| {
        if !joined.is_empty() {
            joined.push(' ');
        }
        joined.push_str(word);
    };
    for token in chosen {
        let word = text.slice(tree.token_span(token));
        // Most tokens are one word.
        let is_word = || word.bytes().all(|byte| byte.is_ascii_graphic());
        if !word.is_empty() && (tree.token_kind(token) == TokenKind::Name || is_word()) {
            add(word);
        } else {
            word.split_whitespace().for_each(&mut add);
        }
    }
    joined
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
