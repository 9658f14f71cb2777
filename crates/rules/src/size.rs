//! How large a piece of code is.

use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind, Tree};

use crate::described::described;
use crate::interface::{File, FileData};

/// The lines that hold code: blank lines, comments and lone texts, which describe what stands around them, do not count.
pub(crate) fn lines_of_code(file: File<'_>, node: NodeRef<'_>) -> u32 {
    let lines = file.text.lines();
    let described = node.children().next().filter(|first| is_lone_text(*first)).map(|first| first.token_range());
    let (mut count, mut counted) = (0, 0);
    let std::ops::Range { start: mut token, end } = node.token_range();
    while token < end {
        let kind = file.tree.token_kind(token);
        if kind.is_trivia() || kind.is_layout() || described.as_ref().is_some_and(|range| range.contains(&token)) {
            token += 1;
            continue;
        }
        let span = file.tree.token_span(token);
        let first = lines.line_of(span.start).max(counted + 1);
        let last = lines.line_of(span.end.saturating_sub(1).max(span.start));
        if last >= first {
            count += last - first + 1;
            counted = last;
        }
        token = past_line(file.tree, token, lines.start_of_next(last));
    }
    count
}

/// The first token behind another one that goes on behind the end of its line: most tokens are on the line of the one before.
fn past_line(tree: &Tree, token: TokenId, line_end: u32) -> TokenId {
    let following = tree.tokens().get(token as usize + 1..).unwrap_or_default();
    // A token ends where the next one begins.
    let within = following.iter().position(|next| next.start > line_end).unwrap_or(following.len());
    token + within.max(1) as TokenId
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

/// The decisions that a node itself is.
pub(crate) fn decisions_at(file: File<'_>, node: NodeRef) -> u32 {
    match node.kind() {
        Kind::If | Kind::For | Kind::While | Kind::DoWhile | Kind::Catch | Kind::Conditional => 1,
        Kind::Logical => (node.children_in(Role::Operand).count() as u32).saturating_sub(1),
        Kind::Comprehension | Kind::ComprehensionClause => node.children_in(Role::Condition).count() as u32,
        Kind::Case => u32::from(!is_default(file, node)),
        _ => 0,
    }
}

/// A case that takes what is left.
fn is_default(file: File<'_>, case: NodeRef) -> bool {
    let Some(pattern) = case.child(Role::Pattern) else { return true };
    let takes_all = pattern.kind() == Kind::WildcardPattern || matches!(file.node_text(pattern), "*" | "_");
    takes_all && case.child(Role::Guard).is_none()
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
    /// Lines with values, in files that hold data.
    pub data: usize,
}

impl Sizes {
    /// Measures a file; `path` begins at the root of the code base.
    pub fn of(path: &str, language: Language, text: &Text, tree: &Tree) -> Sizes {
        let mut sizes = Sizes::of_lines(text, tree);
        if language.is_data() {
            sizes.data = std::mem::take(&mut sizes.code);
        }
        let file = &FileData::new(path, language, text, tree);
        let file = File::of(file);
        if Language::WITH_NAMES.contains(&language) {
            let may_be_public = |node: &NodeRef<'_>| matches!(node.kind(), Kind::File | Kind::Class | Kind::Function);
            for is_described in tree.nodes().filter(may_be_public).filter_map(|node| described(file, node)) {
                sizes.public += 1;
                sizes.described += usize::from(is_described);
            }
        }
        sizes
    }

    /// Tells the lines of a file apart, by the strongest of what is on each.
    fn of_lines(text: &Text, tree: &Tree) -> Sizes {
        let mut lines = vec![Line::Blank; text.lines().count() as usize];
        let index = text.lines();
        let mut mark = |span: Span, line: Line| {
            let first = index.line_of(span.start);
            let last = index.line_of(span.end.saturating_sub(1).max(span.start));
            for number in first..=last {
                if let Some(known) = lines.get_mut(number as usize - 1) {
                    *known = (*known).max(line);
                }
            }
            index.start_of_next(last)
        };
        let statements = tree.nodes_of(Kind::ExpressionStatement);
        let mut lone = statements.filter(|node| is_lone_text(*node)).map(NodeRef::token_range);
        let mut text = lone.next().unwrap_or_default();
        let mut token = 0;
        while token < tree.tokens().len() as TokenId {
            let kind = tree.token_kind(token);
            if kind != TokenKind::Comment && (kind.is_trivia() || kind.is_layout()) {
                token += 1;
                continue;
            }
            while !text.is_empty() && text.end <= token {
                text = lone.next().unwrap_or_default();
            }
            let span = tree.token_span(token);
            if kind == TokenKind::Comment || text.contains(&token) {
                mark(span, if kind == TokenKind::Comment { Line::Comment } else { Line::Text });
                token += 1;
            } else {
                token = past_line(tree, token, mark(span, Line::Code));
            }
        }
        let count = |line: Line| lines.iter().filter(|known| **known == line).count();
        Sizes {
            code: count(Line::Code),
            comments: count(Line::Comment),
            texts: count(Line::Text),
            blank: count(Line::Blank),
            ..Sizes::default()
        }
    }

    /// The counts in the order of the fields.
    pub fn counts(self) -> [u32; 7] {
        let Sizes { code, comments, texts, blank, public, described, data } = self;
        [code, comments, texts, blank, public, described, data].map(|count| count as u32)
    }

    /// From its counts.
    pub fn from_counts(counts: [u32; 7]) -> Sizes {
        let [code, comments, texts, blank, public, described, data] = counts.map(|count| count as usize);
        Sizes { code, comments, texts, blank, public, described, data }
    }

    /// All lines.
    pub fn lines(self) -> usize {
        self.code + self.data + self.comments + self.texts + self.blank
    }

    /// Adds the sizes of another file.
    pub fn add(&mut self, other: Sizes) {
        self.code += other.code;
        self.comments += other.comments;
        self.texts += other.texts;
        self.blank += other.blank;
        self.data += other.data;
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
