use sieve_meaning::project::words_before;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "async-callback",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx],
    fix: None,
    what: "an async function as a callback that is not waited for",
    why: "What calls it sees a promise, which counts as true, or throws it away: the elements are not filtered, and errors get lost.",
    silent: "For methods whose results can be waited for together, such as `map`.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[
            Wrong { code: "boats.filter(async (boat) => boat.late());\n", at: &["1:14"], fixed: None },
            Wrong { code: "boats.forEach(async (boat) => {\n  await boat.moor();\n});\n", at: &["1:15"], fixed: None },
        ],
        right: &["await Promise.all(boats.map(async (boat) => boat.late()));\nboats.forEach((boat) => boat.moor());\n"],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Call], METHODS, check),
};

/// Methods of collections that ask for a truth, and the one that asks for nothing.
const METHODS: &[&str] =
    &["filter", "some", "every", "find", "findIndex", "findLast", "findLastIndex", "sort", FOR_ALL];
const FOR_ALL: &str = "forEach";

fn check(context: &mut Context, call: NodeRef) {
    let file = context.file();
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member) else { return };
    let method = callee.child(Role::Name).map_or("", |name| file.node_text(name));
    let is_test = method != FOR_ALL;
    if file.is_test() {
        return;
    }
    let callback = call.child(Role::Arguments).and_then(|arguments| arguments.children().next());
    let is_async =
        |callback: &NodeRef| callback.kind() == Kind::Lambda && words_before(file.text, *callback).contains(&"async");
    let Some(callback) = callback.filter(is_async) else { return };
    let waits = callback
        .child(Role::Body)
        .is_some_and(|body| body.descendants().chain([body]).any(|node| node.kind() == Kind::Await));
    let head = Span::new(callback.span().start, callback.span().start + "async".len() as u32);
    if is_test {
        context
            .report(head, format!("{method} sees a promise here, which always counts as true"))
            .advice("wait for all answers first, with Promise.all and map");
    } else if waits {
        context
            .report(head, "nothing waits for these calls, and their errors get lost")
            .advice("use a loop with `for … of`, or Promise.all and map");
    }
}
