//! What rules for shell scripts ask again and again.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Edit, File};

/// How much of a script's head is searched for the options that it sets.
const HEAD: usize = 8 << 10;

/// Operators of tests that want numbers on both sides.
pub(crate) const NUMERIC_TESTS: &[&str] = &["-eq", "-ne", "-lt", "-le", "-gt", "-ge"];

/// The name of a simple command as it is written; empty for one that is made from expansions, and for assignments alone.
pub(crate) fn command_name<'f>(file: File<'f>, command: NodeRef<'_>) -> &'f str {
    let callee = command.child(Role::Callee).filter(|callee| callee.children().next().is_none());
    callee.map_or("", |callee| file.node_text(callee))
}

/// The words after the name of a command.
pub(crate) fn arguments<'t>(command: NodeRef<'t>) -> impl Iterator<Item = NodeRef<'t>> {
    command.children_in(Role::Argument)
}

/// Whether a command has an option, alone or in a group of single letters.
pub(crate) fn has_option(file: File<'_>, command: NodeRef<'_>, letter: char, long: &str) -> bool {
    arguments(command)
        .map(|argument| file.node_text(argument))
        .any(|text| text == long || text.starts_with('-') && !text.starts_with("--") && text.contains(letter))
}

/// Whether a script says that it stops at the first command that fails.
pub(crate) fn stops_at_errors(file: File<'_>) -> bool {
    sets(file, 'e', "errexit")
}

/// Whether a script says that it stops at a variable without a value.
pub(crate) fn stops_at_unset(file: File<'_>) -> bool {
    sets(file, 'u', "nounset")
}

/// Whether a script says that a pipe fails with any of its commands, not only with the last one.
pub(crate) fn fails_with_pipe(file: File<'_>) -> bool {
    file.text.source().contains("pipefail")
}

fn sets(file: File<'_>, letter: char, long: &str) -> bool {
    let source = file.text.source();
    let mut end = source.len().min(HEAD);
    while !source.is_char_boundary(end) {
        end -= 1;
    }
    let head = &source[..end];
    let option = |word: &str| word.starts_with('-') && word.len() < 8 && word.contains(letter) || word == long;
    let says = |words: &str| words.split([' ', ';']).take_while(|word| *word != "#").any(option);
    let first = head.lines().next().filter(|line| line.starts_with("#!")).unwrap_or_default();
    // Only lines that begin with the command are cut into words: this is asked for many commands.
    let of_command = memchr::memmem::find_iter(head.as_bytes(), b"set ").filter(|at| {
        let line = head[..*at].rfind('\n').map_or(0, |end| end + 1);
        head[line..*at].trim().is_empty()
    });
    says(first) || of_command.into_iter().any(|at| says(head[at + "set ".len()..].lines().next().unwrap_or_default()))
}

/// The name of the variable that an expansion represents, or its special sign.
pub(crate) fn variable_of<'f>(file: File<'f>, expansion: NodeRef<'_>) -> &'f str {
    match expansion.child(Role::Name) {
        Some(name) => file.node_text(name),
        None if file.node_text(expansion) == "$$" => "$",
        None => file.node_text(expansion).trim_start_matches(['$', '{']).trim_end_matches('}'),
    }
}

/// The text of a word without some parts of it, which do not overlap.
pub(crate) fn text_beside<'t>(file: File<'_>, word: NodeRef<'t>, parts: impl Iterator<Item = NodeRef<'t>>) -> String {
    let mut plain = String::new();
    let mut from = word.span().start;
    for part in parts {
        plain.push_str(file.text.slice(Span::new(from, part.span().start)));
        from = part.span().end;
    }
    plain.push_str(file.text.slice(Span::new(from, word.span().end)));
    plain
}

/// Puts a word into double quotes, if nothing in it means something else there.
pub(crate) fn quoted(file: File<'_>, word: NodeRef<'_>) -> Option<Vec<Edit>> {
    let parts = |node: NodeRef<'_>| {
        node.children()
            .all(|part| matches!(part.kind(), Kind::Expansion | Kind::CommandSubstitution | Kind::Arithmetic))
    };
    let plain = text_beside(file, word, word.children());
    let has_meaning = plain.contains(['*', '?', '[', ']', '{', '}', '~', '\\', '"', '\'', '`', '$', '(', ')', '!']);
    let has_backquotes = file.node_text(word).contains('`');
    let quotes_alone = !file.node_text(word).contains('"')
        || word.children().all(|part| part.kind() != Kind::CommandSubstitution || !has_backquotes);
    (parts(word) && !has_meaning && quotes_alone)
        .then(|| vec![Edit::insert(word.span().start, "\""), Edit::insert(word.span().end, "\"")])
}

/// Whether the first line names a shell that keeps to the standard alone.
pub(crate) fn is_standard_shell(file: File<'_>) -> bool {
    let first = file.text.source().split('\n').next().unwrap_or_default();
    let program = first.strip_prefix("#!").and_then(|line| line.split_whitespace().next()).unwrap_or_default();
    matches!(program.rsplit('/').next(), Some("sh" | "dash" | "ash"))
        || first.starts_with("#!") && first.ends_with("env sh")
}

/// Whether a token after a node, on its line, is of a kind.
pub(crate) fn is_followed_by(node: NodeRef<'_>, kind: TokenKind) -> bool {
    let tree = node.tree();
    let behind = (node.token_range().end..).map(|token| tree.token_kind(token));
    behind.into_iter().find(|kind| *kind != TokenKind::Blank) == Some(kind)
}
