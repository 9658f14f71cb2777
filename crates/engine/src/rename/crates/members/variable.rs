//! What variables are: by what is written of them, by their values, and by the patterns that take those apart.

use sieve_meaning::names::BindingId;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::library;
use super::lookup::World;
use super::types::Type;
use crate::rename::crates::lookup::{Meaning, declared, field_names};

impl World<'_, '_> {
    /// The type of a variable, which all places that declare it agree on.
    pub(super) fn variable(&self, file: usize, id: BindingId) -> Type {
        let view = &self.views()[file];
        let types = declared(view, id).map(|name| self.of_declaration(file, name));
        types.into_iter().find(|one| *one != Type::Unknown).unwrap_or(Type::Unknown)
    }

    fn of_declaration(&self, file: usize, name: NodeRef<'_>) -> Type {
        let key = (file, name.id());
        if let Some(known) = self.known.borrow().get(&key) {
            return known.clone();
        }
        self.known.borrow_mut().insert(key, Type::Unknown);
        let found = self.by_pattern(file, name).unwrap_or(Type::Unknown);
        self.known.borrow_mut().insert(key, found.clone());
        found
    }

    fn by_pattern(&self, file: usize, name: NodeRef<'_>) -> Option<Type> {
        // The outermost pattern that the name is in, and what that takes apart.
        let (pattern, holder) = std::iter::once(name).chain(name.ancestors()).find_map(|pattern| {
            let holder = pattern.parent()?;
            let is_whole = match (holder.kind(), pattern.role()) {
                (Kind::Parameter, Role::Name | Role::Pattern)
                | (Kind::Assignment | Kind::AnnotatedAssignment | Kind::For, Role::Target)
                | (Kind::Declaration, Role::Item)
                | (Kind::Case | Kind::LetCondition, Role::Pattern) => true,
                _ => false,
            };
            is_whole.then_some((pattern, holder))
        })?;
        let whole = match holder.kind() {
            Kind::Parameter => match holder.child(Role::Type) {
                Some(written) => self.written(file, written),
                None => self.given_to_closure(file, holder),
            },
            Kind::AnnotatedAssignment => self.written(file, holder.child(Role::Type)?),
            Kind::Assignment | Kind::LetCondition => self.type_of(file, holder.child(Role::Value)?),
            Kind::For => library::element(&self.type_of(file, holder.child(Role::Iterable)?)),
            Kind::Case => self.type_of(file, holder.parent()?.child(Role::Subject)?),
            _ => return None,
        };
        self.within(file, pattern, whole, name)
    }

    /// What a name in a pattern is, where the whole has a type.
    fn within(&self, file: usize, pattern: NodeRef<'_>, whole: Type, name: NodeRef<'_>) -> Option<Type> {
        if pattern == name {
            return Some(whole);
        }
        let holds =
            |inner: &NodeRef<'_>| inner.span().start <= name.span().start && name.span().end <= inner.span().end;
        let inner = pattern.children().find(holds)?;
        let of = match pattern.kind() {
            Kind::CapturePattern | Kind::ReferencePattern | Kind::GroupPattern | Kind::OrPattern => whole,
            Kind::SequencePattern => {
                let index = place_of(pattern, inner)?;
                match whole {
                    Type::Tuple(elements) => elements.get(index)?.clone(),
                    other => library::element(&other),
                }
            }
            Kind::ClassPattern if inner.kind() == Kind::KeywordPattern => {
                let field = inner.child(Role::Name)?;
                let part = self.field_in_pattern(file, pattern, field, &whole);
                // `Tide { low }` binds what is in the field.
                let bound = inner.child(Role::Pattern).unwrap_or(field);
                return self.within(file, bound, part, name);
            }
            Kind::ClassPattern => self.numbered_in_pattern(file, pattern, place_of(pattern, inner)?, &whole),
            _ => return None,
        };
        self.within(file, inner, of, name)
    }

    /// What is in a field that a pattern names.
    fn field_in_pattern(&self, file: usize, pattern: NodeRef<'_>, field: NodeRef<'_>, whole: &Type) -> Type {
        let name = self.views()[file].file.slice(field);
        match self.variant_of_pattern(file, pattern) {
            Some((of, variant)) => {
                let view = &self.views()[of];
                let found = field_names(variant).find(|one| view.file.slice(*one) == name);
                let written = found.and_then(|one| one.parent()?.child(Role::Type));
                written.map_or(Type::Unknown, |written| self.of_variant(of, variant, written, whole))
            }
            None => self.field_of(&self.of_pattern(file, pattern, whole), name),
        }
    }

    fn numbered_in_pattern(&self, file: usize, pattern: NodeRef<'_>, index: usize, whole: &Type) -> Type {
        if let Some((of, variant)) = self.variant_of_pattern(file, pattern) {
            let written = variant.child(Role::Type).and_then(|fields| fields.children_in(Role::Element).nth(index));
            return written.map_or(Type::Unknown, |written| self.of_variant(of, variant, written, whole));
        }
        let callee = pattern.child(Role::Callee).map_or("", |callee| self.views()[file].file.slice(callee));
        match (callee.rsplit("::").next().unwrap_or_default(), whole) {
            ("Some" | "Ok", Type::Other(_, arguments)) => arguments.first().cloned().unwrap_or(Type::Unknown),
            ("Err", Type::Other(_, arguments)) => arguments.get(1).cloned().unwrap_or(Type::Unknown),
            _ => self.field_of(&self.of_pattern(file, pattern, whole), &index.to_string()),
        }
    }

    /// What is written in a variant, where what it is one of may have arguments.
    fn of_variant(&self, file: usize, variant: NodeRef<'_>, written: NodeRef<'_>, whole: &Type) -> Type {
        let found = self.written(file, written);
        let holder = variant.ancestors().find(|around| around.kind() == Kind::Enum);
        let (Some(holder), Type::Own(_, _, arguments)) = (holder, whole) else { return found };
        found.with(&Type::bound(self.parameters(file, holder), arguments))
    }

    /// The type that a pattern names, with the arguments of what it takes apart.
    fn of_pattern(&self, file: usize, pattern: NodeRef<'_>, whole: &Type) -> Type {
        let named = pattern.child(Role::Callee).map_or(Type::Unknown, |callee| self.of_constructed(file, callee));
        match (&named, whole) {
            (Type::Own(file, id, _), Type::Own(other, same, _)) if (file, id) == (other, same) => whole.clone(),
            _ => named,
        }
    }

    /// The variant that a pattern names, with its file.
    pub(super) fn variant_of_pattern(&self, file: usize, pattern: NodeRef<'_>) -> Option<(usize, NodeRef<'_>)> {
        let callee = pattern.child(Role::Callee).or_else(|| pattern.child(Role::Type))?;
        let Some(Meaning::Item(of, id)) = self.item_of_path(file, callee) else { return None };
        let variant = declared(&self.views()[of], id).find_map(NodeRef::parent)?;
        (variant.kind() == Kind::EnumMember).then_some((of, variant))
    }

    /// What the parameter of a closure is, by the method that is given it.
    fn given_to_closure(&self, file: usize, parameter: NodeRef<'_>) -> Type {
        let found = parameter.parent().and_then(|list| {
            let index = list.children_in(Role::Parameter).position(|one| one == parameter)?;
            let closure = list.parent().filter(|one| one.kind() == Kind::Lambda)?;
            let callee = closure.parent()?.parent()?.child(Role::Callee).filter(|one| one.kind() == Kind::Member)?;
            let of = self.type_of(file, callee.child(Role::Object)?);
            Some(library::passed(&of, self.views()[file].file.slice(callee.child(Role::Name)?), index))
        });
        found.unwrap_or(Type::Unknown)
    }
}

/// The place of a pattern among those beside it; nothing behind one that takes any number.
fn place_of(pattern: NodeRef<'_>, inner: NodeRef<'_>) -> Option<usize> {
    let before: Vec<NodeRef<'_>> = pattern.children_in(Role::Pattern).take_while(|one| *one != inner).collect();
    before.iter().all(|one| one.kind() != Kind::StarPattern).then_some(before.len())
}
