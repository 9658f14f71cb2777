//! "Class Definitions", with the modifiers, fields and signatures that types add to them.

use super::function::{self, Sort};
use super::{Front, chain, expression, module, name, statement, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// Words before a member that say something of it.
const MODIFIERS: &[&str] = &["static", "async", "get", "set", "accessor"];

/// Words before a member that only types know.
const TYPED_MODIFIERS: &[&str] =
    &["public", "private", "protected", "readonly", "abstract", "override", "declare", "in", "out"];

/// `ClassDeclaration`
pub(super) fn declaration(parser: &mut Front) -> Parsed {
    let named = parser.next_kind() == TokenKind::Name;
    if !named && !parser.has_types() {
        parser.bump();
        return parser.stop_expecting("a name");
    }
    declaration_without_name(parser)
}

/// The same where it is exported as the default, without need of a name.
pub(super) fn declaration_without_name(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    rest(parser, mark, Kind::Class)
}

/// `ClassExpression`
pub(super) fn class_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    while parser.at(TokenKind::At) {
        decorator(parser)?;
    }
    rest(parser, mark, Kind::ClassExpression)
}

/// A class, or the export of one, after decorators.
pub(super) fn decorated(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    while parser.at(TokenKind::At) {
        decorator(parser)?;
    }
    if parser.at(TokenKind::Export) {
        return module::export_from(parser, mark);
    }
    opt_class_modifiers(parser);
    if !parser.at(TokenKind::Class) {
        return parser.stop_expecting("a class");
    }
    rest(parser, mark, Kind::Class)
}

/// `abstract` and `declare` before a class.
pub(super) fn opt_class_modifiers(parser: &mut Front) {
    while parser.has_types() && (parser.at_word("abstract") || parser.at_word("declare")) {
        parser.bump();
    }
}

/// From `class` on, decorators and modifiers being taken since `mark`.
pub(super) fn rest(parser: &mut Front, mark: Mark, kind: Kind) -> Parsed {
    parser.expect(TokenKind::Class)?;
    if name::is_identifier(parser.kind()) && !is_implements_clause(parser) {
        parser.leaf(Kind::Name, Role::Name);
    }
    types::opt_type_parameters(parser)?;
    let derived = parser.at(TokenKind::Extends);
    heritage(parser)?;
    let body = parser.open();
    parser.expect(TokenKind::BraceOpen)?;
    let inside = |context: &mut super::Context| {
        context.in_class = true;
        context.in_derived_class = derived;
    };
    parser.within(inside, |parser| {
        while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
            element(parser);
        }
        Ok(())
    })?;
    parser.expect(TokenKind::BraceClose)?;
    parser.close_as(body, Kind::Block, Role::Body);
    parser.close(mark, kind);
    Ok(())
}

/// `implements` is a name as well: it is the word where a type follows.
fn is_implements_clause(parser: &mut Front) -> bool {
    parser.has_types() && parser.at_word("implements") && name::is_word(parser.next_kind())
}

/// `ClassHeritage : extends LeftHandSideExpression`, and the types that the class implements.
fn heritage(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let mut any = false;
    loop {
        if parser.eat(TokenKind::Extends) {
            any = true;
            base(parser)?;
            while parser.has_types() && parser.eat(TokenKind::Comma) {
                base(parser)?;
            }
        } else if parser.has_types() && parser.at_word("implements") {
            any = true;
            parser.bump();
            types::heritage_types(parser)?;
        } else {
            break;
        }
    }
    if any {
        parser.close_as(mark, Kind::Heritage, Role::Arguments);
    }
    Ok(())
}

/// What a class extends. A brace after its type arguments begins the class, not an object.
pub(super) fn base(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    chain::left_hand_side(parser)?;
    parser.role(Role::Value);
    if parser.has_types() && matches!(parser.kind(), TokenKind::Less | TokenKind::ShiftLeft) {
        types::arguments::type_arguments(parser)?;
        parser.close_as(mark, Kind::Instantiation, Role::Value);
    }
    Ok(())
}

/// `Decorator : @ LeftHandSideExpression`
pub(super) fn decorator(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    chain::left_hand_side(parser)?;
    parser.role(Role::Value);
    parser.close_as(mark, Kind::Decorator, Role::Decorator);
    Ok(())
}

/// `ClassElement`. Never stops.
fn element(parser: &mut Front) {
    if parser.eat(TokenKind::Semicolon) {
        return;
    }
    let mark = parser.open();
    let before = parser.fault_count();
    if member(parser).is_err() || parser.position() == mark.token() {
        statement::recover(parser, mark, before);
    }
    parser.role(Role::Statement);
}

fn member(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    while parser.at(TokenKind::At) {
        decorator(parser)?;
    }
    if parser.at_word("static") && parser.next_kind() == TokenKind::BraceOpen {
        return static_block(parser, mark);
    }
    let modifiers = modifiers(parser)?;
    let is_generator = parser.eat(TokenKind::Star);
    if parser.has_types() && types::member::at_index_signature(parser) {
        return types::member::index_signature(parser, mark);
    }
    let constructor = matches!(parser.text(), "constructor" | "'constructor'" | "\"constructor\"");
    name::property_name(parser, Kind::Name, Role::Name)?;
    if parser.has_types() && matches!(parser.kind(), TokenKind::Question | TokenKind::Exclamation) {
        parser.bump();
    }
    if is_generator || matches!(parser.kind(), TokenKind::ParenOpen | TokenKind::Less) {
        let is_derived_constructor = constructor && parser.context().in_derived_class && !modifiers.is_static;
        let sort = Sort { is_async: modifiers.is_async, is_generator, is_method: true, is_derived_constructor };
        function::signature_and_body(parser, sort)?;
        parser.close(mark, Kind::Function);
        return Ok(());
    }
    if modifiers.is_async || modifiers.is_accessor {
        return parser.stop_expecting("the parameters of a method");
    }
    field(parser, mark)
}

/// `FieldDefinition : ClassElementName Initializer?`
fn field(parser: &mut Front, mark: Mark) -> Parsed {
    types::opt_annotation(parser)?;
    if parser.eat(TokenKind::Assign) {
        let inside = |context: &mut super::Context| Sort { is_method: true, ..Sort::default() }.enter(context);
        parser.within(inside, expression::expression)?;
        parser.role(Role::Value);
    }
    parser.semicolon()?;
    parser.close(mark, Kind::Field);
    Ok(())
}

/// `ClassStaticBlock : static { ClassStaticBlockBody }`
fn static_block(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    let inside = |context: &mut super::Context| Sort { is_method: true, ..Sort::default() }.enter(context);
    parser.within(inside, function::body)?;
    parser.close(mark, Kind::StaticBlock);
    Ok(())
}

/// What the words before a member say that matters to the grammar.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct Modifiers {
    pub(super) is_async: bool,
    /// `get` or `set`.
    pub(super) is_accessor: bool,
    pub(super) is_static: bool,
}

/// Takes the words before a member's name.
fn modifiers(parser: &mut Front) -> Result<Modifiers, crate::parse::Stop> {
    let mut found = Modifiers::default();
    while matches!(parser.kind(), TokenKind::Name | TokenKind::Const | TokenKind::Export | TokenKind::In)
        && is_modifier(parser)
    {
        match parser.text() {
            "async" => found.is_async = true,
            "get" | "set" => found.is_accessor = true,
            "static" => found.is_static = true,
            _ => {}
        }
        parser.bump();
    }
    if found.is_async && found.is_accessor && !parser.has_types() {
        parser.stop(Problem::Rule("an accessor cannot be asynchronous"))?;
    }
    Ok(found)
}

/// Whether the current word says something of the member whose name follows.
pub(super) fn is_modifier(parser: &mut Front) -> bool {
    let word = parser.text();
    let typed = parser.has_types() && (TYPED_MODIFIERS.contains(&word) || matches!(word, "const" | "export"));
    if !MODIFIERS.contains(&word) && !typed {
        return false;
    }
    let next = parser.next_kind();
    let named = name::begins_property_name(next) || next == TokenKind::Star && !matches!(word, "get" | "set");
    let may_break = matches!(word, "static" | "get" | "set");
    named && (may_break || !parser.next_is_on_new_line())
}

/// `public`, `readonly` and their like before a parameter, which make a field of it.
pub(super) fn parameter_modifiers(parser: &mut Front) {
    while parser.at(TokenKind::Name)
        && matches!(
            parser.text(),
            "public" | "private" | "protected" | "readonly" | "override" | "declare" | "abstract"
        )
        && matches!(
            parser.next_kind(),
            TokenKind::Name | TokenKind::BraceOpen | TokenKind::BracketOpen | TokenKind::Ellipsis | TokenKind::This
        )
        && !parser.next_is_on_new_line()
    {
        parser.bump();
    }
}
