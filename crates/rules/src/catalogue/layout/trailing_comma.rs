use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::habit::{begins_line, chosen, last_token, significant_before};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "trailing-comma",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: Some(FixKind::Exact),
    what: "a comma before a closing bracket on the same line, or a missing one where the rest of the file has one",
    why: "With a comma after each element of a list over several lines, a new last element changes one line only.",
    silent: "Lists whose elements share a line, calls with one argument and lists of one element in Python need no comma; the comma that makes a tuple of one stays, and so does one before a comment.",
    standards: &["PEP 8, When to Use Trailing Commas"],
    options: &[OptionFacts {
        name: "several-lines",
        default: OptionDefault::Choice("as-is", &["as-is", "always", "never"]),
        about: "whether a comma follows the last element of a list whose bracket closes on a line of its own: as-is is what the file mostly has",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "sail(north, south,)\n", at: &["1:18"], fixed: Some("sail(north, south)\n") },
                Wrong {
                    code: "a = [\n    1,\n    2,\n]\nb = {\n    2,\n    3,\n}\nc = [\n    3,\n    4\n]\n",
                    at: &["11:6"],
                    fixed: Some("a = [\n    1,\n    2,\n]\nb = {\n    2,\n    3,\n}\nc = [\n    3,\n    4,\n]\n"),
                },
            ],
            right: &[
                "a = (1,)\nx[1,]\nf(i for i in x)\n",
                "a = [\n    1,\n    2,\n]\nsail(\n    north, south\n)\nmoor(\n    1,\n    2,\n)\n",
                "a = [\n    1,\n    2]\n",
                "sail(\n    *north\n)\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "sail(north, south,);\n", at: &["1:18"], fixed: Some("sail(north, south);\n") },
                Wrong {
                    code: "a = [\n  1\n];\nb = {\n  c\n};\nd = [\n  2,\n];\n",
                    at: &["8:4"],
                    fixed: Some("a = [\n  1\n];\nb = {\n  c\n};\nd = [\n  2\n];\n"),
                },
            ],
            right: &[
                "const a = [1, , ];\nconst b = [,];\nsail(quay, /* tide */ );\n",
                "a = [\n  1,\n];\nsail(\n  b\n);\n",
                "const c = [\n  1,\n];\nfunction f(\n  a,\n  ...rest\n) {}\nconst {\n  ...d\n} = e;\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::All(LISTS, check),
};

const LISTS: &[Kind] = &[
    Kind::Arguments,
    Kind::Parameters,
    Kind::List,
    Kind::Dictionary,
    Kind::Set,
    Kind::Tuple,
    Kind::MappingPattern,
    Kind::SequencePattern,
    Kind::Import,
    Kind::Export,
];

/// A list in brackets, by its last tokens.
#[derive(Clone, Copy)]
struct List {
    /// What is before the closing bracket.
    last: TokenId,
    close: TokenId,
    has_comma: bool,
    /// Calls and parameters, where the comma came to the languages later than to literals.
    of_call: bool,
    /// The elements and the closing bracket are first on lines of their own.
    is_long: bool,
}

fn check(context: &mut Context, nodes: &[NodeRef]) {
    let file = context.file();
    let lists: Vec<List> = nodes.iter().filter_map(|node| list(file, *node)).collect();
    for of_call in [false, true] {
        let here = || lists.iter().filter(move |list| list.of_call == of_call);
        let long: Vec<bool> = here().filter(|list| list.is_long).map(|list| list.has_comma).collect();
        let wanted = chosen(context, "several-lines", "always", &long);
        for list in here() {
            on_list(context, list, wanted);
        }
    }
}

fn on_list(context: &mut Context, list: &List, wanted: Option<bool>) {
    let file = context.file();
    let last = file.tree.token_span(list.last);
    let on_one_line = context.line(last.end - 1) == context.line(file.tree.token_start(list.close));
    let behind = file.text.slice(Span::new(last.end, file.tree.token_start(list.close)));
    if list.has_comma && on_one_line && !list.is_long && behind.trim().is_empty() {
        context.report(last, "this comma separates nothing").advice("leave it out").fix(vec![Edit::remove(last)]);
    } else if list.is_long && list.has_comma && wanted == Some(false) {
        context
            .report(last, "a comma follows the last element")
            .advice("remove it, as in the others")
            .fix(vec![Edit::remove(last)]);
    } else if list.is_long && !list.has_comma && wanted == Some(true) {
        context
            .report(Span::at(last.end), "no comma follows the last element")
            .advice("add one, as in the others")
            .fix(vec![Edit::insert(last.end, ",")])
            .anchor(last);
    }
}

/// A node as a list that may have a comma before its closing bracket.
fn list(file: File<'_>, node: NodeRef) -> Option<List> {
    let mut close = last_token(node)?;
    if matches!(node.kind(), Kind::Import | Kind::Export) {
        // What names the module is after the bracket.
        close = (node.token_range()).rev().find(|token| {
            file.tree.token_kind(*token) == TokenKind::BraceClose
                || file.tree.token_kind(*token) == TokenKind::ParenClose
        })?;
        let ends_item = node.children_in(Role::Item).last().is_some_and(|item| {
            significant_before(file, close).is_some_and(|before| before >= item.token_range().start)
        });
        if !ends_item || node.children().any(|child| child.role() == Role::Value) {
            return None;
        }
    }
    if !file.tree.token_kind(close).closes() {
        return None;
    }
    // The last bracket may be that of the last element.
    if node.last_child().is_some_and(|child| child.token_range().end > close) {
        return None;
    }
    let last = significant_before(file, close).filter(|last| *last >= node.token_range().start)?;
    let kind = file.tree.token_kind(last);
    let has_comma = kind == TokenKind::Comma;
    // Most lists are of one line, and say nothing of the others.
    if !has_comma && !begins_line(file, file.tree.token_start(close)) {
        return None;
    }
    let before = significant_before(file, last).map(|before| file.tree.token_kind(before))?;
    let is_hole = has_comma && (before == TokenKind::Comma || before.opens());
    if kind.opens() || is_hole || !takes_comma(file, node) {
        return None;
    }
    let of_call = matches!(node.kind(), Kind::Arguments | Kind::Parameters);
    let is_long = has_own_lines(file, node, of_call) && begins_line(file, file.tree.token_start(close));
    Some(List { last, close, has_comma, of_call, is_long })
}

/// Whether each element has lines of its own, by the last two: those that share a line are not asked for a comma, nor is a single argument, nor, in
/// Python, a single element.
fn has_own_lines(file: File<'_>, node: NodeRef, of_call: bool) -> bool {
    let is_import = matches!(node.kind(), Kind::Import | Kind::Export);
    let elements: Vec<NodeRef> = node.children().filter(|child| !is_import || child.role() == Role::Item).collect();
    match elements.as_slice() {
        [] => false,
        [_] => !of_call && !file.traits.comma_makes_sequence,
        [.., last] => begins_line(file, last.span().start),
    }
}

fn takes_comma(file: File<'_>, node: NodeRef) -> bool {
    let children = || node.children();
    let last = children().last();
    match node.kind() {
        Kind::Tuple => children().count() > 1,
        Kind::Arguments => {
            let of_call = node.parent().is_some_and(|call| matches!(call.kind(), Kind::Call | Kind::New | Kind::Class));
            // A generator may be alone only.
            of_call && !last.is_some_and(|last| last.kind() == Kind::Comprehension)
        }
        Kind::Set | Kind::List | Kind::Dictionary => true,
        // Nothing may follow the rest of parameters and patterns.
        // A comma makes a sequence of one thing, or of one pattern.
        Kind::MappingPattern | Kind::SequencePattern if file.traits.comma_makes_sequence => false,
        _ if file.traits.comma_makes_sequence => true,
        _ => last.is_some_and(|last| !file.node_text(last).starts_with("...")),
    }
}
