use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
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
    silent: "Outside of functions, and for members where they may do something when they are set, as what begins with a capital may in C#, but not in Go and Java; behind a line for the preprocessor, which may tell the compiler that it is meant; for `location`, which loads the page anew.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def moor(self, name):\n    name = name\n", at: &["2:5"], fixed: None },
                Wrong { code: "def moor(self):\n    self.name = self.name\n", at: &["2:5"], fixed: None },
            ],
            right: &[
                "name = name\n",
                "def moor(self, name):\n    self.name = name\n",
                "def moor(box):\n    box.src = box.src\n",
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
    let home = assignment.ancestors().find(|node| node.kind().is_function() || node.kind() == Kind::Class);
    if home.is_some_and(|home| home.kind().is_function()) {
        context
            .report(assignment.span(), format!("{} is assigned to itself", file.node_text(target)))
            .advice("correct one side, or remove the line");
    }
}
