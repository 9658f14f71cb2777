use std::cell::OnceCell;

use rustc_hash::FxHashSet;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::same::written_between;

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
    check: Check::All(&[Kind::Comparison], check),
};

fn check(context: &mut Context, comparisons: &[NodeRef]) {
    let file = context.file();
    // Gathered once, if some comparison is with a pattern.
    let without_quotes = OnceCell::new();
    for comparison in comparisons {
        let Some((word, pattern)) = compared_pattern(file, *comparison) else { continue };
        if !without_quotes.get_or_init(|| words_without_quotes(file)).contains(pattern) {
            context
                .report(word.span(), "in quotes this pattern is a plain string")
                .advice("leave the quotes out, or put the pattern into a variable");
        }
    }
}

/// What the words of a script are that are not in quotes as a whole. Where no file fits, a pattern among them gives itself, and may be
/// compared with that.
fn words_without_quotes(file: File<'_>) -> FxHashSet<String> {
    let words = file.tree.nodes_of(Kind::Word).map(|word| file.node_text(word));
    words.filter(|text| in_quotes(text).is_none()).map(|text| text.replace('"', "")).collect()
}

/// What is in the quotes of a word that is in them as a whole.
fn in_quotes(text: &str) -> Option<&str> {
    let inner = text.strip_prefix(['"', '\''])?.strip_suffix(['"', '\''])?;
    (!inner.contains(['"', '\''])).then_some(inner)
}

/// The word that a comparison has on its right, and what is in its quotes, where that looks like a pattern.
fn compared_pattern<'t>(file: File<'t>, comparison: NodeRef<'t>) -> Option<(NodeRef<'t>, &'t str)> {
    let operands: Vec<NodeRef> = comparison.children_in(Role::Operand).collect();
    let [left, right] = operands.as_slice() else { return None };
    let sign = written_between(file, *left, *right);
    let inner = in_quotes(file.node_text(*right)).filter(|_| right.kind() == Kind::Word)?;
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
    is_pattern.then_some((*right, inner))
}
