//! Members of types: their own, and those of what is embedded in them ("Selectors", The Go Programming Language Specification, go1.22).

use std::collections::BTreeSet;

use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::project::{Known, Project, TypeId};

/// What declares a member: a type, by its methods and its fields, or a struct or an interface without a name.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(super) enum Owner {
    /// A type with a name.
    Type(TypeId),
    /// What is written at a node of a file.
    Body(usize, NodeId),
}

/// A member where it is declared.
#[derive(Debug, Clone, Copy)]
pub(super) struct Member<'v> {
    pub(super) owner: Owner,
    pub(super) file: usize,
    /// A field, or a function.
    pub(super) holder: NodeRef<'v>,
    /// Its name; of an embedded type that of the type.
    pub(super) name: NodeRef<'v>,
}

impl Member<'_> {
    pub(super) fn is_method(&self) -> bool {
        self.holder.kind() == Kind::Function
    }

    /// Whether it is a field that has its name from the type that is embedded.
    pub(super) fn is_embedded(&self) -> bool {
        !self.is_method() && self.holder.child(Role::Name).is_none()
    }
}

/// What a name behind a dot is.
pub(super) enum Found<'v> {
    /// A member that the project declares.
    Member(Member<'v>),
    /// None of those.
    Foreign,
    /// It is not known.
    Unknown,
}

/// Types are embedded in each other this deep.
pub(super) const DEEPEST: usize = 16;

impl<'v> Project<'v> {
    /// The member of that name which a value of a type has: the one that is least deep.
    pub(super) fn lookup(&self, of: Known<'v>, name: &str) -> Found<'v> {
        let mut level = vec![of];
        let mut seen: BTreeSet<TypeId> = BTreeSet::new();
        let (mut foreign_before, mut unknown_before) = (false, false);
        for _ in 0..DEEPEST {
            let (mut found, mut next) = (Vec::new(), Vec::new());
            let (mut foreign, mut unknown) = (foreign_before, unknown_before);
            for known in level {
                match known {
                    Known::Type(of) if !seen.insert(of) => {}
                    Known::Type(of) => self.of_type(of, name, &mut found, &mut next),
                    Known::Written(file, body) => self.of_body(file, body, name, &mut found, &mut next),
                    Known::Parameter(file, parameter) => {
                        next.extend(parameter.child(Role::Bound).map(|bound| self.written(file, bound)));
                        unknown = true;
                    }
                    Known::Foreign => foreign = true,
                    Known::Package(_) | Known::Unknown => unknown = true,
                }
            }
            if let Some(first) = found.first() {
                let is_one = found.iter().all(|other: &Member<'_>| other.owner == first.owner);
                // What is embedded less deep may have it too.
                let is_sure = is_one && !foreign_before && !unknown_before;
                // A type parameter has what its bound asks for.
                return if is_sure || matches!(of, Known::Parameter(..)) {
                    Found::Member(*first)
                } else {
                    Found::Unknown
                };
            }
            (foreign_before, unknown_before) = (foreign, unknown);
            if next.is_empty() {
                break;
            }
            level = next;
        }
        if unknown_before { Found::Unknown } else { Found::Foreign }
    }

    fn of_type(&self, of: TypeId, name: &str, found: &mut Vec<Member<'v>>, next: &mut Vec<Known<'v>>) {
        let own = &self.types[of];
        let owner = Owner::Type(of);
        for (file, holder) in own.methods.get(name).into_iter().flatten() {
            found.extend(holder.child(Role::Name).map(|name| Member { owner, file: *file, holder: *holder, name }));
        }
        for (file, body) in &own.made_of {
            match self.written(*file, *body) {
                Known::Written(file, body) => self.of_body(file, body, name, found, next),
                // It has the fields of the other one, and its methods if that is an interface.
                known @ Known::Type(_) => {
                    if let Known::Written(file, body) = self.underlying(known) {
                        self.of_body(file, body, name, found, next);
                    }
                }
                Known::Foreign => next.push(Known::Foreign),
                _ => next.push(Known::Unknown),
            }
        }
    }

    fn of_body(
        &self,
        file: usize,
        body: NodeRef<'v>,
        name: &str,
        found: &mut Vec<Member<'v>>,
        next: &mut Vec<Known<'v>>,
    ) {
        let owner = self.owner(file, body);
        for part in body.children_in(Role::Statement) {
            let own = part.children_in(Role::Name).filter(|_| matches!(part.kind(), Kind::Field | Kind::Function));
            let embedded = embedded_in(part);
            let from_type = embedded.filter(|_| part.kind() == Kind::Field).and_then(name_of_type);
            let mut named = own.chain(from_type).filter(|own| self.slice(file, *own) == name);
            found.extend(named.next().map(|name| Member { owner, file, holder: part, name }));
            next.extend(embedded.map(|of| self.written(file, of)));
        }
    }

    /// What declares the members that are written in a struct or an interface.
    pub(super) fn owner(&self, file: usize, body: NodeRef<'_>) -> Owner {
        self.made_of(file, body.id()).map_or(Owner::Body(file, body.id()), Owner::Type)
    }

    /// Each place where an owner declares a member of that name.
    pub(super) fn declarations(&self, owner: Owner, name: &str) -> Vec<Member<'v>> {
        let (mut found, mut embedded) = (Vec::new(), Vec::new());
        match owner {
            Owner::Type(of) => {
                self.of_type(of, name, &mut found, &mut embedded);
                found.retain(|member| member.owner == owner);
            }
            Owner::Body(file, body) => {
                let body = self.views[file].file.tree.node(body);
                self.of_body(file, body, name, &mut found, &mut embedded);
            }
        }
        found
    }

    /// What a member holds or, of a method, the function that it is.
    pub(super) fn type_of(&self, member: &Member<'v>) -> Known<'v> {
        if member.is_method() {
            return Known::Written(member.file, member.holder);
        }
        member.holder.child(Role::Type).map_or(Known::Unknown, |of| self.written(member.file, of))
    }
}

/// The type that is embedded by a part of a struct or of an interface.
pub(super) fn embedded_in(part: NodeRef<'_>) -> Option<NodeRef<'_>> {
    match part.kind() {
        Kind::Function | Kind::UnionType => None,
        Kind::Field if part.child(Role::Name).is_some() => None,
        Kind::Field => part.child(Role::Type),
        _ => Some(part),
    }
}

/// The name of an embedded type.
pub(super) fn name_of_type(written: NodeRef<'_>) -> Option<NodeRef<'_>> {
    let mut found = written;
    loop {
        found = match found.kind() {
            Kind::PointerType => found.child(Role::Element)?,
            Kind::GroupType => found.child(Role::Type)?,
            Kind::NamedType | Kind::Member => found.child(Role::Name)?,
            Kind::Subscript => found.child(Role::Object)?,
            Kind::Name => return Some(found),
            _ => return None,
        };
    }
}
