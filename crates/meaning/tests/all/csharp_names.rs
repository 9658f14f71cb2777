//! Names of C#: what they represent by cases, and by programs of which every name is changed that can be, which still compile.

use std::path::{Path, PathBuf};
use std::process::Command;
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};

use sieve_meaning::declared::visibility;
use sieve_meaning::names::{BindingId, DeclarationKind, Names, ScopeKind};
use sieve_meaning::names_of;
use sieve_meaning::renaming::{self, Form, may_become, places};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

fn uses(source: &str) -> Vec<String> {
    crate::uses::shown(Language::CSharp, source)
}

/// The same for the statements of a method, which begin in the third line.
fn of_body(source: &str) -> Vec<String> {
    uses(&format!("class Quay {{ int low;\nvoid F() {{\n{source}\n}} }}\n"))
}

#[test]
fn a_local_variable_is_seen_from_its_declaration_to_the_end_of_its_block() {
    assert_eq!(of_body("int a = low;\n{ int b = a; }\nc = a + b;"), ["low:1", "a:3", "c:-", "a:3", "b:-"]);
    assert_eq!(of_body("for (int i = 0; i < 3; i++) {}\nforeach (var i in i) {}"), ["i:3", "i:3", "i:-"]);
    assert_eq!(of_body("using (var a = b()) a.C();\nusing var d = a;\nd.E();"), ["b:-", "a:3", "a:-", "d:4"]);
    assert_eq!(
        of_body("try { } catch (Low e) when (e.F) {\nG(e, a); }\nG(e);"),
        ["Low:-", "e:3", "G:-", "e:3", "a:-", "G:-", "e:-"]
    );
    assert_eq!(
        of_body("F(a => a + low, (int b, int c) => { return b; }, a);\nF(delegate (int d) { low = d; });"),
        ["F:2", "a:3", "low:1", "b:3", "a:-", "F:2", "low:1", "d:4"]
    );
}

#[test]
fn functions_in_functions_are_seen_in_all_of_their_block() {
    assert_eq!(
        of_body("G(1);\nvoid G(int low) { H(low); void H(int a) => G(a); }\n{ H(2); }"),
        ["G:4", "H:4", "low:4", "G:4", "a:4", "H:-"]
    );
}

#[test]
fn variables_of_conditions_are_seen_behind_them_but_not_behind_loops() {
    assert_eq!(
        of_body("if (!(o is Tide t)) return;\nF(t);\nif (G(out var x)) F(x);\nF(x);"),
        ["o:-", "Tide:-", "F:2", "t:3", "G:-", "F:2", "x:5", "F:2", "x:5"]
    );
    assert_eq!(of_body("while (G(out var x)) F(x);\nF(x);"), ["G:-", "F:2", "x:3", "F:2", "x:-"]);
    assert_eq!(
        of_body("if (a) F(G(out var x));\nelse F(x);\nF(x);"),
        ["a:-", "F:2", "G:-", "F:2", "x:-", "F:2", "x:-"],
        "a statement without a block around it has variables of its own"
    );
    assert_eq!(
        of_body("var (a, (b, _)) = c;\n(int d, var e) = (a, b);\n(d, e, this.low) = f;"),
        ["c:-", "a:3", "b:3", "d:4", "e:4", "low:1", "f:-"]
    );
}

#[test]
fn cases_share_what_they_declare_and_not_what_their_patterns_do() {
    assert_eq!(
        of_body(
            "switch (a) {\ncase Low: int b = 1; break;\ncase Tide t when t.F: b = 2; break;\ncase { G: 3 } t: F(t); break; }"
        ),
        ["a:-", "Low:-", "Tide:-", "t:5", "b:4", "F:2", "t:6"]
    );
    assert_eq!(
        of_body("low = a switch {\nTide t => t.G,\nvar t => t.H,\n_ => t };"),
        ["low:1", "a:-", "Tide:-", "t:4", "t:5", "t:-"]
    );
}

#[test]
fn variables_of_queries_are_seen_in_the_clauses_behind_them() {
    assert_eq!(
        of_body(
            "var q = from a in a\njoin b in b on a.X equals b.Y\nlet c = a + b\ngroup c by a into g\nselect g + low;"
        ),
        ["a:-", "b:-", "a:3", "b:4", "a:3", "b:4", "c:5", "a:3", "g:6", "low:1"]
    );
}

#[test]
fn members_are_seen_in_all_that_is_in_their_type_and_inherited() {
    let source = "class Quay {\nint low; void Moor() {}\nclass Berth { int F() { Moor(); return low + high; } protected int high; int own; }\n";
    assert_eq!(uses(&format!("{source}}}\n")), ["Moor:2", "low:2", "high:3"]);
    assert_eq!(
        uses(&format!("{source}class Pier : Berth {{ int G => High() + high + own + low; }} }}\n")).split_off(3),
        ["Berth:3", "High:-", "high:3", "own:-", "low:2"],
        "what only its type sees is not handed down"
    );
    assert_eq!(
        uses(&format!("{source}class Pier : Boat {{ int G => low; }} }}\n")).split_off(3),
        ["Boat:-", "low:2?"],
        "a type of another file may have a field of that name"
    );
    assert_eq!(
        uses(&format!("{source}class Pier : IBoat {{ int G => low; }} }}\n")).split_off(3),
        ["IBoat:-", "low:2"],
        "what an interface declares is not seen by its name alone"
    );
    assert_eq!(
        uses(
            "record Tide(int Low, Tide Next) {\nint F() => Low + this.Next.Low; }\nclass Boat(int depth) : Ship(depth) {\nint f = depth; }\n"
        ),
        ["Tide:1", "Low:1", "Next:1", "Low:1", "Ship:-", "depth:3", "depth:3"]
    );
}

#[test]
fn a_value_and_its_type_may_have_one_name() {
    let source = "enum Tide { Low }\nclass Quay {\nTide Tide;\nbool F() => Tide == Tide.Low; }\n";
    assert_eq!(uses(source), ["Tide:1", "Tide:3", "Tide:1", "Low:1"]);
    assert_eq!(renamed_as(source, "Tide", "Depth"), Ok(3));
    let both = "class Tide { public static int Low; public int Depth; }\nclass Quay {\nTide Tide;\nint F() => Tide.Low + Tide.Depth + Tide.At; }\n";
    assert_eq!(uses(both), ["Tide:1", "Tide:1", "Low:1", "Tide:3", "Depth:1", "Tide:3?"]);
    assert_eq!(renamed_as(both, "Tide", "Depth"), Err(renaming::Clash::Accessed));
    assert_eq!(renamed_as(source, "Quay", "Pier"), Ok(1));
    let generic =
        "class Tide<T> { public static int Low; }\nclass Quay {\nTide<int> Tide;\nint F() => Tide<int>.Low; }\n";
    assert_eq!(uses(generic), ["Tide:1", "Tide:1", "Low:1"]);
}

#[test]
fn types_of_one_name_differ_by_their_parameters() {
    let source = "class Low {}\nclass Quay {\nLow<int> a; Low b; }\n";
    assert_eq!(uses(source), ["Low:1?", "Low:1"]);
    let two = "class Low {}\nclass Low<T> {}\nclass Quay { Low<int> a; }\n";
    assert_eq!(renamed_as(two, "Low", "High"), Err(renaming::Clash::Unclear));
    let parts = "partial class Quay<T> { T a; }\npartial class Quay<T> { int low; void F() { low++; } }\n";
    assert_eq!(renamed_as(parts, "T", "U"), Err(renaming::Clash::Unclear));
    assert_eq!(renamed_as(parts, "low", "high"), Ok(2));
}

#[test]
fn what_only_its_type_sees_is_not_meant_from_outside() {
    let source = "class A {\npublic delegate int D(); }\nclass B : A {\nnew delegate void D(); }\nclass C { B.D d; }\n";
    assert_eq!(uses(source), ["A:1", "B:3", "D:2"]);
}

#[test]
fn what_sets_a_property_is_given_a_value() {
    assert_eq!(
        uses(
            "class Quay {\nint value;\nint Low { get => value; set { this.value = value; } }\nint this[int at] => at; }\n"
        ),
        ["value:2", "value:2", "value:-", "at:4"]
    );
}

#[test]
fn types_are_seen_in_their_namespace_and_in_those_within() {
    let source = "namespace Ferries.Tides {\nclass Table { Low low; }\nclass Low {} }\nnamespace Ferries {\nclass Desk { Table t; Tides.Table u; } }\nnamespace Ferries.Tides {\nclass Pier { Table t; Desk d; } }\n";
    assert_eq!(uses(source), ["Low:3", "Table:-", "Tides:1", "Table:2", "Table:2", "Desk:5"]);
    assert_eq!(uses("namespace Ferries;\nclass A { B b; }\nclass B {}\n"), ["B:3"]);
}

#[test]
fn a_type_may_be_meant_where_a_value_is_looked_for() {
    assert_eq!(
        uses("class Tide {\npublic static int Low;\nbool F(object o) => o is Tide && nameof(Tide) == Tide.Low; }\n"),
        ["o:3", "Tide:1", "nameof:builtin", "Tide:1", "Tide:1", "Low:2"]
    );
    assert_eq!(
        uses("using T = Ferries.Tide;\nclass A { T t = T.Low; B<T> b; }\n"),
        ["Ferries:-", "T:1", "T:1", "B:-", "T:1"]
    );
}

#[test]
fn documentation_uses_types() {
    let source = "class Tide {}\n/// <summary>See <see cref=\"Tide.Low(Quay)\"/>.</summary>\nclass Quay {}\n";
    assert_eq!(uses(source), ["Tide:1", "Quay:3"]);
}

#[test]
fn a_sign_before_a_name_is_no_part_of_it() {
    assert_eq!(
        of_body("int @event = 1;\nF(@event, event_, @low);\nint a = 2; F(@a);"),
        ["F:2", "event:3", "event_:-", "low:1", "F:2", "a:5"]
    );
}

/// What becomes of a name that a source declares.
fn renamed_as(source: &str, declared: &str, new: &str) -> Result<usize, renaming::Clash> {
    let (text, tree) = crate::uses::parsed(Language::CSharp, source);
    let names = names_of(Language::CSharp, &text, &tree);
    let (id, _) = names.bindings_with_ids().find(|(_, one)| names.text(one.name) == declared).expect("a name");
    may_become(&names, id, new).map(|()| places(&tree, &names, id).len())
}

#[test]
fn a_name_is_changed_everywhere_or_not_at_all() {
    let source = "class Quay {\nprivate int low;\nint F(Quay other) { return this.low + low; } }\n";
    assert_eq!(renamed_as(source, "low", "depth"), Ok(3));
    assert!(matches!(renamed_as(source, "low", "F"), Err(renaming::Clash::Taken(_))));
    assert!(matches!(renamed_as(source, "low", "other"), Err(renaming::Clash::Taken(_))));
    assert_eq!(renamed_as(&source.replace("+ low", "+ other.low"), "low", "depth"), Ok(3));
    let unknown = source.replace("+ low", "+ other().low");
    assert_eq!(renamed_as(&unknown, "low", "depth"), Err(renaming::Clash::Accessed));
    assert_eq!(renamed_as(source, "Quay", "Pier"), Ok(2));
    let attribute = "class LowAttribute : Attribute {}\n[Low]\nclass Quay {}\n";
    assert_eq!(renamed_as(attribute, "LowAttribute", "Tide"), Err(renaming::Clash::Unclear));
    let extension = "static class Tides {\nprivate static int Low(this Tide t) => 3; }\n";
    assert_eq!(renamed_as(extension, "Low", "High"), Err(renaming::Clash::Unclear));
    let left_out = "class Quay {\nint F(int low) {\n#if OPEN\nif (low > 2) {\n#endif\nreturn low; } }\n";
    assert_eq!(renamed_as(left_out, "low", "depth"), Err(renaming::Clash::Unclear));
}

#[test]
fn a_variable_must_not_hide_another_one() {
    let inner = "class Quay {\nvoid F(int low) { if (low > 2) { int depth; } } int high; }\n";
    assert!(matches!(renamed_as(inner, "low", "depth"), Err(renaming::Clash::Taken(_))));
    assert_eq!(renamed_as(inner, "low", "level"), Ok(2));
}

#[test]
fn a_variable_gives_a_part_its_name() {
    let part = "class Quay {\nint F(int low) { var t = (low, 3); return t.low; } }\n";
    assert_eq!(renamed_as(part, "low", "depth"), Err(renaming::Clash::Doubtful));
    assert_eq!(renamed_as(&part.replace("t.low", "t.Item1"), "low", "depth"), Ok(2));
    let member = "class Quay {\nint F(int low) { var t = new { low, high = 3 }; return t.low; } }\n";
    assert_eq!(renamed_as(member, "low", "depth"), Err(renaming::Clash::Doubtful));
}

/// The programs that are the compiler's own tests, each of which is whole in itself.
fn programs() -> Vec<PathBuf> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../syntax/tests/reference/csharp_sources/programs");
    crate::uses::files_below(&folder)
        .into_iter()
        .filter(|path| path.extension().is_some_and(|ending| ending == "cs"))
        .collect()
}

/// What the compiler says of a program.
fn compiles(path: &Path, folder: &Path) -> Result<(), String> {
    let out = format!("-out:{}", folder.join("out.exe").display());
    let ran = Command::new("mcs").args(["-unsafe", "-nowarn:0", out.as_str()]).arg(path).output().expect("mcs runs");
    if ran.status.success() { Ok(()) } else { Err(String::from_utf8_lossy(&ran.stderr).into_owned()) }
}

/// Whether nothing outside of the file sees a binding: a variable, a parameter, a private member, or a type of a program of one file.
fn is_of_program(text: &Text, tree: &Tree, names: &Names<'_>, id: BindingId) -> bool {
    let binding = names.binding(id);
    let is_type = binding.declarations.iter().all(|one| one.kind == DeclarationKind::Class);
    let is_private = |name: NodeRef<'_>| {
        let holder =
            name.ancestors().find(|around| matches!(around.kind(), Kind::Field | Kind::Function | Kind::Property));
        holder.is_some_and(|holder| {
            visibility(text, holder) == Some("private") && holder.child(Role::Decorator).is_none()
        })
    };
    let has_keyword = || {
        let keywords = tree.nodes().filter(|node| node.kind() == Kind::KeywordArgument);
        let mut words = keywords.filter_map(|argument| argument.child(Role::Name));
        words.any(|word| text.slice(word.span()).trim_start_matches('@') == names.text(binding.name))
    };
    match names.scope(binding.scope).kind {
        ScopeKind::Function | ScopeKind::Block | ScopeKind::TypeParameters => {
            binding.declarations.iter().all(|one| one.kind != DeclarationKind::Parameter) || !has_keyword()
        }
        ScopeKind::Members => is_type || binding.declarations.iter().all(|one| is_private(tree.node(one.node))),
        _ => is_type,
    }
}

/// A source in which every name that can be has another one, with how many those are, of how many.
fn renamed(source: &str) -> (String, usize, usize) {
    let text = Text::new(source.to_string());
    let tree = Language::CSharp.parse(&text);
    let names = names_of(Language::CSharp, &text, &tree);
    let mut edits: Vec<(u32, u32, String)> = Vec::new();
    let (mut changed, mut all) = (0, 0);
    for (id, binding) in names.bindings_with_ids().filter(|(id, _)| is_of_program(&text, &tree, &names, *id)) {
        let new = format!("{}_{}", names.text(binding.name), binding.declarations[0].node.0);
        all += 1;
        if may_become(&names, id, &new).is_ok() {
            changed += 1;
            for place in places(&tree, &names, id) {
                assert_eq!(place.form, Form::Plain, "{new}");
                edits.push((place.span.start, place.span.end, new.clone()));
            }
        }
    }
    let mut result = source.to_string();
    edits.sort();
    edits.dedup();
    for (start, end, written) in edits.into_iter().rev() {
        result.replace_range(start as usize..end as usize, &written);
    }
    (result, changed, all)
}

/// Programs that do not compile any more, each with its cause.
const KNOWN: &[(&str, &str)] = &[
    ("gtest-522.cs", "a function with type arguments is called where a variable has its name"),
    ("gtest-628.cs", "`__refvalue` is not understood"),
];

/// Every program of a part of them has other names wherever it can have, and still compiles.
#[test]
fn programs_in_which_every_name_is_another_one_still_compile() {
    let programs = programs();
    let part: usize = std::env::var("CSHARP_PROGRAMS_EACH").ok().and_then(|each| each.parse().ok()).unwrap_or(23);
    let is_known = |path: &&PathBuf| KNOWN.iter().any(|(name, _)| path.ends_with(name));
    let chosen: Vec<&PathBuf> = programs.iter().step_by(part).filter(|path| !is_known(path)).collect();
    if chosen.is_empty() || Command::new("mcs").arg("--version").output().is_err() {
        assert!(std::env::var_os("CI").is_none(), "mcs or its programs are missing");
        return;
    }
    let (next, wrong) = (AtomicUsize::new(0), Mutex::new(Vec::new()));
    let counts = [const { AtomicUsize::new(0) }; 3];
    std::thread::scope(|threads| {
        for _ in 0..std::thread::available_parallelism().map_or(1, usize::from) {
            threads.spawn(|| {
                while let Some(path) = chosen.get(next.fetch_add(1, Ordering::Relaxed)) {
                    let folder = tempfile::tempdir().expect("a folder");
                    let Ok(source) = std::fs::read_to_string(path) else { continue };
                    if compiles(path, folder.path()).is_err() {
                        continue;
                    }
                    let (source, changed, all) = renamed(&source);
                    let copy = folder.path().join(path.file_name().expect("a name"));
                    std::fs::write(&copy, &source).expect("written");
                    if let Err(said) = compiles(&copy, folder.path()) {
                        wrong.lock().expect("no panic").push(format!("{}:\n{said}", path.display()));
                    }
                    for (count, more) in counts.iter().zip([1, changed, all]) {
                        count.fetch_add(more, Ordering::Relaxed);
                    }
                }
            });
        }
    });
    let wrong = wrong.into_inner().expect("no panic");
    let [compiled, changed, all] = counts.map(AtomicUsize::into_inner);
    println!("{compiled} of {} programs, {changed} of {all} names", chosen.len());
    assert!(wrong.is_empty(), "{} do not compile any more:\n{}", wrong.len(), wrong.join("\n"));
    assert!(compiled * 2 > chosen.len() && changed > compiled, "{compiled} programs, {changed} of {all} names");
}
