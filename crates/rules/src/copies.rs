//! Copies of code: the same statements in several places, by their tokens.
//!
//! Whitespace and comments do not count, and strings and numbers count as any others. Each statement begins at most one window: it and
//! those after it, up to a least number of tokens. Statements are hashed by the difference of two prefixes, so that nested blocks are not
//! read again at each level.

use std::collections::HashMap;
use std::hash::Hasher;

use rustc_hash::FxHasher;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind, Tree};

/// Statements one after another.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Window {
    /// What their tokens come to.
    pub hash: u64,
    /// The number of the block in its file.
    pub block: u32,
    /// The place of the first statement in the block.
    pub first: u32,
    /// From the first to the last statement.
    pub span: Span,
    /// The line on which it begins, from 1.
    pub line: u32,
}

/// What to do about a copy.
pub const ADVICE: &str = "give them a name of their own, and use it twice";

/// Every window of a file, in the order of the text.
pub fn windows(text: &Text, tree: &Tree, least: u32) -> Vec<Window> {
    let mut found = Vec::new();
    let prefixes = Prefixes::new(text, tree);
    let mut statements: Vec<Statement> = Vec::new();
    let mut scratch: Vec<u64> = Vec::new();
    let blocks = tree.nodes().filter(|node| matches!(node.kind(), Kind::Block | Kind::File));
    for (number, block) in blocks.enumerate() {
        let mut left = prefixes.count(block.token_range());
        if left < least {
            continue;
        }
        statements.clear();
        statements.extend(block.children_in(Role::Statement).map(|node| Statement::of(node, &prefixes)));
        for (first, statement) in statements.iter().enumerate() {
            if left < least {
                break;
            }
            left -= statement.tokens.count;
            found.extend(window(&statements[first..], least, &mut scratch).map(|(hash, span)| Window {
                hash,
                block: number as u32,
                first: first as u32,
                span,
                line: text.lines().line_of(span.start),
            }));
        }
    }
    found.sort_by_key(|window| (window.span.start, window.span.end));
    found
}

/// A statement, and what its tokens come to.
struct Statement {
    span: Span,
    /// The same imports are in many files.
    is_import: bool,
    tokens: Tokens,
}

impl Statement {
    fn of(node: NodeRef<'_>, prefixes: &Prefixes) -> Statement {
        let is_import = matches!(node.kind(), Kind::Import | Kind::Export);
        Statement { span: node.span(), is_import, tokens: prefixes.of(node.token_range()) }
    }
}

/// Code of fewer names than one in so many tokens is a table of values.
const TABLE: u32 = 8;

/// The least of some statements that are a window, from the first of them on; `scratch` may hold anything.
fn window(statements: &[Statement], least: u32, scratch: &mut Vec<u64>) -> Option<(u64, Span)> {
    let (mut count, mut words) = (0, 0);
    for (place, statement) in statements.iter().enumerate() {
        if statement.is_import {
            return None;
        }
        count += statement.tokens.count;
        words += statement.tokens.words;
        if count >= least {
            let within = &statements[..=place];
            // Tables whose values, which count as any others here, are all there is, are alike and no copies of each other.
            if words * TABLE < count || are_rows(within, scratch) {
                return None;
            }
            let mut hasher = FxHasher::default();
            within.iter().for_each(|statement| hasher.write_u64(statement.tokens.hash));
            return Some((hasher.finish(), Span::new(statements[0].span.start, statement.span.end)));
        }
    }
    None
}

/// Whether half of some statements or more are the same as others of them: rows of a table are alike.
fn are_rows(statements: &[Statement], scratch: &mut Vec<u64>) -> bool {
    if statements.len() < 2 {
        return false;
    }
    // Of those that differ in these bits alone, which depend on all others, there are more than half already.
    let bits = statements.iter().fold(0_u64, |bits, statement| bits | 1 << (statement.tokens.hash >> 58));
    if bits.count_ones() as usize * 2 > statements.len() {
        return false;
    }
    scratch.clear();
    scratch.extend(statements.iter().map(|statement| statement.tokens.hash));
    scratch.sort_unstable();
    scratch.dedup();
    scratch.len() * 2 <= statements.len()
}

/// What some tokens come to, whitespace and comments left out.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
struct Tokens {
    hash: u64,
    count: u32,
    words: u32,
}

/// The base of the hash, a polynomial of the tokens (R. Karp, M. Rabin, "Efficient randomized pattern-matching algorithms", 1987), modulo
/// 2^64.
const BASE: u64 = 0x1b03_738a_9f5d_4e67;

/// What the kind of a token is multiplied by, so that kinds differ in all bits.
const KIND: u64 = 0x9e37_79b9_7f4a_7c15;

/// The first powers of the base: most statements have fewer tokens.
const POWERS: [u64; 128] = {
    let mut powers = [1_u64; 128];
    let mut exponent = 1;
    while exponent < powers.len() {
        powers[exponent] = powers[exponent - 1].wrapping_mul(BASE);
        exponent += 1;
    }
    powers
};

/// A power of the base, by squaring where it is not at hand.
fn power(exponent: u32) -> u64 {
    POWERS.get(exponent as usize).copied().unwrap_or_else(|| BASE.wrapping_pow(exponent))
}

/// What a word comes to, beside its kind.
fn word_hash(word: &[u8]) -> u64 {
    let mut hasher = FxHasher::default();
    hasher.write(word);
    hasher.finish()
}

/// What the tokens of a file come to, up to each of them.
struct Prefixes {
    up_to: Vec<Tokens>,
}

impl Prefixes {
    fn new(text: &Text, tree: &Tree) -> Prefixes {
        let source = text.source().as_bytes();
        let count = tree.tokens().len();
        let mut all = Tokens::default();
        let mut up_to = Vec::with_capacity(count + 1);
        up_to.push(all);
        for (_, kind, span) in tree.tokens_with_spans(0..count as TokenId) {
            if !kind.is_trivia() {
                let mut own = (kind as u64 + 1).wrapping_mul(KIND);
                if matches!(kind, TokenKind::Name | TokenKind::ShellText) {
                    own = own.wrapping_add(word_hash(&source[span.range()]));
                    all.words += 1;
                } else if kind == TokenKind::PrimitiveType {
                    // What is written once for each of these types cannot be written otherwise.
                    own = own.wrapping_add(word_hash(&source[span.range()]));
                }
                all.hash = all.hash.wrapping_mul(BASE).wrapping_add(own);
                all.count += 1;
            }
            up_to.push(all);
        }
        Prefixes { up_to }
    }

    fn count(&self, tokens: std::ops::Range<TokenId>) -> u32 {
        self.up_to[tokens.end as usize].count - self.up_to[tokens.start as usize].count
    }

    fn of(&self, tokens: std::ops::Range<TokenId>) -> Tokens {
        let (before, behind) = (self.up_to[tokens.start as usize], self.up_to[tokens.end as usize]);
        let count = behind.count - before.count;
        let hash = behind.hash.wrapping_sub(before.hash.wrapping_mul(power(count)));
        Tokens { hash, count, words: behind.words - before.words }
    }
}

/// Code that is elsewhere before.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Copied {
    /// The file it is in, by its place in the list.
    pub file: usize,
    /// The stretch.
    pub span: Span,
    /// The file of the first one.
    pub first_file: usize,
    /// The line on which the first one begins, from 1.
    pub first_line: u32,
}

/// The copies among the windows of some files, each as long as it goes.
pub fn copies(files: &[&[Window]]) -> Vec<Copied> {
    let all = files.iter().map(|windows| windows.len()).sum();
    let mut firsts: HashMap<u64, (usize, Window), rustc_hash::FxBuildHasher> = HashMap::default();
    firsts.reserve(all);
    let mut found: Vec<(Copied, Window, Window)> = Vec::new();
    for (file, windows) in files.iter().enumerate() {
        for window in *windows {
            let (first_file, first) = *firsts.entry(window.hash).or_insert((file, *window));
            if first_file == file && window.span.start < first.span.end {
                continue;
            }
            let goes_on = found.iter_mut().rev().take(8).find(|(copied, last, last_first)| {
                let same_files = (copied.file, copied.first_file) == (file, first_file);
                let next = |one: &Window, other: &Window| one.block == other.block && one.first + 1 == other.first;
                let inside = copied.span.contains(window.span);
                same_files && (inside || next(last, window) && next(last_first, &first))
            });
            match goes_on {
                Some((copied, last, last_first)) => {
                    copied.span = Span::new(copied.span.start, copied.span.end.max(window.span.end));
                    if last.block == window.block {
                        (*last, *last_first) = (*window, first);
                    }
                }
                None => {
                    let copied = Copied { file, span: window.span, first_file, first_line: first.line };
                    found.push((copied, *window, first));
                }
            }
        }
    }
    found.into_iter().map(|(copied, ..)| copied).collect()
}

#[cfg(test)]
mod tests {
    use sieve_syntax::language::Language;

    use super::*;

    fn tokens_of(code: &str, found: usize) -> Tokens {
        let text = Text::new(code.to_string());
        let tree = Language::Python.parse(&text);
        let statement = tree.nodes().filter(|node| node.role() == Role::Statement).nth(found).expect("a statement");
        Prefixes::new(&text, &tree).of(statement.token_range())
    }

    #[test]
    fn tokens_have_the_same_hash_wherever_they_are() {
        let alone = tokens_of("sell(seat, 2)\n", 0);
        assert_eq!((alone.count, alone.words), (6, 2));
        assert_eq!(tokens_of("if late:\n    wait()\n    sell( seat,  # which\n      3)\n", 2), alone);
        assert_ne!(tokens_of("sell(boat, 2)\n", 0).hash, alone.hash);
        assert_ne!(tokens_of("sell(seat, crew)\n", 0).hash, alone.hash);
    }

    #[test]
    fn a_copy_is_found_in_another_file_and_grows_as_far_as_it_goes() {
        let body = "    total = count(seats)\n    price = total * rate(day)\n    print(price, total, seats)\n";
        let codes =
            [format!("def f(seats, day):\n{body}"), format!("x = 1\n\n\ndef g(day, seats):\n{body}    done()\n")];
        let texts: Vec<Text> = codes.iter().map(|code| Text::new(code.clone())).collect();
        let all: Vec<Vec<Window>> = texts.iter().map(|text| windows(text, &Language::Python.parse(text), 12)).collect();
        let found = copies(&[&all[0], &all[1]]);
        let [copied] = found.as_slice() else { panic!("{found:?}") };
        assert_eq!((copied.file, copied.first_file, copied.first_line), (1, 0, 2));
        assert_eq!(texts[1].slice(copied.span), body.trim());
        assert!(copies(&[&all[0]]).is_empty());
    }
}
