//! The classes and interfaces of the project with their bases, and the members that they declare.

use std::collections::BTreeMap;

use sieve_meaning::names::{DeclarationKind, Resolution};
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::import::{origin, through_module};
use super::lineage::Lineage;
use super::source::{Sources, View};
use super::traits::rename_traits_of;

/// The number of a class among all of the project.
pub(super) type ClassId = usize;

pub(super) struct Class<'v> {
    pub(super) file: usize,
    pub(super) node: NodeRef<'v>,
    /// Bases outside of the project or that cannot be resolved.
    foreign: Vec<NodeRef<'v>>,
}

pub(super) struct Hierarchy<'v> {
    pub(super) classes: Vec<Class<'v>>,
    numbers: BTreeMap<(usize, NodeId), ClassId>,
    lineage: Lineage,
}

/// What an object is known to be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Object {
    /// One of the class or of a class below it, or the class itself.
    Of(ClassId),
    /// No object of a class of the project.
    Other,
}

/// The class or interface whose body directly holds a member.
pub(super) fn holder_of(member: NodeRef<'_>) -> Option<NodeRef<'_>> {
    let class = member.parent()?.parent()?;
    matches!(class.kind(), Kind::Class | Kind::ClassExpression | Kind::Interface).then_some(class)
}

impl<'v> Hierarchy<'v> {
    pub(super) fn new(sources: &Sources, views: &'v [View<'_>]) -> Hierarchy<'v> {
        let mut hierarchy = Hierarchy { classes: Vec::new(), numbers: BTreeMap::new(), lineage: Lineage::default() };
        for (file, view) in views.iter().enumerate() {
            let is_class = |kind| matches!(kind, Kind::Class | Kind::ClassExpression | Kind::Interface);
            for node in view.file.tree.nodes().filter(|node| is_class(node.kind())) {
                hierarchy.numbers.insert((file, node.id()), hierarchy.classes.len());
                hierarchy.classes.push(Class { file, node, foreign: Vec::new() });
            }
        }
        hierarchy.lineage = Lineage::of(hierarchy.classes.len());
        for id in 0..hierarchy.classes.len() {
            let Class { file, node, .. } = hierarchy.classes[id];
            for base in bases(&views[file], node) {
                match hierarchy.class_named(sources, views, file, base) {
                    Some(found) => hierarchy.lineage.add(id, found),
                    None => hierarchy.classes[id].foreign.push(base),
                }
            }
        }
        hierarchy
    }

    pub(super) fn number(&self, file: usize, node: NodeRef<'_>) -> Option<ClassId> {
        self.numbers.get(&(file, node.id())).copied()
    }

    /// A class with all classes that it inherits from and that inherit from it.
    pub(super) fn lineage(&self, class: ClassId) -> Vec<ClassId> {
        self.lineage.straight(class)
    }

    /// All classes that are related to a class through any number of steps up and down.
    pub(super) fn family(&self, class: ClassId) -> Vec<ClassId> {
        self.lineage.family(class)
    }

    /// A base of the class, or of one that it inherits from, which may have the member too without being in the project.
    pub(super) fn foreign_base(
        &self,
        views: &[View<'_>],
        class: ClassId,
        member: &str,
    ) -> Option<(usize, NodeRef<'v>)> {
        let above = self.lineage.above(class);
        above.into_iter().map(|id| &self.classes[id]).find_map(|class| {
            let may_have = |base: &&NodeRef<'v>| !lacks(&views[class.file], **base, member);
            class.foreign.iter().find(may_have).map(|base| (class.file, *base))
        })
    }

    /// What the object of a member is known to be; nothing where it is not known.
    pub(super) fn object(
        &self,
        sources: &Sources,
        views: &[View<'_>],
        file: usize,
        object: NodeRef<'_>,
    ) -> Option<Object> {
        let view = &views[file];
        if let Some(class) = class_of_self(view, object) {
            return self.number(file, class).map(Object::Of);
        }
        match object.kind() {
            Kind::String | Kind::Number | Kind::List | Kind::Dictionary => Some(Object::Other),
            Kind::Call | Kind::New => {
                let class = self.class_named(sources, views, file, object.child(Role::Callee)?)?;
                Some(Object::Of(class))
            }
            Kind::Name | Kind::Member if !super::import::modules_of(sources, views, file, object).is_empty() => {
                Some(Object::Other)
            }
            Kind::Name => self.variable(sources, views, file, object),
            Kind::Member => self.class_named(sources, views, file, object).map(Object::Of),
            _ => None,
        }
    }

    /// What a variable is known to hold: a class, or an object by its only assignment or its type.
    fn variable(&self, sources: &Sources, views: &[View<'_>], file: usize, name: NodeRef<'_>) -> Option<Object> {
        let view = &views[file];
        if let Some(class) = self.class_named(sources, views, file, name) {
            return Some(Object::Of(class));
        }
        let Resolution::Binding(id) = view.names.resolution_at(name.id())? else { return None };
        let binding = view.names.binding(id);
        let [only] = binding.declarations.as_slice() else { return None };
        let declared = view.file.tree.node(only.node);
        let holder = if declared.kind() == Kind::Parameter { declared } else { declared.parent()? };
        if let Some(of_type) = holder.child(Role::Type) {
            let of_type = of_type.child_of(Kind::NamedType, Role::Name).unwrap_or(of_type);
            return self.class_named(sources, views, file, of_type).map(Object::Of);
        }
        let value = holder.child(Role::Value).filter(|value| matches!(value.kind(), Kind::Call | Kind::New));
        let made_by = value.filter(|_| binding.writes == 0 && only.kind != DeclarationKind::Parameter)?;
        self.class_named(sources, views, file, made_by.child(Role::Callee)?).map(Object::Of)
    }

    /// The class that an expression names.
    fn class_named(&self, sources: &Sources, views: &[View<'_>], file: usize, name: NodeRef<'_>) -> Option<ClassId> {
        let view = &views[file];
        let (at, id) = match name.kind() {
            Kind::Name => {
                let Resolution::Binding(id) = view.names.resolution_at(name.id())? else { return None };
                origin(sources, views, file, id).unwrap_or((file, id))
            }
            Kind::Member => through_module(sources, views, file, name.child(Role::Name)?)?,
            Kind::NamedType => return self.class_named(sources, views, file, name.child(Role::Name)?),
            Kind::Subscript => return self.class_named(sources, views, file, name.child(Role::Object)?),
            Kind::Instantiation => return self.class_named(sources, views, file, name.child(Role::Value)?),
            _ => return None,
        };
        let [only] = views[at].names.binding(id).declarations.as_slice() else { return None };
        let declared = views[at].file.tree.node(only.node).parent()?;
        self.number(at, declared).filter(|_| declared.child(Role::Name).is_some_and(|name| name.id() == only.node))
    }
}

/// What a class is declared to inherit from or implement.
fn bases<'v>(view: &View<'_>, class: NodeRef<'v>) -> Vec<NodeRef<'v>> {
    let Some(list) = class.child(Role::Arguments) else { return Vec::new() };
    let is_harmless = |base: NodeRef<'_>| {
        let value = base.child(Role::Value).map_or("", |value| view.file.slice(value));
        base.kind() == Kind::KeywordArgument && matches!(value.rsplit('.').next(), Some("ABCMeta" | "type"))
    };
    list.children().filter(|base| base.role() != Role::TypeArguments && !is_harmless(*base)).collect()
}

/// Whether a base from outside of the project is known not to have a member.
fn lacks(view: &View<'_>, base: NodeRef<'_>, member: &str) -> bool {
    let name = view.file.slice(base);
    let name = name.split(['[', '<']).next().unwrap_or(name).rsplit('.').next().unwrap_or(name);
    (rename_traits_of(view.file.language).leaves_alone)(name, member)
}

/// The class whose method runs on an expression: `self`, `this`, or the part of it that the bases make.
pub(super) fn class_of_self<'v>(view: &'v View<'_>, object: NodeRef<'_>) -> Option<NodeRef<'v>> {
    let object = view.file.tree.node(object.id());
    if !rename_traits_of(view.file.language).object_is_parameter {
        return if matches!(object.kind(), Kind::This | Kind::Super) { class_of_method(object) } else { None };
    }
    if object.kind() == Kind::Call {
        return if view.file.slice(object) == "super()" { class_of_method(object) } else { None };
    }
    let Resolution::Binding(id) = view.names.resolution_at(object.id())? else { return None };
    let [only] = view.names.binding(id).declarations.as_slice() else { return None };
    let declared = view.file.tree.node(only.node);
    let parameter = if declared.kind() == Kind::Parameter { declared } else { declared.parent()? };
    let method = parameter.parent()?.parent()?;
    let is_static = |decorator: NodeRef<'_>| view.file.slice(decorator).ends_with("staticmethod");
    let is_first = parameter.parent()?.child(Role::Parameter).is_some_and(|first| first.id() == parameter.id());
    method.class_around().filter(|_| is_first && !method.children_in(Role::Decorator).any(is_static))
}

/// The class whose method holds a node; functions within it have an object of their own.
fn class_of_method(node: NodeRef<'_>) -> Option<NodeRef<'_>> {
    node.function_around()?.class_around()
}
