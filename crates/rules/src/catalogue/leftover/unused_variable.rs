use sieve_meaning::names::{Binding, DeclarationSort, ScopeSort};
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, Role};

use crate::interface::{Certainty, Check, Concern, Context, Edit, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unused-variable",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: Some(FixKind::Review),
    what: "a variable of a function that is set and never read",
    why: "Either the value was meant to be used, and something is missing, or the line can go.",
    silent: "For names that begin with an underscore, loop variables, values taken apart, and where the function looks into its \
             own names (locals, eval).",
    standards: &[],
    options: &[],
    wrong: &[
        Wrong {
            code: "def sail(boat):\n    crew = boat.crew()\n    boat.cast_off()\n",
            at: &["2:5"],
            fixed: Some("def sail(boat):\n    boat.crew()\n    boat.cast_off()\n"),
        },
        Wrong {
            code: "def sail(boat):\n    try:\n        boat.go()\n    except OSError as error:\n        moor()\n",
            at: &["4:23"],
            fixed: Some("def sail(boat):\n    try:\n        boat.go()\n    except OSError:\n        moor()\n"),
        },
    ],
    right: &[
        "def sail(boat):\n    crew = boat.crew()\n    return lambda: crew\n",
        "def sail(boat):\n    _crew, captain = boat.crew()\n    for _ in range(3):\n        captain.wave()\n",
        "def sail(boat):\n    crew = 1\n    return locals()\n",
        "crew = 3\n",
    ],
    needs_names: true,
    check: Check::Bindings(check),
};

fn check(context: &mut Context, binding: &Binding) {
    let names = context.names();
    let scope = names.scope(binding.scope);
    if binding.uses > 0 || scope.sort != ScopeSort::Function {
        return;
    }
    let name = names.text(binding.name);
    if name.starts_with('_') || !binding.declarations.iter().all(|declaration| is_plain(declaration.sort)) {
        return;
    }
    for declaration in &binding.declarations {
        let span = context.file().tree.node(declaration.node).span();
        if let Some(reason) = scope.may_use {
            context.unsure(span, reason.describe());
            continue;
        }
        let edits = without_the_name(context, declaration.node, declaration.sort);
        let verb = if declaration.sort == DeclarationSort::CaughtException { "caught" } else { "set" };
        context
            .report(span, format!("\"{name}\" is {verb} and never read"))
            .advice("use it, or leave the name out")
            .fix_to_review(edits);
    }
}

/// Leaves out the name and what binds it; what the value does stays.
fn without_the_name(context: &Context, name: NodeId, sort: DeclarationSort) -> Option<Vec<Edit>> {
    let name = context.file().tree.node(name);
    let holder = name.parent()?;
    match sort {
        DeclarationSort::Assignment if holder.kind() == Kind::Assignment => {
            let targets = holder.children().filter(|child| child.role() == Role::Target).count();
            let value = holder.child(Role::Value).filter(|_| targets == 1 && name.role() == Role::Target)?;
            Some(vec![Edit::remove(Span::new(name.span().start, value.span().start))])
        }
        DeclarationSort::CaughtException => {
            let caught = holder.child(Role::Exception)?;
            Some(vec![Edit::remove(Span::new(caught.span().end, name.span().end))])
        }
        DeclarationSort::WithTarget if holder.kind() == Kind::WithItem => {
            let value = holder.child(Role::Value)?;
            Some(vec![Edit::remove(Span::new(value.span().end, name.span().end))])
        }
        _ => None,
    }
}

/// Bound so that leaving the name out changes nothing else.
fn is_plain(sort: DeclarationSort) -> bool {
    matches!(
        sort,
        DeclarationSort::Assignment
            | DeclarationSort::NamedExpression
            | DeclarationSort::CaughtException
            | DeclarationSort::WithTarget
    )
}
