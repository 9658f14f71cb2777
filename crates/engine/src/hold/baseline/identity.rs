//! What makes a finding the same in another version of the code.

use std::cell::{Cell, OnceCell, RefCell};
use std::ops::Range;

use rustc_hash::FxHashMap;
use sieve_rules::Finding;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenId, TokenKind, Tree};
use xxhash_rust::xxh3::xxh3_64;

use crate::outcome::Identity;

/// Longer code is recorded by its beginning and a hash of the whole.
const LONGEST_CODE: usize = 120;

/// What makes findings of a text the same ones later.
#[derive(Debug)]
pub(crate) struct Identities<'t> {
    text: &'t Text,
    tree: &'t Tree,
    /// The named things of the file, once there is a finding.
    things: OnceCell<NamedThings>,
    /// The words of all tokens of the program, once findings have flagged half as many tokens as there are: what is flagged may be most
    /// of a file many times over.
    words: OnceCell<Words>,
    /// How many tokens have been looked at one by one.
    looked_at: Cell<usize>,
    /// The tokens that were looked at last, with what they are recorded as: a comment may have findings in each of its many lines.
    last: RefCell<(Range<TokenId>, String)>,
}

impl<'t> Identities<'t> {
    pub(crate) fn new(text: &'t Text, tree: &'t Tree) -> Identities<'t> {
        let (things, words) = (OnceCell::new(), OnceCell::new());
        Identities { text, tree, things, words, looked_at: Cell::new(0), last: RefCell::default() }
    }

    /// What makes a finding the same one later.
    pub(crate) fn of(&self, finding: &Finding) -> Identity {
        let code = match finding.anchor {
            Some(anchor) => self.code(anchor),
            None => self.flagged(finding.span),
        };
        Identity { within: self.names_around(finding.span), code }
    }

    /// The names of what is around a place, from the outermost inwards.
    fn names_around(&self, span: Span) -> String {
        let things = self.things.get_or_init(|| NamedThings::of(self.tree));
        let of = |node: NodeRef<'t>| things.innermost[node.id().0 as usize].map(|thing| self.tree.node(thing));
        let innermost = of(self.tree.covering(Span::at(span.start)));
        let mut names: Vec<&str> = std::iter::successors(innermost, |thing| of(thing.parent()?))
            .filter_map(|thing| Some(self.tree.node(*things.names.get(&thing.id())?)))
            .filter(|name| !name.span().contains(span))
            .map(|name| beginning(self.text.slice(name.span())))
            .collect();
        names.reverse();
        names.join(".")
    }

    /// The flagged tokens, joined by spaces. Where the place holds no token of the program, those of its line.
    fn flagged(&self, span: Span) -> String {
        let flagged = self.code(span);
        if !flagged.is_empty() {
            return flagged;
        }
        let lines = self.text.lines();
        self.code(lines.line(self.text.source(), lines.line_of(span.start)))
    }

    /// The tokens in a span, joined by spaces; the beginning and a hash where they are many.
    fn code(&self, span: Span) -> String {
        if span.is_empty() {
            return String::new();
        }
        let tokens = self.tree.tokens_in(span);
        let mut last = self.last.borrow_mut();
        if last.0 != tokens {
            let code = self.code_of(&tokens);
            *last = (tokens, code);
        }
        last.1.clone()
    }

    fn code_of(&self, tokens: &Range<TokenId>) -> String {
        self.looked_at.set(self.looked_at.get() + tokens.len());
        if self.looked_at.get() > self.tree.tokens().len() / 2 {
            let words = self.words.get_or_init(|| Words::of(self.text, self.tree));
            let code = words.between(tokens);
            if !code.is_empty() {
                return shortened(code);
            }
        }
        shortened(&joined(self.text, self.tree, tokens))
    }
}

/// The words of the tokens of the program in a text, joined by spaces.
#[derive(Debug)]
struct Words {
    joined: String,
    /// For each token where its words begin in it, and for the end of the text the length.
    starts: Vec<u32>,
}

impl Words {
    fn of(text: &Text, tree: &Tree) -> Words {
        let mut joined = String::with_capacity(text.source().len());
        let count = tree.tokens().len() as TokenId;
        let mut starts = Vec::with_capacity(count as usize + 1);
        for token in 0..count {
            starts.push(joined.len() as u32);
            if is_solid(tree.token_kind(token)) {
                add_words(&mut joined, text, tree, token);
            }
        }
        starts.push(joined.len() as u32);
        Words { joined, starts }
    }

    fn between(&self, tokens: &Range<TokenId>) -> &str {
        let (start, end) = (self.starts[tokens.start as usize], self.starts[tokens.end as usize]);
        self.joined[start as usize..end as usize].trim_start_matches(' ')
    }
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

/// The beginning of a name: each finding in a thing has it.
fn beginning(name: &str) -> &str {
    &name[..name.floor_char_boundary(LONGEST_NAME)]
}

/// The functions, classes and the like of a file.
#[derive(Debug, Default)]
struct NamedThings {
    /// For each node the innermost one that it is or lies in.
    innermost: Vec<Option<NodeId>>,
    /// Their names: those with many attributes before them are looked for once.
    names: FxHashMap<NodeId, NodeId>,
}

impl NamedThings {
    fn of(tree: &Tree) -> NamedThings {
        let mut things = NamedThings { innermost: Vec::with_capacity(tree.nodes().len()), ..NamedThings::default() };
        for node in tree.nodes() {
            // What is around a node comes before it.
            let around = node.parent().and_then(|parent| things.innermost[parent.id().0 as usize]);
            let is_one = is_named_thing(node.kind());
            things.innermost.push(if is_one { Some(node.id()) } else { around });
            if is_one && let Some(name) = node.child(Role::Name) {
                things.names.insert(node.id(), name.id());
            }
        }
        things
    }
}

fn joined(text: &Text, tree: &Tree, tokens: &Range<TokenId>) -> String {
    let of_kind = |is_it: fn(TokenKind) -> bool| {
        let mut joined = String::new();
        for token in tokens.clone().filter(|token| is_it(tree.token_kind(*token))) {
            add_words(&mut joined, text, tree, token);
        }
        joined
    };
    let solid = of_kind(is_solid);
    // Only where nothing else is there does a comment count.
    if tokens.clone().any(|token| is_solid(tree.token_kind(token))) {
        return solid;
    }
    of_kind(|kind| kind == TokenKind::Comment)
}

/// Adds the words of a token to those of others.
fn add_words(joined: &mut String, text: &Text, tree: &Tree, token: TokenId) {
    let mut add = |word: &str| {
        if !joined.is_empty() {
            joined.push(' ');
        }
        joined.push_str(word);
    };
    let word = text.slice(tree.token_span(token));
    // Most tokens are one word.
    let is_word = tree.token_kind(token) == TokenKind::Name || word.bytes().all(|byte| byte.is_ascii_graphic());
    if is_word && !word.is_empty() {
        add(word);
    } else {
        word.split_whitespace().for_each(add);
    }
}

fn is_solid(kind: TokenKind) -> bool {
    !kind.is_trivia() && !kind.is_layout()
}

fn shortened(code: &str) -> String {
    if code.len() <= LONGEST_CODE {
        return code.to_string();
    }
    let start: String = code.chars().take(LONGEST_CODE / 2).collect();
    format!("{start}… {:016x}", xxh3_64(code.as_bytes()))
}

#[cfg(test)]
mod tests {
    use sieve_syntax::language::Language;

    use super::*;

    #[test]
    fn words_of_a_part_are_those_of_its_tokens() {
        let source =
            "def sail():\n    # low\n    quay = 'north  east'  # tide\n    return \"\"\"a\n b\"\"\"\n\n\n".repeat(3);
        let text = Text::new(source);
        let tree = Language::Python.parse(&text);
        let words = Words::of(&text, &tree);
        let count = tree.tokens().len() as TokenId;
        let mut compared = 0;
        for start in 0..count {
            for end in start..=count {
                let code = words.between(&(start..end));
                if !code.is_empty() {
                    assert_eq!(code, joined(&text, &tree, &(start..end)), "{start}..{end}");
                    compared += 1;
                }
            }
        }
        assert!(compared > 1000, "{compared}");
        let whole = words.between(&(0..count));
        assert!(whole.starts_with("def sail ( ) : quay = 'north east' return \"\"\"a b\"\"\" def"), "{whole}");
    }
}
