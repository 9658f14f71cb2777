use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "final-newline",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: Some(FixKind::Exact),
    what: "a file whose last line has no newline",
    why: "Tools that join files or append to them merge the last line with the next one, and reviews show it as changed when a line is added.",
    silent: "In a file with broken syntax, whose end may be inside a string, and where a here-document or a block scalar goes to the end of the file.",
    standards: &["POSIX.1-2024, definition of a line"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "tide = 3", at: &["1:9"], fixed: Some("tide = 3\n") }],
            right: &["tide = 3\n", ""],
        },
        Examples {
            language: Language::Yaml,
            wrong: &[Wrong { code: "tide: |\n  low\nquay: 3", at: &["3:8"], fixed: Some("tide: |\n  low\nquay: 3\n") }],
            right: &["quay: 3\ntide: |\n  low"],
        },
    ],
    needs_names: false,
    check: Check::File(check),
};

fn check(context: &mut Context) {
    let file = context.file();
    let source = file.text.source();
    let is_empty = source.trim_start_matches('\u{feff}').is_empty();
    if is_empty || source.ends_with(['\n', '\r']) || !file.tree.faults().is_empty() {
        return;
    }
    let end = source.len() as u32;
    // A here-document that goes to the end of the file would get another line, and a backslash would join it.
    let content_end = source.trim_end().len() as u32;
    // Readers differ in whether the line end is a part of a block scalar that has none yet.
    let is_verbatim = |node: NodeRef| {
        node.kind() == Kind::HereDocument
            || node.first_token_kind() == TokenKind::BlockScalar && node.kind() == Kind::String
    };
    let here = file.tree.nodes().filter(|node| is_verbatim(*node));
    // Data after the end of a script is no text.
    let is_data = file.tree.root().last_child().is_some_and(|last| last.kind() == Kind::Error);
    if is_data || source.ends_with('\\') || here.into_iter().any(|node| node.span().end >= content_end) {
        return;
    }
    let ending = file.line_end();
    let last_line = file.text.lines().line(source, file.text.lines().count());
    context
        .report(Span::at(end), "the last line has no newline")
        .advice("end the file with one")
        .fix(vec![Edit::insert(end, ending)])
        .anchor(last_line);
}
