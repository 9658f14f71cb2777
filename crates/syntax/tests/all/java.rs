//! Java: what sources are made of, what is wrong with some, hostile texts.

use proptest::prelude::*;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Tree};

use crate::listed::{faults, parsed_source};
use crate::shape::{assert_roles, shape};

fn java(source: &str) -> (Text, Tree) {
    let (text, tree) = parsed_source(Language::Java, source.to_string());
    assert_roles(&tree);
    (text, tree)
}

/// The shape of what is at the top of a file.
#[track_caller]
fn of_file(source: &str) -> String {
    let (text, tree) = java(source);
    assert_eq!(faults(&text, &tree), [""; 0], "{source}");
    tree.root().children().map(shape).collect::<Vec<_>>().join(" ")
}

/// The shape of the statements of a method.
#[track_caller]
fn of_body(source: &str) -> String {
    let (text, tree) = java(&format!("class A {{ void f() {{\n{source}\n}} }}\n"));
    assert_eq!(faults(&text, &tree), [""; 0], "{source}");
    let body = tree.nodes().filter(|node| node.kind() == Kind::Block).nth(1).expect("a body");
    body.children().map(shape).collect::<Vec<_>>().join(" ")
}

#[test]
fn declarations_have_their_parts() {
    for (source, expected) in [
        (
            "package ferries.tides;\n\nimport java.util.*;\nimport static java.lang.Math.max;\nimport Quay;",
            "package(member(name name)) import(import-item(member(name name) import-all)) import(import-item(member(member(name name) name) name)) import(import-item(name))",
        ),
        (
            "public final class Quay<T extends Boat & Load> extends Place implements Open, Named<T> {}",
            "class(visibility name type-parameters(type-parameter(name intersection-type(named-type(name) named-type(name)))) heritage(named-type(name)) heritage(named-type(name) named-type(name type-arguments(named-type(name)))) block)",
        ),
        (
            "sealed interface Tide permits Low, High {}\nnon-sealed class Low implements Tide {}",
            "interface(name heritage(named-type(name) named-type(name)) block) class(name heritage(named-type(name)) block)",
        ),
        (
            "record Berth(@Id int number, String... names) { Berth { check(number); } }",
            "class(name parameters(parameter(decorator(name) predefined-type name) parameter(named-type(name) name)) block(function(name block(expression-statement(call(name arguments(name)))))))",
        ),
        (
            "enum Stage implements Named { LOW, HIGH(3) { void f() {} }, ; int metres; }",
            "enum(name heritage(named-type(name)) block(enum-member(name) enum-member(name arguments(number) block(function(predefined-type name parameters block))) field(predefined-type name)))",
        ),
        (
            "@interface Depth { int value() default 3; String[] names() default {}; }",
            "interface(name block(function(predefined-type name parameters number) function(array-type(named-type(name)) name parameters list)))",
        ),
        (
            "class A { private int a = 1, b[]; static { f(); } { g(); } A(int a) throws E { super(a); } }",
            "class(name block(field(visibility predefined-type assignment(name number) assignment(name)) static-block(block(expression-statement(call(name arguments)))) static-block(block(expression-statement(call(name arguments)))) function(name parameters(parameter(predefined-type name)) named-type(name) block(expression-statement(call(super arguments(name)))))))",
        ),
        (
            "class A { @Override public <T> List<? super T>[] low(final A this, int[]... a) { return null; } abstract void f(); }",
            "class(name block(function(decorator(name) visibility type-parameters(type-parameter(name)) array-type(named-type(name type-arguments(wildcard-type(named-type(name))))) name parameters(parameter(named-type(name) this) parameter(array-type(predefined-type) name)) block(return(null))) function(predefined-type name parameters)))",
        ),
        (
            "@Open(\"quay\") @Named(name = \"a\", of = {1, 2,}) package a;",
            "package(decorator(name arguments(string)) decorator(name arguments(keyword-argument(name string) keyword-argument(name list(number number)))) name)",
        ),
        (
            "open module ferries.tides { requires transitive java.base; exports a.b to c, d; provides e with f; }",
            "namespace(member(name name) block(module-directive(member(name name)) module-directive(member(name name) name name) module-directive(name name)))",
        ),
    ] {
        assert_eq!(of_file(source), expected, "{source}");
    }
}

#[test]
fn statements_have_their_parts() {
    for (source, expected) in [
        (
            "int a = 1, b; final var c = new int[]{1, 2};",
            "declaration(predefined-type assignment(name number) name) declaration(named-type(name) assignment(name new(predefined-type list(number number))))",
        ),
        (
            "List<Map<String, int[]>> a = b; a.b.C<D>.E f;",
            "declaration(named-type(name type-arguments(named-type(name type-arguments(named-type(name) array-type(predefined-type))))) assignment(name name)) declaration(named-type(member(instantiation(member(member(name name) name) type-arguments(named-type(name))) name)) name)",
        ),
        (
            "if (a) b(); else if (c) { } else d();",
            "if(name expression-statement(call(name arguments)) if(name block expression-statement(call(name arguments))))",
        ),
        (
            "for (int i = 0, j = 1; i < n; i++, j--) {} for (;;) {} for (final Quay q : quays) {}",
            "for(declaration(predefined-type assignment(name number) assignment(name number)) comparison(name name) update(name) update(name) block) for(block) for(declaration(named-type(name) name) name block)",
        ),
        (
            "while (a) continue; do { break; } while (b); low: while (c) break low;",
            "while(name continue) do-while(block(break) name) labeled(name while(name break(name)))",
        ),
        (
            "switch (a) { case 1, 2: b(); case C: default: c(); }",
            "match(name case(number number block(expression-statement(call(name arguments)))) case(name) case(block(expression-statement(call(name arguments)))))",
        ),
        (
            "int a = switch (b) { case LOW, HIGH -> 1; case Boat(int d, var e) when d > 2 -> { yield 3; } case null, default -> throw f; };",
            "declaration(predefined-type assignment(name match(name case(name name number) case(class-pattern(named-type(name) capture-pattern(predefined-type name) capture-pattern(named-type(name) name)) comparison(name number) block(yield(number))) case(null wildcard-pattern throw(name)))))",
        ),
        (
            "try (var a = b(); c) { } catch (final E | F e) { } finally { }",
            "try(declaration(named-type(name) assignment(name call(name arguments))) name block catch(union-type(named-type(name) named-type(name)) name block) block)",
        ),
        (
            "synchronized (a) { } assert a : b; throw new E(); ",
            "with(with-item(name) block) assert(name name) throw(new(named-type(name) arguments))",
        ),
        (
            "yield = 1; record.f(); class B {} ;",
            "assignment(name number) expression-statement(call(member(name name) arguments)) class(name block) pass",
        ),
        (
            "a.b = c -> d; e((f, g) -> { }); h = (int i) -> i;",
            "assignment(member(name name) lambda(parameters(parameter(name)) name)) expression-statement(call(name arguments(lambda(parameters(parameter(name) parameter(name)) block)))) assignment(name lambda(parameters(parameter(predefined-type name)) name))",
        ),
    ] {
        assert_eq!(of_body(source), expected, "{source}");
    }
}

#[test]
fn expressions_have_their_parts() {
    for (source, expected) in [
        ("a + b * c - d << e", "binary(binary(binary(name binary(name name)) name) name)"),
        ("a && b && c || d", "logical(logical(name name name) name)"),
        ("!a & -b ^ ~c", "binary(binary(unary(name) unary(name)) unary(name))"),
        (
            "a instanceof Boat b && b.low",
            "logical(comparison(name capture-pattern(named-type(name) name)) member(name name))",
        ),
        (
            "a instanceof Boat(int d, _) ",
            "comparison(name class-pattern(named-type(name) capture-pattern(predefined-type name) wildcard-pattern))",
        ),
        ("a ? b : c -> d", "conditional(name name lambda(parameters(parameter(name)) name))"),
        ("(int) a + (Boat) b", "binary(cast(predefined-type name) cast(named-type(name) name))"),
        (
            "(Boat & Load) c -> d",
            "cast(intersection-type(named-type(name) named-type(name)) lambda(parameters(parameter(name)) name))",
        ),
        (
            "a.b().<T>c(d)[0]",
            "subscript(call(member(call(member(name name) arguments) type-arguments(named-type(name)) name) arguments(name)) number)",
        ),
        (
            "new Outer.Quay<>(a) { int b; }",
            "new(named-type(member(name name) type-arguments) arguments(name) block(field(predefined-type name)))",
        ),
        ("new int[3][]", "new(predefined-type number)"),
        ("a.new B()", "new(name named-type(name) arguments)"),
        ("int[].class", "member(array-type(predefined-type) name)"),
        ("Quay::new", "path(name name)"),
        ("List<Quay>::of", "path(named-type(name type-arguments(named-type(name))) name)"),
        ("this.a = super.b()", "assignment(member(this name) call(member(super name) arguments))"),
        ("A.this.b", "member(member(name this) name)"),
        ("a++ + --b", "binary(update(name) update(name))"),
        ("a >>>= 1", "compound-assignment(name number)"),
        ("'a'", "character"),
        ("\"low\"", "string"),
        ("\"\"\"\n low\n \"\"\"", "string"),
        ("1_000L", "number"),
        ("0x1p-2", "number"),
        ("null", "null"),
    ] {
        let whole = of_body(&format!("a = {source};"));
        assert_eq!(whole, format!("assignment(name {expected})"), "{source}");
    }
}

/// One mistake is one fault, at its place, and what is around it is understood.
#[test]
fn mistakes_are_told_one_by_one() {
    for (source, expected) in [
        ("class A { void f() { int a = ; } }\n", "1:30 expected a value, found ';'"),
        ("class A { void f() { a b c; } }\n", "1:26 expected ';', found a name"),
        ("class A { void f() { g(1; h(); } }\n", "1:25 expected ')', found ';'"),
        ("class A { void f() { 1 + 2; } }\n", "1:22 this is no statement"),
        ("class A { f() {} }\n", "1:11 the type of what the method gives is missing"),
        ("class A { void f() { if a { } } }\n", "1:25 expected '(', found a name"),
        ("class A { void f() { try { } } }\n", "1:22 a 'try' needs a handler, a 'finally' or resources"),
        ("class A { final final int a; }\n", "1:17 this modifier is there already"),
        ("int a;\n", "1:1 expected a class or an interface, found the name of a primitive type"),
        ("class A { int a }\n", "1:17 expected ';', found '}'"),
        ("class A { char a = 'low'; }\n", "1:20 single quotes hold one character"),
        ("class A { String a = \"\\q\"; }\n", "1:23 there is no such escape"),
        ("class A { int a = 09; }\n", "1:19 an octal number has the digits 0 to 7"),
        ("class A { int a = 1__; }\n", "1:19 an underscore must stand between two digits"),
        ("class A { List<> a; }\n", "1:16 expected a type, found '>'"),
        ("class A { void f() { a + b = c; } }\n", "1:28 only a variable can be assigned to"),
        ("}\n", "1:1 expected a class or an interface, found '}'"),
        ("class A { void f(int... a, int b) {} }\n", "1:26 a parameter for any number of values is the last one"),
        ("class A { void a; }\n", "1:16 expected the name of a method, found a name"),
        ("/* low\n", "1:1 the comment is never closed"),
        ("class A { String a = \"low; }\n", "1:9 '{' is never closed"),
        ("class A { void f() { low\n", "1:9 '{' is never closed"),
        ("module a { needs b; }\n", "1:12 expected 'requires', 'exports', 'opens', 'uses' or 'provides', found a name"),
        ("class A { int a = b -> ; }\n", "1:24 expected a value, found ';'"),
    ] {
        let (text, tree) = java(&format!("{source}class Z {{}}\n"));
        let all = faults(&text, &tree);
        assert_eq!(all.first().map(String::as_str), Some(expected), "{source}");
        // What is never closed takes the rest with it.
        assert!(all.len() == 1 || source.contains("low"), "{source}: {all:?}");
        if !source.contains("low") {
            let last = tree.root().children().last().expect("a class");
            assert_eq!(shape(last), "class(name block)", "{source}");
        }
    }
}

/// Each would take minutes, or much of the stack, if anything grew faster than the text.
#[test]
fn hostile_texts_are_read_to_their_end() {
    let repeated = |piece: &str| piece.repeat(50_000);
    let in_body = |inner: String| format!("class A {{ void f() {{\n{inner}");
    for piece in [
        "class A {",
        "}",
        "@A ",
        "@A(",
        "import a.",
        "/**/",
        "\"a\n",
        "'",
        "\"\"\"",
        "1_",
        "package a;",
        "class A { enum B {",
        "class A { int a; ",
    ] {
        java(&repeated(piece));
    }
    for piece in [
        "{",
        "if (a) ",
        "if (a) {} else ",
        "for (;;) ",
        "while (a) ",
        "do ",
        "try {",
        "switch (a) { case b: ",
        "switch (a) { case b -> ",
        "synchronized (a) {",
        "a: ",
        "(",
        "(int) ",
        "((",
        "a(",
        "-",
        "!",
        "a ? ",
        "a = ",
        "b -> ",
        "(b) -> ",
        "new A(",
        "new int[",
        "{ class A {",
        "A<",
        "A<B<",
        "a.b.",
        "yield ",
        "new A() { int a = ",
    ] {
        java(&in_body(repeated(piece)));
    }
    for piece in ["+1", "&&b", ".b", "()", "[0]", " instanceof A", "::b", "++"] {
        java(&in_body(format!("a = a{}", repeated(piece))));
    }
    for source in [
        format!("class A<{}", repeated("B extends C<")),
        format!("class A {{ A<{}", repeated("? extends B<")),
        format!("class A {{ int f({}", repeated("int a, ")),
        format!("class A {{ int[] a = {}", repeated("{")),
        format!("class A {{ int a{}", repeated("[]")),
        format!("class A {{ void f() {{ a < {}", repeated("b, c < ")),
        format!("class A {{ void f() {{ {}", repeated("a < b; ")),
        format!("class A {{ void f() {{ for ({}", repeated("a[")),
        format!("@A({}", repeated("{")),
        format!("class A {{ String a = \"{}", repeated("\\u005c")),
        format!("class A {{ void f() {{ g({}", repeated("a < b, ")),
        in_body(repeated("(a, ; ")),
        in_body(repeated("{ (a, } ")),
        in_body(repeated("@A(a ; ")),
        "1".repeat(5_000_000),
    ] {
        java(&source);
    }
}

const PIECES: &[&str] = &[
    "a",
    "b",
    "1",
    "1.5",
    "'c'",
    "\"d\"",
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
    "...",
    "!",
    "?",
    "&",
    "&&",
    "|",
    "*",
    "-",
    "->",
    "++",
    "@A ",
    "@",
    "class ",
    "interface ",
    "enum ",
    "record ",
    "int ",
    "void ",
    "final ",
    "static ",
    "if ",
    "else ",
    "for ",
    "while ",
    "do ",
    "try ",
    "catch ",
    "switch ",
    "case ",
    "default ",
    "new ",
    "return ",
    "yield ",
    "instanceof ",
    "extends ",
    "import ",
    "package ",
    "this",
    "super",
    "/*",
    "*/",
    "//",
    "\"\"\"",
    "0x",
    "é",
    "\\",
    "$",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_text_gives_a_sound_tree(source in "\\PC{0,80}", pieces in prop::collection::vec(prop::sample::select(PIECES), 0..40)) {
        for source in [source, pieces.concat(), format!("class A {{ void f() {{\n{}\n}} }}\n", pieces.concat())] {
            java(&source);
        }
    }

    /// A mistake goes no further than the member that it is in.
    #[test]
    fn members_stay_what_they_are_before_any_text(pieces in prop::collection::vec(prop::sample::select(PIECES), 0..12)) {
        let (_, tree) = java(&format!("class A {{\n    int low = 1;\n\n    void f() {{}}\n\n{}", pieces.concat()));
        let body = tree.nodes().find(|node| node.kind() == Kind::Block).expect("a body");
        let first: Vec<String> = body.children().take(2).map(shape).collect();
        prop_assert_eq!(first, ["field(predefined-type assignment(name number))", "function(predefined-type name parameters block)"]);
    }
}
