//! Local variables that are read where they may have no value, in languages whose compilers refuse that: every path counts that the
//! language's own rules take for one, and there is nothing to weigh.

use rustc_hash::FxHashSet;
use sieve_meaning::flow::{Flow, Unset};
use sieve_meaning::names::Resolution;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Context, File};
use crate::modifier::{has_word_before, modifier};
use crate::same::depends_on_build;

/// Of so much code around a place it is asked what else it may be, so that no file costs more for being entangled: nodes, declarations,
/// members.
const LOOKED_AT: usize = 64;

/// Reports the first such place of each variable of a function: a compiler takes it from there on as if it had a value.
pub(super) fn check_as_compiled(context: &mut Context, flow: &Flow) {
    let mut reported = FxHashSet::default();
    for place in flow.unset_uses() {
        let file = context.file();
        let node = file.tree.node(place.node);
        let binding = context.names().binding(place.binding);
        let Some(declaration) = binding.declarations.first().map(|one| file.tree.node(one.node)) else { continue };
        if !reported.insert(place.binding) || file.only_describes() {
            continue;
        }
        if place.unset == Unset::Doubtful {
            context.unsure(node.span(), "a condition may be a constant");
            continue;
        }
        if is_empty_structure(context, declaration) || is_given_to_nobody(context, node) {
            continue;
        }
        if depends_on_build(file, declaration.token_range().start..node.token_range().end) {
            context.unsure(node.span(), "which lines are compiled is not known");
            continue;
        }
        let name = context.names().text(binding.name);
        let span = declaration.span();
        context
            .report(node.span(), message(name, place.unset))
            .advice("assign it on every path that reaches this line, or where it is declared")
            .related(span, format!("\"{name}\" is declared here without a value"));
    }
}

/// What is wrong with a place that reads a variable.
pub(super) fn message(name: &str, unset: Unset) -> String {
    match unset {
        Unset::Always => format!("\"{name}\" is not assigned yet"),
        Unset::Doubtful | Unset::Maybe => format!("\"{name}\" may be unassigned here"),
    }
}

/// What a name of this file declares, by a use of it.
fn declared_by<'c>(context: &Context<'c>, used: NodeRef<'c>) -> impl Iterator<Item = NodeRef<'c>> + use<'c> {
    let names = context.names();
    let binding = match names.resolution_at(used.id()) {
        Some(Resolution::Binding(id)) => Some(names.binding(id)),
        _ => None,
    };
    let tree = context.file().tree;
    let places = binding.into_iter().flat_map(|binding| &binding.declarations);
    places.take(LOOKED_AT).filter_map(move |place| tree.node(place.node).parent())
}

/// Whether a variable has the type of a structure of this file that holds nothing: there is nothing in it without a value.
fn is_empty_structure<'c>(context: &Context<'c>, name: NodeRef<'c>) -> bool {
    let file = context.file();
    let declared = name.parent().and_then(|declaration| declaration.child(Role::Type));
    let Some(wanted) = declared.and_then(|of| of.child(Role::Name)) else { return false };
    declared_by(context, wanted).any(|one| {
        let words = one.significant_tokens().take(LOOKED_AT);
        words.take_while(|(_, kind)| *kind != TokenKind::BraceOpen).any(|(_, kind)| kind == TokenKind::Struct)
            && one.child(Role::Parameters).is_none()
            && one.child(Role::Body).is_some_and(|body| {
                let mut members = body.children();
                members.by_ref().take(LOOKED_AT).all(|member| !is_held(file, member)) && members.next().is_none()
            })
    })
}

/// Whether each value of a structure has a member for itself: a field, or a property that keeps its value in one.
fn is_held(file: File<'_>, member: NodeRef) -> bool {
    let says = |word: &str| has_word_before(file, member, word) || modifier(file, member, word).is_some();
    let keeps_value = || {
        let mut accessors = member.child(Role::Body).into_iter().flat_map(|body| body.children());
        accessors.any(|accessor| accessor.kind() == Kind::Accessor && accessor.child(Role::Body).is_none())
    };
    match member.kind() {
        Kind::Field => !says("static") && !says("const"),
        Kind::Property => !says("static") && keeps_value(),
        Kind::Function | Kind::Class | Kind::Enum | Kind::Interface => false,
        _ => true,
    }
}

/// Whether a value is an argument of a part of a function whose code is elsewhere, or nowhere: then nothing is called.
fn is_given_to_nobody<'c>(context: &Context<'c>, value: NodeRef<'c>) -> bool {
    let call =
        value.ancestors().take(LOOKED_AT).find(|around| around.kind() == Kind::Call || around.kind().is_statement());
    let Some(callee) = call.and_then(|call| call.child(Role::Callee)) else { return false };
    declared_by(context, callee).any(|function| {
        function.kind() == Kind::Function
            && function.child(Role::Body).is_none()
            && modifier(context.file(), function, "partial").is_some()
    })
}
