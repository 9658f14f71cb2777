use rustc_hash::FxHashSet;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::same::{is_steady, same_code};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "self-assignment",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "a variable that is assigned to itself",
    why: "Nothing changes: on one side another name was meant, such as a member of the object.",
    silent: "Outside of functions, and for members where they may do something when they are set: in Python those of classes with bases or decorators, and what a class makes by a call or a function; in C# what begins with a capital; none in Go and Java; behind a line for the preprocessor, which may tell the compiler that it is meant; for `location`, which loads the page anew.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def moor(self, name):\n    name = name\n", at: &["2:5"], fixed: None },
                Wrong {
                    code: "class Boat:\n    def moor(self):\n        self.name = self.name\n",
                    at: &["3:9"],
                    fixed: None,
                },
            ],
            right: &[
                "name = name\n",
                "def moor(self, name):\n    self.name = name\n",
                "def moor(box):\n    box.src = box.src\n",
                "class Boat(Vessel):\n    def moor(self):\n        self.name = self.name\n",
                "class Boat:\n    depth = Reactive(3)\n\n    @property\n    def name(self):\n        return 'Low'\n\n    def moor(self):\n        self.name = self.name\n        self.depth = self.depth\n",
                "@tracked\nclass Boat:\n    def moor(self):\n        self.name = self.name\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "function moor(name) {\n  name = name;\n}\n", at: &["2:3"], fixed: None }],
            right: &[
                "function moor(box) {\n  box.src = box.src;\n  let name = box.name;\n}\n",
                "function again() {\n  location = location;\n}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong { code: "package tide\n\nfunc sail() {\n\tquay = quay\n}\n", at: &["4:2"], fixed: None }],
            right: &["package tide\n\nfunc sail() {\n\tquay := quay\n\tquay.a, b = quay.a, c\n\tat().a = at().a\n}\n"],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "impl Quay {\n    fn low(&mut self, depth: u8) {\n        depth = depth;\n        self.depth = self.depth;\n    }\n}\n",
                at: &["3:9", "4:9"],
                fixed: None,
            }],
            right: &[
                "impl Quay {\n    fn low(&mut self, depth: u8) {\n        self.depth = depth;\n        let depth = depth;\n        a.depth = a.depth;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void low(int depth) {\n        depth = depth;\n        this.depth = this.depth;\n    }\n}\n",
                at: &["3:9", "4:9"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    void low(int depth) {\n        this.depth = depth;\n        int other = depth;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    void Sail()\n    {\n        tide = tide;\n    }\n}\n",
                at: &["5:9"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    void Sail(int tide)\n    {\n        this.tide = tide;\n        var boat = new Boat { tide = tide };\n        low = high;\n#pragma warning disable 1717\n        seen = seen;\n#pragma warning restore 1717\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Assignment], check),
};

fn check(context: &mut Context, assignment: NodeRef) {
    let file = context.file();
    let mut targets = assignment.children_in(Role::Target);
    let (Some(target), None, Some(value)) = (targets.next(), targets.next(), assignment.child(Role::Value)) else {
        return;
    };
    let is_plain = |node: NodeRef| match node.kind() {
        Kind::Name => node.span().len() > 1,
        Kind::Member if file.traits.plain_members => is_steady(node),
        Kind::Member => node.child(Role::Object).is_some_and(|object| file.node_text(object) == "self"),
        _ => false,
    };
    let is_declared = assignment.parent().is_some_and(|holder| holder.kind() == Kind::Declaration);
    // What a page shows is loaded anew.
    let loads_page = !file.traits.word_operators && matches!(file.node_text(target), "location" | "self.location");
    if is_declared
        || loads_page
        || !is_plain(target)
        || target.kind() != value.kind()
        || !same_code(file, target, value)
        || file.is_test()
    {
        return;
    }
    // The warning of the compiler may be switched off here.
    let before = (0..assignment.token_range().start).rev().map(|token| file.tree.token_kind(token));
    if before.take_while(|kind| kind.is_trivia()).any(|kind| kind == TokenKind::Directive) {
        return;
    }
    if file.traits.capitals_may_act && file.node_text(target).starts_with(char::is_uppercase) {
        return context.unsure(assignment.span(), "a property may act when it is assigned to");
    }
    if !file.traits.plain_members && target.kind() == Kind::Member && may_act(file, target) {
        return context.unsure(assignment.span(), "a property may act when it is assigned to");
    }
    let home = assignment.ancestors().find(|node| node.kind().is_function() || node.kind() == Kind::Class);
    if home.is_some_and(|home| home.kind().is_function()) {
        context
            .report(assignment.span(), format!("{} is assigned to itself", file.node_text(target)))
            .advice("correct one side, or remove the line");
    }
}

/// Whether a member of the object that a method runs on may act when it is assigned to: as a property, or as a descriptor.
fn may_act(file: File<'_>, member: NodeRef) -> bool {
    let Some(class) = member.ancestors().find(|around| around.kind() == Kind::Class) else { return false };
    let acting = file.once_at(class, || Acting::of(file, class));
    let name = member.child(Role::Name).map_or("", |name| file.node_text(name));
    acting.0.as_ref().is_none_or(|names| names.contains(name))
}

/// The names of the members of a class that may act when they are assigned to; nothing where any of them may.
struct Acting(Option<FxHashSet<String>>);

impl Acting {
    fn of(file: File<'_>, class: NodeRef) -> Acting {
        if file.has_bases(class) || class.children_in(Role::Decorator).next().is_some() {
            return Acting(None);
        }
        let mut names = FxHashSet::default();
        for member in class.child(Role::Body).into_iter().flat_map(|body| body.children()) {
            let declared = match member.kind() {
                Kind::Function => member.child(Role::Name),
                _ if member.child(Role::Value).is_some_and(|value| value.kind() == Kind::Call) => {
                    member.child(Role::Target)
                }
                _ => None,
            };
            names.extend(declared.map(|name| file.node_text(name).to_string()));
        }
        Acting((!names.contains("__setattr__")).then_some(names))
    }
}
