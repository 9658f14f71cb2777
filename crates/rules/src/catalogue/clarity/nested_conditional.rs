use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "nested-conditional",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_CLASSES,
    fix: None,
    what: "a conditional expression inside another one",
    why: "It takes counting to see which condition belongs to which value.",
    silent: "A chain, in which each conditional is the last operand of the one before, reads from top to bottom and is left alone unless the option asks for it.",
    standards: &[],
    options: &[OptionFacts {
        name: "chains",
        default: OptionDefault::Flag(true),
        about: "whether a conditional may be the last operand of another one",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "x = (a if b else c) if d else e\n", at: &["1:6"], fixed: None }],
            right: &[
                "x = a if b else c if d else e\n",
                "x = a if b else c\n",
                "x = [a if b else c for d in (e if f else g)]\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "const x = a ? b ? c : d : e;\n", at: &["1:15"], fixed: None }],
            right: &["const x = a ? b : c ? d : e;\nconst y = a ? b : (c ? d : e);\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Desk {\n    int sail(int low) {\n        return low > 3 ? low > 5 ? 1 : 2 : 3;\n    }\n}\n",
                at: &["3:26"],
                fixed: None,
            }],
            right: &["class Desk {\n    int sail(int low) {\n        return low > 3 ? 1 : 2;\n    }\n}\n"],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    int Sail(int low)\n    {\n        return low > 3 ? (low > 5 ? 1 : 2) : 3;\n    }\n}\n",
                at: &["5:27"],
                fixed: None,
            }],
            right: &[
                "class Desk\n{\n    int Sail(int low)\n    {\n        return low > 3 ? 1 : 2;\n    }\n}\n",
                "class Desk\n{\n    int? Low(bool high) => high ? null : 3;\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Conditional], check),
};

fn check(context: &mut Context, choice: NodeRef) {
    let mut node = choice;
    while let Some(group) = node.parent().filter(|parent| parent.kind() == Kind::Group) {
        node = group;
    }
    let within = node.parent().is_some_and(|parent| parent.kind() == Kind::Conditional);
    let is_chain = node.role() == Role::Else;
    if within && !(is_chain && context.flag("chains")) {
        context
            .report(choice.span(), "this conditional is nested in another one")
            .advice("give it a name, or use statements");
    }
}
