//! Go: what sources are made of, what is wrong with some, what the language's own parser makes of real ones, hostile texts.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

use proptest::prelude::*;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use crate::listed::{below, faults, parsed, parsed_source, told, unequal};
use crate::shape::{assert_roles, shape};

fn go(source: &str) -> (Text, Tree) {
    let (text, tree) = parsed_source(Language::Go, source.to_string());
    assert_roles(&tree);
    (text, tree)
}

/// The shape of what is behind the name of the package.
#[track_caller]
fn of_file(source: &str) -> String {
    let (text, tree) = go(&format!("package tide\n{source}"));
    assert_eq!(faults(&text, &tree), [""; 0], "{source}");
    tree.root().children().skip(1).map(shape).collect::<Vec<_>>().join(" ")
}

/// The shape of the statements of a function.
#[track_caller]
fn of_body(source: &str) -> String {
    let (text, tree) = go(&format!("package tide\nfunc f() {{\n{source}\n}}\n"));
    assert_eq!(faults(&text, &tree), [""; 0], "{source}");
    let body = tree.nodes().find(|node| node.kind() == Kind::Block).expect("a body");
    body.children().map(shape).collect::<Vec<_>>().join(" ")
}

#[test]
fn declarations_have_their_parts() {
    for (source, expected) in [
        ("import \"fmt\"", "import(import-item(string))"),
        ("import (\n\t. \"fmt\"\n\tq \"quay/q\"\n)", "import(import-item(import-all string) import-item(name string))"),
        ("const low, high = 1, 2.5e3", "declaration(assignment(name name number number))"),
        ("const (\n\ta = iota\n\tb\n)", "declaration(assignment(name name) assignment(name))"),
        ("var tide *int = nil", "declaration(annotated-assignment(name pointer-type(named-type(name)) name))"),
        ("type Quay struct{}", "declaration(type-definition(name object-type))"),
        ("type Quay = a.Berth", "declaration(type-alias(name named-type(member(name name))))"),
        ("type Row [3]int", "declaration(type-definition(name array-type(number named-type(name))))"),
        ("type Row [N]int", "declaration(type-definition(name array-type(name named-type(name))))"),
        ("type Row [N * 2]int", "declaration(type-definition(name array-type(binary(name number) named-type(name))))"),
        (
            "type List[T any, K ~int | string] []T",
            "declaration(type-definition(name type-parameters(type-parameter(name named-type(name)) type-parameter(name union-type(type-operator(named-type(name)) named-type(name)))) array-type(named-type(name))))",
        ),
        (
            "type P[T *C,] struct{}",
            "declaration(type-definition(name type-parameters(type-parameter(name pointer-type(named-type(name)))) object-type))",
        ),
        (
            "type Quay struct {\n\ta, b int `low:\"1\"`\n\t*Berth\n\tq.Pier\n\tList[int]\n\tc [2]int\n}",
            "declaration(type-definition(name object-type(field(name name named-type(name) string) field(pointer-type(named-type(name))) field(named-type(member(name name))) field(named-type(name type-arguments(named-type(name)))) field(name array-type(number named-type(name))))))",
        ),
        (
            "type Tide interface {\n\tLow(day int) (int, error)\n\tfmt.Stringer\n\t~int | ~string\n}",
            "declaration(type-definition(name interface-type(function(name parameters(parameter(name named-type(name))) parameters(parameter(named-type(name)) parameter(named-type(name)))) named-type(member(name name)) union-type(type-operator(named-type(name)) type-operator(named-type(name))))))",
        ),
        ("func sail()", "function(name parameters)"),
        (
            "func (b *Boat) Sail(to, from string, days ...int) error { return nil }",
            "function(parameters(parameter(name pointer-type(named-type(name)))) name parameters(parameter(name name named-type(name)) parameter(name rest-type(named-type(name)))) named-type(name) block(return(name)))",
        ),
        (
            "func low(int, []string, map[string]chan<- int) <-chan int {}",
            "function(name parameters(parameter(named-type(name)) parameter(array-type(named-type(name))) parameter(map-type(named-type(name) channel-type(named-type(name))))) channel-type(named-type(name)) block)",
        ),
        (
            "func Map[T, U any](f func(T) U) {}",
            "function(name type-parameters(type-parameter(name name named-type(name))) parameters(parameter(name function-type(parameters(parameter(named-type(name))) named-type(name)))) block)",
        ),
    ] {
        assert_eq!(of_file(source), expected, "{source}");
    }
}

#[test]
fn statements_have_their_parts() {
    for (source, expected) in [
        ("a, b := f()", "short-declaration(name name call(name arguments))"),
        ("a.b[0] = 1", "assignment(subscript(member(name name) number) number)"),
        ("a &^= 1; b++", "compound-assignment(name number) update(name)"),
        ("c <- 1\n<-c", "send(name number) expression-statement(unary(name))"),
        (
            "if a := f(); a > 0 {\n} else if b {\n} else {\n}",
            "if(short-declaration(name call(name arguments)) comparison(name number) block if(name block block))",
        ),
        ("if v == (T{1}) {\n}", "if(comparison(name group(composite(name number))) block)"),
        ("for {\n}\nfor a {\n}", "for(block) for(name block)"),
        (
            "for i := 0; i < 3; i++ {\n}",
            "for(short-declaration(name number) comparison(name number) update(name) block)",
        ),
        ("for ; ; {\n}", "for(block)"),
        ("for i, q := range quays {\n}", "for(name name name block)"),
        ("for range 10 {\n}", "for(number block)"),
        (
            "switch x := f(); x {\ncase 1, 2:\n\tg()\n\tfallthrough\ndefault:\n}",
            "match(short-declaration(name call(name arguments)) name case(number number block(expression-statement(call(name arguments)) fallthrough)) case)",
        ),
        (
            "switch q := v.(type) {\ncase *Quay, nil:\n}",
            "match(short-declaration(name type-guard(name)) case(pointer-type(named-type(name)) named-type(name)))",
        ),
        (
            "select {\ncase a := <-c:\ncase d <- 1:\ndefault:\n}",
            "select(case(short-declaration(name unary(name))) case(send(name number)) case)",
        ),
        (
            "defer close(c)\ngo func() {}()",
            "defer(call(name arguments(name))) go-statement(call(lambda(parameters block) arguments))",
        ),
        ("low: for { break low }", "labeled(name for(block(break(name))))"),
        ("low:\n;\nf()", "labeled(name) expression-statement(call(name arguments))"),
        ("goto low\nlow:", "goto(name) labeled(name)"),
        (
            "{\n\tvar a int\n}\nreturn 1, 2",
            "block(declaration(annotated-assignment(name named-type(name)))) return(number number)",
        ),
    ] {
        assert_eq!(of_body(source), expected, "{source}");
    }
}

#[test]
fn expressions_have_their_parts() {
    for (source, expected) in [
        ("a + b*c - d", "binary(binary(name binary(name name)) name)"),
        ("a && b && c || d", "logical(logical(name name name) name)"),
        ("-a &^ ^b", "binary(unary(name) unary(name))"),
        ("'a' + '\\n' + 0x1p-2 + 3i", "binary(binary(binary(character character) number) number)"),
        ("a[1:2:3]", "subscript(name slice(number number number))"),
        ("a[:]", "subscript(name slice)"),
        ("f(a, b...)", "call(name arguments(name spread(name)))"),
        ("v.(*Quay).low", "member(cast(name pointer-type(named-type(name))) name)"),
        ("[]int{1, 2}", "composite(array-type(named-type(name)) number number)"),
        (
            "map[string]Quay{\"a\": {1}, b: {}}",
            "composite(map-type(named-type(name) named-type(name)) pair(string composite(number)) pair(name composite))",
        ),
        ("[...]string{3: `low`}", "composite(array-type(named-type(name)) pair(number string))"),
        ("&q.Quay{low: 1}", "unary(composite(member(name name) pair(name number)))"),
        ("List[int]{1}", "composite(subscript(name name) number)"),
        ("Map[int, string](f)", "call(subscript(name name name) arguments(name))"),
        ("[]byte(a)", "call(array-type(named-type(name)) arguments(name))"),
        ("(<-chan int)(c)", "call(group(channel-type(named-type(name))) arguments(name))"),
        ("struct{}{}", "composite(object-type)"),
        (
            "func(a int) int { return a }(1)",
            "call(lambda(parameters(parameter(name named-type(name))) named-type(name) block(return(name))) arguments(number))",
        ),
        ("make(chan struct{}, 1)", "call(name arguments(channel-type(object-type) number))"),
    ] {
        assert_eq!(of_body(&format!("_ = {source}")), format!("assignment(name {expected})"), "{source}");
    }
}

/// One mistake is one fault, at its place, and what is around it is understood.
#[test]
fn mistakes_are_told_one_by_one() {
    for (source, expected) in [
        ("func f() {\n\tx := \n}\nfunc g() {}\n", "4:1 expected a value, found '}'"),
        ("func f() {\n\tif {\n\t}\n}\nfunc g() {}\n", "3:5 the condition is missing"),
        ("func f() {\n\tif x = 1 {\n\t}\n}\nfunc g() {}\n", "3:11 a condition is a value"),
        ("func f() {\n\ta.b := 1\n}\nfunc g() {}\n", "3:6 only names are declared by ':='"),
        ("func f() {\n\tg(1\n}\nfunc g() {}\n", "3:5 expected ')', found the end of the line"),
        ("func f() {\n\tx = 1 2\n}\nfunc g() {}\n", "3:8 expected the end of the line, found a number"),
        ("func f() {\n\tdefer x\n}\nfunc g() {}\n", "3:8 only a call can be here"),
        ("func f() {\n\tx()\nfunc g() {}\n", "2:10 '{' is never closed"),
        ("var a\nfunc g() {}\n", "2:5 a variable needs a type or a value"),
        ("const (\n\ta\n)\nfunc g() {}\n", "3:2 a constant needs a value"),
        ("x := 1\nfunc g() {}\n", "2:1 expected a declaration, found a name"),
        ("func f(a int, string) {}\nfunc g() {}\n", "2:21 either all parameters have names, or none has"),
        ("func (a T) f[P any]() {}\nfunc g() {}\n", "2:13 a method has no type parameters of its own"),
        ("import \"\"\nfunc g() {}\n", "2:8 this is no path of a package"),
        ("var a = \"low\nfunc g() {}\n", "2:9 the string is never closed"),
        ("var a = '' + 09 + 0x + 1__0 + '\\q'\nfunc g() {}\n", "2:9 single quotes hold one character"),
        ("func g() {}\n/* low", "3:1 the comment is never closed"),
        ("var a [...]int\nfunc g() {}\n", "2:8 only a literal leaves the length of its array open"),
        ("var a = []int + 1\nfunc g() {}\n", "2:9 a type is no value"),
        ("}\nfunc g() {}\n", "2:1 expected a declaration, found '}'"),
    ] {
        let (text, tree) = go(&format!("package tide\n{source}"));
        let all = faults(&text, &tree);
        assert_eq!(all.first().map(String::as_str), Some(expected), "{source}");
        let numbers = source.contains("09");
        assert!(all.len() == 1 || numbers && all.len() == 5, "{source}: {all:?}");
        let last = tree.root().children().last().expect("a function");
        assert_eq!(shape(last), "function(name parameters block)", "{source}");
    }
}

/// Where the library of the language is, with its tests.
pub fn library() -> Vec<PathBuf> {
    let installed = std::fs::read_dir("/usr/share").into_iter().flatten().flatten();
    let is_library = |name: &std::ffi::OsStr| name.to_string_lossy().starts_with("go-");
    let folders = installed.filter(|entry| is_library(&entry.file_name())).map(|entry| entry.path());
    below(folders.collect(), &["go"], "golang-src is not installed")
}

/// What the language's own parser says of files: whether it accepts each, and the counts of its nodes.
pub fn verdicts(files: &[PathBuf]) -> Vec<String> {
    let program = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/reference/verdicts.go");
    told("go", &["run", program.to_str().expect("a path")], files)
}

/// How many nodes the language's own parser would count, by its names.
fn counts(tree: &Tree) -> BTreeMap<&'static str, usize> {
    let mut found = BTreeMap::new();
    let mut add = |name: &'static str, count: usize| *found.entry(name).or_insert(0) += count;
    for node in tree.nodes() {
        let in_declaration = node.role() == Role::Item;
        let parent = node.parent().map(NodeRef::kind);
        match node.kind() {
            Kind::Function if parent != Some(Kind::InterfaceType) => add("FuncDecl", 1),
            Kind::Lambda => add("FuncLit", 1),
            Kind::Call => add("CallExpr", 1),
            Kind::Composite => add("CompositeLit", 1),
            Kind::Pair => add("KeyValueExpr", 1),
            Kind::Member => add("SelectorExpr", 1),
            Kind::If => add("IfStmt", 1),
            Kind::For => add("For", 1),
            Kind::Match => add("Switch", 1),
            Kind::Select => add("SelectStmt", 1),
            Kind::Case => add("Case", 1),
            Kind::Return => add("ReturnStmt", 1),
            Kind::Defer => add("DeferStmt", 1),
            Kind::GoStatement => add("GoStmt", 1),
            Kind::Send => add("SendStmt", 1),
            Kind::Update => add("IncDecStmt", 1),
            Kind::Labeled => add("LabeledStmt", 1),
            Kind::Break | Kind::Continue | Kind::Goto | Kind::Fallthrough => add("BranchStmt", 1),
            Kind::Assignment | Kind::AnnotatedAssignment if in_declaration => add("ValueSpec", 1),
            Kind::Assignment | Kind::ShortDeclaration | Kind::CompoundAssignment => add("AssignStmt", 1),
            Kind::TypeDefinition | Kind::TypeAlias => add("TypeSpec", 1),
            Kind::ImportItem => add("ImportSpec", 1),
            Kind::ObjectType => add("StructType", 1),
            Kind::InterfaceType => add("InterfaceType", 1),
            Kind::MapType => add("MapType", 1),
            Kind::ChannelType => add("ChanType", 1),
            Kind::ArrayType => add("ArrayType", 1),
            Kind::Cast | Kind::TypeGuard => add("TypeAssertExpr", 1),
            Kind::Subscript | Kind::TypeArguments => add("Index", 1),
            Kind::Group | Kind::GroupType => add("ParenExpr", 1),
            Kind::Number | Kind::String | Kind::Character => add("BasicLit", 1),
            Kind::Binary | Kind::Comparison => add("BinaryExpr", 1),
            Kind::Logical | Kind::UnionType => add("BinaryExpr", node.children().count() - 1),
            Kind::Unary | Kind::PointerType | Kind::TypeOperator => add("Unary", 1),
            Kind::Name | Kind::ImportAll => add("Ident", 1),
            _ => {}
        }
    }
    found
}

/// The counts of the language's own parser, in the same words.
fn their_counts(said: &str) -> BTreeMap<&'static str, usize> {
    let mut found = BTreeMap::new();
    for (name, count) in said.split(' ').filter_map(|part| part.split_once('=')) {
        let name = match name {
            "ForStmt" | "RangeStmt" => "For",
            "SwitchStmt" | "TypeSwitchStmt" => "Switch",
            "CaseClause" | "CommClause" => "Case",
            "IndexExpr" | "IndexListExpr" | "SliceExpr" => "Index",
            "UnaryExpr" | "StarExpr" => "Unary",
            own => match NAMES.iter().find(|known| **known == own) {
                Some(own) => own,
                None => continue,
            },
        };
        *found.entry(name).or_insert(0) += count.parse::<usize>().expect("a number");
    }
    found
}

const NAMES: &[&str] = &[
    "FuncDecl",
    "FuncLit",
    "CallExpr",
    "CompositeLit",
    "KeyValueExpr",
    "SelectorExpr",
    "IfStmt",
    "SelectStmt",
    "ReturnStmt",
    "DeferStmt",
    "GoStmt",
    "SendStmt",
    "IncDecStmt",
    "LabeledStmt",
    "BranchStmt",
    "ValueSpec",
    "AssignStmt",
    "TypeSpec",
    "ImportSpec",
    "StructType",
    "InterfaceType",
    "MapType",
    "ChanType",
    "ArrayType",
    "TypeAssertExpr",
    "ParenExpr",
    "BasicLit",
    "BinaryExpr",
    "Ident",
];

/// Files that are read otherwise here: the specification forbids a package called `_`, a field in parentheses, `~` before a value, and `[...]` where no
/// elements follow, which is left to the compiler there; parentheses around what limits a type parameter are not kept there; and code is nested deeper than is looked into.
const OTHERWISE: &[&str] = &[
    "/check/blank.go",
    "/test/blank1.go",
    "/check/expr0.go",
    "/fixedbugs/bug280.go",
    "/fixedbugs/bug287.go",
    "/check/decls0.go",
    "/fixedbugs/bug299.go",
    "/fixedbugs/issue49482.go",
    "/fixedbugs/issue2615.go",
    "/fixedbugs/issue29312.go",
];

#[test]
fn the_library_is_what_the_languages_own_parser_makes_of_it() {
    let files = library();
    if files.is_empty() {
        return;
    }
    let mut differ = Vec::new();
    let (mut accepted, mut compared) = (0, 0);
    for (file, theirs) in files.iter().zip(verdicts(&files)) {
        let path = file.to_string_lossy();
        // Bytes that are no text are left out before anything is parsed.
        if OTHERWISE.iter().any(|part| path.contains(part)) || std::fs::read_to_string(file).is_err() {
            continue;
        }
        compared += 1;
        let (text, tree) = parsed(Language::Go, file);
        let ours = faults(&text, &tree);
        match theirs.split_once(' ').unwrap_or((&theirs, "")) {
            ("ok", said) if ours.is_empty() => {
                accepted += 1;
                let wrong = unequal(&counts(&tree), &their_counts(said));
                if !wrong.is_empty() {
                    differ.push(format!("{path}: {}", wrong.join(", ")));
                }
            }
            ("ok", _) => differ.push(format!("{path}: accepted there, {}", ours[0])),
            (_, why) if ours.is_empty() => differ.push(format!("{path}: {why}")),
            _ => {}
        }
    }
    assert!(differ.is_empty(), "{} of {compared}:\n{}", differ.len(), differ.join("\n"));
    assert!(accepted > 2000, "{accepted} of {compared} files are accepted");
}

/// Each would take minutes, or much of the stack, if anything grew faster than the text.
#[test]
fn hostile_texts_are_read_to_their_end() {
    let repeated = |piece: &str| piece.repeat(100_000);
    let in_body = |inner: String| format!("package a\nfunc f() {{\n{inner}");
    for source in [
        repeated("func f() {"),
        repeated("func f() {\n"),
        repeated("}"),
        in_body(repeated("{")),
        in_body(repeated("if a {")),
        in_body(repeated("(")),
        in_body(repeated("[")),
        in_body(repeated("[]")),
        in_body(format!("a = {}", repeated("T{"))),
        in_body(format!("a = {}", repeated("-"))),
        in_body(format!("a = {}", repeated("<-"))),
        in_body(format!("a = {}1", repeated("1+"))),
        in_body(format!("a = {}b", repeated("b&&"))),
        in_body(format!("a{}", repeated(".b"))),
        in_body(format!("a{}", repeated("()"))),
        in_body(format!("a = {}", repeated("func("))),
        in_body(format!("a = {}", repeated("func(a func("))),
        in_body(format!("a = {}", repeated("func() {"))),
        in_body(repeated("a:")),
        in_body(repeated("switch a { case b: ")),
        format!("package a\nvar a {}", repeated("*")),
        format!("package a\nvar a {}", repeated("chan ")),
        format!("package a\nvar a {}", repeated("map[")),
        format!("package a\nvar a {}", repeated("struct { a ")),
        format!("package a\nvar a struct {{{}", repeated("a [b]\n")),
        format!("package a\nfunc f({}", repeated("a [b], ")),
        format!("package a\ntype a[{}", repeated("b, ")),
        format!("package a\ntype {}", repeated("a[b *")),
        format!("package a\nimport ({}", repeated("\"a\"\n")),
        repeated("\"a\n"),
        repeated("`"),
        repeated("'"),
        repeated("/*"),
        repeated("0_"),
        "1".repeat(5_000_000),
    ] {
        go(&source);
    }
}

const PIECES: &[&str] = &[
    "a",
    "b",
    "1",
    "'c'",
    "\"d\"",
    "`e`",
    " ",
    "\n",
    "{",
    "}",
    "[",
    "]",
    "(",
    ")",
    ":=",
    "=",
    "+",
    "-",
    "*",
    "&",
    "<-",
    ".",
    "...",
    ",",
    ";",
    ":",
    "func ",
    "if ",
    "for ",
    "range ",
    "switch ",
    "case ",
    "select ",
    "type ",
    "struct ",
    "interface ",
    "map[",
    "chan ",
    "go ",
    "defer ",
    "return ",
    "var ",
    "const ",
    "import ",
    "package ",
    "/*",
    "*/",
    "//",
    "~",
    "|",
    "0x",
    "é",
    "\\",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_text_gives_a_sound_tree(source in "\\PC{0,80}", pieces in prop::collection::vec(prop::sample::select(PIECES), 0..40)) {
        for source in [source, pieces.concat(), format!("package a\nfunc f() {{\n{}\n}}\n", pieces.concat())] {
            go(&source);
        }
    }

    /// A mistake goes no further than the declaration that it is in.
    #[test]
    fn declarations_stay_what_they_are_before_any_text(pieces in prop::collection::vec(prop::sample::select(PIECES), 0..12)) {
        let (_, tree) = go(&format!("package a\n\nvar low = 1\n\nfunc f() {{}}\n\n{}", pieces.concat()));
        let first: Vec<String> = tree.root().children().take(3).map(shape).collect();
        prop_assert_eq!(first, ["package(name)", "declaration(assignment(name number))", "function(name parameters block)"]);
    }
}
