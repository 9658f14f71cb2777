use std::collections::BTreeMap;

use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::habit::{begins_line, indent_at, is_clear};
use crate::indent::{all_shifted, long_texts, shifted};
use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "entry-indent",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::OF_DATA,
    fix: Some(FixKind::Exact),
    what: "entries of data that are indented by more or less than a step",
    why: "Readers see by the indentation what belongs to what: where its steps differ, data looks nested differently than it is.",
    silent: "Lists of YAML may be as deep as the key they belong to. What begins on the line of its bracket or dash is left alone, and so are files that are indented with tabs.",
    standards: &[],
    options: &[OptionFacts {
        name: "width",
        default: OptionDefault::Count(0),
        about: "how many spaces a step has; 0 is what two of three objects and lists of the file have",
    }],
    examples: &[
        Examples {
            language: Language::Yaml,
            wrong: &[
                Wrong {
                    code: "north:\n  depth: 3\nsouth:\n    depth: 2\n    # in winter\n    boats:\n    - heron\nmill:\n  depth: 1\n",
                    at: &["4:5"],
                    fixed: Some(
                        "north:\n  depth: 3\nsouth:\n  depth: 2\n  # in winter\n  boats:\n  - heron\nmill:\n  depth: 1\n",
                    ),
                },
                Wrong {
                    code: "a:\n  b: 1\nc:\n  d: 2\ne:\n   - f: |\n       text\n     g: 3\n",
                    at: &["6:4"],
                    fixed: Some("a:\n  b: 1\nc:\n  d: 2\ne:\n  - f: |\n      text\n    g: 3\n"),
                },
            ],
            right: &["north:\n    depth: 3\n", "boats:\n- heron\n- curlew\nquays:\n  - name: north\n    depth: 3\n"],
        },
        Examples {
            language: Language::Json,
            wrong: &[Wrong {
                code: "{\n  \"north\": {\n    \"depth\": 3\n  },\n  \"south\": [\n      2,\n      3\n  ]\n}\n",
                at: &["6:7"],
                fixed: Some("{\n  \"north\": {\n    \"depth\": 3\n  },\n  \"south\": [\n    2,\n    3\n  ]\n}\n"),
            }],
            right: &["{\n\t\"north\": {\n\t\t\"depth\": 3\n\t}\n}\n", "{\"north\": [1,\n           2]}\n"],
        },
        Examples {
            language: Language::Toml,
            wrong: &[Wrong {
                code: "boats = [\n  \"heron\",\n]\nquays = [\n  \"north\",\n]\ntides = [\n    1,\n]\n",
                at: &["8:5"],
                fixed: Some("boats = [\n  \"heron\",\n]\nquays = [\n  \"north\",\n]\ntides = [\n  1,\n]\n"),
            }],
            right: &["boats = [\n    \"heron\",\n]\n"],
        },
    ],
    needs_names: false,
    check: Check::All(&[Kind::Dictionary, Kind::List], check),
};

/// An object or list whose entries are on lines of their own.
struct Stepped<'t> {
    node: NodeRef<'t>,
    /// Where the first entry begins, with its dash if it has one.
    start: u32,
    /// The column that a step is counted from.
    base: usize,
    /// The column of the first entry.
    column: usize,
}

fn check(context: &mut Context, holders: &[NodeRef]) {
    let file = context.file();
    let stepped: Vec<Stepped> = holders.iter().filter_map(|holder| stepped(file, *holder)).collect();
    if stepped.iter().any(|one| indent_at(file, one.start).contains('\t')) {
        return;
    }
    let width = match context.count("width") as usize {
        0 => usual(&stepped),
        width => Some(width),
    };
    let Some(width) = width else { return };
    let texts = long_texts(file);
    // What a fix moves already has none of its own: it follows once that is done.
    let mut moved = 0;
    for one in stepped.iter().filter(|one| one.column != one.base + width) {
        let span = one.node.span();
        let edits = if span.start < moved { Vec::new() } else { edits(file, one, one.base + width, &texts) };
        let step = one.column as i64 - one.base as i64;
        let message = format!("indented by {step}, {width} would be a step");
        let reported = context.report(Span::new(one.start, one.start + 1), message);
        if !edits.is_empty() {
            moved = span.end;
            reported.fix(edits);
        }
    }
}

/// The step that two of three have.
fn usual(all: &[Stepped<'_>]) -> Option<usize> {
    let mut counts: BTreeMap<usize, usize> = BTreeMap::new();
    for step in all.iter().filter_map(|one| one.column.checked_sub(one.base)) {
        *counts.entry(step).or_default() += 1;
    }
    let (step, count) = counts.into_iter().max_by_key(|(_, count)| *count)?;
    (step > 0 && is_clear(count, all.len())).then_some(step)
}

fn stepped<'t>(file: File<'_>, node: NodeRef<'t>) -> Option<Stepped<'t>> {
    let is_enclosed = has_brackets(file, node);
    let first = node.children_in(Role::Element).next()?.span();
    let start = if is_enclosed { first.start } else { node.span().start };
    if !begins_line(file, start) {
        return None;
    }
    let column = indent_at(file, start).len();
    let base = if is_enclosed {
        indent_at(file, node.span().start).len()
    } else {
        // The key that it belongs to, which may be behind a dash.
        let pair = node.parent().filter(|parent| parent.kind() == Kind::Pair)?;
        let line = file.text.lines().full_line(file.text.lines().line_of(pair.span().start));
        let base = (pair.span().start - line.start) as usize;
        if node.kind() == Kind::List && column == base {
            return None;
        }
        base
    };
    Some(Stepped { node, start, base, column })
}

fn has_brackets(file: File<'_>, node: NodeRef<'_>) -> bool {
    file.node_text(node).starts_with(if node.kind() == Kind::List { '[' } else { '{' })
}

/// Moves the lines of the entries. Where brackets hold them together, strings of several lines keep theirs; elsewhere they are moved with
/// what they belong to.
fn edits(file: File<'_>, one: &Stepped<'_>, wanted: usize, texts: &[Span]) -> Vec<Edit> {
    let last = one.node.children_in(Role::Element).last().map_or(one.start, |last| last.span().end);
    let lines = Span::new(one.start, last);
    let by = wanted as i64 - one.column as i64;
    if has_brackets(file, one.node) { shifted(file, texts, lines, by) } else { all_shifted(file, lines, by, |_| false) }
}
