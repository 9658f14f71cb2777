//! Whitespace in Java and C#, as their published styles have it: one space around operators, after commas and after the words of
//! statements. Where code bases differ, before the parentheses of calls and inside of brackets, what the file mostly has.

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::habit::begins_line;

use super::{Bracket as Brackets, SpacingKind, View, Want, Wants, is_arithmetic, unless};

pub(super) fn wants(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    match kind {
        TokenKind::ParenOpen
        | TokenKind::ParenClose
        | TokenKind::BracketOpen
        | TokenKind::BracketClose
        | TokenKind::BraceOpen
        | TokenKind::BraceClose => of_bracket(view, token, kind),
        TokenKind::Comma | TokenKind::Semicolon => of_mark(view, token, kind),
        TokenKind::If
        | TokenKind::For
        | TokenKind::Foreach
        | TokenKind::While
        | TokenKind::Switch
        | TokenKind::Catch
        | TokenKind::Lock
        | TokenKind::Else
        | TokenKind::Finally
        | TokenKind::Try
        | TokenKind::Do
        | TokenKind::Return
        | TokenKind::Throw
        | TokenKind::Case => of_word(view, token, kind),
        _ => of_operator(view, token, kind),
    }
}

fn of_bracket(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    let owner = view.owner(token);
    let (next, previous) = (|| view.next_significant(token), || view.previous_significant(token));
    let (before, after) = match kind {
        TokenKind::ParenOpen => (before_paren(owner), unless(round(owner), next() == TokenKind::ParenClose)),
        TokenKind::ParenClose => {
            (unless(round(owner), matches!(previous(), TokenKind::ParenOpen | TokenKind::Semicolon)), Want::Any)
        }
        TokenKind::BracketOpen if owner.kind() == Kind::Subscript => {
            (Want::Before(Brackets::Square), Want::Inside(Brackets::Square))
        }
        TokenKind::BracketClose if owner.kind() == Kind::Subscript => (Want::Inside(Brackets::Square), Want::Any),
        TokenKind::BraceOpen => {
            let (before, inside) = brace(owner);
            // A block that begins an object's own class: `new Desk() {{ open(); }}`.
            (before, unless(inside, matches!(next(), TokenKind::BraceClose | TokenKind::BraceOpen)))
        }
        TokenKind::BraceClose => {
            let (_, inside) = brace(owner);
            (unless(inside, matches!(previous(), TokenKind::BraceOpen | TokenKind::BraceClose)), Want::Any)
        }
        _ => return None,
    };
    Wants::new(SpacingKind::Bracket, before, after)
}

/// What parentheses want before them: those of calls and of what is declared, what the file has there.
fn before_paren(owner: NodeRef<'_>) -> Want {
    let holder = || owner.parent().map(NodeRef::kind);
    let is_head = match owner.kind() {
        Kind::Arguments => matches!(holder(), Some(Kind::Call | Kind::New | Kind::EnumMember)),
        Kind::Parameters => matches!(holder(), Some(Kind::Function)),
        _ => false,
    };
    if is_head { Want::Before(Brackets::Round) } else { Want::Any }
}

/// What both parentheses of a pair want inside.
fn round(owner: NodeRef<'_>) -> Want {
    unless(Want::Inside(Brackets::Round), owner.kind() == Kind::For)
}

/// What a brace wants before it, and what both of a pair want inside.
fn brace(owner: NodeRef<'_>) -> (Want, Want) {
    match owner.kind() {
        Kind::Block => {
            let holder = owner.parent().map(NodeRef::kind);
            let begins_alone = matches!(holder, Some(Kind::File | Kind::Block | Kind::Case | Kind::StaticBlock) | None);
            (unless(Want::One, begins_alone), Want::Inside(Brackets::Block))
        }
        Kind::Match => (Want::One, Want::Any),
        Kind::List => (Want::Any, Want::Inside(Brackets::Curly)),
        _ => (Want::Any, Want::Any),
    }
}

fn of_mark(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    let (next, previous) = (view.next_significant(token), view.previous_significant(token));
    let (before, after) = if kind == TokenKind::Comma {
        // Dimensions of arrays and parameters of types may be left out, and a list may end with a comma. Parameters of types are
        // written closely by many: `Map<K,V>`.
        let is_open = previous.opens() || matches!(previous, TokenKind::Comma | TokenKind::Less);
        let is_free = next.closes()
            || matches!(next, TokenKind::Comma | TokenKind::Greater)
            || matches!(view.owner(token).kind(), Kind::TypeArguments | Kind::TypeParameters);
        (unless(Want::None, is_open), unless(Want::One, is_free || is_open))
    } else {
        let is_alone = view.owner(token).kind() == Kind::Pass
            || matches!(previous, TokenKind::Semicolon | TokenKind::ParenOpen)
            || begins_line(view.file, view.file.tree.token_start(token));
        let is_tight = matches!(next, TokenKind::Semicolon | TokenKind::ParenClose);
        (unless(Want::None, is_alone), unless(Want::One, is_tight || is_alone))
    };
    Wants::new(SpacingKind::Comma, before, after)
}

fn of_word(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    let owner = view.owner(token).kind();
    let (before, after) = match kind {
        TokenKind::Else | TokenKind::Finally | TokenKind::Try | TokenKind::Do => {
            if !matches!(owner, Kind::If | Kind::Try | Kind::DoWhile) {
                return None;
            }
            (after_block(view, token), Want::One)
        }
        TokenKind::Return | TokenKind::Throw | TokenKind::Case => {
            if !matches!(owner, Kind::Return | Kind::Throw | Kind::Case) {
                return None;
            }
            let is_whole = view.next_significant(token) == TokenKind::Semicolon;
            (Want::Any, unless(Want::One, is_whole))
        }
        _ => {
            let is_word = matches!(
                owner,
                Kind::If | Kind::For | Kind::While | Kind::DoWhile | Kind::Match | Kind::Catch | Kind::With
            );
            if !is_word || view.next_significant(token) != TokenKind::ParenOpen {
                return None;
            }
            (after_block(view, token), Want::One)
        }
    };
    Wants::new(SpacingKind::Keyword, before, after)
}

/// What a word wants before it that goes on from a block.
fn after_block(view: &View<'_>, token: TokenId) -> Want {
    unless(Want::One, view.previous_significant(token) != TokenKind::BraceClose)
}

fn of_operator(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    use SpacingKind::{Bracket, Colon, Keyword, Operator};
    let owner = view.owner(token);
    let around = Wants::new(Operator, Want::One, Want::One);
    match (kind, owner.kind()) {
        (TokenKind::Assign, _) => around.filter(|_| !is_in_decorator(owner)),
        (TokenKind::QuestionQuestionAssign, _) => around,
        (_, Kind::CompoundAssignment) if kind.is_compound_assignment() => around,
        (
            TokenKind::Equal
            | TokenKind::NotEqual
            | TokenKind::LessEqual
            | TokenKind::GreaterEqual
            | TokenKind::Less
            | TokenKind::Greater,
            Kind::Comparison,
        )
        | (TokenKind::AndAnd | TokenKind::BarBar | TokenKind::QuestionQuestion, Kind::Logical)
        | (TokenKind::Question | TokenKind::Colon, Kind::Conditional)
        | (TokenKind::FatArrow, _)
        | (TokenKind::Arrow, Kind::Lambda | Kind::Case) => around,
        (TokenKind::Instanceof | TokenKind::Is, Kind::Comparison) => Wants::new(Keyword, Want::One, Want::One),
        (TokenKind::Colon, Kind::For | Kind::Heritage | Kind::WhereClause) => around,
        (TokenKind::Colon, Kind::Case | Kind::KeywordArgument) => Wants::new(Colon, Want::None, Want::Any),
        (TokenKind::Less, Kind::TypeArguments | Kind::TypeParameters) => Wants::new(Bracket, Want::Any, Want::None),
        (TokenKind::Greater, Kind::TypeArguments | Kind::TypeParameters) => Wants::new(Bracket, Want::None, Want::Any),
        (TokenKind::Dot | TokenKind::QuestionDot | TokenKind::ColonColon, Kind::Member | Kind::Path) => {
            Wants::new(Operator, Want::None, Want::None)
        }
        (_, Kind::Binary) if is_arithmetic(kind) => Wants::new(Operator, view.arithmetic, view.arithmetic),
        _ => None,
    }
}

/// Whether something is given to an annotation or an attribute by its name, which many write without spaces.
fn is_in_decorator(owner: NodeRef<'_>) -> bool {
    let arguments = owner.parent().filter(|around| around.kind() == Kind::Arguments);
    owner.role() == Role::Argument
        && arguments.and_then(NodeRef::parent).is_some_and(|holder| holder.kind() == Kind::Decorator)
}
