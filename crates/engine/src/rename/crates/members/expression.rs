//! What expressions are.

use sieve_meaning::names::BindingId;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::library::{self, Given};
use super::lookup::{Access, Member, Owner, POINTERS, World};
use super::types::Type;
use crate::rename::crates::lookup::{Meaning, declared, is_type};

/// Expressions behind expressions are worked out so deep: calls in long rows, and values of values.
const DEEPEST: usize = 150;

impl World<'_, '_> {
    /// The type of an expression.
    pub(super) fn type_of(&self, file: usize, node: NodeRef<'_>) -> Type {
        if let Some(known) = self.known.borrow().get(&(file, node.id())) {
            return known.clone();
        }
        if self.depth.get() > DEEPEST {
            return Type::Unknown;
        }
        // Until it is worked out, what it depends on finds it unknown.
        self.known.borrow_mut().insert((file, node.id()), Type::Unknown);
        self.depth.set(self.depth.get() + 1);
        let found = self.worked_out(file, node).or_unknown();
        self.depth.set(self.depth.get() - 1);
        self.known.borrow_mut().insert((file, node.id()), found.clone());
        found
    }

    fn worked_out(&self, file: usize, node: NodeRef<'_>) -> Type {
        let of = |role: Role| node.child(role).map_or(Type::Unknown, |inner| self.type_of(file, inner));
        match node.kind() {
            Kind::Name => self.of_name(file, node),
            Kind::Path => self.of_path_expression(file, node),
            Kind::Member => self.of_field(file, node),
            Kind::Call => self.of_call(file, node),
            Kind::Instantiation | Kind::Group => of(Role::Value),
            Kind::Composite => node.child(Role::Type).map_or(Type::Unknown, |name| self.of_constructed(file, name)),
            Kind::Unary => self.of_unary(file, node, of(Role::Operand)),
            Kind::Cast => node.child(Role::Type).map_or(Type::Unknown, |written| self.written(file, written)),
            Kind::Propagation => library::propagated(of(Role::Value)),
            Kind::Await => match of(Role::Value) {
                Type::Other(name, mut inner) if name == "Future" && !inner.is_empty() => inner.swap_remove(0),
                _ => Type::Unknown,
            },
            Kind::Subscript => match node.child(Role::Index).is_some_and(|index| index.kind() == Kind::Range) {
                true => of(Role::Object),
                false => library::indexed(&of(Role::Object)),
            },
            Kind::Tuple => Type::Tuple(node.children_in(Role::Element).map(|one| self.type_of(file, one)).collect()),
            Kind::List => Type::List(Box::new(of(Role::Element))),
            Kind::If => self.of_first(file, [Role::Body, Role::Else].iter().filter_map(|role| node.child(*role))),
            Kind::Match => {
                let cases = node.children_in(Role::Case).chain(node.children()).filter(|one| one.kind() == Kind::Case);
                self.of_first(file, cases.filter_map(|case| case.child(Role::Body)))
            }
            Kind::Block => node.children().last().map_or(Type::Unknown, |last| self.type_of(file, last)),
            Kind::BlockExpression if node.first_token_kind() != TokenKind::Async => of(Role::Body),
            Kind::Lambda => Type::Function(Box::new(match node.child(Role::Returns) {
                Some(written) => self.written(file, written),
                None => of(Role::Body),
            })),
            Kind::MacroCall => self.of_macro(file, node),
            Kind::String | Kind::Interpolation => Type::other("str", Vec::new()),
            Kind::Number | Kind::Comparison | Kind::Boolean | Kind::Range => Type::other("number", Vec::new()),
            _ => Type::Unknown,
        }
    }

    /// The first that is known of several that are alike.
    fn of_first<'n>(&self, file: usize, nodes: impl Iterator<Item = NodeRef<'n>>) -> Type {
        nodes.map(|one| self.type_of(file, one)).find(|one| *one != Type::Unknown).unwrap_or(Type::Unknown)
    }

    fn of_name(&self, file: usize, node: NodeRef<'_>) -> Type {
        let view = &self.views()[file];
        let word = view.file.slice(node);
        if word == "self" {
            return self.of_self(file, node);
        }
        match view.binding_at(node).filter(|id| !view.is_import(*id)) {
            Some(id) if !self.is_item(file, id) => self.variable(file, id),
            Some(id) => self.of_meaning(Meaning::Item(file, id)),
            None => self.meaning(file, node, &[word.to_string()]).map_or(Type::Unknown, |one| self.of_meaning(one)),
        }
    }

    /// `self`, as its parameter says, or what the type around it is.
    pub(super) fn of_self(&self, file: usize, node: NodeRef<'_>) -> Type {
        let is_function = |around: &NodeRef<'_>| around.kind() == Kind::Function;
        let Some(function) = node.ancestors().find(is_function) else { return Type::Unknown };
        let list = function.child(Role::Parameters).into_iter().flat_map(NodeRef::children);
        let mut written =
            list.filter(|one| one.child(Role::Name).is_some_and(|name| self.views()[file].file.slice(name) == "self"));
        match written.next().and_then(|parameter| parameter.child(Role::Type)) {
            Some(written) => self.written(file, written),
            None => self.self_type(file, function, 0),
        }
    }

    /// Whether a binding is that of a function, a type, a constant or a variant.
    pub(super) fn is_item(&self, file: usize, id: BindingId) -> bool {
        declared(&self.views()[file], id).filter_map(NodeRef::parent).any(|holder| {
            let is_constant = matches!(holder.kind(), Kind::Assignment | Kind::AnnotatedAssignment)
                && holder.parent().is_some_and(|of| of.first_token_kind() != TokenKind::Let);
            is_constant
                || matches!(
                    holder.kind(),
                    Kind::Function
                        | Kind::TypeDefinition
                        | Kind::Enum
                        | Kind::EnumMember
                        | Kind::TypeAlias
                        | Kind::Interface
                )
        })
    }

    /// What an item is as a value.
    pub(super) fn of_meaning(&self, meaning: Meaning) -> Type {
        let Meaning::Item(file, id) = meaning else { return Type::Unknown };
        let view = &self.views()[file];
        let Some(holder) = declared(view, id).next().and_then(NodeRef::parent) else { return Type::Unknown };
        match holder.kind() {
            Kind::Function => self.of_function(file, holder),
            Kind::AnnotatedAssignment => {
                holder.child(Role::Type).map_or(Type::Unknown, |written| self.written(file, written))
            }
            _ if is_type(view, id) || holder.kind() == Kind::EnumMember => {
                let Some((file, of)) = self.type_of_item(meaning) else { return Type::Unknown };
                let made = Type::Own(file, of, Vec::new());
                // A structure or a variant with fields in parentheses is a function that makes it.
                match holder.child(Role::Type).map(NodeRef::kind) {
                    Some(Kind::TupleType) => Type::Function(Box::new(made)),
                    _ => made,
                }
            }
            _ => Type::Unknown,
        }
    }

    /// A function, by what it says that it gives.
    fn of_function(&self, file: usize, function: NodeRef<'_>) -> Type {
        let given = match function.child(Role::Returns) {
            // Its own parameters are whatever its caller makes of them.
            Some(written) => self.written(file, written).with(&Type::bound(self.parameters(file, function), &[])),
            None => Type::Tuple(Vec::new()),
        };
        let is_async = function.significant_tokens().take_while(|(_, kind)| *kind != TokenKind::ParenOpen);
        let waits = is_async.into_iter().any(|(_, kind)| kind == TokenKind::Async);
        Type::Function(Box::new(if waits { Type::other("Future", vec![given]) } else { given }))
    }

    /// What a type has under a name, as a value.
    pub(super) fn of_associated(&self, of: &Type, name: &str) -> Type {
        match self.owner(of, name, Access::Associated) {
            Owner::Own(member) => self.of_member(of, member),
            Owner::Other => library::constructed(of, name),
            Owner::Unknown => Type::Unknown,
        }
    }

    /// What a member is, in a type with arguments.
    fn of_member(&self, of: &Type, (file, name): Member) -> Type {
        let node = self.node((file, name));
        let Some(holder) = node.parent() else { return Type::Unknown };
        let found = match holder.kind() {
            Kind::Function => self.of_function(file, holder),
            _ => holder.child(Role::Type).map_or(Type::Unknown, |written| self.written(file, written)),
        };
        let around = holder
            .ancestors()
            .find(|one| matches!(one.kind(), Kind::Implementation | Kind::TypeDefinition | Kind::Interface));
        let Some(around) = around else { return found };
        let of = self.pointed_to(of, (file, name));
        let (parameters, own) = match around.kind() {
            Kind::Implementation => match around.child(Role::Type).map(|written| self.written(file, written)) {
                Some(Type::Own(_, _, parameters)) => (parameters, None),
                _ => (Vec::new(), None),
            },
            // What a trait says of `Self` is said of what has it.
            Kind::Interface => (Vec::new(), Some(self.self_type(file, holder, 0))),
            _ => (self.parameters(file, around), None),
        };
        let arguments = if let Type::Own(_, _, arguments) = &of { arguments.clone() } else { Vec::new() };
        let found = found.with(&Type::bound(parameters, &arguments));
        match own {
            Some(own) if found == Type::Function(Box::new(own.clone())) => Type::Function(Box::new(of)),
            _ => found,
        }
    }

    /// The type that has a member, behind pointers.
    fn pointed_to(&self, of: &Type, member: Member) -> Type {
        let mut of = of.clone();
        for _ in 0..8 {
            let inner = match &of {
                Type::Other(name, arguments) if POINTERS.contains(&name.as_str()) => arguments.first().cloned(),
                Type::Own(file, id, arguments) => {
                    let name = self.views()[member.0].file.slice(self.node(member));
                    let is_own = self.field((*file, *id), name) == Some(member)
                        || self.associated_with((*file, *id), name, 0) == Some(member);
                    if is_own { None } else { self.behind((*file, *id), arguments) }
                }
                _ => None,
            };
            match inner {
                Some(inner) => of = inner,
                None => return of,
            }
        }
        of
    }

    fn of_field(&self, file: usize, node: NodeRef<'_>) -> Type {
        let Some((object, name)) = node.child(Role::Object).zip(node.child(Role::Name)) else { return Type::Unknown };
        let of = self.type_of(file, object);
        self.field_of(&of, self.views()[file].file.slice(name))
    }

    /// What is in the field of a value.
    pub(super) fn field_of(&self, of: &Type, name: &str) -> Type {
        if let Ok(index) = name.parse::<usize>() {
            return self.numbered(of, index, 0);
        }
        match self.owner(of, name, Access::Field) {
            Owner::Own(member) => self.of_member(of, member),
            _ => Type::Unknown,
        }
    }

    /// What is in a field that has a number.
    fn numbered(&self, of: &Type, index: usize, depth: usize) -> Type {
        match of {
            Type::Tuple(elements) => elements.get(index).cloned().unwrap_or(Type::Unknown),
            Type::Other(name, arguments) if depth < 8 && POINTERS.contains(&name.as_str()) => {
                arguments.first().map_or(Type::Unknown, |inner| self.numbered(inner, index, depth + 1))
            }
            Type::Own(file, id, arguments) => {
                let found = self.holders((*file, *id)).find_map(|(file, holder)| {
                    let fields = holder.child(Role::Type).filter(|fields| fields.kind() == Kind::TupleType)?;
                    let field = fields.children_in(Role::Element).nth(index)?;
                    Some(self.written(file, field).with(&Type::bound(self.parameters(file, holder), arguments)))
                });
                found.unwrap_or(Type::Unknown)
            }
            _ => Type::Unknown,
        }
    }

    fn of_call(&self, file: usize, node: NodeRef<'_>) -> Type {
        let Some(callee) = node.child(Role::Callee) else { return Type::Unknown };
        let arguments = node.child(Role::Arguments).into_iter().flat_map(|list| list.children_in(Role::Argument));
        if callee.kind() == Kind::Member {
            let (object, name) = (callee.child(Role::Object), callee.child(Role::Name));
            let Some((object, name)) = object.zip(name) else { return Type::Unknown };
            let of = self.type_of(file, object);
            let given = arguments.map(|one| self.type_of(file, one)).collect();
            return self.called(&of, self.views()[file].file.slice(name), given);
        }
        match (self.type_of(file, callee), library::wrapper(self.views()[file].file.slice(callee))) {
            (Type::Function(result), None) => *result,
            (Type::Function(result), _) if matches!(*result, Type::Own(..)) => *result,
            (_, Some(name)) => Type::other(name, arguments.take(1).map(|one| self.type_of(file, one)).collect()),
            _ => Type::Unknown,
        }
    }

    /// What a method gives.
    pub(super) fn called(&self, of: &Type, name: &str, given: Vec<Type>) -> Type {
        match self.owner(of, name, Access::Associated) {
            Owner::Own(member) => match self.of_member(of, member) {
                Type::Function(result) => *result,
                _ => Type::Unknown,
            },
            Owner::Other => self.called_in_library(of, name, &Given(given)),
            Owner::Unknown => Type::Unknown,
        }
    }

    /// What a method of the library gives, of a type or of what is behind it.
    fn called_in_library(&self, of: &Type, name: &str, given: &Given) -> Type {
        match (library::called(of, name, given), of) {
            (Type::Unknown, Type::Own(file, id, arguments)) => match self.behind((*file, *id), arguments) {
                Some(behind) => library::called(&behind, name, given),
                None => Type::Unknown,
            },
            (found, _) => found,
        }
    }

    fn of_unary(&self, file: usize, node: NodeRef<'_>, operand: Type) -> Type {
        match (node.first_token_kind(), operand) {
            (TokenKind::Star, Type::Other(name, mut inner))
                if POINTERS.contains(&name.as_str()) && !inner.is_empty() =>
            {
                inner.swap_remove(0)
            }
            (TokenKind::Star, Type::Own(of, id, arguments)) => {
                // `*self` is what the reference refers to, unless the type says otherwise.
                let is_self = |one: NodeRef<'_>| self.views()[file].file.slice(one) == "self";
                let is_value = node.child(Role::Operand).is_some_and(is_self);
                let behind = self.behind((of, id), &arguments).filter(|_| !is_value);
                behind.unwrap_or(Type::Own(of, id, arguments))
            }
            (_, operand) => operand,
        }
    }

    fn of_macro(&self, file: usize, node: NodeRef<'_>) -> Type {
        let called = node.child(Role::Callee).map_or("", |callee| self.views()[file].file.slice(callee));
        match called.rsplit("::").next().unwrap_or_default() {
            "format" => Type::other("String", Vec::new()),
            "vec" => Type::other("Vec", vec![Type::Unknown]),
            _ => Type::Unknown,
        }
    }
}
