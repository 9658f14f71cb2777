//! C#: what sources are made of, what is wrong with some, hostile texts.

use proptest::prelude::*;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, TokenKind, Tree};

use crate::listed::{faults, parsed_source};
use crate::shape::{assert_roles, shape};

fn csharp(source: &str) -> (Text, Tree) {
    let (text, tree) = parsed_source(Language::CSharp, source.to_string());
    assert_roles(&tree);
    (text, tree)
}

/// The shape of what is at the top of a file.
#[track_caller]
fn of_file(source: &str) -> String {
    let (text, tree) = csharp(source);
    assert_eq!(faults(&text, &tree), [""; 0], "{source}");
    tree.root().children().map(shape).collect::<Vec<_>>().join(" ")
}

/// The shape of the statements of a method.
#[track_caller]
fn of_body(source: &str) -> String {
    let (text, tree) = csharp(&format!("class A {{ void F() {{\n{source}\n}} }}\n"));
    assert_eq!(faults(&text, &tree), [""; 0], "{source}");
    let body = tree.nodes().filter(|node| node.kind() == Kind::Block).nth(1).expect("a body");
    body.children().map(shape).collect::<Vec<_>>().join(" ")
}

/// The shape of an expression.
#[track_caller]
fn of_expression(source: &str) -> String {
    let tree = Language::CSharp.parse_expression(source);
    assert!(tree.faults().is_empty(), "{source}: {}", tree.faults()[0].problem);
    tree.root().children().map(shape).collect::<Vec<_>>().join(" ")
}

#[test]
fn declarations_have_their_parts() {
    for (source, expected) in [
        (
            "using System.Text;\nglobal using static System.Math;\nusing Low = Ferries.Tide<int>;\nextern alias quay;\nnamespace Ferries.Tides;",
            "import(import-item(member(name name))) import(import-item(named-type(member(name name)))) import(import-item(name named-type(member(name name) type-arguments(predefined-type)))) import(import-item(name)) package(member(name name))",
        ),
        (
            "namespace Ferries { class Quay { } enum Stage : byte { Low = 1, [A] High, } }",
            "namespace(name block(class(name block) enum(name heritage(predefined-type) block(enum-member(name number) enum-member(attribute-section(decorator(named-type(name))) name)))))",
        ),
        (
            r##"[assembly: A(1, Name = "x")]
[Serializable, B] public sealed class Quay<[C] T, out U>(int a) : Place<T>(a), IOpen where T : class, new() where U : Boat? { }"##,
            "attribute-section(name decorator(named-type(name) arguments(number keyword-argument(name string)))) class(attribute-section(decorator(named-type(name)) decorator(named-type(name))) visibility name type-parameters(type-parameter(attribute-section(decorator(named-type(name))) name) type-parameter(name)) parameters(parameter(predefined-type name)) heritage(named-type(name type-arguments(named-type(name))) arguments(name) named-type(name)) where-clause(name predefined-type predefined-type) where-clause(name optional-type(named-type(name))) block)",
        ),
        (
            "public readonly record struct Berth(int Number = 2);\ndelegate ref T Make<in T>(ref int a, params T[] rest) where T : struct;",
            "class(visibility name parameters(parameter(predefined-type name number))) delegate(named-type(name) name type-parameters(type-parameter(name)) parameters(parameter(predefined-type name) parameter(array-type(named-type(name)) name)) where-clause(name predefined-type))",
        ),
        (
            "class A { const int B = 1, C; fixed byte d[8]; event E Gone; event E I<T>.Opened { add { } remove => f(); } }",
            "class(name block(field(predefined-type assignment(name number) name) field(predefined-type assignment(name number)) field(named-type(name) name) property(named-type(name) named-type(name type-arguments(named-type(name))) name block(accessor(name block) accessor(name call(name arguments))))))",
        ),
        (
            "class A { int B { get; private set; } = 3; int? C => 1; int I.D { init { } } int this[int i] => i; }",
            "class(name block(property(predefined-type name block(accessor(name) accessor(visibility name)) number) property(optional-type(predefined-type) name number) property(predefined-type named-type(name) name block(accessor(name block))) property(predefined-type this parameters(parameter(predefined-type name)) name)))",
        ),
        (
            "class A { A(int a) : base(a) { } ~A() => f(); void I<T>.Do<X>(X x) where X : new() { } static int operator +(A a, A b) => 1; static implicit operator int(A a) => 2; int operator >>(A a, int b) => 3; }",
            "class(name block(function(name parameters(parameter(predefined-type name)) call(super arguments(name)) block) function(name parameters call(name arguments)) function(predefined-type named-type(name type-arguments(named-type(name))) name type-parameters(type-parameter(name)) parameters(parameter(named-type(name) name)) where-clause(name predefined-type) block) function(predefined-type name parameters(parameter(named-type(name) name) parameter(named-type(name) name)) number) function(predefined-type parameters(parameter(named-type(name) name)) number) function(predefined-type name parameters(parameter(named-type(name) name) parameter(predefined-type name)) number)))",
        ),
    ] {
        assert_eq!(of_file(source), expected, "{source}");
    }
}

#[test]
fn statements_have_their_parts() {
    for (source, expected) in [
        (
            "int a = 1, b; var c = f(); const int d = 2; ref int e = ref a; (int, string x) g; int[,][] h; A.B<C>? i; int* j; scoped Span<int> k;",
            "declaration(predefined-type assignment(name number) name) declaration(named-type(name) assignment(name call(name arguments))) declaration(predefined-type assignment(name number)) declaration(predefined-type assignment(name unary(name))) declaration(tuple-type(predefined-type tuple-member(predefined-type name)) name) declaration(array-type(array-type(predefined-type)) name) declaration(optional-type(named-type(member(name name) type-arguments(named-type(name)))) name) declaration(pointer-type(predefined-type) name) declaration(named-type(name type-arguments(predefined-type)) name)",
        ),
        (
            "if (a) b(); else { } while (a) { } do { } while (a); for (int i = 0, j; i < 3; i++, j--) { } for (;;) { } foreach (var x in xs) { } await foreach (var (y, z) in ys) { }",
            "if(name expression-statement(call(name arguments)) block) while(name block) do-while(block name) for(declaration(predefined-type assignment(name number) name) comparison(name number) update(name) update(name) block) for(block) for(declaration(named-type(name) name) name block) for(sequence-pattern(capture-pattern(name) capture-pattern(name)) name block)",
        ),
        (
            "try { throw; } catch (E e) when (e.A) { } catch { } finally { } lock (a) { } using (var f = g()) { } using (f) { } using var h = i(); fixed (byte* p = a) { }",
            "try(block(throw) catch(named-type(name) name member(name name) block) catch(block) block) with(with-item(name) block) with(declaration(named-type(name) assignment(name call(name arguments))) block) with(with-item(name) block) declaration(named-type(name) assignment(name call(name arguments))) with(declaration(pointer-type(predefined-type) assignment(name name)) block)",
        ),
        (
            "checked { } unsafe { a(); } goto end; end: a(); goto case 3; goto default; yield return 1; yield break; return; break; continue; ;",
            "expression-statement(block-expression(block)) expression-statement(block-expression(block(expression-statement(call(name arguments))))) goto(name) labeled(name expression-statement(call(name arguments))) goto(number) goto yield(number) return return break continue pass",
        ),
        (
            "switch (a) { case 1: case > 3 when b: c(); break; case int x: default: d(); break; } switch (a, b) { }",
            "match(name case(number) case(relational-pattern(number) name block(expression-statement(call(name arguments)) break)) case(capture-pattern(predefined-type name)) case(block(expression-statement(call(name arguments)) break))) match(tuple(name name))",
        ),
        (
            "int f<T>(T a) where T : struct => 1; static async Task g() { } [A] void h(int a = 1) { }",
            "function(predefined-type name type-parameters(type-parameter(name)) parameters(parameter(named-type(name) name)) where-clause(name predefined-type) number) function(named-type(name) name parameters block) function(attribute-section(decorator(named-type(name))) predefined-type name parameters(parameter(predefined-type name number)) block)",
        ),
    ] {
        assert_eq!(of_body(source), expected, "{source}");
    }
}

#[test]
fn expressions_have_their_parts() {
    for (source, expected) in [
        ("a ? b : c ?? d ?? e || f && g", "conditional(name name logical(name name logical(name logical(name name))))"),
        (
            "a = b += c ??= d >>>= e",
            "assignment(name compound-assignment(name compound-assignment(name compound-assignment(name name))))",
        ),
        (
            "a + b * c - (d << 2 >> 1 & 3) == e < f",
            "comparison(binary(binary(name binary(name name)) group(binary(binary(binary(name number) number) number))) comparison(name name))",
        ),
        ("a is int ? b : c", "conditional(comparison(name predefined-type) name name)"),
        (
            "a is Quay { Depth: > 3, Name.Length: 4 or 5 } q && b is not (1, var c) and [1, .., _]",
            "logical(comparison(name class-pattern(named-type(name) keyword-pattern(name relational-pattern(number)) keyword-pattern(member(name name) or-pattern(number number)) name)) comparison(name and-pattern(not-pattern(class-pattern(number capture-pattern(named-type(name) name))) sequence-pattern(number star-pattern wildcard-pattern))))",
        ),
        ("a as int? ?? b", "logical(cast(name optional-type(predefined-type)) name)"),
        (
            "a switch { 1 or 2 => b, int n when n > 3 => c, A.B => d, { } => e, _ => throw f }",
            "match(name case(or-pattern(number number) name) case(capture-pattern(predefined-type name) comparison(name number) name) case(member(name name) name) case(class-pattern name) case(wildcard-pattern throw(name)))",
        ),
        (
            "(int)-a + (A)b + (c) - d + (A<B>)~e",
            "binary(binary(binary(binary(cast(predefined-type unary(name)) cast(named-type(name) name)) group(name)) name) cast(named-type(name type-arguments(named-type(name))) unary(name)))",
        ),
        (
            "f<int, A<B>>(1) + (a < b ? 1 : 2)",
            "binary(call(name type-arguments(predefined-type named-type(name type-arguments(named-type(name)))) arguments(number)) group(conditional(comparison(name name) number number)))",
        ),
        (
            "F(a < b, c > d, out var e, out int g, ref h, name: 1)",
            "call(name arguments(comparison(name name) comparison(name name) unary(capture-pattern(named-type(name) name)) unary(capture-pattern(predefined-type name)) unary(name) keyword-argument(name number)))",
        ),
        ("x => x + 1", "lambda(parameters(parameter(name)) binary(name number))"),
        (
            "async (int a, ref B b) => { await c; }",
            "lambda(parameters(parameter(predefined-type name) parameter(named-type(name) name)) block(expression-statement(await(name))))",
        ),
        (
            "static (a, _) => (a, b: 2)",
            "lambda(parameters(parameter(name) parameter(name)) tuple(name keyword-argument(name number)))",
        ),
        ("int (int x = 1) => x", "lambda(predefined-type parameters(parameter(predefined-type name number)) name)"),
        ("delegate (int a) { return; }", "lambda(parameters(parameter(predefined-type name)) block(return))"),
        (
            "new Quay(1) { A = 1, [2] = b, C = { D = 3 }, E = { 4, { 5, 6 } } }",
            "new(named-type(name) arguments(number) composite(keyword-argument(name number) pair(arguments(number) name) keyword-argument(name composite(keyword-argument(name number))) keyword-argument(name composite(number composite(number number)))))",
        ),
        ("new { a, b.c, D = 1 }", "new(composite(name member(name name) keyword-argument(name number)))"),
        (
            "new[] { 1, 2 } ?? new int[2, 3][] ?? new int?[] { } ?? new() ?? new(1) { A = 2 }",
            "logical(new(list(number number)) new(predefined-type number number) new(optional-type(predefined-type) list) new(arguments) new(arguments(number) composite(keyword-argument(name number))))",
        ),
        ("stackalloc int[3]", "new(predefined-type number)"),
        (
            "[1, ..a, 2..^3] + a[..] + a[1..]",
            "binary(binary(list(number spread(name) range(number unary(number))) subscript(name range)) subscript(name range(number)))",
        ),
        (
            "a?.b?[0]?.c<int>().d!.e->f[1, 2]++",
            "update(subscript(member(member(non-null(member(call(member(subscript(member(name name) number) name) type-arguments(predefined-type) arguments) name)) name) name) number number))",
        ),
        (
            r##"$"low {a,5:F2} {{x}} {(b ? 1 : 2)} {$"in {c}"}""##,
            "format-string(interpolation(name number format-spec) interpolation(group(conditional(name number number))) interpolation(format-string(interpolation(name))))",
        ),
        (r##"$$"""{{a}} {b}""""##, "format-string(interpolation(name))"),
        (
            "typeof(List<,>) + sizeof(int) + default(A) + default + nameof(a) + checked(b)",
            "binary(binary(binary(binary(binary(type-question(named-type(name type-arguments)) type-question(predefined-type)) type-question(named-type(name))) type-question) call(name arguments(name))) unary(group(name)))",
        ),
        (
            "from int x in xs where a let y = b orderby c descending, d join z in zs on e equals f into g group h by i into j select k",
            "query(query-clause(predefined-type name name) query-clause(name) query-clause(name name) query-clause(name name) query-clause(name name name name) query-clause(name) query-clause(name name) query-clause(name) query-clause(name))",
        ),
        ("tide with { Depth = 2 }", "changed-copy(name composite(keyword-argument(name number)))"),
        (
            "global::A.b + int.Parse(c) + base.D + this[1]",
            "binary(binary(binary(member(path(name name) name) call(member(predefined-type name) arguments(name))) member(super name)) subscript(this number))",
        ),
        (
            "(a, var b, (int c, d)) == e",
            "comparison(tuple(name capture-pattern(named-type(name) name) tuple(capture-pattern(predefined-type name) name)) name)",
        ),
        (
            "await f(-a, !b, ~c, &d, *e, ++g, ^1)",
            "await(call(name arguments(unary(name) unary(name) unary(name) unary(name) unary(name) update(name) unary(number))))",
        ),
    ] {
        assert_eq!(of_expression(source), expected, "{source}");
    }
}

/// What depends on the preprocessor is all parsed where each branch is whole; else one branch is.
#[test]
fn branches_are_parsed_as_far_as_they_are_whole() {
    let source = "class Quay {\n#if TIDES\n    int tide;\n#else\n    int berth;\n#endif\n}\n";
    assert_eq!(of_file(source), "class(name block(field(predefined-type name) field(predefined-type name)))");
    for (source, expected, left_out) in [
        ("#if TIDES\nclass Quay : Tide\n#else\nclass Quay\n#endif\n{ }\n", "class(name block)", "class Quay : Tide\n"),
        (
            "#define TIDES\n#if TIDES\nclass Quay : Tide\n#else\nclass Quay\n#endif\n{ }\n",
            "class(name heritage(named-type(name)) block)",
            "class Quay\n",
        ),
        (
            "#if NOTES\nOnce it's low, we don't sail.\n#endif\nclass Quay;\n",
            "class(name)",
            "Once it's low, we don't sail.\n",
        ),
        (
            "class Quay {\n#if !TIDES\n    void F() {\n#else\n    void G() {\n#endif\n    }\n}\n",
            "class(name block(function(predefined-type name parameters block)))",
            "    void G() {\n",
        ),
    ] {
        assert_eq!(of_file(source), expected, "{source}");
        let (text, tree) = csharp(source);
        let tokens = tree.tokens_with_spans(0..tree.tokens().len() as u32);
        let found: Vec<&str> =
            tokens.filter(|(_, kind, _)| *kind == TokenKind::LeftOut).map(|(_, _, span)| text.slice(span)).collect();
        assert_eq!(found, [left_out], "{source}");
    }
}

/// One mistake is one fault, at its place, and what is around it is understood.
#[test]
fn mistakes_are_told_one_by_one() {
    for (source, expected) in [
        ("class A { void F() { int a = ; } }\n", "1:30 expected a value, found ';'"),
        ("class A { void F() { a b c; } }\n", "1:26 expected ';', found a name"),
        ("class A { void F() { G(1; H(); } }\n", "1:25 expected ')', found ';'"),
        ("class A { void F() { 1 + 2; } }\n", "1:22 this is no statement"),
        ("class A { void F() { if (a) int b = 1; } }\n", "1:29 a declaration or a label needs a block around it"),
        ("class A { void F() { if a { } } }\n", "1:25 expected '(', found a name"),
        ("class A { void F() { try { } } }\n", "1:22 a 'try' needs a handler or a 'finally'"),
        ("class A { public public int a; }\n", "1:18 this modifier is there already"),
        ("namespace A { int a; }\n", "1:15 expected a declaration, found the name of a primitive type"),
        ("class A { int a }\n", "1:17 expected ';', found '}'"),
        ("class A { void a; }\n", "1:17 expected '(', found ';'"),
        ("class A { void F(void a) { } }\n", "1:18 no value has the type 'void'"),
        ("class A { int B { get; sett; } }\n", "1:24 expected 'get', 'set' or 'init', found a name"),
        ("class A { char a = 'low'; }\n", "1:20 single quotes hold one character"),
        ("class A { string a = \"\\q\"; }\n", "1:23 there is no such escape"),
        ("class A { int a = 1_; }\n", "1:19 an underscore must stand between two digits"),
        ("class A { void F() { a + b = c; } }\n", "1:28 only a variable can be assigned to"),
        ("class A { object a = from b in c where d; }\n", "1:41 expected 'select' or 'group', found ';'"),
        ("class A { string a = $\"{b}}\"; }\n", "1:27 this brace closes no hole"),
        ("#endif\n", "1:1 there is no '#if' before this '#endif'"),
        ("#if A &&\n#endif\n", "1:1 this condition cannot be read"),
        ("#quay\n", "1:1 there is no such directive"),
        ("/* low\n", "1:1 the comment is never closed"),
        ("class A { string a = \"low; }\n", "1:9 '{' is never closed"),
        ("class A { void F() { low\n", "1:9 '{' is never closed"),
    ] {
        let (text, tree) = csharp(&format!("{source}class Z {{ }}\n"));
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
    let in_body = |inner: String| format!("class A {{ void F() {{\n{inner}");
    for piece in [
        "class A {",
        "}",
        "[A]",
        "[A(",
        "using a.",
        "/**/",
        "\"a\n",
        "'",
        "\"\"\"",
        "\"\"\"\"a",
        "$\"{",
        "$@\"{a:",
        "$$\"\"\"{{",
        "@\"",
        "1_",
        "namespace a {",
        "#if A\n",
        "#if A\n#else\n",
        "#endif\n",
        "#if !(\n#endif\n",
        "#region\n",
        "\u{1a}",
        "\u{1a} ",
        "#",
        " #",
        "class A { int B {",
        "class A { int a; ",
        "enum A { B = ",
    ] {
        csharp(&repeated(piece));
    }
    for piece in [
        "{",
        "if (a) ",
        "if (a) { } else ",
        "for (;;) ",
        "foreach (var a in ",
        "while (a) ",
        "do ",
        "try {",
        "switch (a) { case b: ",
        "a switch { b => ",
        "lock (a) {",
        "using (a) ",
        "a: ",
        "(",
        "(int) ",
        "(a)",
        "((",
        "(a, ",
        "a(",
        "-",
        "!",
        "a ? ",
        "a?[",
        "a = ",
        "b => ",
        "(b) => ",
        "async ",
        "async (",
        "new A(",
        "new A { B = ",
        "new int[",
        "new (",
        "A<",
        "A<B<",
        "a < b > ",
        "a.b.",
        "await ",
        "a is ",
        "a is not ",
        "a is (",
        "a is { b: ",
        "a is b or ",
        "case a when ",
        "from a in b ",
        "from a in ",
        "delegate { ",
        "[",
        "[..",
        "a..",
        "$\"{a + ",
        "a ?? ",
        "throw ",
        "var (",
        "int F() { ",
        "static ",
        "ref ",
        "a with { b = ",
        "a as b? ",
    ] {
        csharp(&in_body(repeated(piece)));
        Language::CSharp.parse_expression(&repeated(piece));
    }
}

const PIECES: &[&str] = &[
    "class ",
    "struct ",
    "record ",
    "interface ",
    "enum ",
    "delegate ",
    "namespace ",
    "using ",
    "A",
    "b",
    "<",
    ">",
    "(",
    ")",
    "[",
    "]",
    "{",
    "}",
    ";",
    ",",
    ".",
    "?.",
    "?",
    "??",
    ":",
    "::",
    "=>",
    "=",
    "==",
    "+=",
    "!",
    "..",
    "*",
    "&",
    "&&",
    "|",
    "-",
    "++",
    "1",
    "'c'",
    "\"s\"",
    "@\"v\"",
    "$\"",
    "$@\"",
    "\"\"\"",
    "$\"\"\"",
    "{a",
    "}\"",
    "int ",
    "void ",
    "var ",
    "new ",
    "this",
    "base",
    "is ",
    "as ",
    "not ",
    "and ",
    "or ",
    "when ",
    "switch ",
    "case ",
    "default",
    "if ",
    "else ",
    "for ",
    "foreach ",
    "in ",
    "while ",
    "do ",
    "try ",
    "catch ",
    "finally ",
    "return ",
    "throw ",
    "yield ",
    "await ",
    "async ",
    "static ",
    "public ",
    "ref ",
    "out ",
    "params ",
    "where ",
    "from ",
    "select ",
    "operator ",
    "implicit ",
    "event ",
    "get",
    "set",
    "typeof",
    "stackalloc ",
    "fixed ",
    "unsafe ",
    "checked",
    "\n#if A\n",
    "\n#else\n",
    "\n#endif\n",
    "\n#region\n",
    "// c\n",
    "/*",
    "*/",
    " ",
    "\n",
    "\\u0041",
    "é",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_text_gives_a_sound_tree(source in "\\PC{0,80}", pieces in prop::collection::vec(prop::sample::select(PIECES), 0..40)) {
        for source in [source, pieces.concat(), format!("class A {{ void F() {{\n{}\n}} }}\n", pieces.concat())] {
            csharp(&source);
        }
    }

    /// A mistake goes no further than the member that it is in.
    #[test]
    fn members_stay_what_they_are_before_any_text(pieces in prop::collection::vec(prop::sample::select(PIECES), 0..12)) {
        let pieces: Vec<&str> = pieces.into_iter().filter(|piece| !piece.contains('#')).collect();
        let (_, tree) = csharp(&format!("class A {{\n    int low = 1;\n\n    void F() {{ }}\n\n{}", pieces.concat()));
        let body = tree.nodes().find(|node| node.kind() == Kind::Block).expect("a body");
        let first: Vec<String> = body.children().take(2).map(shape).collect();
        prop_assert_eq!(first, ["field(predefined-type assignment(name number))", "function(predefined-type name parameters block)"]);
    }
}
