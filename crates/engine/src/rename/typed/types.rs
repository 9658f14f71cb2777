//! The types of the project with their bases, and the members that they declare.

use std::cell::RefCell;

use rustc_hash::FxHashMap;
use sieve_meaning::names::{BindingId, DeclarationKind, Namespace};
use sieve_meaning::project::words_before;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::rename::lineage::Lineage;
use crate::rename::namespaced;
use crate::rename::source::View;
use crate::rename::traits::rename_traits_of;
use crate::rename::type_origin::{is_type, origin_among};

/// The number of a type among all of the project.
pub(super) type TypeId = usize;

pub(super) struct Type<'v> {
    pub(super) file: usize,
    /// The class, interface or enumeration.
    pub(super) node: NodeRef<'v>,
    /// Bases outside of the project, or not known.
    foreign: Vec<NodeRef<'v>>,
    /// Some base is not known: it may be a type of the project.
    is_unclear: bool,
}

/// What is known of a type by its name, or of the type of an expression.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Known {
    /// A type of the project.
    Of(TypeId),
    /// None of the project.
    Foreign,
    /// It is not known.
    Unknown,
}

/// All types of the project.
pub(super) struct Types<'v> {
    pub(super) views: &'v [View<'v>],
    pub(super) all: Vec<Type<'v>>,
    numbers: FxHashMap<(usize, NodeId), TypeId>,
    /// What they inherit from and implement, of the project.
    lineage: Lineage,
    /// Those that other files may name, by their names.
    candidates: FxHashMap<&'v str, Vec<(usize, BindingId)>>,
    /// What names of types represent in each file.
    seen: RefCell<FxHashMap<(usize, &'v str), Known>>,
}

impl<'v> Types<'v> {
    pub(super) fn new(views: &'v [View<'v>]) -> Types<'v> {
        let mut types = Types {
            views,
            all: Vec::new(),
            numbers: FxHashMap::default(),
            lineage: Lineage::default(),
            candidates: FxHashMap::default(),
            seen: RefCell::default(),
        };
        for (file, view) in views.iter().enumerate() {
            for node in view.file.tree.nodes_of_any(&[Kind::Class, Kind::Interface, Kind::Enum]) {
                types.numbers.insert((file, node.id()), types.all.len());
                types.all.push(Type { file, node, foreign: Vec::new(), is_unclear: false });
            }
            let open = view.names.bindings_with_ids().filter(|(id, _)| is_type(view, *id));
            for (id, binding) in open {
                types.candidates.entry(view.names.text(binding.name)).or_default().push((file, id));
            }
        }
        types.lineage = Lineage::of(types.all.len());
        types.link();
        types.join_parts();
        types
    }

    /// Finds what each type inherits from.
    fn link(&mut self) {
        for id in 0..self.all.len() {
            let (file, node) = (self.all[id].file, self.all[id].node);
            let lists = node.children_in(Role::Arguments).filter(|list| list.kind() == Kind::Heritage);
            for base in lists.flat_map(NodeRef::children).filter(|base| base.role() == Role::Type) {
                match self.named(file, base) {
                    Known::Of(found) => self.lineage.add(id, found),
                    known => {
                        self.all[id].foreign.push(base);
                        self.all[id].is_unclear |= known == Known::Unknown;
                    }
                }
            }
        }
    }

    /// Parts of one type inherit from what any of them does.
    fn join_parts(&mut self) {
        let mut whole: FxHashMap<(String, &str), Vec<TypeId>> = FxHashMap::default();
        for (name, candidates) in &self.candidates {
            for (file, id) in candidates {
                let view = &self.views[*file];
                let declared = view.names.binding(*id).declarations.iter().map(|one| view.file.tree.node(one.node));
                let parts = declared.filter_map(NodeRef::parent).filter(|part| is_part(view, *part));
                let parts = parts.filter_map(|part| self.number(*file, part));
                whole.entry((namespaced::path_around(view, *id), *name)).or_default().extend(parts);
            }
        }
        for parts in whole.into_values() {
            for part in &parts {
                parts.iter().filter(|other| *other != part).for_each(|other| self.lineage.add(*part, *other));
            }
        }
    }

    pub(super) fn view(&self, id: TypeId) -> &'v View<'v> {
        &self.views[self.all[id].file]
    }

    /// The type that a node declares.
    pub(super) fn number(&self, file: usize, node: NodeRef<'_>) -> Option<TypeId> {
        self.numbers.get(&(file, node.id())).copied()
    }

    /// The type around a node, in whose code it is; nothing in the body of a class without a name.
    pub(super) fn around(&self, file: usize, node: NodeRef<'_>) -> Option<TypeId> {
        let is_nameless = |around: &NodeRef<'_>| matches!(around.kind(), Kind::New | Kind::EnumMember);
        let mut inner = node;
        for around in node.ancestors() {
            if let Some(found) = self.number(file, around) {
                return Some(found);
            }
            if is_nameless(&around) && inner.role() == Role::Body {
                return None;
            }
            inner = around;
        }
        None
    }

    /// All types around a node, the innermost first.
    pub(super) fn all_around(&self, file: usize, node: NodeRef<'_>) -> Vec<TypeId> {
        node.ancestors().filter_map(|around| self.number(file, around)).collect()
    }

    /// A type with all types that it inherits from, the nearest first.
    pub(super) fn above(&self, id: TypeId) -> Vec<TypeId> {
        self.lineage.above(id)
    }

    /// A type with all types that it inherits from and that inherit from it.
    pub(super) fn lineage(&self, id: TypeId) -> Vec<TypeId> {
        self.lineage.straight(id)
    }

    /// All types that are related to one through any number of steps up and down.
    pub(super) fn family(&self, id: TypeId) -> Vec<TypeId> {
        self.lineage.family(id)
    }

    /// A base of the type, or of one that it inherits from, which may have the member too without being in the project.
    pub(super) fn foreign_base(&self, id: TypeId, member: &str) -> Option<(usize, NodeRef<'v>)> {
        self.above(id).into_iter().map(|id| &self.all[id]).find_map(|of| {
            let view = &self.views[of.file];
            let traits = rename_traits_of(view.file.language);
            let lacks = |base: &NodeRef<'v>| (traits.leaves_alone)(simple_name(view, *base), member);
            of.foreign.iter().find(|base| !lacks(base)).map(|base| (of.file, *base))
        })
    }

    /// Whether a type may inherit from types of the project of which it is not known.
    pub(super) fn is_unclear(&self, id: TypeId) -> bool {
        self.above(id).into_iter().any(|id| self.all[id].is_unclear)
    }

    /// The binding of a member that a type itself declares.
    pub(super) fn declares(&self, id: TypeId, namespace: Namespace, name: &str) -> Option<BindingId> {
        let names = &self.view(id).names;
        names.lookup_in(namespace, names.members_scope(self.all[id].node.id())?, name)
    }

    /// The type that a name, or a type as it is written, represents.
    pub(super) fn named(&self, file: usize, written: NodeRef<'_>) -> Known {
        let view = &self.views[file];
        let name = match written.kind() {
            // Where the type is one of values, the members are those of what may hold one.
            Kind::OptionalType => {
                let inner = written.child(Role::Type).map_or(Known::Unknown, |inner| self.named(file, inner));
                return if self.is_reference(inner) { inner } else { Known::Unknown };
            }
            Kind::NamedType | Kind::NonNull | Kind::Group | Kind::Instantiation => {
                let inner = [Role::Name, Role::Type, Role::Value].into_iter().find_map(|role| written.child(role));
                return inner.map_or(Known::Unknown, |inner| self.named(file, inner));
            }
            Kind::PredefinedType | Kind::ArrayType | Kind::PointerType | Kind::TupleType => return Known::Foreign,
            Kind::Name => written,
            Kind::Member | Kind::Path => match written.child(Role::Name) {
                Some(name) => name,
                None => return Known::Unknown,
            },
            _ => return Known::Unknown,
        };
        self.resolve(file, view.file.tree.node(name.id()))
    }

    fn resolve(&self, file: usize, name: NodeRef<'v>) -> Known {
        let view = &self.views[file];
        let candidates = self.candidates.get(view.file.slice(name));
        let bound = view.binding_at(name);
        if let Some(id) = bound.filter(|id| !view.is_import(*id)) {
            let [only] = view.names.binding(id).declarations.as_slice() else { return Known::Unknown };
            let declared = view.file.tree.node(only.node).parent().filter(|_| only.kind == DeclarationKind::Class);
            return declared.and_then(|node| self.number(file, node)).map_or(Known::Unknown, Known::Of);
        }
        // Another name for a type.
        if bound.is_some_and(|id| is_alias(view, id)) {
            return Known::Unknown;
        }
        let Some(candidates) = candidates else { return Known::Foreign };
        // What a name alone means is the same all over a file; a path is not.
        let key = (file, view.file.slice(name));
        let is_alone = name.role() != Role::Name || name.parent().is_none_or(|holder| holder.kind() == Kind::NamedType);
        if let Some(known) = self.seen.borrow().get(&key).filter(|_| is_alone) {
            return *known;
        }
        let known = match origin_among(self.views, candidates, (file, name)) {
            Some((at, id)) => self.declared_by(at, id).map_or(Known::Unknown, Known::Of),
            None if bound.is_some() => Known::Foreign,
            None => Known::Unknown,
        };
        if is_alone {
            self.seen.borrow_mut().insert(key, known);
        }
        known
    }

    /// Whether a type is surely none of values, of which there is another one that may hold none.
    fn is_reference(&self, known: Known) -> bool {
        let Known::Of(of) = known else { return false };
        let node = self.all[of].node;
        let tree = node.tree();
        let words = node.token_range().map(|token| tree.token_kind(token));
        let mut head = words.take_while(|kind| *kind != TokenKind::BraceOpen);
        node.kind() != Kind::Enum && !head.any(|kind| kind == TokenKind::Struct)
    }

    fn declared_by(&self, file: usize, id: BindingId) -> Option<TypeId> {
        let view = &self.views[file];
        let first = view.names.binding(id).declarations.first()?;
        self.number(file, view.file.tree.node(first.node).parent()?)
    }
}

fn is_part(view: &View<'_>, declaration: NodeRef<'_>) -> bool {
    words_before(&view.file.text, declaration).contains(&"partial")
}

/// Whether an import gives something a name of its own.
fn is_alias(view: &View<'_>, id: BindingId) -> bool {
    let declarations = &view.names.binding(id).declarations;
    declarations.iter().any(|one| view.file.tree.node(one.node).child(Role::Alias).is_some())
}

/// The last name of a type as it is written, without its arguments.
pub(super) fn simple_name<'v>(view: &'v View<'_>, written: NodeRef<'_>) -> &'v str {
    let text = view.file.slice(written);
    let text = text.split('<').next().unwrap_or(text).trim();
    text.rsplit('.').next().unwrap_or(text).trim()
}
