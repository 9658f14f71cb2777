use rustc_hash::FxHashMap;
use sieve_meaning::names::{Binding, DeclarationKind, ScopeId, ScopeKind};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, NameStyle, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "spelled-out-constant",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Probable,
    languages: Language::WITH_EXPRESSIONS,
    fix: Some(FixKind::Review),
    what: "a string that a constant of the same file or type holds already",
    why: "When the constant changes, the copy keeps the old value, and nobody looks for it.",
    silent: "For short strings and single words, which often mean several things; where several constants hold the string; in tests, in lists and tables of values, for keys, and where a type or an import is written.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "TIDE_TABLE = 'tides/2026.csv'\n\ndef load():\n    return read('tides/2026.csv')\n",
                at: &["4:17"],
                fixed: Some("TIDE_TABLE = 'tides/2026.csv'\n\ndef load():\n    return read(TIDE_TABLE)\n"),
            }],
            right: &[
                "TIDE_TABLE = 'tides/2026.csv'\nOLD_TABLE = 'tides/2026.csv'\n\ndef load():\n    'tides/2026.csv'\n    return read('tides/2026.csv')\n",
                "NORTH = 'north'\n\ndef load():\n    return read('north')\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "const TIDE_TABLE = \"tides/2026.csv\";\nload(\"tides/2026.csv\");\n",
                at: &["2:6"],
                fixed: Some("const TIDE_TABLE = \"tides/2026.csv\";\nload(TIDE_TABLE);\n"),
            }],
            right: &[
                "const tideTable = \"tides/2026.csv\";\nload(\"tides/2026.csv\");\n",
                "const TIDE_TABLE = \"tides/2026.csv\";\nfunction load(TIDE_TABLE) {\n  return read(\"tides/2026.csv\");\n}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package tides\n\nconst table = \"tides/2026.csv\"\n\nfunc load() string {\n\treturn read(\"tides/2026.csv\")\n}\n",
                at: &["6:14"],
                fixed: Some(
                    "package tides\n\nconst table = \"tides/2026.csv\"\n\nfunc load() string {\n\treturn read(table)\n}\n",
                ),
            }],
            right: &[
                "package tides\n\nvar table = \"tides/2026.csv\"\n\nfunc load() string {\n\treturn read(\"tides/2026.csv\")\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "const TABLE: &str = \"tides/2026.csv\";\n\nfn load() -> Table {\n    read(\"tides/2026.csv\")\n}\n",
                at: &["4:10"],
                fixed: Some("const TABLE: &str = \"tides/2026.csv\";\n\nfn load() -> Table {\n    read(TABLE)\n}\n"),
            }],
            right: &[
                "const TABLE: &str = \"tides/2026.csv\";\n\nmod old {\n    fn load() -> Table {\n        read(\"tides/2026.csv\")\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Tides {\n    static final String TABLE = \"tides/2026.csv\";\n\n    Table load() {\n        return read(\"tides/2026.csv\");\n    }\n}\n",
                at: &["5:21"],
                fixed: Some(
                    "class Tides {\n    static final String TABLE = \"tides/2026.csv\";\n\n    Table load() {\n        return read(TABLE);\n    }\n}\n",
                ),
            }],
            right: &[
                "class Tides {\n    static final String TABLE = \"tides/2026.csv\";\n}\n\nclass Board {\n    Table load() {\n        return read(\"tides/2026.csv\");\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Tides\n{\n    const string Table = \"tides/2026.csv\";\n\n    string Load() => Read(\"tides/2026.csv\");\n}\n",
                at: &["5:27"],
                fixed: Some(
                    "class Tides\n{\n    const string Table = \"tides/2026.csv\";\n\n    string Load() => Read(Table);\n}\n",
                ),
            }],
            right: &[
                "class Tides\n{\n    string table = \"tides/2026.csv\";\n\n    string Load() => Read(\"tides/2026.csv\");\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::All(&[Kind::String], check),
};

/// A constant that holds a string.
#[derive(Clone, Copy)]
struct Constant<'t> {
    name: NodeRef<'t>,
    /// The file, or the type in which it is seen.
    home: NodeRef<'t>,
}

fn check(context: &mut Context, strings: &[NodeRef]) {
    if context.file().is_test() || context.file().only_describes() {
        return;
    }
    let constants = constants(context);
    if constants.is_empty() {
        return;
    }
    let is_long = |string: &&NodeRef| string.span().len() as usize >= SHORTEST;
    for string in strings.iter().filter(is_long).filter(|string| is_value(**string)) {
        let Some(text) = context.file().language.string_value(context.text(*string)) else { continue };
        // Several that hold the same mean different things.
        if let Some([only]) = constants.get(&text).map(Vec::as_slice)
            && is_seen(*only, *string)
        {
            report(context, *only, *string);
        }
    }
}

fn report(context: &mut Context, constant: Constant, string: NodeRef) {
    let name = context.text(constant.name);
    let line = context.line(constant.name.span().start);
    context
        .report(string.span(), format!("the constant {name} of line {line} holds this string"))
        .advice(format!("use {name}"))
        .related(constant.name.span(), "the constant")
        .fix_to_review(Some(vec![Edit::replace(string.span(), name)]));
}

/// The constants of the file and of its types, by the strings that they hold.
fn constants<'t>(context: &Context<'t>) -> FxHashMap<String, Vec<Constant<'t>>> {
    let names = context.names();
    let mut found: FxHashMap<String, Vec<Constant>> = FxHashMap::default();
    for binding in names.bindings() {
        if let Some((constant, text)) = constant(context, binding).filter(|(_, text)| says_something(text)) {
            found.entry(text).or_default().push(constant);
        }
    }
    if found.is_empty() {
        return found;
    }
    let mut bound: FxHashMap<&str, usize> = FxHashMap::default();
    names.bindings().for_each(|binding| *bound.entry(names.text(binding.name)).or_default() += 1);
    // What else has the name may be meant by it.
    let is_alone = |constant: &Constant| bound.get(context.text(constant.name)) == Some(&1);
    found.retain(|_, constants| constants.iter().all(is_alone));
    found
}

fn constant<'t>(context: &Context<'t>, binding: &Binding) -> Option<(Constant<'t>, String)> {
    let file = context.file();
    let [only] = binding.declarations.as_slice() else { return None };
    let is_variable = matches!(only.kind, DeclarationKind::Assignment | DeclarationKind::Field);
    let scope = context.names().scope(binding.scope);
    let is_open = binding.scope == ScopeId::FILE || matches!(scope.kind, ScopeKind::Members);
    if !is_variable || binding.writes > 0 || !is_open {
        return None;
    }
    let name = file.tree.node(only.node);
    let is_named = matches!(name.role(), Role::Target | Role::Name);
    let is_first = name.previous_sibling().is_none_or(|before| before.role() != name.role());
    let item = name.parent().filter(|_| is_named && is_first)?;
    let value = item.child_at_end(Role::Value).filter(|value| value.kind() == Kind::String)?;
    let is_alone = item.children_in(Role::Target).nth(1).is_none();
    if !is_alone || !says_constant(context, item, name) {
        return None;
    }
    let text = file.language.string_value(file.node_text(value))?;
    Some((Constant { name, home: file.tree.node(scope.node) }, text))
}

/// Whether a declaration says that its value never changes: by a word, or by the letters of the name.
fn says_constant(context: &Context, item: NodeRef, name: NodeRef) -> bool {
    let holder =
        item.parent().filter(|holder| matches!(holder.kind(), Kind::Declaration | Kind::Field)).unwrap_or(item);
    let tree = holder.tree();
    let words = holder.token_range().start..name.token_range().start;
    let is_const = words.clone().any(|token| tree.token_kind(token) == TokenKind::Const);
    let says_const = is_const && context.file().traits.has_written_types;
    says_const || NameStyle::UpperSnake.fits(context.text(name)) && context.text(name).len() > 2
}

/// Shorter strings, in bytes, are equal by chance.
const SHORTEST: usize = 8;

/// Whether a string is so special that two of it are the same by purpose: several words or parts, and not short.
fn says_something(text: &str) -> bool {
    let parts = text.split(|character: char| !character.is_alphanumeric()).filter(|part| part.len() > 1).count();
    text.len() >= SHORTEST && parts > 1
}

/// Whether a string is a value by itself: no key, no element of a table, no part of a declaration of a constant, nothing that is described.
fn is_value(string: NodeRef) -> bool {
    let Some(holder) = string.parent() else { return false };
    match holder.kind() {
        Kind::Arguments => holder.parent().is_none_or(|call| call.kind() != Kind::Decorator),
        Kind::Return | Kind::Comparison | Kind::Conditional | Kind::Lambda | Kind::Function => true,
        Kind::Binary | Kind::Case => true,
        Kind::Block => string.role() == Role::Statement && string.next_sibling().is_none(),
        Kind::KeywordArgument => string.role() == Role::Value,
        _ => false,
    }
}

/// Whether a string is a part of what another constant, or a variable of the file or a type, holds.
fn is_in_declaration(place: NodeRef) -> bool {
    let function = place.ancestors().find(|around| around.kind().is_function());
    function.is_none() && place.ancestors().any(|around| matches!(around.kind(), Kind::Assignment | Kind::Field))
}

/// Whether a constant is seen at a place.
fn is_seen(constant: Constant, place: NodeRef) -> bool {
    // What is said of a type before it does not see what is in it.
    let is_file = constant.home.kind() == Kind::File;
    let home = if is_file { constant.home } else { constant.home.child(Role::Body).unwrap_or(constant.home) };
    let is_within = home.holds(place.id());
    let is_behind_module = place
        .ancestors()
        .take_while(|around| around.id() != constant.home.id())
        .any(|around| around.kind() == Kind::Namespace);
    is_within && !is_behind_module && !is_in_declaration(place)
}
