use rustc_hash::FxHashSet;
use sieve_meaning::declared::class_of;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::inside::{inside, is_class};
use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-super",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Python],
    fix: None,
    what: "a constructor that does not run that of its base, whose attributes are used",
    why: "The attributes that the base gives its objects are not there: its methods fail.",
    silent: "For bases that are not in the file, and where the class gives its objects all of these attributes itself.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong {
            code: "class Boat:\n    def __init__(self, name):\n        self.name = name\n\n    def label(self):\n        return self.name\n\n\nclass Ferry(Boat):\n    def __init__(self, seats):\n        self.seats = seats\n",
            at: &["10:9"],
            fixed: None,
        }],
        right: &[
            "class Boat:\n    def __init__(self):\n        self.crew = 2\n\n    def hands(self):\n        return self.crew\n\n\nclass Ferry(Boat):\n    def __init__(self):\n        self.decks = 1\n\n\nferry = Ferry()\nferry.crew = 3\n",
            "class Boat:\n    def __init__(self):\n        self.crew = 2\n\n    def hands(self):\n        return self.crew\n\n\nclass Ferry(Boat):\n    def __init__(self):\n        pass\n",
            "class Boat:\n    def __init__(self, name):\n        self.name = name\n\n    def label(self):\n        return self.name\n\n\nclass Ferry(Boat):\n    def __init__(self, seats):\n        super().__init__(\"Tern\")\n        self.seats = seats\n\n\nclass Raft(Boat):\n    def __init__(self, seats):\n        self.name = \"raft\"\n\n\nclass Buoy(Boat):\n    def __init__(self):\n        Boat.__init__(self, \"buoy\")\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::Class], check),
};

fn check(context: &mut Context, class: NodeRef) {
    let file = context.file();
    let mut bases = class.child(Role::Arguments).into_iter().flat_map(|bases| bases.children());
    let (Some(base), None) = (bases.next(), bases.next()) else { return };
    // What is not there may be made when it is asked for.
    if method(file, class, "__getattr__").is_some() {
        return;
    }
    let Some(constructor) = method(file, class, "__init__").filter(|_| base.kind() == Kind::Name && !file.is_test())
    else {
        return;
    };
    // One beside it: another may be changed by what is around it.
    let of_file = class_of(context.names(), base).filter(|base| base.parent() == class.parent());
    let Some(base) = of_file else { return };
    let Some(of_base) = method(file, base, "__init__")
        .filter(|_| base.child(Role::Arguments).is_none_or(|bases| bases.children().next().is_none()))
    else {
        return;
    };
    if method(file, base, "__getattr__").is_some() {
        return;
    }
    let Some(text) = constructor.child(Role::Body).map(|body| file.node_text(body)) else { return };
    // One that does nothing is there because something else makes the object.
    let does_nothing = constructor.child(Role::Body).is_some_and(|body| {
        let is_nothing = |statement: NodeRef| statement.kind() == Kind::Pass || is_description(statement);
        body.children().all(is_nothing)
    });
    if does_nothing || ["super", "__init__", "__dict__"].iter().any(|word| text.contains(word)) {
        return;
    }
    let given: FxHashSet<&str> = attributes(file, of_base, true).collect();
    let own: FxHashSet<&str> = class
        .child(Role::Body)
        .into_iter()
        .flat_map(|body| attributes(file, body, true))
        .chain(class_names(file, class))
        .chain(class_names(file, base))
        .collect();
    let body = base.child(Role::Body);
    let methods = body
        .into_iter()
        .flat_map(|body| body.children())
        .filter(|member| *member != of_base && member.kind() == Kind::Function);
    // A method that the class has itself does not run.
    let inherited = methods
        .filter(|one| one.child(Role::Name).is_some_and(|name| method(file, class, file.node_text(name)).is_none()));
    let used: Vec<&str> = inherited.flat_map(|one| attributes(file, one, false)).collect();
    let is_given =
        |name: &str| context.file().tree.nodes_of(Kind::Member).any(|member| is_given_elsewhere(file, member, name));
    let mut missing = used.iter().filter(|name| given.contains(*name) && !own.contains(*name));
    if let Some(missing) = missing.find(|name| !is_given(name)) {
        let name = constructor.child(Role::Name).map_or(constructor.span(), |name| name.span());
        let base_name = base.child(Role::Name).map_or("", |name| file.node_text(name));
        context
            .report(name, format!("{base_name}.__init__ does not run: the object has no \"{missing}\""))
            .advice("call `super().__init__(…)`");
    }
}

fn is_description(statement: NodeRef) -> bool {
    statement.child(Role::Value).is_some_and(|value| value.kind() == Kind::String)
}

/// Whether an attribute is given to an object from outside.
fn is_given_elsewhere(file: File<'_>, member: NodeRef, name: &str) -> bool {
    member.role() == Role::Target
        && member.child(Role::Name).is_some_and(|own| file.node_text(own) == name)
        && member.child(Role::Object).is_some_and(|object| file.node_text(object) != "self")
}

fn method<'t>(file: File<'_>, class: NodeRef<'t>, name: &str) -> Option<NodeRef<'t>> {
    let is_it = |member: &NodeRef<'t>| {
        member.kind() == Kind::Function && member.child(Role::Name).is_some_and(|known| file.node_text(known) == name)
    };
    class.child(Role::Body)?.children().find(is_it)
}

/// The names that a class binds itself.
fn class_names<'f>(file: File<'f>, class: NodeRef<'f>) -> impl Iterator<Item = &'f str> {
    let statements = class.child(Role::Body).into_iter().flat_map(|body| body.children());
    statements.flat_map(move |statement| {
        let bound = statement.child(Role::Target).or_else(|| statement.child(Role::Name));
        bound.map(|name| file.node_text(name))
    })
}

/// The attributes of `self` in some code: those that are assigned, or those that are read.
fn attributes<'f>(file: File<'f>, code: NodeRef<'f>, assigned: bool) -> impl Iterator<Item = &'f str> {
    let is_it = move |node: &NodeRef<'f>| {
        let of_object = node.child(Role::Object).is_some_and(|object| file.node_text(object) == "self");
        node.kind() == Kind::Member
            && of_object
            && (node.role() == Role::Target || node.role() == Role::Element) == assigned
    };
    inside(code, is_class).filter(is_it).filter_map(move |node| node.child(Role::Name).map(|name| file.node_text(name)))
}
