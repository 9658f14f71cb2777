//! The lines that a waiver holds for.

use std::ops::RangeInclusive;

use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, Tree};

/// Lines, from 1, both ends included.
pub(super) type Lines = RangeInclusive<u32>;

/// Behind code: the statement that starts or ends on the line, or the head of a statement with a block. On a line of its
/// own: the whole next statement.
pub(super) fn of_comment(text: &Text, tree: &Tree, comment: Span) -> Lines {
    Regions::default().of_comment(text, tree, comment)
}

/// The same for the comments of a file one after the other: code behind many comments is looked for once.
#[derive(Default)]
pub(super) struct Regions<'t> {
    /// A comment with the code behind it, and their tree.
    last: Option<(&'t Tree, std::ops::Range<TokenId>)>,
}

impl<'t> Regions<'t> {
    /// The lines that a waiver in a comment holds for.
    pub(super) fn of_comment(&mut self, text: &Text, tree: &'t Tree, comment: Span) -> Lines {
        let line = text.lines().line_of(comment.start);
        if let Some(braces) = between_tags(tree, comment) {
            return of_next_element(text, tree, braces, line);
        }
        if !stands_alone(text, comment) {
            return of_line(text, tree, line);
        }
        of_next_statement(text, tree, line, self.code_behind(tree, tree.token_at(comment.start)))
    }

    /// The first token behind another one that is code, or the end of all tokens.
    fn code_behind(&mut self, tree: &'t Tree, token: TokenId) -> TokenId {
        if let Some((of, known)) = &self.last
            && std::ptr::eq(*of, tree)
            && known.contains(&token)
        {
            return known.end;
        }
        let end = tree.tokens().len() as TokenId;
        let next = (token + 1..end).find(|token| is_solid(tree, *token)).unwrap_or(end);
        self.last = Some((tree, token..next));
        next
    }
}

/// The braces that let a comment are between tags, with nothing else in them.
fn between_tags(tree: &Tree, comment: Span) -> Option<NodeRef<'_>> {
    let holder = tree.covering(comment);
    let empty =
        holder.kind() == Kind::Interpolation && holder.role() == Role::Child && holder.children().next().is_none();
    empty.then_some(holder)
}

/// Alone on their line, the braces mention the next element or value between the same tags, else of their own line.
fn of_next_element(text: &Text, tree: &Tree, braces: NodeRef<'_>, line: u32) -> Lines {
    if !stands_alone(text, braces.span()) {
        return of_line(text, tree, line);
    }
    let siblings = std::iter::successors(braces.next_sibling(), |node| node.next_sibling());
    let is_blank = |node: &NodeRef<'_>| node.kind() == Kind::MarkupText && text.slice(node.span()).trim().is_empty();
    let next = siblings.into_iter().find(|node| !is_blank(node)).filter(|node| node.kind() != Kind::EndTag);
    line..=next.map_or(line, |node| *lines_of(text, node.span()).end())
}

/// Whether nothing but whitespace is before a comment on its line.
pub(super) fn stands_alone(text: &Text, comment: Span) -> bool {
    let line = text.lines().line(text.source(), text.lines().line_of(comment.start));
    text.slice(Span::new(line.start, comment.start)).trim().is_empty()
}

fn lines_of(text: &Text, span: Span) -> Lines {
    let last = if span.is_empty() { span.start } else { span.end - 1 };
    text.lines().line_of(span.start)..=text.lines().line_of(last)
}

fn of_line(text: &Text, tree: &Tree, line: u32) -> Lines {
    let span = text.lines().line(text.source(), line);
    let tokens = tree.tokens_in(span);
    let mut first = line;
    let mut last = line;
    // The statements that tokens of this line belong to, from the innermost outwards as far as they have no block.
    for token in
        [tokens.clone().find(|token| is_solid(tree, *token)), tokens.rev().find(|token| is_solid(tree, *token))]
    {
        let Some(token) = token else { continue };
        // The file itself is no statement, and has more children than anything in it.
        for node in around(tree, token).into_iter().filter(|node| node.kind() != Kind::File) {
            let lines = match head(node) {
                Some(head) => lines_of(text, head),
                None if node.kind().is_simple_statement() => lines_of(text, node.span()),
                _ => continue,
            };
            if *lines.start() == line || *lines.end() == line {
                first = first.min(*lines.start());
                last = last.max(*lines.end());
            }
        }
    }
    first..=last
}

/// What is before the block of a statement or clause.
fn head(node: NodeRef<'_>) -> Option<Span> {
    let body = node.child(Role::Body).filter(|body| body.kind() == Kind::Block)?;
    let tree = node.tree();
    let last = (node.token_range().start..body.token_range().start).rev().find(|token| is_solid(tree, *token))?;
    Some(Span::new(node.span().start, tree.token_span(last).end))
}

fn is_solid(tree: &Tree, token: TokenId) -> bool {
    let kind = tree.token_kind(token);
    !kind.is_trivia() && !kind.is_layout()
}

/// The nodes that hold a token, from the outermost to the innermost.
fn around(tree: &Tree, token: TokenId) -> Vec<NodeRef<'_>> {
    let innermost = tree.covering(tree.token_span(token));
    let mut nodes: Vec<NodeRef<'_>> = std::iter::once(innermost).chain(innermost.ancestors()).collect();
    nodes.reverse();
    nodes
}

fn of_next_statement(text: &Text, tree: &Tree, line: u32, next: TokenId) -> Lines {
    if next as usize >= tree.tokens().len() {
        return line..=line;
    }
    let begins = |node: &&NodeRef<'_>| node.token_range().start == next && !holds_many(**node);
    let nodes = around(tree, next);
    let span = match nodes.iter().find(begins) {
        Some(node) => node.span(),
        // A clause such as `else` begins here: it goes on to the end of its block.
        None => {
            let holder = nodes.last().map_or(tree.root(), |node| *node);
            let block = holder.children().find(|child| child.token_range().start > next);
            tree.token_span(next).join(block.map_or(tree.token_span(next), |block| block.span()))
        }
    };
    line..=*lines_of(text, span).end()
}

/// Whether a node begins with the first of many entries or statements, of which a waiver is meant for one.
fn holds_many(node: NodeRef<'_>) -> bool {
    match node.kind() {
        Kind::File | Kind::Block | Kind::Document => true,
        // Without brackets, entries are all there is.
        Kind::Dictionary | Kind::List => !node.first_token_kind().opens(),
        _ => false,
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;
    use sieve_syntax::language::Language;

    use super::*;

    fn lines(source: &str) -> (u32, u32) {
        lines_in(Language::Python, source)
    }

    #[test]
    fn in_data_the_next_entry_counts() {
        let yaml = |source: &str| lines_in(Language::Yaml, source);
        assert_eq!(yaml("# here\na:\n  b: 1\n  c: 2\nd: 3\n"), (1, 4));
        assert_eq!(yaml("a:\n  # here\n  b: 1\n  c: 2\nd: 3\n"), (2, 3));
        assert_eq!(yaml("a:\n# here\n- b: 1\n  c: 2\n- d: 3\n"), (2, 4));
        assert_eq!(yaml("a:\n- b: 1\n# here\n- c: 2\n  d: 3\n- e\n"), (3, 5));
        assert_eq!(yaml("a: 1\nb: [1,  # here\n  2]\n"), (2, 2));
        let toml = |source: &str| lines_in(Language::Toml, source);
        assert_eq!(toml("# here\na = [\n  1,\n]\nb = 2\n"), (1, 4));
        assert_eq!(toml("a = 1\n# here\n[b]\nc = 1\nd = 2\n"), (2, 5));
    }

    fn lines_in(language: Language, source: &str) -> (u32, u32) {
        let text = Text::new(source.to_string());
        let tree = language.parse(&text);
        let start = source.find("# here").unwrap() as u32;
        let found = of_comment(&text, &tree, Span::new(start, start + 6));
        (*found.start(), *found.end())
    }

    const LINES: [&str; 10] = [
        "# here",
        "",
        "a = 1  # here",
        "if a:",
        "    # here",
        "    b = [",
        "        # here",
        "    ]",
        "# here again",
        "# and here",
    ];

    proptest! {
        #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

        #[test]
        fn comments_one_after_the_other_hold_for_what_each_does_alone(
            lines in prop::collection::vec(prop::sample::select(&LINES[..]), 12),
        ) {
            let source = lines.join("\n") + "\n";
            let text = Text::new(source.clone());
            let tree = Language::Python.parse(&text);
            let mut regions = Regions::default();
            for (start, word) in source.match_indices("# here") {
                let comment = Span::new(start as u32, (start + word.len()) as u32);
                let (together, alone) = (regions.of_comment(&text, &tree, comment), of_comment(&text, &tree, comment));
                prop_assert_eq!(together, alone, "{} in {}", start, source);
            }
        }
    }

    #[test]
    fn behind_code_the_statement_of_the_line_counts() {
        assert_eq!(lines("a = 1\nb = 2  # here\nc = 3\n"), (2, 2));
        assert_eq!(lines("b = [\n  1,\n]  # here\nc = 3\n"), (1, 3));
        assert_eq!(lines("b = [  # here\n  1,\n]\nc = 3\n"), (1, 3));
        assert_eq!(lines("b = [\n  1,  # here\n]\nc = 3\n"), (2, 2));
        assert_eq!(lines("def f(  # here\n  a,\n):\n    pass\n"), (1, 3));
        assert_eq!(lines("def f():\n    if a:\n        b()  # here\n"), (3, 3));
        assert_eq!(lines("try:\n    a()\nexcept E:  # here\n    b()\n"), (3, 3));
    }

    #[test]
    fn between_tags_the_next_element_counts() {
        let source = "x = <a>\n  {/* here */}\n  <b\n    c={1}\n  />\n  <d/>\n</a>;\n";
        let text = Text::new(source.to_string());
        let tree = Language::JavaScript.parse(&text);
        let start = source.find("/* here").unwrap() as u32;
        assert_eq!(of_comment(&text, &tree, Span::new(start, start + 10)), 2..=5);
    }

    #[test]
    fn on_its_own_line_the_whole_next_statement_counts() {
        assert_eq!(lines("a = 1\n# here\ndef f():\n    b = 2\n    c = 3\nd = 4\n"), (2, 5));
        assert_eq!(lines("if a:\n    b()\n# here\nelse:\n    c()\n    d()\ne()\n"), (3, 6));
        assert_eq!(lines("def f():\n    # here\n    b = [\n      2,\n    ]\n    c = 3\n"), (2, 5));
        assert_eq!(lines("a = 1\n# here\n"), (2, 2));
    }
}
