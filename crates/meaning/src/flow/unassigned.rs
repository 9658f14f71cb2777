//! Local variables that are declared without a value, in languages whose compilers refuse to read them before they have one.
//!
//! After "Definite Assignment" of The Java Language Specification (Java SE 21), and "Definite assignment" of the C# Language Specification
//! (ECMA-334, 7th edition). Silent of variables that other functions write, and of those whose members are written one after another:
//! a value may be put together from these.

use rustc_hash::FxHashSet;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind, Tree};

use super::variables::{At, Bound, Variables, functions_around};
use crate::names::{Binding, BindingId, DeclarationKind, Names, Resolution, ScopeKind, Unknown};

/// No declaration has more words before the names that it declares.
const MOST_WORDS: usize = 16;

/// Looks for them.
pub(super) fn variables_of(text: &Text, tree: &Tree, names: &Names) -> Variables {
    let mut variables = Variables::default();
    let functions = functions_around(names);
    let alone = names.bindings_with_ids().filter(|(_, binding)| is_declared_alone(tree, names, binding));
    let alone: Vec<(BindingId, &Binding)> = alone.collect();
    let references = names.uses_of(&alone.iter().map(|(id, _)| *id).collect());
    for (id, binding) in alone {
        let Some(references) = references.get(&id) else { continue };
        let owner = functions[binding.scope.index()];
        let met = references.iter().map(|reference| {
            let node = tree.node(reference.node);
            (node, met_at(text, node, reference.writes), functions[reference.scope.index()] == owner)
        });
        let met: Vec<(NodeRef, Option<Met>, bool)> = met.collect();
        let is_followed = met.iter().all(|(_, met, here)| met.is_some_and(|met| *here || met == Met::Used));
        if !is_followed || met.iter().all(|(_, met, _)| *met == Some(Met::Set)) {
            continue;
        }
        let variable = variables.add(id, names.scope(owner).node);
        variables.meet(binding.declarations[0].node, At { variable, uses: false, binds: Some(Bound::Unset) });
        for (node, met, _) in met {
            let binds = (met != Some(Met::Used)).then_some(Bound::Set);
            variables.meet(node.id(), At { variable, uses: met != Some(Met::Set), binds });
        }
    }
    variables.settle();
    if !variables.all.is_empty() {
        variables.constants = constants_in_conditions(text, tree, names);
    }
    variables
}

/// Whether a binding is a local variable that its declaration gives no value.
fn is_declared_alone(tree: &Tree, names: &Names, binding: &Binding) -> bool {
    let scope = names.scope(binding.scope);
    let is_local = matches!(scope.kind, ScopeKind::File | ScopeKind::Function | ScopeKind::Block);
    let is_known = scope.may_bind.is_none_or(|reason| matches!(reason, Unknown::OtherFile | Unknown::OtherPart));
    let [declaration] = binding.declarations.as_slice() else { return false };
    let name = tree.node(declaration.node);
    let is_alone = || {
        name.role() == Role::Item
            && name.parent().is_some_and(|holder| holder.kind() == Kind::Declaration && holder.role() != Role::Target)
    };
    is_local && is_known && declaration.kind == DeclarationKind::Assignment && is_alone()
}

/// The names in conditions and choices that mean constants of this file.
fn constants_in_conditions(text: &Text, tree: &Tree, names: &Names) -> FxHashSet<NodeId> {
    let is_condition = |node: NodeRef<'_>| matches!(node.role(), Role::Condition | Role::Operand | Role::Subject);
    let is_constant = |binding: &Binding| {
        let declaration = binding.declarations.first().map(|one| tree.node(one.node));
        // `final boolean low = true`: the name is in an assignment, and that in the declaration.
        let assignment = declaration.and_then(NodeRef::parent).filter(|holder| holder.kind() == Kind::Assignment);
        let holder = assignment.and_then(NodeRef::parent);
        let holder = holder.filter(|holder| matches!(holder.kind(), Kind::Field | Kind::Declaration));
        holder.zip(declaration).is_some_and(|(holder, name)| {
            let words = holder.significant_tokens().take(MOST_WORDS);
            let mut before = words.take_while(|(token, _)| *token < name.token_range().start);
            before.any(|(token, _)| matches!(text.slice(tree.token_span(token)), "final" | "const"))
        })
    };
    let known = names.references().filter(|reference| match reference.resolution {
        Resolution::Binding(id) => is_condition(tree.node(reference.node)) && is_constant(names.binding(id)),
        _ => false,
    });
    known.map(|reference| reference.node).collect()
}

/// What a place does with a variable.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Met {
    Used,
    Set,
    Changed,
}

/// What a place does; nothing where that is not followed.
fn met_at(text: &Text, node: NodeRef<'_>, writes: bool) -> Option<Met> {
    let parent = node.parent()?;
    match (parent.kind(), node.role()) {
        (Kind::CompoundAssignment, Role::Target) | (Kind::Update, Role::Operand) => Some(Met::Changed),
        // `out depth` gives a value; an address may be used for anything.
        (Kind::Unary, Role::Operand) => match parent.first_token_kind() {
            TokenKind::Out => Some(Met::Set),
            TokenKind::Ampersand => None,
            _ => Some(Met::Used),
        },
        (Kind::Member, Role::Object) if is_written(parent) => None,
        _ if writes => Some(Met::Set),
        _ if is_only_named(text, node) => None,
        _ => Some(Met::Used),
    }
}

/// Whether a member, or one of its own, is written.
fn is_written(member: NodeRef<'_>) -> bool {
    let outermost = std::iter::successors(Some(member), |part| {
        part.parent().filter(|holder| holder.kind() == Kind::Member && part.role() == Role::Object)
    });
    outermost.last().is_some_and(|whole| {
        whole.role() == Role::Target
            || whole.parent().is_some_and(|parent| {
                parent.kind() == Kind::Unary
                    && matches!(parent.first_token_kind(), TokenKind::Out | TokenKind::Ampersand)
            })
    })
}

/// `nameof(depth)` and `nameof(depth.Low)` read nothing.
fn is_only_named(text: &Text, node: NodeRef<'_>) -> bool {
    let call = node.ancestors().take(4).find(|around| around.kind() == Kind::Call);
    let callee = call.and_then(|call| call.child(Role::Callee));
    callee.is_some_and(|callee| text.slice(callee.span()) == "nameof")
}
