use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "lost-trace",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::CSharp],
    fix: Some(FixKind::Review),
    what: "an error that a handler throws anew by its name",
    why: "Its trace begins again at the handler: where it came from is lost, and that is what whoever reads the log needs. `throw` alone passes it on as it is.",
    silent: "Where the handler gives the variable another value first; in functions within the handler, in a handler within it and in its `finally`, where `throw` alone is not allowed or means another error.",
    standards: &["ECMA-334, \"The throw statement\""],
    options: &[],
    examples: &[Examples {
        language: Language::CSharp,
        wrong: &[Wrong {
            code: "class Quay\n{\n    void Sail()\n    {\n        try { Go(); }\n        catch (Late late)\n        {\n            Log(late);\n            throw late;\n        }\n    }\n}\n",
            at: &["9:13"],
            fixed: Some(
                "class Quay\n{\n    void Sail()\n    {\n        try { Go(); }\n        catch (Late late)\n        {\n            Log(late);\n            throw;\n        }\n    }\n}\n",
            ),
        }],
        right: &[
            "class Quay\n{\n    void Sail()\n    {\n        try { Go(); }\n        catch (Late late) { throw; }\n        catch (Early early) { throw new Late(\"too early\", early); }\n        catch (Lost lost) { lost = lost.First; throw lost; }\n        catch (Wet wet) { Later(() => { throw wet; }); }\n        catch (Dry dry) { try { Go(); } catch (Late) { throw dry; } }\n    }\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Catch], check),
};

fn check(context: &mut Context, handler: NodeRef) {
    let Some(name) = handler.child(Role::Name).map(|name| context.text(name)) else { return };
    let throws: Vec<NodeRef> = handler.descendants().filter(|node| throws_by_name(context, *node, name)).collect();
    if throws.is_empty() || handler.descendants().any(|node| gives_value(context, node, name)) {
        return;
    }
    for throw in throws.into_iter().filter(|throw| handler_of(*throw) == Some(handler)) {
        let word_end = throw.tree().token_span(throw.token_range().start).end;
        let value_end = throw.child(Role::Exception).map_or(word_end, |value| value.span().end);
        let edits = vec![Edit::replace(Span::new(word_end, value_end), "")];
        context
            .report(throw.span(), format!("the trace of \"{name}\" begins anew here"))
            .advice("throw it without its name")
            .fix_to_review(Some(edits));
    }
}

/// Whether a statement throws what a variable holds; what is thrown as a value needs one.
fn throws_by_name(context: &Context, node: NodeRef, name: &str) -> bool {
    node.kind() == Kind::Throw
        && matches!(node.role(), Role::Statement | Role::Body | Role::Else)
        && node.child(Role::Exception).is_some_and(|value| value.kind() == Kind::Name && context.text(value) == name)
        && node.parent().is_some_and(|around| !around.kind().is_function() && around.kind() != Kind::Case)
}

/// The handler whose error `throw` alone passes on.
fn handler_of(throw: NodeRef<'_>) -> Option<NodeRef<'_>> {
    let mut inner = throw;
    loop {
        let around = inner.parent()?;
        match around.kind() {
            Kind::Catch => return Some(around),
            kind if kind.is_function() => return None,
            _ if inner.role() == Role::Finally => return None,
            _ => inner = around,
        }
    }
}

/// Whether a node gives a variable another value, or lets a function do so.
fn gives_value(context: &Context, node: NodeRef, name: &str) -> bool {
    let target = match node.kind() {
        Kind::Assignment | Kind::CompoundAssignment => node.child(Role::Target),
        // `ref late`, `out late`
        Kind::Unary => node.child(Role::Operand),
        _ => None,
    };
    target.is_some_and(|target| target.kind() == Kind::Name && context.text(target) == name)
}
