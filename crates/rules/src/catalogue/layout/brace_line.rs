use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, TokenId, TokenKind};

use crate::habit::{begins_line, chosen, indent_at, last_token, significant_from};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "brace-line",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Shell,
        Language::Java,
        Language::CSharp,
    ],
    fix: Some(FixKind::Exact),
    what: "opening braces on the line of their statement where the rest of the file has them on the next one, or the reverse",
    why: "Readers need not ask whether the difference means something, and reviews show no changes without meaning.",
    silent: "Blocks with a comment before their brace, blocks of one line, and braces on their own line after a statement head of several lines are left alone.",
    standards: &[],
    options: &[
        OptionFacts {
            name: "open",
            default: OptionDefault::Choice("as-is", &["as-is", "same-line", "next-line"]),
            about: "where the brace of a block is: as-is is what the file mostly has, asked apart for functions, types and statements",
        },
        OptionFacts {
            name: "go-on",
            default: OptionDefault::Choice("as-is", &["as-is", "same-line", "next-line"]),
            about: "where else, catch and finally are after a brace",
        },
    ],
    examples: &[
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "if (a) {\n  b();\n}\nwhile (c) {\n  d();\n}\nif (e)\n{\n  f();\n}\n",
                    at: &["8:1"],
                    fixed: Some("if (a) {\n  b();\n}\nwhile (c) {\n  d();\n}\nif (e) {\n  f();\n}\n"),
                },
                Wrong {
                    code: "if (a) {\n  b();\n}\nelse {\n  c();\n}\nif (d) {\n  e();\n} else {\n  f();\n}\ntry {\n  g();\n} catch {\n  h();\n}\n",
                    at: &["4:1"],
                    fixed: Some(
                        "if (a) {\n  b();\n} else {\n  c();\n}\nif (d) {\n  e();\n} else {\n  f();\n}\ntry {\n  g();\n} catch {\n  h();\n}\n",
                    ),
                },
            ],
            right: &[
                "if (a)\n{\n  b();\n}\nelse\n{\n  c();\n}\n",
                "{\n  a();\n}\nif (b) { c(); }\n",
                "if (a) {\n  b();\n}\nif (\n  c\n  && d)\n{\n  e();\n}\nif (f) {\n  g();\n}\n",
                "if (a) {\n  b();\n}\n// Otherwise.\nelse {\n  c();\n}\n",
            ],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong {
                code: "low() {\n  moor\n}\nhigh() {\n  sail\n}\nebb()\n{\n  wait\n}\n",
                at: &["8:1"],
                fixed: Some("low() {\n  moor\n}\nhigh() {\n  sail\n}\nebb() {\n  wait\n}\n"),
            }],
            right: &["low()\n{\n  moor\n}\nhigh() { sail; }\n{\n  wait\n}\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Desk {\n    void sail() {\n        if (low) {\n            moor();\n        }\n    }\n    void moor() {\n        while (low)\n        {\n            sail();\n        }\n        if (high) {\n            pay();\n        }\n    }\n}\n",
                at: &["9:9"],
                fixed: Some(
                    "class Desk {\n    void sail() {\n        if (low) {\n            moor();\n        }\n    }\n    void moor() {\n        while (low) {\n            sail();\n        }\n        if (high) {\n            pay();\n        }\n    }\n}\n",
                ),
            }],
            right: &[
                "class Desk {\n    void sail()\n    {\n        if (low) {\n            moor();\n        }\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    void Sail()\n    {\n        if (low)\n        {\n            Moor();\n        }\n        else if (high)\n        {\n            Pay();\n        }\n        while (low) {\n            Sail();\n        }\n    }\n}\n",
                at: &["13:21"],
                fixed: Some(
                    "class Desk\n{\n    void Sail()\n    {\n        if (low)\n        {\n            Moor();\n        }\n        else if (high)\n        {\n            Pay();\n        }\n        while (low)\n        {\n            Sail();\n        }\n    }\n}\n",
                ),
            }],
            right: &[
                "class Desk {\n\tvoid Sail ()\n\t{\n\t\tif (low) {\n\t\t\tMoor ();\n\t\t}\n\t}\n\tint Low { get; set; }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::All(&[Kind::Block], check),
};

fn check(context: &mut Context, blocks: &[NodeRef]) {
    let file = context.file();
    for head in [Head::Function, Head::Type, Head::Other] {
        let own = blocks.iter().filter(|block| Head::of(**block) == head);
        let heads: Vec<(TokenId, bool)> = own.filter_map(|block| head_brace(file, *block)).collect();
        on_tokens(context, "open", &heads, "brace");
    }
    let words: Vec<(TokenId, bool)> = blocks.iter().filter_map(|block| word_behind(file, *block)).collect();
    on_tokens(context, "go-on", &words, "word");
}

/// What a block belongs to: some have the braces of functions or types on the next line and all others where their heads are.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Head {
    Function,
    Type,
    Other,
}

impl Head {
    fn of(block: NodeRef) -> Head {
        match block.parent().map(NodeRef::kind) {
            Some(Kind::Function) => Head::Function,
            Some(Kind::Class | Kind::Enum | Kind::Interface | Kind::Namespace) => Head::Type,
            _ => Head::Other,
        }
    }
}

/// Tokens that are on the line of what precedes them, or on the next one.
fn on_tokens(context: &mut Context, option: &str, tokens: &[(TokenId, bool)], what: &str) {
    let file = context.file();
    let on_same: Vec<bool> = tokens.iter().map(|(_, same)| *same).collect();
    let Some(wants_same) = chosen(context, option, "same-line", &on_same) else { return };
    for (token, _) in tokens.iter().filter(|(_, same)| *same != wants_same) {
        let Some(before) = code_before(file, *token) else { continue };
        let between = Span::new(file.tree.token_span(before).end, file.tree.token_start(*token));
        if !file.text.slice(between).trim().is_empty() {
            continue;
        }
        let line_end = file.line_end();
        let (edit, message) = if wants_same {
            (Edit::replace(between, " "), format!("this {what} is on a line of its own"))
        } else {
            let indent = indent_at(file, head_start(file, *token));
            (
                Edit::replace(between, format!("{line_end}{indent}")),
                format!("this {what} is behind something on its line"),
            )
        };
        context
            .report(file.tree.token_span(*token), message)
            .advice("place it as in the rest of the file")
            .fix(vec![edit]);
    }
}

/// Where the statement begins that a brace or word belongs to.
fn head_start(file: File<'_>, token: TokenId) -> u32 {
    let span = file.tree.token_span(token);
    let node = file.tree.covering(span);
    let holder = if node.kind() == Kind::Block { node.parent().unwrap_or(node) } else { node };
    holder.span().start
}

/// The brace of a block of several lines that belongs to a head, and whether it is on the line of the head's end.
fn head_brace(file: File<'_>, block: NodeRef) -> Option<(TokenId, bool)> {
    let holder = block.parent()?;
    if file.traits.runs_commands {
        return function_brace(file, holder, block);
    }
    let alone = matches!(holder.kind(), Kind::File | Kind::Block | Kind::Case | Kind::StaticBlock);
    let lines = file.text.lines();
    let many_lines = lines.line_of(block.span().start) != lines.line_of(block.span().end);
    if alone || !many_lines || block.first_token_kind() != TokenKind::BraceOpen {
        return None;
    }
    let brace = block.token_range().start;
    let own_line = begins_line(file, block.span().start);
    // After a long head a brace on its own line parts it from the body.
    let head_end = code_before(file, brace)?;
    let is_word = matches!(
        file.tree.token_kind(head_end),
        TokenKind::Else | TokenKind::Finally | TokenKind::Try | TokenKind::Do | TokenKind::Catch
    );
    let last_line = lines.line_of(file.tree.token_start(head_end));
    let long_head = !is_word && lines.line_of(holder.span().start) != last_line;
    (!(own_line && long_head)).then_some((brace, !own_line))
}

/// The last token before another one that is no blank, comment or line end, whether line ends matter or not.
fn code_before(file: File<'_>, token: TokenId) -> Option<TokenId> {
    let kind = |before: &TokenId| file.tree.token_kind(*before);
    (0..token).rev().find(|before| !kind(before).is_trivia() && !kind(before).is_layout())
}

/// The brace of a shell function of several lines, which is before its block.
fn function_brace(file: File<'_>, function: NodeRef, block: NodeRef) -> Option<(TokenId, bool)> {
    let brace = code_before(file, block.token_range().start).filter(|_| function.kind() == Kind::Function)?;
    let lines = file.text.lines();
    let many_lines = lines.line_of(function.span().start) != lines.line_of(function.span().end);
    let is_own = file.tree.token_kind(brace) == TokenKind::BraceOpen && brace >= function.token_range().start;
    (is_own && many_lines).then(|| (brace, !begins_line(file, file.tree.token_start(brace))))
}

/// The word that goes on after a block's closing brace.
fn word_behind(file: File<'_>, block: NodeRef) -> Option<(TokenId, bool)> {
    let close = last_token(block)
        .filter(|_| block.parent().is_some_and(|holder| matches!(holder.kind(), Kind::If | Kind::Try | Kind::Catch)))?;
    let next = significant_from(file, close + 1)?;
    let goes_on = matches!(file.tree.token_kind(next), TokenKind::Else | TokenKind::Catch | TokenKind::Finally);
    let closes = file.tree.token_kind(close) == TokenKind::BraceClose;
    (goes_on && closes).then(|| (next, !begins_line(file, file.tree.token_start(next))))
}
