//! The members of types and traits, and whose a member is that is used.

use std::cell::{Cell, RefCell};
use std::rc::Rc;

use rustc_hash::FxHashMap;
use sieve_meaning::names::BindingId;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::types::Type;
use crate::rename::crates::lookup::{Lookup, Meaning, declared, field_names, names_in_block};
use crate::rename::source::View;

/// A member, by the file and the name that declares it.
pub(super) type Member = (usize, NodeId);

/// How a member is used: fields and functions may have the same name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Access {
    Field,
    /// A function or a constant.
    Associated,
}

/// Whose a member is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Owner {
    Own(Member),
    /// Something of the library or another package.
    Other,
    Unknown,
}

/// A type of the project.
pub(super) type Nominal = (usize, BindingId);

/// An implementation, by its file.
#[derive(Debug)]
pub(super) struct Implementation {
    pub(super) file: usize,
    pub(super) node: NodeId,
    /// The type that it is for.
    has: Type,
    /// The trait; nothing for what a type has itself.
    pub(super) of: Option<Type>,
}

impl Implementation {
    /// The trait, if that is one of the project.
    fn own_trait(&self) -> Option<Nominal> {
        match self.of {
            Some(Type::Own(file, id, _)) => Some((file, id)),
            _ => None,
        }
    }
}

/// All types of the project with what they have.
pub(super) struct World<'p, 's> {
    pub(super) paths: &'p Lookup<'p, 's>,
    implementations: FxHashMap<Nominal, Vec<Implementation>>,
    /// Those of traits of the project for types of the library, or for whatever fits.
    on_others: Vec<Implementation>,
    /// Types of expressions; unknown while they are worked out.
    pub(super) known: RefCell<FxHashMap<(usize, NodeId), Type>>,
    /// How many expressions are being worked out for each other.
    pub(super) depth: Cell<usize>,
    /// How many other names of types were followed for the one that is looked at.
    pub(super) aliases: Cell<usize>,
    /// The functions and constants of implementations and traits, by their names.
    blocks: RefCell<FxHashMap<Member, Named<'p>>>,
    /// What traits declare that others than types of the project have, by names that were looked for.
    by_name: RefCell<FxHashMap<String, Rc<Vec<(Member, Type)>>>>,
}

/// Names with the nodes that declare them.
type Named<'p> = FxHashMap<&'p str, Vec<NodeId>>;

/// Types behind types are looked into so deep.
const DEEPEST: usize = 12;

impl<'p, 's> World<'p, 's> {
    pub(super) fn of(paths: &'p Lookup<'p, 's>) -> World<'p, 's> {
        let mut world = World {
            paths,
            implementations: FxHashMap::default(),
            on_others: Vec::new(),
            known: RefCell::default(),
            depth: Cell::new(0),
            aliases: Cell::new(0),
            blocks: RefCell::default(),
            by_name: RefCell::default(),
        };
        for (file, view) in paths.views.iter().enumerate() {
            for node in view.file.tree.nodes_of(Kind::Implementation) {
                let Some(written) = node.child(Role::Type) else { continue };
                let of = node.child(Role::Bound).map(|bound| world.written(file, bound));
                let one = Implementation { file, node: node.id(), has: world.written(file, written), of };
                match one.has {
                    Type::Own(of_file, id, _) => world.implementations.entry((of_file, id)).or_default().push(one),
                    _ if one.own_trait().is_some() => world.on_others.push(one),
                    _ => {}
                }
            }
        }
        world
    }

    pub(super) fn views(&self) -> &'p [View<'s>] {
        self.paths.views
    }

    pub(super) fn node(&self, (file, node): Member) -> NodeRef<'p> {
        self.views()[file].file.tree.node(node)
    }

    pub(super) fn implementations(&self, of: Nominal) -> &[Implementation] {
        self.implementations.get(&of).map_or(&[], Vec::as_slice)
    }

    /// The implementations of a trait of the project, whatever they are for.
    pub(super) fn all_of_trait(&self, of: Nominal) -> impl Iterator<Item = Member> {
        let all = self.implementations.values().flatten().chain(&self.on_others);
        all.filter(move |one| one.own_trait() == Some(of)).map(|one| (one.file, one.node))
    }

    /// The declarations of a type: more than one where attributes choose.
    pub(super) fn holders(&self, (file, id): Nominal) -> impl Iterator<Item = (usize, NodeRef<'p>)> {
        declared(&self.views()[file], id).filter_map(NodeRef::parent).map(move |holder| (file, holder))
    }

    /// Whose a member of a name is, of what has a type.
    pub(super) fn owner(&self, of: &Type, name: &str, access: Access) -> Owner {
        self.owner_within(of, name, access, 0)
    }

    fn owner_within(&self, of: &Type, name: &str, access: Access, depth: usize) -> Owner {
        if depth > DEEPEST {
            return Owner::Unknown;
        }
        match of {
            Type::Unknown => Owner::Unknown,
            Type::Own(file, id, arguments) => {
                let found = match access {
                    Access::Field => self.field((*file, *id), name),
                    Access::Associated => self.associated_with((*file, *id), name, depth),
                };
                match found {
                    Some(member) => Owner::Own(member),
                    None => match self.behind((*file, *id), arguments) {
                        Some(inner) => self.owner_within(&inner, name, access, depth + 1),
                        None => self.by_trait(of, name, access),
                    },
                }
            }
            Type::Other(pointer, arguments) if POINTERS.contains(&pointer.as_str()) => match arguments.first() {
                Some(inner) => self.owner_within(inner, name, access, depth + 1),
                None => Owner::Unknown,
            },
            Type::Parameter(file, id) => {
                let bounds = self.bounds(*file, *id);
                let own = bounds.iter().find_map(|bound| match self.owner_within(bound, name, access, depth + 1) {
                    Owner::Own(member) => Some(Owner::Own(member)),
                    _ => None,
                });
                let is_unknown = bounds.contains(&Type::Unknown);
                own.unwrap_or(if is_unknown { Owner::Unknown } else { self.by_trait(of, name, access) })
            }
            Type::Other(..) | Type::Tuple(_) | Type::List(_) | Type::Function(_) => self.by_trait(of, name, access),
        }
    }

    /// What a trait of the project gives to a type that does not have it itself.
    fn by_trait(&self, of: &Type, name: &str, access: Access) -> Owner {
        if access == Access::Field {
            return Owner::Other;
        }
        let mut found = Owner::Other;
        for (member, has) in self.given_to_others(name).iter() {
            let member = *member;
            match (has, of) {
                // Whatever fits: types of the library may have the name themselves.
                (Type::Parameter(..) | Type::Unknown, Type::Own(..) | Type::Parameter(..)) => {
                    return Owner::Own(member);
                }
                (Type::Parameter(..) | Type::Unknown, _) => found = Owner::Unknown,
                _ if is_alike(has, of) => return Owner::Own(member),
                _ => {}
            }
        }
        found
    }

    /// What traits of the project declare under a name that types of the library have, or whatever fits, each with what has it.
    fn given_to_others(&self, name: &str) -> Rc<Vec<(Member, Type)>> {
        if let Some(known) = self.by_name.borrow().get(name) {
            return Rc::clone(known);
        }
        let declared =
            self.on_others.iter().filter_map(|one| Some((self.declared_in(one.own_trait()?, name)?, one.has.clone())));
        let found = Rc::new(declared.collect());
        self.by_name.borrow_mut().insert(name.to_string(), Rc::clone(&found));
        found
    }

    /// The field of a name that a type has.
    pub(super) fn field(&self, of: Nominal, name: &str) -> Option<Member> {
        self.holders(of).find_map(|(file, holder)| {
            let mut names = field_names(holder);
            names.find(|one| self.views()[file].file.slice(*one) == name).map(|one| (file, one.id()))
        })
    }

    /// The function or constant of a name that a type or a trait has.
    pub(super) fn associated_with(&self, of: Nominal, name: &str, depth: usize) -> Option<Member> {
        let all = self.implementations(of);
        let in_block = |one: &Implementation| self.in_block((one.file, one.node), name);
        let own = all.iter().filter(|one| one.of.is_none()).find_map(in_block);
        let of_trait = || all.iter().filter(|one| one.of.is_some()).find_map(in_block);
        let given = || {
            let traits = all.iter().filter_map(Implementation::own_trait);
            traits.filter_map(|of| self.associated_with_trait(of, name, depth)).min()
        };
        own.or_else(of_trait).or_else(given).or_else(|| self.associated_with_trait(of, name, depth))
    }

    /// What a trait declares, or one that it requires.
    fn associated_with_trait(&self, of: Nominal, name: &str, depth: usize) -> Option<Member> {
        if depth > DEEPEST {
            return None;
        }
        self.declared_in(of, name).or_else(|| {
            self.holders(of).find_map(|(file, holder)| {
                let required = holder.children_in(Role::Bound).filter(|_| holder.kind() == Kind::Interface);
                required.into_iter().find_map(|bound| match self.written(file, bound) {
                    Type::Own(file, id, _) => self.associated_with_trait((file, id), name, depth + 1),
                    _ => None,
                })
            })
        })
    }

    /// What a trait declares itself.
    fn declared_in(&self, of: Nominal, name: &str) -> Option<Member> {
        let mut traits = self.holders(of).filter(|(_, holder)| holder.kind() == Kind::Interface);
        traits.find_map(|(file, holder)| self.in_block((file, holder.id()), name))
    }

    /// The first function or constant of a name in the block of an implementation or a trait.
    fn in_block(&self, holder: Member, name: &str) -> Option<Member> {
        self.all_in_block(holder, name).into_iter().next()
    }

    /// The functions or constants of a name in the block of an implementation or a trait: more than one where attributes choose.
    pub(super) fn all_in_block(&self, holder: Member, name: &str) -> Vec<Member> {
        let file = holder.0;
        let mut blocks = self.blocks.borrow_mut();
        let named = blocks.entry(holder).or_insert_with(|| {
            let mut named = Named::default();
            let is_type = |name: &NodeRef<'_>| name.parent().is_some_and(|item| item.kind() == Kind::TypeAlias);
            for one in names_in_block(self.node(holder)).filter(|name| !is_type(name)) {
                named.entry(self.views()[file].file.slice(one)).or_default().push(one.id());
            }
            named
        });
        named.get(name).into_iter().flatten().map(|one| (file, *one)).collect()
    }

    /// What a type gives access to as if it were that itself: the target of its `Deref`.
    pub(super) fn behind(&self, of: Nominal, arguments: &[Type]) -> Option<Type> {
        let is_it = |one: &&Implementation| matches!(&one.of, Some(Type::Other(name, _)) if name == "Deref");
        let one = self.implementations(of).iter().find(is_it)?;
        let node = self.node((one.file, one.node));
        let items = node.child(Role::Body).into_iter().flat_map(NodeRef::children);
        let target = items.filter_map(|item| item.child_of(Kind::TypeAlias, Role::Value)).next()?;
        let Type::Own(_, _, parameters) = &one.has else { return None };
        Some(self.written(one.file, target).with(&Type::bound(parameters.clone(), arguments)))
    }

    /// What the parameter of a type or a function is known to have.
    fn bounds(&self, file: usize, id: BindingId) -> Vec<Type> {
        let view = &self.views()[file];
        let mut found = Vec::new();
        for name in declared(view, id) {
            let Some(parameter) = name.parent() else { continue };
            found.extend(parameter.children_in(Role::Bound).map(|bound| self.written(file, bound)));
            let holder = parameter.parent().and_then(NodeRef::parent);
            // Functions of a type may bound its parameters, too: what they say of one is wherever it is named.
            let clauses =
                holder.into_iter().flat_map(NodeRef::descendants).filter(|one| one.kind() == Kind::WhereClause);
            for part in clauses.flat_map(|clause| clause.children_in(Role::Part)) {
                let subject = part.child(Role::Type).and_then(|subject| subject.child(Role::Name));
                if subject.is_some_and(|subject| view.binding_at(subject) == Some(id)) {
                    found.extend(part.children_in(Role::Bound).map(|bound| self.written(file, bound)));
                }
            }
        }
        found
    }

    /// The enumeration of a variant, or the type itself.
    pub(super) fn type_of_item(&self, meaning: Meaning) -> Option<Nominal> {
        let Meaning::Item(file, id) = meaning else { return None };
        let view = &self.views()[file];
        let name = declared(view, id).next()?;
        match name.parent().filter(|holder| holder.kind() == Kind::EnumMember) {
            Some(variant) => {
                let of = variant.parent()?.parent()?.child(Role::Name)?;
                Some((file, view.names.declared_at(of.id())?))
            }
            None => Some((file, id)),
        }
    }
}

/// Whether types of the library are the same but for their arguments, or one gives access to the other.
fn is_alike(one: &Type, other: &Type) -> bool {
    match (one, other) {
        (Type::Other(one, _), Type::Other(other, _)) => {
            let behind = |name: &str| match name {
                "String" => "str",
                "PathBuf" => "Path",
                "OsString" => "OsStr",
                "CString" => "CStr",
                _ => "",
            };
            one == other || one == behind(other)
        }
        (Type::List(_), Type::Other(name, _)) => name == "Vec",
        (Type::List(_), Type::List(_)) | (Type::Tuple(_), Type::Tuple(_)) => true,
        (Type::Function(_), Type::Function(_)) => true,
        _ => false,
    }
}

/// Types of the library that give access to what they point to ("Deref", The Rust Standard Library).
pub(super) const POINTERS: &[&str] = &[
    "Arc",
    "Box",
    "Cow",
    "LazyCell",
    "LazyLock",
    "ManuallyDrop",
    "MutexGuard",
    "Pin",
    "Rc",
    "Ref",
    "RefMut",
    "RwLockReadGuard",
    "RwLockWriteGuard",
];
