use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::form::{FOREIGN, check_name, is_of_another_language, is_off, rename_inside};

use crate::interface::{Certainty, Check, Concern, Context, Examples, FixKind, Level, Mesh, Rule, Wrong};
use crate::modifier::modifier;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "function-name",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::OF_PROGRAMS,
    fix: Some(FixKind::Review),
    what: "a function or method whose name is not in the chosen style",
    why: "Where names of one kind have one style, readers see at a glance what a name refers to, and nobody has to remember its spelling.",
    silent: "Where nearly all such names of the code base have another style, and settings say nothing, that one is right. The methods of a class with bases may be determined by the bases and count as unsure; so do those marked as overrides.",
    standards: &["PEP 8, Naming Conventions"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def setSail():\n    pass\n", at: &["1:5"], fixed: None },
                Wrong {
                    code: "def sail():\n    def goNow():\n        pass\n    goNow()\n",
                    at: &["2:9"],
                    fixed: Some("def sail():\n    def go_now():\n        pass\n    go_now()\n"),
                },
                Wrong { code: "class Boat:\n    def setSail(self):\n        pass\n", at: &["2:9"], fixed: None },
            ],
            right: &[
                "def set_sail():\n    pass\n",
                "class Boat(Ship):\n    def setSail(self):\n        pass\n",
                "class Boat:\n    def __len__(self):\n        pass\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "function set_sail() {}\n", at: &["1:10"], fixed: None },
                Wrong { code: "class Boat {\n  set_sail() {}\n}\n", at: &["2:3"], fixed: None },
            ],
            right: &[
                "function setSail() {}\nfunction Board() {}\nclass Boat extends Ship {\n  set_sail() {}\n}\n",
                "const boat = { set_sail() {} };\n",
            ],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "setSail() {\n  true\n}\n", at: &["1:1"], fixed: None }],
            right: &["set_sail() {\n  true\n}\nset-sail() {\n  true\n}\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quay\n\nfunc next_tide() int {\n\treturn 3\n}\n\nfunc (quay Quay) Low_Tide() int {\n\treturn 2\n}\n",
                at: &["3:6", "7:18"],
                fixed: None,
            }],
            right: &[
                "package quay\n\nfunc nextTide() int {\n\treturn 3\n}\n\nfunc ServeHTTP() {}\n\nfunc _() {}\n\nfunc add_words(a, b []uint)\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong { code: "fn setSail() {}\n", at: &["1:4"], fixed: None }],
            right: &[
                "fn set_sail() {}\n\n#[no_mangle]\npub fn setSail() {}\n\nextern \"C\" fn onLow() {}\n\nextern \"C\" {\n    fn goAshore();\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong { code: "class Boat {\n    void Set_Sail() {}\n}\n", at: &["2:10"], fixed: None }],
            right: &[
                "class Boat {\n    Boat() {}\n\n    void setSail() {}\n\n    static Boat of() {\n        return null;\n    }\n}\n",
                "class Boat extends Ship {\n    void set_sail() {}\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Boat {\n    void set_sail() {\n        void Go_on() {}\n        Go_on();\n    }\n}\n",
                at: &["2:10", "3:14"],
                fixed: None,
            }],
            right: &[
                "class Boat {\n    Boat() {}\n\n    ~Boat() {}\n\n    void SetSail() {}\n\n    public override string to_line() => null;\n\n    public static Boat operator +(Boat a, Boat b) => a;\n\n    void quay_Click(object sender, EventArgs e) {}\n\n    [DllImport(\"tides\")]\n    static extern int low_tide(int at_quay);\n}\n",
                "class Boat : Ship {\n    void set_sail() {}\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::Function], check),
};

fn check(context: &mut Context, function: NodeRef) {
    let Some(name) = function
        .child(Role::Name)
        .filter(|name| matches!(name.kind(), Kind::Name | Kind::PropertyName | Kind::PrivateName | Kind::Word))
    else {
        return;
    };
    // What a test is for is said in its name.
    if context.file().is_test() {
        return;
    }
    let (text, span) = (context.text(name).trim_start_matches(['#', '@']), name.span());
    // Operators have signs for names.
    if !text.starts_with(|first: char| first == '_' || first == '$' || first.is_alphabetic()) {
        return;
    }
    match function.class_around().or_else(|| type_around(context, function)) {
        // A constructor has the name of its type.
        Some(class) if is_name_of(context, class, text) => {}
        Some(_) if is_of_another_language(context, function) => {}
        Some(class) => on_method(context, class, function, text, span),
        // A member of a literal may be named by whoever reads it.
        None if function.role() == Role::Element => {}
        _ if is_of_another_language(context, function) => {}
        // What is written in another language has its name there.
        None if context.file().traits.capitals_are_public && function.child(Role::Body).is_none() => {}
        None if function.child(Role::Receiver).is_some() => {
            check_name(context, "method", "method", text, span, |_, _| None);
        }
        None => {
            let id = name.id();
            check_name(context, "function", "function", text, span, |context, new| {
                rename_inside(context, context.file().names?.declared_at(id)?, new)
            });
        }
    }
}

/// What a function is a method of, if the language sees the members of types in all that is in them.
fn type_around<'t>(context: &Context<'t>, function: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let holder = function.parent()?.parent()?;
    context.names().members_scope(holder.id()).map(|_| holder)
}

fn on_method(context: &mut Context, class: NodeRef, method: NodeRef, text: &str, span: Span) {
    let marks_override = |decorator: NodeRef| {
        let name = context.text(decorator);
        name.ends_with("override") || name.ends_with("Override")
    };
    let says = || modifier(context.file(), method, "override").is_some();
    let overrides = method.children_in(Role::Decorator).any(marks_override) || says();
    // A method of an interface has the name that is given there.
    let is_given = method.child(Role::Receiver).is_some() && context.file().traits.open_namespaces;
    if !is_off(context, "method", text) || overrides || is_given || handles_event(context, method) {
        return;
    }
    // A type without a name is made after another one.
    if context.file().has_bases(class) || matches!(class.kind(), Kind::New | Kind::EnumMember) {
        context.unsure(span, FOREIGN);
        return;
    }
    check_name(context, "method", "method", text, span, |_, _| None);
}

/// Whether a method is given who has changed and what happened: tools name such a one after the two, with an underscore between them
/// ("Event design", Framework design guidelines).
fn handles_event(context: &Context, method: NodeRef) -> bool {
    let parameters = method.child(Role::Parameters).into_iter().flat_map(|list| list.children());
    let types: Vec<&str> =
        parameters.map(|one| one.child(Role::Type).map_or("", |written| context.text(written))).collect();
    matches!(types.as_slice(), ["object" | "object?" | "Object", what] if what.ends_with("EventArgs"))
}

/// Whether a type has a name. All its functions ask, whatever is said of it before its name.
fn is_name_of(context: &Context, class: NodeRef, text: &str) -> bool {
    let name = context.file().once_at(class, || TypeName(class.child(Role::Name).map(NodeRef::span)));
    name.0.is_some_and(|span| context.file().text.slice(span) == text)
}

struct TypeName(Option<Span>);
