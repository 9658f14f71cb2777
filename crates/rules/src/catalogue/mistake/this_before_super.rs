use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::inside::{inside, runs_apart};
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "this-before-super",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx],
    fix: None,
    what: "a constructor of a derived class that uses its object before it is made",
    why: "The object is there only after `super()`: before it the use fails, and without it so does the whole constructor.",
    silent: "Where `super()` is in a branch, and for constructors that return another object.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[
            Wrong {
                code: "class Ferry extends Boat {\n  constructor(seats) {\n    this.seats = seats;\n    super();\n  }\n}\n",
                at: &["3:5"],
                fixed: None,
            },
            Wrong {
                code: "class Ferry extends Boat {\n  constructor(seats) {\n    this.seats = seats;\n  }\n}\n",
                at: &["3:5"],
                fixed: None,
            },
        ],
        right: &[
            "class Ferry extends Boat {\n  constructor(seats) {\n    super();\n    this.seats = seats;\n  }\n}\nclass Boat {\n  constructor() {\n    this.depth = 3;\n  }\n}\n",
            "class Ferry extends Boat {\n  constructor(seats) {\n    const ready = () => this.seats;\n    super(ready);\n  }\n}\n",
            "class Ferry extends null {\n  constructor() {\n    return Object.create(null);\n  }\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Function], check),
};

fn check(context: &mut Context, function: NodeRef) {
    let file = context.file();
    let is_constructor = function.child(Role::Name).is_some_and(|name| file.node_text(name) == "constructor");
    let (Some(body), Some(class)) = (function.child(Role::Body), function.class_around().filter(|_| is_constructor))
    else {
        return;
    };
    let extends = class
        .child(Role::Arguments)
        .is_some_and(|heritage| file.node_text(heritage).trim_start().starts_with("extends"));
    if class.child(Role::Body) != function.parent() || !extends || file.only_describes() {
        return;
    }
    let is_made = |node: &NodeRef| {
        node.kind() == Kind::Call && node.child(Role::Callee).is_some_and(|callee| callee.kind() == Kind::Super)
    };
    let returns = body.descendants().any(|node| node.kind() == Kind::Return && node.child(Role::Value).is_some());
    let made = body.descendants().find(is_made);
    // The arguments of `super(…)` are evaluated before it.
    let is_early = |node: &NodeRef| node.kind() == Kind::This && made.is_none_or(|made| node.id() < made.end());
    let used = inside(body, runs_apart).find(is_early);
    let is_straight = made.is_none_or(|made| {
        made.ancestors().find(|around| around.role() == Role::Statement).is_some_and(|it| it.parent() == Some(body))
    });
    if let Some(used) = used.filter(|_| !returns && is_straight) {
        context
            .report(
                used.span(),
                if made.is_some() {
                    "`this` is not there before `super()`"
                } else {
                    "`this` is never there without `super()`"
                },
            )
            .advice("call `super()` first");
    }
}
