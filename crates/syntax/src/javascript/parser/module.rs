//! "Modules": imports and exports, and the forms that types add to them.

use super::{Front, class, declaration, expression, function, name, object, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `ImportDeclaration`, `import x = …`
pub(super) fn import_declaration(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.own.found_module();
    parser.bump();
    if parser.at(TokenKind::String) {
        parser.leaf(Kind::String, Role::Module);
        return attributes_and_end(parser, mark, Kind::Import);
    }
    eat_phase(parser);
    if name::is_identifier(parser.kind()) {
        let item = parser.open();
        name::binding_identifier(parser, Role::Name)?;
        if parser.has_types() && parser.at(TokenKind::Assign) {
            return import_assignment(parser, mark);
        }
        parser.close_as(item, Kind::ImportDefault, Role::Item);
        if parser.eat(TokenKind::Comma) {
            namespace_or_named(parser)?;
        }
    } else {
        namespace_or_named(parser)?;
    }
    from_clause(parser)?;
    attributes_and_end(parser, mark, Kind::Import)
}

/// `type`, `defer` or `source` before what is imported, unless it is the name of that itself.
fn eat_phase(parser: &mut Front) {
    if !parser.at(TokenKind::Name) {
        return;
    }
    let (next, kind) = parser.next_token();
    let fits = match parser.text() {
        "type" if parser.has_types() => match kind {
            TokenKind::BraceOpen | TokenKind::Star => true,
            // `import type from "m"` imports something called `type`, `import type from from "m"` a type called `from`.
            TokenKind::Name if parser.token_text(next) == "from" => {
                let (behind, kind) = parser.token_after(next);
                kind == TokenKind::Assign || kind == TokenKind::Name && parser.token_text(behind) == "from"
            }
            TokenKind::Name => true,
            _ => false,
        },
        "defer" => kind == TokenKind::Star,
        "source" => kind == TokenKind::Name && parser.token_text(next) != "from",
        _ => false,
    };
    if fits {
        parser.bump();
    }
}

/// `NameSpaceImport`, `NamedImports`
fn namespace_or_named(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Star) {
        let item = parser.open();
        parser.bump();
        if !parser.eat_word("as") {
            return parser.stop_expecting("'as'");
        }
        name::binding_identifier(parser, Role::Alias)?;
        parser.close_as(item, Kind::ImportAll, Role::Item);
        return Ok(());
    }
    named_list(parser, Kind::ImportItem)
}

/// `{ ImportsList }`, `{ ExportsList }`
fn named_list(parser: &mut Front, kind: Kind) -> Parsed {
    if !parser.at(TokenKind::BraceOpen) {
        return parser.stop_expecting(if kind == Kind::ImportItem { "what to import" } else { "what to export" });
    }
    parser.bump();
    parser.list(TokenKind::BraceClose, |parser| specifier(parser, kind))
}

/// `ImportSpecifier`, `ExportSpecifier`
fn specifier(parser: &mut Front, kind: Kind) -> Parsed {
    let mark = parser.open();
    if parser.has_types() && is_type_mark(parser) {
        parser.bump();
    }
    let reserved = name::is_reserved(parser.kind()) || parser.at(TokenKind::String);
    if kind == Kind::ImportItem && parser.next_word().1 != "as" {
        name::refuse_strict_word(parser);
    }
    module_export_name(parser, Role::Name)?;
    if parser.eat_word("as") {
        match kind {
            Kind::ImportItem => name::binding_identifier(parser, Role::Alias)?,
            _ => module_export_name(parser, Role::Alias)?,
        }
    } else if reserved && kind == Kind::ImportItem {
        return parser.stop_expecting("'as' and a name");
    }
    parser.close_as(mark, kind, Role::Item);
    Ok(())
}

/// Whether `type` is before the name of a type: `type x`, `type as as y`, but not `type as x`.
fn is_type_mark(parser: &mut Front) -> bool {
    if !parser.at_word("type") {
        return false;
    }
    let (next, kind) = parser.next_token();
    if kind != TokenKind::Name || parser.token_text(next) != "as" {
        return name::is_word(kind) || kind == TokenKind::String;
    }
    let (second, kind) = parser.token_after(next);
    match kind {
        TokenKind::Name if parser.token_text(second) == "as" => name::is_word(parser.token_after(second).1),
        _ => !name::is_word(kind),
    }
}

/// `ModuleExportName : IdentifierName | StringLiteral`
fn module_export_name(parser: &mut Front, role: Role) -> Parsed {
    if parser.at(TokenKind::String) {
        parser.leaf(Kind::String, role);
        return Ok(());
    }
    name::any_word(parser, Kind::Name, role)
}

/// `FromClause : from ModuleSpecifier`
fn from_clause(parser: &mut Front) -> Parsed {
    if !parser.eat_word("from") {
        return parser.stop_expecting("'from'");
    }
    module_specifier(parser)
}

fn module_specifier(parser: &mut Front) -> Parsed {
    if !parser.at(TokenKind::String) {
        return parser.stop_expecting("the name of a module in quotes");
    }
    parser.leaf(Kind::String, Role::Module);
    Ok(())
}

/// `WithClause`, and the end of the statement.
fn attributes_and_end(parser: &mut Front, mark: Mark, kind: Kind) -> Parsed {
    let old_word = parser.at_word("assert") && !parser.at_new_line();
    if parser.at(TokenKind::With) || old_word {
        parser.bump();
        if !parser.at(TokenKind::BraceOpen) {
            return parser.stop_expecting("'{'");
        }
        object::object_literal(parser)?;
        parser.role(Role::Argument);
    }
    parser.semicolon()?;
    parser.close(mark, kind);
    Ok(())
}

/// `import x = require("m")`, `import x = A.B`, after the name.
fn import_assignment(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    if parser.at_word("require") && parser.next_kind() == TokenKind::ParenOpen {
        super::chain::left_hand_side(parser)?;
    } else {
        types::primary::entity_name(parser)?;
    }
    parser.role(Role::Value);
    parser.semicolon()?;
    parser.close(mark, Kind::ImportAssignment);
    Ok(())
}

/// `ExportDeclaration`
pub(super) fn export_declaration(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    export_from(parser, mark)
}

/// An export whose decorators, if it has any, were taken since `mark`.
pub(super) fn export_from(parser: &mut Front, mark: Mark) -> Parsed {
    parser.own.found_module();
    parser.bump();
    let typed = parser.has_types();
    match parser.kind() {
        TokenKind::Default => return default_export(parser, mark),
        TokenKind::Star => return export_all(parser, mark),
        TokenKind::BraceOpen => return export_named(parser, mark),
        TokenKind::Name if typed && parser.text() == "type" => match parser.next_kind() {
            TokenKind::BraceOpen => {
                parser.bump();
                return export_named(parser, mark);
            }
            TokenKind::Star => {
                parser.bump();
                return export_all(parser, mark);
            }
            _ => {}
        },
        TokenKind::Assign if typed => {
            parser.bump();
            expression::expression(parser)?;
            parser.role(Role::Value);
            parser.semicolon()?;
            parser.close(mark, Kind::Export);
            return Ok(());
        }
        // `export as namespace Quays;`
        TokenKind::Name if typed && parser.text() == "as" && parser.next_word().1 == "namespace" => {
            parser.bump();
            parser.bump();
            name::binding_identifier(parser, Role::Name)?;
            parser.semicolon()?;
            parser.close(mark, Kind::Export);
            return Ok(());
        }
        TokenKind::Import if typed => {
            import_declaration(parser)?;
            parser.role(Role::Value);
            parser.close(mark, Kind::Export);
            return Ok(());
        }
        _ => {}
    }
    exported_declaration(parser)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::Export);
    Ok(())
}

/// `VariableStatement`, `Declaration`
fn exported_declaration(parser: &mut Front) -> Parsed {
    let is_async_function = parser.at_word("async") && function::follows_async(parser);
    match parser.kind() {
        TokenKind::Const if parser.has_types() && parser.next_kind() == TokenKind::Enum => {
            types::declaration::enumeration(parser)
        }
        TokenKind::Var | TokenKind::Const => declaration::variable_statement(parser),
        TokenKind::Enum if parser.has_types() => types::declaration::enumeration(parser),
        TokenKind::FunctionWord => function::declaration(parser),
        TokenKind::Class => class::declaration(parser),
        TokenKind::At => class::decorated(parser),
        TokenKind::Name if is_async_function => function::declaration(parser),
        TokenKind::Name if parser.text() == "let" => declaration::variable_statement(parser),
        TokenKind::Name if parser.has_types() && types::declaration::begins(parser) => {
            types::declaration::declaration(parser)
        }
        _ => parser.stop_expecting("a declaration"),
    }
}

/// `export default …`
fn default_export(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    let is_async_function = parser.at_word("async") && function::follows_async(parser);
    let interface = parser.has_types() && parser.at_word("interface") && types::declaration::begins(parser);
    let abstract_class = parser.has_types() && parser.at_word("abstract") && parser.next_kind() == TokenKind::Class;
    match parser.kind() {
        TokenKind::FunctionWord => function::declaration_without_name(parser)?,
        TokenKind::Name if is_async_function => function::declaration_without_name(parser)?,
        TokenKind::Class => class::declaration_without_name(parser)?,
        TokenKind::At => class::decorated(parser)?,
        TokenKind::Name if interface || abstract_class => types::declaration::declaration(parser)?,
        _ => {
            expression::assignment_expression(parser)?;
            parser.role(Role::Value);
            parser.semicolon()?;
        }
    }
    parser.role(Role::Value);
    parser.close(mark, Kind::Export);
    Ok(())
}

/// `export * from "m"`, `export * as quays from "m"`
fn export_all(parser: &mut Front, mark: Mark) -> Parsed {
    let item = parser.open();
    parser.bump();
    if parser.eat_word("as") {
        module_export_name(parser, Role::Alias)?;
    }
    parser.close_as(item, Kind::ExportAll, Role::Item);
    from_clause(parser)?;
    attributes_and_end(parser, mark, Kind::Export)
}

/// `export { … }`, `export { … } from "m"`
fn export_named(parser: &mut Front, mark: Mark) -> Parsed {
    let list = parser.position();
    named_list(parser, Kind::ExportItem)?;
    if parser.eat_word("from") {
        module_specifier(parser)?;
        return attributes_and_end(parser, mark, Kind::Export);
    }
    if let Some(token) = names_nothing_here(parser, list) {
        let span = parser.token_span(token);
        parser.early_fault(span, Problem::Rule("only a name of this file can be exported from it"));
    }
    parser.semicolon()?;
    parser.close(mark, Kind::Export);
    Ok(())
}

/// A reserved word or a text in the place of a name of this file, in the list that begins at a token.
fn names_nothing_here(parser: &Front, list: u32) -> Option<u32> {
    let mut begins = true;
    for token in list + 1..parser.taken_end() {
        let kind = parser.kind_of(token);
        if kind.is_trivia() {
            continue;
        }
        if begins && (name::is_reserved(kind) || kind == TokenKind::String) {
            return Some(token);
        }
        begins = kind == TokenKind::Comma;
    }
    None
}
