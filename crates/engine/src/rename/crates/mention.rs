//! What a word of a file means, by the path that it is a part of.

use sieve_meaning::names::{Reference, Resolution, ScopeKind};
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::lookup::{Lookup, Meaning};
use super::modules::{words_before, words_of};
use crate::rename::source::View;

/// A word of a file that may be the name of an item.
pub(super) struct Mention<'m, 's> {
    pub(super) view: &'m View<'s>,
    pub(super) file: usize,
    pub(super) tokens: &'m [(TokenKind, Span)],
    pub(super) place: usize,
}

impl Mention<'_, '_> {
    fn span(&self) -> Span {
        self.tokens[self.place].1
    }

    pub(super) fn kind(&self, by: isize) -> Option<TokenKind> {
        Some(self.tokens.get(self.place.checked_add_signed(by)?)?.0)
    }

    fn word(&self, place: usize) -> &str {
        self.view.file.text.slice(self.tokens[place].1)
    }

    /// The item of a `use` that the word is in.
    pub(super) fn import(&self) -> Option<NodeRef<'_>> {
        let node = self.view.file.tree.covering(self.span());
        let within = |around: &NodeRef<'_>| matches!(around.kind(), Kind::ImportItem | Kind::Path | Kind::Name);
        std::iter::once(node)
            .chain(node.ancestors())
            .take_while(within)
            .find(|around| around.kind() == Kind::ImportItem)
    }

    /// The words of the path before it; nothing where the path goes through something else than modules and types. Empty where there is no
    /// path.
    pub(super) fn path(&self) -> Option<Vec<String>> {
        let mut words = Vec::new();
        let mut at = self.place;
        while at > 0 && self.tokens[at - 1].0 == TokenKind::ColonColon {
            match self.before_arguments(at - 1)?.filter(|place| self.is_word(*place)) {
                Some(place) => {
                    words.push(self.word(place).to_string());
                    at = place;
                }
                None => {
                    words.push(String::new());
                    break;
                }
            }
        }
        words.reverse();
        match words.first().map(String::as_str) {
            Some("Self") => words.splice(..1, self.own_type()?).for_each(drop),
            Some(_) if self.is_local(self.tokens[at].1) => return None,
            _ => {}
        }
        Some(words)
    }

    /// The token before the colons of a path, or before the arguments that are in front of them: `Side::<u8>::North`. Nothing where a path
    /// begins with a type in angle brackets.
    fn before_arguments(&self, colons: usize) -> Option<Option<usize>> {
        let Some(mut place) = colons.checked_sub(1) else { return Some(None) };
        if self.tokens[place].0 != TokenKind::Greater {
            return Some(Some(place));
        }
        let mut depth = 0;
        loop {
            match self.tokens[place].0 {
                TokenKind::Greater => depth += 1,
                TokenKind::Less => depth -= 1,
                TokenKind::Semicolon | TokenKind::BraceOpen => return None,
                _ => {}
            }
            place = place.checked_sub(1)?;
            if depth == 0 {
                break;
            }
        }
        (self.tokens[place].0 == TokenKind::ColonColon).then(|| place.checked_sub(1))
    }

    /// Whether a token may be a word of a path.
    fn is_word(&self, place: usize) -> bool {
        let word = self.word(place);
        word.starts_with(|first: char| first == '_' || first.is_alphabetic())
            && !matches!(word, "as" | "in" | "return" | "mut" | "impl" | "dyn" | "for" | "where" | "pub" | "let")
    }

    /// Whether a word is the name of something that only a part of a function sees, or of the parameter of a type.
    fn is_local(&self, span: Span) -> bool {
        let Some(id) = self.view.binding_of(self.view.file.tree.covering(span), span) else { return false };
        let scope = self.view.names.scope(self.view.names.binding(id).scope).kind;
        !self.view.is_import(id) && !matches!(scope, ScopeKind::File | ScopeKind::Module)
    }

    /// The words of the path that `Self` is here.
    fn own_type(&self) -> Option<Vec<String>> {
        let is_type =
            |kind: Kind| matches!(kind, Kind::Implementation | Kind::Enum | Kind::TypeDefinition | Kind::Interface);
        let mut around = self.view.file.tree.covering(self.span()).ancestors();
        let holder = around.find(|one| is_type(one.kind()))?;
        let name = match holder.kind() {
            Kind::Implementation => holder.child(Role::Type)?.child_of(Kind::NamedType, Role::Name)?,
            _ => holder.child(Role::Name)?,
        };
        if name.kind() == Kind::Name && self.is_local(name.span()) {
            return None;
        }
        Some(words_of(self.view.file.slice(name)))
    }

    /// What the word means, and whether it is the last one of its path; nothing where it is no use of an item.
    pub(super) fn meanings(
        &self,
        lookup: &Lookup<'_, '_>,
        reference: Option<&Reference>,
    ) -> Option<(Vec<Meaning>, bool)> {
        let node = self.view.file.tree.covering(self.span());
        let around = lookup.modules.around(self.file, node);
        let all = |path: &[String]| {
            let mut found: Vec<Meaning> = around.iter().flat_map(|module| lookup.path(*module, path)).collect();
            found.dedup();
            found
        };
        let own = self.word(self.place).to_string();
        if let Some(item) = self.import() {
            if item.child(Role::Alias).is_some_and(|alias| alias.span() == self.span()) {
                return None;
            }
            let path = words_before(self.view, item, self.span()).into_iter().chain([own]).collect::<Vec<_>>();
            let is_last = item.child(Role::Name).is_some_and(|name| name.span() == self.span());
            return Some((all(&path), is_last));
        }
        let is_last = self.kind(1) != Some(TokenKind::ColonColon);
        if self.kind(-1) == Some(TokenKind::ColonColon) {
            let path = self.path()?.into_iter().chain([own]).collect::<Vec<_>>();
            return Some((all(&path), is_last));
        }
        let is_member = self.kind(-1) == Some(TokenKind::Dot);
        let is_macro = self.kind(1) == Some(TokenKind::Exclamation);
        if is_member || is_macro || matches!(reference?.resolution, Resolution::Binding(_)) {
            return None;
        }
        if lookup.modules.is_adrift(self.file) {
            return Some((vec![Meaning::Unknown], is_last));
        }
        let mut found: Vec<Meaning> = around.iter().flat_map(|module| lookup.name(*module, &own)).collect();
        found.dedup();
        Some((found, is_last))
    }
}
