//! Names: of bindings, of members, and of private members.

use super::{Front, expression};
use crate::parse::Parsed;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// Whether a name that can be bound begins here: reserved words cannot.
#[inline]
pub(super) fn is_identifier(kind: TokenKind) -> bool {
    kind == TokenKind::Name
}

/// Whether a token is a name or a reserved word (`IdentifierName`).
pub(super) fn is_word(kind: TokenKind) -> bool {
    kind == TokenKind::Name || is_reserved(kind)
}

/// `ReservedWord`
pub(super) fn is_reserved(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::Break
            | TokenKind::Case
            | TokenKind::Catch
            | TokenKind::Class
            | TokenKind::Const
            | TokenKind::Continue
            | TokenKind::Debugger
            | TokenKind::Default
            | TokenKind::Delete
            | TokenKind::Do
            | TokenKind::Else
            | TokenKind::Enum
            | TokenKind::Export
            | TokenKind::Extends
            | TokenKind::FalseWord
            | TokenKind::Finally
            | TokenKind::For
            | TokenKind::FunctionWord
            | TokenKind::If
            | TokenKind::Import
            | TokenKind::In
            | TokenKind::Instanceof
            | TokenKind::New
            | TokenKind::NullWord
            | TokenKind::Return
            | TokenKind::Super
            | TokenKind::Switch
            | TokenKind::This
            | TokenKind::Throw
            | TokenKind::TrueWord
            | TokenKind::Try
            | TokenKind::Typeof
            | TokenKind::Var
            | TokenKind::Void
            | TokenKind::While
            | TokenKind::With
    )
}

/// `BindingIdentifier`
pub(super) fn binding_identifier(parser: &mut Front, role: Role) -> Parsed {
    if !is_identifier(parser.kind()) {
        return parser.stop_expecting("a name");
    }
    let context = parser.context();
    let taken = context.in_generator && parser.text() == "yield" || context.in_async && parser.text() == "await";
    if taken {
        let span = parser.token_span(parser.position());
        parser.early_fault(span, Problem::Rule("this word is an operator here and cannot be a name"));
    } else if parser.own.is_module {
        refuse_strict_word(parser);
    }
    parser.leaf(Kind::Name, role);
    Ok(())
}

/// Refuses a word that only strict code reserves ("Identifiers: Static Semantics").
pub(super) fn refuse_strict_word(parser: &mut Front) {
    let reserved = matches!(
        parser.text(),
        "await"
            | "let"
            | "static"
            | "yield"
            | "implements"
            | "interface"
            | "package"
            | "private"
            | "protected"
            | "public"
    );
    if reserved {
        let span = parser.token_span(parser.position());
        parser.early_fault(span, Problem::Rule("modules reserve this word"));
    }
}

/// `IdentifierName`: reserved words too.
pub(super) fn any_word(parser: &mut Front, kind: Kind, role: Role) -> Parsed {
    if !is_word(parser.kind()) {
        return parser.stop_expecting("a name");
    }
    parser.leaf(kind, role);
    Ok(())
}

/// Whether the name of a member can begin with a token.
pub(super) fn begins_property_name(kind: TokenKind) -> bool {
    is_word(kind)
        || matches!(kind, TokenKind::String | TokenKind::Number | TokenKind::BracketOpen | TokenKind::PrivateName)
}

/// `ClassElementName`, `PropertyName`; plain names become nodes of the kind `word`.
pub(super) fn property_name(parser: &mut Front, word: Kind, role: Role) -> Parsed {
    match parser.kind() {
        TokenKind::String => parser.leaf(Kind::String, role),
        TokenKind::Number => parser.leaf(Kind::Number, role),
        TokenKind::PrivateName => {
            if word == Kind::PropertyName {
                let span = parser.token_span(parser.position());
                parser.early_fault(span, Problem::Rule("only classes have private members"));
            }
            parser.leaf(Kind::PrivateName, role);
        }
        TokenKind::BracketOpen => {
            let mark = parser.open();
            parser.bump();
            parser.within(|context| context.no_in = false, expression::expression)?;
            parser.role(Role::Value);
            parser.expect(TokenKind::BracketClose)?;
            parser.close_as(mark, Kind::ComputedName, role);
        }
        kind if is_word(kind) => parser.leaf(word, role),
        _ => return parser.stop_expecting("the name of a member"),
    }
    Ok(())
}
