use rustc_hash::FxHashMap;
use sieve_meaning::project::words_before;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-definition",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a second definition of the same thing in one block",
    why: "The first one is lost without a word, or the file does not load: one of the two was to have another name.",
    silent: "For definitions that are used in between, decorated ones, overloads, and those in different branches.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "def low(day):\n    return day\n\n\ndef low(day, quay):\n    return day\n",
                    at: &["5:5"],
                    fixed: None,
                },
                Wrong {
                    code: "class Boat:\n    def sail(self):\n        return 1\n\n    def sail(self):\n        return 2\n",
                    at: &["5:9"],
                    fixed: None,
                },
                Wrong {
                    code: "from enum import Enum\n\n\nclass Quay(Enum):\n    NORTH = 1\n    NORTH = 2\n",
                    at: &["6:5"],
                    fixed: None,
                },
            ],
            right: &[
                "def low(day):\n    return day\n\n\nhigh = low(3)\n\n\ndef low(day, quay):\n    return day\n",
                "class Boat:\n    @property\n    def name(self):\n        return 1\n\n    @name.setter\n    def name(self, name):\n        pass\n",
                "class Boat:\n    crew = 3\n\n\nclass Boat:\n    base = Boat\n",
                "if day:\n    def low():\n        return 1\nelse:\n    def low():\n        return 2\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "class Boat {\n  sail() { return 1; }\n  sail() { return 2; }\n}\n",
                    at: &["3:3"],
                    fixed: None,
                },
                Wrong { code: "function sail() {\n  let depth = 1;\n  let depth = 2;\n}\n", at: &["3:7"], fixed: None },
                Wrong { code: "export { low };\nexport { high as low };\n", at: &["2:18"], fixed: None },
            ],
            right: &[
                "class Boat {\n  get name() { return 1; }\n  set name(name) {}\n  static sail() {}\n  sail() {}\n}\n",
                "function sail(low) {\n  let depth = 1;\n  if (low) { let depth = 2; }\n}\nvar a = 1;\nvar a = 2;\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "class Boat {\n  sail(): number { return 1; }\n  sail(): number { return 2; }\n}\n",
                at: &["3:3"],
                fixed: None,
            }],
            right: &[
                "function low(day: number): number;\nfunction low(day: string): string;\nfunction low(day: any): any {\n  return day;\n}\ninterface Boat {}\ninterface Boat { a: number }\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::File, Kind::Block, Kind::StartTag], check),
};

fn check(context: &mut Context, holder: NodeRef) {
    let file = context.file();
    if holder.kind() == Kind::StartTag {
        return on_attributes(context, holder);
    }
    let in_class = holder.parent().filter(|class| matches!(class.kind(), Kind::Class | Kind::ClassExpression));
    let is_enum = in_class.is_some_and(|class| is_enumeration(file, class));
    let statements = holder.children();
    let all: Vec<(NodeRef, u8)> =
        statements.flat_map(|statement| defined(file, statement, in_class.is_some(), is_enum)).collect();
    // One name alone is repeated by parameters at most, and those only where blocks have names of their own.
    if all.is_empty() || all.len() == 1 && file.traits.word_operators {
        return;
    }
    let mut seen: FxHashMap<(&str, u8), NodeRef> = FxHashMap::default();
    if let Some(function) =
        holder.parent().filter(|function| function.kind().is_function() && !file.traits.word_operators)
    {
        let parameters = function.child(Role::Parameters).into_iter().flat_map(|all| all.children());
        for name in parameters.filter_map(|one| one.child(Role::Name)) {
            seen.insert((file.node_text(name), PARAMETER), name);
        }
    }
    let mut found: Vec<(NodeRef, NodeRef, u8)> = Vec::new();
    for (name, sort) in all {
        let text = file.node_text(name);
        let key = (text, sort);
        let parameter = (sort == BLOCK).then(|| seen.get(&(text, PARAMETER))).flatten();
        if let Some(first) = parameter.or(seen.get(&key)).copied() {
            found.push((name, first, sort));
        }
        seen.insert(key, name);
    }
    // Few blocks have any, and only they are looked through.
    let uses = if found.is_empty() { FxHashMap::default() } else { uses_of(file, holder, &found) };
    // What runs while a class is made may use a member; elsewhere its members are there together.
    let may_be_used = |sort: u8| sort != BLOCK && (file.traits.word_operators || in_class.is_none());
    found.retain(|(name, first, sort)| !may_be_used(*sort) || !is_used_between(file, &uses, *first, *name));
    for (name, first, _) in found {
        report(context, name, first);
    }
}

/// Kinds of names that do not conflict with each other.
const PLAIN: u8 = 0;
const STATIC: u8 = 1;
const GETTER: u8 = 2;
const SETTER: u8 = 3;
const BLOCK: u8 = 4;
const PARAMETER: u8 = 5;
const EXPORT: u8 = 6;

/// The names that a statement defines, each with its sort.
fn defined<'t>(file: File<'_>, statement: NodeRef<'t>, in_class: bool, is_enum: bool) -> Vec<(NodeRef<'t>, u8)> {
    match statement.kind() {
        Kind::Function | Kind::Class => {
            let is_signature = statement.child(Role::Body).is_none();
            let is_marked = statement.children_in(Role::Decorator).next().is_some();
            // Scripts of the language may define a function twice on purpose; classes of it may not hold two.
            let counts = file.traits.word_operators || in_class;
            let name = statement
                .child(Role::Name)
                .filter(|name| !is_signature && !is_marked && counts && file.node_text(*name) != "_");
            name.map(|name| (name, sort_of_member(file, statement))).into_iter().collect()
        }
        Kind::Assignment if is_enum => {
            statement.child(Role::Target).map(|target| (target, PLAIN)).into_iter().collect()
        }
        Kind::Declaration
            if matches!(statement.first_token_kind(), TokenKind::Const)
                || file.node_text(statement).starts_with("let ") =>
        {
            let targets = statement
                .children_in(Role::Item)
                .filter_map(|item| if item.kind() == Kind::Name { Some(item) } else { item.child(Role::Target) });
            targets.filter(|target| target.kind() == Kind::Name).map(|name| (name, BLOCK)).collect()
        }
        Kind::Export => {
            let items = statement.children_in(Role::Item).filter(|item| item.kind() == Kind::ExportItem);
            items
                .filter_map(|item| item.child(Role::Alias).or_else(|| item.child(Role::Name)))
                .map(|name| (name, EXPORT))
                .collect()
        }
        _ => Vec::new(),
    }
}

fn sort_of_member(file: File<'_>, member: NodeRef) -> u8 {
    if file.traits.word_operators {
        return PLAIN;
    }
    let words = words_before(file.text, member);
    let has = |word: &str| words.contains(&word);
    match () {
        () if has("get") => GETTER + 10 * u8::from(has("static")),
        () if has("set") => SETTER + 10 * u8::from(has("static")),
        () if has("static") => STATIC,
        () => PLAIN,
    }
}

fn is_enumeration(file: File<'_>, class: NodeRef) -> bool {
    class.child(Role::Arguments).is_some_and(|bases| {
        bases.children().any(|base| {
            matches!(file.node_text(base).rsplit('.').next(), Some("Enum" | "IntEnum" | "StrEnum" | "Flag" | "IntFlag"))
        })
    })
}

/// Where in a block the names of these definitions stand, also in strings, in the order of the text.
fn uses_of<'f>(
    file: File<'f>,
    holder: NodeRef<'f>,
    found: &[(NodeRef<'f>, NodeRef<'f>, u8)],
) -> FxHashMap<&'f str, Vec<NodeId>> {
    let mut uses: FxHashMap<&str, Vec<NodeId>> =
        found.iter().map(|(name, ..)| (file.node_text(*name), Vec::new())).collect();
    for node in holder.descendants() {
        if matches!(node.kind(), Kind::Name | Kind::ImportItem | Kind::String) {
            let text = file.node_text(node).trim_matches(['"', '\'']);
            if let Some(places) = uses.get_mut(text) {
                places.push(node.id());
            }
        }
    }
    uses
}

/// Whether a name stands somewhere between two definitions of it: it is used, or bound in another way.
fn is_used_between(file: File<'_>, uses: &FxHashMap<&str, Vec<NodeId>>, first: NodeRef, second: NodeRef) -> bool {
    let from = first.parent().map_or(first.id(), NodeRef::end);
    let places = uses.get(file.node_text(second)).map(Vec::as_slice).unwrap_or_default();
    let next = places.partition_point(|place| *place < from);
    // The body of a class runs before the class has its name.
    let class = second.parent().filter(|class| class.kind() == Kind::Class && file.traits.word_operators);
    let to = class.map_or(second.id(), NodeRef::end);
    let is_other = |place: &&NodeId| **place != second.id();
    places[next..].iter().find(is_other).is_some_and(|place| *place < to)
}

fn on_attributes(context: &mut Context, tag: NodeRef) {
    let file = context.file();
    let mut seen: FxHashMap<&str, NodeRef> = FxHashMap::default();
    let mut found = Vec::new();
    for attribute in tag.children_in(Role::Attribute) {
        // What is spread out may hold either, and the last one counts.
        let Some(name) = attribute.child(Role::Name) else {
            seen.clear();
            continue;
        };
        if let Some(first) = seen.insert(file.node_text(name), name) {
            found.push((name, first));
        }
    }
    for (name, first) in found {
        report(context, name, first);
    }
}

fn report(context: &mut Context, name: NodeRef, first: NodeRef) {
    let line = context.line(first.span().start);
    let text = context.text(name).to_string();
    context
        .report(name.span(), format!("\"{text}\" is defined on line {line} already"))
        .advice("give one of them another name, or remove it")
        .related(first.span(), "the first definition");
}
