use sieve_meaning::project::{Callee, is_dropped, is_used_as_value, words_before};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{NodeRef, Role};

use crate::expected::{expects_error, is_short};
use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "forgotten-await",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::WITH_WAITING,
    fix: Some(FixKind::Review),
    what: "a call of an async function whose result is not awaited: dropped, or used as if it were there",
    why: "In Python the function does not even begin to run. In JavaScript and C# it runs beside the rest: nothing handles its errors, and the code after it does not wait.",
    silent: "Where the callee is unknown; outside of async functions in JavaScript and C#, which cannot await; where the result is passed on, or discarded on purpose with `void`; where a function calls itself for its next round, or a comment says that nobody waits.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "async def moor():\n    pass\nasync def land():\n    moor()\n",
                at: &["4:5"],
                fixed: Some("async def moor():\n    pass\nasync def land():\n    await moor()\n"),
            }],
            right: &[
                "async def moor():\n    pass\nasync def land():\n    await moor()\n    task = moor()\n    await task\n",
                "async def tides():\n    yield 1\nasync def land():\n    tides()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "async function moor() {}\nasync function land() {\n  moor();\n}\n",
                at: &["3:3"],
                fixed: Some("async function moor() {}\nasync function land() {\n  await moor();\n}\n"),
            }],
            right: &[
                "async function load() {}\n\nasync function open() {\n  // Nobody waits for this.\n  load();\n}\n",
                "async function pump(quay) {\n  await quay.next();\n  pump(quay);\n}\n",
                "async function moor() {}\nasync function land() {\n  await moor();\n  void moor();\n  return moor();\n}\n",
                "async function moor() {}\nfunction land() {\n  moor();\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    async Task Moor() { await Tide(); }\n    async Task Land() { Moor(); await Tide(); }\n}\n",
                at: &["4:25"],
                fixed: Some(
                    "class Desk\n{\n    async Task Moor() { await Tide(); }\n    async Task Land() { await Moor(); await Tide(); }\n}\n",
                ),
            }],
            right: &[
                "class Desk\n{\n    async Task Moor() { await Tide(); }\n    async void Wave() { await Tide(); }\n    async Task Land() { await Moor(); _ = Moor(); Wave(); var task = Moor(); await task; }\n    void Sail() { Moor(); }\n}\n",
                "partial class Desk\n{\n    Task Moor(int low) => Tide(low);\n    async Task Land() { Moor(); await Tide(); }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Calls(check),
};

fn check(context: &mut Context, call: NodeRef, callee: &Callee) {
    let stands_alone = is_dropped(call);
    let is_value = is_used_as_value(call) && !context.file().traits.typed_conditions;
    if !callee.is_async || callee.signature.is_none() || expects_error(context.file(), call) {
        return;
    }
    if !stands_alone && !is_value {
        return;
    }
    let around = call.ancestors().find(|node| node.kind().is_function());
    let in_async = around.is_some_and(|function| words_before(context.file().text, function).contains(&"async"));
    let Some(name) = call.child(Role::Callee).map(|callee| context.text(callee)) else { return };
    let lazy = context.file().traits.lazy_async;
    if !lazy && !in_async && !is_value {
        return;
    }
    if is_value {
        // What has a sign of its own around it would take the word for itself.
        let edits =
            (in_async && call.role() == Role::Condition).then(|| vec![Edit::insert(call.span().start, "await ")]);
        context
            .report(call.span(), format!("{name} is async: what it gives must be awaited before it is used"))
            .advice("await it")
            .fix_to_review(edits);
        return;
    }
    let what = if lazy { "never runs: its result" } else { "is async, and its result" };
    if !lazy && (goes_on(context, call, name) || says_so(context.file(), call)) {
        return;
    }
    let edits = in_async.then(|| vec![Edit::insert(call.span().start, "await ")]);
    context
        .report(call.span(), format!("{name} {what} is not awaited"))
        .advice("await it, or store its result and await that later")
        .fix_to_review(edits);
}

/// Whether a function calls itself for its next round.
fn goes_on(context: &Context, call: NodeRef, name: &str) -> bool {
    let is_it = |function: NodeRef| {
        let holder = function.parent().and_then(|holder| holder.child(Role::Target));
        function.child(Role::Name).or(holder).is_some_and(|own| context.text(own) == name)
    };
    call.ancestors().filter(|around| around.kind().is_function()).any(is_it)
}

/// Whether a comment on the line, or directly above, says that nobody waits.
fn says_so(file: File<'_>, call: NodeRef) -> bool {
    let lines = file.text.lines();
    let line = lines.line_of(call.span().start);
    (line.saturating_sub(1)..=line).filter(|line| *line > 0).any(|line| {
        let text = file.text.slice(lines.full_line(line));
        let comment = is_short(text).then(|| text.split_once("//")).flatten();
        comment.is_some_and(|(_, said)| ["wait", "background", "forget"].iter().any(|word| said.contains(word)))
    })
}
