//! Rust: what sources are made of, what is wrong with some, hostile texts.

use proptest::prelude::*;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Tree};

use crate::listed::{faults, parsed_source};
use crate::shape::{assert_roles, shape};

fn rust(source: &str) -> (Text, Tree) {
    let (text, tree) = parsed_source(Language::Rust, source.to_string());
    assert_roles(&tree);
    (text, tree)
}

/// The shape of items.
#[track_caller]
fn of_file(source: &str) -> String {
    let (text, tree) = rust(source);
    assert_eq!(faults(&text, &tree), [""; 0], "{source}");
    tree.root().children().map(shape).collect::<Vec<_>>().join(" ")
}

/// The shape of the statements of a function.
#[track_caller]
fn of_body(source: &str) -> String {
    let (text, tree) = rust(&format!("fn f() {{\n{source}\n}}\n"));
    assert_eq!(faults(&text, &tree), [""; 0], "{source}");
    let body = tree.nodes().find(|node| node.kind() == Kind::Block).expect("a body");
    body.children().map(shape).collect::<Vec<_>>().join(" ")
}

#[test]
fn items_have_their_parts() {
    for (source, expected) in [
        ("#!/usr/bin/env run\n#![allow(dead_code)]\nmod quay;", "decorator(name token-tree) namespace(name)"),
        (
            "use std::io::{self, Read as _};",
            "import(import-item(path(name name) import-item(name) import-item(name wildcard-pattern)))",
        ),
        // The edition of 2015 leaves the word free.
        ("use async::{low, tide::high};", "import(import-item(name import-item(name) import-item(name name)))"),
        ("pub use ::quay::*;", "import(visibility import-item(name import-all))"),
        ("extern crate tide as water;", "import(import-item(name name))"),
        (
            "pub(crate) const LOW: u8 = 1;",
            "declaration(visibility(name) annotated-assignment(name named-type(name) number))",
        ),
        (
            "static mut HIGH: [u8; 2] = [0; 2];",
            "declaration(annotated-assignment(name array-type(named-type(name) number) repeated-list(number number)))",
        ),
        ("pub struct Quay;", "type-definition(visibility name)"),
        (
            "struct Berth(pub u8, &'static str);",
            "type-definition(name tuple-type(field(visibility named-type(name)) field(pointer-type(lifetime named-type(name)))))",
        ),
        (
            "#[derive(Debug)]\nstruct Boat<'a, T: Load + 'a = (), const N: usize = 3> where T: Copy { name: &'a str }",
            "type-definition(decorator(name token-tree) name type-parameters(type-parameter(lifetime) type-parameter(name named-type(name) lifetime tuple-type) type-parameter(name named-type(name) number)) where-clause(type-bound(named-type(name) named-type(name))) object-type(field(name pointer-type(lifetime named-type(name)))))",
        ),
        (
            "enum Tide { Low, High(u8), Spring { metres: f32 }, Neap = 4 }",
            "enum(name block(enum-member(name) enum-member(name tuple-type(field(named-type(name)))) enum-member(name object-type(field(name named-type(name)))) enum-member(name number)))",
        ),
        ("union Bits { a: u8 }", "type-definition(name object-type(field(name named-type(name))))"),
        (
            "pub unsafe trait Sail: Send { const MASTS: u8; type Crew: ?Sized; fn sail(&mut self) -> bool; }",
            "interface(visibility name named-type(name) block(declaration(annotated-assignment(name named-type(name))) type-alias(name type-operator(named-type(name))) function(name parameters(parameter(name)) named-type(name))))",
        ),
        (
            "trait Moor { fn moor(&self, u8, &mut [u8], quay::Side<u8>, (a, b): (u8, u8)); }",
            "interface(name block(function(name parameters(parameter(name) parameter(named-type(name)) parameter(pointer-type(array-type(named-type(name)))) parameter(named-type(path(name name) type-arguments(named-type(name)))) parameter(sequence-pattern(name name) tuple-type(named-type(name) named-type(name)))))))",
        ),
        (
            "impl<T> Sail for Boat<T> { fn sail(self: Box<Self>) -> bool { true } }",
            "implementation(type-parameters(type-parameter(name)) named-type(name) named-type(name type-arguments(named-type(name))) block(function(name parameters(parameter(name named-type(name type-arguments(named-type(name))))) named-type(name) block(boolean))))",
        ),
        ("impl !Send for Boat {}", "implementation(named-type(name) named-type(name) block)"),
        (
            "type Row<T> = Vec<Option<T>>;",
            "type-alias(name type-parameters(type-parameter(name)) named-type(name type-arguments(named-type(name type-arguments(named-type(name))))))",
        ),
        (
            "pub const unsafe extern \"C\" fn low(a: u8, ...) {}",
            "function(visibility string name parameters(parameter(name named-type(name)) parameter) block)",
        ),
        (
            "async fn each<F>(f: F, (a, b): (u8, u8)) where F: for<'a> Fn(&'a u8) -> bool {}",
            "function(name type-parameters(type-parameter(name)) parameters(parameter(name named-type(name)) parameter(sequence-pattern(name name) tuple-type(named-type(name) named-type(name)))) where-clause(type-bound(named-type(name) type-operator(type-parameters(type-parameter(lifetime)) named-type(name type-arguments(pointer-type(lifetime named-type(name)) named-type(name)))))) block)",
        ),
        (
            "extern \"C\" { fn tide(_: *const u8) -> !; }",
            "extern-block(string block(function(name parameters(parameter(wildcard-pattern pointer-type(named-type(name)))) predefined-type)))",
        ),
        ("macro_rules! low { ($a:expr) => { $a >> 1 }; }", "macro-definition(name token-tree)"),
        (
            "low! { a, b }\nlow!(c);",
            "expression-statement(macro-call(name token-tree)) expression-statement(macro-call(name token-tree))",
        ),
        (
            "fn dynamic(a: &dyn Sail, b: Box<dyn Fn(u8) + Send>) -> impl Iterator<Item = u8> + use<> {}",
            "function(name parameters(parameter(name pointer-type(trait-type(named-type(name)))) parameter(name named-type(name type-arguments(trait-type(named-type(name type-arguments(named-type(name))) named-type(name)))))) trait-type(named-type(name type-arguments(keyword-argument(named-type(name) named-type(name)))) named-type(type-arguments)) block)",
        ),
        (
            "fn path(a: <T as Sail>::Crew, b: fn(u8) -> u8, c: (), d: (u8,), e: (u8), f: _) {}",
            "function(name parameters(parameter(name named-type(path(qualified-type(named-type(name) named-type(name)) name))) parameter(name function-type(parameters(parameter(named-type(name))) named-type(name))) parameter(name tuple-type) parameter(name tuple-type(named-type(name))) parameter(name group-type(named-type(name))) parameter(name infer-type)) block)",
        ),
    ] {
        assert_eq!(of_file(source), expected, "{source}");
    }
}

#[test]
fn statements_have_their_parts() {
    for (source, expected) in [
        (
            "let a;\nlet mut b: u8 = 1;\nlet (c, d) = e;",
            "declaration(name) declaration(annotated-assignment(capture-pattern(name) named-type(name) number)) declaration(assignment(sequence-pattern(name name) name))",
        ),
        ("let Some(a) = b else { return };", "declaration(assignment(class-pattern(name name) name) block(return))"),
        ("a = 1;\nb >>= 2;\na", "assignment(name number) compound-assignment(name number) name"),
        (
            "if a { b } else if let Some(c) = d && e { f } else { g }",
            "if(name block(name) if(logical(let-condition(class-pattern(name name) name) name) block(name) block(name)))",
        ),
        (
            "match a { 0 | 1..=9 => b, Some(ref c @ Tide::Low) if d => { e } Boat { name, mast: m, .. } => f(), _ => {} }",
            "match(name case(or-pattern(literal-pattern(number) range(number number)) name) case(class-pattern(name capture-pattern(name value-pattern(path(name name)))) name block(name)) case(class-pattern(name keyword-pattern(name) keyword-pattern(name name) star-pattern) call(name arguments)) case(wildcard-pattern block))",
        ),
        (
            "'out: loop { break 'out; }\nwhile let Some(_) = a.next() { continue }\nfor (i, &b) in c.iter().enumerate() {}",
            "labeled(lifetime while(block(break(lifetime)))) while(let-condition(class-pattern(name wildcard-pattern) call(member(name name) arguments)) block(continue)) for(sequence-pattern(name reference-pattern(name)) call(member(call(member(name name) arguments) name) arguments) block)",
        ),
        (
            "match a { x => 1 }.low();\nunsafe { b() }\n-c",
            "expression-statement(call(member(match(name case(name number)) name) arguments)) block-expression(block(call(name arguments))) unary(name)",
        ),
        (
            "fn inner() {}\nconst A: u8 = 1;\nprintln!(\"low {a}\");\nvec![1].len()",
            "function(name parameters block) declaration(annotated-assignment(name named-type(name) number)) expression-statement(macro-call(name token-tree)) call(member(macro-call(name token-tree) name) arguments)",
        ),
        (
            "#[cfg(test)]\nlet a = 1;\n#[allow(unused)]\nb();",
            "declaration(decorator(name token-tree) assignment(name number)) expression-statement(attributed(decorator(name token-tree) call(name arguments)))",
        ),
        ("return a..b;", "return(range(name name))"),
    ] {
        assert_eq!(of_body(source), expected, "{source}");
    }
}

#[test]
fn expressions_have_their_parts() {
    for (source, expected) in [
        (
            "a + b * c - d as u8 > e",
            "comparison(binary(binary(name binary(name name)) cast(name named-type(name))) name)",
        ),
        ("a && b && c || d", "logical(logical(name name name) name)"),
        ("!*a & -b", "binary(unary(unary(name)) unary(name))"),
        (
            "&mut a.b[0]?.c.0.1",
            "unary(member(member(member(propagation(subscript(member(name name) number)) name) number) number))",
        ),
        ("&&raw const a", "unary(unary(name))"),
        (
            "a.collect::<Vec<Vec<u8>>>()",
            "call(member(name name) type-arguments(named-type(name type-arguments(named-type(name type-arguments(named-type(name)))))) arguments)",
        ),
        ("Vec::<u8>::new()", "call(path(instantiation(name type-arguments(named-type(name))) name) arguments)"),
        (
            "<Boat as Sail>::sail(a)",
            "call(path(qualified-type(named-type(name) named-type(name)) name) arguments(name))",
        ),
        ("a >> b >= c", "comparison(binary(name name) name)"),
        ("Boat { name, mast: 1, ..b }", "composite(name shorthand-pair(name) pair(name number) spread(name))"),
        ("(a,)", "tuple(name)"),
        ("(a)", "group(name)"),
        ("[a; 3]", "repeated-list(name number)"),
        (
            "|a: u8, &b| -> u8 { a }",
            "lambda(parameters(parameter(name named-type(name)) parameter(reference-pattern(name))) named-type(name) block(name))",
        ),
        ("async move || a.await", "lambda(parameters await(name))"),
        ("..=a", "range(name)"),
        ("a..", "range(name)"),
        ("b'a'", "bytes"),
        ("'a'", "character"),
        ("r#\"low\"#", "string"),
        ("1.0e-3_f32", "number"),
        ("1..2", "range(number number)"),
        ("async { a }", "block-expression(block(name))"),
        ("if a { b } else { c }", "if(name block(name) block(name))"),
        ("break 'a b", "break(lifetime name)"),
        ("matches!(a, Some(_))", "macro-call(name token-tree)"),
        ("r#type", "name"),
    ] {
        assert_eq!(of_body(&format!("_ = {source};")), format!("assignment(wildcard-pattern {expected})"), "{source}");
    }
}

/// Items may begin their lines within a block too: only an unclosed brace makes them end it.
#[test]
fn items_at_the_margin_are_in_their_block() {
    assert_eq!(of_file("fn f() {\nfn g() {}\n}"), "function(name parameters block(function(name parameters block)))");
}

/// One mistake is one fault, at its place, and what is around it is understood.
#[test]
fn mistakes_are_told_one_by_one() {
    for (source, expected) in [
        ("fn f() {\n    let a = ;\n}\n", "2:13 expected a value, found ';'"),
        ("fn f() {\n    if a {\n}\n", "1:8 '{' is never closed"),
        ("fn f() {\n    a b\n}\n", "2:7 expected ';' or '}', found a name"),
        ("fn f() {\n    g(1;\n    h();\n}\n", "2:8 expected ')', found ';'"),
        ("fn f(a) {}\n", "1:6 a parameter has a name and a type where the function has a body"),
        ("struct Quay { a u8 }\n", "1:17 expected ':', found a name"),
        ("let a = 1;\n", "1:1 expected an item, found 'let'"),
        ("const A = 1;\n", "1:9 expected ':', found '='"),
        ("impl Quay {\n    let a = 1;\n    fn g() {}\n}\n", "2:5 expected an item, found 'let'"),
        ("trait Tide { struct A; }\n", "1:14 only functions, constants and types can be here"),
        ("fn f() { match a { 1 => 2 3 => 4 } }\n", "1:27 expected ',', found a number"),
        ("fn f() { a < b < c; }\n", "1:16 comparisons are not chained: use '&&'"),
        ("fn f(a: u8, self) {}\n", "1:13 'self' is the first parameter"),
        ("pub impl Quay {}\n", "1:5 an implementation has no visibility of its own"),
        ("use a::{b;\n", "1:10 expected '}', found ';'"),
        ("fn f() -> {}\n", "1:11 expected a type, found '{'"),
        ("type A = dyn 'static;\n", "1:21 expected the name of a trait, found ';'"),
        ("low!(a]);\n", "1:7 expected ')', found ']'"),
        ("const A: &str = \"\\q\";\n", "1:18 there is no such escape"),
        ("const A: char = 'low';\n", "1:17 single quotes hold one character"),
        ("const A: u8 = 0b12;\n", "1:15 there is no such digit in this number"),
        ("const A: u8 = b'\u{e9}';\n", "1:17 a byte literal holds only ASCII characters; write others as escapes"),
        ("/* low\n", "1:1 the comment is never closed"),
        ("const A: &str = \"low;\n", "1:17 the string is never closed"),
        ("const A: &str = r#\"low\";\n", "1:19 the string is never closed"),
        ("}\n", "1:1 expected an item, found '}'"),
        ("fn f() { let a = b && c else { return }; }\n", "1:25 expected ';', found 'else'"),
        ("#[low\nfn f() {}\n", "2:1 expected ']', found 'fn'"),
    ] {
        let (text, tree) = rust(&format!("{source}fn g() {{}}\n"));
        let all = faults(&text, &tree);
        assert_eq!(all, [expected], "{source}");
        // What is never closed takes the rest with it.
        if !source.contains("low") {
            let last = tree.root().children().last().expect("a function");
            assert_eq!(shape(last), "function(name parameters block)", "{source}");
        }
    }
}

/// Each would take minutes, or much of the stack, if anything grew faster than the text.
#[test]
fn hostile_texts_are_read_to_their_end() {
    let repeated = |piece: &str| piece.repeat(100_000);
    let in_body = |inner: String| format!("fn f() {{\n{inner}");
    for source in [
        repeated("fn f() {"),
        repeated("fn f() {\n"),
        repeated("}"),
        repeated("mod a {"),
        repeated("impl A {"),
        repeated("#[a]"),
        repeated("#![a]\n"),
        repeated("use a::{"),
        format!("use {}", repeated("a::")),
        in_body(repeated("{")),
        in_body(repeated("if a {")),
        in_body(repeated("if a {} else ")),
        in_body(repeated("match a { b => ")),
        in_body(repeated("loop {")),
        in_body(repeated("'a: loop {")),
        in_body(repeated("(")),
        in_body(repeated("[")),
        in_body(repeated("a(")),
        in_body(repeated("a!(")),
        in_body(repeated("-")),
        in_body(repeated("&&")),
        in_body(repeated("|a| ")),
        in_body(repeated("move ||")),
        in_body(repeated("return ")),
        in_body(repeated("break 'a ")),
        in_body(repeated("a = ")),
        in_body(repeated("a..")),
        in_body(repeated("..")),
        in_body(repeated("a { b: ")),
        in_body(format!("a{}", repeated("+1"))),
        in_body(format!("a{}", repeated("&&b"))),
        in_body(format!("a{}", repeated(".b"))),
        in_body(format!("a{}", repeated("?"))),
        in_body(format!("a{}", repeated("()"))),
        in_body(format!("a{}", repeated(" as u8"))),
        in_body(format!("a::<{}", repeated("B<"))),
        in_body(format!("let a: {}", repeated("B<"))),
        in_body(format!("let a: {}", repeated("<"))),
        in_body(format!("let a: {}", repeated("&"))),
        in_body(format!("let a: {}", repeated("*const "))),
        in_body(format!("let a: {}", repeated("["))),
        in_body(format!("let a: {}", repeated("fn("))),
        in_body(format!("let a: {}", repeated("impl "))),
        in_body(format!("let a: {}", repeated("dyn A<"))),
        in_body(format!("let a: {}", repeated("for<'a> "))),
        in_body(format!("let {}", repeated("("))),
        in_body(format!("let {}", repeated("&"))),
        in_body(format!("let {}", repeated("a @ "))),
        in_body(format!("match a {{ {}", repeated("a | "))),
        in_body(repeated("let a = if let b = ")),
        format!("fn f<{}", repeated("T: for<")),
        format!("fn f() where {}", repeated("T: (")),
        format!("fn f({}", repeated("a: fn(")),
        format!("struct A {{ {}", repeated("a: u8, ")),
        format!("enum A {{ {}", repeated("A { a: ")),
        format!("a! {{ {}", repeated("(")),
        repeated("a! "),
        repeated("unsafe "),
        repeated("const "),
        repeated("extern "),
        repeated("\"a\n"),
        repeated("r#\""),
        format!("r{}\"{}", repeated("#"), repeated("\"#")),
        repeated("'"),
        repeated("'a"),
        repeated("/*"),
        repeated("//\n"),
        repeated("0_"),
        "1".repeat(5_000_000),
    ] {
        rust(&source);
    }
}

const PIECES: &[&str] = &[
    "a",
    "b",
    "1",
    "1.5",
    "'c'",
    "'d",
    "\"e\"",
    "r#\"f\"#",
    " ",
    "\n",
    "{",
    "}",
    "[",
    "]",
    "(",
    ")",
    "<",
    ">",
    "=",
    "==",
    "::",
    ":",
    ";",
    ",",
    ".",
    "..",
    "..=",
    "!",
    "?",
    "&",
    "&&",
    "|",
    "||",
    "*",
    "-",
    "->",
    "=>",
    "#",
    "#[",
    "@",
    "_ ",
    "fn ",
    "if ",
    "let ",
    "else ",
    "match ",
    "loop ",
    "for ",
    "in ",
    "while ",
    "struct ",
    "enum ",
    "impl ",
    "trait ",
    "type ",
    "use ",
    "mod ",
    "pub ",
    "const ",
    "static ",
    "unsafe ",
    "extern ",
    "async ",
    "move ",
    "dyn ",
    "where ",
    "as ",
    "ref ",
    "mut ",
    "self ",
    "return ",
    "break ",
    "macro_rules! ",
    "/*",
    "*/",
    "//",
    "0x",
    "é",
    "\\",
    "$",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_text_gives_a_sound_tree(source in "\\PC{0,80}", pieces in prop::collection::vec(prop::sample::select(PIECES), 0..40)) {
        for source in [source, pieces.concat(), format!("fn f() {{\n{}\n}}\n", pieces.concat())] {
            rust(&source);
        }
    }

    /// A mistake goes no further than the item that it is in.
    #[test]
    fn items_stay_what_they_are_before_any_text(pieces in prop::collection::vec(prop::sample::select(PIECES), 0..12)) {
        let (_, tree) = rust(&format!("const LOW: u8 = 1;\n\nfn f() {{}}\n\n{}", pieces.concat()));
        let first: Vec<String> = tree.root().children().take(2).map(shape).collect();
        prop_assert_eq!(first, ["declaration(annotated-assignment(name named-type(name) number))", "function(name parameters block)"]);
    }
}
