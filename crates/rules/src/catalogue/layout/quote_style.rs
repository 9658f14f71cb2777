use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::habit::chosen;

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule,
    Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "quote-style",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_EITHER_QUOTES,
    fix: Some(FixKind::Exact),
    what: "strings with other quotes than in the rest of the file",
    why: "Readers need not ask whether the difference means something, and reviews show no changes without meaning.",
    silent: "A string that holds a quote of either kind keeps its own, so that no escapes are added; so do attributes of tags between code. A file that has as many of each is left alone.",
    standards: &["PEP 8, String Quotes"],
    options: &[OptionFacts {
        name: "quotes",
        default: OptionDefault::Choice("as-is", &["as-is", "double", "single"]),
        about: "which quotes: as-is is what the file mostly has",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "a = 'tide'\nb = 'quay'\nc = \"fare\"\n",
                    at: &["3:5"],
                    fixed: Some("a = 'tide'\nb = 'quay'\nc = 'fare'\n"),
                },
                Wrong { code: "x = '''tide'''\n", at: &["1:5"], fixed: Some("x = \"\"\"tide\"\"\"\n") },
                Wrong {
                    code: "a = 'x' + 'y'\nb = f\"{a} of\"\n",
                    at: &["2:5"],
                    fixed: Some("a = 'x' + 'y'\nb = f'{a} of'\n"),
                },
            ],
            right: &[
                "a = 'tide'\nb = 'quay'\nc = \"it's\"\n",
                "a = 'tide'\nb = \"quay\"\n",
                "a = f\"{x['a']}\"\nb = 'c' + 'd'\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "const a = 'tide', b = 'quay', c = \"fare\";\n",
                at: &["1:35"],
                fixed: Some("const a = 'tide', b = 'quay', c = 'fare';\n"),
            }],
            right: &[
                "const a = 'tide', b = 'quay', c = <p id=\"fare\">d</p>;\n",
                "const a = 'it', b = 'is', c = `so`;\n",
            ],
        },
        Examples {
            language: Language::Yaml,
            wrong: &[Wrong {
                code: "low: '1.2'\nhigh: '3.4'\nquay: \"no\"\n",
                at: &["3:7"],
                fixed: Some("low: '1.2'\nhigh: '3.4'\nquay: 'no'\n"),
            }],
            right: &["low: '1.2'\nhigh: '3.4'\nquay: \"a\\tb\"\nboat: it's\n", "low: '1'\nhigh: \"3\"\n"],
        },
        Examples {
            language: Language::Css,
            wrong: &[Wrong {
                code: "@charset \"utf-8\";\n@import 'quay.css';\na::after { content: 'low'; }\na[href=\"fares\"] { top: 0; }\n",
                at: &["4:8"],
                fixed: Some(
                    "@charset \"utf-8\";\n@import 'quay.css';\na::after { content: 'low'; }\na[href='fares'] { top: 0; }\n",
                ),
            }],
            right: &["a::before { content: '\"'; }\nb::before { content: \"\"; }\ni::before { content: \"low\"; }\n"],
        },
        Examples {
            language: Language::Html,
            wrong: &[Wrong {
                code: "<p id=\"low\" class=\"tide\" title='water'>a</p>\n",
                at: &["1:32"],
                fixed: Some("<p id=\"low\" class=\"tide\" title=\"water\">a</p>\n"),
            }],
            right: &[
                "<p id=\"low\" class=tide title='\"low\" water'>a</p>\n<p id=\"{{ 'a' }}\" title='{{ b }}'>a</p>\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::All(&[Kind::String, Kind::Bytes, Kind::FormatString], check),
};

fn check(context: &mut Context, strings: &[NodeRef]) {
    let file = context.file();
    // A text within a formatted one cannot have the quotes of that one.
    let mut inside = 0;
    let outer = strings.iter().copied().filter(|string| {
        let span = string.span();
        let is_outer = span.start >= inside;
        if is_outer && string.kind() == Kind::FormatString {
            inside = span.end;
        }
        is_outer
    });
    let strings: Vec<NodeRef> = outer.collect();
    let plain: Vec<(NodeRef, char)> =
        strings.iter().filter_map(|string| Some((*string, free_quote(file, *string)?))).collect();
    let is_double: Vec<bool> = plain.iter().map(|(_, quote)| *quote == '"').collect();
    let wanted = chosen(context, "quotes", "double", &is_double).map(|double| if double { '"' } else { '\'' });
    for (string, quote) in plain {
        if wanted.is_some_and(|wanted| wanted != quote) {
            let wanted = if quote == '"' { '\'' } else { '"' };
            let edits = with_quotes(context.text(string), string.span(), quote, wanted);
            context
                .report(string.span(), format!("this string is in {}", name_of(quote)))
                .advice(format!("use {} like the others", name_of(wanted)))
                .fix(edits);
        }
    }
    if file.traits.prefixed_strings {
        for string in strings {
            on_long_text(context, string);
        }
    }
}

fn name_of(quote: char) -> &'static str {
    if quote == '"' { "double quotes" } else { "single quotes" }
}

/// The quote of a text of one line that could have either.
fn free_quote(file: File<'_>, string: NodeRef) -> Option<char> {
    let stays = string.parent().is_some_and(|parent| match parent.kind() {
        // In a page, whose attributes are all that has quotes, they may change; between code they follow those of pages.
        Kind::Attribute => !file.traits.is_page,
        // Browsers look for the bytes of `@charset "utf-8";` and for no others.
        Kind::Prelude => parent.parent().is_some_and(|rule| names_charset(file, rule)),
        _ => false,
    });
    let text = file.node_text(string);
    let prefix = text.bytes().take_while(u8::is_ascii_alphabetic).count();
    let quote = *text.as_bytes().get(prefix).filter(|quote| matches!(quote, b'"' | b'\''))?;
    let inner = text.as_bytes()[prefix + 1..].strip_suffix(&[quote])?;
    let holds_quotes = memchr::memchr2(b'"', b'\'', inner).is_some();
    // An escape within a formatted text may be in an expression; in data one kind of quotes knows escapes, and the other none.
    let keeps_escapes = string.kind() != Kind::FormatString && !file.language.is_data();
    let may_change = keeps_escapes || memchr::memchr(b'\\', inner).is_none();
    let prefixed = prefix == 0 || file.traits.prefixed_strings;
    // Beside another quote an empty string would open a longer one.
    let span = string.span();
    let source = file.text.source().as_bytes();
    let beside = [span.start.checked_sub(1), Some(span.end)].into_iter().flatten();
    let touches = beside.into_iter().any(|at| matches!(source.get(at as usize), Some(b'"' | b'\'')));
    (!touches && !stays && !holds_quotes && may_change && prefixed).then_some(char::from(quote))
}

fn names_charset(file: File<'_>, rule: NodeRef) -> bool {
    rule.child(Role::Name).is_some_and(|name| file.node_text(name) == "@charset")
}

fn with_quotes(text: &str, span: Span, quote: char, wanted: char) -> Vec<Edit> {
    let first = span.start + text.find(quote).unwrap_or(0) as u32;
    vec![Edit::replace(Span::new(first, first + 1), wanted), Edit::replace(Span::new(span.end - 1, span.end), wanted)]
}

/// A text between three quotes has double ones.
fn on_long_text(context: &mut Context, string: NodeRef) {
    let text = context.text(string);
    let body = text.trim_start_matches(|first: char| first.is_ascii_alphabetic());
    let Some(inner) = body.strip_prefix("\'\'\'").and_then(|rest| rest.strip_suffix("\'\'\'")) else { return };
    if inner.contains('"')
        || inner.ends_with('\\')
        || (string.kind() == Kind::FormatString && inner.contains(['\\', '\'']))
    {
        return;
    }
    let span = string.span();
    let first = span.start + (text.len() - body.len()) as u32;
    let edits = vec![
        Edit::replace(Span::new(first, first + 3), "\"\"\""),
        Edit::replace(Span::new(span.end - 3, span.end), "\"\"\""),
    ];
    context
        .report(Span::new(span.start, first + 3), "this string is in three single quotes")
        .advice("use double quotes")
        .fix(edits);
}
