//! Calls followed to what they run, within a file and from file to file.

use std::collections::BTreeMap;
use std::sync::Arc;

use sieve_meaning::folder_module::FolderModule;
use sieve_meaning::names_of;
use sieve_meaning::opened::{Opened, OpeningQuestion};
use sieve_meaning::project::{Alone, Calls, Linker, Module, Modules, Others, Summary};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Kind;

/// Modules by the name under which every file imports them.
#[derive(Debug, Default)]
struct Project {
    modules: BTreeMap<String, Arc<Module>>,
}

impl Modules for Project {
    fn opened_in_vain(&self, _question: &OpeningQuestion, _own: &[Opened]) -> Vec<String> {
        Vec::new()
    }

    fn folder(&self, _from: &str, _folder: &str) -> Option<Arc<FolderModule>> {
        None
    }

    fn find(&self, _from: &str, module: &str) -> Option<Arc<Module>> {
        self.modules.get(module).map(Arc::clone)
    }

    fn is_missing(&self, _from: &str, _module: &str) -> bool {
        false
    }
}

impl Project {
    fn with(language: Language, files: &[(&str, &str)]) -> Project {
        let module = |(name, source): &(&str, &str)| {
            let text = Text::new((*source).to_string());
            let tree = language.parse(&text);
            let names = names_of(language, &text, &tree);
            let summary = Summary::of(language, &text, &tree, &names);
            ((*name).to_string(), Arc::new(Module { path: Arc::from(*name), summary }))
        };
        Project { modules: files.iter().map(module).collect() }
    }
}

/// What the last call runs: its file and line, and how many positions it takes.
fn callee(language: Language, source: &str, others: &dyn Others) -> Option<String> {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "{source}: {:?}", tree.faults());
    let names = names_of(language, &text, &tree);
    let calls = Calls::new(language, &text, &tree, &names, others);
    let call = tree.nodes().filter(|node| matches!(node.kind(), Kind::Call | Kind::New)).last().expect("a call");
    let found = calls.callee(call)?;
    assert_eq!(calls.callee(call).as_deref(), Some(&*found), "asked twice");
    let takes = found.signature.as_ref().map_or("?".to_string(), |signature| match signature.most_positions() {
        Some(most) => most.to_string(),
        None => "any".into(),
    });
    let marks = [(found.is_async, " async"), (found.is_pure, " pure"), (found.makes_object, " object")];
    let marks: String = marks.iter().filter(|(is, _)| *is).map(|(_, word)| *word).collect();
    Some(format!("{}:{} takes {takes}{marks}", found.file.as_deref().unwrap_or("here"), found.line))
}

#[test]
fn calls_within_a_file() {
    for (source, expected) in [
        ("def f(a, b): pass\nf(1)\n", Some("here:1 takes 2")),
        ("async def f(): pass\nf()\n", Some("here:1 takes 0 async")),
        ("class A:\n    def __init__(self, a): pass\nA(1)\n", Some("here:1 takes 1 object")),
        ("class A: pass\nA()\n", Some("here:1 takes 0 object")),
        ("class B:\n    def __init__(self, a, b): pass\nclass A(B): pass\nA()\n", Some("here:3 takes 2 object")),
        ("class A:\n    def f(self, a): return a\n    def g(self):\n        self.f(1)\n", Some("here:2 takes 1")),
        // Not bound yet where the class calls it.
        ("class A:\n    tides = set()\n    def set(self, a): pass\n", None),
        // Bound twice, decorated, of an unknown base, or of another object.
        ("def f(a): pass\nf = 1\nf(1)\n", None),
        ("class A(Unknown): pass\nA(1)\n", None),
        ("class A:\n    def f(self): pass\n\n\ndef g(a):\n    a.f()\n", None),
        ("def g(f):\n    f(1)\n", None),
        ("print(1)\n", None),
    ] {
        assert_eq!(callee(Language::Python, source, &Alone).as_deref(), expected, "{source}");
    }
    for (source, expected) in [
        ("function f(a, b) {} f(1);", Some("here:1 takes 2")),
        ("const f = async (a) => a; f(1);", Some("here:1 takes 1 async")),
        ("let f = (a) => a; f = 1; f(1);", None),
        ("function f(a) { return arguments; } f(1, 2);", Some("here:1 takes any")),
        ("class A { constructor(a) {} } new A(1);", Some("here:1 takes 1 object")),
        ("class A {} A();", None),
        ("/* @__PURE__ */\nfunction f() { sail(); } f();", Some("here:2 takes 0")),
        ("function f() {} f(1);", Some("here:1 takes any")),
    ] {
        assert_eq!(callee(Language::JavaScript, source, &Alone).as_deref(), expected, "{source}");
    }
}

#[test]
fn calls_lead_through_the_modules_of_a_project() {
    let python = Project::with(
        Language::Python,
        &[
            ("fares", "def child(age): pass\nfrom tides import high\nimport boats\n"),
            ("tides", "def high(day, quay): pass\n__all__ = ['high']\n"),
            ("boats", "class Boat:\n    def __init__(self, seats): pass\n"),
            ("all", "from tides import *\n"),
            ("round", "from circle import f\n"),
            ("circle", "from round import f\n"),
        ],
    );
    for (source, expected) in [
        ("from fares import child\nchild(1)\n", Some("fares:1 takes 1")),
        ("import fares\nfares.child(1)\n", Some("fares:1 takes 1")),
        ("import fares as f\nf.high(1)\n", Some("tides:1 takes 2")),
        ("from fares import high as h\nh(1)\n", Some("tides:1 takes 2")),
        ("from all import high\nhigh(1)\n", Some("tides:1 takes 2")),
        ("import fares\nfares.boats.Boat(1)\n", Some("boats:1 takes 1 object")),
        ("from fares import boats\nboats.Boat(1)\n", Some("boats:1 takes 1 object")),
        ("from round import f\nf()\n", None),
        ("from fares import nothing\nnothing()\n", None),
        ("from elsewhere import child\nchild()\n", None),
        ("from boats import Boat\nclass Ferry(Boat): pass\nFerry(1)\n", Some("here:2 takes 1 object")),
        (
            "import boats\nclass Tug(boats.Boat): pass\nclass Ferry(Tug): pass\nFerry(1)\n",
            Some("here:3 takes 1 object"),
        ),
        ("from elsewhere import Boat\nclass Ferry(Boat): pass\nFerry(1)\n", None),
    ] {
        let linker = Linker { language: Language::Python, path: "main", modules: &python };
        assert_eq!(callee(Language::Python, source, &linker).as_deref(), expected, "{source}");
    }
    let script = Project::with(
        Language::TypeScript,
        &[
            (
                "./fares",
                "export function child(age: number) {}\nexport { high } from './tides';\nexport * from './boats';\n",
            ),
            ("./tides", "export const high = (day: number, quay: string) => day;\n"),
            (
                "./boats",
                "export class Boat {\n  constructor(seats: number) {}\n}\nexport default function moor(a: number) {}\n",
            ),
        ],
    );
    for (source, expected) in [
        ("import { child } from './fares'; child(1);", Some("./fares:1 takes 1")),
        ("import { high } from './fares'; high(1);", Some("./tides:1 takes 2")),
        ("import * as fares from './fares'; fares.high(1);", Some("./tides:1 takes 2")),
        ("import { Boat } from './fares'; new Boat(1);", Some("./boats:1 takes 1 object")),
        ("import moor from './boats'; moor(1);", Some("./boats:4 takes 1")),
        ("import { moor } from './boats'; moor(1);", None),
        ("import type { child } from './gone'; child(1);", None),
    ] {
        let linker = Linker { language: Language::TypeScript, path: "main", modules: &script };
        assert_eq!(callee(Language::TypeScript, source, &linker).as_deref(), expected, "{source}");
    }
}

#[test]
fn a_module_lacks_what_it_certainly_does_not_have() {
    let python = Project::with(
        Language::Python,
        &[
            ("tides", "low = 1\nif low:\n    high = 2\ndef sail():\n    global late\n    late = 3\n"),
            ("made", "globals()['low'] = 1\n"),
            ("lazy", "def __getattr__(name):\n    return name\n"),
            ("broken", "low = (\n"),
            ("star", "from tides import *\n"),
            ("open_star", "from elsewhere import *\n"),
        ],
    );
    let linker = Linker { language: Language::Python, path: "main", modules: &python };
    for (module, name, lacks) in [
        ("tides", "low", false),
        ("tides", "high", false),
        ("tides", "late", false),
        ("tides", "spring", true),
        ("made", "spring", false),
        ("lazy", "spring", false),
        ("broken", "spring", false),
        ("star", "low", false),
        ("star", "spring", true),
        ("open_star", "spring", false),
        ("elsewhere", "spring", false),
    ] {
        assert_eq!(linker.lacks(module, name), lacks, "{module}.{name}");
    }
    let script = Project::with(
        Language::TypeScript,
        &[
            (
                "./tides",
                "export const low = 1, { high } = low;\nexport type Tide = number;\nexport interface Quay {}\nexport enum Depth {}\n\
                 export abstract class Boat {}\nexport declare function sail(): void;\nexport namespace Crew {}\nexport * as all from './boats';\n",
            ),
            ("./boats", "const moor = 1;\nexport { moor as dock };\nexport default moor;\n"),
            ("./old", "module.exports = { low: 1 };\n"),
            ("./script", "var low = 1;\n"),
            ("./all", "export * from './tides';\nexport * from './boats';\n"),
            ("./open", "export * from 'elsewhere';\n"),
        ],
    );
    let linker = Linker { language: Language::TypeScript, path: "main", modules: &script };
    for name in ["low", "high", "Tide", "Quay", "Depth", "Boat", "sail", "Crew", "all"] {
        assert!(!linker.lacks("./tides", name), "{name}");
        assert!(!linker.lacks("./all", name), "{name} through a star");
    }
    for (module, name, lacks) in [
        ("./tides", "default", true),
        ("./tides", "spring", true),
        ("./boats", "default", false),
        ("./boats", "dock", false),
        ("./boats", "moor", true),
        ("./old", "spring", false),
        ("./script", "spring", false),
        ("./all", "spring", true),
        ("./open", "spring", false),
    ] {
        assert_eq!(linker.lacks(module, name), lacks, "{module} {name}");
    }
}
