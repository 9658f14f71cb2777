//! What an expression is.

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::lookup::Found;
use super::project::{Known, Project};
use super::written::{MOST_STEPS, Meaning};

impl<'v> Project<'v> {
    /// What an expression is, or the type or the package that it names.
    pub(super) fn expression(&self, file: usize, node: NodeRef<'v>) -> Known<'v> {
        self.follow(file, node, MOST_STEPS)
    }

    /// The same, within so many steps from expression to expression.
    pub(super) fn follow(&self, file: usize, node: NodeRef<'v>, steps: usize) -> Known<'v> {
        let Some(steps) = steps.checked_sub(1) else { return Known::Unknown };
        if let Some(known) = self.seen.borrow().get(&(file, node.id())) {
            return *known;
        }
        // What leads to itself is not known.
        self.seen.borrow_mut().insert((file, node.id()), Known::Unknown);
        let known = self.look(file, node, steps);
        self.seen.borrow_mut().insert((file, node.id()), known);
        known
    }

    fn look(&self, file: usize, node: NodeRef<'v>, steps: usize) -> Known<'v> {
        let inner = |role: Role| node.child(role).map_or(Known::Unknown, |inner| self.follow(file, inner, steps));
        match node.kind() {
            Kind::String | Kind::Number | Kind::Character | Kind::Comparison | Kind::Logical => Known::Foreign,
            Kind::Group => inner(Role::Value),
            Kind::Unary => match node.first_token_kind() {
                TokenKind::ChannelArrow => self.element(inner(Role::Operand)),
                TokenKind::Exclamation => Known::Foreign,
                _ => inner(Role::Operand),
            },
            // Where one side is a constant without a type, the other one says what it is.
            Kind::Binary => match inner(Role::Left) {
                Known::Foreign => inner(Role::Right),
                known => known,
            },
            Kind::Cast => node.child(Role::Type).map_or(Known::Unknown, |of| self.written(file, of)),
            Kind::TypeGuard => inner(Role::Value),
            Kind::Lambda => Known::Written(file, node),
            Kind::Composite => self.composite(file, node, steps),
            Kind::Call => self.result(file, node, 0, steps),
            Kind::Name => self.name(file, node, steps),
            Kind::Member => self.of_member(file, node, steps),
            Kind::Subscript => self.subscript(file, node, steps),
            _ => self.named_type(file, node).unwrap_or(Known::Unknown),
        }
    }

    fn name(&self, file: usize, name: NodeRef<'v>, steps: usize) -> Known<'v> {
        match self.meaning(file, name) {
            Meaning::Declared(at, id) => self.declared(at, id, Some(name), steps),
            Meaning::Other(known) => known,
        }
    }

    /// What a member is: a field holds it, a method is a function.
    fn of_member(&self, file: usize, member: NodeRef<'v>, steps: usize) -> Known<'v> {
        match self.meaning(file, member) {
            Meaning::Declared(at, id) => return self.declared(at, id, None, steps),
            Meaning::Other(Known::Foreign) => return Known::Foreign,
            Meaning::Other(_) => {}
        }
        let (Some(object), Some(name)) = (member.child(Role::Object), member.child(Role::Name)) else {
            return Known::Unknown;
        };
        match self.lookup(self.follow(file, object, steps), self.slice(file, name)) {
            Found::Member(found) => self.type_of(&found),
            Found::Foreign => Known::Foreign,
            Found::Unknown => Known::Unknown,
        }
    }

    /// A literal with elements. One without a type of its own has that of the elements around it.
    pub(super) fn composite(&self, file: usize, literal: NodeRef<'v>, steps: usize) -> Known<'v> {
        let Some(steps) = steps.checked_sub(1) else { return Known::Unknown };
        if let Some(written) = literal.child(Role::Type) {
            return self.written(file, written);
        }
        let Some(parent) = literal.parent() else { return Known::Unknown };
        let outer = if parent.kind() == Kind::Pair { parent.parent() } else { Some(parent) };
        let Some(outer) = outer.filter(|outer| outer.kind() == Kind::Composite) else { return Known::Unknown };
        let around = self.underlying(self.composite(file, outer, steps));
        if literal.role() == Role::Key { self.key(around) } else { self.element(around) }
    }

    /// An element of a list, a slice of it, or a function or type with arguments for its type parameters.
    fn subscript(&self, file: usize, node: NodeRef<'v>, steps: usize) -> Known<'v> {
        if let Some(of) = self.named_type(file, node) {
            return of;
        }
        let Some(object) = node.child(Role::Object) else { return Known::Unknown };
        let list = self.follow(file, object, steps);
        let is_slice = node.child(Role::Index).is_some_and(|index| index.kind() == Kind::Slice);
        match self.underlying(list) {
            Known::Written(_, function) if function.child(Role::Parameters).is_some() => list,
            _ if is_slice => list,
            Known::Foreign if self.is_package_member(file, object) => Known::Unknown,
            under => self.element(under),
        }
    }

    fn is_package_member(&self, file: usize, node: NodeRef<'v>) -> bool {
        node.child(Role::Object).is_some_and(|object| self.import_of(file, object).is_some())
    }

    /// One of the results of a call.
    pub(super) fn result(&self, file: usize, call: NodeRef<'v>, index: usize, steps: usize) -> Known<'v> {
        let Some(callee) = call.child(Role::Callee) else { return Known::Unknown };
        if let Some(of) = self.named_type(file, callee) {
            return of;
        }
        if let Some(known) = self.of_builtin(file, call, callee, steps) {
            return known;
        }
        match self.underlying(self.follow(file, callee, steps)) {
            Known::Written(at, function) => self.result_of(at, function, index),
            Known::Foreign if self.gives_own_alone(file, callee) => Known::Foreign,
            Known::Foreign => self.foreign_result(file, call, steps),
            _ => Known::Unknown,
        }
    }

    /// What a function of the language gives.
    fn of_builtin(&self, file: usize, call: NodeRef<'v>, callee: NodeRef<'v>, steps: usize) -> Option<Known<'v>> {
        let is_given = callee.kind() == Kind::Name && self.views[file].names.is_builtin_at(callee.id());
        let is_own = || matches!(self.meaning(file, callee), Meaning::Declared(..));
        if !is_given || is_own() {
            return None;
        }
        let first = call.child(Role::Arguments).and_then(|list| list.children_in(Role::Argument).next());
        Some(match self.slice(file, callee) {
            "new" | "make" => first.map_or(Known::Unknown, |of| self.written(file, of)),
            "append" | "min" | "max" => first.map_or(Known::Unknown, |of| self.follow(file, of, steps)),
            _ => Known::Foreign,
        })
    }

    fn result_of(&self, file: usize, function: NodeRef<'v>, index: usize) -> Known<'v> {
        let written = function.child(Role::Returns).and_then(|returns| types_in(returns).nth(index));
        written.map_or(Known::Unknown, |written| self.written(file, written))
    }

    /// Whether what is called outside of the project gives nothing but what its own package knows: methods have no type parameters.
    fn gives_own_alone(&self, file: usize, callee: NodeRef<'v>) -> bool {
        let Some(object) = callee.child(Role::Object).filter(|_| callee.kind() == Kind::Member) else { return false };
        match self.import_of(file, object) {
            Some(path) => self.knows_own_types_alone(path),
            None => true,
        }
    }

    /// What is given a type of the project may give it back.
    fn foreign_result(&self, file: usize, call: NodeRef<'v>, steps: usize) -> Known<'v> {
        let arguments = call.child(Role::Arguments);
        let mut arguments = arguments.into_iter().flat_map(|list| list.children_in(Role::Argument));
        let knows_nothing = arguments.all(|argument| self.follow(file, argument, steps) == Known::Foreign);
        if knows_nothing { Known::Foreign } else { Known::Unknown }
    }

    /// What is in a list, a map or a channel.
    pub(super) fn element(&self, list: Known<'v>) -> Known<'v> {
        self.part_of(list, |of| match of.kind() {
            Kind::ArrayType | Kind::ChannelType => of.child(Role::Element),
            Kind::MapType => of.child(Role::Value),
            Kind::RestType => of.child(Role::Type),
            _ => None,
        })
    }

    /// What leads to the elements of a map.
    pub(super) fn key(&self, map: Known<'v>) -> Known<'v> {
        match self.underlying(map) {
            Known::Written(_, of) if matches!(of.kind(), Kind::ArrayType | Kind::RestType) => Known::Foreign,
            under => self.part_of(under, |of| of.child(Role::Key)),
        }
    }

    fn part_of(&self, whole: Known<'v>, part: impl Fn(NodeRef<'v>) -> Option<NodeRef<'v>>) -> Known<'v> {
        match self.underlying(whole) {
            Known::Written(file, of) => part(of).map_or(Known::Unknown, |part| self.written(file, part)),
            Known::Foreign => Known::Foreign,
            _ => Known::Unknown,
        }
    }
}

/// The types of parameters or results, one for each of them.
pub(super) fn types_in(list: NodeRef<'_>) -> impl Iterator<Item = NodeRef<'_>> {
    let is_list = list.kind() == Kind::Parameters;
    let parameters = list.children_in(Role::Parameter).filter(move |_| is_list);
    let types = parameters.flat_map(|parameter| {
        let names = parameter.children_in(Role::Name).count().max(1);
        parameter.child(Role::Type).into_iter().flat_map(move |of| std::iter::repeat_n(of, names))
    });
    types.chain(std::iter::once(list).filter(move |_| !is_list))
}
