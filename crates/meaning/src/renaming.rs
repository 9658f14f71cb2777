//! The places of one file that have to change when a name gets another one.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use crate::names::{
    Binding, BindingId, DeclarationKind, Names, Namespace, Reach, Reference, Resolution, ScopeId, ScopeKind, Unknown,
};

/// A place where a name is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Place {
    /// The name itself.
    pub span: Span,
    /// What the name says besides being used.
    pub form: Form,
}

/// What a name says at a place besides being used there.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Form {
    /// Nothing.
    Plain,
    /// It is also the key of an entry, which keeps its name: `{ tide }`.
    Key,
    /// Here, before the words that are before a name, the key of an entry has to be written that is not any more the name: `{ mut tide }`.
    KeyBefore,
    /// It is also the name under which another module hands something out: `import { tide }`.
    Imported,
    /// It is brought into another part of the file under this name, which keeps it: `use super::tide`.
    Brought,
    /// It is also the name under which others see it: `export { tide }`.
    Exported,
}

/// Why a name cannot get another one.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Clash {
    /// A scope that uses the name binds the new one already: to this.
    Taken(BindingId),
    /// The new name is used here for something from further out, which would be hidden.
    Hides(Span),
    /// Names are made or looked for at run time, or code was not understood.
    Unclear,
    /// A use may as well be of something else of this name. Nothing else is against it.
    Doubtful,
    /// A member of that name is used of an object that is not known here. Nothing else is against it.
    Accessed,
}

/// Every place of a binding, in the order of the text.
pub fn places(tree: &Tree, names: &Names<'_>, id: BindingId) -> Vec<Place> {
    let declared = names.binding(id).declarations.iter().map(|declaration| tree.node(declaration.node));
    let mut places: Vec<Place> = declared.clone().map(declared_place).collect();
    places.extend(declared.filter_map(key_before));
    for reference in names.references().filter(|reference| reference.resolution == Resolution::Binding(id)) {
        let form = match form_of(tree.node(reference.node)) {
            // What an import of the file takes from another part of it.
            Form::Imported => Form::Brought,
            form => form,
        };
        places.push(Place { span: reference.span, form });
    }
    places.sort_by_key(|place| place.span);
    places.dedup_by_key(|place| place.span);
    places
}

/// The place of a declaration. That of an import is its whole item.
fn declared_place(node: NodeRef<'_>) -> Place {
    if matches!(node.kind(), Kind::ImportItem | Kind::ImportAll | Kind::ImportDefault) {
        let alias = node.child(Role::Alias);
        let name = alias.or_else(|| node.child(Role::Name)).or_else(|| node.child(Role::Module)).unwrap_or(node);
        let form = if alias.is_some() { Form::Plain } else { form_of(name) };
        return Place { span: name.span(), form };
    }
    Place { span: node.span(), form: form_of(node) }
}

/// `{ mut tide }` takes the field `tide`, and binds a variable of that name.
fn key_before(name: NodeRef<'_>) -> Option<Place> {
    let capture = name.parent().filter(|capture| capture.kind() == Kind::CapturePattern)?;
    let entry = capture.parent().filter(|entry| entry.kind() == Kind::KeywordPattern)?;
    let is_short = entry.children().count() == 1 && entry.span().start == capture.span().start;
    let start = capture.span().start;
    is_short.then_some(Place { span: Span::new(start, start), form: Form::KeyBefore })
}

fn form_of(name: NodeRef<'_>) -> Form {
    let Some(holder) = name.parent() else { return Form::Plain };
    let is_entry = |pattern: NodeRef<'_>| {
        let outer = pattern.parent().filter(|outer| outer.kind() == Kind::DefaultPattern).unwrap_or(pattern);
        outer.parent().is_some_and(|mapping| mapping.kind() == Kind::MappingPattern) && outer.role() == Role::Element
    };
    match holder.kind() {
        Kind::ShorthandPair if name.role() == Role::Name => Form::Key,
        Kind::CapturePattern if is_entry(holder) => Form::Key,
        Kind::KeywordPattern if name.role() == Role::Name && holder.children().count() == 1 => Form::Key,
        Kind::ImportItem if matches!(name.role(), Role::Name | Role::Module) && holder.child(Role::Alias).is_none() => {
            Form::Imported
        }
        Kind::ExportItem if name.role() == Role::Name && holder.child(Role::Alias).is_none() => Form::Exported,
        _ => Form::Plain,
    }
}

/// Whether a binding may be called otherwise within its file.
///
/// # Errors
/// With the reason why not.
pub fn may_become(names: &Names<'_>, id: BindingId, new: &str) -> Result<(), Clash> {
    let home = names.binding(id).scope;
    let within = |scope: ScopeId| chain(names, scope).any(|around| around == home);
    let scope = names.scope(home);
    // What is made further out at run time cannot be this binding, and hides it nowhere.
    if [scope.may_bind, scope.may_use].into_iter().flatten().any(|reason| reason.is_about_code()) {
        return Err(Clash::Unclear);
    }
    let is_it = |reference: &&Reference| reference.resolution == Resolution::Binding(id);
    if names.may_be_expanded(names.binding(id)) {
        return Err(Clash::Unclear);
    }
    if may_be_opened(names, id) {
        return Err(Clash::Unclear);
    }
    let namespaces = namespaces_beside(names, id);
    // The new name must not be bound where the old one is used, nor between that and where it is bound.
    let uses = names.references().filter(is_it);
    for scope in uses.map(|reference| reference.scope).chain([home]) {
        for around in chain(names, scope) {
            // What a class binds is not seen from its functions.
            if around != scope && around != home && names.scope(around).kind == ScopeKind::Class {
                continue;
            }
            if let Some(taken) = namespaces.iter().find_map(|one| names.lookup_in(*one, around, new)) {
                return Err(Clash::Taken(taken));
            }
            if around == home {
                break;
            }
        }
    }
    if let Some(inner) = taken_within(names, home, new) {
        return Err(Clash::Taken(inner));
    }
    // Nor may it represent something from further out in the parts that would now see this one.
    let hidden = names.references().find(|reference| {
        let bound_inside = match reference.resolution {
            Resolution::Binding(other) => within(names.binding(other).scope),
            _ => false,
        };
        let is_new = names.text(reference.name) == new && namespaces.contains(&names.namespace(reference.name));
        is_new && within(reference.scope) && !bound_inside
    });
    match hidden {
        Some(reference) => Err(Clash::Hides(reference.span)),
        None if names.references().filter(is_it).any(|reference| reference.is_doubtful) => Err(Clash::Doubtful),
        None if names.may_be_accessed(names.binding(id)) => Err(Clash::Accessed),
        None => Ok(()),
    }
}

/// What has a name within the scope of a variable, where languages with types around functions do not let it hide one ("Shadowing and
/// Obscuring", The Java Language Specification; "Local variable declaration space", ECMA-334).
fn taken_within(names: &Names<'_>, home: ScopeId, new: &str) -> Option<BindingId> {
    let is_kind = |scope: ScopeId, kind: ScopeKind| names.scope(scope).kind == kind;
    let is_local = is_kind(home, ScopeKind::Function) || is_kind(home, ScopeKind::Block);
    if !is_local || !chain(names, home).any(|around| is_kind(around, ScopeKind::Members)) {
        return None;
    }
    let is_within = |scope: ScopeId| {
        let mut around = chain(names, scope).take_while(|around| !is_kind(*around, ScopeKind::Members));
        around.any(|around| around == home)
    };
    let is_variable = |binding: &Binding| {
        names.text(binding.name) == new
            && names.namespace(binding.name) == Namespace::Values
            && is_within(binding.scope)
    };
    names.bindings_with_ids().find(|(_, binding)| is_variable(binding)).map(|(id, _)| id)
}

/// Whether a use that nothing declares may be one of a type: one of a namespace, or of the members of a type, is seen wherever that is
/// opened.
fn may_be_opened(names: &Names<'_>, id: BindingId) -> bool {
    let binding = names.binding(id);
    let is_type = binding.declarations.iter().all(|one| one.kind == DeclarationKind::Class);
    let is_in_namespace = || chain(names, binding.scope).any(|scope| names.scope(scope).kind == ScopeKind::Namespace);
    let may_mean = |reference: &Reference| {
        let is_open = matches!(reference.resolution, Resolution::Unknown(reason) if reason != Unknown::InText);
        let is_named =
            reference.reach == Reach::NearestValueOrType || names.namespace(reference.name) == Namespace::Types;
        is_open && is_named && names.text(reference.name) == names.text(binding.name)
    };
    is_type && is_in_namespace() && names.references().any(may_mean)
}

/// The namespaces in which a binding must be the only one of its name. What is before a dot may be a value or a type.
fn namespaces_beside(names: &Names<'_>, id: BindingId) -> Vec<Namespace> {
    let binding = names.binding(id);
    let text = names.text(binding.name);
    let is_in = |one: &Namespace| names.lookup_in(*one, binding.scope, text) == Some(id);
    let mut found: Vec<Namespace> = Namespace::ALL.iter().copied().filter(is_in).collect();
    if found.iter().any(|one| *one != Namespace::Functions) {
        found.extend([Namespace::Values, Namespace::Types]);
    }
    found
}

/// A scope and those around it.
fn chain<'n>(names: &'n Names<'_>, scope: ScopeId) -> impl Iterator<Item = ScopeId> + 'n {
    std::iter::successors(Some(scope), |scope| names.scope(*scope).parent)
}
