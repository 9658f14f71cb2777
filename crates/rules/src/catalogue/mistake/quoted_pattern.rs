use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::written_between;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "quoted-pattern",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: None,
    what: "a pattern in quotes, which is compared as it is written",
    why: "In quotes the signs of a pattern represent themselves: the test holds only for exactly these characters.",
    silent: "For signs that words may hold as well, and for quoted parts of a pattern; where the script has the same pattern without quotes, which gives itself where no file fits.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\n[[ $1 =~ \"^low.*\" ]] && moor\n", at: &["2:10"], fixed: None },
            Wrong { code: "#!/bin/bash\n[[ $1 == \"low*\" ]] && moor\n", at: &["2:10"], fixed: None },
        ],
        right: &[
            "for x in \"$quay\"/boats/*; do\n  [[ $x == \"$quay/boats/*\" ]] && break\ndone\n",
            "#!/bin/bash\n[[ $1 =~ ^low.* ]]\n[[ $1 == low* ]]\n[[ $1 == \"*\" ]]\n[[ $1 =~ \"low.tide\" ]]\n[[ $1 == \"low\"* ]]\n[[ $1 == \"--all*\" ]]\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Comparison], check),
};

fn check(context: &mut Context, comparison: NodeRef) {
    let file = context.file();
    let operands: Vec<NodeRef> = comparison.children_in(Role::Operand).collect();
    let [left, right] = operands.as_slice() else { return };
    let sign = written_between(file, *left, *right);
    let text = file.node_text(*right);
    let quoted = text.strip_prefix(['"', '\'']).and_then(|rest| rest.strip_suffix(['"', '\'']));
    let Some(inner) = quoted.filter(|inner| right.kind() == Kind::Word && !inner.contains(['"', '\''])) else { return };
    let is_pattern = match sign {
        "=~" => {
            (inner.starts_with('^')
                || inner.ends_with('$')
                || [".*", ".+", "[0-9]", "[a-z"].iter().any(|part| inner.contains(part)))
                && !inner.contains('\\')
        }
        "==" | "=" | "!=" => {
            inner.len() > 2
                && !inner.starts_with('-')
                && (inner.ends_with('*') || inner.starts_with('*'))
                && !inner.contains("**")
        }
        _ => false,
    };
    // Where no file fits, a pattern gives itself, and is compared with that.
    let without_quotes = |word: NodeRef| file.node_text(word).replace('"', "") == inner && word != *right;
    if is_pattern && !file.tree.nodes_of(Kind::Word).any(without_quotes) {
        context
            .report(right.span(), "in quotes this pattern is a plain string")
            .advice("leave the quotes out, or put the pattern into a variable");
    }
}
