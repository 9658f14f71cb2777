//! Names of Go: what they represent by cases, and by what the language's own parser resolves over its whole library.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use std::process::Command;

use sieve_meaning::go_interfaces::{RequiredMethod, library_interfaces};
use sieve_meaning::names::{BindingId, Names, Resolution};
use sieve_meaning::{names_of, renaming};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Role, Tree};

fn parsed(source: &str) -> (Text, Tree) {
    crate::uses::parsed(Language::Go, source)
}

fn uses(source: &str) -> Vec<String> {
    crate::uses::shown(Language::Go, source)
}

fn of_body(source: &str) -> Vec<String> {
    uses(&format!("package quay\nfunc f() {{\n{source}\n}}\n"))
}

#[test]
fn a_name_is_seen_from_the_end_of_its_declaration() {
    assert_eq!(of_body("tide := 1\n{\ntide := tide + 1\n_ = tide\n}\n_ = tide"), ["tide:3", "tide:5", "tide:3"]);
    assert_eq!(of_body("low := func() { low() }"), ["low:-"]);
    assert_eq!(of_body("var low func()\nlow = func() { low() }"), ["low:3", "low:3"]);
    assert_eq!(of_body("type list struct {\nnext *list\n}"), ["list:3"]);
    assert_eq!(of_body("a, err := f()\nb, err := g(a)\n_, _ = b, err"), ["f:2", "err:3", "g:-", "a:3", "b:4", "err:3"]);
    assert_eq!(uses("package quay\nvar high = low\nvar low = 1\n"), ["low:3"]);
}

#[test]
fn statements_have_blocks_of_their_own() {
    assert_eq!(
        of_body("if tide := 1; tide > 0 {\ntide := 2\n_ = tide\n} else {\n_ = tide\n}\n_ = tide"),
        ["tide:3", "tide:4", "tide:3", "tide:-"]
    );
    assert_eq!(of_body("for i := range tides {\n_ = i\n}\n_ = i"), ["tides:-", "i:3", "i:-"]);
    assert_eq!(of_body("var i int\nfor i = range tides {\n}"), ["int:builtin", "i:3", "tides:-"]);
    assert_eq!(
        of_body("switch v := x.(type) {\ncase int:\n_ = v\n}\nselect {\ncase v := <-c:\n_ = v\ndefault:\n_ = v\n}"),
        ["x:-", "int:builtin", "v:3", "c:-", "v:8", "v:-"]
    );
    assert_eq!(of_body("switch v := x; v := v.(type) {\ncase nil:\n_ = v\n}"), ["x:-", "v:3", "nil:builtin", "v:3"]);
}

#[test]
fn functions_and_types_have_parameters() {
    assert_eq!(
        uses("package quay\ntype tide int\ntype pier interface { low(tide tide) }\n"),
        ["int:builtin", "tide:2"]
    );
    assert_eq!(
        uses("package quay\nfunc sail(string string) (n int) {\nn = 1\nreturn\n}\n"),
        ["string:builtin", "int:builtin", "n:2"]
    );
    assert_eq!(
        uses("package quay\ntype set[K any] map[K]bool\nfunc (s set[K]) add(key K) {\ns[key] = true\n}\n"),
        ["any:builtin", "K:2", "bool:builtin", "set:2", "K:3", "s:3", "key:3", "true:builtin"]
    );
}

#[test]
fn keys_are_fields_values_or_not_known() {
    let types = "package quay\ntype berth struct{ low int }\ntype row []berth\ntype alias = berth\n";
    let of = |body: &str| uses(&format!("{types}func f(low int) {{\n_ = {body}\n}}\n")).split_off(4);
    assert_eq!(of("berth{low: low}"), ["berth:2", "low:5"]);
    assert_eq!(of("&alias{low: low}"), ["alias:4", "low:5"]);
    assert_eq!(of("row{low: {low: low}}"), ["row:3", "low:5", "low:5"]);
    assert_eq!(of("map[int]*berth{low: {low: low}}"), ["int:builtin", "berth:2", "low:5", "low:5"]);
    assert_eq!(of("pier.Berth{low: low}"), ["pier:-", "low:5?", "low:5"], "it may be a field");
    let (text, tree) = parsed("package quay\nfunc f(low int) {\n_ = pier.Berth{low: low}\n}\n");
    let names = names_of(Language::Go, &text, &tree);
    let (id, _) = names.bindings_with_ids().find(|(_, one)| names.text(one.name) == "low").expect("a parameter");
    assert_eq!(renaming::may_become(&names, id, "deep"), Err(renaming::Clash::Doubtful));
}

#[test]
fn imports_have_the_names_of_their_packages() {
    let source = "package quay\nimport (\n\"math/rand/v2\"\nt \"saltmarsh.example/tides\"\n_ \"embed\"\n)\nvar _ = rand.N(t.Low)\n";
    assert_eq!(uses(source), ["rand:3", "t:4"]);
    assert_eq!(uses("package quay\nimport . \"fmt\"\nvar _ = Sprint()\n"), ["Sprint:-"]);
}

/// The folders of the library of the language's own program.
fn library() -> Vec<PathBuf> {
    let shared = std::fs::read_dir("/usr/share").into_iter().flatten().flatten().map(|entry| entry.path());
    let is_go = |path: &PathBuf| path.file_name().is_some_and(|name| name.to_string_lossy().starts_with("go-"));
    shared.filter(is_go).map(|path| path.join("src")).filter(|path| path.is_dir()).collect()
}

/// What the reference says of the uses in a file: where each is declared, and those that it finds nothing for.
struct Reference {
    declared: BTreeMap<u32, i64>,
    unresolved: BTreeSet<u32>,
}

fn reference(line: &str) -> Option<Reference> {
    let (declared, unresolved) = line.split_once('|')?;
    let number = |text: &str| text.parse::<u32>().expect("a place");
    let pair = |pair: &str| {
        let (at, declared) = pair.split_once(':').expect("two places");
        (number(at), declared.parse().expect("a place"))
    };
    Some(Reference {
        declared: declared.split_whitespace().map(pair).collect(),
        unresolved: unresolved.split_whitespace().map(number).collect(),
    })
}

/// Where we differ from the reference in a file.
fn differences(path: &Path, (text, tree): (&Text, &Tree), names: &Names<'_>, reference: &Reference) -> Vec<String> {
    let mut found = Vec::new();
    let mut say = |at: u32, what: String| {
        let place = text.place(at);
        found.push(format!("{}:{}:{}: {what}", path.display(), place.line, place.column));
    };
    let mut seen = BTreeSet::new();
    for one in names.references() {
        let at = one.span.start;
        seen.insert(at);
        // The keys of literals: the reference resolves those of which a value is seen, and says nothing of others.
        let node = tree.node(one.node);
        let is_key = node.role() == Role::Key && node.parent().is_some_and(|parent| parent.kind() == Kind::Pair);
        let own: Vec<i64> = match one.resolution {
            Resolution::Binding(id) => {
                let declared = names.binding(id).declarations.iter();
                let nodes = declared.map(|declaration| tree.node(declaration.node));
                // It knows nothing of imports.
                nodes.filter(|node| node.kind() == Kind::Name).map(|node| i64::from(node.span().start)).collect()
            }
            _ => Vec::new(),
        };
        match reference.declared.get(&at) {
            Some(there) if own.contains(there) => {}
            Some(there) => {
                say(at, format!("{} is declared at {there} for it, at {own:?} for us", names.text(one.name)))
            }
            None if own.is_empty() && reference.unresolved.contains(&at) || is_key => {}
            // It knows no parameters that the receiver names behind a pointer.
            None if matches!(one.resolution, Resolution::Binding(id) if is_in_receiver(tree, names, id)) => {}
            None => say(at, format!("{} is not resolved by it, and declared at {own:?} for us", names.text(one.name))),
        }
    }
    for (at, declared) in &reference.declared {
        let is_declaration = i64::from(*at) == *declared;
        let node = tree.covering(tree.token_span(tree.token_at(*at)));
        // Keys that are fields for us.
        let is_key = node.parent().is_some_and(|parent| parent.kind() == Kind::Pair);
        if !is_declaration && !seen.contains(at) && !is_key && names.declared_at(node.id()).is_none() {
            say(*at, "no use for us".to_string());
        }
    }
    found
}

fn is_in_receiver(tree: &Tree, names: &Names<'_>, id: BindingId) -> bool {
    let declared = tree.node(names.binding(id).declarations[0].node);
    declared.ancestors().any(|around| around.role() == Role::Receiver)
}

#[test]
fn names_represent_what_the_languages_own_parser_resolves() {
    let folders = library();
    if folders.is_empty() {
        assert!(std::env::var_os("CI").is_none(), "the sources of Go's library are not installed");
        eprintln!("0 references: Go's library is not installed; nothing was compared");
        return;
    }
    let mut files: Vec<PathBuf> = folders.iter().flat_map(|folder| crate::uses::files_below(folder)).collect();
    files.retain(|file| {
        file.extension().is_some_and(|ending| ending == "go") && !file.iter().any(|part| part == "testdata")
    });
    files.sort();
    let folder = tempfile::tempdir().expect("a folder");
    let list = crate::uses::list_in(folder.path(), &files);
    let program = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/reference/uses.go");
    let ran = Command::new("go")
        .args(["run", program])
        .arg(&list)
        .env("GO111MODULE", "off")
        .env("GOCACHE", folder.path().join("cache"))
        .output()
        .expect("go runs");
    assert!(ran.status.success(), "{}", String::from_utf8_lossy(&ran.stderr));
    let said = String::from_utf8(ran.stdout).expect("text");
    let (mut compared, mut uses, mut failures) = (0, 0, Vec::new());
    for (path, line) in files.iter().zip(said.lines()) {
        let Some(reference) = reference(line) else { continue };
        let Ok(source) = std::fs::read_to_string(path) else { continue };
        let text = Text::new(source);
        let tree = Language::Go.parse(&text);
        let names = names_of(Language::Go, &text, &tree);
        compared += 1;
        uses += names.references().count();
        failures.extend(differences(path, (&text, &tree), &names, &reference));
    }
    println!("{compared} files, {uses} uses");
    assert!(compared > 2000, "{compared}");
    assert!(failures.is_empty(), "{} differences\n{}", failures.len(), failures[..failures.len().min(40)].join("\n"));
}

/// Interfaces of later versions of the library than the one that may be installed.
const LATER: &[&str] = &[
    "AppendBinary:1:2",
    "AppendText:1:2",
    "EnableFullDuplex:0:1",
    "Enabled:2:1 Handle:2:1 WithAttrs:1:1 WithGroup:1:1",
    "FlushError:0:1",
    "Level:0:1",
    "LogValue:0:1",
    "SetReadDeadline:1:1",
    "SetWriteDeadline:1:1",
];

#[test]
fn interfaces_ask_for_what_the_languages_own_checker_of_types_says() {
    let folders = library();
    let Some(sources) = folders.first() else {
        assert!(std::env::var_os("CI").is_none(), "the sources of Go's library are not installed");
        eprintln!("0 references: Go's library is not installed; nothing was compared");
        return;
    };
    let folder = tempfile::tempdir().expect("a folder");
    let program = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/reference/interfaces.go");
    let mut go = Command::new("go");
    let go = go.args(["run", program]).arg(sources).env("GO111MODULE", "off");
    let ran = go.env("GOCACHE", folder.path().join("cache")).output().expect("go runs");
    assert!(ran.status.success(), "{}", String::from_utf8_lossy(&ran.stderr));
    let said = String::from_utf8(ran.stdout).expect("text");
    let shown = |methods: &Vec<RequiredMethod>| {
        let words = methods.iter().map(|one| format!("{}:{}:{}", one.name, one.parameters, one.results));
        words.collect::<Vec<_>>().join(" ")
    };
    let own: BTreeSet<String> = library_interfaces().iter().map(shown).collect();
    let missing: Vec<&str> = said.lines().filter(|line| !own.contains(*line)).collect();
    assert!(missing.is_empty(), "{missing:?}");
    let unknown: Vec<&String> =
        own.iter().filter(|line| !said.lines().chain(LATER.iter().copied()).any(|known| known == *line)).collect();
    assert!(unknown.is_empty() && said.lines().count() > 150, "{unknown:?}");
}
