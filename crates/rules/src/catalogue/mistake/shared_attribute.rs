use std::cell::OnceCell;

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::inside::{inside, is_class};
use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong, word_hash};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "shared-attribute",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Python],
    fix: None,
    what: "a collection of a class that is changed through one of its objects",
    why: "All objects share it: what one puts in, every other one finds there.",
    silent: "Where the class, or a method that runs first, gives each object its own; where the class itself is asked for it, has a lock, or makes decorators, and so shares on purpose; for collections that are not empty at first.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong {
                code: "class Boat:\n    seats = []\n\n    def book(self, seat):\n        self.seats.append(seat)\n",
                at: &["2:5"],
                fixed: None,
            },
            Wrong {
                code: "from dataclasses import dataclass\n\n\n@dataclass\nclass Boat:\n    seats: list = []\n",
                at: &["6:19"],
                fixed: None,
            },
        ],
        right: &[
            "class Boat:\n    seats = []\n\n    def sit(self, name):\n        self.seats.append(name)\n\n\nprint(Boat.seats)\n",
            "class Boat:\n    seats = []\n\n    def __init__(self):\n        self.seats = []\n\n    def book(self, seat):\n        self.seats.append(seat)\n",
            "class Boat:\n    seats = []\n\n    def count(self):\n        return len(self.seats)\n",
            "class Boat:\n    seats = []\n\n    @classmethod\n    def book(cls, seat):\n        cls.seats.append(seat)\n",
            "class Boat:\n    seats = ()\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Class], check),
};

/// Methods of collections that change them.
const CHANGE: &[&str] =
    &["append", "extend", "insert", "remove", "pop", "clear", "add", "update", "setdefault", "discard", "popitem"];

fn check(context: &mut Context, class: NodeRef) {
    let file = context.file();
    let Some(body) = class.child(Role::Body).filter(|_| !file.is_test()) else { return };
    let is_data = class.children_in(Role::Decorator).any(|one| {
        let name = file.node_text(one).trim_start_matches('@').split('(').next().unwrap_or_default();
        name == "dataclass" || name == "dataclasses.dataclass"
    });
    // Looked for once, if the class holds a collection.
    let (is_open, members) = (OnceCell::new(), OnceCell::new());
    let is_open = || *is_open.get_or_init(|| has_bases(file, class));
    let members = || members.get_or_init(|| members_through_self(file, body));
    for statement in body.children() {
        let (Some(target), Some(value)) = (statement.child(Role::Target), statement.child(Role::Value)) else {
            continue;
        };
        let is_collection = matches!(value.kind(), Kind::List | Kind::Dictionary | Kind::Set);
        if !matches!(statement.kind(), Kind::Assignment | Kind::AnnotatedAssignment)
            || target.kind() != Kind::Name
            || !is_collection
        {
            continue;
        }
        let name = file.node_text(target);
        // The library refuses such a default when it makes the class.
        if is_data && statement.kind() == Kind::AnnotatedAssignment && !is_class_variable(file, statement) {
            context
                .report(value.span(), "a data class does not take one collection for all objects")
                .advice("use `field(default_factory=…)`");
        } else if statement.kind() == Kind::Assignment
            && value.children().next().is_none()
            && !is_shared_by_name(name)
            && !is_open()
            && let Some(Member { is_replaced: false, changed: Some(change) }) = members().get(name)
            && !is_shared_by_use(file, class, name)
        {
            let change = file.tree.node(*change);
            context
                .report(
                    target.span(),
                    format!("all objects of the class share \"{name}\", which is changed through one of them"),
                )
                .advice("make it in `__init__`, or change it through the class")
                .related(change.span(), "changed here");
        }
    }
}

/// Whether a name says that all objects are to share what it holds, or that it is a constant.
fn is_shared_by_name(name: &str) -> bool {
    let lower = name.to_ascii_lowercase();
    let says = ["cache", "instance", "registry", "pool", "shared", "global", "known", "registered", "subclass"];
    says.iter().any(|word| lower.contains(word))
        || name.starts_with('_')
        || !name.contains(|letter: char| letter.is_ascii_lowercase())
}

/// Hashes of the members that a file asks names for: `Boat.seats`.
struct MembersAsked(FxHashSet<u64>);

/// Whether a class shares on purpose: it is asked for what it holds by its own name, its objects are called as decorators are, or it has a
/// lock for all of them.
fn is_shared_by_use(file: File<'_>, class: NodeRef, name: &str) -> bool {
    let all = || {
        let of_name = |member: &NodeRef| member.child(Role::Object).is_some_and(|object| object.kind() == Kind::Name);
        let members = file.tree.nodes_of(Kind::Member).filter(of_name);
        MembersAsked(members.map(|member| word_hash(file.node_text(member))).collect())
    };
    let asked = &file.once(all).0;
    let class_name = class.child(Role::Name).map_or("", |name| file.node_text(name));
    let is_asked = |of: &&str| asked.contains(&word_hash(&format!("{of}.{name}")));
    let body = class.child(Role::Body).map_or("", |body| file.node_text(body));
    ["cls", class_name].iter().any(is_asked)
        || ["def __call__(", "Lock(", "Mutex("].iter().any(|mark| body.contains(mark))
}

fn is_class_variable(file: File<'_>, statement: NodeRef) -> bool {
    statement.child(Role::Type).is_some_and(|annotation| file.node_text(annotation).contains("ClassVar"))
}

/// Whether a base may give each object its own.
fn has_bases(file: File<'_>, class: NodeRef) -> bool {
    file.has_bases(class) || class.children_in(Role::Decorator).next().is_some()
}

/// What methods do with an attribute of the object.
#[derive(Default)]
struct Member {
    /// Whether some method gives the object its own.
    is_replaced: bool,
    /// Where a method changes what it holds first.
    changed: Option<NodeId>,
}

/// What the methods of a class do with its attributes, `self.seats`, by their names.
fn members_through_self<'f>(file: File<'f>, body: NodeRef<'_>) -> FxHashMap<&'f str, Member> {
    let mut members: FxHashMap<&str, Member> = FxHashMap::default();
    for member in inside(body, is_class).filter(|node| node.kind() == Kind::Member) {
        let is_own = member.child(Role::Object).is_some_and(|object| file.node_text(object) == "self");
        let Some(name) = member.child(Role::Name).filter(|_| is_own) else { continue };
        let known = members.entry(file.node_text(name)).or_default();
        known.is_replaced |= member.role() == Role::Target;
        if known.changed.is_none() && is_changed(file, member) {
            known.changed = Some(member.id());
        }
    }
    members
}

/// Whether a collection is changed where it is named.
fn is_changed(file: File<'_>, member: NodeRef) -> bool {
    let Some(holder) = member.parent() else { return false };
    match holder.kind() {
        Kind::Member => {
            let method = holder.child(Role::Name).map_or("", |method| file.node_text(method));
            CHANGE.contains(&method) && holder.role() == Role::Callee
        }
        Kind::Subscript => member.role() == Role::Object && (holder.role() == Role::Target),
        _ => false,
    }
}
