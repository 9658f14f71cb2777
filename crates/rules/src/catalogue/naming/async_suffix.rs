use sieve_meaning::project::words_before;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "async-suffix",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "an asynchronous function whose name does not show it",
    why: "Callers see from the name that the result has to be awaited.",
    silent: "Methods of a class with bases may be determined by the bases. It is on only where settings name it: not every team wants it.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "async def load_tides():\n    pass\n", at: &["1:11"], fixed: None }],
            right: &["async def load_tides_async():\n    pass\n", "def load():\n    pass\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "async function loadTides() {}\n", at: &["1:16"], fixed: None }],
            right: &["async function loadTidesAsync() {}\nasync function toAsyncTides() {}\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Function], check),
};

fn check(context: &mut Context, function: NodeRef) {
    let Some(name) = function.child(Role::Name).filter(|name| name.kind() != Kind::ComputedName) else { return };
    if !words_before(context.file().text, function).contains(&"async") {
        return;
    }
    let foreign = function.class_around().is_some_and(|class| context.file().has_bases(class));
    let text = context.text(name);
    let told = text.to_lowercase().contains("async");
    if !told && !foreign && !text.starts_with("__") && !context.file().is_test() {
        context
            .report(name.span(), format!("\"{text}\" is asynchronous, and its name does not show it"))
            .advice("let its name end with \"async\"");
    }
}
