use sieve_meaning::names::{Resolution, ScopeId};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::components::{is_component, is_hook_name, is_of_library, uses_library};
use crate::expected::is_short;
use crate::inside::{inside, runs_apart};
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "hook-in-branch",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Probable,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx],
    fix: None,
    what: "a hook that is not called each time its component is drawn",
    why: "Hooks are distinguished by the order of their calls: the next time one gets the state of another.",
    silent: "In files that import no library whose components are functions, and outside of functions that are named like components or hooks.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[Wrong {
            code: "import { useState } from 'react';\n\nexport function Board({ quay }) {\n  if (quay) useState(1);\n  if (!quay) return null;\n  const [tide] = useState(0);\n  return tide;\n}\n",
            at: &["4:13", "6:18"],
            fixed: None,
        }],
        right: &[
            "import { use, useState } from 'react';\n\nconst useKept = use;\n\nexport function useTide(tide) {\n  if (!isOn('tides')) return;\n  if (useKept) return useKept(tide);\n  return useState(tide);\n}\n",
            "import { useEffect, useLayoutEffect } from 'react';\n\nexport function useSail(sail) {\n  if (typeof window === 'undefined') return useEffect(sail);\n  return useLayoutEffect(sail);\n}\n",
            "import { useState } from 'react';\n\nexport function Board({ quay }) {\n  const [tide] = useState(0);\n  if (!quay) return null;\n  return tide;\n}\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::Call], check),
};

fn check(context: &mut Context, call: NodeRef) {
    let file = context.file();
    let Some(callee) = call.child(Role::Callee) else { return };
    let name = match callee.kind() {
        Kind::Name => Some(callee),
        Kind::Member => callee.child(Role::Name),
        _ => None,
    };
    // A member of anything else than the library may be no hook.
    let is_hook = name.is_some_and(|name| is_hook_name(file.node_text(name)));
    if !is_hook || !uses_library(file) || callee.kind() == Kind::Member && !is_of_library(file, callee) {
        return;
    }
    let Some(why) = why_not_always(context, call) else { return };
    context
        .report(callee.span(), format!("{} is called {why}", file.node_text(callee)))
        .advice("call it at the top of the component, before anything may return");
}

/// When a hook is not called, where that may be so.
fn why_not_always(context: &Context, call: NodeRef) -> Option<&'static str> {
    let mut inner = call;
    let mut why = None;
    let mut leaves = false;
    for around in call.ancestors() {
        let here = match around.kind() {
            Kind::Function | Kind::Lambda => {
                let found = why.or(leaves.then_some("only where nothing has returned before"));
                return found.filter(|_| is_component(context.file(), around));
            }
            // What is fixed when the program is built is the same each time.
            Kind::If | Kind::Conditional if is_fixed(context.file(), around) => None,
            Kind::If | Kind::Conditional if inner.role() != Role::Condition => Some("in a branch only"),
            Kind::Case => Some("in a branch only"),
            Kind::Logical if around.children_in(Role::Operand).next() != Some(inner) => Some("in a branch only"),
            Kind::For | Kind::While if inner.role() == Role::Body => Some("as often as a loop runs"),
            _ => None,
        };
        why = why.or(here);
        if around.kind() == Kind::Block && why.is_none() {
            leaves |= first_leaving(context.file(), around).is_some_and(|first| first < inner.id());
        }
        inner = around;
    }
    None
}

/// A condition of more parts is not looked through.
const PARTS: usize = 32;

/// Whether a choice asks for nothing but the environment.
fn is_fixed(file: File<'_>, choice: NodeRef) -> bool {
    choice.child(Role::Condition).is_some_and(|condition| {
        let text = file.node_text(condition);
        let asks_for_page = ["typeof window", "typeof document"].iter().any(|asked| text.contains(asked));
        asks_for_page
            || text.contains("process.env")
            || text.contains("import.meta.env")
            || text.trim_start_matches('!') == "__DEV__"
            || is_constant(file, condition)
    })
}

/// Whether all names in a condition are those of the whole file that keep their values, and it calls nothing but with strings that are
/// written there: `useTide`, `!isOn("tides")`.
fn is_constant(file: File<'_>, condition: NodeRef) -> bool {
    let Some(names) = file.names else { return false };
    let keeps = |name: NodeRef| match names.resolution_at(name.id()) {
        Some(Resolution::Binding(id)) => names.binding(id).scope == ScopeId::FILE && names.binding(id).writes == 0,
        _ => false,
    };
    let mut parts = std::iter::once(condition).chain(condition.descendants().take(PARTS));
    let is_written = |call: NodeRef| {
        call.child(Role::Arguments)
            .is_some_and(|all| all.children().next().is_some() && all.children().all(|one| one.kind() == Kind::String))
    };
    is_short(file.node_text(condition))
        && parts.all(|part| match part.kind() {
            Kind::Name => matches!(part.role(), Role::Name | Role::Callee) || keeps(part),
            Kind::Call => is_written(part),
            Kind::Member | Kind::Subscript | Kind::This => false,
            _ => true,
        })
}

/// The first statement of a block that may leave the function: looked for once, however many hooks come after it.
fn first_leaving(file: File<'_>, block: NodeRef) -> Option<NodeId> {
    file.once_at(block, || {
        FirstLeaving(block.children().find(|one| may_return(*one) && !is_fixed(file, *one)).map(NodeRef::id))
    })
    .0
}

/// The first statement of a block that may leave the function around it.
struct FirstLeaving(Option<NodeId>);

/// Whether a statement may leave the function that it is in.
fn may_return(statement: NodeRef) -> bool {
    matches!(statement.kind(), Kind::If | Kind::Match | Kind::For | Kind::While | Kind::Try)
        && inside(statement, runs_apart).any(|node| node.kind() == Kind::Return)
}
