//! Renamings that would break code are refused, with the place; those that would not are done.

use crate::ferry::{Ended, Ferry};

const CORE: &str = "def fare(adult, share=2):\n    return adult * share\n\n\nclass Boat:\n    speed = 3\n\n    def sail(self):\n        return self.speed\n";

/// A package `pkg` with a module `core`, and other files.
fn python(files: &[(&str, &str)], place: &str, new: &str) -> (Ferry, Ended) {
    let ferry = Ferry::with(&[("pkg/__init__.py", ""), ("pkg/core.py", CORE)]);
    files.iter().for_each(|(name, text)| ferry.write(name, text));
    let ended = ferry.run(&["rename", place, new]);
    (ferry, ended)
}

fn script(files: &[(&str, &str)], place: &str, new: &str) -> (Ferry, Ended) {
    let ferry = Ferry::with(&[(
        "core.ts",
        "export function fare(adult: number) {\n  return adult;\n}\nexport interface Quay {\n  depth: number;\n}\n",
    )]);
    files.iter().for_each(|(name, text)| ferry.write(name, text));
    let ended = ferry.run(&["rename", place, new]);
    (ferry, ended)
}

#[track_caller]
fn assert_refused((ferry, ended): &(Ferry, Ended), place: &str) {
    assert_eq!(ended.status, 2, "{ended:?}");
    assert!(ended.err.contains("nothing was renamed") && ended.err.contains(place), "{ended:?}");
    assert!(ferry.run(&["fix", "--undo"]).err.contains("no fixing run"), "nothing was written");
}

#[test]
fn a_module_that_goes_elsewhere_refuses_its_names() {
    for (use_of_it, place) in [
        ("from pkg import core\nm = core\nprint(m.fare(1))\n", "main.py:2:5"),
        ("import pkg.core\nprint(vars(pkg.core))\n", "main.py:2:12"),
        ("from pkg import core\n\n\ndef run(f):\n    f(core)\n", "main.py:5:7"),
        ("import importlib\nm = importlib.import_module(\"pkg.core\")\nprint(m.fare(1))\n", "main.py:2:5"),
        ("import importlib\nm = importlib.import_module(f\"pkg.{'core'}\")\n", "main.py:2:5"),
        ("import sys\nimport pkg.core\nprint(sys.modules[\"pkg.core\"].fare(1))\n", "main.py:3:7"),
        ("from pkg import core\nprint(getattr(core, \"fa\" + \"re\"))\n", "main.py:2:15"),
        ("from unittest import mock\nmock.patch(\"pkg.core.fare\")\n", "main.py:2:12"),
    ] {
        assert_refused(&python(&[("main.py", use_of_it)], "pkg/core.py:1:5", "price"), place);
    }
    for (use_of_it, place) in [
        ("import * as q from './core';\nconst { fare } = q;\nfare(1);\n", "main.ts:2:18"),
        ("import * as q from './core';\nq['fare'](1);\n", "main.ts:2:1"),
        ("import * as q from './core';\nconsole.log(q);\n", "main.ts:2:13"),
        ("import * as q from './core';\nexport default { ...q };\n", "main.ts:2:21"),
        ("const q = await import('./core');\nq.fare(1);\nexport {};\n", "main.ts:1:17"),
        ("export * as ns from './core';\n", "main.ts:1:8"),
    ] {
        assert_refused(&script(&[("main.ts", use_of_it)], "core.ts:1:17", "price"), place);
    }
    for (use_of_it, place) in [
        ("const a: import('./core').Quay = { depth: 1 };\nexport { a };\n", "main.ts:1:10"),
        ("declare module './core' {\n  interface Quay {\n    name: string;\n  }\n}\nexport {};\n", "main.ts:1:"),
    ] {
        assert_refused(&script(&[("main.ts", use_of_it)], "core.ts:4:18", "Berth"), place);
    }
}

#[test]
fn names_that_are_put_together_are_refused() {
    let parser = "class Parser:\n    def parse_tide(self):\n        return 1\n\n    def run(self, kind):\n        return getattr(self, f\"parse_{kind}\")()\n";
    assert_refused(&python(&[("parser.py", parser)], "parser.py:2:9", "read_tide"), "parser.py:6:30");
    let visitor = "class Visitor:\n    def visit_Boat(self, boat):\n        return boat\n\n    def visit(self, thing):\n        return getattr(self, \"visit_\" + type(thing).__name__)(thing)\n";
    assert_refused(&python(&[("visitor.py", visitor)], "pkg/core.py:5:7", "Ship"), "visitor.py:6:30");
    // The functions may be in another file than the look-up.
    let elsewhere = visitor.replace("    def visit_Boat(self, boat):\n        return boat\n\n", "");
    let printer = "from visitor import Visitor\n\n\nclass Printer(Visitor):\n    def visit_Boat(self, boat):\n        print(boat)\n";
    let files = [("visitor.py", elsewhere.as_str()), ("printer.py", printer)];
    assert_refused(&python(&files, "pkg/core.py:5:7", "Ship"), "visitor.py:3:30");
}

#[test]
fn keywords_of_methods_that_the_language_calls_are_refused() {
    for (code, place) in [
        (
            "class Fare:\n    def __call__(self, seats=1):\n        return seats\n\n\ndef f(fare):\n    return fare(seats=2)\n",
            "a.py:7:17",
        ),
        (
            "class Fare:\n    def __init_subclass__(cls, seats=1):\n        cls.n = seats\n\n\nclass Child(Fare, seats=2):\n    pass\n",
            "a.py:6:19",
        ),
    ] {
        let ferry = Ferry::with(&[("a.py", code)]);
        let column = code.lines().nth(1).and_then(|line| line.find("seats")).expect("a column") + 1;
        let ended = ferry.run(&["rename", &format!("a.py:2:{column}"), "places"]);
        assert_refused(&(ferry, ended), place);
    }
}

#[test]
fn dictionaries_that_are_unpacked_for_an_unknown_constructor_are_refused() {
    for call in ["super().__init__(**more)", "type(self).__init__(self, **more)", "self.__class__(**more)"] {
        let code = format!(
            "class Fare:\n    def __init__(self, seats=1):\n        self.n = seats\n\n\nclass Child(Fare):\n    def __init__(self, **more):\n        {call}\n"
        );
        let ferry = Ferry::with(&[
            ("a.py", &code),
            ("b.py", "from c import make\nmake(seats=2)\n"),
            ("c.py", "def make(**more):\n    return more\n"),
        ]);
        let ended = ferry.run(&["rename", "a.py:2:24", "places"]);
        assert_refused(&(ferry, ended), "a.py:8:");
    }
}

#[test]
fn a_class_that_shows_its_name_takes_the_strings_along_or_is_refused() {
    let code = "class Quay:\n    def __repr__(self):\n        return type(self).__name__ + \"()\"\n";
    let test = "from quay import Quay\nassert repr(Quay()) == \"Quay()\"\n";
    let ferry = Ferry::with(&[("quay.py", code), ("test_quay.py", test)]);
    let ended = ferry.run(&["rename", "quay.py:1:7", "Berth"]);
    assert_refused(&(ferry, ended), "test_quay.py:2:25");
    let ferry = Ferry::with(&[("quay.py", code), ("test_quay.py", test)]);
    assert_eq!(ferry.run(&["rename", "quay.py:1:7", "Berth", "--mentions"]).status, 0);
    assert_eq!(ferry.read("test_quay.py"), test.replace("Quay", "Berth"));
    // Without such strings nothing depends on the name.
    let ferry = Ferry::with(&[("quay.py", code)]);
    assert_eq!(ferry.run(&["rename", "quay.py:1:7", "Berth"]).status, 0);
}

#[test]
fn names_beside_a_value_in_a_string_are_refused() {
    for (code, place) in
        [("print(f\"boat.sail{1}(3)\")\n", "write.py:1:14"), ("print(f\"{1}sail\")\n", "write.py:1:12")]
    {
        assert_refused(&python(&[("write.py", code)], "pkg/core.py:8:9", "go"), place);
    }
    for code in ["print(f\"{{sail}} {1}, sail {1}\")\n", "print(f\"resail{1}\")\n", "print({'sail'})\n"] {
        let (_, ended) = python(&[("write.py", code)], "pkg/core.py:8:9", "go");
        assert_eq!(ended.status, 0, "{code}: {ended:?}");
    }
    let script_code = "class Boat {\n  sail() {}\n}\nnew Boat().sail();\nconsole.log(`${1}.sail${2}`);\n";
    let ferry = Ferry::with(&[("a.js", script_code)]);
    let ended = ferry.run(&["rename", "a.js:2:3", "go"]);
    assert_refused(&(ferry, ended), "a.js:5:19");
}

#[test]
fn members_outside_of_dots_follow_or_refuse() {
    let body = "class Boat:\n    speed = 3\n    fast = speed * 2\n\n    def go(self, by=speed):\n        return by\n\n    @property\n    def depth(self):\n        return 1\n\n    @depth.setter\n    def depth(self, value):\n        self.value = value\n";
    // Another class has a member of this name; all uses are known to be of the one or the other.
    let (ferry, ended) = python(&[("boat.py", body)], "boat.py:2:5", "pace");
    assert_eq!(ended.status, 0, "{ended:?}");
    assert_eq!(ferry.read("pkg/core.py"), CORE);
    assert_eq!(ferry.read("boat.py"), body.replace("speed", "pace"));
    let ended = ferry.run(&["rename", "boat.py:9:9", "draught"]);
    assert_eq!(ended.status, 0, "{ended:?}");
    assert_eq!(ferry.read("boat.py"), body.replace("speed", "pace").replace("depth", "draught"));
    for (code, place) in [
        (
            "import dataclasses\n\n\n@dataclasses.dataclass\nclass Quay:\n    depth: int\n\n\nprint(Quay(depth=3))\n",
            "a.py:9:12",
        ),
        ("class Quay:\n    __slots__ = (\"depth\",)\n\n    def __init__(self):\n        self.depth = 1\n", "a.py:2:18"),
        (
            "class Quay:\n    depth: int = 1\n\n\ndef f(x):\n    match x:\n        case Quay(depth=1):\n            return 1\n",
            "a.py:7:19",
        ),
        ("class Quay:\n    __depth = 1\n\n\nprint(Quay._Quay__depth)\n", "a.py:5:12"),
    ] {
        let at = code
            .lines()
            .position(|line| line.contains("depth:") || line.contains("__depth = ") || line.contains("self.depth"))
            .expect("a line");
        let column = code
            .lines()
            .nth(at)
            .and_then(|line| line.find("__depth").or_else(|| line.find("depth")))
            .expect("a column");
        let ferry = Ferry::with(&[("a.py", code)]);
        let ended = ferry.run(&["rename", &format!("a.py:{}:{}", at + 1, column + 1), "draught"]);
        assert_refused(&(ferry, ended), place);
    }
    let property = "class Quay {\n  constructor(private depth: number) {}\n  rise() {\n    this.depth += 1;\n  }\n}\nnew Quay(1).rise();\n";
    let ferry = Ferry::with(&[("a.ts", property)]);
    let ended = ferry.run(&["rename", "a.ts:4:10", "draught"]);
    assert_eq!(ended.status, 2, "{ended:?}");
}

#[test]
fn names_with_a_meaning_of_their_own_stay() {
    for (name, code, place) in [
        ("a.py", "class Quay:\n    def __len__(self):\n        return 1\n", "2:9"),
        ("a.js", "class Quay {\n  constructor() {}\n}\nnew Quay();\n", "2:3"),
        ("a.js", "class Quay {\n  toString() {\n    return 1;\n  }\n}\nnew Quay();\n", "2:3"),
        ("a.js", "class Quay {\n  then() {\n    return 1;\n  }\n}\nnew Quay();\n", "2:3"),
    ] {
        let ferry = Ferry::with(&[(name, code)]);
        let ended = ferry.run(&["rename", &format!("{name}:{place}"), "berth"]);
        assert!(ended.status == 2 && ended.err.contains("meaning of its own"), "{ended:?}");
    }
}

#[test]
fn keywords_follow_only_what_takes_them() {
    let keeps = |code: &str, place: &str, expected: &str| {
        let ferry = Ferry::with(&[("a.py", code)]);
        let ended = ferry.run(&["rename", &format!("a.py:{place}"), "more"]);
        assert_eq!(ended.status, 0, "{code}: {ended:?}");
        assert_eq!(ferry.read("a.py"), expected);
    };
    keeps("def f(**kw):\n    return kw\n\n\nf(kw=1)\n", "1:9", "def f(**more):\n    return more\n\n\nf(kw=1)\n");
    keeps(
        "def f(kw, /, **rest):\n    return kw\n\n\nf(1, kw=1)\n",
        "1:7",
        "def f(more, /, **rest):\n    return more\n\n\nf(1, kw=1)\n",
    );
    keeps("def f(kw):\n    return kw\n\n\nf(kw=1)\n", "1:7", "def f(more):\n    return more\n\n\nf(more=1)\n");
    for (code, place) in [
        ("from functools import partial\n\n\ndef f(kw):\n    return kw\n\n\npartial(f, kw=1)\n", "a.py:8:12"),
        ("def f(kw):\n    return kw\n\n\nf(**{\"kw\": 1})\n", "a.py:5:3"),
        ("def f(kw=1, **rest):\n    return kw\n\n\nf(more=1)\n", "a.py:5:3"),
    ] {
        let ferry = Ferry::with(&[("a.py", code)]);
        let line = code.lines().position(|line| line.starts_with("def")).expect("a function") + 1;
        let ended = ferry.run(&["rename", &format!("a.py:{line}:7"), "more"]);
        assert_refused(&(ferry, ended), place);
    }
}

#[test]
fn files_that_are_not_sifted_count() {
    let uses = "from pkg.core import fare\nprint(fare(1))\n";
    for (name, text) in [
        ("made.py", format!("# Generated by the table maker. Do not edit.\n{uses}")),
        ("skipped/a.py", uses.to_string()),
        ("ignored/a.py", uses.to_string()),
    ] {
        let settings = ("sieve.toml", "[files]\nskip = [\"skipped/**\"]\n");
        let files = [(name, text.as_str()), settings, (".gitignore", "ignored/\n")];
        assert_refused(&python(&files, "pkg/core.py:1:5", "price"), name);
    }
    // After another root the module is found all the same, and a stub goes along.
    let ferry = Ferry::with(&[
        ("lib/p/pkg/__init__.py", ""),
        ("lib/p/pkg/core.py", CORE),
        ("lib/p/pkg/core.pyi", "def fare(adult: int, share: int = ...) -> int: ...\n"),
        ("main.py", uses),
    ]);
    let ended = ferry.run(&["rename", "lib/p/pkg/core.py:1:5", "price"]);
    assert_eq!(ended.status, 0, "{ended:?}");
    assert_eq!(ferry.read("main.py"), "from pkg.core import price\nprint(price(1))\n");
    assert!(ferry.read("lib/p/pkg/core.pyi").starts_with("def price("));
}

#[test]
fn what_only_looks_like_a_use_refuses_nothing() {
    for use_of_it in [
        "from pkg.core import fare\n\n\ndef run(ticket):\n    return getattr(ticket, \"fare\", 1) + fare(1)\n",
        "from pkg.core import fare\n\n\ndef show():\n    return locals()\n\n\nprint(fare(1))\n",
        "from pkg.core import fare\n\n\nclass Desk:\n    def price(self):\n        return fare(1)\n",
        "from pkg import core\nprint(core.fare(1), \"fare\", {\"fare\": 1})\n",
    ] {
        let (ferry, ended) = python(&[("main.py", use_of_it)], "pkg/core.py:1:5", "price");
        assert_eq!(ended.status, 0, "{use_of_it}\n{ended:?}");
        assert!(ferry.read("pkg/core.py").starts_with("def price("));
    }
    let generic = "from typing import Generic, TypeVar\n\nT = TypeVar(\"T\")\n\n\nclass Hold(Generic[T]):\n    def load(self):\n        return self.load\n";
    let ferry = Ferry::with(&[("a.py", generic)]);
    assert_eq!(ferry.run(&["rename", "a.py:7:9", "stow"]).status, 0);
}

#[test]
fn mentions_stay_where_the_name_is_seen() {
    let ferry = Ferry::with(&[("a.py", "def f():\n    tide = 1  # the tide\n    return tide\n\n\n# another tide\n")]);
    assert_eq!(ferry.run(&["rename", "a.py:2:5", "ebb", "--mentions"]).status, 0);
    assert_eq!(ferry.read("a.py"), "def f():\n    ebb = 1  # the ebb\n    return ebb\n\n\n# another tide\n");
    let ferry = Ferry::with(&[
        ("tide.ts", "export const tide = 1;\n"),
        ("b.ts", "import { tide } from './tide';\nexport const x = { 'tide': tide };\n// tide\n"),
    ]);
    assert_eq!(ferry.run(&["rename", "tide.ts:1:14", "ebb", "--mentions"]).status, 0);
    assert_eq!(ferry.read("b.ts"), "import { ebb } from './tide';\nexport const x = { 'tide': ebb };\n// ebb\n");
}

/// A base, two classes below it that override, and one that has nothing to do with them.
const FLEET: &str = "class Boat:\n    def sail(self):\n        return (lambda: self.speed())()\n\n    def speed(self):\n        return 3\n\n\nclass Ferry(Boat):\n    def speed(self):\n        return super().speed() + 1\n\n\nclass Raft(Boat):\n    pass\n\n\nclass Tide:\n    def speed(self):\n        return 0\n\n\ndef race(ferry: Ferry, tide: Tide):\n    return ferry.speed() + tide.speed() + Raft().speed()\n";

#[test]
fn a_family_of_overrides_is_renamed_together_when_asked() {
    let ferry = Ferry::with(&[("fleet.py", FLEET), ("race.py", "from fleet import Ferry\nprint(Ferry().speed())\n")]);
    let ended = ferry.run(&["rename", "fleet.py:5:9", "pace"]);
    assert_eq!(ended.status, 2, "{ended:?}");
    assert!(ended.err.contains("--family") && ended.err.contains("fleet.py:10:9"), "{ended:?}");
    // From the class, from an override, and from a use.
    for place in ["fleet.py:5:9", "fleet.py:10:9", "race.py:2:15"] {
        let ended = ferry.run(&["rename", place, "pace", "--family"]);
        assert_eq!(ended.status, 0, "{place}: {ended:?}");
        let expected =
            FLEET.replace("speed", "pace").replace("class Tide:\n    def pace", "class Tide:\n    def speed");
        assert_eq!(ferry.read("fleet.py"), expected.replace("tide.pace", "tide.speed"), "{place}");
        assert_eq!(ferry.read("race.py"), "from fleet import Ferry\nprint(Ferry().pace())\n");
        assert_eq!(ferry.run(&["fix", "--undo"]).status, 0);
    }
    // The class that has nothing to do with them is renamed alone.
    assert_eq!(ferry.run(&["rename", "fleet.py:19:9", "height"]).status, 0);
    assert!(ferry.read("fleet.py").contains("+ tide.height() +"));
    assert_eq!(ferry.read("fleet.py").matches("speed").count(), FLEET.matches("speed").count() - 2);
}

#[test]
fn bases_that_are_not_seen_and_unknown_objects_refuse_members() {
    for (code, place) in [
        ("from sea import Hull\n\n\nclass Boat(Hull):\n    def speed(self):\n        return 1\n", "a.py:4:12"),
        (
            "class Boat:\n    def speed(self):\n        return 1\n\n\ndef f(boat):\n    return boat.speed()\n",
            "a.py:7:17",
        ),
        (
            "class Boat:\n    def speed(self):\n        return 1\n\n    @staticmethod\n    def f(boat):\n        return boat.speed()\n",
            "a.py:7:21",
        ),
        ("class Boat:\n    def speed(self):\n        return 1\n\n\nclass Hull(Boat):\n    pace = 1\n", "a.py:7:5"),
    ] {
        let ferry = Ferry::with(&[("a.py", code)]);
        let line = code.lines().position(|line| line.contains("def speed")).expect("a line") + 1;
        assert_refused(
            &(Ferry::with(&[("a.py", code)]), ferry.run(&["rename", &format!("a.py:{line}:9"), "pace"])),
            place,
        );
    }
    // An exception of the library has no such member; a base in another file is seen.
    let below = "class Stranded(ValueError):\n    def speed(self):\n        return 1\n";
    let ferry = Ferry::with(&[
        ("a.py", below),
        ("b.py", "import a\n\n\nclass Lost(a.Stranded):\n    def f(self):\n        return self.speed()\n"),
    ]);
    assert_eq!(ferry.run(&["rename", "a.py:2:9", "pace"]).status, 0);
    assert!(ferry.read("b.py").contains("self.pace()"));
}

#[test]
fn members_of_scripts_follow_types_and_interfaces() {
    let code = "interface Moored {\n  depth(): number;\n}\nclass Boat implements Moored {\n  depth() {\n    return 1;\n  }\n}\nfunction f(m: Moored) {\n  return m.depth() + new Boat().depth();\n}\nf(new Boat());\nexport {};\n";
    let ferry = Ferry::with(&[("a.ts", code)]);
    let ended = ferry.run(&["rename", "a.ts:5:3", "draught"]);
    assert!(ended.status == 2 && ended.err.contains("--family"), "{ended:?}");
    assert_eq!(ferry.run(&["rename", "a.ts:5:3", "draught", "--family"]).status, 0);
    assert_eq!(ferry.read("a.ts"), code.replace("depth", "draught"));
    // What is destructured, or made by hand for an interface, is not known to be one of it.
    for (more, place) in
        [("const { depth } = load();\n", "b.ts:1:9"), ("export const m = { depth: 1 };\n", "b.ts:1:20")]
    {
        let ferry = Ferry::with(&[("a.ts", code), ("b.ts", more)]);
        let ended = ferry.run(&["rename", "a.ts:5:3", "draught", "--family"]);
        assert_refused(&(ferry, ended), place);
        let ferry = Ferry::with(&[("a.ts", code), ("b.ts", more)]);
        assert_eq!(ferry.run(&["rename", "a.ts:5:3", "draught", "--family", "--all-members"]).status, 0);
        let expected = more.replace("{ depth }", "{ draught: depth }").replace("{ depth: 1", "{ draught: 1");
        assert_eq!(ferry.read("b.ts"), expected);
    }
}

#[test]
fn a_parameter_is_renamed_in_its_doc_comment() {
    let python = "class Quay:\n    \"\"\"A quay.\n\n    :param depth: in metres, depth at low tide\n    \"\"\"\n\n    def __init__(self, depth):\n        \"\"\"Builds it.\n\n        Args:\n            depth (int): in metres\n        \"\"\"\n        self.metres = depth\n";
    let ferry = Ferry::with(&[("quay.py", python)]);
    assert_eq!(ferry.run(&["rename", "quay.py:7:24", "draught"]).status, 0);
    let expected = python.replace("depth", "draught").replace("draught at low", "depth at low");
    assert_eq!(ferry.read("quay.py"), expected);
    let script = "/**\n * A quay of some depth.\n * @param {number} depth in metres\n * @param [wide=1]\n */\nexport const quay = (depth, wide) => depth * wide;\n";
    let ferry = Ferry::with(&[("quay.js", script)]);
    assert_eq!(ferry.run(&["rename", "quay.js:6:22", "draught"]).status, 0);
    assert_eq!(ferry.read("quay.js"), script.replace("depth", "draught").replace("some draught", "some depth"));
    assert_eq!(ferry.run(&["rename", "quay.js:6:31", "broad"]).status, 0);
    assert!(ferry.read("quay.js").contains("@param [broad=1]"));
}

#[test]
fn the_table_of_all_names_of_a_module_refuses_its_names() {
    for use_of_it in [
        "import pkg.core\nprint(pkg.core.__dict__)\n",
        "from pkg import core\nfor name in core.__dict__:\n    print(name)\n",
    ] {
        assert_refused(&python(&[("main.py", use_of_it)], "pkg/core.py:1:5", "price"), "main.py:2:");
    }
}
