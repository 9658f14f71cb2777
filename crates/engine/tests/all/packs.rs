//! Packs: where they come from, what they may say, and what is refused.

use sieve_engine::settings::{Overrides, PackSource, Packs};
use sieve_engine::trial::{Problem, examples};

use sieve_engine::run::Wants;
use sieve_engine::{Work, Workspace};

use crate::folder::Folder;

const FERRY: &str = r#"
pack = "ferry"

[[rule]]
name = "no-print"
languages = ["python"]
find = 'call { callee refers "print" } not inside file { path in $allowed }'
message = "{callee} writes to the terminal: {text}"
fix = { exact = 'remove it' }

[rule.options]
allowed = { default = ["cli/**"], about = "files that may" }
"#;

/// What is caught, as `path:line:column rule message`.
fn caught(folder: &Folder) -> Vec<String> {
    let outcome = folder.sift(&[], Overrides::default(), false);
    let house = outcome.caught().filter(|finding| outcome.rules.rule(finding.rule).pack().is_some());
    let place = |finding: &sieve_engine::outcome::Finding| {
        let path = finding.path.rsplit('/').next().unwrap_or_default().to_string();
        let (start, rule) = (finding.start, outcome.rules.name(finding.rule));
        format!("{path}:{}:{} {rule} {}", start.line, start.column, finding.message)
    };
    house.map(place).collect()
}

#[test]
fn rules_of_a_pack_are_rules_like_any_other() {
    let folder = Folder::with(&[
        ("sieve.toml", "packs = [\"lint/ferry.toml\"]\n"),
        ("lint/ferry.toml", FERRY),
        ("desk.py", "print(1)\nprint(2)  # sieve: waive ferry:no-print because the desk has no log\n"),
        ("cli/run.py", "print(3)\n"),
    ]);
    assert_eq!(caught(&folder), ["desk.py:1:1 ferry:no-print print writes to the terminal: print(1)"]);
    folder.write("sieve.toml", "packs = [\"lint/ferry.toml\"]\n[rules]\n\"ferry:no-print\" = { allowed = [] }\n");
    assert_eq!(caught(&folder).len(), 2);
    folder.write("sieve.toml", "packs = [\"lint/ferry.toml\"]\n[rules]\n\"ferry:no-print\" = \"off\"\n");
    assert!(caught(&folder).is_empty());
    let scoped =
        "packs = [\"lint/ferry.toml\"]\n[[scope]]\npaths = [\"desk.py\"]\nrules = { \"ferry:no-print\" = \"off\" }\n";
    folder.write("sieve.toml", scoped);
    let outcome = folder.sift(&[], Overrides::default(), false);
    assert_eq!(outcome.held()["scope"], 1);
}

#[test]
fn packs_bring_settings_below_those_of_the_code_base() {
    let folder = Folder::with(&[
        ("sieve.toml", "packs = [\"./house\"]\n[rules]\nlong-line = { level = \"error\" }\n"),
        ("house/pack.toml", "pack = \"house\"\n[settings.rules]\nlong-line = { level = \"note\", limit = 30 }\n"),
        ("a.py", "x = 1\n"),
    ]);
    let settings = folder.settings_for("a.py").expect("right settings");
    let rule = settings.rule_set().named("long-line").expect("a rule");
    assert_eq!(settings.level(rule).word(), "error");
    assert_eq!(settings.rule(rule).values[0].value.to_string(), "30");
}

#[test]
fn lists_are_read_beside_the_pack_and_nowhere_else() {
    let pack = |list: &str| {
        format!(
            "pack = \"a\"\n[[rule]]\nname = \"quay\"\nlanguages = [\"python\"]\nfind = 'name {{ text in list(\"{list}\") }}'\nmessage = \"a quay\"\n"
        )
    };
    let folder = Folder::with(&[
        ("sieve.toml", "packs = [\"lint/a.toml\"]\n"),
        ("lint/a.toml", &pack("quays.txt")),
        ("lint/quays.txt", "# quays\nnorth\n\n  south\n"),
        ("secret.txt", "north\n"),
        ("a.py", "north = south = east = 1\n"),
    ]);
    assert_eq!(caught(&folder), ["a.py:1:1 a:quay a quay", "a.py:1:9 a:quay a quay"]);
    folder.write("lint/a.toml", pack("../secret.txt"));
    assert!(folder.wrong_settings("a.py").message.contains("is not beside the pack"));
    folder.write("lint/a.toml", pack("gone.txt"));
    assert!(folder.wrong_settings("a.py").message.contains("the list gone.txt cannot be read"));
}

#[track_caller]
fn refused(files: &[(&str, &str)], expected: &str) {
    let folder = Folder::with(files);
    folder.write("a.py", "x = 1\n");
    let error = folder.wrong_settings("a.py");
    let place = error.place.map_or(String::new(), |place| format!("{}:{}:", place.line, place.column));
    let said = format!("{}:{place} {}", error.path.file_name().unwrap_or_default().to_string_lossy(), error.message);
    assert!(said.contains(expected), "{said}");
}

#[test]
fn what_is_wrong_is_told_with_its_place() {
    let with = |rule: &str| format!("pack = \"a\"\n[[rule]]\nname = \"b\"\n{rule}\n");
    for (rule, expected) in [
        (
            "find = 'cal { callee is \"x\" }'\nmessage = \"m\"",
            "a.toml:4:9: no kind of node is called \"cal\"; did you mean \"call\"?",
        ),
        (
            "find = 'call { calle is \"x\" }'\nmessage = \"m\"",
            "a.toml:4:16: a call has no \"calle\"; did you mean \"callee\"?",
        ),
        ("find = 'call'\nmessage = \"{nam} is bad\"", "a.toml:5:13: a call has no \"nam\""),
        ("find = 'call'\nmessage = \"a { brace\"", "a.toml:5:14: a lone { means nothing: double it to write one"),
        ("find = 'call { callee is $limit }'\nmessage = \"m\"", "a.toml:4:26: there is no option \"limit\" here"),
        (
            "find = 'call'\nmessage = \"m\"\nfix = { exact = 'replase it with \"x\"' }",
            "a.toml:6:18: expected replace, remove or insert",
        ),
        (
            "find = 'call'\nmessage = \"m\"\nfix = { exact = 'replace text with \"x\"' }",
            "an attribute is no part of the code",
        ),
        ("find = 'call'", "a.toml:2:1: a rule needs `name`, `find` (or, about data, `at` or `each`) and `message`"),
        (
            "find = 'call'\nmessage = \"m\"\nlevle = \"note\"",
            "a.toml:6:1: a rule of a pack has no \"levle\"; the nearest is \"level\"",
        ),
        ("find = 'element'\nmessage = \"m\"\nlanguages = [\"shell\"]", "a.toml:4:9: \"element\" is never in Shell"),
    ] {
        refused(&[("sieve.toml", "packs = [\"a.toml\"]\n"), ("a.toml", &with(rule))], expected);
    }
}

#[test]
fn circles_strangers_and_twins_are_refused() {
    let named = "packs = [\"a.toml\"]\n";
    refused(
        &[
            ("sieve.toml", named),
            ("a.toml", "pack = \"a\"\npacks = [\"b.toml\"]\n"),
            ("b.toml", "pack = \"b\"\npacks = [\"a.toml\"]\n"),
        ],
        "b.toml:2:10: packs name each other in a circle: ",
    );
    refused(&[("sieve.toml", named), ("a.toml", "pack = \"a\"\npacks = [\"./a.toml\"]\n")], "in a circle");
    refused(&[("sieve.toml", "packs = [\"../a.toml\"]\n")], "../a.toml is outside of the code base");
    refused(&[("sieve.toml", "packs = [\"a.toml\"]\n")], "sieve.toml:1:10: the pack a.toml cannot be read");
    refused(
        &[("sieve.toml", "packs = [\"team-basic\"]\n")],
        "there is no built-in pack \"team-basic\"; the nearest is \"team-basics\"",
    );
    refused(&[("sieve.toml", "packs = [\"https://saltmarsh.example/a.toml\"]\n")], "an address is pinned");
    refused(
        &[("sieve.toml", "packs = [{ address = \"https://saltmarsh.example/a.toml\", sha256 = \"12\" }]\n")],
        "a sha256 has 64 hexadecimal digits",
    );
    refused(
        &[
            ("sieve.toml", "packs = [\"a.toml\", \"b/a.toml\"]\n"),
            ("a.toml", "pack = \"a\"\n"),
            ("b/a.toml", "pack = \"a\"\n"),
        ],
        "is a pack called \"a\" already",
    );
    refused(
        &[("sieve.toml", named), ("a.toml", "pack = \"a\"\n[settings]\npacks = [\"b\"]\n")],
        "the settings of a pack cannot have \"packs\"",
    );
    let twice = "pack = \"a\"\n[[rule]]\nname = \"b\"\nfind = \"call\"\nmessage = \"m\"\n[[rule]]\nname = \"b\"\nfind = \"call\"\nmessage = \"m\"\n";
    refused(&[("sieve.toml", named), ("a.toml", twice)], "there are two rules called a:b");
}

#[test]
fn a_nested_settings_file_cannot_name_packs() {
    let folder =
        Folder::with(&[("sub/sieve.toml", "mesh = \"fine\"\npacks = [\"a.toml\"]\n"), ("sub/a.py", "x = 1\n")]);
    let error = folder.wrong_settings("sub/a.py");
    assert_eq!(error.place.map(|place| (place.line, place.column)), Some((2, 10)));
    assert!(error.message.starts_with("packs are named in the settings at the root"), "{}", error.message);
}

#[test]
fn examples_tell_what_was_expected_and_what_was_found() {
    let example = |part: &str| format!("{FERRY}\n{part}");
    let tried = |part: &str| {
        let folder = Folder::with(&[("sieve.toml", "packs = [\"a.toml\"]\n"), ("a.toml", &example(part))]);
        let settings = folder.settings_for("a.py").expect("right settings");
        let tried = examples(settings.rule_set(), "ferry");
        tried.into_iter().flat_map(|one| one.failures).map(|failure| failure.problem).collect::<Vec<_>>()
    };
    let right = "[[rule.right]]\ncode = \"x = 1\\n\"\n";
    let fixed = "[[rule.wrong]]\ncode = \"x = 1\\nprint(x)\\n\"\nat = [\"2:1\"]\nfixed = \"x = 1\\n\"\n";
    assert_eq!(tried(&format!("{fixed}{right}")), []);
    assert_eq!(tried(right), [Problem::Lacks("wrong")]);
    let places = |expected: &[&str], found: &[&str]| Problem::Places {
        expected: expected.iter().map(|place| place.to_string()).collect(),
        found: found.iter().map(|place| place.to_string()).collect(),
        unsure: Vec::new(),
    };
    let elsewhere = "[[rule.wrong]]\ncode = \"print(1)\\nprint(2)\\n\"\nat = [\"1:1\", \"3:1\"]\n";
    assert_eq!(tried(&format!("{elsewhere}{right}")), [places(&["1:1", "3:1"], &["1:1", "2:1"])]);
    let wrong_right = format!("{fixed}[[rule.right]]\ncode = \"print(1)\\n\"\n");
    assert_eq!(tried(&wrong_right), [places(&[], &["1:1"])]);
    let other = fixed.replace("fixed = \"x = 1\\n\"", "fixed = \"x = 2\\n\"");
    let expected = Problem::Fixed { expected: "x = 2\n".to_string(), found: Some("x = 1\n".to_string()) };
    assert_eq!(tried(&format!("{other}{right}")), [expected]);
    let broken = format!("{fixed}[[rule.right]]\ncode = \"x = (\\n\"\n");
    assert!(matches!(&tried(&broken)[..], [Problem::Faults(_)]));
}

/// The examples of a pack in this repository, all as they should be; the rules that it has.
fn tried(path: &str) -> Vec<std::sync::Arc<sieve_rules::house::HouseRule>> {
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/").to_string() + path;
    let root = std::path::Path::new(&path).parent().expect("a folder");
    let project = sieve_engine::project::Project::at(root, root);
    let packs = Packs::alone(&project, &PackSource::Path(path)).expect("a right pack");
    let name = packs.list().last().expect("a pack").name.clone();
    let tried = examples(packs.rules(), &name);
    tried.iter().for_each(|one| assert_eq!(one.failures, [], "{}", one.rule.name));
    tried.into_iter().map(|one| one.rule).collect()
}

#[test]
fn what_teams_ask_for_is_one_short_rule_each() {
    let rules = tried("tests/packs/needs.toml");
    assert!(rules.len() >= 20, "{}", rules.len());
    let text = include_str!("../packs/needs.toml");
    for part in text.split("[[rule]]").skip(1) {
        let lines = part.split("[[rule.").next().unwrap_or_default().trim().lines().count();
        assert!(lines < 12, "{lines} lines: {part}");
    }
    for rule in rules {
        let languages: Vec<_> = rule.examples.iter().filter(|one| one.is_wrong).map(|one| one.language).collect();
        assert!(
            rule.languages.iter().all(|language| rule.languages.len() > 3 || languages.contains(language)),
            "{}",
            rule.name
        );
    }
}

#[test]
fn the_packs_that_come_along_pass_their_own_tests() {
    for path in ["packs/team-basics.toml", "../../demo/lint/ferry.toml"] {
        assert!(tried(path).len() >= 5);
    }
}

#[test]
fn a_rule_that_finds_everything_costs_what_it_finds() {
    let pack = "pack = \"a\"\n[[rule]]\nname = \"any\"\nlanguages = [\"python\"]\nfind = 'any'\nmessage = \"{text}\"\n";
    let folder = Folder::with(&[("sieve.toml", "packs = [\"./a.toml\"]\n"), ("a.toml", pack)]);
    folder.write("a.py", "boat = quay(tide)\n".repeat(20_000));
    let outcome = folder.sift(&[], Overrides::default(), false);
    let found = outcome.caught().filter(|finding| outcome.rules.name(finding.rule) == "a:any").count();
    assert_eq!(found, 1 + 20_000 * 6);
    assert!(outcome.findings.iter().all(|finding| finding.message.len() < 300));
}

#[test]
fn names_are_followed_through_modules_that_hand_them_on() {
    let rule = |name: &str, thing: &str| {
        format!(
            "[[rule]]\nname = \"{name}\"\nfind = 'call {{ callee refers \"{thing}\" }}'\nmessage = \"{{callee}}\"\n"
        )
    };
    let pack =
        format!("pack = \"a\"\n{}{}", rule("clock", "datetime.datetime.now"), rule("charge", "booking.money.charge"));
    let folder = Folder::with(&[
        ("sieve.toml", "packs = [\"./a.toml\"]\n"),
        ("a.toml", &pack),
        ("booking/__init__.py", "from .money import charge\nfrom .compat import *\n"),
        ("booking/money.py", "def charge(sum):\n    return sum\n"),
        ("booking/compat.py", "from datetime import datetime as clock\n"),
        (
            "desk.py",
            "import booking\nfrom booking import charge\nfrom booking.compat import clock\n\ncharge(1)\nbooking.charge(2)\nclock.now()\n",
        ),
        ("own.py", "from booking.other import charge\n\ncharge(1)\n"),
        ("web/booking/money.ts", "export function charge(sum: number) { return sum; }\n"),
        ("web/all.ts", "export { charge } from './booking/money';\n"),
        ("web/desk.ts", "import { charge } from './all';\ncharge(1);\n"),
    ]);
    let expected = [
        "desk.py:5:1 a:charge charge",
        "desk.py:6:1 a:charge booking.charge",
        "desk.py:7:1 a:clock clock.now",
        "desk.ts:2:1 a:charge charge",
    ];
    assert_eq!(caught(&folder), expected);
    let cached = folder.sift(&[], Overrides::default(), true);
    assert_eq!(cached.caught().filter(|finding| cached.rules.name(finding.rule) == "a:charge").count(), 3);
}

#[test]
fn values_that_a_query_cannot_take_are_refused_where_they_are_set() {
    let pack = "pack = \"a\"\n[[rule]]\nname = \"b\"\nfind = 'call { callee.name matches $words }'\nmessage = \"m\"\n[rule.options]\nwords = { default = \"x\", about = \"a pattern\" }\n";
    let settings = "packs = [\"./a.toml\"]\n[rules]\n\"a:b\" = { words = \"(\" }\n";
    refused(
        &[("sieve.toml", settings), ("a.toml", pack)],
        "sieve.toml:3:19: a:b cannot take this: this pattern is wrong",
    );
    let settings = settings.replace("words = \"(\"", "words = 3");
    refused(
        &[("sieve.toml", &settings), ("a.toml", pack)],
        "sieve.toml:3:19: a string is wanted here, not the number 3",
    );
    let settings = settings.replace("words = 3", "wrods = 3");
    refused(&[("sieve.toml", &settings), ("a.toml", pack)], "a:b has no option \"wrods\"; the nearest is \"words\"");
}

#[test]
fn the_pack_of_the_guide_is_right() {
    let guide = include_str!("../../../../docs/guide/house-rules.md");
    let packs = guide.split("```toml\n").skip(1).filter_map(|part| part.split("```").next());
    let pack = packs.filter(|part| part.contains("[[rule]]")).next().expect("a pack with a rule");
    let folder = Folder::with(&[("sieve.toml", "packs = [\"a.toml\"]\n"), ("a.toml", pack)]);
    let settings = folder.settings_for("a.py").expect("right settings");
    let tried = examples(settings.rule_set(), "ferry");
    assert_eq!(tried.iter().map(|one| one.failures.len()).collect::<Vec<_>>(), [0]);
}

/// What a workspace says, in the order in which it says it.
fn said(workspace: &mut Workspace) -> Vec<String> {
    let outcome = workspace.outcome().expect("right settings").outcome;
    let rule = |finding: &sieve_engine::outcome::Finding| outcome.rules.name(finding.rule).to_string();
    let findings = outcome.findings.iter().map(|finding| {
        let place = (&finding.path, finding.start, finding.end, finding.level);
        format!("{place:?} {} {} {:?} {:?}", rule(finding), finding.message, finding.held, finding.fix)
    });
    let unsure = outcome
        .unsure
        .iter()
        .map(|place| format!("{:?} {} {}", place.start, outcome.rules.name(place.rule), place.reason));
    let waivers = outcome.waivers.iter().map(|note| format!("{note:?}"));
    findings.chain(unsure).chain(waivers).collect()
}

#[test]
fn an_edited_pack_costs_its_own_rules_and_says_what_a_fresh_run_says() {
    let rule = |name: &str, find: &str| {
        format!(
            "[[rule]]\nname = \"{name}\"\nlanguages = [\"python\"]\nfind = '{find}'\nmessage = \"{{text}}\"\nfix = {{ exact = 'remove it' }}\n"
        )
    };
    let print = rule("no-print", "call { callee refers \"print\" }");
    let packs = [
        print.clone(),
        print.replace("{text}", "printed"),
        format!("{print}{}", rule("a-first", "name { text starts \"bo\" }")),
        rule("no-print", "call { callee refers \"booking.compat.say\" }"),
        String::new(),
        print.replace("[\"python\"]", "[\"typescript\"]"),
        print,
    ];
    let code = "from booking.compat import say, low\nimport os\n\n\ndef sail(boat):\n    print(boat)  # sieve: waive ferry:no-print because it is small\n    say(boat)\n    os  # sieve: waive ferry:a-first, unused-import because of nothing\n";
    let folder = Folder::with(&[
        (
            "sieve.toml",
            "packs = [\"./a.toml\"]\n[[scope]]\npaths = [\"b.py\"]\nrules = { unused-import = \"off\" }\n[[waive]]\npaths = [\"c.py\"]\nrules = [\"house\"]\nbecause = \"old\"\n",
        ),
        ("a.toml", "pack = \"ferry\"\n"),
        ("booking/compat.py", "from other import say\n"),
        ("a.py", code),
        ("b.py", code),
        ("c.py", code),
        ("d.sh", "#!/bin/sh\necho $1\n"),
    ]);
    let new =
        || Workspace::new(folder.project(), Overrides::default(), None, Wants { identities: true, ..Wants::NONE });
    let mut known = new();
    said(&mut known);
    for pack in &packs {
        let text = format!("pack = \"ferry\"\n{pack}");
        folder.write("a.toml", &text);
        known.forget(&folder.path("a.toml"));
        let renewed = said(&mut known);
        let Work { renewed: again, sifted, .. } = known.last_work();
        assert!(again >= 3 || pack.is_empty() || pack.contains("typescript"), "{again}: {pack}");
        assert!(sifted <= again, "{sifted}: {pack}");
        assert_eq!(renewed, said(&mut new()), "{pack}");
        said(&mut known);
        let Work { renewed: again, sifted, .. } = known.last_work();
        assert_eq!((again, sifted), (0, 0), "{pack}");
    }
}

#[cfg(unix)]
#[test]
fn links_do_not_lead_packs_out_of_the_code_base() {
    let outside = Folder::with(&[("ferry.toml", FERRY), ("quays.txt", "north\n")]);
    let list =
        "pack = \"a\"\n[[rule]]\nname = \"b\"\nfind = 'name { text in list(\"away/quays.txt\") }'\nmessage = \"m\"\n";
    let folder =
        Folder::with(&[("sieve.toml", "packs = [\"lint/ferry.toml\"]\n"), ("a.toml", list), ("a.py", "x = 1\n")]);
    std::os::unix::fs::symlink(outside.root(), folder.path("lint")).expect("a link");
    let message = folder.wrong_settings("a.py").message;
    assert!(message.contains("a link leads to it, out of the code base"), "{message}");
    folder.write("sieve.toml", "packs = [\"./a.toml\"]\n");
    std::os::unix::fs::symlink(outside.root(), folder.path("away")).expect("a link");
    let message = folder.wrong_settings("a.py").message;
    assert!(message.contains("a link leads to it, out of the code base"), "{message}");
}
