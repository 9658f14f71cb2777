//! What paths in expressions and patterns name.

use sieve_meaning::names::BindingId;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::lookup::World;
use super::types::Type;
use super::written::is_parameter_of_type;
use crate::rename::crates::lookup::{Meaning, declared};
use crate::rename::crates::modules::words_of;

impl World<'_, '_> {
    /// What `Tide { … }` makes, where `Tide` may be a variant.
    pub(super) fn of_constructed(&self, file: usize, name: NodeRef<'_>) -> Type {
        let name = name.child_of(Kind::Instantiation, Role::Value).unwrap_or(name);
        let written = self.views()[file].file.slice(name);
        if written == "Self" {
            return self.self_type(file, name, 0);
        }
        match self.item_of_path(file, name).and_then(|one| self.type_of_item(one)) {
            Some((file, id)) => match self.of_alias(file, id) {
                Some(other) => other,
                None => Type::Own(file, id, Vec::new()),
            },
            None => Type::Unknown,
        }
    }

    /// What another name of a type means.
    fn of_alias(&self, file: usize, id: BindingId) -> Option<Type> {
        let holder = declared(&self.views()[file], id).find_map(NodeRef::parent)?;
        Some(self.written(file, holder.child_of(Kind::TypeAlias, Role::Value)?))
    }

    /// The item or the variant that a path or a name means.
    pub(super) fn item_of_path(&self, file: usize, name: NodeRef<'_>) -> Option<Meaning> {
        let view = &self.views()[file];
        let mut words: Vec<String> = words_of(view.file.slice(name));
        if words.first().is_some_and(|first| first == "Self") {
            let Type::Own(of, id, _) = self.self_type(file, name, 0) else { return None };
            let [_, variant] = words.as_slice() else { return None };
            return self.paths.variant(of, id, variant).first().copied();
        }
        words.retain(|word| !word.starts_with('<'));
        if let (Kind::Name, Some(id)) = (name.kind(), view.binding_at(name))
            && !view.is_import(id)
        {
            return Some(Meaning::Item(file, id));
        }
        self.meaning(file, name, &words)
    }

    /// `Tide::new`, `Side::North`, `quay::DEPTH`
    pub(super) fn of_path_expression(&self, file: usize, node: NodeRef<'_>) -> Type {
        if let Some(meaning @ Meaning::Item(..)) = self.item_of_path(file, node) {
            return self.of_meaning(meaning);
        }
        let Some((object, name)) = node.child(Role::Object).zip(node.child(Role::Name)) else { return Type::Unknown };
        let of = self.type_named(file, object);
        self.of_associated(&of, self.views()[file].file.slice(name))
    }

    /// The type that the part of a path before a name is.
    pub(super) fn type_named(&self, file: usize, object: NodeRef<'_>) -> Type {
        let view = &self.views()[file];
        match object.kind() {
            Kind::Instantiation => {
                let arguments = object.child(Role::TypeArguments).into_iter();
                let arguments = arguments.flat_map(|list| list.children_in(Role::Argument));
                let arguments = arguments.filter(|one| one.kind() != Kind::Lifetime);
                let arguments: Vec<Type> = arguments.map(|one| self.written(file, one)).collect();
                match object.child(Role::Value).map_or(Type::Unknown, |value| self.type_named(file, value)) {
                    Type::Own(of, id, _) => Type::Own(of, id, arguments),
                    Type::Other(name, _) => Type::Other(name, arguments),
                    other => other,
                }
            }
            // `<Tide as Rises>::now`: what the trait has, of that type.
            Kind::QualifiedType => object.child(Role::Type).map_or(Type::Unknown, |of| self.written(file, of)),
            Kind::Name if view.file.slice(object) == "Self" => self.self_type(file, object, 0),
            _ => {
                if let Some(id) = view.binding_at(object).filter(|id| is_parameter_of_type(view, *id)) {
                    return Type::Parameter(file, id);
                }
                let words: Vec<String> = words_of(view.file.slice(object));
                self.of_path(file, object, &words, Vec::new(), 0)
            }
        }
    }
}
