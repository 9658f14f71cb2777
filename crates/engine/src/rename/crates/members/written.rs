//! What types are as they are written.

use sieve_meaning::names::{BindingId, DeclarationKind};
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::lookup::World;
use super::types::Type;
use crate::rename::crates::lookup::{Meaning, declared, is_type};
use crate::rename::crates::modules::words_of;
use crate::rename::source::View;

/// Types within types are followed so deep.
const DEEPEST: usize = 40;

/// So many other names of types are followed for one: each may name others more than once.
const MOST_ALIASES: usize = 100;

impl World<'_, '_> {
    /// What a type is that is written at a node.
    pub(super) fn written(&self, file: usize, node: NodeRef<'_>) -> Type {
        self.aliases.set(0);
        self.written_within(file, node, 0)
    }

    fn written_within(&self, file: usize, node: NodeRef<'_>, depth: usize) -> Type {
        if depth > DEEPEST {
            return Type::Unknown;
        }
        let inner = |node: NodeRef<'_>| self.written_within(file, node, depth + 1);
        match node.kind() {
            Kind::NamedType => self.named(file, node, depth),
            Kind::PointerType => node.child(Role::Element).map_or(Type::Unknown, inner),
            Kind::GroupType | Kind::Field => node.child(Role::Type).map_or(Type::Unknown, inner),
            Kind::ArrayType => Type::List(Box::new(node.child(Role::Element).map_or(Type::Unknown, inner))),
            Kind::TupleType => Type::Tuple(node.children_in(Role::Element).map(inner).collect()),
            Kind::FunctionType => Type::Function(Box::new(node.child(Role::Returns).map_or(Type::Unknown, inner))),
            Kind::TraitType => self.of_bounds(node.children_in(Role::Bound).map(inner).collect()),
            _ => Type::Unknown,
        }
    }

    /// Of several traits the one of the project.
    fn of_bounds(&self, bounds: Vec<Type>) -> Type {
        let own = bounds.iter().find(|bound| matches!(bound, Type::Own(..)));
        own.or(bounds.first()).cloned().unwrap_or(Type::Unknown)
    }

    fn named(&self, file: usize, node: NodeRef<'_>, depth: usize) -> Type {
        let Some(name) = node.child(Role::Name) else { return Type::Unknown };
        let view = &self.views()[file];
        if name.kind() == Kind::Name {
            if view.file.slice(name) == "Self" {
                return self.self_type(file, node, depth);
            }
            if let Some(id) = view.binding_at(name).filter(|id| is_parameter_of_type(view, *id)) {
                return Type::Parameter(file, id);
            }
        }
        let words = words_of(view.file.slice(name));
        if words.first().is_some_and(|first| first == "Self") {
            return self.associated(file, node, &words[1..], depth);
        }
        let arguments = node.child(Role::TypeArguments);
        let results = arguments.and_then(|arguments| arguments.child(Role::Returns));
        if let Some(returned) = results {
            return Type::Function(Box::new(self.written_within(file, returned, depth + 1)));
        }
        let arguments = arguments.into_iter().flat_map(|arguments| arguments.children_in(Role::Argument));
        let arguments = arguments.filter(|one| one.kind() != Kind::Lifetime);
        // `Iterator<Item = Tide>` has the type of what it gives as its argument.
        let value = |one: NodeRef<'_>| match one.child_of(Kind::KeywordArgument, Role::Value) {
            Some(value) => self.written_within(file, value, depth + 1),
            None => self.written_within(file, one, depth + 1),
        };
        self.of_path(file, node, &words, arguments.map(value).collect(), depth)
    }

    /// The type that a path means, with arguments.
    pub(super) fn of_path(
        &self,
        file: usize,
        node: NodeRef<'_>,
        words: &[String],
        arguments: Vec<Type>,
        depth: usize,
    ) -> Type {
        match self.meaning(file, node, words) {
            Some(Meaning::Item(of, id)) if is_type(&self.views()[of], id) => self.own(of, id, arguments, depth),
            Some(Meaning::Elsewhere) => Type::Other(words.last().cloned().unwrap_or_default(), arguments),
            _ => Type::Unknown,
        }
    }

    /// The one thing that a path means from a node.
    pub(super) fn meaning(&self, file: usize, node: NodeRef<'_>, words: &[String]) -> Option<Meaning> {
        let module = self.paths.modules.around(file, node).first()?;
        let view = &self.views()[file];
        // What is declared in a function is seen by the names of the file.
        if let [word] = words
            && let Some(id) = view.binding_at(node.child(Role::Name).unwrap_or(node))
            && !view.is_import(id)
            && view.names.text(view.names.binding(id).name) == word
        {
            return Some(Meaning::Item(file, id));
        }
        match self.paths.path(*module, words).as_slice() {
            [one] => Some(*one),
            [Meaning::Item(of, id), Meaning::Module(_)] | [Meaning::Module(_), Meaning::Item(of, id)] => {
                Some(Meaning::Item(*of, *id))
            }
            _ => None,
        }
    }

    /// A type of the project; what another name of a type means.
    fn own(&self, file: usize, id: BindingId, arguments: Vec<Type>, depth: usize) -> Type {
        let view = &self.views()[file];
        let holder = declared(view, id).find_map(NodeRef::parent);
        let Some(written) = holder.and_then(|holder| holder.child_of(Kind::TypeAlias, Role::Value)) else {
            return Type::Own(file, id, arguments);
        };
        self.aliases.set(if depth == 0 { 1 } else { self.aliases.get() + 1 });
        if self.aliases.get() > MOST_ALIASES {
            return Type::Unknown;
        }
        let parameters = holder.map_or(Vec::new(), |holder| self.parameters(file, holder));
        self.written_within(file, written, depth + 1).with(&Type::bound(parameters, &arguments)).or_unknown()
    }

    /// The parameters of a type, a function or an implementation, without lifetimes.
    pub(super) fn parameters(&self, file: usize, holder: NodeRef<'_>) -> Vec<Type> {
        let view = &self.views()[file];
        let list = holder.child(Role::TypeParameters).into_iter().flat_map(|list| list.children_in(Role::Parameter));
        let names = list.filter_map(|one| one.child(Role::Name)).filter(|name| name.kind() == Kind::Name);
        names.filter_map(|name| Some(Type::Parameter(file, view.names.declared_at(name.id())?))).collect()
    }

    /// What `Self` is at a node: the type of the implementation around it, or the trait.
    pub(super) fn self_type(&self, file: usize, node: NodeRef<'_>, depth: usize) -> Type {
        let is_type = |kind| matches!(kind, Kind::Implementation | Kind::Interface | Kind::Enum | Kind::TypeDefinition);
        let Some(holder) = node.ancestors().find(|around| is_type(around.kind())) else { return Type::Unknown };
        if holder.kind() == Kind::Implementation {
            let written = holder.child(Role::Type).filter(|written| written.id() != node.id());
            return written.map_or(Type::Unknown, |written| self.written_within(file, written, depth + 1));
        }
        let id = holder.child(Role::Name).and_then(|name| self.views()[file].names.declared_at(name.id()));
        id.map_or(Type::Unknown, |id| Type::Own(file, id, self.parameters(file, holder)))
    }

    /// `Self::Item`: what the implementation around it says.
    fn associated(&self, file: usize, node: NodeRef<'_>, words: &[String], depth: usize) -> Type {
        let view = &self.views()[file];
        let holder = node.ancestors().find(|around| around.kind() == Kind::Implementation);
        let items = holder.and_then(|holder| holder.child(Role::Body)).into_iter().flat_map(NodeRef::children);
        let is_it = |item: &NodeRef<'_>| {
            item.child_of(Kind::TypeAlias, Role::Name).is_some_and(|name| [view.file.slice(name)] == *words)
        };
        let written = items.filter(is_it).find_map(|item| item.child(Role::Value));
        written.map_or(Type::Unknown, |written| self.written_within(file, written, depth + 1))
    }
}

/// Whether a binding is the parameter of a type or a function.
pub(super) fn is_parameter_of_type(view: &View<'_>, id: BindingId) -> bool {
    view.names.binding(id).declarations.iter().any(|one| one.kind == DeclarationKind::TypeParameter)
}
