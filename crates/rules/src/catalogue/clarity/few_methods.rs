use std::collections::HashSet;

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
    what: "classes with nothing but one method and what it needs",
    why: "A class that exists only for one method is a function with more ceremony.",
    silent: "Classes with bases, decorators, values of their own, or methods that the language calls are left alone, and so are base classes, here or by their names, and tests.",
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
            "class Fare:\n    def __init__(self, adult):\n        self.adult = adult\n\n    def child(self): ...\n\n\nclass Return(Fare):\n    pass\n",
            "class BaseFare:\n    def __init__(self, adult):\n        self.adult = adult\n\n    def child(self): ...\n",
        ],
    }],
    needs_names: false,
    check: Check::All(&[Kind::Class], check),
};

/// What the names of classes begin or end with that others are to be made from.
const FOR_OTHERS: &[&str] = &["Base", "Abstract", "Mixin", "Interface"];

fn check(context: &mut Context, classes: &[NodeRef]) {
    if context.file().is_test() {
        return;
    }
    let bases: HashSet<&str> = classes
        .iter()
        .filter_map(|class| class.child(Role::Arguments))
        .flat_map(|bases| bases.children())
        .map(|base| context.text(base))
        .collect();
    for class in classes {
        let Some(name) = class.child(Role::Name).map(|name| context.text(name)) else { continue };
        let word = name.trim_start_matches('_');
        let by_name = FOR_OTHERS.iter().any(|mark| word.starts_with(mark) || word.ends_with(mark));
        if !by_name && !bases.contains(name) {
            on_class(context, *class);
        }
    }
}

fn on_class(context: &mut Context, class: NodeRef) {
    let least = context.count("least");
    let bare = class.child(Role::Arguments).is_none() && class.child(Role::Decorator).is_none();
    let (Some(name), Some(body)) = (class.child(Role::Name), class.child(Role::Body)) else { return };
    if !bare {
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
            .advice("make it a function");
    }
}
