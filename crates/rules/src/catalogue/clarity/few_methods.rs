use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "few-methods",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "classes that hold nothing but one method and what it needs",
    why: "A class that is made only to call its one method is a function with more words around it.",
    silent: "Classes with bases, decorators, values of their own, or methods that the language calls are left alone, and so are tests.",
    standards: &[],
    options: &[OptionFacts {
        name: "least",
        default: OptionDefault::Count(2),
        about: "classes with fewer methods are reported",
    }],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong {
            code: "class Fare:\n    def __init__(self, adult):\n        self.adult = adult\n\n    def child(self):\n        return self.adult\n",
            at: &["1:7"],
            fixed: None,
        }],
        right: &[
            "class Fare(Price):\n    def __init__(self, adult):\n        self.adult = adult\n\n    def child(self):\n        return self.adult\n",
            "class Fare:\n    def __init__(self, adult):\n        self.adult = adult\n\n    def child(self): ...\n\n    def dog(self): ...\n",
            "class Fare:\n    def __init__(self, adult):\n        self.adult = adult\n\n    def __call__(self): ...\n",
            "class Fare:\n    pass\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Class], check),
};

fn check(context: &mut Context, class: NodeRef) {
    let least = context.count("least");
    let bare = class.child(Role::Arguments).is_none() && class.child(Role::Decorator).is_none();
    let (Some(name), Some(body)) = (class.child(Role::Name), class.child(Role::Body)) else { return };
    if !bare || context.file().is_test() {
        return;
    }
    let (mut is_made, mut methods) = (false, 0);
    for member in body.children() {
        let is_text = member.kind() == Kind::ExpressionStatement;
        if member.kind() != Kind::Function && !is_text {
            return;
        }
        let Some(method) = member.child(Role::Name).map(|name| context.text(name)) else { continue };
        if method == "__init__" {
            is_made = true;
        } else if method.starts_with("__") || member.child(Role::Decorator).is_some() {
            return;
        } else {
            methods += 1;
        }
    }
    if is_made && methods > 0 && methods < least {
        let text = context.text(name);
        let noun = if methods == 1 { "method" } else { "methods" };
        context
            .report(name.span(), format!("\"{text}\" has {methods} {noun} besides the one that makes it"))
            .advice("a function that takes what it needs would do");
    }
}
