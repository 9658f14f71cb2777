//! "Declarations and scope", "Import declarations".

use super::expression::{Braces, expression_list};
use super::parameters::{self, parameters, result};
use super::types::{array_of, begins_type, type_of};
use super::{block, end_of_statement, name};
use crate::go::string_value;
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `TopLevelDecl = Declaration | FunctionDecl | MethodDecl`
pub(super) fn top_level_declaration(parser: &mut Parser) -> Parsed {
    match parser.kind() {
        TokenKind::Func => function(parser),
        TokenKind::Const | TokenKind::Var | TokenKind::TypeWord => declaration(parser),
        TokenKind::Import => parser.stop(Problem::Rule("imports come before all other declarations")),
        _ => parser.stop_expecting("a declaration"),
    }
}

/// `Declaration = ConstDecl | TypeDecl | VarDecl`
pub(super) fn declaration(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let spec: Spec = match parser.kind() {
        TokenKind::Const => constant,
        TokenKind::Var => |parser, _| value_spec(parser, Needs::Something),
        _ => |parser, _| type_spec(parser),
    };
    parser.bump();
    specs(parser, spec)?;
    parser.close(mark, Kind::Declaration);
    Ok(())
}

/// `ImportDecl = "import" ( ImportSpec | "(" { ImportSpec ";" } ")" )`
pub(super) fn import_declaration(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    specs(parser, |parser, _| import_spec(parser))?;
    parser.close(mark, Kind::Import);
    Ok(())
}

/// What is declared, by its place among several in parentheses.
type Spec = fn(&mut Parser, usize) -> Parsed;

/// One declaration behind its word, or several in parentheses.
fn specs(parser: &mut Parser, spec: Spec) -> Parsed {
    if !parser.at(TokenKind::ParenOpen) {
        spec(parser, 0)?;
        parser.role(Role::Item);
        return Ok(());
    }
    let open = parser.token_span(parser.position());
    parser.bump();
    let mut index = 0;
    while !matches!(parser.kind(), TokenKind::ParenClose | TokenKind::EndOfFile) {
        spec(parser, index)?;
        parser.role(Role::Item);
        end_of_statement(parser)?;
        index += 1;
    }
    if !parser.eat(TokenKind::ParenClose) {
        parser.fault(open, Problem::Unclosed(TokenKind::ParenOpen));
    }
    Ok(())
}

/// `ImportSpec = [ "." | PackageName ] ImportPath`
fn import_spec(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    match parser.kind() {
        TokenKind::Name => parser.leaf(Kind::Name, Role::Alias),
        TokenKind::Dot => parser.leaf(Kind::ImportAll, Role::Alias),
        _ => {}
    }
    if !parser.at(TokenKind::String) {
        return parser.stop_expecting("the path of a package");
    }
    if !is_path(parser.text()) {
        return parser.stop(Problem::Rule("this is no path of a package"));
    }
    parser.leaf(Kind::String, Role::Module);
    parser.close(mark, Kind::ImportItem);
    Ok(())
}

/// "Import declarations": a path has no signs that some compilers take for others.
fn is_path(literal: &str) -> bool {
    string_value(literal).is_some_and(|path| {
        let is_odd = |letter: char| {
            letter.is_control() || letter.is_whitespace() || "!\"#$%&'()*,:;<=>?[\\]^{|}`\u{fffd}".contains(letter)
        };
        !path.is_empty() && !path.contains(is_odd)
    })
}

/// What must stand behind the names of a declaration.
#[derive(PartialEq, Eq)]
enum Needs {
    /// A type or a value.
    Something,
    /// A value.
    Value,
    /// A value, where a type is there.
    ValueWithType,
}

/// `ConstSpec = IdentifierList [ [ Type ] "=" ExpressionList ]`; all but the first may repeat the one before.
fn constant(parser: &mut Parser, index: usize) -> Parsed {
    value_spec(parser, if index == 0 { Needs::Value } else { Needs::ValueWithType })
}

/// `VarSpec = IdentifierList ( Type [ "=" ExpressionList ] | "=" ExpressionList )`
fn value_spec(parser: &mut Parser, needs: Needs) -> Parsed {
    let mark = parser.open();
    name(parser, Role::Target)?;
    while parser.eat(TokenKind::Comma) {
        name(parser, Role::Target)?;
    }
    let has_type = begins_type(parser.kind());
    if has_type {
        type_of(parser, Role::Type)?;
    }
    let has_value = parser.eat(TokenKind::Assign);
    if has_value {
        expression_list(parser, Role::Value, Braces::Literal)?;
    }
    parser.close(mark, if has_type { Kind::AnnotatedAssignment } else { Kind::Assignment });
    let lacks = match needs {
        Needs::Something => !has_type && !has_value,
        Needs::Value => !has_value,
        Needs::ValueWithType => has_type && !has_value,
    };
    if lacks {
        parser.fault_since(mark, Problem::Rule(if needs == Needs::Something { NO_TYPE } else { NO_VALUE }));
    }
    Ok(())
}

const NO_TYPE: &str = "a variable needs a type or a value";
const NO_VALUE: &str = "a constant needs a value";

/// `TypeSpec = AliasDecl | TypeDef`
fn type_spec(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    name(parser, Role::Name)?;
    if parser.at(TokenKind::BracketOpen) {
        if parameters::begins_type_parameters(parser) {
            parameters::type_parameters(parser)?;
        } else {
            array_of(parser, Role::Type, false)?;
            parser.close(mark, Kind::TypeDefinition);
            return Ok(());
        }
    }
    if parser.eat(TokenKind::Assign) {
        type_of(parser, Role::Value)?;
        parser.close(mark, Kind::TypeAlias);
    } else {
        type_of(parser, Role::Type)?;
        parser.close(mark, Kind::TypeDefinition);
    }
    Ok(())
}

/// `FunctionDecl = "func" FunctionName [ TypeParameters ] Signature [ FunctionBody ]`, `MethodDecl = "func" Receiver MethodName Signature
/// [ FunctionBody ]`
fn function(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let is_method = parser.at(TokenKind::ParenOpen);
    if is_method {
        parameters(parser, Role::Receiver)?;
    }
    name(parser, Role::Name)?;
    if parser.at(TokenKind::BracketOpen) {
        if is_method {
            return parser.stop(Problem::Rule("a method has no type parameters of its own"));
        }
        parameters::type_parameters(parser)?;
    }
    parameters(parser, Role::Parameters)?;
    result(parser)?;
    if parser.at(TokenKind::BraceOpen) {
        block(parser, Role::Body)?;
    }
    parser.close(mark, Kind::Function);
    Ok(())
}
