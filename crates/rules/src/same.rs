//! Whether two pieces of code say the same, and whether saying it twice gives the same.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::interface::File;

/// Whether two nodes are made of the same tokens, whitespace and comments left aside. What depends on how it is built is the same as nothing.
pub(crate) fn same_code(file: File<'_>, one: NodeRef<'_>, other: NodeRef<'_>) -> bool {
    let tokens = |node: NodeRef<'_>| {
        let tree = file.tree;
        node.token_range()
            .filter(move |token| !tree.token_kind(*token).is_trivia())
            .map(move |token| file.text.slice(tree.token_span(token)))
    };
    tokens(one).eq(tokens(other)) && !depends_on_build(file, one.token_range())
}

/// So many nodes of a function are looked at, for the sake of those that hold thousands of loops.
const LOOKED_AT: usize = 2000;

/// Whether code uses a member of an object that is not among some known ones: the object is of a type of its own.
pub(crate) fn uses_other_member(file: File<'_>, code: NodeRef<'_>, object: NodeRef<'_>, known: &[&str]) -> bool {
    code.descendants().take(LOOKED_AT).any(|member| {
        member.kind() == Kind::Member
            && member.child(Role::Name).is_some_and(|name| !known.contains(&file.node_text(name)))
            && member.child(Role::Object).is_some_and(|one| one.kind() == object.kind() && same_code(file, one, object))
    })
}

/// Whether lines for the preprocessor are among some tokens: not all of them may be compiled.
pub(crate) fn depends_on_build(file: File<'_>, mut tokens: std::ops::Range<TokenId>) -> bool {
    tokens.any(|token| file.tree.token_kind(token) == TokenKind::Directive)
}

/// Whether an expression gives the same value each time that it is asked within one expression: nothing in it is called, changed or waited
/// for.
pub(crate) fn is_steady(node: NodeRef<'_>) -> bool {
    std::iter::once(node).chain(node.descendants()).all(|part| {
        let receives = part.kind() == Kind::Unary && part.first_token_kind() == TokenKind::ChannelArrow;
        !receives
            && matches!(
                part.kind(),
                Kind::Name
                    | Kind::This
                    | Kind::Super
                    | Kind::PrivateName
                    | Kind::Number
                    | Kind::String
                    | Kind::Bytes
                    | Kind::Character
                    | Kind::Boolean
                    | Kind::Null
                    | Kind::Member
                    | Kind::Path
                    | Kind::Cast
                    | Kind::NamedType
                    | Kind::Subscript
                    | Kind::Group
                    | Kind::Unary
                    | Kind::Binary
                    | Kind::Logical
                    | Kind::Comparison
                    | Kind::NonNull
                    | Kind::Tuple
            )
    })
}

/// The operator between two operands, if it is a single word.
pub(crate) fn operator_between<'f>(
    file: File<'f>,
    left: NodeRef<'_>,
    right: NodeRef<'_>,
) -> Option<(TokenKind, &'f str)> {
    let between = left.token_range().end..right.token_range().start;
    let mut words = between.filter(|token| !file.tree.token_kind(*token).is_trivia());
    let only = words.next().filter(|_| words.next().is_none())?;
    Some((file.tree.token_kind(only), file.text.slice(file.tree.token_span(only))))
}

/// What is written between two operands, whitespace around it left aside: an operator of one word or of several.
pub(crate) fn written_between<'f>(file: File<'f>, left: NodeRef<'_>, right: NodeRef<'_>) -> &'f str {
    file.text.slice(Span::new(left.span().end, right.span().start)).trim()
}

/// Each of some operands together with the next one.
pub(crate) fn adjacent<'t>(
    operands: impl Iterator<Item = NodeRef<'t>>,
) -> impl Iterator<Item = (NodeRef<'t>, NodeRef<'t>)> {
    let mut before = None;
    operands.filter_map(move |operand| Some((before.replace(operand)?, operand)))
}
