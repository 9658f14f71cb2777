use std::cell::LazyCell;

use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::habit::{begins_line, clear_unit_of, indent_at, line_at};
use crate::indent::{at_line_starts, bases, holds_markup, long_texts, shifted, statements_of, with_comments_below};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "indent-width",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::SPACED_BY_HAND,
    fix: Some(FixKind::Exact),
    what: "blocks that are indented by more or less than a step",
    why: "Readers see nesting by the indentation: where its steps differ, code looks nested differently than it is.",
    silent: "Continuation lines keep their distance from the first line of the statement. Files that are indented with tabs, labels, declarations whose names are below each other but for a vendor's prefix, cases of a switch, functions within a condition, and code between tags are left alone.",
    standards: &["PEP 8, Indentation"],
    options: &[OptionFacts {
        name: "width",
        default: OptionDefault::Count(0),
        about: "how many spaces a step has; 0 is four in Python, and elsewhere what two of three blocks of the file have",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "if tide:\n  sail()\n  if quay:\n    moor()\n",
                    at: &["2:3", "4:5"],
                    fixed: Some("if tide:\n    sail()\n    if quay:\n        moor()\n"),
                },
                Wrong {
                    code: "def sail():\n     return (1,\n             2)\n",
                    at: &["2:6"],
                    fixed: Some("def sail():\n    return (1,\n            2)\n"),
                },
            ],
            right: &["if tide:\n    sail()\nelse:\n    moor()\n", "if tide: sail()\n", "if tide:\n\tsail()\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "if (a) {\n  b();\n}\nif (c) {\n    d();\n}\nwhile (e) {\n  f();\n}\n",
                    at: &["5:5"],
                    fixed: Some("if (a) {\n  b();\n}\nif (c) {\n  d();\n}\nwhile (e) {\n  f();\n}\n"),
                },
                Wrong {
                    code: "if (a) {\n  b();\n    c();\n}\n",
                    at: &["3:5"],
                    fixed: Some("if (a) {\n  b();\n  c();\n}\n"),
                },
            ],
            right: &[
                "promise\n  .then(() => {\n    sail();\n  });\nif (a &&\n    b) {\n  sail();\n}\n",
                "switch (a) {\ncase 1:\n  sail();\n}\n",
                "while (a) {\n  b();\n}\nif (!some(b, function (c) {\n      return c;\n    })) {\n  sail();\n}\n",
                "(function () {\nsail();\nmoor();\n})();\n",
            ],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong {
                code: "if a; then\n  b\nfi\nfor c in d; do\n     e\ndone\nwhile f; do\n  g\ndone\n",
                at: &["5:6"],
                fixed: Some("if a; then\n  b\nfi\nfor c in d; do\n  e\ndone\nwhile f; do\n  g\ndone\n"),
            }],
            right: &[
                "#!/bin/sh\nusage() {\n    cat <<EOF\nUsage: $0 quay\n  and more\nEOF\n    if low; then\n        wait\n    fi\n    moor\n}\n",
                "if a; then\n    b\nfi\n",
                "case a in\n  b) c ;;\nesac\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Desk {\n    void sail() {\n        moor();\n          pay();\n    }\n}\n",
                at: &["4:11"],
                fixed: Some("class Desk {\n    void sail() {\n        moor();\n        pay();\n    }\n}\n"),
            }],
            right: &[
                "class Desk {\n    void sail() {\n        switch (tide) {\n        case 1:\n            moor();\n        }\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "namespace Ferry\n{\n    class Desk\n    {\n        int low;\n         int high;\n    }\n}\n",
                at: &["6:10"],
                fixed: Some(
                    "namespace Ferry\n{\n    class Desk\n    {\n        int low;\n        int high;\n    }\n}\n",
                ),
            }],
            right: &["class Desk\n{\n    int low;\n#if OPEN\n    int high;\n#endif\n}\n"],
        },
        Examples {
            language: Language::Css,
            wrong: &[Wrong {
                code: ".quay {\n  color: red;\n   top: 0;\n}\n@media print {\n  a {\n    top: 0;\n  }\n}\n",
                at: &["3:4"],
                fixed: Some(".quay {\n  color: red;\n  top: 0;\n}\n@media print {\n  a {\n    top: 0;\n  }\n}\n"),
            }],
            right: &[
                "a {\n  top: 0;\n}\n@media print {\na {\n  top: 0;\n}\n}\n",
                "a {\n  -webkit-box-flex: 1;\n          box-flex: 1;\n  top: 0;\n}\n",
            ],
        },
        Examples {
            language: Language::Hcl,
            wrong: &[Wrong {
                code: "quay \"north\" {\n  depth = 4\n    light {\n      lamps = 2\n    }\n}\n",
                at: &["3:5"],
                fixed: Some("quay \"north\" {\n  depth = 4\n  light {\n    lamps = 2\n  }\n}\n"),
            }],
            right: &["quay \"north\" {\n  note = <<-EOT\nlow\n    water\n  EOT\n}\n"],
        },
    ],
    needs_names: false,
    check: Check::All(&[Kind::Block], check),
};

/// The strings of several lines, looked for when they are first needed.
type Texts<'t> = dyn std::ops::Deref<Target = Vec<Span>> + 't;

/// The step of languages whose published style names one (PEP 8, Indentation).
const PUBLISHED: usize = 4;

fn check(context: &mut Context, blocks: &[NodeRef]) {
    let file = context.file();
    let usual = || clear_unit_of(file).filter(|unit| !unit.contains('\t')).map_or(0, |unit| unit.len());
    let width = match context.count("width") as usize {
        0 if file.traits.indents_blocks => PUBLISHED,
        0 => usual(),
        width => width,
    };
    // A carriage return that is a character like any other begins no line, whatever it looks like.
    let has_returns = file.has_returns_as_text();
    // Python counts the columns of a line anew after a form feed.
    let has_feeds = file.traits.indents_blocks && memchr::memchr(b'\x0c', file.text.source().as_bytes()).is_some();
    if width == 0 || blocks.is_empty() || has_returns || has_feeds {
        return;
    }
    let texts = LazyCell::new(|| long_texts(file));
    // What a fix moves already has none of its own: it follows once that is done, and each line is moved by one fix only.
    let mut moved: Vec<Span> = Vec::new();
    for block in blocks {
        on_block(context, *block, width, &texts, &mut moved);
    }
}

fn on_block(context: &mut Context, block: NodeRef, width: usize, texts: &Texts, moved: &mut Vec<Span>) {
    let file = context.file();
    if is_plainly_right(file, block, width)
        || block.parent().is_none_or(|holder| holder.kind() == Kind::Case && !file.traits.indents_blocks)
    {
        return;
    }
    // A function within a condition is deeper, so that it is not taken for the body.
    let expression = block.ancestors().take_while(|around| !around.kind().is_statement());
    if expression.into_iter().any(|around| around.role() == Role::Condition) {
        return;
    }
    let statements = at_line_starts(file, block);
    let Some(bases) = bases(file, block) else { return };
    let depth = |statement: &NodeRef| indent_at(file, statement.span().start);
    let Some(base) = bases.first().copied().filter(|_| !statements.is_empty()) else { return };
    if statements.iter().any(|statement| depth(statement).contains('\t')) {
        return;
    }
    // Labels are where their authors want them to be seen.
    let is_labeled = |node: &NodeRef| node.kind() == Kind::Labeled;
    if block.parent().and_then(NodeRef::parent).is_some_and(|around| is_labeled(&around)) {
        return;
    }
    let fits = |statement: &&NodeRef| {
        is_labeled(statement)
            || bases.iter().any(|base| depth(statement).len() == base + width)
            || is_below_prefixed(file, **statement)
    };
    let wrong: Vec<&NodeRef> = statements.iter().filter(|statement| !fits(statement)).collect();
    let Some(first) = wrong.first() else { return };
    // A file whose whole content is in one function is often left at the margin.
    let at_margin = |statement: &NodeRef| depth(statement).len() == base;
    if !file.traits.indents_blocks && statements.iter().all(at_margin) {
        return;
    }
    let wanted = base + width;
    let message = match depth(first).len().checked_sub(base) {
        Some(step) => format!("indented by {step}, {width} would be a step"),
        None => format!("this is left of what it belongs to; {width} to the right would be a step"),
    };
    let place = first.span();
    let last = moved.partition_point(|span| span.start <= block.span().start).checked_sub(1);
    let is_moved = last.is_some_and(|last| moved[last].contains(block.span()));
    let edits = if is_moved { None } else { edits(file, block, &wrong, wanted, texts) };
    if edits.is_some() && file.traits.indents_blocks {
        moved.push(block.span());
    } else if edits.is_some() {
        moved.extend(wrong.iter().map(|statement| statement.span()));
    }
    let reported = context.report(place, message);
    if let Some(edits) = edits {
        reported.fix(edits);
    }
}

/// How many declarations away one may be that differs by a prefix: there are about as many vendors.
const NEAR: usize = 4;

/// Whether a declaration of a style sheet is where its name without a vendor's prefix begins below that of one near it.
fn is_below_prefixed(file: File<'_>, declaration: NodeRef) -> bool {
    let plain_name_of = |node: NodeRef| {
        let name = Some(node).filter(|node| node.kind() == Kind::StyleDeclaration)?.child(Role::Name)?;
        let (start, prefix) = (name.span().start, vendor_prefix(file.node_text(name)).len() as u32);
        Some((start + prefix - line_at(file, start).start, prefix > 0))
    };
    let Some((column, is_prefixed)) = plain_name_of(declaration) else { return false };
    let above = std::iter::successors(declaration.previous_sibling(), |other| other.previous_sibling()).take(NEAR);
    let below = std::iter::successors(declaration.next_sibling(), |other| other.next_sibling()).take(NEAR);
    let mut beside = above.chain(below).filter_map(plain_name_of);
    beside.any(|(other, other_is_prefixed)| column == other && (is_prefixed || other_is_prefixed))
}

/// The `-moz-` of `-moz-order`, which may be nothing.
fn vendor_prefix(name: &str) -> &str {
    let inner = name.strip_prefix('-').filter(|rest| !rest.starts_with('-'));
    let end = inner.and_then(|rest| rest.find('-')).map_or(0, |hyphen| hyphen + 2);
    &name[..end]
}

/// Whether all statements that begin their lines are one step deeper than the line of the block's holder: so are nearly all.
fn is_plainly_right(file: File<'_>, block: NodeRef, width: usize) -> bool {
    let Some(holder) = block.parent() else { return true };
    let base = indent_at(file, holder.span().start).len();
    statements_of(block).all(|statement| {
        let start = statement.span().start;
        let indent = indent_at(file, start);
        indent.len() == base + width && !indent.contains('\t') || !begins_line(file, start)
    })
}

/// Moves a block as a whole where lines matter, else each of its statements that are wrong.
fn edits(file: File<'_>, block: NodeRef, wrong: &[&NodeRef], wanted: usize, texts: &[Span]) -> Option<Vec<Edit>> {
    let depth = |offset: u32| indent_at(file, offset).len();
    if wrong.iter().any(|statement| holds_markup(**statement)) {
        return None;
    }
    let mut edits = Vec::new();
    if file.traits.indents_blocks {
        let start = wrong[0].span().start;
        let first = comments_above(file, start, depth(start));
        let lines = with_comments_below(file, Span::new(first, block.span().end), depth(start));
        edits = shifted(file, texts, lines, wanted as i64 - depth(start) as i64);
    } else {
        for statement in wrong {
            let span = statement.span();
            let first = comments_above(file, span.start, depth(span.start));
            edits.extend(shifted(file, texts, Span::new(first, span.end), wanted as i64 - depth(span.start) as i64));
        }
    }
    (!edits.is_empty()).then_some(edits)
}

/// The start of the comments directly above a line that are as deep.
fn comments_above(file: File<'_>, offset: u32, depth: usize) -> u32 {
    let lines = file.text.lines();
    let source = file.text.source();
    let mut start = offset;
    for number in (1..lines.line_of(offset)).rev() {
        let line = lines.line(source, number);
        let text = file.text.slice(line);
        let blanks = text.len() - text.trim_start().len();
        let is_comment = file.tree.token_kind(file.tree.token_at(line.start + blanks as u32)) == TokenKind::Comment;
        if !(text.trim().is_empty() || is_comment && blanks >= depth) {
            break;
        }
        start = if is_comment { line.start } else { start };
    }
    start
}
