//! Of which type an expression is.

use sieve_meaning::declared::{only_value, written_type};
use sieve_meaning::names::{Binding, DeclarationKind, Namespace};
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::types::{Known, TypeId, Types};
use crate::rename::source::View;

/// Expressions are followed through this many steps.
const MOST_STEPS: usize = 16;

impl<'v> Types<'v> {
    /// The type of an expression, or the type that it names.
    pub(super) fn object(&self, file: usize, object: NodeRef<'_>) -> Known {
        self.follow(file, self.views[file].file.tree.node(object.id()), MOST_STEPS)
    }

    fn follow(&self, file: usize, object: NodeRef<'v>, steps: usize) -> Known {
        let Some(steps) = steps.checked_sub(1) else { return Known::Unknown };
        let inner = |role: Role| object.child(role).map_or(Known::Unknown, |inner| self.follow(file, inner, steps));
        let written = |role: Role| object.child(role).map_or(Known::Unknown, |written| self.named(file, written));
        match object.kind() {
            Kind::This | Kind::Super => self.around(file, object).map_or(Known::Unknown, Known::Of),
            Kind::String | Kind::Number | Kind::Character | Kind::FormatString | Kind::TypeQuestion => Known::Foreign,
            Kind::Group | Kind::NonNull => inner(Role::Value),
            Kind::Cast => written(Role::Type),
            Kind::New if object.child(Role::Callee).is_some() => written(Role::Callee),
            Kind::New => self.made_for(file, object),
            Kind::Call => object.child(Role::Callee).map_or(Known::Unknown, |callee| self.given(file, callee, steps)),
            Kind::Name => self.variable(file, object, steps),
            Kind::Member => self.of_member(file, object, steps),
            Kind::Subscript => self.element(file, object),
            _ => Known::Unknown,
        }
    }

    /// `new()`, whose type is written where it is put.
    fn made_for(&self, file: usize, made: NodeRef<'_>) -> Known {
        let holder = made.parent().filter(|_| made.role() == Role::Value);
        let declaration = holder.and_then(NodeRef::parent);
        let written = declaration.and_then(|declaration| declaration.child(Role::Type));
        written.map_or(Known::Unknown, |written| self.written(file, written))
    }

    /// A type in a declaration, where `var` says nothing.
    fn written(&self, file: usize, written: NodeRef<'_>) -> Known {
        if self.views[file].file.slice(written) == "var" { Known::Unknown } else { self.named(file, written) }
    }

    fn variable(&self, file: usize, name: NodeRef<'v>, steps: usize) -> Known {
        let view = &self.views[file];
        let Some(id) = view.binding_at(name) else {
            // A field that is inherited, or a type.
            let inherited = || self.inherited(file, name, Namespace::Values);
            return match self.named(file, name) {
                Known::Foreign => inherited().map_or(Known::Unknown, |(of, binding)| self.declared(of, binding)),
                known => known,
            };
        };
        let binding = view.names.binding(id);
        if binding.declarations.iter().all(|one| matches!(one.kind, DeclarationKind::Class | DeclarationKind::Import)) {
            return self.named(file, name);
        }
        if let Some(written) = written_type(&view.names, name)
            && view.file.slice(written) != "var"
        {
            return self.named(file, written);
        }
        match only_value(&view.names, name) {
            Some(value) => self.follow(file, value, steps),
            None => self.declared(file, binding),
        }
    }

    /// What the declaration of a member, or of a variable, says of its type.
    fn declared(&self, file: usize, binding: &Binding) -> Known {
        let view = &self.views[file];
        let mut known = None;
        for one in &binding.declarations {
            let name = view.file.tree.node(one.node);
            let holder = name.ancestors().take(2).find_map(|holder| {
                let role =
                    if matches!(holder.kind(), Kind::Function | Kind::Property) { Role::Returns } else { Role::Type };
                holder.child(role)
            });
            let next = holder.map_or(Known::Unknown, |written| self.written(file, written));
            // Methods of one name may return different things.
            if *known.get_or_insert(next) != next {
                return Known::Unknown;
            }
        }
        known.unwrap_or(Known::Unknown)
    }

    /// What a call of a method returns.
    fn given(&self, file: usize, callee: NodeRef<'v>, steps: usize) -> Known {
        match callee.kind() {
            Kind::Name => self.given_by_name(file, callee),
            Kind::Member => self.of_member(file, callee, steps),
            _ => Known::Unknown,
        }
    }

    fn given_by_name(&self, file: usize, name: NodeRef<'_>) -> Known {
        let view = &self.views[file];
        let is_method =
            |binding: &&Binding| binding.declarations.iter().all(|one| one.kind == DeclarationKind::Function);
        match view.binding_at(name).map(|id| view.names.binding(id)) {
            Some(binding) => Some(binding).filter(is_method).map_or(Known::Unknown, |one| self.declared(file, one)),
            None => {
                let found = FUNCTIONS.iter().find_map(|namespace| self.inherited(file, name, *namespace));
                found.map_or(Known::Unknown, |(of, binding)| self.declared(of, binding))
            }
        }
    }

    /// What a member of an object holds or returns.
    fn of_member(&self, file: usize, member: NodeRef<'v>, steps: usize) -> Known {
        let Some((object, name)) = member.child(Role::Object).zip(member.child(Role::Name)) else {
            return Known::Unknown;
        };
        let Known::Of(of) = self.follow(file, object, steps) else {
            return self.type_at(file, member);
        };
        let name = self.views[file].file.slice(name);
        let is_called = member.role() == Role::Callee;
        let found = namespaces(is_called).iter().find_map(|namespace| self.member_of(of, *namespace, name));
        match found {
            Some((file, binding)) => self.declared(file, binding),
            None => self.type_at(file, member),
        }
    }

    /// The type at the end of a path of packages and types.
    fn type_at(&self, file: usize, path: NodeRef<'_>) -> Known {
        match self.named(file, path) {
            Known::Foreign => Known::Unknown,
            known => known,
        }
    }

    /// A member of a type, its own or one that it inherits.
    fn member_of(&self, of: TypeId, namespace: Namespace, name: &str) -> Option<(usize, &'v Binding)> {
        self.above(of).into_iter().find_map(|of| {
            let view: &'v View<'v> = self.view(of);
            let id = self.declares(of, namespace, name)?;
            Some((self.all[of].file, view.names.binding(id)))
        })
    }

    /// A member that types around a name inherit from other files.
    fn inherited(&self, file: usize, name: NodeRef<'_>, namespace: Namespace) -> Option<(usize, &'v Binding)> {
        let text = self.views[file].file.slice(name);
        self.all_around(file, name).into_iter().find_map(|of| self.member_of(of, namespace, text))
    }

    /// An element of an array.
    fn element(&self, file: usize, subscript: NodeRef<'_>) -> Known {
        let array = subscript.child(Role::Object).filter(|array| array.kind() == Kind::Name);
        let written = array.and_then(|array| written_type(&self.views[file].names, array));
        let element = written.filter(|written| written.kind() == Kind::ArrayType);
        let element = element.and_then(|written| written.child(Role::Element));
        element.map_or(Known::Unknown, |element| self.named(file, element))
    }
}

/// Where methods are, in languages that tell them from variables and in those that do not.
const FUNCTIONS: &[Namespace] = &[Namespace::Functions, Namespace::Values];

/// Where what is behind a dot is looked for.
fn namespaces(is_called: bool) -> &'static [Namespace] {
    if is_called { FUNCTIONS } else { &[Namespace::Values] }
}
