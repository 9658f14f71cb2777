//! What names represent in JavaScript and TypeScript, one rule of the language a test.

use sieve_meaning::names::{Names, Resolution, Unknown};
use sieve_meaning::names_of;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

fn with_names<T>(language: Language, source: &str, work: impl FnOnce(&Names<'_>) -> T) -> T {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "{source}: {}", tree.faults()[0].problem);
    work(&names_of(language, &text, &tree))
}

/// The names that nothing binds in a module of this text.
fn undefined(source: &str) -> Vec<String> {
    let module = format!("import 'quays';\n{source}");
    with_names(Language::JavaScript, &module, |names| {
        let found = names.references().filter(|reference| reference.resolution == Resolution::Undefined);
        found.map(|reference| names.text(reference.name).to_string()).collect()
    })
}

/// How often the bindings of a name are used, in the order in which their scopes bind it.
fn uses(language: Language, source: &str, name: &str) -> Vec<u32> {
    with_names(language, source, |names| {
        names.bindings().filter(|binding| names.text(binding.name) == name).map(|binding| binding.uses).collect()
    })
}

#[test]
fn blocks_have_scopes_and_var_has_not() {
    assert_eq!(undefined("{ let a = 1; var b = 2; }\nb + a;\n"), ["a"]);
    assert_eq!(undefined("for (let i = 0; i < 3; i++) {}\ni;\n"), ["i"]);
    assert_eq!(undefined("function f() { if (1) { var a; } return a; }\na;\n"), ["a"]);
    assert_eq!(undefined("try { f(); } catch (e) { e; }\ne;\nfunction f() {}\n"), ["e"]);
    assert_eq!(undefined("switch (1) { case 1: let a; break; default: a; }\na;\n"), ["a"]);
}

#[test]
fn functions_and_classes_are_seen_before_they_stand() {
    assert!(undefined("f();\nfunction f() { return new A(); }\nclass A {}\n").is_empty());
    assert_eq!(undefined("const f = function g() { return g; };\ng;\n"), ["g"]);
    assert_eq!(undefined("const A = class B { f() { return B; } };\nB;\n"), ["B"]);
}

#[test]
fn patterns_bind_what_they_take_apart() {
    assert!(undefined("const { a, b: [c, ...d], ...e } = f;\na + c + d + e;\nconst f = 1;\n").is_empty());
    assert_eq!(undefined("const { a: b = c } = {};\na;\n"), ["c", "a"]);
    assert!(undefined("export const f = ({ a, b = a }, [c] = [b], ...d) => c + d;\n").is_empty());
}

#[test]
fn names_of_members_labels_and_tags_are_no_uses() {
    assert!(undefined("out: for (;;) { break out; }\nconsole.a.b = { c: 1, 'd': 2, e() {} };\n").is_empty());
    assert!(undefined("export const a = <div title='b'><svg.c /></div>;\nconst svg = 1;\n").is_empty());
    assert_eq!(undefined("export const a = <Quay d={tide} />;\n"), ["Quay", "tide"]);
    assert_eq!(undefined("export { a, b as c };\nexport { d } from 'quays';\nconst b = 1;\n"), ["a"]);
}

#[test]
fn giving_a_value_is_no_use() {
    let both = [Language::JavaScript, Language::TypeScript];
    for language in both {
        assert_eq!(uses(language, "let a; a = 1; a += 2; a++;\n", "a"), [0]);
        assert_eq!(uses(language, "let a; [a] = [1]; ({ a } = {}); ({ b: a } = {});\n", "a"), [0]);
        assert_eq!(uses(language, "let a; f(a = 1, a++);\n", "a"), [1]);
    }
    assert_eq!(undefined("quya = 1;\n"), ["quya"]);
}

#[test]
fn what_others_may_bring_is_unknown() {
    let unknown = |source: &str| {
        with_names(Language::JavaScript, source, |names| {
            names
                .references()
                .filter(|reference| matches!(reference.resolution, Resolution::Unknown(_)))
                .map(|reference| names.text(reference.name).to_string())
                .collect::<Vec<_>>()
        })
    };
    assert_eq!(unknown("tide();\n"), ["tide"], "another script may bring it");
    assert_eq!(unknown("const a = require('a');\n__DEV__ && a(VERSION);\n"), ["__DEV__", "VERSION"]);
    assert_eq!(unknown("import 'a';\ntypeof tide === 'string' && tide();\n"), ["tide", "tide"]);
    assert_eq!(unknown("import 'a';\ndescribe('a', () => { spy(); });\n"), ["describe", "spy"]);
    assert_eq!(unknown("import 'a';\n/* global tide */\ntide();\n"), ["tide"]);
    assert_eq!(
        unknown("import 'a';\nfunction work() { quay(); }\nrun(work.toString());\nfunction run() {}\n"),
        ["quay"]
    );
    let typed = with_names(Language::TypeScript, "import 'a';\nlet a: Tide;\n", |names| {
        names.references().map(|reference| reference.resolution).collect::<Vec<_>>()
    });
    assert_eq!(typed, [Resolution::Unknown(Unknown::OtherFile)], "a declaration file may bring it");
}

#[test]
fn types_and_values_have_names_of_their_own() {
    let source = "import * as Tide from 'a';\nimport type { Quay } from 'b';\n\
                  export interface A<Tide = Tide.Table> { a: Tide }\nexport function f(Quay: number): Quay { return Quay; }\n";
    let imported = |name| uses(Language::TypeScript, source, name)[0];
    assert_eq!((imported("Tide"), imported("Quay")), (2, 1));
    assert_eq!(
        uses(Language::TypeScript, "type A<T> = T extends (infer U)[] ? U : never;\nexport let a: A<1>;\n", "U"),
        [1]
    );
    assert_eq!(uses(Language::TypeScript, "import { a } from 'a';\nexport let b: typeof a;\n", "a"), [1]);
}

#[test]
fn what_is_handed_out_is_used() {
    for source in [
        "export const a = 1;\n",
        "export default function a() {}\n",
        "const a = 1;\nexport { a as default };\n",
        "export { a };\nvar a;\n",
    ] {
        assert_eq!(uses(Language::JavaScript, source, "a"), [1], "{source}");
    }
    for source in ["export enum a {}\n", "declare const a: 1;\n", "export import a = b.c;\n", "export namespace a {}\n"]
    {
        assert_eq!(uses(Language::TypeScript, source, "a"), [1], "{source}");
    }
}
