use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::habit::{indent_at, line_at};
use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "stacked-statements",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Java,
        Language::CSharp,
        Language::Css,
    ],
    fix: Some(FixKind::Exact),
    what: "several statements, or declarations of a style sheet, on one line",
    why: "The second statement is easily missed, cannot have a breakpoint of its own, and makes changes hard to read.",
    silent: "A class or function whose whole body is `pass` or `...` may be on one line.",
    standards: &["PEP 8, Other Recommendations"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "sail(); moor()\n", at: &["1:9"], fixed: Some("sail()\nmoor()\n") },
                Wrong {
                    code: "if tide: sail(); moor()\n",
                    at: &["1:10"],
                    fixed: Some("if tide:\n    sail()\n    moor()\n"),
                },
                Wrong {
                    code: "def go():\n  while tide: wait()  # long\n",
                    at: &["2:15"],
                    fixed: Some("def go():\n  while tide:\n    wait()  # long\n"),
                },
                Wrong { code: "sail();\n", at: &["1:7"], fixed: Some("sail()\n") },
            ],
            right: &["sail()\nmoor()\n", "class NoTide(Exception): pass\n", "def sail(): ...\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "sail(); moor();\n", at: &["1:9"], fixed: Some("sail();\nmoor();\n") },
                Wrong {
                    code: "function go() {\n  a(); b(); c();\n}\n",
                    at: &["2:8", "2:13"],
                    fixed: Some("function go() {\n  a();\n  b();\n  c();\n}\n"),
                },
            ],
            right: &[
                "switch (tide) {\n  case 1: {\n    moor();\n  } break;\n}\n",
                "sail();\nmoor();\n",
                "sail()\n;(moor || wait)()\n",
                "const go = () => { a(); b(); };\nswitch (tide) {\n  case 1: a(); break;\n  default: b();\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Desk {\n    int sail(int low) {\n        moor(); return low;\n    }\n}\n",
                at: &["3:17"],
                fixed: Some("class Desk {\n    int sail(int low) {\n        moor();\n        return low;\n    }\n}\n"),
            }],
            right: &[
                "class Desk {\n    int sail(int low) {\n        switch (low) { case 1: moor(); break; }\n        for (int i = 0, j = 1; i < j; i++) moor();\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    int Sail(int low)\n    {\n        Moor(); return low;\n    }\n}\n",
                at: &["5:17"],
                fixed: Some(
                    "class Desk\n{\n    int Sail(int low)\n    {\n        Moor();\n        return low;\n    }\n}\n",
                ),
            }],
            right: &[
                "class Desk\n{\n    int Sail(int low)\n    {\n        if (low > 1) { Moor(); return 1; }\n    }\n}\n",
                "class Desk { int Low { get; set; } }\n",
            ],
        },
        Examples {
            language: Language::Css,
            wrong: &[Wrong {
                code: ".quay {\n  top: 0; left: 0;\n  color: red;\n}\n.deck { top: 0; } .desk { top: 0; }\n",
                at: &["2:11", "5:19"],
                fixed: Some(".quay {\n  top: 0;\n  left: 0;\n  color: red;\n}\n.deck { top: 0; }\n.desk { top: 0; }\n"),
            }],
            right: &[".quay { top: 0; left: 0; }\n@media print { a { top: 0; } b { top: 0; } }\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Block, Kind::File], check),
};

fn check(context: &mut Context, block: NodeRef) {
    let Some(first) = block.children().next() else { return };
    if !context.file().language.spec().lines_matter {
        return on_free_sequence(context, block);
    }
    let inline = inline_header(block, first);
    if inline.is_none() && !block.children().any(|statement| semicolon_after(statement).is_some()) {
        return;
    }
    let statements: Vec<NodeRef> = block.children().collect();
    if !statements.iter().all(|statement| statement.kind().is_statement()) {
        return;
    }
    match inline {
        Some(header) => on_inline_body(context, header, block, &statements),
        None => on_sequence(context, block, &statements),
    }
}

/// The statement on whose first line, or clause's line, the block is.
fn inline_header<'t>(block: NodeRef<'t>, first: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let header = block.parent()?;
    let tree = block.tree();
    let before =
        (0..first.token_range().start).rev().map(|token| tree.token_kind(token)).find(|kind| !kind.is_trivia())?;
    (before == TokenKind::Colon).then_some(header)
}

fn on_inline_body(context: &mut Context, header: NodeRef, block: NodeRef, statements: &[NodeRef]) {
    let is_definition = matches!(header.kind(), Kind::Function | Kind::Class);
    if is_definition && statements.len() == 1 && does_nothing(statements[0]) {
        return;
    }
    let file = context.file();
    let line_end = file.line_end();
    let indent = format!("{line_end}{}{}", indent_at(file, block.span().start), unit(file));
    let colon_end = end_before(block.tree(), statements[0]);
    let mut edits = vec![Edit::replace(Span::new(colon_end, statements[0].span().start), indent.clone())];
    edits.extend(separators(file, statements, &indent));
    // The new lines are indented as this one is: it must not move meanwhile.
    let line_start = line_at(file, block.span().start).start;
    if line_start <= colon_end {
        edits.push(Edit::claim(line_start));
    }
    context
        .report(statements[0].span(), "the body is on the line of its statement")
        .advice("put the body on its own line")
        .fix(edits);
}

/// Statements beside each other where lines are free. What is on the line of its brace or of its case is meant as one line.
fn on_free_sequence(context: &mut Context, block: NodeRef) {
    let file = context.file();
    let statements: Vec<NodeRef> =
        block.children().filter(|child| child.role() == Role::Statement && child.kind().is_statement()).collect();
    let line_end = file.line_end();
    for pair in statements.windows(2) {
        let line = context.line(pair[1].span().start);
        let last_line = context.line(pair[0].span().end.saturating_sub(1));
        if last_line != line {
            continue;
        }
        let head = file.text.lines().line(file.text.source(), line).start;
        // The first statement that reaches into this line begins it.
        let first = statements.partition_point(|other| other.span().end <= head);
        let first = statements.get(first).map_or(head, |first| first.span().start);
        let begins_line = first < head || file.text.slice(Span::new(head, first)).trim().is_empty();
        let between = Span::new(pair[0].span().end, pair[1].span().start);
        // A semicolon may be a part of the statement, or between two.
        let separator = file.text.slice(between).trim();
        let only_blanks = matches!(separator, "" | ";");
        // A semicolon at the head of a line ends the statement above, for those who leave the others out.
        let is_empty = pair.iter().any(|statement| statement.kind() == Kind::Pass)
            || file.text.slice(Span::new(head.max(pair[0].span().start), pair[0].span().end)).trim() == ";";
        // `case 1: { … } break;`
        let ends_case = pair[0].kind() == Kind::Block && pair[1].kind() == Kind::Break;
        if !begins_line || !only_blanks || is_empty || ends_case {
            continue;
        }
        let indent = indent_at(file, pair[0].span().start);
        context
            .report(pair[1].span(), "a second statement on the same line")
            .advice("put it on a line of its own")
            .fix(vec![Edit::replace(between, format!("{separator}{line_end}{indent}"))]);
    }
}

/// Statements after a semicolon.
fn on_sequence(context: &mut Context, block: NodeRef, statements: &[NodeRef]) {
    let file = context.file();
    let Some(first) = statements.first() else { return };
    let line_end = file.line_end();
    let indent = match block.kind() {
        Kind::File => line_end.to_string(),
        _ => format!("{line_end}{}", indent_at(file, first.span().start)),
    };
    for (index, statement) in statements.iter().enumerate() {
        let next = statements.get(index + 1).copied();
        let Some(edit) = separator(file, *statement, next, &indent) else { continue };
        let stacked = next.map(|next| next.span()).filter(|_| !edit.text.is_empty());
        let place = stacked.unwrap_or(semicolon_after(*statement).unwrap_or(edit.span));
        let message = match stacked {
            Some(_) => "a second statement on the same line",
            None => "this semicolon separates nothing",
        };
        context.report(place, message).advice("put it on a line of its own").fix(vec![edit]);
    }
}

/// The edits that break the line at each semicolon.
fn separators(file: File<'_>, statements: &[NodeRef], indent: &str) -> Vec<Edit> {
    let followers = statements.iter().skip(1).map(|next| Some(*next)).chain([None]);
    statements.iter().zip(followers).filter_map(|(statement, next)| separator(file, *statement, next, indent)).collect()
}

/// What takes the place of the semicolon after a statement, if there is one.
fn separator(file: File<'_>, statement: NodeRef, next: Option<NodeRef>, indent: &str) -> Option<Edit> {
    let semicolon = semicolon_after(statement)?;
    let lines = file.text.lines();
    let next = next.filter(|next| lines.line_of(next.span().start) == lines.line_of(semicolon.start));
    Some(match next {
        Some(next) => Edit::replace(Span::new(statement.span().end, next.span().start), indent),
        None => Edit::remove(Span::new(statement.span().end, semicolon.end)),
    })
}

fn semicolon_after(statement: NodeRef) -> Option<Span> {
    let tree = statement.tree();
    let token = (statement.token_range().end..).find(|token| !tree.token_kind(*token).is_trivia())?;
    (tree.token_kind(token) == TokenKind::Semicolon).then(|| tree.token_span(token))
}

/// The end of the last token before a statement that is no trivia.
fn end_before(tree: &sieve_syntax::tree::Tree, statement: NodeRef) -> u32 {
    let before = (0..statement.token_range().start).rev().find(|token| !tree.token_kind(*token).is_trivia());
    before.map_or(statement.span().start, |token| tree.token_span(token).end)
}

/// One step of indentation as the file has it; four whitespace where it has none.
fn unit(file: File<'_>) -> &str {
    let tokens = file.tree.tokens();
    let first = tokens.iter().position(|token| token.kind == TokenKind::Indent);
    let blank = first.filter(|index| *index > 0 && tokens[index - 1].kind == TokenKind::Blank);
    blank.map_or("    ", |index| file.text.slice(file.tree.token_span(index as u32 - 1)))
}

fn does_nothing(statement: NodeRef) -> bool {
    statement.kind() == Kind::Pass
        || statement
            .child(Role::Value)
            .is_some_and(|value| statement.kind() == Kind::ExpressionStatement && value.kind() == Kind::EllipsisLiteral)
}
