use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::built::is_literal;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::measured::is_measured;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "dropped-comparison",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a comparison whose result is ignored",
    why: "The comparison is a statement of its own. Most often an assignment or an assertion was meant.",
    silent: "In tests. In a block that expects an error (a `with` or a `try`), which the comparison may raise; and as the last statement of a script without functions, whose value a notebook shows. Where `self` is compared: the class may give its operators an effect.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "def sail(boat):\n    boat.crew == 2\n    boat.go()\n", at: &["2:5"], fixed: None }],
            right: &[
                "def measure(tide):\n    def run():\n        tide in tides\n    timer(run)\n",
                "with raises(TypeError):\n    tide < None\n",
                "try:\n    tide < None\nexcept TypeError:\n    wait()\n",
                "def sail(boat):\n    boat.crew = 2\n",
                "class Quay:\n    def link(self, other):\n        self > other\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "function sail(boat) {\n  boat.crew === 2;\n  boat.go();\n}\n",
                at: &["2:3"],
                fixed: None,
            }],
            right: &["function sail(boat) {\n  try {\n    boat < other;\n  } catch {\n    wait();\n  }\n}\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::ExpressionStatement], check),
};

fn check(context: &mut Context, statement: NodeRef) {
    let Some(comparison) = statement.child(Role::Value).filter(|value| value.kind() == Kind::Comparison) else {
        return;
    };
    let expects = |node: NodeRef| matches!(node.kind(), Kind::With | Kind::Try);
    let in_function = statement.ancestors().any(|node| node.kind().is_function() || node.kind() == Kind::Class);
    if statement.ancestors().any(expects) || !in_function {
        return;
    }
    let is_own = |operand: NodeRef| operand.kind() == Kind::Name && context.text(operand) == "self";
    if comparison.children_in(Role::Operand).any(is_own) {
        return context.unsure(comparison.span(), "the class may give its operators an effect");
    }
    if context.file().is_test() {
        return context.unsure(comparison.span(), "a test may only try whether the comparison fails");
    }
    // `"low" in tides` may be there to have the tides loaded.
    let asks_for_one = comparison.child(Role::Operand).is_some_and(|first| is_literal(first));
    if asks_for_one && context.file().traits.word_operators && context.text(comparison).contains(" in ") {
        return context.unsure(comparison.span(), "what is asked may load what it holds");
    }
    if is_measured(context.file(), comparison) {
        return context.unsure(comparison.span(), "a function that is handed on may only be measured");
    }
    context
        .report(comparison.span(), "the result of this comparison is ignored")
        .advice("assign the value, or assert the result");
}
