use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "reversed-operator",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::WITH_CLASSES,
    fix: None,
    what: "`=+` or `=-` where an operator that assigns was meant",
    why: "The sign belongs to the value: the variable is overwritten and not counted up.",
    silent: "Where a space is between both signs, or none behind the second one.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "total =+ boat.seats\n", at: &["1:7"], fixed: None }],
            right: &["total = +boat.seats\ntotal += 3\ntotal =-1\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "total =+ boat.seats;\n", at: &["1:7"], fixed: None }],
            right: &["total = +boat.seats;\ntotal += 3;\ntotal =-1;\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Boat {\n    void sail() {\n        total =+ seats;\n    }\n}\n",
                at: &["3:15"],
                fixed: None,
            }],
            right: &[
                "class Boat {\n    void sail() {\n        total = +seats;\n        total += 3;\n        total =-1;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Boat {\n    void Sail() {\n        total =+ seats;\n    }\n}\n",
                at: &["3:15"],
                fixed: None,
            }],
            right: &[
                "class Boat {\n    void Sail() {\n        total = +seats;\n        total += 3;\n        total =-1;\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Unary], check),
};

fn check(context: &mut Context, unary: NodeRef) {
    let file = context.file();
    let Some(assignment) =
        unary.parent().filter(|parent| parent.kind() == Kind::Assignment && unary.role() == Role::Value)
    else {
        return;
    };
    let start = unary.span().start as usize;
    let source = file.text.source().as_bytes();
    let sign = source[start];
    let is_joined = start > 0 && source[start - 1] == b'=' && matches!(source.get(start + 1), Some(b' ' | b'\t'));
    let before = start > 1 && matches!(source[start - 2], b' ' | b'\t');
    if is_joined && before && matches!(sign, b'+' | b'-') && assignment.kind() == Kind::Assignment {
        let sign = char::from(sign);
        context
            .report(
                Span::new(unary.span().start - 1, unary.span().start + 1),
                format!("`={sign}` assigns a value with a sign"),
            )
            .advice(format!("write `{sign}=`, or put the space before the sign"));
    }
}
