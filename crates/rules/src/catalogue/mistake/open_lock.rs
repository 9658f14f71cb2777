use sieve_meaning::names::{Resolution, ScopeKind};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "open-lock",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::CSharp],
    fix: None,
    what: "a lock on an object that all code has: a type or a string",
    why: "Code that knows nothing of this one may hold the same lock, and each waits for the other.",
    silent: "For `lock (this)`: only those who have the object can hold it. For a type within one of the file, which may be there for that alone.",
    standards: &["Language reference of C#, \"lock statement\": Guidelines"],
    options: &[],
    examples: &[Examples {
        language: Language::CSharp,
        wrong: &[Wrong {
            code: "class Quay {\n    void Moor() {\n        lock (typeof(Quay)) Go();\n        lock (\"quay\") Go();\n    }\n}\n",
            at: &["3:15", "4:15"],
            fixed: None,
        }],
        right: &[
            "class Quay {\n    private readonly object gate = new object();\n\n    void Moor() {\n        lock (gate) Go();\n        lock (this) Go();\n        lock (typeof(Berth)) Go();\n        using (Open(\"quay\")) Go();\n    }\n\n    private class Berth {}\n}\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::With], check),
};

fn check(context: &mut Context, with: NodeRef) {
    if with.first_token_kind() != TokenKind::Lock {
        return;
    }
    let Some(held) = with.child(Role::Item).and_then(|item| item.child(Role::Value)) else { return };
    let what = match held.kind() {
        Kind::String => "a string",
        Kind::TypeQuestion if held.first_token_kind() == TokenKind::Typeof && !is_inner(context, held) => "a type",
        _ => return,
    };
    context
        .report(held.span(), format!("all code can hold this lock: {what} is there once for the whole program"))
        .advice("lock an object that nobody else has");
}

/// Whether a type that is asked for is one within another type of the file.
fn is_inner(context: &Context, asked: NodeRef) -> bool {
    let name = asked.child(Role::Type).and_then(|named| named.child(Role::Name));
    let Some(Resolution::Binding(id)) = name.and_then(|name| context.names().resolution_at(name.id())) else {
        return false;
    };
    let names = context.names();
    names.scope(names.binding(id).scope).kind == ScopeKind::Members
}
