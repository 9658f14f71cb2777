//! Proves that a fixed text still says what it said.

use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Role, TokenKind, Tree};

/// Why a fixed text is thrown away.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Broken {
    /// It has syntax faults that the text did not have.
    Syntax,
    /// A change of layout changed the code.
    Code,
}

pub(super) fn new_faults(before: &Tree, after: &Tree) -> Option<Broken> {
    (after.faults().len() > before.faults().len()).then_some(Broken::Syntax)
}

/// Whether two texts differ in layout alone: the same nodes, made of the same tokens, apart from those that only separate
/// statements.
pub(crate) fn code_stays(before: (&Text, &Tree), after: (&Text, &Tree)) -> bool {
    shape(before.1).eq(shape(after.1)) && code(before.0, before.1).eq(code(after.0, after.1))
}

pub(super) fn code_changed(before: (&Text, &Tree), after: (&Text, &Tree)) -> Option<Broken> {
    (!code_stays(before, after)).then_some(Broken::Code)
}

fn shape(tree: &Tree) -> impl Iterator<Item = (Kind, Role, u32)> + '_ {
    tree.nodes().map(|node| (node.kind(), node.role(), node.end().0))
}

fn code<'t>(text: &'t Text, tree: &'t Tree) -> impl Iterator<Item = &'t str> {
    tree.tokens()
        .iter()
        .enumerate()
        .filter(|(_, token)| !token.kind.is_trivia() && !token.kind.is_layout() && token.kind != TokenKind::Semicolon)
        .map(|(id, _)| text.slice(tree.token_span(id as u32)))
}
