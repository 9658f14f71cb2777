use sieve_meaning::declared::written_type;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, FormattingCall, Level, Mesh, Rule, Wrong};
use crate::placeholders::{format_names, format_places, percent_places, places};
use crate::same::operator_between;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "placeholder-count",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_FORMATTING,
    fix: None,
    what: "a string with more or fewer placeholders than values",
    why: "The line raises an error, or a value or the message is lost: most often it reports an error, and runs for the first time then.",
    silent: "Where values are unpacked or built elsewhere, where a single value may be an array of them, where the string is not in the code, and where a log that may not be one of the library is given values and no places.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "'%s of %s' % (tide,)\n", at: &["1:1"], fixed: None },
                Wrong { code: "'{} of {}'.format(tide)\n", at: &["1:1"], fixed: None },
                Wrong { code: "log.warning('%s of %s', tide)\n", at: &["1:13"], fixed: None },
                Wrong { code: "import logging\n\nlogging.error('no water', tide)\n", at: &["3:15"], fixed: None },
                Wrong { code: "print('%d boats' % (3, 4))\n", at: &["1:7"], fixed: None },
            ],
            right: &[
                "'%s of %s' % (tide, day)\n'%s' % tide\n'%(tide)s' % names\n'100%%' % ()\n",
                "'{0} {0}'.format(tide)\n'{} {}'.format(*both)\n'{{}}'.format()\n",
                "log.warning('%s of %s', tide, day)\nlog.info('%s')\n",
                "def sail(app, error):\n    app.log.error('no water', error)\n",
                "'%*d' % (4, tide)\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[
                Wrong {
                    code: "package fares\n\nfunc due(low int) {\n	fmt.Printf(\"%d of %d\\n\", low)\n}\n",
                    at: &["4:13"],
                    fixed: None,
                },
                Wrong {
                    code: "package fares\n\nfunc due(low int) {\n	log.Fatalf(\"low\", low)\n}\n",
                    at: &["4:13"],
                    fixed: None,
                },
                Wrong {
                    code: "package fares\n\nfunc due(low int) {\n	fmt.Fprintf(out, \"%s\", low, low)\n}\n",
                    at: &["4:19"],
                    fixed: None,
                },
            ],
            right: &[
                "package fares\n\nfunc due(low int) {\n	fmt.Printf(\"%d%%\\n\", low)\n	fmt.Printf(\"%[1]d %[1]v %*d\", low, low, low)\n	fmt.Println(\"%d\")\n	fmt.Printf(\"%d %d\", both...)\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Desk {\n    String sail(int low) {\n        return String.format(\"%s of %s\", low);\n    }\n}\n",
                    at: &["3:30"],
                    fixed: None,
                },
                Wrong {
                    code: "class Desk {\n    int sail(int low) {\n        String.format(\"%s of %s\", \"low\");\n        return 1;\n    }\n}\n",
                    at: &["3:23"],
                    fixed: None,
                },
                Wrong {
                    code: "class Desk {\n    int sail(int low) {\n        System.out.printf(\"%d \" + \"boats%n\", low, low);\n        return 1;\n    }\n}\n",
                    at: &["3:27"],
                    fixed: None,
                },
            ],
            right: &[
                "class Desk {\n    int sail(int low) {\n        String.format(\"%2$s %1$s %%\", low, low);\n        String.format(Locale.ROOT, \"%s\", low);\n        String.format(\"locale %s\", low);\n        String.format(\"%s %s\", values);\n        String.format(text, \"low\", \"high\");\n        return 1;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[
                Wrong {
                    code: "class Desk\n{\n    int Sail(int low)\n    {\n        Console.WriteLine(\"{0} of {1}\", 3);\n        return 1;\n    }\n}\n",
                    at: &["5:27"],
                    fixed: None,
                },
                Wrong {
                    code: "class Desk\n{\n    int Sail(int low)\n    {\n        return string.Format(\"low\", low, 3);\n    }\n}\n",
                    at: &["5:30"],
                    fixed: None,
                },
            ],
            right: &[
                "class Desk\n{\n    int Sail(int low)\n    {\n        Console.WriteLine(\"{0}\");\n        Console.WriteLine(\"{0} {1}\", values);\n        string.Format(text, \"low\", 3);\n        Console.WriteLine(\"{0} {1}\", 3,\n#if OPEN\n            4,\n#endif\n            5);\n        var text = string.Format(culture, \"{0} {{1}} {0}\", 3);\n        return 1;\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::Binary, Kind::Call], check),
};

fn check(context: &mut Context, node: NodeRef) {
    match node.kind() {
        Kind::Binary => on_percent(context, node),
        _ if context.file().traits.formatting_calls.is_empty() => on_call(context, node),
        _ => on_formatting(context, node),
    }
}

/// A call of a function of the library that formats values.
fn on_formatting(context: &mut Context, call: NodeRef) {
    let file = context.file();
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member) else { return };
    let Some(name) = callee.child(Role::Name).map(|name| file.node_text(name)) else { return };
    let is_it = |known: &&FormattingCall| match known.name.strip_prefix('.') {
        Some(method) => method == name,
        None => known.name.ends_with(name) && known.name == file.node_text(callee),
    };
    let Some(known) = file.traits.formatting_calls.iter().find(is_it).filter(|_| !file.is_test()) else { return };
    let arguments: Vec<NodeRef> = call.child(Role::Arguments).into_iter().flat_map(NodeRef::children).collect();
    let first = arguments.first().filter(|first| whole_text(file, **first).is_none());
    let first = first.map(|first| file.node_text(*first).to_lowercase());
    let is_behind = first.is_some_and(|first| known.behind.iter().any(|word| first.contains(word)));
    let Some((text, values)) = arguments.get(usize::from(is_behind)..).and_then(<[NodeRef]>::split_first) else {
        return;
    };
    let has_branches = || call.token_range().any(|token| call.tree().token_kind(token) == TokenKind::Directive);
    let is_open = |value: &NodeRef| matches!(value.kind(), Kind::Spread | Kind::KeywordArgument);
    if values.iter().any(is_open) || known.may_be_plain && values.is_empty() || has_branches() {
        return;
    }
    let may_be_all = known.takes_arrays && values.len() == 1 && !is_one_value(context, values[0]);
    let Some(places) = whole_text(file, *text).and_then(|text| places(known.form, &text)) else { return };
    if !(may_be_all && places != 1) {
        report(context, *text, places, values.len());
    }
}

/// Whether an expression is one value, and no array of several: a literal, or a variable of a type of the language itself.
fn is_one_value(context: &Context, value: NodeRef) -> bool {
    match value.kind() {
        Kind::String | Kind::Number | Kind::Character | Kind::Boolean => true,
        Kind::Name => {
            let Some(written) = written_type(context.names(), value) else { return false };
            let is_plain = written.kind() == Kind::PredefinedType && context.text(written) != "object";
            is_plain || context.text(written) == "String"
        }
        _ => false,
    }
}

/// The value of a string, or of several that are joined; nothing for other expressions.
fn whole_text(file: File<'_>, node: NodeRef) -> Option<String> {
    match node.kind() {
        Kind::String => file.language.string_value(file.node_text(node)),
        Kind::Binary => {
            let (left, right) = (node.child(Role::Left)?, node.child(Role::Right)?);
            let (operator, _) = operator_between(file, left, right)?;
            // Sums go on to the left: what is on the right is one string.
            let behind = (operator == TokenKind::Plus && right.kind() == Kind::String).then_some(right)?;
            let behind = whole_text(file, behind)?;
            Some(whole_text(file, left)? + &behind)
        }
        _ => None,
    }
}

fn on_percent(context: &mut Context, binary: NodeRef) {
    let (Some(left), Some(right)) = (binary.child(Role::Left), binary.child(Role::Right)) else { return };
    let file = context.file();
    if left.kind() != Kind::String {
        return;
    }
    let is_percent = operator_between(file, left, right).is_some_and(|(kind, _)| kind == TokenKind::Percent);
    if is_percent && right.kind() == Kind::Dictionary && !file.is_test() {
        return on_mapping(context, left, right);
    }
    let Some(tuple) = unwrapped(right).filter(|right| is_percent && right.kind() == Kind::Tuple) else { return };
    if tuple.children().any(|element| element.kind() == Kind::Spread) || file.is_test() {
        return;
    }
    let Some(places) = file.language.string_value(file.node_text(left)).and_then(|text| percent_places(&text)) else {
        return;
    };
    report(context, left, places, tuple.children().count());
}

/// `"%(name)s" % {"name": …}`: each name must be a key of the dictionary.
fn on_mapping(context: &mut Context, text: NodeRef, dictionary: NodeRef) {
    let file = context.file();
    let mut keys = Vec::new();
    for pair in dictionary.children() {
        let key = pair.child(Role::Key).filter(|key| pair.kind() == Kind::Pair && key.kind() == Kind::String);
        // Other keys may be any.
        let Some(key) = key.and_then(|key| file.language.string_value(file.node_text(key))) else { return };
        keys.push(key);
    }
    let Some(format) = file.language.string_value(file.node_text(text)) else { return };
    for part in format.split("%(").skip(1) {
        let Some((name, _)) = part.split_once(')') else { return };
        if !keys.iter().any(|key| key == name) {
            return report_name(context, text, name);
        }
    }
}

fn report_name(context: &mut Context, text: NodeRef, name: &str) {
    context.report(text.span(), format!("no value is given for \"{name}\"")).advice("give it, or correct the name");
}

/// What is in parentheses.
fn unwrapped(node: NodeRef) -> Option<NodeRef> {
    if node.kind() == Kind::Group { node.child(Role::Value) } else { Some(node) }
}

fn on_call(context: &mut Context, call: NodeRef) {
    let file = context.file();
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member) else { return };
    let (Some(object), Some(name)) = (callee.child(Role::Object), callee.child(Role::Name)) else { return };
    let is_one =
        matches!(file.node_text(name), "format" | "debug" | "info" | "warning" | "error" | "critical" | "exception");
    if !is_one {
        return;
    }
    let arguments: Vec<NodeRef> = call.child(Role::Arguments).into_iter().flat_map(|all| all.children()).collect();
    if arguments.iter().any(|argument| argument.kind() == Kind::Spread) || file.is_test() {
        return;
    }
    let given: Vec<&str> = arguments
        .iter()
        .filter_map(|one| one.child_of(Kind::KeywordArgument, Role::Name))
        .map(|name| file.node_text(name))
        .collect();
    let positions: Vec<NodeRef> =
        arguments.into_iter().filter(|argument| argument.kind() != Kind::KeywordArgument).collect();
    let value = |text: NodeRef| {
        (text.kind() == Kind::String).then(|| file.language.string_value(file.node_text(text))).flatten()
    };
    match file.node_text(name) {
        "format" => {
            let Some(text) = value(object) else { return };
            let Some(places) = format_places(&text) else { return };
            if places > positions.len() {
                report(context, object, places, positions.len());
            } else if let Some(name) = format_names(&text).into_iter().find(|name| !given.contains(name)) {
                report_name(context, object, name);
            }
        }
        "debug" | "info" | "warning" | "error" | "critical" | "exception" if is_log(file.node_text(object)) => {
            let [text, values @ ..] = positions.as_slice() else { return };
            // A single value may be a mapping; without values the text is taken as it is.
            let Some(places) = value(*text).and_then(|text| percent_places(&text)) else { return };
            let is_mapping = values.len() == 1 && matches!(values[0].kind(), Kind::Dictionary);
            // Some projects give their log another form of placeholders, or have one that shows all values.
            let is_of_library = || file.once(|| MentionsLibrary(file.text.source().contains("logging"))).0;
            let has_other_form = places == 0 && (file.node_text(*text).contains('{') || !is_of_library());
            if !values.is_empty() && !is_mapping && !has_other_form && places != values.len() {
                report(context, *text, places, values.len());
            }
        }
        _ => {}
    }
}

/// Whether a file mentions the library whose logs take placeholders.
struct MentionsLibrary(bool);

fn is_log(object: &str) -> bool {
    let last = object.rsplit('.').next().unwrap_or_default().to_ascii_lowercase();
    matches!(last.trim_matches('_'), "log" | "logger" | "logging")
}

fn report(context: &mut Context, text: NodeRef, places: usize, values: usize) {
    if places == values {
        return;
    }
    let of = |count: usize, word: &str| if count == 1 { format!("1 {word}") } else { format!("{count} {word}s") };
    context
        .report(text.span(), format!("this string has {} for {}", of(places, "place"), of(values, "value")))
        .advice("give each placeholder a value");
}
