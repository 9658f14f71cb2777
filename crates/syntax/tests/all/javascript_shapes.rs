//! Sources of JavaScript and TypeScript and what they are made of.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use crate::shape::{assert_sound, shape};

fn parsed(language: Language, source: &str) -> Tree {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert_sound(&tree, source);
    tree
}

#[track_caller]
fn assert_shape(language: Language, source: &str, expected: &str) {
    let tree = parsed(language, source);
    assert!(tree.faults().is_empty(), "{source}: {}", tree.faults()[0].problem);
    let shapes: Vec<String> = tree.root().children().map(shape).collect();
    assert_eq!(shapes.join(" "), expected, "{source}");
}

#[track_caller]
fn js(source: &str, expected: &str) {
    assert_shape(Language::JavaScript, source, expected);
}

#[track_caller]
fn ts(source: &str, expected: &str) {
    assert_shape(Language::TypeScript, source, expected);
}

#[track_caller]
fn assert_refused(language: Language, source: &str, message: &str) {
    let tree = parsed(language, source);
    let found: Vec<String> = tree.faults().iter().map(|fault| fault.problem.to_string()).collect();
    assert_eq!(found, [message], "{source}");
}

#[test]
fn lines_end_statements_by_the_real_rules() {
    js("a\nb\n", "expression-statement(name) expression-statement(name)");
    js("a\n(b)\n", "expression-statement(call(name arguments(name)))");
    js("a\n++b\n", "expression-statement(name) expression-statement(update(name))");
    js("return\na\n", "return expression-statement(name)");
    js(
        "do a(); while (b) c()\n",
        "do-while(expression-statement(call(name arguments)) name) expression-statement(call(name arguments))",
    );
    js("let x = a\n/b/g\n", "declaration(assignment(name binary(binary(name name) name)))");
    js("x = y /* \n */ ++z\n", "expression-statement(assignment(name name)) expression-statement(update(name))");
    assert_refused(Language::JavaScript, "a b\n", "expected ';' or a new line, found a name");
}

#[test]
fn modules_are_asked_for_where_a_statement_is() {
    js(
        "if (a) import(b); else c()",
        "if(name expression-statement(import-call(arguments(name))) expression-statement(call(name arguments)))",
    );
    assert_refused(Language::JavaScript, "if (a) import b from 'c'\n", "expected a statement, found 'import'");
}

#[test]
fn slashes_divide_or_begin_regular_expressions() {
    js("a = b / c / d", "expression-statement(assignment(name binary(binary(name name) name)))");
    js("a = /b/ / /c/", "expression-statement(assignment(name binary(regular-expression regular-expression)))");
    js("if (a) /b/.test(c)", "if(name expression-statement(call(member(regular-expression name) arguments(name))))");
    js("x = {} / 2", "expression-statement(assignment(name binary(dictionary number)))");
    js("{} /2/.y", "block expression-statement(member(regular-expression name))");
    js("`${a}/${/}`/}`", "expression-statement(format-string(interpolation(name) interpolation(regular-expression)))");
}

#[test]
fn parentheses_become_parameters_before_an_arrow() {
    js("(a, b) => a", "expression-statement(lambda(parameters(parameter(name) parameter(name)) name))");
    js("(a, b)", "expression-statement(group(sequence(name name)))");
    js("async (a) => await a", "expression-statement(lambda(parameters(parameter(name)) await(name)))");
    js("async(a)", "expression-statement(call(name arguments(name)))");
    js(
        "({a, b = 1}, ...c) => {}",
        "expression-statement(lambda(parameters(parameter(mapping-pattern(capture-pattern(name) default-pattern(capture-pattern(name) number))) parameter(name)) block))",
    );
    js("({a = 1} = b)", "expression-statement(group(assignment(dictionary(shorthand-pair(name number)) name)))");
    ts(
        "x = a ? (b) : c => d",
        "expression-statement(assignment(name conditional(name group(name) lambda(parameters(parameter(name)) name))))",
    );
    ts(
        "x = a ? (b): c => d : e",
        "expression-statement(assignment(name conditional(name lambda(parameters(parameter(name)) named-type(name) name) name)))",
    );
    assert_refused(Language::JavaScript, "({a = 1})", "a default is only allowed in a destructuring pattern");
}

#[test]
fn the_things_of_other_languages_are_their_kinds() {
    js(
        "for (const [a, b] of c) continue",
        "for(declaration(assignment(sequence-pattern(capture-pattern(name) capture-pattern(name)))) name continue)",
    );
    js(
        "for (let i = 0; i < 3; i++);",
        "for(declaration(assignment(name number)) comparison(name number) update(name) pass)",
    );
    js(
        "switch (a) { case 1: b; break; default: }",
        "match(name case(number block(expression-statement(name) break)) case)",
    );
    js(
        "try { a } catch ({ b }) { c } finally { }",
        "try(block(expression-statement(name)) catch(mapping-pattern(capture-pattern(name)) block(expression-statement(name))) block)",
    );
    js("import a, { b as c } from 'd'", "import(import-default(name) import-item(name name) string)");
    js("export * as a from 'b'; export { c }", "export(export-all(name) string) export(export-item(name))");
    js(
        "class A extends B { #c = 1; static d() {} get e() { return super.f } }",
        "class(name heritage(name) block(field(private-name number) function(name parameters block) function(name parameters block(return(member(super name))))))",
    );
    js(
        "x = { a, [b]: 1, c() {}, 'd': e, ...f }",
        "expression-statement(assignment(name dictionary(shorthand-pair(name) pair(computed-name(name) number) function(property-name parameters block) pair(string name) spread(name))))",
    );
    js("a?.b?.[c]?.(d)", "expression-statement(call(subscript(member(name name) name) arguments(name)))");
    js("a ?? b ?? c", "expression-statement(logical(name name name))");
    js("new a.b(c).d", "expression-statement(member(new(member(name name) arguments(name)) name))");
}

#[test]
fn types_are_told_from_values() {
    ts("a < b > c", "expression-statement(comparison(comparison(name name) name))");
    ts("a<b>(c)", "expression-statement(call(name type-arguments(named-type(name)) arguments(name)))");
    ts("a(b < c, d > e)", "expression-statement(call(name arguments(comparison(name name) comparison(name name))))");
    ts("x = <T>y", "expression-statement(assignment(name cast(named-type(name) name)))");
    ts(
        "type A = B extends C ? D[] : typeof e.f",
        "type-alias(name conditional-type(named-type(name) named-type(name) array-type(named-type(name)) type-query(member(name name))))",
    );
    ts(
        "let a: (b: string) => c is D",
        "declaration(annotated-assignment(name function-type(parameters(parameter(name predefined-type)) type-predicate(name named-type(name)))))",
    );
    ts("type\nA\n", "expression-statement(name) expression-statement(name)");
    ts("declare module 'a' { export = b }", "namespace(string block(export(name)))");
    ts(
        "x = y as const satisfies Z",
        "expression-statement(assignment(name cast(cast(name predefined-type) named-type(name))))",
    );
    ts(
        "let x: A<B<C>> = d >> e",
        "declaration(annotated-assignment(name named-type(name type-arguments(named-type(name type-arguments(named-type(name))))) binary(name name)))",
    );
}

#[test]
fn tags_hold_text_and_values() {
    js(
        "x = <a b='c' {...d}>e {f}<g.H/></a>",
        "expression-statement(assignment(name element(start-tag(tag-name attribute(tag-name string) spread(name)) markup-text interpolation(name) element(start-tag(member(name name))) end-tag(tag-name))))",
    );
    js("x = <>it's</>", "expression-statement(assignment(name element(start-tag markup-text end-tag)))");
    js(
        "x = <data-quay a:b />",
        "expression-statement(assignment(name element(start-tag(tag-name attribute(tag-name)))))",
    );
    assert_shape(
        Language::Tsx,
        "const f = <T,>(x: T) => <A<T> b={x} />",
        "declaration(assignment(name lambda(type-parameters(type-parameter(name)) parameters(parameter(name named-type(name))) element(start-tag(name type-arguments(named-type(name)) attribute(tag-name interpolation(name)))))))",
    );
    assert_refused(Language::JavaScript, "x = <a></b>", "this tag ends another element than the one that is open");
}

#[test]
fn old_scripts_are_understood() {
    js("<!-- hidden\na\n--> also\n", "expression-statement(name)");
    js("x = 017 + '\\07'\n", "expression-statement(assignment(name binary(number string)))");
    js("with (a) b", "with(with-item(name) expression-statement(name))");
    js("#!/usr/bin/env node\nlet = yield", "expression-statement(assignment(name name))");
    assert_refused(Language::TypeScript, "x = 017", "a number cannot begin with a zero; octal ones begin with '0o'");
}

#[test]
fn what_cannot_be_assigned_to_is_told() {
    assert_refused(Language::JavaScript, "a?.b = 1", "a chain with '?.' cannot be assigned to");
    assert_refused(Language::JavaScript, "[a, 1] = b", "a literal cannot be assigned to");
    assert_refused(Language::JavaScript, "1++", "a literal cannot be changed");
    assert_refused(Language::JavaScript, "break", "no loop around this statement");
    assert_refused(Language::JavaScript, "a ?? b || c", "'??' mixes with '&&' and '||' only in parentheses");
    assert_refused(Language::JavaScript, "-a ** b", "an operator before the base of '**' needs parentheses");
}
