use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::habit::{indent_at, line_at};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "blank-lines",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: Some(FixKind::Exact),
    what: "too many blank lines, or too few between definitions",
    why: "Blank lines group what belongs together; where each file uses them differently, they mean nothing.",
    silent: "Stub files, one-line definitions side by side, signatures above the function of the same name, and nested definitions need no blank lines.",
    standards: &["PEP 8, Blank Lines"],
    options: &[
        OptionFacts { name: "most", default: OptionDefault::Count(2), about: "the most blank lines in a row" },
        OptionFacts {
            name: "top",
            default: OptionDefault::Count(2),
            about: "the blank lines around functions and classes of a Python module",
        },
        OptionFacts {
            name: "methods",
            default: OptionDefault::Count(1),
            about: "the blank lines before methods of a Python class",
        },
    ],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "a = 1\n\n\n\n\nb = 2\n", at: &["4:1"], fixed: Some("a = 1\n\n\nb = 2\n") },
                Wrong {
                    code: "import tides\ndef sail():\n    pass\nsail()\n",
                    at: &["2:1", "4:1"],
                    fixed: Some("import tides\n\n\ndef sail():\n    pass\n\n\nsail()\n"),
                },
                Wrong {
                    code: "class Quay:\n    def low(self):\n        pass\n    # High water.\n    @property\n    def high(self):\n        pass\n",
                    at: &["5:5"],
                    fixed: Some(
                        "class Quay:\n    def low(self):\n        pass\n\n    # High water.\n    @property\n    def high(self):\n        pass\n",
                    ),
                },
                Wrong { code: "\na = 1\n\n", at: &["1:1", "3:1"], fixed: Some("a = 1\n") },
            ],
            right: &[
                "@overload\ndef moor(\n    quay: int,\n) -> int: ...\n@overload\ndef moor(\n    quay: str,\n) -> str: ...\ndef moor(quay):\n    return quay\n",
                "import tides\n\n\n# Sails.\ndef sail():\n    pass\n",
                "def a(): ...\ndef b(): ...\n",
                "if tide:\n    def sail():\n        pass\nelse:\n    sail = None\n",
                "x = \"\"\"\n\n\n\n\"\"\"\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "a();\n\n\n\nb();\n", at: &["4:1"], fixed: Some("a();\n\n\nb();\n") }],
            right: &["a();\n\nb();\nfunction c() {}\nfunction d() {}\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "a\n\n\n\nb\n", at: &["4:1"], fixed: Some("a\n\n\nb\n") }],
            right: &["a\n\nb\n"],
        },
    ],
    needs_names: false,
    check: Check::All(&[Kind::File, Kind::Function, Kind::Class], check),
};

fn check(context: &mut Context, nodes: &[NodeRef]) {
    let file = context.file();
    // Where a carriage return is a character like any other, a line that holds one is no blank line.
    let has_returns = file.has_returns_as_text();
    if !file.tree.faults().is_empty() || has_returns {
        return;
    }
    too_many(context);
    if context.file().traits.has_common_style && !context.file().only_describes() {
        for definition in nodes.iter().filter(|node| node.kind() != Kind::File) {
            around(context, *definition);
        }
    }
}

/// Runs of blank lines: at most so many, and none at the ends of the file.
fn too_many(context: &mut Context) {
    let file = context.file();
    let most = context.count("most");
    let lines = file.text.lines();
    let source = file.text.source();
    let count = lines.count();
    let mut run = 0;
    for number in 1..=count + 1 {
        if number <= count && is_blank(file, number) {
            run += 1;
            continue;
        }
        let at_end = number > count || number - run == 1;
        let allowed = if at_end { 0 } else { most };
        if run > allowed {
            let first = number - run + allowed;
            let span = Span::new(lines.full_line(first).start, lines.full_line(number - 1).end);
            let message = match (allowed, run) {
                (0, _) if number > count => "blank lines at the end of the file".to_string(),
                (0, _) => "blank lines at the head of the file".to_string(),
                _ => format!("{run} blank lines, at most {allowed} are allowed"),
            };
            let place = Span::new(span.start, lines.line(source, first).end);
            // A backslash at the end of a line needs another one behind it.
            let is_joined = at_end && source[..span.start as usize].trim_end_matches(['\r', '\n']).ends_with('\\');
            let reported = context.report(place, message).anchor(Span::at(span.start));
            if !is_joined {
                reported.fix(vec![Edit::remove(span)]);
            }
        }
        run = 0;
    }
}

/// Whether a line is empty and no part of a text.
fn is_blank(file: File<'_>, number: u32) -> bool {
    let line = file.text.lines().full_line(number);
    // Most lines show with their first byte, or the one before their end, that they are none.
    let source = file.text.source().as_bytes();
    let shows = |at: Option<u32>| at.and_then(|at| source.get(at as usize)).is_some_and(u8::is_ascii_graphic);
    if line.len() > 1 && (shows(Some(line.start)) || shows(line.end.checked_sub(2))) {
        return false;
    }
    let text = file.text.slice(line);
    // Other spaces of Unicode are words in a shell.
    let is_space = |byte: u8| matches!(byte, b' ' | b'\t' | b'\r' | b'\n' | b'\x0b');
    if !text.bytes().all(is_space) {
        return false;
    }
    let kind = file.tree.token_kind(file.tree.token_at(line.start));
    matches!(kind, TokenKind::Blank | TokenKind::LineEnd | TokenKind::Newline | TokenKind::EndOfFile)
}

/// The blank lines before a definition, and after it where no other one follows.
fn around(context: &mut Context, definition: NodeRef) {
    let Some(holder) = definition.parent() else { return };
    let wanted = match holder.kind() {
        Kind::File => context.count("top"),
        Kind::Block if holder.parent().is_some_and(|class| class.kind() == Kind::Class) => context.count("methods"),
        _ => return,
    };
    // A class may be followed by anything within another one.
    if let Some(before) = definition.previous_sibling()
        && !(is_short(context, before) && is_short(context, definition))
        && !is_signature_of(context, before, definition)
    {
        between(context, before, definition, wanted, definition);
    }
    if let Some(next) = definition.next_sibling()
        && !matches!(next.kind(), Kind::Function | Kind::Class)
        && holder.kind() == Kind::File
        && !is_short(context, definition)
    {
        between(context, definition, next, wanted, definition);
    }
}

/// Whether a function of one line, decorators not counted, or one whose body is left out only says how the next one of the same name may be called.
fn is_signature_of(context: &Context, before: NodeRef, definition: NodeRef) -> bool {
    let (Some(name), Some(next)) = (before.child(Role::Name), definition.child(Role::Name)) else { return false };
    let is_left_out = || before.child(Role::Body).is_some_and(|body| context.text(body) == "...");
    before.kind() == Kind::Function
        && context.text(name) == context.text(next)
        && (context.line(name.span().start) == context.line(before.span().end) || is_left_out())
}

/// A definition on one line.
fn is_short(context: &Context, node: NodeRef) -> bool {
    let is_definition = matches!(node.kind(), Kind::Function | Kind::Class);
    is_definition && context.line(node.span().start) == context.line(node.span().end)
}

fn between(context: &mut Context, one: NodeRef, other: NodeRef, wanted: u32, about: NodeRef) {
    let file = context.file();
    let (last, first) = (context.line(one.span().end), context.line(other.span().start));
    if first <= last {
        return;
    }
    let depth = indent_at(file, other.span().start);
    // Comments directly above belong to what follows.
    let is_above = |number: u32| {
        let text = file.text.slice(file.text.lines().line(file.text.source(), number));
        !text.trim().is_empty() && indent_at(file, file.text.lines().full_line(number).start) == depth
    };
    let mut head = first;
    while head > last + 1 && is_above(head - 1) {
        head -= 1;
    }
    let mut longest = 0;
    let mut run = 0;
    for number in last + 1..first {
        run = if is_blank(file, number) { run + 1 } else { 0 };
        longest = longest.max(run);
    }
    let direct = (last + 1..head).rev().take_while(|number| is_blank(file, *number)).count() as u32;
    if longest >= wanted {
        return;
    }
    let what = if about == other { "before" } else { "behind" };
    let noun = if about.kind() == Kind::Class { "class" } else { "function" };
    let name = about.child(Role::Name).map_or("", |name| context.text(name));
    let start = file.text.lines().full_line(head).start;
    let line_end = file.line_end();
    let place = Span::new(other.span().start, line_at(file, other.span().start).end);
    context
        .report(
            place,
            format!(
                "{} {what} the {noun} \"{name}\", {wanted} {} usual",
                lines_in_words(longest),
                if wanted == 1 { "is" } else { "are" }
            ),
        )
        .fix(vec![Edit::insert(start, line_end.repeat((wanted - direct) as usize))]);
}

fn lines_in_words(count: u32) -> &'static str {
    match count {
        0 => "no blank line",
        _ => "too few blank lines",
    }
}
