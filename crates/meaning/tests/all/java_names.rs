//! Names of Java: what they represent by cases, and by what the language's own compiler resolves over its library.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use std::process::Command;

use sieve_meaning::names::{DeclarationKind, Names, Resolution};
use sieve_meaning::{names_of, renaming};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

fn parsed(source: &str) -> (Text, Tree) {
    crate::uses::parsed(Language::Java, source)
}

fn uses(source: &str) -> Vec<String> {
    crate::uses::shown(Language::Java, source)
}

/// The same for the statements of a method, which begin in the third line.
fn of_body(source: &str) -> Vec<String> {
    uses(&format!("class Quay {{ int low;\nvoid f() {{\n{source}\n}} }}\n"))
}

#[test]
fn a_local_variable_is_seen_from_its_declaration_to_the_end_of_its_block() {
    assert_eq!(of_body("int a = low;\n{ int b = a; }\nint low = a + low;"), ["low:1", "a:3", "a:3", "low:5"]);
    assert_eq!(of_body("for (int i = 0; i < 3; i++) {}\nfor (int i : i) {}"), ["i:3", "i:3", "i:-"]);
    assert_eq!(
        of_body("try (var a = b(); var c = a) {\na.d(); } catch (Low e) { c(e, a); }"),
        ["b:-", "a:3", "a:3", "Low:-", "c:-", "e:4", "a:-"]
    );
    assert_eq!(of_body("f(a -> a + low, (b, c) -> { return b; }, a);"), ["f:2", "a:3", "low:1", "b:3", "a:-"]);
}

#[test]
fn variables_types_and_methods_of_one_name_are_three() {
    assert_eq!(
        uses("class low {\nlow low;\nlow low() {\nlow low = low();\nthis.low = low;\nreturn this.low().high; } }\n"),
        ["low:1", "low:1", "low:1", "low:3", "low:2", "low:4", "low:3"]
    );
    assert_eq!(
        of_body("Quay.low();\nlow.low();\njava.util.List.of();\nQuay Quay;\nQuay.low();"),
        ["Quay:1", "low:1", "java:-", "Quay:1", "Quay:6"]
    );
}

#[test]
fn members_are_seen_in_all_that_is_in_their_type_and_inherited() {
    let source =
        "class Quay {\nint low; void moor() {}\nclass Berth { int f() { moor(); return low + high; } int high; }\n";
    assert_eq!(uses(&format!("{source}}}\n")), ["moor:2", "low:2", "high:3"]);
    assert_eq!(
        uses(&format!("{source}class Pier extends Berth {{ int g() {{ high(); return high + low; }} }}\n}}\n"))
            .split_off(3),
        ["Berth:3", "high:-", "high:3", "low:2"]
    );
    assert_eq!(
        uses(&format!("{source}class Pier extends Boat {{ int g() {{ return low; }} }}\n}}\n")).split_off(3),
        ["Boat:-", "low:2?"],
        "a type of another file may have a field of that name"
    );
    assert_eq!(
        of_body("new Boat() { int low; void f() { low++; wave(low); toString(); } };"),
        ["Boat:-", "low:3", "wave:-", "low:3", "toString:builtin"]
    );
    assert_eq!(
        uses(
            "record Tide(int low, Tide next) {\nTide {\nif (low < 0) low = low(); }\nTide f() { return this.next; } }\n"
        ),
        ["Tide:1", "Tide:1", "low:1", "low:1", "low:1", "Tide:1", "next:1"]
    );
}

#[test]
fn variables_of_patterns_are_seen_where_the_pattern_fits() {
    assert_eq!(
        of_body("if (a instanceof Boat b && b.c()) {\nb.d(); } else {\nb.e(); }\nb.f();"),
        ["a:-", "Boat:-", "b:3", "b:3", "b:-", "b:-"]
    );
    assert_eq!(
        of_body("if (!(a instanceof Boat b) || b.c())\nreturn;\nb.e();\nif (a instanceof Ferry b) b.f();"),
        ["a:-", "Boat:-", "b:3", "b:3", "a:-", "Ferry:-", "b:6"]
    );
    assert_eq!(of_body("if (!(a instanceof Boat b)) {\nc(); }\nb.e();"), ["a:-", "Boat:-", "c:-", "b:-"]);
    assert_eq!(
        of_body("while (!(a instanceof Boat b)) {\nc(); }\nb.e();\nlow = a instanceof Ferry d ? d.x : d.y;"),
        ["a:-", "Boat:-", "c:-", "b:3", "low:1", "a:-", "Ferry:-", "d:6", "d:-"]
    );
    assert_eq!(
        of_body(
            "switch (a) {\ncase Boat(int low, var d) when low > 2 -> d.x();\ncase Ferry low -> low.y();\ndefault -> f(low); }"
        ),
        ["a:-", "Boat:-", "low:4", "d:4", "Ferry:-", "low:5", "f:2", "low:1"]
    );
}

#[test]
fn cases_behind_colons_share_their_variables() {
    assert_eq!(
        of_body(
            "switch (a) {\ncase LOW: int b = 1;\ncase HIGH: b = 2;\n}\nswitch (a) { case 1 -> { int b = 1; }\ncase 2 -> f(b); }"
        ),
        ["a:-", "LOW:-?", "HIGH:-?", "b:4", "a:-", "f:2", "b:-"]
    );
}

#[test]
fn imports_are_used_by_code_and_by_documentation() {
    let source =
        "import ferries.tides.Table;\nimport static ferries.tides.Depths.*;\nimport static ferries.tides.Tide.low;\n";
    assert_eq!(
        uses(&format!("{source}/** See {{@link Table#read}}. */\nclass Quay {{ int high = low() + low; }}\n")),
        ["Table:1", "low:3", "low:3"]
    );
}

#[test]
fn a_name_is_changed_everywhere_or_not_at_all() {
    let source = "class Quay {\nprivate int low;\nint f(Quay other) { return this.low + low; } }\n";
    let renamed = |source: &str, declared: &str, new: &str| {
        let (text, tree) = parsed(source);
        let names = names_of(Language::Java, &text, &tree);
        let (id, _) = names.bindings_with_ids().find(|(_, one)| names.text(one.name) == declared).expect("a name");
        renaming::may_become(&names, id, new).map(|()| renaming::places(&tree, &names, id).len())
    };
    assert_eq!(renamed(source, "low", "depth"), Ok(3));
    assert_eq!(renamed(source, "low", "f"), Ok(3), "a method is another thing than a field");
    assert!(matches!(renamed(source, "low", "other"), Err(renaming::Clash::Taken(_))));
    assert_eq!(renamed(&source.replace("+ low", "+ other.low"), "low", "depth"), Ok(3), "the type of other is written");
    let unknown = source.replace("+ low", "+ other().low");
    assert_eq!(renamed(&unknown, "low", "depth"), Err(renaming::Clash::Accessed));
    let array = source.replace("Quay other", "Quay[] other").replace("+ low", "+ other.low");
    assert_eq!(renamed(&array, "low", "depth"), Err(renaming::Clash::Accessed));
    assert_eq!(renamed(source, "Quay", "Pier"), Ok(2));
    let inner = "class Quay {\nvoid f(int low) { if (low > 2) { int depth; } new Quay() { int high; }; } }\n";
    assert!(matches!(renamed(inner, "low", "depth"), Err(renaming::Clash::Taken(_))), "it would hide a parameter");
    assert_eq!(renamed(inner, "low", "high"), Ok(2), "a field may hide it");
}

/// The module of the library that is compared: that with the most code.
const MODULES: &[&str] = &["java.base"];

/// Where the language is installed with the sources of its library: the last of several.
fn home() -> Option<PathBuf> {
    let homes = std::fs::read_dir("/usr/lib/jvm").into_iter().flatten().flatten().map(|home| home.path());
    homes.filter(|home| home.join("lib/src.zip").is_file()).max()
}

/// What the reference says of a line: a file, and each use with the place that declares the name.
fn reference(line: &str) -> (PathBuf, BTreeMap<u32, i64>) {
    let (path, uses) = line.split_once(' ').unwrap_or((line, ""));
    let pair = |pair: &str| {
        let (at, declared) = pair.split_once(':').expect("two places");
        (at.parse().expect("a place"), declared.parse().expect("a place"))
    };
    (PathBuf::from(path), uses.split_whitespace().map(pair).collect())
}

/// Whether a name is that of a member of something else: in `@Open(at = 3)`, `boat.new Cabin()`.
fn is_of_another(name: NodeRef<'_>) -> bool {
    let inner = |one: NodeRef<'_>| one.kind() == Kind::New && one.child(Role::Object).is_some();
    let is_member = name.role() == Role::Name && name.parent().is_some_and(|parent| parent.kind() == Kind::Member);
    is_member || name.ancestors().take(3).any(|around| around.kind() == Kind::KeywordArgument || inner(around))
}

/// A component of a record is where its type is, for the reference, and a constant where its annotations are.
fn place_there(name: NodeRef<'_>) -> sieve_syntax::text::Span {
    let parameter = name.parent().filter(|parent| parent.kind() == Kind::Parameter);
    let owner = parameter.and_then(|parameter| parameter.parent()?.parent());
    match name.parent() {
        Some(constant) if constant.kind() == Kind::EnumMember => constant.span(),
        Some(component) if owner.is_some_and(|owner| owner.kind() == Kind::Class) => component.span(),
        _ => name.span(),
    }
}

/// The compiler makes a function for each component of a record.
fn is_component(tree: &Tree, names: &Names<'_>, resolution: Resolution) -> bool {
    let Resolution::Binding(id) = resolution else { return false };
    let holders = names.binding(id).declarations.iter().filter_map(|one| tree.node(one.node).parent());
    holders.into_iter().any(|holder| holder.kind() == Kind::Parameter)
}

fn is_import(names: &Names<'_>, resolution: Resolution) -> bool {
    let Resolution::Binding(id) = resolution else { return false };
    names.binding(id).declarations.iter().any(|one| one.kind == DeclarationKind::Import)
}

fn is_accessed(names: &Names<'_>, name: &str) -> bool {
    names.bindings().any(|binding| names.text(binding.name) == name && names.may_be_accessed(binding))
}

/// `import static ferries.tides.Depths.*;`
fn imports_members(text: &Text) -> bool {
    text.source().lines().any(|line| line.starts_with("import static") && line.trim_end().ends_with(".*;"))
}

/// Where we differ from the reference in a file.
fn differences(
    path: &Path,
    (text, tree): (&Text, &Tree),
    names: &Names<'_>,
    there: &BTreeMap<u32, i64>,
) -> Vec<String> {
    let mut found = Vec::new();
    let mut say = |at: u32, what: String| {
        let place = text.place(at);
        found.push(format!("{}:{}:{}: {what}", path.display(), place.line, place.column));
    };
    let mut seen = BTreeSet::new();
    for one in names.references() {
        let at = one.span.start;
        seen.insert(at);
        let own: Vec<i64> = match one.resolution {
            Resolution::Binding(id) => {
                let declared = names.binding(id).declarations.iter();
                let nodes = declared.map(|declaration| tree.node(declaration.node));
                let names = nodes.filter(|node| node.kind() == Kind::Name);
                names.flat_map(|name| [name.span(), place_there(name)]).map(|span| i64::from(span.start)).collect()
            }
            _ => Vec::new(),
        };
        let name = names.text(one.name);
        match there.get(&at) {
            Some(-1) if own.is_empty() => {}
            Some(_) if one.is_doubtful => {}
            Some(-1) if is_component(tree, names, one.resolution) => {}
            Some(_) if is_import(names, one.resolution) => {}
            // What a type has from one of another file, which has it from one of this file.
            Some(_) if own.is_empty() && is_accessed(names, name) => {}
            Some(declared) if own.contains(declared) => {}
            // Constants of enumerations are not looked for by the type of what is chosen by, nor what the file imports from itself.
            Some(_) if own.is_empty() && tree.node(one.node).role() == Role::Pattern => {}
            Some(_) if own.is_empty() && imports_members(text) => {}
            Some(declared) => say(at, format!("{name} is declared at {declared} for it, at {own:?} for us")),
            None => {}
        }
    }
    for (at, declared) in there {
        let is_seen = seen.contains(at) || *declared == i64::from(*at);
        if *declared >= 0 && !is_seen && !is_of_another(tree.covering(tree.token_span(tree.token_at(*at)))) {
            say(*at, "no use for us".to_string());
        }
    }
    found
}

#[test]
fn names_represent_what_the_languages_own_compiler_resolves() {
    let Some(home) = home() else {
        assert!(std::env::var_os("CI").is_none(), "the sources of the library of Java are not installed");
        eprintln!("0 references: the sources of Java's library are not installed; nothing was compared");
        return;
    };
    let folder = tempfile::tempdir().expect("a folder");
    let program = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/reference/Uses.java");
    let unpacked =
        Command::new("jar").arg("xf").arg(home.join("lib/src.zip")).args(MODULES).current_dir(folder.path()).status();
    assert!(unpacked.expect("jar runs").success(), "the sources cannot be unpacked");
    let (mut compared, mut uses, mut failures) = (0, 0, Vec::new());
    for module in MODULES {
        let root = folder.path().join(module);
        let mut files = crate::uses::files_below(&root);
        files.retain(|file| file.extension().is_some_and(|ending| ending == "java"));
        let list = crate::uses::list_in(folder.path(), &files);
        let exports = ["tree", "code"].map(|package| format!("jdk.compiler/com.sun.tools.javac.{package}=ALL-UNNAMED"));
        let ran = Command::new(home.join("bin/java"))
            .args([
                "-Xss64m",
                "-Dfile.encoding=UTF-8",
                "--add-exports",
                &exports[0],
                "--add-exports",
                &exports[1],
                program,
            ])
            .args([&list, Path::new(module), &root])
            .output()
            .expect("java runs");
        assert!(ran.status.success(), "{}", String::from_utf8_lossy(&ran.stderr));
        for line in String::from_utf8(ran.stdout).expect("text").lines() {
            let (path, there) = reference(line);
            let Ok(source) = std::fs::read_to_string(&path) else { continue };
            // Places there count characters of two bytes.
            if !source.is_ascii() {
                continue;
            }
            let text = Text::new(source);
            let tree = Language::Java.parse(&text);
            let names = names_of(Language::Java, &text, &tree);
            compared += 1;
            uses += there.len();
            failures.extend(differences(&path, (&text, &tree), &names, &there));
        }
    }
    println!("{compared} files, {uses} uses");
    assert!(compared > 2000, "{compared}");
    assert!(failures.is_empty(), "{} differences\n{}", failures.len(), failures[..failures.len().min(400)].join("\n"));
}
