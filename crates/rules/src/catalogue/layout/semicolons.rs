use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::habit::{chosen, last_kind, last_token, significant_from};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "semicolons",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx, Language::Css],
    fix: Some(FixKind::Exact),
    what: "statements that end with a semicolon where the rest of the file has none, or the reverse",
    why: "Readers need not ask whether the difference means something, and reviews show no changes without meaning.",
    silent: "A semicolon without which the next line would continue the statement stays. In a style sheet only the last declaration of a block may be without one, and those in a block of one line are left alone.",
    standards: &[],
    options: &[OptionFacts {
        name: "end",
        default: OptionDefault::Choice("as-is", &["as-is", "always", "never"]),
        about: "whether semicolons end statements: as-is is what the file mostly has",
    }],
    examples: &[
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "sail();\nmoor();\nwait()\n", at: &["3:7"], fixed: Some("sail();\nmoor();\nwait();\n") },
                Wrong { code: "sail()\nmoor()\nwait();\n", at: &["3:7"], fixed: Some("sail()\nmoor()\nwait()\n") },
                Wrong {
                    code: "a();\nexport default b\nb();\n",
                    at: &["2:17"],
                    fixed: Some("a();\nexport default b;\nb();\n"),
                },
            ],
            right: &[
                "sail()\nmoor();\n[1, 2].forEach(sail)\nwait()\n",
                "sail();\nfor (let i = 0; i < 3; i++) moor();\nfunction f() {}\nclass A { b() {} }\nexport function c() {}\n",
                "sail()\nmoor()\nif (x) { wait() }\n",
            ],
        },
        Examples {
            language: Language::Css,
            wrong: &[Wrong {
                code: "a {\n  top: 0;\n}\nb {\n  top: 0;\n  left: 0; /* low */\n}\ni {\n  top: 0\n}\n",
                at: &["9:9"],
                fixed: Some("a {\n  top: 0;\n}\nb {\n  top: 0;\n  left: 0; /* low */\n}\ni {\n  top: 0;\n}\n"),
            }],
            right: &["a {\n  top: 0;\n}\nb { top: 0 }\ni {\n  top: 0 }\n", "a {\n  top: 0\n}\nb {\n  top: 0;\n}\n"],
        },
    ],
    needs_names: false,
    check: Check::All(ENDED, check),
};

/// Statements that a semicolon may end.
const ENDED: &[Kind] = &[
    Kind::ExpressionStatement,
    Kind::Declaration,
    Kind::Return,
    Kind::Throw,
    Kind::Break,
    Kind::Continue,
    Kind::Debugger,
    Kind::Import,
    Kind::Export,
    Kind::TypeAlias,
    Kind::ImportAssignment,
    Kind::Field,
    Kind::StyleDeclaration,
];

fn check(context: &mut Context, statements: &[NodeRef]) {
    let file = context.file();
    let ended: Vec<NodeRef> = statements.iter().copied().filter(|statement| may_end(file, *statement)).collect();
    let has: Vec<bool> = ended.iter().map(|statement| semicolon_of(file, *statement).is_some()).collect();
    let Some(wanted) = chosen(context, "end", "always", &has) else { return };
    for statement in ended {
        match (wanted, semicolon_of(file, statement)) {
            (true, None) => {
                let end = statement.span().end;
                let place = Span::at(end);
                context
                    .report(place, "no semicolon ends this statement")
                    .advice("end it with one")
                    .fix(vec![Edit::insert(end, ";")])
                    .anchor(statement.span());
            }
            (false, Some(semicolon)) if is_free(file, statement, semicolon) => {
                let span = file.tree.token_span(semicolon);
                context
                    .report(span, "a semicolon ends this statement")
                    .advice("remove it, as in the rest of the file")
                    .fix(vec![Edit::remove(span)])
                    .anchor(statement.span());
            }
            _ => {}
        }
    }
}

/// The semicolon that ends a statement, as a part of it or after it.
fn semicolon_of(file: File<'_>, statement: NodeRef) -> Option<TokenId> {
    let last = last_token(statement)?;
    let is_it = |token: &TokenId| file.tree.token_kind(*token) == TokenKind::Semicolon;
    let after = || significant_from(file, last + 1).filter(|_| statement.kind() == Kind::StyleDeclaration);
    Some(last).filter(is_it).or_else(|| after().filter(is_it))
}

/// Whether a declaration of a style sheet is the last of its block, which ends on another line: only there a semicolon may be missing.
fn is_last_declaration(file: File<'_>, declaration: NodeRef) -> bool {
    let Some(block) = declaration.parent().filter(|block| block.kind() == Kind::Block) else { return false };
    let lines = file.text.lines();
    let ends = lines.line_of(declaration.span().end) < lines.line_of(block.span().end.saturating_sub(1));
    ends && last_kind(block) == TokenKind::BraceClose && declaration.next_sibling().is_none()
}

/// Whether a semicolon may end the node: it is a statement, and not one that ends with a block or a declaration of its own.
fn may_end(file: File<'_>, statement: NodeRef) -> bool {
    if statement.kind() == Kind::StyleDeclaration {
        return is_last_declaration(file, statement);
    }
    let stands_alone = matches!(statement.role(), Role::Statement | Role::Body | Role::Else);
    let in_class = statement.kind() != Kind::Field || statement.class_around().is_some();
    let ends_otherwise = match statement.kind() {
        Kind::Export => {
            statement.child(Role::Value).is_some_and(|value| {
                value.kind().is_statement()
                    || matches!(value.kind(), Kind::Declaration | Kind::Interface | Kind::ClassExpression)
                    || file.node_text(value).starts_with("function")
                    || file.node_text(value).starts_with("async function")
            }) || statement.child(Role::Name).is_some()
        }
        Kind::Declaration => statement.parent().is_some_and(|parent| parent.kind() == Kind::For),
        _ => false,
    };
    // The body of an arrow function is no statement of its own.
    let is_body =
        statement.role() == Role::Body && statement.parent().is_some_and(|parent| parent.kind().is_function());
    stands_alone && in_class && !ends_otherwise && !is_body
}

/// Whether the code is read in the same way without a semicolon: it is last on its line, and what follows cannot go on with the
/// statement.
fn is_free(file: File<'_>, statement: NodeRef, semicolon: TokenId) -> bool {
    if statement.kind() == Kind::StyleDeclaration {
        return true;
    }
    if statement.kind() == Kind::Field || matches!(statement.role(), Role::Body | Role::Else) {
        return false;
    }
    let Some(next) = significant_from(file, semicolon + 1) else { return true };
    let between = Span::new(file.tree.token_start(semicolon + 1), file.tree.token_start(next));
    let next_kind = file.tree.token_kind(next);
    if matches!(next_kind, TokenKind::BraceClose | TokenKind::EndOfFile) {
        return true;
    }
    let begins = matches!(
        next_kind,
        TokenKind::Const
            | TokenKind::Var
            | TokenKind::If
            | TokenKind::For
            | TokenKind::While
            | TokenKind::Return
            | TokenKind::Throw
            | TokenKind::Try
            | TokenKind::Switch
            | TokenKind::Case
            | TokenKind::Default
            | TokenKind::Break
            | TokenKind::Continue
            | TokenKind::Class
            | TokenKind::Import
            | TokenKind::Export
            | TokenKind::This
            | TokenKind::New
            | TokenKind::Await
            | TokenKind::Delete
    ) || is_plain_name(file, next);
    begins && file.text.slice(between).contains('\n')
}

/// A name that is no word of the language in any place.
fn is_plain_name(file: File<'_>, token: TokenId) -> bool {
    let name = file.text.slice(file.tree.token_span(token));
    file.tree.token_kind(token) == TokenKind::Name
        && !matches!(name, "as" | "satisfies" | "of" | "in" | "instanceof" | "is")
}
