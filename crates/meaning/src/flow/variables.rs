//! The variables of a file that may be read before they have a value, as far as a check their places tells.
//!
//! Most variables get their value in a statement that always runs, before anything reads them: those are left out, so that the graph
//! is asked about few.

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind, Tree};

use crate::names::{Binding, BindingId, DeclarationKind, Names, Resolution, ScopeId, ScopeKind, Unknown};

/// What happens to a variable at a node.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct At {
    pub(super) variable: u32,
    pub(super) uses: bool,
    pub(super) binds: Option<Bound>,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Bound {
    /// It gets a value.
    Set,
    /// It loses its value.
    Unset,
}

/// A variable that the graph is asked about.
#[derive(Debug)]
pub(super) struct Variable {
    pub(super) binding: BindingId,
    /// The function or file that it belongs to.
    pub(super) owner: NodeId,
    /// Its place among the variables of that.
    pub(super) place: u32,
    /// The nodes that give it a value, in the order of the text.
    pub(super) bound_at: Vec<NodeId>,
}

/// The variables that matter, and where.
#[derive(Debug, Default)]
pub(super) struct Variables {
    pub(super) all: Vec<Variable>,
    pub(super) at: FxHashMap<NodeId, At>,
    /// Variables that have no value when a block is entered, by the block.
    pub(super) of_block: FxHashMap<NodeId, Vec<u32>>,
    /// Names in conditions that a compiler knows the value of, as they are constants.
    pub(super) constants: FxHashSet<NodeId>,
    /// The nodes of `at`, in order.
    places: Vec<NodeId>,
    /// The variables of each function or file that has any, in order.
    by_owner: FxHashMap<NodeId, Vec<u32>>,
}

impl Variables {
    /// Whether something happens to a variable in a node.
    pub(super) fn is_met_in(&self, node: NodeRef<'_>) -> bool {
        let next = self.places.partition_point(|place| *place < node.id());
        self.places.get(next).is_some_and(|place| *place < node.end())
    }

    /// The nodes within one to which something happens, in order.
    pub(super) fn places_in(&self, node: NodeRef<'_>) -> &[NodeId] {
        let first = self.places.partition_point(|place| *place < node.id());
        let end = self.places.partition_point(|place| *place < node.end());
        &self.places[first..end]
    }

    /// Those of a function or file, in order.
    pub(super) fn of_owner(&self, owner: NodeId) -> &[u32] {
        self.by_owner.get(&owner).map_or(&[], Vec::as_slice)
    }
}

impl Variables {
    /// Adds a variable of a function or file. Settled once all are there.
    pub(super) fn add(&mut self, binding: BindingId, owner: NodeId) -> u32 {
        let variable = self.all.len() as u32;
        let of_owner = self.by_owner.entry(owner).or_default();
        let place = of_owner.len() as u32;
        of_owner.push(variable);
        self.all.push(Variable { binding, owner, place, bound_at: Vec::new() });
        variable
    }

    /// Notes what happens to a variable at a node.
    pub(super) fn meet(&mut self, node: NodeId, at: At) {
        if at.binds == Some(Bound::Set) {
            self.all[at.variable as usize].bound_at.push(node);
        }
        self.at.insert(node, at);
    }

    /// Puts places in order, after the last of them.
    pub(super) fn settle(&mut self) {
        self.all.iter_mut().for_each(|variable| variable.bound_at.sort_unstable());
        self.places = self.at.keys().copied().collect();
        self.places.sort_unstable();
    }
}

/// Looks for them.
pub(super) fn variables_of(language: Language, tree: &Tree, names: &Names) -> Variables {
    let mut variables = Variables::default();
    let is_late = language != Language::Python;
    let candidates: Vec<(BindingId, &Binding)> =
        names.bindings_with_ids().filter(|(_, binding)| may_matter(tree, names, binding, is_late)).collect();
    let functions = functions_around(names);
    let all_uses = uses_of(names, &candidates, &functions);
    for ((id, binding), uses) in candidates.into_iter().zip(&all_uses) {
        let owner = functions[binding.scope.index()];
        let is_plain = if is_late { is_declared_first(tree, binding, uses) } else { is_set_first(tree, binding, uses) };
        if uses.is_empty() || is_plain {
            continue;
        }
        let variable = variables.add(id, names.scope(owner).node);
        let handed_out = |node: &NodeId| {
            let mut here = binding.declarations.iter().filter(|one| one.node == *node);
            here.any(|one| !matches!(one.kind, DeclarationKind::Update | DeclarationKind::Deletion))
        };
        for node in uses.iter().filter(|node| !handed_out(node)) {
            variables.meet(*node, At { variable, uses: true, binds: None });
        }
        for declaration in &binding.declarations {
            let bound = if declaration.kind == DeclarationKind::Deletion { Bound::Unset } else { Bound::Set };
            let uses = variables.at.get(&declaration.node).is_some_and(|at| at.uses);
            variables.meet(declaration.node, At { variable, uses, binds: Some(bound) });
        }
        if is_late {
            variables.of_block.entry(names.scope(binding.scope).node).or_default().push(variable);
        }
    }
    variables.settle();
    variables
}

/// The uses of each of some bindings in the function that it belongs to.
fn uses_of(names: &Names, bindings: &[(BindingId, &Binding)], functions: &[ScopeId]) -> Vec<Vec<NodeId>> {
    let mut places = vec![None; names.bindings().len()];
    for (place, (id, _)) in bindings.iter().enumerate() {
        places[id.index()] = Some(place);
    }
    let mut uses = vec![Vec::new(); bindings.len()];
    for reference in names.references() {
        let Resolution::Binding(id) = reference.resolution else { continue };
        let Some(place) = places[id.index()] else { continue };
        let (_, binding) = bindings[place];
        if functions[reference.scope.index()] == functions[binding.scope.index()] {
            uses[place].push(reference.node);
        }
    }
    uses
}

/// For each scope that of the function around it, or of the file. Comprehensions and blocks run with what they are in; so do the bodies of
/// classes.
pub(super) fn functions_around(names: &Names) -> Vec<ScopeId> {
    let mut functions: Vec<ScopeId> = Vec::new();
    for (id, scope) in names.scopes_with_ids() {
        let function = match (scope.kind, scope.parent) {
            (ScopeKind::File | ScopeKind::Function, _) | (_, None) => id,
            // What is around it came before it.
            (_, Some(parent)) => functions[parent.index()],
        };
        functions.push(function);
    }
    functions
}

/// Whether the names of a binding's scope are all in the code, and it gets its value while its own code runs.
fn may_matter(tree: &Tree, names: &Names, binding: &Binding, is_late: bool) -> bool {
    let scope = names.scope(binding.scope);
    let runs_here = match scope.kind {
        ScopeKind::File | ScopeKind::Function => true,
        ScopeKind::Block => is_late,
        _ => false,
    };
    let is_known = scope.may_bind.is_none_or(|reason| matches!(reason, Unknown::OtherFile | Unknown::OtherPart));
    let kinds = || binding.declarations.iter().map(|declaration| declaration.kind);
    let own = if is_late {
        binding.declarations.len() == 1 && binding.declarations.iter().all(|one| is_late_declaration(tree, one.node))
    } else {
        !kinds().any(|kind| {
            matches!(
                kind,
                DeclarationKind::Parameter
                    | DeclarationKind::Elsewhere
                    | DeclarationKind::TypeParameter
                    | DeclarationKind::Annotation
            )
        })
    };
    runs_here && is_known && own && binding.uses + binding.writes > 0
}

/// `let`, `const` and `class`: there from the beginning of their block, and not to be touched before they are declared.
fn is_late_declaration(tree: &Tree, name: NodeId) -> bool {
    let name = tree.node(name);
    let Some(holder) = name.parent() else { return false };
    if holder.kind() == Kind::Class {
        return name.role() == Role::Name && !says_declare(holder);
    }
    let declaration = name.ancestors().find(|node| !is_part_of_target(*node));
    declaration.is_some_and(|node| {
        node.kind() == Kind::Declaration
            && node.role() != Role::Target
            && node.role() != Role::Start
            && !matches!(node.first_token_kind(), TokenKind::Var)
            && !says_declare(node)
    })
}

fn says_declare(declaration: NodeRef<'_>) -> bool {
    // `declare const x` begins with a name, and tells of what is elsewhere.
    declaration.first_token_kind() == TokenKind::Name && !is_let(declaration)
}

fn is_let(declaration: NodeRef<'_>) -> bool {
    let first = declaration.token_range().start;
    declaration.tree().token_span(first).len() == "let".len() as u32
}

fn is_part_of_target(node: NodeRef<'_>) -> bool {
    matches!(
        node.kind(),
        Kind::CapturePattern
            | Kind::StarPattern
            | Kind::DefaultPattern
            | Kind::PairPattern
            | Kind::MappingPattern
            | Kind::SequencePattern
            | Kind::Assignment
            | Kind::AnnotatedAssignment
    )
}

/// Whether every use is after the end of the declaration, and no choice between cases can lead past it.
fn is_declared_first(tree: &Tree, binding: &Binding, uses: &[NodeId]) -> bool {
    let Some(declaration) = binding.declarations.first() else { return true };
    let name = tree.node(declaration.node);
    let is_whole = |node: &NodeRef<'_>| matches!(node.kind(), Kind::Declaration | Kind::Class);
    let Some(whole) = std::iter::successors(Some(name), |node| node.parent()).find(is_whole) else {
        return true;
    };
    let in_case = whole.parent().and_then(|block| block.parent()).is_some_and(|holder| holder.kind() == Kind::Case);
    !in_case && uses.iter().all(|node| *node >= whole.end() || *node == declaration.node)
}

/// Whether the first place that gives a value always runs, and everything that reads is after it.
fn is_set_first(tree: &Tree, binding: &Binding, uses: &[NodeId]) -> bool {
    if binding.declarations.iter().any(|one| one.kind == DeclarationKind::Deletion) {
        return false;
    }
    if binding.declarations.iter().all(|one| one.kind == DeclarationKind::CaughtException) {
        let handlers: Vec<_> = binding.declarations.iter().filter_map(|one| tree.node(one.node).parent()).collect();
        return uses.iter().all(|node| handlers.iter().any(|handler| handler.holds(*node)));
    }
    let first = binding.declarations.iter().filter_map(|one| always_set_from(tree, one.node, one.kind)).min();
    let loses = binding.declarations.iter().any(|one| one.kind == DeclarationKind::CaughtException);
    !loses && first.is_some_and(|from| uses.iter().all(|node| *node >= from))
}

/// The node from which on a declaration that always runs has taken effect.
fn always_set_from(tree: &Tree, node: NodeId, kind: DeclarationKind) -> Option<NodeId> {
    if matches!(kind, DeclarationKind::NamedExpression | DeclarationKind::LoopTarget | DeclarationKind::Pattern) {
        return None;
    }
    let name = tree.node(node);
    let statement = std::iter::successors(Some(name), |node| node.parent()).find(|node| node.kind().is_statement())?;
    let is_outermost = statement.parent().is_some_and(|holder| {
        holder.kind() == Kind::File
            || holder.kind() == Kind::Block && holder.parent().is_some_and(|outer| outer.kind().is_function())
    });
    if !is_outermost {
        return None;
    }
    match statement.kind() {
        Kind::With => statement.child(Role::Body).map(NodeRef::id),
        _ => Some(statement.end()),
    }
}
