use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "invalid-mode",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a mode in which no file can be opened",
    why: "Opening the file fails with an error.",
    silent: "For modes that are not written out, and for functions of the same name that are not the builtin.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "open(path, \"rz\")\n", at: &["1:12"], fixed: None },
            Wrong { code: "open(path, mode=\"rw\")\n", at: &["1:17"], fixed: None },
        ],
        right: &["open(path, \"rb\")\nopen(path, \"r+t\")\nopen(path, \"U\")\n"],
    }],
    needs_names: true,
    check: Check::Named(&[Kind::Call], &["open"], check),
};

fn check(context: &mut Context, call: NodeRef) {
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name) else { return };
    if context.text(callee) != "open" || !context.names().is_builtin_at(callee.id()) {
        return;
    }
    let Some(arguments) = call.child(Role::Arguments) else { return };
    let by_name = arguments
        .children()
        .filter(|one| one.kind() == Kind::KeywordArgument)
        .find(|one| one.child(Role::Name).is_some_and(|name| context.text(name) == "mode"));
    let mode = by_name
        .and_then(|one| one.child(Role::Value))
        .or_else(|| arguments.children().nth(1).filter(|one| one.kind() == Kind::String));
    let Some(mode) = mode.filter(|mode| mode.kind() == Kind::String) else { return };
    let Some(value) = context.file().language.string_value(context.text(mode)) else { return };
    if !is_mode(&value) && !context.file().is_test() {
        context
            .report(mode.span(), format!("\"{value}\" is no mode of a file"))
            .advice("use one of r, w, a and x, and perhaps b, t or +");
    }
}

/// One of `r`, `w`, `a` and `x`; at most one of `b` and `t`; perhaps `+`; each once. `U` was one (Python 3.11).
fn is_mode(mode: &str) -> bool {
    let count = |letter: char| mode.chars().filter(|other| *other == letter).count();
    let ways: usize = "rwax".chars().map(count).sum();
    let known = mode.chars().all(|letter| "rwaxbt+U".contains(letter));
    known && (ways == 1 || count('U') == 1) && count('b') + count('t') <= 1 && count('+') <= 1
}
