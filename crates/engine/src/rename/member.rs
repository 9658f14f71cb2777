//! Members of classes: methods and fields.
//!
//! A use counts where its object is known: the object a method runs on, a class, or a variable with a type or a new object. Where an
//! object is unknown, the renaming is refused, unless all members of that name are to be taken for the same one.

use sieve_meaning::names::ScopeKind;
use sieve_meaning::renaming::places;
use sieve_rules::Edit;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::audit::{of_member, put_together};
use super::hierarchy::{ClassId, Hierarchy, Object, class_of_self, holder_of};
use super::source::{Sources, View};
use super::spread::by_text;
use super::traits::rename_traits_of;
use super::{CannotRename, Edits, RenameRequest, Renamed, is_word};

/// Whether a name is that of a member: of a value, or one that a class or an interface declares.
pub(super) fn is_member(name: NodeRef<'_>) -> bool {
    let Some(holder) = name.parent() else { return false };
    match holder.kind() {
        Kind::Member => name.role() == Role::Name,
        Kind::Field | Kind::Function => name.role() == Role::Name && holder_of(holder).is_some(),
        _ => is_word(name.kind()) && holder_of(holder).is_some() && name.role() == Role::Target,
    }
}

/// A place where a class declares the member: in its body, or as a member of the object that its methods run on.
struct Declaration<'v> {
    file: usize,
    class: ClassId,
    name: NodeRef<'v>,
}

/// The member to be renamed: the classes whose member it is, and all that a use of it can be of.
struct Target {
    declaring: Vec<ClassId>,
    related: Vec<ClassId>,
}

/// Renames a member with its uses.
pub(super) fn member(
    sources: &Sources,
    views: &[View<'_>],
    home: usize,
    at: NodeId,
    asked: &RenameRequest<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    let node = views[home].file.tree.node(at);
    let old = views[home].file.slice(node);
    let hierarchy = Hierarchy::new(sources, views);
    let declared = declarations(views, &hierarchy, old);
    let start = class_at(sources, views, &hierarchy, &declared, (home, node))?;
    let target = target(views, &hierarchy, &declared, start, asked)?;
    check_bases(views, &hierarchy, &target, old)?;
    if let Some(taken) =
        declarations(views, &hierarchy, asked.new).iter().find(|one| target.related.contains(&one.class))
    {
        let place = views[taken.file].file.place(taken.name.span());
        return refused(format!("the class has a member \"{}\" already", asked.new), vec![place]);
    }
    if let Some((file, span)) = by_text(views, old, false) {
        return refused(format!("\"{old}\" is looked up by name in a string"), vec![views[file].file.place(span)]);
    }
    put_together(views, old)?;
    for &class in &target.declaring {
        of_member(views, (hierarchy.classes[class].file, hierarchy.classes[class].node), old)?;
        in_class(views, &hierarchy, class, old, asked.new, edits);
    }
    for declaration in declared.iter().filter(|one| target.declaring.contains(&one.class)) {
        edits[declaration.file].push(Edit::replace(declaration.name.span(), asked.new));
    }
    let is_other = |one: &&Declaration<'_>| !target.declaring.contains(&one.class);
    let other = declared.iter().find(is_other);
    let of_interface = target.related.iter().any(|class| hierarchy.classes[*class].node.kind() == Kind::Interface);
    let mut unknown = Vec::new();
    for (file, view) in views.iter().enumerate() {
        for name in uses(view, old) {
            match is_of(sources, views, &hierarchy, (file, name), &target) {
                Some(false) => {}
                None if !asked.all_members || other.is_some() => unknown.push(view.file.place(name.span())),
                _ => edits[file].push(Edit::replace(name.span(), asked.new)),
            }
        }
        for key in keys(view, of_interface, old, asked.new) {
            if asked.all_members && other.is_none() {
                edits[file].push(key);
            } else {
                unknown.push(view.file.place(key.span));
            }
        }
    }
    match other {
        _ if unknown.is_empty() => Ok(()),
        None => refused(
            format!("it is not known whose member \"{old}\" is here; --all-members takes all for the same"),
            unknown,
        ),
        Some(other) => {
            let mut places = vec![views[other.file].file.place(other.name.span())];
            places.append(&mut unknown);
            refused(format!("another class has a member \"{old}\" too, and it is not known whose is used"), places)
        }
    }
}

fn refused<T>(message: String, places: Vec<String>) -> Renamed<T> {
    Err(CannotRename::Refused(message, places))
}

/// The class whose member is at the place: the one around it, that of the object, or the only one that declares it.
fn class_at(
    sources: &Sources,
    views: &[View<'_>],
    hierarchy: &Hierarchy<'_>,
    declared: &[Declaration<'_>],
    (home, node): (usize, NodeRef<'_>),
) -> Renamed<ClassId> {
    let old = views[home].file.slice(node);
    if let Some(here) = declared.iter().find(|one| one.file == home && one.name.id() == node.id()) {
        return Ok(here.class);
    }
    let object = node.parent().and_then(|member| member.child(Role::Object));
    let known = object.and_then(|object| hierarchy.object(sources, views, home, object));
    if let Some(Object::Of(class)) = known {
        let related = hierarchy.lineage(class);
        if let Some(one) = declared.iter().find(|one| related.contains(&one.class)) {
            return Ok(one.class);
        }
    }
    let mut classes: Vec<ClassId> = declared.iter().map(|one| one.class).collect();
    classes.dedup();
    match classes[..] {
        [only] => Ok(only),
        [] => refused(format!("no class of the project declares \"{old}\""), Vec::new()),
        _ => {
            let places = declared.iter().map(|one| views[one.file].file.place(one.name.span())).collect();
            refused(format!("several classes have a member \"{old}\", and it is not known whose is used here"), places)
        }
    }
}

/// The classes whose member is meant. Several that inherit from each other need to be asked for.
fn target(
    views: &[View<'_>],
    hierarchy: &Hierarchy<'_>,
    declared: &[Declaration<'_>],
    start: ClassId,
    asked: &RenameRequest<'_>,
) -> Renamed<Target> {
    let related = if asked.family { hierarchy.family(start) } else { hierarchy.lineage(start) };
    let mut declaring: Vec<ClassId> =
        declared.iter().map(|one| one.class).filter(|class| related.contains(class)).collect();
    declaring.sort_unstable();
    declaring.dedup();
    if declaring.len() > 1 && !asked.family {
        let here = declared.iter().filter(|one| related.contains(&one.class));
        let places = here.map(|one| views[one.file].file.place(one.name.span())).collect();
        return refused("classes that inherit from each other declare it; --family renames all of them".into(), places);
    }
    Ok(Target { declaring, related })
}

/// Refuses where a base that is not seen may have the member too.
fn check_bases(views: &[View<'_>], hierarchy: &Hierarchy<'_>, target: &Target, old: &str) -> Renamed<()> {
    for &class in &target.related {
        if let Some((file, base)) = hierarchy.foreign_base(views, class, old) {
            let message = format!("a base of the class may have \"{old}\" too");
            return refused(message, vec![views[file].file.place(base.span())]);
        }
    }
    Ok(())
}

/// In the body of its class a member is a name like any other: in defaults, decorators and other members' values. Private names are
/// seen only there.
fn in_class(views: &[View<'_>], hierarchy: &Hierarchy<'_>, class: ClassId, old: &str, new: &str, edits: &mut Edits) {
    let (file, class) = (hierarchy.classes[class].file, hierarchy.classes[class].node);
    let view = &views[file];
    let in_body = view.names.bindings_with_ids().filter(|(_, binding)| {
        let scope = view.names.scope(binding.scope);
        scope.kind == ScopeKind::Class && scope.node == class.id() && view.names.text(binding.name) == old
    });
    for (id, _) in in_body {
        edits[file].extend(places(&view.file.tree, &view.names, id).iter().map(|place| Edit::replace(place.span, new)));
    }
    let private = class.descendants().filter(|node| node.kind() == Kind::PrivateName && view.file.slice(*node) == old);
    edits[file].extend(private.map(|name| Edit::replace(name.span(), new)));
}

/// Where classes declare a member.
fn declarations<'v>(views: &'v [View<'_>], hierarchy: &Hierarchy<'_>, name: &str) -> Vec<Declaration<'v>> {
    let mut found = Vec::new();
    for (file, view) in views.iter().enumerate() {
        for node in view.file.tree.nodes().filter(|node| is_word(node.kind()) && view.file.slice(*node) == name) {
            let Some(holder) = node.parent() else { continue };
            let in_body = holder.kind() != Kind::Member && is_member(node);
            let class = if in_body { holder_of(holder) } else { assigned_of_self(view, holder) };
            let class = class.filter(|_| in_body || node.role() == Role::Name);
            let class = class.and_then(|class| hierarchy.number(file, class));
            found.extend(class.map(|class| Declaration { file, class, name: node }));
        }
    }
    found
}

/// The class of the object that a method runs on, where a member of it is assigned: `self.depth = 3`.
fn assigned_of_self<'v>(view: &'v View<'_>, member: NodeRef<'_>) -> Option<NodeRef<'v>> {
    let is_assigned = member.kind() == Kind::Member && member.role() == Role::Target;
    class_of_self(view, member.child(Role::Object).filter(|_| is_assigned)?)
}

/// The members of this name that are used, but for those that [`declarations`] has.
fn uses<'v>(view: &'v View<'_>, old: &str) -> Vec<NodeRef<'v>> {
    let members = view.file.tree.nodes_of(Kind::Member);
    let names = members.filter_map(|member| member.child(Role::Name)).filter(|name| view.file.slice(*name) == old);
    names.filter(|name| name.parent().is_some_and(|member| assigned_of_self(view, member).is_none())).collect()
}

/// Keys of this name in patterns, and in object literals where an interface has the member: what they take apart, or are an object of,
/// is not known. Each with the edit that renames the key alone.
fn keys(view: &View<'_>, of_interface: bool, old: &str, new: &str) -> Vec<Edit> {
    let mut found = Vec::new();
    for node in view.file.tree.nodes() {
        let is_holder = match node.kind() {
            Kind::MappingPattern => rename_traits_of(view.file.language).members_are_keys,
            Kind::Dictionary => of_interface,
            _ => false,
        };
        for entry in node.children().filter(|_| is_holder) {
            let key = entry.child(Role::Key).or_else(|| entry.child_of(Kind::Function, Role::Name));
            let name = entry.child(Role::Pattern).unwrap_or(entry);
            let name = name.child(Role::Name).filter(|_| entry.kind() != Kind::StarPattern);
            match (key, name) {
                (Some(key), _) if view.file.slice(key) == old => found.push(Edit::replace(key.span(), new)),
                (None, Some(name)) if view.file.slice(name) == old => {
                    found.push(Edit::replace(name.span(), format!("{new}: {old}")));
                }
                _ => {}
            }
        }
    }
    found
}

/// Whether a member is one of the target's; nothing where that is not known.
fn is_of(
    sources: &Sources,
    views: &[View<'_>],
    hierarchy: &Hierarchy<'_>,
    (file, name): (usize, NodeRef<'_>),
    target: &Target,
) -> Option<bool> {
    if name.kind() == Kind::PrivateName {
        let holds =
            |class: &ClassId| hierarchy.classes[*class].file == file && hierarchy.classes[*class].node.holds(name.id());
        return Some(target.declaring.iter().any(holds));
    }
    let object = name.parent()?.child(Role::Object)?;
    match hierarchy.object(sources, views, file, object)? {
        Object::Other => Some(false),
        Object::Of(class) if target.related.contains(&class) => Some(true),
        // A class that is not related has nothing to do with it, if all that it inherits from is known.
        Object::Of(class) => {
            let old = views[file].file.slice(name);
            hierarchy.foreign_base(views, class, old).is_none().then_some(false)
        }
    }
}
