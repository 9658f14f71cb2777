//! Words before a declaration that are no nodes of the tree: `async`, `override`, `partial`.

use sieve_syntax::tree::{NodeRef, Role, TokenId, TokenKind};

use crate::interface::File;

/// The token of a modifier of a declaration: before its type and its name, and in no attribute.
pub(crate) fn modifier(file: File<'_>, declaration: NodeRef<'_>, word: &str) -> Option<TokenId> {
    let parts = [Role::Returns, Role::Name].into_iter().filter_map(|role| declaration.child(role));
    let behind = parts.map(|part| part.token_range().start).min()?;
    let mut before = declaration.token_range().start..behind;
    let is_it = |token: TokenId| {
        matches!(file.tree.token_kind(token), TokenKind::Name | TokenKind::Modifier)
            && file.text.slice(file.tree.token_span(token)) == word
    };
    let is_in_attribute =
        |token: TokenId| declaration.children_in(Role::Decorator).any(|said| said.token_range().contains(&token));
    before.find(|token| is_it(*token) && !is_in_attribute(*token))
}

/// The kinds of the words before the type and the names that are declared.
pub(crate) fn kinds_before<'t>(declaration: NodeRef<'t>) -> impl Iterator<Item = (TokenId, TokenKind)> + use<'t> {
    let first = declaration.children().find(|part| matches!(part.role(), Role::Type | Role::Item));
    declaration.tokens_before(first)
}

/// Whether a word is before the type and the names that are declared.
pub(crate) fn has_word_before(file: File<'_>, declaration: NodeRef<'_>, word: &str) -> bool {
    kinds_before(declaration).any(|(token, _)| file.text.slice(file.tree.token_span(token)) == word)
}
