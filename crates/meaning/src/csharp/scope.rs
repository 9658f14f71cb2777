//! What opens a scope: types with their members, functions, statements.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::{pattern, word};
use crate::declared::{is_extension, visibility};
use crate::names::{BindingId, Collector, DeclarationKind, Namespace, Reach, ScopeId, ScopeKind, Unknown};

/// A type binds its name around it; its parameters are seen in all of it, its members in its body.
pub(super) fn on_type<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let around = collector.current();
    let name = node.child(Role::Name);
    let binding = name.map(|name| {
        let text = word::of(collector, name);
        collector.bind_in(Namespace::Types, around, text, name, DeclarationKind::Class)
    });
    if node.child(Role::TypeParameters).is_some() {
        collector.open(ScopeKind::TypeParameters, node);
    }
    let is_part = has_word(collector, node, "partial");
    // The parts of a type have one set of members.
    let known = binding.filter(|_| is_part).and_then(|binding| collector.members_of(binding));
    let members = known.unwrap_or_else(|| collector.open_scope(ScopeKind::Members, node, collector.current()));
    if let Some(binding) = binding {
        collector.has_members(binding, members);
        keep_if_private(collector, node, binding);
    }
    if is_part {
        on_part(collector, node, members);
    }
    for heritage in node.children_in(Role::Arguments) {
        for (index, base) in heritage.children_in(Role::Type).enumerate() {
            if gives_members(collector, node, base, index) {
                inherit(collector, members, base);
            }
        }
        // What the base is made with sees the parameters of the type.
        heritage.children_in(Role::Arguments).for_each(|given| collector.enter_at(given, members));
    }
    for part in [Role::Parameters, Role::Body] {
        if let Some(part) = node.child(part) {
            collector.enter_at(part, members);
        }
    }
}

/// Other parts of a type may be in other files, and name its parameters as this one does.
fn on_part<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, members: ScopeId) {
    collector.mark_may_bind(members, Unknown::OtherPart);
    collector.mark_may_use(members, Unknown::OtherFile);
    let parameters = node.child(Role::TypeParameters).into_iter().flat_map(NodeRef::children);
    for name in parameters.filter_map(|parameter| parameter.child(Role::Name)) {
        collector.expand(word::of(collector, name));
    }
}

/// What only its type sees is not handed down to types that are made after it.
pub(super) fn keep_if_private<'t>(collector: &mut Collector<'t>, declaration: NodeRef<'t>, binding: BindingId) {
    let is_of_class = declaration.parent().and_then(NodeRef::parent).is_some_and(|holder| holder.kind() == Kind::Class);
    let is_private = visibility(collector.text, declaration).is_none_or(|word| word == "private");
    if is_of_class && is_private {
        collector.keep(binding);
    }
}

/// Whether a word is before the name of a declaration.
fn has_word<'t>(collector: &Collector<'t>, node: NodeRef<'t>, word: &str) -> bool {
    let mut before = node.tokens_before(node.child(Role::Name));
    before.any(|(token, _)| collector.text.slice(collector.tree.token_span(token)) == word)
}

/// Whether a type sees the members of one that it is built on by their names alone: a class those of its base, which is the first, an
/// interface those of other interfaces. An interface has a name after its custom ("Names of interfaces", Framework design guidelines).
fn gives_members<'t>(collector: &Collector<'t>, node: NodeRef<'t>, base: NodeRef<'t>, index: usize) -> bool {
    if node.kind() != Kind::Class {
        return node.kind() == Kind::Interface;
    }
    let name = base.child(Role::Name).and_then(last_name).map_or("", |name| word::of(collector, name));
    let mut letters = name.chars();
    let is_interface = letters.next() == Some('I')
        && letters.next().is_some_and(char::is_uppercase)
        && letters.next().is_none_or(char::is_lowercase);
    index == 0 && !is_interface && !has_word(collector, node, "struct")
}

/// The last of names with dots between them.
pub(super) fn last_name(path: NodeRef<'_>) -> Option<NodeRef<'_>> {
    match path.kind() {
        Kind::Name => Some(path),
        Kind::Member | Kind::Path => last_name(path.child(Role::Name)?),
        Kind::Instantiation => last_name(path.child(Role::Name).or_else(|| path.child(Role::Value))?),
        _ => None,
    }
}

/// A type has the members of another one, whose name may be that of a type of this file.
fn inherit<'t>(collector: &mut Collector<'t>, members: ScopeId, base: NodeRef<'t>) {
    let mut path = Vec::new();
    let mut next = base.child(Role::Name);
    while let Some(part) = next {
        let is_path = matches!(part.kind(), Kind::Member | Kind::Path | Kind::Instantiation);
        let own = if is_path { part.child(Role::Name) } else { Some(part) };
        if let Some(name) = own.filter(|own| own.kind() == Kind::Name) {
            path.push(word::of(collector, name));
        }
        next = if part.kind() == Kind::Instantiation { own } else { part.child(Role::Object) };
    }
    path.reverse();
    collector.inherit(members, &path);
}

/// A type of functions.
pub(super) fn on_delegate<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if let Some(name) = node.child(Role::Name) {
        let (scope, text) = (collector.current(), word::of(collector, name));
        let binding = collector.bind_in(Namespace::Types, scope, text, name, DeclarationKind::Class);
        keep_if_private(collector, node, binding);
    }
    collector.open(ScopeKind::Function, node);
}

/// A method binds its name in its type, a function in a function in the block around it. That of a constructor is the name of its type.
pub(super) fn on_function<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    // Operators have signs for names.
    let has_word = |name: &NodeRef<'_>| {
        word::of(collector, *name).starts_with(|first: char| first.is_alphabetic() || first == '_')
    };
    match (node.child(Role::Name).filter(has_word), node.child(Role::Receiver)) {
        (Some(name), None) if node.child(Role::Returns).is_some() => {
            bind_member(collector, node, name, DeclarationKind::Function);
            // It is called like a member of what it extends.
            if is_extension(node) {
                collector.expand(word::of(collector, name));
            }
        }
        (Some(name), None) => {
            let current = collector.current();
            let around = collector.scope(current).parent.unwrap_or(current);
            word::use_by(collector, Namespace::Types, Reach::Scopes, around, name);
            // A type is not used by its having one.
            collector.last_writes();
        }
        // A member of an interface is defined.
        _ => {}
    }
    collector.open(ScopeKind::Function, node);
}

/// Binds the name of a member of a type in the scope of the walk.
pub(super) fn bind_member<'t>(
    collector: &mut Collector<'t>,
    member: NodeRef<'t>,
    name: NodeRef<'t>,
    kind: DeclarationKind,
) {
    let (scope, text) = (collector.current(), word::of(collector, name));
    let binding = collector.bind_in(Namespace::Values, scope, text, name, kind);
    keep_if_private(collector, member, binding);
}

/// A property binds its name, unless it is one of an interface that is defined. What an indexer is given is seen in its accessors.
pub(super) fn on_property<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let name = node.child(Role::Name).filter(|name| name.kind() == Kind::Name);
    if let Some(name) = name.filter(|_| node.child(Role::Receiver).is_none()) {
        bind_member(collector, node, name, DeclarationKind::Field);
    }
    collector.open(ScopeKind::Function, node);
}

/// What changes a property is given `value`, which nothing declares.
pub(super) fn on_accessor<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let scope = collector.open(ScopeKind::Function, node);
    if node.child(Role::Name).is_some_and(|name| collector.node_text(name) != "get") {
        let nowhere = collector.open_scope(ScopeKind::Block, node, scope);
        collector.cut_off(nowhere);
        collector.declare_elsewhere(scope, "value", nowhere);
    }
}

/// Parameters of a record are properties, those of another type are seen in all of its members.
pub(super) fn on_parameter<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, parameter: NodeRef<'t>) {
    // One for arguments that nobody wrote down has no name.
    if parameter.child(Role::Type).is_none() && collector.node_text(node) == "__arglist" {
        return;
    }
    let owner = parameter.parent().and_then(|list| list.parent());
    let is_record = owner.is_some_and(|owner| owner.kind() == Kind::Class && has_word(collector, owner, "record"));
    let kind = if is_record { DeclarationKind::Field } else { DeclarationKind::Parameter };
    word::bind(collector, Some(node), kind);
}

/// What the cases of a choice declare is seen in all of them, and not by what is asked.
pub(super) fn on_match<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if let Some(first) = node.child(Role::Case) {
        let scope = collector.open_scope(ScopeKind::Block, node, collector.current());
        collector.enter_within(first.id()..node.end(), scope);
    }
}

/// Whether a node is a statement in the place of a body, which has the variables that its expressions declare.
pub(super) fn is_embedded(node: NodeRef<'_>) -> bool {
    matches!(node.role(), Role::Body | Role::Else)
        && node.kind() != Kind::Block
        && node.parent().is_some_and(|parent| {
            matches!(parent.kind(), Kind::If | Kind::While | Kind::DoWhile | Kind::For | Kind::With)
        })
}

/// Whether a block has the names of what it is the body of.
pub(super) fn is_body(block: NodeRef<'_>) -> bool {
    let is_body = block.role() == Role::Body;
    block.parent().is_some_and(|parent| match parent.kind() {
        Kind::Function
        | Kind::Lambda
        | Kind::Property
        | Kind::Accessor
        | Kind::Class
        | Kind::Interface
        | Kind::Enum
        | Kind::Namespace
        | Kind::Catch => is_body,
        // Statements behind a colon see what is declared for other cases.
        Kind::Case => is_body && !pattern::is_of_expression(parent),
        _ => false,
    })
}
