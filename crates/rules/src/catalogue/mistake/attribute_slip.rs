use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::inside::{inside, is_class};
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::slip::{is_slip, only_double};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "attribute-slip",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Python],
    fix: None,
    what: "an attribute that nothing assigns, with the name of another one but for a slip of the fingers",
    why: "Reading it fails with an AttributeError when the line is reached.",
    silent: "For classes with bases that are not in the file, with names made at run time, and for names that are used more than once.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong {
            code: "class Boat:\n    def __init__(self):\n        self.length = 3\n\n    def double(self):\n        return self.lenght * 2\n",
            at: &["6:21"],
            fixed: None,
        }],
        right: &[
            "class SailMixin:\n    def __init__(self, boat):\n        self.lengths = 3\n        super().__init__(boat)\n\n    def double(self):\n        return self.lenghts\n",
            "class Boat:\n    def __init__(self):\n        self.length = 3\n\n    def double(self):\n        return self.length * 2\n",
            "class Boat(Ship):\n    def __init__(self):\n        self.length = 3\n\n    def double(self):\n        return self.lenght * 2\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Class], check),
};

/// Names of fewer characters are alike by chance.
const SHORTEST: usize = 5;

fn check(context: &mut Context, class: NodeRef) {
    let file = context.file();
    let Some(body) = class.child(Role::Body) else { return };
    if is_mixin(file, class, body)
        || file.has_bases(class)
        || class.children_in(Role::Decorator).next().is_some()
        || file.is_test()
    {
        return;
    }
    let mut defined: FxHashSet<&str> = FxHashSet::default();
    let mut read: FxHashMap<&str, Vec<NodeRef>> = FxHashMap::default();
    for node in inside(body, is_class) {
        match node.kind() {
            Kind::Member if is_of_self(file, node) => {
                let Some(name) = node.child(Role::Name) else { continue };
                if is_target(node) {
                    defined.insert(file.node_text(name));
                } else {
                    read.entry(file.node_text(name)).or_default().push(name);
                }
            }
            Kind::Function | Kind::Class => defined.extend(node.child(Role::Name).map(|name| file.node_text(name))),
            Kind::Name if node.role() == Role::Target => drop(defined.insert(file.node_text(node))),
            // Names may be made at run time.
            Kind::Name if matches!(file.node_text(node), "setattr" | "__dict__" | "__slots__" | "vars") => return,
            Kind::String if node.parent().is_some_and(|parent| parent.kind() == Kind::Arguments) => {
                defined.insert(file.node_text(node).trim_matches(['"', '\'']));
            }
            _ => {}
        }
    }
    if ["__getattr__", "__getattribute__", "__dict__"].iter().any(|name| file.node_text(body).contains(name)) {
        return;
    }
    let mut slips: Vec<(NodeRef, &str)> = Vec::new();
    for (name, places) in &read {
        let [place] = places.as_slice() else { continue };
        if name.len() < SHORTEST || defined.contains(name) || name.starts_with("__") {
            continue;
        }
        let is_near = |known: &&str| known.len() >= SHORTEST && is_slip(name, known) && !is_related(name, known);
        slips.extend(only_double(defined.iter().copied().filter(is_near)).map(|known| (*place, known)));
    }
    slips.sort_by_key(|(place, _)| place.id());
    for (place, known) in slips {
        let text = file.node_text(place);
        context
            .report(place.span(), format!("nothing assigns \"{text}\" to the object"))
            .advice(format!("perhaps \"{known}\" is meant"));
    }
}

/// Whether a class without bases is a part of others, which have the attributes: its name says so, or it gives arguments to what comes
/// behind it in them.
fn is_mixin(file: File<'_>, class: NodeRef, body: NodeRef) -> bool {
    let name = class.child(Role::Name).map_or("", |name| file.node_text(name));
    let hands_on = |call: NodeRef| {
        let callee = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member);
        let object = callee.and_then(|callee| callee.child(Role::Object));
        object.is_some_and(|object| file.node_text(object).starts_with("super("))
            && call.child(Role::Arguments).is_some_and(|all| all.children().next().is_some())
    };
    name.to_ascii_lowercase().contains("mixin")
        || memchr::memmem::find(file.node_text(body).as_bytes(), b"super(").is_some()
            && inside(body, is_class).any(|node| node.kind() == Kind::Call && hands_on(node))
}

/// Whether a member is one of `self`: its object is the node behind it.
fn is_of_self(file: File<'_>, member: NodeRef) -> bool {
    let object = member.children().next();
    object.is_some_and(|object| object.kind() == Kind::Name && file.node_text(object) == "self")
}

fn is_target(member: NodeRef) -> bool {
    let mut inner = member;
    while let Some(parent) = inner.parent() {
        match (inner.role(), parent.kind()) {
            (Role::Target, _) => return true,
            (Role::Element, Kind::Tuple | Kind::List) | (Role::Value, Kind::Group | Kind::Spread) => inner = parent,
            _ => return false,
        }
    }
    false
}

/// Whether two names differ by a plural, a capital or an underscore in front: what makes other names.
fn is_related(name: &str, other: &str) -> bool {
    let plain = |text: &str| text.trim_end_matches('s').trim_matches('_').to_ascii_lowercase();
    plain(name) == plain(other)
}
