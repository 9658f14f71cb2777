//! The shape of the tree for each construct: kinds, roles and their nesting.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::NodeRef;

use crate::shape::assert_sound;

/// A node as `role:kind(children)`; leaves with their text.
fn shape(text: &Text, node: NodeRef<'_>) -> String {
    let inner: Vec<String> = node.children().map(|child| shape(text, child)).collect();
    let own = format!("{}:{}", node.role(), node.kind());
    if inner.is_empty() {
        format!("{own} {}", text.slice(node.span())).trim().to_string()
    } else {
        format!("{own}({})", inner.join(", "))
    }
}

#[track_caller]
fn assert_shape(source: &str, expected: &str) {
    let text = Text::new(source.to_string());
    let tree = Language::Python.parse(&text);
    assert!(tree.faults().is_empty(), "{source}: {}", tree.faults()[0].problem);
    assert_sound(&tree, source);
    let statements: Vec<String> = tree.root().children().map(|child| shape(&text, child)).collect();
    assert_eq!(statements.join("; "), expected, "{source}");
}

#[test]
fn operators_bind_by_their_precedence() {
    assert_shape(
        "a + b * -c ** d",
        "statement:expression-statement(value:binary(left:name a, right:binary(left:name b, \
         right:unary(operand:binary(left:name c, right:name d)))))",
    );
    assert_shape(
        "not a < b is not c or d and e",
        "statement:expression-statement(value:logical(operand:unary(operand:comparison(operand:name a, operand:name b, \
         operand:name c)), operand:logical(operand:name d, operand:name e)))",
    );
    assert_shape(
        "a if b else c if d else e",
        "statement:expression-statement(value:conditional(value:name a, condition:name b, else:conditional(value:name c, condition:name d, else:name e)))",
    );
}

#[test]
fn calls_members_and_subscripts_nest_to_the_left() {
    assert_shape(
        "a.b(c, *d, e=f)[g:h, i]",
        "statement:expression-statement(value:subscript(object:call(callee:member(object:name a, name:name b), \
         arguments:arguments(argument:name c, argument:spread(value:name d), argument:keyword-argument(name:name e, value:name f))), \
         index:tuple(element:slice(lower:name g, upper:name h), element:name i)))",
    );
}

#[test]
fn targets_and_values_are_told_apart() {
    assert_shape(
        "a, (b, *c) = d = e",
        "statement:assignment(target:tuple(element:name a, element:tuple(element:name b, element:spread(value:name c))), target:name d, value:name e)",
    );
    assert_shape("a: b = c", "statement:annotated-assignment(target:name a, type:name b, value:name c)");
    assert_shape("a += yield b", "statement:compound-assignment(target:name a, value:yield(value:name b))");
}

#[test]
fn chains_of_conditions_nest_in_else() {
    assert_shape(
        "if a: b\nelif c: d\nelse: e",
        "statement:if(condition:name a, body:block(statement:expression-statement(value:name b)), else:if(condition:name c, \
         body:block(statement:expression-statement(value:name d)), else:block(statement:expression-statement(value:name e))))",
    );
}

#[test]
fn functions_have_all_their_parts() {
    assert_shape(
        "@a\nasync def b[T](c, /, d: e = f, *, g) -> h: pass",
        "statement:function(decorator:decorator(value:name a), name:name b, type-parameters:type-parameters(parameter:type-parameter(name:name T)), \
         parameters:parameters(parameter:parameter(name:name c), parameter:parameter /, parameter:parameter(name:name d, type:name e, default:name f), \
         parameter:parameter *, parameter:parameter(name:name g)), returns:name h, body:block(statement:pass pass))",
    );
    assert_shape(
        "class A(B): pass",
        "statement:class(name:name A, arguments:arguments(argument:name B), body:block(statement:pass pass))",
    );
}

#[test]
fn handlers_and_managed_resources() {
    assert_shape(
        "try: a\nexcept B as c: d\nelse: e\nfinally: f",
        "statement:try(body:block(statement:expression-statement(value:name a)), handler:catch(exception:name B, name:name c, \
         body:block(statement:expression-statement(value:name d))), else:block(statement:expression-statement(value:name e)), \
         finally:block(statement:expression-statement(value:name f)))",
    );
    assert_shape(
        "with (a as b, c): pass",
        "statement:with(item:with-item(value:name a, target:name b), item:with-item(value:name c), body:block(statement:pass pass))",
    );
    assert_shape(
        "with (a), b: pass",
        "statement:with(item:with-item(value:group(value:name a)), item:with-item(value:name b), body:block(statement:pass pass))",
    );
    assert_shape(
        "with (a, b) as c: pass",
        "statement:with(item:with-item(value:tuple(element:name a, element:name b), target:name c), body:block(statement:pass pass))",
    );
}

#[test]
fn format_strings_hold_expressions_at_any_depth() {
    assert_shape(
        "f'a{b!r:>{c}}' 'd'",
        "statement:expression-statement(value:concatenation(part:format-string(part:interpolation(value:name b, conversion:conversion !r, \
         format:format-spec(part:interpolation(value:name c)))), part:string 'd'))",
    );
    assert_shape("t'{a}'", "statement:expression-statement(value:template-string(part:interpolation(value:name a)))");
    assert_shape(
        "f'{f\"{f'{1}'}\"}'",
        "statement:expression-statement(value:format-string(part:interpolation(value:format-string(part:interpolation(value:format-string(part:interpolation(value:number 1)))))))",
    );
}

#[test]
fn soft_keywords_are_names_where_they_mean_nothing() {
    for source in [
        "match = 1",
        "match(x)",
        "match[x]: int",
        "type = 2",
        "type(x)",
        "case = match * type",
        "print(match, case, type, _)",
    ] {
        let text = Text::new(source.to_string());
        assert!(Language::Python.parse(&text).faults().is_empty(), "{source}");
    }
    assert_shape("type A = b", "statement:type-alias(name:name A, value:name b)");
    assert_shape(
        "match a:\n  case b.c: d",
        "statement:match(subject:name a, case:case(pattern:value-pattern(value:member(object:name b, name:name c)), body:block(statement:expression-statement(value:name d))))",
    );
}

#[test]
fn imports_name_modules_items_and_aliases() {
    assert_shape(
        "import a.b as c, d",
        "statement:import(item:import-item(module:module-name a.b, alias:name c), item:import-item(module:module-name d))",
    );
    assert_shape(
        "from ..a import (b as c, d,)",
        "statement:import(module:module-name ..a, item:import-item(name:name b, alias:name c), item:import-item(name:name d))",
    );
    assert_shape("from . import *", "statement:import(module:module-name ., item:import-all *)");
}

#[test]
fn comprehensions_have_elements_and_clauses() {
    assert_shape(
        "{a: b for c, d in e if f async for g in h}",
        "statement:expression-statement(value:comprehension(element:pair(key:name a, value:name b), \
         clause:comprehension-clause(target:tuple(element:name c, element:name d), iterable:name e, condition:name f), \
         clause:comprehension-clause(target:name g, iterable:name h)))",
    );
}

#[test]
fn what_follows_a_mistake_is_understood() {
    let text = Text::new("def a() b:\n    b = 1\n\ndef c():\n    return 2\n".to_string());
    let tree = Language::Python.parse(&text);
    let statements: Vec<String> = tree.root().children().map(|child| child.kind().to_string()).collect();
    assert_eq!(statements, ["error", "function"]);
    assert!(
        tree.nodes().any(|node| node.kind().name() == "assignment"),
        "the block below the mistake is understood too"
    );
}
