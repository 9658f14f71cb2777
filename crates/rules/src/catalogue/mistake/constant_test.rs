use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::written_between;
use crate::shell::{arguments, text_beside};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "constant-test",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "a test in brackets whose result does not depend on anything",
    why: "The same branch is taken always: a dollar or a space is missing most likely.",
    silent: "For values that are expanded, for tests of files, and for loops that are to go on.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\n[ low ] && moor\n", at: &["2:3"], fixed: None },
            Wrong { code: "#!/bin/bash\n[ \"$1\"=\"low\" ] && moor\n", at: &["2:3"], fixed: None },
            Wrong { code: "#!/bin/bash\nif [ -z tide ]; then moor; fi\n", at: &["2:9"], fixed: None },
            Wrong { code: "#!/bin/bash\n[ tide = \"low\" ] && moor\n", at: &["2:3"], fixed: None },
            Wrong { code: "#!/bin/bash\ntide=$1\n[[ tide == low ]] && moor\n", at: &["3:4"], fixed: None },
        ],
        right: &[
            "#!/bin/bash\n[ \"$1\" ]\n[ -f tide ]\n[ \"$1\" = low ]\n[[ $1 == low ]]\n[ -z \"$1\" ]\nwhile [ 1 ]; do moor; done\nwhile [ 1 = 1 ]; do moor; done\n[ \"a$1\" = a ]\n[[ -v tide ]]\n[[ low == \"$1\" ]]\n[ \"$(tide)\" = \"\" ]\n",
        ],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Command, Kind::Comparison], &["["], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    if node.kind() == Kind::Comparison {
        let operands: Vec<NodeRef> = node.children_in(Role::Operand).collect();
        let is_test = node.ancestors().any(|around| around.kind() == Kind::ShellTest);
        if let ([left, right], true) = (operands.as_slice(), is_test) {
            let sign = written_between(file, *left, *right);
            if matches!(sign, "=" | "==" | "!=" | "=~")
                && is_plain(file, *left)
                && !is_pattern(file, *left)
                && !expands(*right)
            {
                report(context, *left);
            }
        }
        return;
    }
    let words: Vec<NodeRef> = arguments(node).collect();
    match words.as_slice() {
        // `while [ 1 ]` is meant.
        [only, _] if is_plain(file, *only) && !is_number(file, *only) => report(context, *only),
        [only, _] if is_joined(file, *only) => {
            context
                .report(only.span(), "without spaces this is one word, and the test always holds")
                .advice("put spaces around the sign");
        }
        [sign, value, _] if matches!(file.node_text(*sign), "-z" | "-n") && is_plain(file, *value) => {
            report(context, *value);
        }
        [left, sign, right, _]
            if matches!(file.node_text(*sign), "=" | "==" | "!=")
                && is_plain(file, *left)
                && is_plain(file, *right)
                && !is_filled_in(file, *left, *right)
                && !is_endless(file, node, *left, *right) =>
        {
            report(context, *left);
        }
        _ => {}
    }
}

fn report(context: &mut Context, word: NodeRef) {
    let text = context.text(word).trim_matches(['"', '\'']).to_string();
    context
        .report(word.span(), format!("\"{text}\" is a word as it is written: the result is always the same"))
        .advice("write a dollar before the name of a variable");
}

/// A word that expands to nothing else, and is not empty.
fn is_plain(file: File<'_>, word: NodeRef) -> bool {
    let text = file.node_text(word).trim_matches(['"', '\'']);
    word.kind() == Kind::Word
        && !text.is_empty()
        && text.bytes().all(|byte| byte == b'_' || byte.is_ascii_alphanumeric())
}

/// Whether something in a word depends on what is known when it runs.
fn expands(word: NodeRef) -> bool {
    word.descendants().any(|part| matches!(part.kind(), Kind::Expansion | Kind::CommandSubstitution | Kind::Arithmetic))
}

fn is_number(file: File<'_>, word: NodeRef) -> bool {
    matches!(file.node_text(word), "0" | "1" | "true" | "false")
}

fn is_pattern(file: File<'_>, word: NodeRef) -> bool {
    file.node_text(word).starts_with(|first: char| first.is_ascii_digit())
}

/// `"$tide"="low"`: a sign between what would be the sides.
fn is_joined(file: File<'_>, word: NodeRef) -> bool {
    let expands = word.descendants().any(|part| part.kind() == Kind::Expansion);
    let plain = text_beside(file, word, word.children());
    expands && plain.contains('=') && !file.node_text(word).starts_with('=')
}

/// `while [ 1 = 1 ]` is meant.
fn is_endless(file: File<'_>, test: NodeRef, left: NodeRef, right: NodeRef) -> bool {
    let is_condition = std::iter::once(test)
        .chain(test.ancestors())
        .any(|part| part.role() == Role::Condition && part.parent().is_some_and(|parent| parent.kind() == Kind::While));
    is_condition && file.node_text(left) == file.node_text(right)
}

/// `[ xyes = xno ]`: what a program that makes scripts has put in the place of a variable.
fn is_filled_in(file: File<'_>, left: NodeRef, right: NodeRef) -> bool {
    let begins = |word: NodeRef| file.node_text(word).trim_matches(['"', '\'']).starts_with('x');
    // Templates of scripts have names in capitals where something is put.
    let is_template = [".in", ".src", ".tmpl"].iter().any(|ending| file.path.ends_with(ending));
    let is_place = |word: NodeRef| !file.node_text(word).bytes().any(|byte| byte.is_ascii_lowercase());
    begins(left) && begins(right) || is_template && is_place(left)
}
