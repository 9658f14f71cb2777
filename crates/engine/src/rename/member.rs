//! Members of classes: methods and fields.
//!
//! A use counts where its object is known: the object a method runs on, or a variable that holds a new object of the class. Where an
//! object is unknown, the renaming is refused, unless all members of that name are to be taken for the same one.

use sieve_meaning::names::{Resolution, ScopeSort};
use sieve_meaning::renaming::places;
use sieve_rules::Edit;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::audit::{of_member, put_together};
use super::source::{Sources, View};
use super::spread::by_text;
use super::{CannotRename, Edits, Renamed, Wish, is_word};

/// Whether a name is that of a member: of a value, or one that a class declares.
pub(super) fn is_member(name: NodeRef<'_>) -> bool {
    let Some(holder) = name.parent() else { return false };
    match holder.kind() {
        Kind::Member => name.role() == Role::Name,
        Kind::Field | Kind::Function => name.role() == Role::Name && holder.class_around().is_some(),
        _ => is_word(name.kind()) && holder.class_around().is_some() && name.role() == Role::Target,
    }
}

/// Renames a member with its uses.
pub(super) fn member(
    sources: &Sources,
    views: &[View<'_>],
    home: usize,
    at: NodeId,
    wish: &Wish<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    let node = views[home].file.tree.node(at);
    let old = views[home].file.slice(node);
    let declared = declarations(views, old);
    let mut classes: Vec<(usize, NodeId)> = declared.iter().map(|(file, class, _)| (*file, class.id())).collect();
    classes.dedup();
    let refused = |message: String, places: Vec<String>| Err(CannotRename::Refused(message, places));
    let &[(class_file, class)] = classes.as_slice() else {
        let places = declared.iter().map(|(file, _, name)| views[*file].file.place(name.span())).collect();
        let message = if classes.is_empty() {
            format!("no class of the project declares \"{old}\"")
        } else {
            format!("several classes have a member \"{old}\", and it is not known whose are used where")
        };
        return refused(message, places);
    };
    let class = views[class_file].file.tree.node(class);
    if has_foreign_base(&views[class_file], class) {
        let message = format!("a base of the class may know \"{old}\" too");
        return refused(message, vec![views[class_file].file.place(class.span())]);
    }
    if declarations(views, wish.new).iter().any(|(file, other, _)| (*file, other.id()) == (class_file, class.id())) {
        return refused(format!("the class has a member \"{}\" already", wish.new), Vec::new());
    }
    if let Some((file, span)) = by_text(views, old, false) {
        return refused(format!("\"{old}\" is looked up by name in a string"), vec![views[file].file.place(span)]);
    }
    put_together(views, old)?;
    of_member(views, (class_file, class), old)?;
    // In the body of the class the member is a name like any other: in defaults, decorators and other members' values.
    let view = &views[class_file];
    let in_body = view.names.bindings_with_ids().filter(|(_, binding)| {
        let scope = view.names.scope(binding.scope);
        scope.sort == ScopeSort::Class && scope.node == class.id() && view.names.text(binding.name) == old
    });
    for (id, _) in in_body {
        edits[class_file]
            .extend(places(&view.file.tree, &view.names, id).iter().map(|place| Edit::replace(place.span, wish.new)));
    }
    let private = class.descendants().filter(|node| node.kind() == Kind::PrivateName && view.file.slice(*node) == old);
    edits[class_file].extend(private.map(|name| Edit::replace(name.span(), wish.new)));
    for (file, _, name) in &declared {
        edits[*file].push(Edit::replace(name.span(), wish.new));
    }
    let mut unknown = Vec::new();
    for (file, view) in views.iter().enumerate() {
        for name in uses(view, old) {
            match is_of(sources, views, file, name, (class_file, class)) {
                Some(false) => {}
                None if !wish.all_members => unknown.push(view.file.place(name.span())),
                _ => edits[file].push(Edit::replace(name.span(), wish.new)),
            }
        }
    }
    if unknown.is_empty() {
        return Ok(());
    }
    refused(format!("it is not known whose member \"{old}\" is here; --all-members takes all for the same"), unknown)
}

/// Where classes declare a member: in their bodies, and as members of the object that their methods run on.
fn declarations<'v>(views: &'v [View<'_>], name: &str) -> Vec<(usize, NodeRef<'v>, NodeRef<'v>)> {
    let mut found = Vec::new();
    for (file, view) in views.iter().enumerate() {
        for node in view.file.tree.nodes().filter(|node| is_word(node.kind()) && view.file.slice(*node) == name) {
            let Some(holder) = node.parent() else { continue };
            let in_body = holder.kind() != Kind::Member && is_member(node);
            let gives = || holder.kind() == Kind::Member && holder.role() == Role::Target && is_own(view, holder);
            if in_body {
                found.extend(holder.class_around().map(|class| (file, class, node)));
            } else if node.role() == Role::Name && gives() {
                found.extend(class_of_method(holder).map(|class| (file, class, node)));
            }
        }
    }
    found
}

/// The members of this name that are used, but for those that [`declarations`] has.
fn uses<'v>(view: &'v View<'_>, old: &str) -> Vec<NodeRef<'v>> {
    let members = view.file.tree.nodes().filter(|node| node.kind() == Kind::Member);
    let names = members.filter_map(|member| member.child(Role::Name));
    let is_declaration = |name: &NodeRef<'_>| {
        name.parent().is_some_and(|member| {
            member.role() == Role::Target && is_own(view, member) && class_of_method(member).is_some()
        })
    };
    names.filter(|name| view.file.slice(*name) == old).filter(|name| !is_declaration(name)).collect()
}

/// Whether a member is one of the object that the method runs on.
fn is_own(view: &View<'_>, member: NodeRef<'_>) -> bool {
    let Some(object) = member.child(Role::Object) else { return false };
    if view.file.language != Language::Python {
        return object.kind() == Kind::This;
    }
    let method = member.ancestors().find(|around| around.kind().is_function());
    let first = method.and_then(|method| method.child(Role::Parameters)?.child(Role::Parameter)?.child(Role::Name));
    first.is_some_and(|first| view.file.slice(first) == view.file.slice(object))
}

/// The class whose method holds a node, functions within it left out where they have an object of their own.
fn class_of_method(node: NodeRef<'_>) -> Option<NodeRef<'_>> {
    let method = node.ancestors().find(|around| around.kind() == Kind::Function)?;
    method.class_around()
}

/// Whether the object of a member is one of the class; nothing where that is not known.
fn is_of(
    sources: &Sources,
    views: &[View<'_>],
    file: usize,
    name: NodeRef<'_>,
    class: (usize, NodeRef<'_>),
) -> Option<bool> {
    let view = &views[file];
    let object = name.parent()?.child(Role::Object)?;
    if name.kind() == Kind::PrivateName {
        return Some(file == class.0 && class.1.holds(name.id()));
    }
    if is_own(view, name.parent()?) {
        let own = class_of_method(name)?;
        // A class further down has the member too; another one without bases does not.
        return if (file, own.id()) == (class.0, class.1.id()) {
            Some(true)
        } else if own.child(Role::Arguments).is_none() {
            Some(false)
        } else {
            None
        };
    }
    if !super::import::modules_of(sources, views, file, object).is_empty() {
        return Some(false);
    }
    let made_by = match object.kind() {
        Kind::Call | Kind::New => object.child(Role::Callee)?,
        Kind::Name => {
            let Resolution::Binding(id) = view.names.resolution_at(object.id())? else { return None };
            let [only] = view.names.binding(id).declarations.as_slice() else { return None };
            let holder = view.file.tree.node(only.node).parent()?;
            let value = holder.child(Role::Value).filter(|value| matches!(value.kind(), Kind::Call | Kind::New))?;
            value.child(Role::Callee).filter(|_| view.names.binding(id).writes == 0)?
        }
        Kind::String | Kind::Number | Kind::List | Kind::Dictionary => return Some(false),
        _ => return None,
    };
    let Resolution::Binding(id) = view.names.resolution_at(made_by.id())? else { return None };
    let (at, id) = super::import::origin(sources, views, file, id).unwrap_or((file, id));
    let [only] = views[at].names.binding(id).declarations.as_slice() else { return None };
    let is_class = (at, Some(only.node)) == (class.0, class.1.child(Role::Name).map(|name| name.id()));
    if is_class { Some(true) } else { None }
}

fn has_foreign_base(view: &View<'_>, class: NodeRef<'_>) -> bool {
    class.child(Role::Arguments).is_some_and(|bases| {
        let is_known = |base: NodeRef<'_>| {
            let name = view.file.slice(base);
            let name = name.split('[').next().unwrap_or(name).rsplit('.').next().unwrap_or(name);
            matches!(name, "object" | "Generic" | "Protocol" | "ABC")
        };
        bases.kind() == Kind::Heritage || bases.children().any(|base| !is_known(base))
    })
}
