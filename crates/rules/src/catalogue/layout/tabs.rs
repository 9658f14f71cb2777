use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, Role};

use crate::habit::{chosen, indent_at, unit_of};
use crate::indent::{in_text, long_texts};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "tabs",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: Some(FixKind::Exact),
    what: "lines indented with tabs where the rest of the file has spaces, or the reverse",
    why: "The width of a tab depends on each reader's settings, so lines that mix tabs with spaces look nested differently than they are.",
    silent: "Lines that begin inside a string are left alone, and spaces after tabs, which line something up.",
    standards: &["PEP 8, Tabs or Spaces?"],
    options: &[OptionFacts {
        name: "indent",
        default: OptionDefault::Choice("as-is", &["as-is", "spaces", "tabs"]),
        about: "what lines are indented with: as-is is as most lines of the file",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "if tide:\n    sail()\nif quay:\n    moor()\nif fare:\n\tpay()\n",
                at: &["6:1"],
                fixed: Some("if tide:\n    sail()\nif quay:\n    moor()\nif fare:\n    pay()\n"),
            }],
            right: &[
                "if tide:\n\tsail()\n",
                "if tide:\n    sail()\n",
                "x = \"\"\"\n\ty\n\"\"\"\nif tide:\n    sail()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "if (a) {\n  b();\n  c();\n\td();\n}\n",
                    at: &["4:1"],
                    fixed: Some("if (a) {\n  b();\n  c();\n  d();\n}\n"),
                },
                Wrong {
                    code: "if (a) {\n\tb();\n\tc();\n        d();\n}\n",
                    at: &["4:1"],
                    fixed: Some("if (a) {\n\tb();\n\tc();\n\td();\n}\n"),
                },
            ],
            right: &["if (a) {\n\tb(c,\n\t  d);\n}\n"],
        },
    ],
    needs_names: false,
    check: Check::File(check),
};

/// How wide a tab is where the language says so (Python, "Indentation") and spaces are beside it, and where blocks give no measure.
const TAB: usize = 8;

fn check(context: &mut Context) {
    let file = context.file();
    let lines = file.text.lines();
    let source = file.text.source();
    // Most files have no tabs, and nothing asks for any.
    if context.word("indent") != "tabs" && memchr::memchr(b'\t', source.as_bytes()).is_none() {
        return;
    }
    let texts = long_texts(file);
    let starts = (1..=lines.count()).map(|number| lines.line(source, number));
    let indented: Vec<Span> = starts
        .filter(|line| matches!(source.as_bytes().get(line.start as usize), Some(b' ' | b'\t')))
        .filter(|line| !file.text.slice(*line).trim().is_empty() && !in_text(file, &texts, line.start))
        .map(|line| Span::new(line.start, line.start + indent_at(file, line.start).len() as u32))
        .collect();
    let has_tabs: Vec<bool> = indented.iter().map(|indent| file.text.slice(*indent).starts_with('\t')).collect();
    let Some(wanted) = chosen(context, "indent", "tabs", &has_tabs) else { return };
    let unit = unit_of(file);
    // Where tabs are wanted, only what is as wide as one can become one.
    let by_blanks = !wanted && !unit.contains('\t') && (!file.traits.indents_blocks || tabs_stand_alone(file));
    let width = if by_blanks { unit.len() } else { TAB };
    let wrong: Vec<Edit> = indented.into_iter().filter_map(|indent| reindented(file, indent, wanted, width)).collect();
    let (what, advice) =
        if wanted { ("indented with spaces", "use tabs") } else { ("indented with tabs", "use spaces") };
    // Where whitespace decide what belongs together, lines can only change all at once.
    if file.traits.indents_blocks {
        let Some(first) = wrong.first().map(|edit| edit.span) else { return };
        let message = match wrong.len() {
            1 => format!("this line is {what}"),
            count => format!("{count} lines are {what}, this is the first"),
        };
        context.report(first, message).advice(advice).fix(wrong);
        return;
    }
    for edit in wrong {
        context.report(edit.span, format!("this line is {what}")).advice(advice).fix(vec![edit]);
    }
}

/// Whether no block that is indented with tabs is in one that is indented with spaces, so that a tab is one step.
fn tabs_stand_alone(file: File<'_>) -> bool {
    let blocks = file.tree.nodes_of(Kind::Block);
    blocks.into_iter().all(|block| {
        let Some(holder) = block.parent() else { return true };
        let (outer, inner) = (indent_at(file, holder.span().start), indent_at(file, block.span().start));
        let is_even = |indent: &str| !(indent.contains('\t') && indent.contains(' '));
        is_even(inner) && is_even(outer) && (!inner.contains('\t') || !outer.contains(' '))
    })
}

/// The edit that gives a line the wanted indentation, if it has another one.
fn reindented(file: File<'_>, indent: Span, wants_tabs: bool, width: usize) -> Option<Edit> {
    let text = file.text.slice(indent);
    if !wants_tabs {
        return text.contains('\t').then(|| Edit::replace(indent, " ".repeat(columns(text, width))));
    }
    let columns = columns(text, TAB);
    let edit = || Edit::replace(indent, "\t".repeat(columns / TAB) + &" ".repeat(columns % TAB));
    is_mixed(file, indent, width).then(edit)
}

/// How many columns an indentation covers.
fn columns(indent: &str, width: usize) -> usize {
    indent.chars().fold(0, |column, blank| if blank == '\t' { (column / width + 1) * width } else { column + 1 })
}

/// Whitespace before a tab, or whitespace alone before a statement, as many as make a step.
fn is_mixed(file: File<'_>, indent: Span, width: usize) -> bool {
    let text = file.text.slice(indent);
    let begins_statement = || {
        let node = file.tree.covering(Span::new(indent.end, indent.end + 1));
        std::iter::once(node)
            .chain(node.ancestors())
            .take_while(|around| around.span().start == indent.end)
            .any(|around| around.role() == Role::Statement)
    };
    text.contains(" \t") || (!text.contains('\t') && text.len() >= width && begins_statement())
}
