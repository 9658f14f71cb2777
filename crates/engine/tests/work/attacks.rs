//! Sources that are large in one way only.

/// A source of a size.
pub type Make = fn(usize) -> String;

fn repeated(size: usize, each: impl Fn(usize) -> String) -> String {
    (0..size).map(each).collect()
}

fn joined(size: usize, between: &str, each: impl Fn(usize) -> String) -> String {
    (0..size).map(each).collect::<Vec<_>>().join(between)
}

/// Name, ending, size and source.
pub const ATTACKS: &[(&str, &str, usize, Make)] = &[
    ("imports on one line", "py", 2500, |n| joined(n, "; ", |i| format!("import m{i}")) + "\n"),
    ("unused imports", "py", 5000, |n| repeated(n, |i| format!("import m{i}\n"))),
    ("repeated imports", "py", 5000, |n| repeated(n, |_| "import m\n".into())),
    ("a long import list", "py", 5000, |n| format!("from m import ({})\n", joined(n, ", ", |i| format!("a{i}")))),
    ("script imports", "ts", 3000, |n| repeated(n, |i| format!("import {{ a{i} }} from './m{i}';\n"))),
    ("an export list", "ts", 3000, |n| {
        repeated(n, |i| format!("const a{i} = {i};\n"))
            + &format!("export {{ {} }};\n", joined(n, ", ", |i| format!("a{i}")))
    }),
    ("a chain of conditions", "js", 3000, |n| format!("x = {};\n", joined(n, " && ", |i| format!("a{i}")))),
    ("undefined names on a line", "js", 3000, |n| repeated(n, |i| format!("u{i}(); ")) + "\nexport {};\n"),
    ("arrows on a line", "js", 3000, |n| repeated(n, |_| "f(x => x); ".into()) + "\n"),
    ("else if", "js", 2000, |n| {
        "if (a) { b(); }".to_string() + &repeated(n, |i| format!(" else if (a{i}) {{ b{i}(); }}")) + "\n"
    }),
    ("elif", "py", 2000, |n| "if a:\n    b()\n".to_string() + &repeated(n, |i| format!("elif a{i}:\n    b{i}()\n"))),
    ("mutable defaults", "py", 2500, |n| {
        format!("def f({}):\n    return a0\n", joined(n, ", ", |i| format!("a{i}=[]")))
    }),
    ("tuple targets", "py", 5000, |n| joined(n, ", ", |i| format!("a{i}")) + " = x\n"),
    ("joined queries", "py", 1500, |n| format!("c.execute({})\n", joined(n, " + ", |i| format!("\"select \" + a{i}")))),
    ("joined markup", "js", 1500, |n| format!("x.innerHTML = {};\n", joined(n, " + ", |i| format!("\"<b>\" + a{i}")))),
    ("removals", "sh", 3000, |n| "#!/bin/sh\nset -e\n".to_string() + &"rm -rf $x/*\n".repeat(n)),
    ("quoted patterns", "sh", 2000, |n| {
        "#!/bin/bash\n".to_string() + &repeated(n, |i| format!("[[ $a == \"q{i}/*\" ]] && b{i}\n"))
    }),
    ("random numbers", "sh", 3000, |n| "#!/bin/sh\n".to_string() + &repeated(n, |i| format!("echo $RANDOM q{i}\n"))),
    ("features behind one condition", "sh", 2000, |n| {
        let test = joined(n, " || ", |i| format!("[ $a{i} ]"));
        format!("#!/bin/sh\nif {test}; then\n{}fi\n", repeated(n, |i| format!("  [[ $b{i} ]]\n")))
    }),
    ("lengths in one condition", "js", 2000, |n| {
        format!("export const x = (a) => {};\n", joined(n, " || ", |i| format!("a.b{i}.length < 0")))
    }),
    ("loops that change what they go over", "py", 1500, |n| {
        "def f(a):\n".to_string() + &repeated(n, |_| "    for b in a:\n        a.remove(b)\n".into())
    }),
    ("changes where an error is expected", "py", 1500, |n| {
        let expected = format!("raises({})", joined(n, ", ", |i| format!("E{i}")));
        format!(
            "def f(a):\n    with {expected}:\n{}",
            repeated(n, |_| "        for b in a:\n            a.remove(b)\n".into())
        )
    }),
    ("attributes around variables", "rs", 1500, |n| {
        let attributes = repeated(n, |i| format!("#[a{i}]\n"));
        format!("{attributes}fn f() {{\n{}}}\n", repeated(n, |i| format!("    let a{i} = {i};\n")))
    }),
    ("annotations around members", "java", 1500, |n| {
        let annotations = repeated(n, |i| format!("@A{i}\n"));
        format!("{annotations}class B {{\n{}}}\n", repeated(n, |i| format!("    private int a{i}() {{ return 3; }}\n")))
    }),
    ("names in one declaration under a long comment", "go", 1500, |n| {
        let comment = repeated(n, |i| format!("// a: {i}\n"));
        format!("package a\n\n{comment}var {} int\n", joined(n, ", ", |i| format!("a{i}")))
    }),
    ("names under a long comment", "go", 1500, |n| {
        let comment = repeated(n, |i| format!("// a: {i}\n"));
        format!("package a\n\n{comment}var (\n{})\n", repeated(n, |i| format!("\ta{i} int\n")))
    }),
    ("case patterns", "sh", 3000, |n| {
        format!("#!/bin/sh\ncase $1 in\n{}) b ;;\nesac\n", joined(n, "|", |i| format!("a{i}")))
    }),
    ("a long line of commands", "sh", 3000, |n| format!("#!/bin/sh\n{}\n", joined(n, "; ", |i| format!("echo $a{i}")))),
    ("waivers", "py", 3000, |n| repeated(n, |i| format!("import m{i}  # sieve: waive unused-import because x{i}\n"))),
    ("pauses", "py", 3000, |n| repeated(n, |i| format!("# sieve: pause unused-import because x{i}\nimport m{i}\n"))),
    ("a comment of long lines", "js", 1500, |n| {
        format!(
            "/*\n{}*/\nsail();\n",
            repeated(n, |_| " * the tide is low and the boat waits for it at the quay; ".repeat(4) + "\n")
        )
    }),
    ("nested blocks", "js", 150, |n| repeated(n, |i| format!("if (a{i}) {{\n")) + "b();\n" + &"}\n".repeat(n)),
    ("imported types", "java", 3000, |n| repeated(n, |i| format!("import a.b.T{i};\n"))),
    ("private fields", "java", 2000, |n| {
        format!("class A {{\n{}}}\n", repeated(n, |i| format!("    private int a{i};\n")))
    }),
    ("members of one object", "java", 2000, |n| {
        format!(
            "class A {{\n    int a;\n    void f(A b) {{\n{}    }}\n}}\n",
            repeated(n, |_| "        b.a = b.f(b.a);\n".into())
        )
    }),
    ("tests of types in a condition", "java", 500, |n| {
        let tests = joined(n, " || ", |i| format!("!(b instanceof A a{i})"));
        format!("class A {{\n    void f(Object b) {{\n        if ({tests}) return;\n        f(a0);\n    }}\n}}\n")
    }),
    ("strings that grow in one loop", "java", 1500, |n| {
        let declared = repeated(n, |i| format!("String s{i} = \"\";\n"));
        let grown = repeated(n, |i| format!("s{i} += a;\n"));
        format!("class Quay {{ void f(String a) {{\n{declared}while (b()) {{\n{grown}break;\n}} }} }}\n")
    }),
    ("one string that grows in many loops", "go", 1500, |n| {
        let loops = repeated(n, |_| "for a() {\n\ts += b\n\ts = c\n}\n".to_string());
        format!("package quay\n\nfunc f(b, c string) {{\n\ts := \"\"\n{loops}}}\n")
    }),
    ("aliases", "cs", 3000, |n| repeated(n, |i| format!("using T{i} = A.B.T{i};\n"))),
    ("namespaces", "cs", 1500, |n| repeated(n, |i| format!("namespace A.B{i} {{ class T{i} {{ A.B0.T0 t; }} }}\n"))),
    ("parts of one type", "cs", 1000, |n| {
        repeated(n, |i| format!("partial class Boat {{ private int t{i}; int F{i}() => t{i} + t0; }}\n"))
    }),
    ("private members", "cs", 2000, |n| {
        format!("class Boat {{\n{}}}\n", repeated(n, |i| format!("private int t{i} {{ get; }}\nint F{i}() => 3;\n")))
    }),
    ("attributes", "cs", 1500, |n| {
        repeated(n, |i| format!("class T{i}Attribute : Attribute {{}}\n[T{i}] class U{i} {{}}\n"))
    }),
    ("values with the names of their types", "cs", 1500, |n| {
        repeated(n, |i| format!("class T{i} {{ static int Low; T{i} T{i} => T{i}.Low == 3 ? null : T{i}; }}\n"))
    }),
    ("parts of tuples", "cs", 1500, |n| {
        let parts = repeated(n, |i| format!("var t{i} = (a, b{i}: t.a);\n"));
        format!("class Boat {{ void F(int a) {{\n{parts}}} }}\n")
    }),
    ("cases with patterns", "cs", 1500, |n| {
        let cases = repeated(n, |i| format!("case T{i} t when t.Low is var u{i}: F(t); break;\n"));
        format!("class Boat {{ void F(object o) {{ switch (o) {{\n{cases}}} }} }}\n")
    }),
    ("code that is left out", "cs", 800, |n| {
        repeated(n, |i| format!("class T{i} {{ int a;\n#if OPEN\nint b() {{\n#endif\n}}\n"))
    }),
    ("types within types", "java", 60, |n| {
        repeated(n, |i| format!("class A{i} extends B {{\nint a = b;\n")) + &"}\n".repeat(n)
    }),
    ("one name again and again", "rs", 2000, |n| {
        format!("fn f(a: u8) {{\n{}    g(a);\n}}\n", repeated(n, |_| "    let a = a + 1;\n".into()))
    }),
    ("let in a condition", "rs", 500, |n| {
        let tests = joined(n, " && ", |i| format!("let Some(a{i}) = b"));
        format!("fn f(b: Option<u8>) {{\n    if {tests} {{\n        f(a0);\n    }}\n}}\n")
    }),
    ("words in macros", "rs", 2000, |n| {
        format!(
            "fn f(a: u8) {{\n    println!(\"{}\", {});\n}}\n",
            repeated(n, |_| "{a}{}".into()),
            joined(n, ", ", |_| "a".into())
        )
    }),
    ("a long path", "rs", 3000, |n| {
        format!(
            "use {};\nfn f() {{ {}() }}\n",
            joined(n, "::", |i| format!("a{i}")),
            joined(n, "::", |i| format!("a{i}"))
        )
    }),
    ("paths in braces", "rs", 2000, |n| format!("use a::{{{}}};\n", joined(n, ", ", |i| format!("b{i}::c")))),
];
