use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "assigned-condition",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx, Language::Java, Language::CSharp],
    fix: None,
    what: "a condition that assigns where it seems to compare",
    why: "One '=' too few turns a comparison into an assignment: the condition is then whatever was assigned, and a variable has lost its value.",
    silent: "Unless a literal is assigned: the result of a call is often stored and tested at once. With extra parentheses around the assignment, which show that it is intended, and in the conditions of loops, where it is common.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "if (tide = 3) sail();\n", at: &["1:5"], fixed: None }],
            right: &[
                "if ((tide = 3)) sail();\nif (tide = next()) sail();\n",
                "while (tide = 3) sail();\n",
                "if (tide === 3) sail();\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Boat {\n    void sail() {\n        if (low = true) go();\n    }\n}\n",
                at: &["3:13"],
                fixed: None,
            }],
            right: &[
                "class Boat {\n    void sail() {\n        if ((low = true)) go();\n        if (low == true) go();\n        if (low = isLow()) go();\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Boat {\n    void Sail() {\n        if (low = true) Go();\n    }\n}\n",
                at: &["3:13"],
                fixed: None,
            }],
            right: &[
                "class Boat {\n    void Sail() {\n        if ((low = true)) Go();\n        if (low = IsLow()) Go();\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::If], check),
};

fn check(context: &mut Context, choice: NodeRef) {
    let Some(condition) = choice.child(Role::Condition).filter(|condition| condition.kind() == Kind::Assignment) else {
        return;
    };
    // What a call gives is often kept and asked for at once; a literal never is.
    let value = condition.child(Role::Value).map(|value| value.kind());
    let literal = [Kind::Number, Kind::String, Kind::Boolean, Kind::Null];
    if !value.is_some_and(|value| literal.contains(&value)) {
        return context.unsure(condition.span(), "the value may be kept and asked for at once");
    }
    context
        .report(condition.span(), "this assigns; a condition usually compares")
        .advice("compare instead, or put an intended assignment in parentheses");
}
