//! Copies of code: the same statements in several places, by their tokens.
//!
//! Blanks and comments do not count, and texts and numbers stand for any others. Each statement begins at most one window: it and those
//! behind it, up to a least number of tokens. So the work is linear in the size of the code but for windows that share statements, which
//! are as long as the least number at most.

use std::collections::HashMap;
use std::hash::Hasher;

use rustc_hash::FxHasher;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind, Tree};

/// Statements that stand together.
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
    let blocks = tree.nodes().filter(|node| matches!(node.kind(), Kind::Block | Kind::File));
    for (number, block) in blocks.enumerate() {
        let statements: Vec<NodeRef> = block.children().filter(|child| child.role() == Role::Statement).collect();
        for first in 0..statements.len() {
            found.extend(window(text, tree, &statements[first..], least).map(|(hash, span)| Window {
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

/// Code of fewer names than one in so many tokens is a table of values.
const TABLE: u32 = 8;

fn window(text: &Text, tree: &Tree, statements: &[NodeRef<'_>], least: u32) -> Option<(u64, Span)> {
    let mut hasher = FxHasher::default();
    let mut count = 0;
    let mut words = 0;
    let mut kinds: Vec<u64> = Vec::new();
    for statement in statements {
        let mut own = FxHasher::default();
        // What is brought in is the same in many files.
        if matches!(statement.kind(), Kind::Import | Kind::Export) {
            return None;
        }
        for (token, kind) in statement.solid_tokens() {
            own.write_u8(kind as u8);
            if matches!(kind, TokenKind::Name | TokenKind::ShellText) {
                own.write(text.slice(tree.token_span(token)).as_bytes());
                words += 1;
            }
            count += 1;
        }
        let own = own.finish();
        hasher.write_u64(own);
        kinds.push(own);
        if count >= least {
            // Rows of a table are alike, and no copies of each other.
            let all = kinds.len();
            kinds.sort_unstable();
            kinds.dedup();
            // So are tables whose values, which stand for any others here, are all there is.
            if kinds.len() * 2 <= all || words * TABLE < count {
                return None;
            }
            return Some((hasher.finish(), Span::new(statements[0].span().start, statement.span().end)));
        }
    }
    None
}

/// A stretch that stands elsewhere before.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Copied {
    /// The file it stands in, by its place in the list.
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
    let mut firsts: HashMap<u64, (usize, Window), rustc_hash::FxBuildHasher> = HashMap::default();
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
