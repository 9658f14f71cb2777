//! How large a piece of code is.

use std::cell::OnceCell;

use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind, Tree};

use crate::catalogue::docs::missing_doc;
use crate::interface::{File, names_tests};

/// The lines that hold code: blank lines, comments and lone texts, which describe what stands around them, do not count.
pub(crate) fn lines_of_code(file: File<'_>, node: NodeRef<'_>) -> u32 {
    let lines = file.text.lines();
    let described = node.children().next().filter(|first| is_lone_text(*first)).map(|first| first.token_range());
    let (mut count, mut counted) = (0, 0);
    for (token, kind) in node.solid_tokens() {
        if kind.is_layout() || described.as_ref().is_some_and(|range| range.contains(&token)) {
            continue;
        }
        let span = file.tree.token_span(token);
        let first = lines.line_of(span.start).max(counted + 1);
        let last =
            if kind == TokenKind::Newline { first } else { lines.line_of(span.end.saturating_sub(1).max(span.start)) };
        if last >= first {
            count += last - first + 1;
            counted = last;
        }
    }
    count
}

fn is_lone_text(statement: NodeRef<'_>) -> bool {
    let text = |value: NodeRef<'_>| matches!(value.kind(), Kind::String | Kind::Concatenation);
    statement.kind() == Kind::ExpressionStatement && statement.child(Role::Value).is_some_and(text)
}

/// The name of a function: its own, or that of the variable, field or key that it is bound to.
pub(crate) fn name_of(function: NodeRef<'_>) -> Option<NodeRef<'_>> {
    if function.kind() == Kind::Function {
        return function.child(Role::Name);
    }
    let holder = function.parent().filter(|_| function.role() == Role::Value)?;
    match holder.kind() {
        Kind::Assignment | Kind::AnnotatedAssignment => {
            holder.child(Role::Target).filter(|target| target.kind() == Kind::Name)
        }
        Kind::Field => holder.child(Role::Name),
        Kind::Pair => holder.child(Role::Key),
        _ => None,
    }
}

/// What the lines of a file are, and how many of its public things are described.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Sizes {
    /// Lines with code.
    pub code: usize,
    /// Lines with a comment and no code.
    pub comments: usize,
    /// Lines of strings that stand alone and describe what is around them.
    pub texts: usize,
    /// Lines with nothing.
    pub blank: usize,
    /// Public modules, types and functions.
    pub public: usize,
    /// Those of them that have a description.
    pub described: usize,
}

impl Sizes {
    /// Measures a file; `path` is as it is shown.
    pub fn of(path: &str, language: Language, text: &Text, tree: &Tree) -> Sizes {
        let mut sizes = Sizes::default();
        let count = text.lines().count() as usize;
        let mut lines = vec![Line::Blank; count];
        let mut mark = |span: Span, line: Line| {
            let (first, last) =
                (text.lines().line_of(span.start), text.lines().line_of(span.end.saturating_sub(1).max(span.start)));
            for number in first..=last {
                if let Some(known) = lines.get_mut(number as usize - 1) {
                    *known = (*known).max(line);
                }
            }
        };
        let lone: Vec<_> = tree.nodes().filter(|node| is_lone_text(*node)).map(NodeRef::token_range).collect();
        for token in 0..tree.tokens().len() as u32 {
            let kind = tree.token_kind(token);
            let before = lone.partition_point(|range| range.end <= token);
            let is_text = lone.get(before).is_some_and(|range| range.contains(&token));
            match kind {
                TokenKind::Comment => mark(tree.token_span(token), Line::Comment),
                _ if kind.is_trivia() || kind.is_layout() => {}
                _ => mark(tree.token_span(token), if is_text { Line::Text } else { Line::Code }),
            }
        }
        for line in lines {
            match line {
                Line::Blank => sizes.blank += 1,
                Line::Comment => sizes.comments += 1,
                Line::Text => sizes.texts += 1,
                Line::Code => sizes.code += 1,
            }
        }
        let (unit, only_imports, words_in_text) = (OnceCell::new(), OnceCell::new(), OnceCell::new());
        let is_test = names_tests(path);
        let file = File {
            path,
            language,
            text,
            tree,
            names: None,
            is_test,
            calls: None,
            unit: &unit,
            only_imports: &only_imports,
            words_in_text: &words_in_text,
        };
        if Language::WITH_NAMES.contains(&language) {
            for is_described in tree.nodes().filter_map(|node| missing_doc::described(file, node)) {
                sizes.public += 1;
                sizes.described += usize::from(is_described);
            }
        }
        sizes
    }

    /// Adds the sizes of another file.
    pub fn add(&mut self, other: Sizes) {
        self.code += other.code;
        self.comments += other.comments;
        self.texts += other.texts;
        self.blank += other.blank;
        self.public += other.public;
        self.described += other.described;
    }
}

/// What a line is, the stronger later.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Line {
    Blank,
    Comment,
    Text,
    Code,
}
