//! Where members of a name are used, and whose each is.

use sieve_rules::Edit;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::lookup::{Access, Member, Owner, World};
use super::member::{Target, declares};
use super::types::Type;
use crate::rename::crates::lookup::{Meaning, field_names, is_type};
use crate::rename::crates::mention::Mention;
use crate::rename::crates::modules::words_of;
use crate::rename::{Edits, RenameRequest};

/// A use of a member of a name, or its declaration.
pub(super) struct Use {
    pub(super) file: usize,
    pub(super) span: Span,
    pub(super) access: Access,
    pub(super) owner: Owner,
    /// `Tide { low }`: the name is that of a variable, too.
    is_shorthand: bool,
    pub(super) is_declared: bool,
}

pub(super) struct Uses(pub(super) Vec<Use>);

impl Uses {
    /// Those that are known to mean a target.
    fn of<'u>(&'u self, target: &'u Target) -> impl Iterator<Item = &'u Use> {
        self.0.iter().filter(|one| one.access == target.access && target.has(one.owner))
    }

    /// Those of which it is not known whose they are.
    pub(super) fn unknown<'u>(&'u self, target: &'u Target) -> impl Iterator<Item = &'u Use> {
        self.0.iter().filter(|one| one.access == target.access && one.owner == Owner::Unknown)
    }

    /// Puts the new name in the place of the old one.
    pub(super) fn place(&self, target: &Target, asked: &RenameRequest<'_>, edits: &mut Edits) {
        let unknown = self.unknown(target).filter(|_| asked.all_members);
        for one in self.of(target).chain(unknown) {
            edits[one.file].push(match one.is_shorthand {
                true => Edit::replace(Span::new(one.span.start, one.span.start), format!("{}: ", asked.new)),
                false => Edit::replace(one.span, asked.new),
            });
        }
    }
}

/// All uses of members of a name. Those of a trait are found by what it declares.
pub(super) fn all(world: &World<'_, '_>, target: &Target, name: &str) -> Uses {
    let mut found = Vec::new();
    for (file, view) in world.views().iter().enumerate() {
        if memchr::memmem::find(view.file.text.source().as_bytes(), name.as_bytes()).is_none() {
            continue;
        }
        let tokens = view.significant_tokens();
        for (place, (kind, span)) in tokens.iter().enumerate() {
            if *kind != TokenKind::Name || view.file.text.slice(*span) != name {
                continue;
            }
            let node = view.file.tree.covering(*span);
            found.extend(match node.kind() {
                Kind::TokenTree => in_macro(world, file, &tokens, place, target.access),
                // What is not parsed may use it.
                Kind::Error | Kind::Opaque => Some(Use {
                    file,
                    span: *span,
                    access: target.access,
                    owner: Owner::Unknown,
                    is_shorthand: false,
                    is_declared: false,
                }),
                _ => at(world, file, node),
            });
        }
    }
    Uses(found)
}

fn at(world: &World<'_, '_>, file: usize, node: NodeRef<'_>) -> Option<Use> {
    if let Some(access) = declares(node) {
        let owner = Owner::Own((file, node.id()));
        return Some(Use { file, span: node.span(), access, owner, is_shorthand: false, is_declared: true });
    }
    let (access, owner) = owner_at(world, file, node)?;
    // `Tide { ref low }` has the name in a pattern of its own.
    let short = node.ancestors().take(2).find(|one| matches!(one.kind(), Kind::ShorthandPair | Kind::KeywordPattern));
    let short = short.filter(|one| one.child(Role::Pattern).is_none_or(|inner| holds(inner, node)));
    let (is_shorthand, span) = (short.is_some(), short.map_or(node.span(), NodeRef::span));
    Some(Use { file, span, access, owner, is_shorthand, is_declared: false })
}

fn holds(outer: NodeRef<'_>, inner: NodeRef<'_>) -> bool {
    outer.span().start <= inner.span().start && inner.span().end <= outer.span().end
}

/// Whether a name uses a member.
pub(super) fn is_use(node: NodeRef<'_>) -> bool {
    let Some(parent) = node.parent().filter(|_| node.kind() == Kind::Name) else { return false };
    match (parent.kind(), node.role()) {
        (Kind::Member | Kind::Path, Role::Name) => true,
        (Kind::Pair, Role::Key) => parent.parent().is_some_and(|of| of.kind() == Kind::Composite),
        (Kind::KeywordPattern, Role::Name) => parent.child(Role::Pattern).is_some(),
        _ => false,
    }
}

/// How a name at a place is used as a member, and whose that is; nothing for what is no member.
pub(super) fn owner_of(world: &World<'_, '_>, file: usize, name: Span) -> Option<(Access, Owner)> {
    let view = &world.views()[file];
    let node = view.file.tree.covering(name);
    if node.kind() != Kind::TokenTree {
        return owner_at(world, file, node);
    }
    let tokens = view.significant_tokens();
    let place = tokens.iter().position(|(_, span)| *span == name)?;
    let used = in_macro(world, file, &tokens, place, Access::Field)?;
    Some((used.access, used.owner))
}

/// How a name is used as a member, and whose that is; nothing for what is no member.
fn owner_at(world: &World<'_, '_>, file: usize, node: NodeRef<'_>) -> Option<(Access, Owner)> {
    let view = &world.views()[file];
    let name = view.file.slice(node);
    let parent = node.parent()?;
    match (parent.kind(), node.role()) {
        (Kind::Member, Role::Name) => {
            let is_called = parent.role() == Role::Callee && parent.parent().is_some_and(|of| of.kind() == Kind::Call);
            let access = if is_called { Access::Associated } else { Access::Field };
            let of = world.type_of(file, parent.child(Role::Object)?);
            Some((access, world.owner(&of, name, access)))
        }
        (Kind::Path, Role::Name) => Some((Access::Associated, by_path(world, file, parent, name)?)),
        (Kind::Pair, Role::Key) => Some((Access::Field, of_constructed(world, file, parent.parent()?, name)?)),
        (Kind::ShorthandPair, _) => Some((Access::Field, of_constructed(world, file, parent.parent()?, name)?)),
        (Kind::KeywordPattern, Role::Name) => {
            Some((Access::Field, of_constructed(world, file, parent.parent()?, name)?))
        }
        // `Tide { ref low }`
        (Kind::CapturePattern, Role::Name) => {
            let outer = parent.parent().filter(|outer| outer.kind() == Kind::KeywordPattern)?;
            let is_short = outer.child(Role::Name).is_none_or(|own| own == node);
            let owner = of_constructed(world, file, outer.parent().filter(|_| is_short)?, name)?;
            Some((Access::Field, owner))
        }
        _ => None,
    }
}

/// Whose the last name of a path is; nothing for an item, a variant or a module.
fn by_path(world: &World<'_, '_>, file: usize, path: NodeRef<'_>, name: &str) -> Option<Owner> {
    let object = path.child(Role::Object)?;
    if path.ancestors().take_while(|around| around.kind() != Kind::Block).any(|one| one.kind() == Kind::Import) {
        return None;
    }
    if let Some(Meaning::Item(..) | Meaning::Module(_)) = world.item_of_path(file, path) {
        return None;
    }
    let of = world.type_named(file, object);
    if of == Type::Unknown && matches!(object.kind(), Kind::Name | Kind::Path) {
        let words = words_of(world.views()[file].file.slice(object));
        if let Some(Meaning::Module(_)) = world.meaning(file, object, &words) {
            return None;
        }
    }
    Some(world.owner(&of, name, Access::Associated))
}

/// Whose a field is that is named where a type is made or taken apart; nothing for what makes no type.
fn of_constructed(world: &World<'_, '_>, file: usize, whole: NodeRef<'_>, name: &str) -> Option<Owner> {
    if !matches!(whole.kind(), Kind::Composite | Kind::ClassPattern) {
        return None;
    }
    if let Some((of, variant)) = world.variant_of_pattern(file, whole) {
        let view = &world.views()[of];
        let found = field_names(variant).find(|one| view.file.slice(*one) == name);
        return Some(found.map_or(Owner::Other, |one| Owner::Own((of, one.id()))));
    }
    let named = whole.child(Role::Type).or_else(|| whole.child(Role::Callee))?;
    Some(match world.of_constructed(file, named) {
        Type::Unknown if is_elsewhere(world, file, named) => Owner::Other,
        of => world.owner(&of, name, Access::Field),
    })
}

/// Whether a path goes to another package.
fn is_elsewhere(world: &World<'_, '_>, file: usize, name: NodeRef<'_>) -> bool {
    let words = words_of(world.views()[file].file.slice(name));
    words.first().is_some_and(|first| first != "Self") && world.meaning(file, name, &words) == Some(Meaning::Elsewhere)
}

/// A word that is given to a macro: behind a dot, at the end of a path, or where a type is made.
fn in_macro(
    world: &World<'_, '_>,
    file: usize,
    tokens: &[(TokenKind, Span)],
    place: usize,
    wanted: Access,
) -> Option<Use> {
    let view = &world.views()[file];
    let (span, name) = (tokens[place].1, view.file.text.slice(tokens[place].1));
    let kind = |at: Option<usize>| at.and_then(|at| tokens.get(at)).map(|(kind, _)| *kind);
    let (before, after) = (kind(place.checked_sub(1)), kind(Some(place + 1)));
    let made = |access, owner, is_shorthand| Use { file, span, access, owner, is_shorthand, is_declared: false };
    match before? {
        TokenKind::Dot => {
            let is_called = matches!(after, Some(TokenKind::ParenOpen | TokenKind::ColonColon));
            let access = if is_called { Access::Associated } else { Access::Field };
            let of = world.of_tokens(file, tokens, place - 1);
            Some(made(access, world.owner(&of, name, access), false))
        }
        TokenKind::ColonColon => {
            let mention = Mention { view, file, tokens, place };
            let owner = match mention.path() {
                Some(words) if !words.is_empty() => by_words(world, file, view.file.tree.covering(span), &words, name)?,
                _ => Owner::Unknown,
            };
            Some(made(Access::Associated, owner, false))
        }
        TokenKind::BraceOpen | TokenKind::Comma if wanted == Access::Field => {
            let is_shorthand = matches!(after, Some(TokenKind::Comma | TokenKind::BraceClose));
            if !is_shorthand && after != Some(TokenKind::Colon) {
                return None;
            }
            let of = world.made_in_macro(file, tokens, place)?;
            Some(made(
                Access::Field,
                of.map_or(Owner::Unknown, |of| world.owner(&of, name, Access::Field)),
                is_shorthand,
            ))
        }
        _ => None,
    }
}

/// Whose a name is behind the words of a path; nothing for an item, a variant or a module.
fn by_words(world: &World<'_, '_>, file: usize, node: NodeRef<'_>, words: &[String], name: &str) -> Option<Owner> {
    let whole: Vec<String> = words.iter().cloned().chain([name.to_string()]).collect();
    let module = *world.paths.modules.around(file, node).first()?;
    if let [Meaning::Item(..) | Meaning::Module(_)] = world.paths.path(module, &whole).as_slice() {
        return None;
    }
    Some(match world.paths.path(module, words).as_slice() {
        [Meaning::Item(of, id)] if is_type(&world.views()[*of], *id) => {
            world.owner(&Type::Own(*of, *id, Vec::new()), name, Access::Associated)
        }
        [Meaning::Elsewhere] => {
            let last = words.last().map_or("", String::as_str);
            world.owner(&Type::other(last, Vec::new()), name, Access::Associated)
        }
        [Meaning::Module(_)] => return None,
        _ => Owner::Unknown,
    })
}

impl World<'_, '_> {
    /// The type that is made by the braces around a word in a macro; nothing where they make none, or there are none.
    fn made_in_macro(&self, file: usize, tokens: &[(TokenKind, Span)], place: usize) -> Option<Option<Type>> {
        let view = &self.views()[file];
        let mut depth = 0;
        let mut at = place;
        loop {
            at = at.checked_sub(1)?;
            depth += i32::from(tokens[at].0.closes()) - i32::from(tokens[at].0.opens());
            if depth < 0 {
                break;
            }
        }
        let name = at.checked_sub(1).filter(|_| tokens[at].0 == TokenKind::BraceOpen)?;
        let word = view.file.text.slice(tokens[name].1);
        if !word.starts_with(char::is_uppercase) {
            return None;
        }
        let mention = Mention { view, file, tokens, place: name };
        let node = view.file.tree.covering(tokens[name].1);
        let module = *self.paths.modules.around(file, node).first()?;
        let Some(mut words) = mention.path() else { return Some(None) };
        words.push(word.to_string());
        if words == ["Self"] {
            return Some(Some(self.self_type(file, node, 0)));
        }
        Some(match self.paths.path(module, &words).as_slice() {
            [Meaning::Item(of, id)] if is_type(&self.views()[*of], *id) => Some(Type::Own(*of, *id, Vec::new())),
            [Meaning::Elsewhere] => Some(Type::other(word, Vec::new())),
            _ => None,
        })
    }
}

/// The place of a member as others are shown it.
pub(super) fn place_of(world: &World<'_, '_>, member: Member) -> (usize, Span) {
    (member.0, world.node(member).span())
}
