use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "broken-chain",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx],
    fix: None,
    what: "an optional chain in parentheses, behind which it goes on without care",
    why: "Parentheses end the chain: where it gives undefined, the next step fails.",
    silent: "For chains that are known to have a value, by `!` or by a default.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[
            Wrong { code: "const name = (boat?.crew).name;\n", at: &["1:14"], fixed: None },
            Wrong { code: "(boat?.moor)();\n", at: &["1:1"], fixed: None },
        ],
        right: &[
            "const name = boat?.crew.name;\nconst other = (boat?.crew ?? crew).name;\nconst third = (boat?.crew)?.name;\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Group], check),
};

fn check(context: &mut Context, group: NodeRef) {
    let file = context.file();
    let Some(value) = group.child(Role::Value) else { return };
    let goes_on = matches!(group.role(), Role::Object | Role::Callee);
    let Some(parent) = group.parent().filter(|_| goes_on) else { return };
    let behind = file.text.slice(Span::new(group.span().end, parent.span().end)).trim_start();
    // A comment before the parentheses says which type the value has.
    let is_cast = file.text.source()[..group.span().start as usize].trim_end().ends_with("*/");
    if !is_cast && has_optional_step(file, value) && !behind.starts_with("?.") && !behind.starts_with('!') {
        context
            .report(group.span(), "where the chain gives undefined, the step behind the parentheses fails")
            .advice("go on with `?.`");
    }
}

/// Whether the chain itself, and nothing in its arguments, has a step that may give undefined.
fn has_optional_step(file: File<'_>, value: NodeRef) -> bool {
    let mut inner = value;
    loop {
        let next = match inner.kind() {
            Kind::Member | Kind::Subscript => inner.child(Role::Object),
            Kind::Call => inner.child(Role::Callee),
            _ => None,
        };
        let Some(object) = next else { return false };
        if file.text.slice(Span::new(object.span().end, inner.span().end)).trim_start().starts_with("?.") {
            return true;
        }
        inner = object;
    }
}
