use rustc_hash::FxHashMap;
use sieve_meaning::data::Data;
use sieve_meaning::project::words_before;
use sieve_syntax::language::Language;
use sieve_syntax::literal::NumberValue;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-key",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Json,
        Language::Jsonc,
        Language::Toml,
        Language::Yaml,
        Language::Hcl,
    ],
    fix: None,
    what: "a key or an element that occurs twice in one literal",
    why: "Only the last value of a key is kept. The earlier value is silently lost, and one of the two keys is most often a mistake. Some readers of data refuse the whole file.",
    silent: "Keys that are calls or other expressions are not compared: they may differ each time.",
    standards: &[
        "The Python Language Reference 3.14, section 6.2.7",
        "RFC 8259, section 4",
        "TOML 1.0, Keys",
        "YAML 1.2.2, section 3.2.1.1",
    ],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "FARES = {\"adult\": 4, \"child\": 2, \"adult\": 5}\n", at: &["1:34"], fixed: None },
                Wrong { code: "x = {1: 'a', 0x1: 'b', True: 'c'}\n", at: &["1:14"], fixed: None },
                Wrong { code: "QUAYS = {\"north\", \"south\", \"north\"}\n", at: &["1:28"], fixed: None },
                Wrong { code: "x = {Quay.NORTH: 1, Quay.NORTH: 2}\n", at: &["1:21"], fixed: None },
            ],
            right: &["x = {\"1\": 1, 1: 1, b\"1\": 2}\n", "x = {next(ids): 1, next(ids): 2}\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "const fares = { adult: 4, child: 2, 'adult': 5 };\n", at: &["1:37"], fixed: None },
                Wrong { code: "const quay = { depth, open() {}, depth: 3 };\n", at: &["1:34"], fixed: None },
            ],
            right: &[
                "const fares = { get adult() { return 4; }, set adult(fare) {}, ...others, [child]: 1, child: 2 };\n",
            ],
        },
        Examples {
            language: Language::Json,
            wrong: &[Wrong {
                code: "{\"adult\": 4, \"child\": {\"adult\": 2}, \"\\u0061dult\": 5}\n",
                at: &["1:37"],
                fixed: None,
            }],
            right: &["[{\"adult\": 4}, {\"adult\": 5}]\n"],
        },
        Examples {
            language: Language::Toml,
            wrong: &[
                Wrong { code: "[quay]\ndepth = 3\n\n[quay]\n", at: &["4:2"], fixed: None },
                Wrong { code: "quay.depth = 3\nquay = 4\n", at: &["2:1"], fixed: None },
            ],
            right: &["[[quay]]\nquay.depth = 3\n\n[[quay]]\nquay.depth = 4\n"],
        },
        Examples {
            language: Language::Yaml,
            wrong: &[Wrong { code: "adult: 4\nchild: 2\n\"adult\": 5\n", at: &["3:1"], fixed: None }],
            right: &["1: low\n\"1\": high\n---\n1: low\n"],
        },
        Examples {
            language: Language::Hcl,
            wrong: &[Wrong { code: "fares = { adult = 4, child = 2, adult = 5 }\n", at: &["1:33"], fixed: None }],
            right: &["fares = { adult = 4, (child) = 2, (child) = 3 }\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Dictionary, Kind::Set], check),
};

fn check(context: &mut Context, dictionary: NodeRef) {
    if let Some(data) = context.file().values() {
        return in_data(context, &data, dictionary);
    }
    let mut seen: FxHashMap<Key, Span> = FxHashMap::default();
    let is_set = dictionary.kind() == Kind::Set;
    for element in dictionary.children() {
        let key = if is_set { Some(element).filter(|_| !context.file().is_test()) } else { key_of(context, element) };
        let Some(key) = key else { continue };
        let Some(value) = Key::of(context, key) else { continue };
        let Some(first) = seen.insert(value, key.span()) else { continue };
        let text = shown(context, key);
        let line = context.line(first.start);
        let (message, advice) = if is_set {
            (format!("{text} is in the set already"), "remove one of the two, or correct it")
        } else {
            (
                format!("the key {text} is repeated here; its value on line {line} is lost"),
                "remove one of the two, or correct its key",
            )
        };
        context
            .report(key.span(), message)
            .advice(advice)
            .related(first, if is_set { "the same element" } else { "the same key" });
    }
}

/// Keys that are the same once they are put together from headers and names with dots.
fn in_data(context: &mut Context, data: &Data, object: NodeRef) {
    let tree = context.file().tree;
    let first = data.repeats().partition_point(|repeat| repeat.key < object.id());
    for repeat in data.repeats()[first..].iter().take_while(|repeat| object.holds(repeat.key)) {
        let (key, first) = (tree.node(repeat.key), tree.node(repeat.first));
        let holder = key.ancestors().find(|around| around.kind() == Kind::Dictionary);
        if holder != Some(object) {
            continue;
        }
        let (name, line) = (context.text(key).trim_matches(['"', '\'']).to_string(), context.line(first.span().start));
        context
            .report(key.span(), format!("the key \"{name}\" is there already, on line {line}"))
            .advice("remove one of the two, or correct its key")
            .related(first.span(), "the same key");
    }
}

/// A key as it is written, in quotes if it is a plain word.
fn shown(context: &Context, key: NodeRef) -> String {
    let text = context.text(key);
    if key.kind() == Kind::PropertyName { format!("\"{text}\"") } else { text.to_string() }
}

/// The part of an element that is its key. A member that is read by one function and set by another is there twice rightly.
fn key_of<'t>(context: &Context, element: NodeRef<'t>) -> Option<NodeRef<'t>> {
    match element.kind() {
        Kind::Pair => element.child(Role::Key),
        Kind::ShorthandPair => element.child(Role::Name),
        Kind::Function => element
            .child(Role::Name)
            .filter(|_| !matches!(*words_before(context.file().text, element), ["get" | "set"])),
        _ => None,
    }
}

/// What makes two keys the same.
#[derive(Debug, PartialEq, Eq, Hash)]
enum Key {
    Text(String),
    Bytes(String),
    Whole(u128),
    /// Equal to a number, which who writes both knows.
    Boolean(bool),
    Real(u64),
    Null,
    /// A name, perhaps with members.
    Path(String),
}

impl Key {
    fn of(context: &Context, node: NodeRef) -> Option<Key> {
        let text = context.text(node);
        let language = context.file().language;
        match node.kind() {
            Kind::String => language.string_value(text).map(Key::Text),
            Kind::Bytes => language.string_value(text).map(Key::Bytes),
            Kind::Boolean => Some(Key::Boolean(text == "True")),
            Kind::Null => Some(Key::Null),
            Kind::Number => match language.number_value(text)? {
                NumberValue::Whole(value) => Some(Key::Whole(value)),
                NumberValue::Real(value) if value.fract() == 0.0 && value < 1e15 => Some(Key::Whole(value as u128)),
                NumberValue::Real(value) => Some(Key::Real(value.to_bits())),
                NumberValue::Imaginary(_) => None,
            },
            Kind::PropertyName => Some(Key::Text(text.to_string())),
            Kind::Name if node.parent().is_some_and(|holder| holder.kind() == Kind::ShorthandPair) => {
                Some(Key::Text(text.to_string()))
            }
            Kind::Name => Some(Key::Path(text.to_string())),
            Kind::Member if is_path(node) => Some(Key::Path(text.split_whitespace().collect())),
            _ => None,
        }
    }
}

/// Names joined by dots, nothing that runs.
fn is_path(node: NodeRef) -> bool {
    let mut inner = node;
    while inner.kind() == Kind::Member {
        let Some(object) = inner.child(Role::Object) else { return false };
        inner = object;
    }
    inner.kind() == Kind::Name
}
