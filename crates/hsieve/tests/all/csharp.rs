//! C#: the program on a project: findings, waivers and the baseline, lines for the preprocessor.

use std::process::Command;
use std::sync::atomic::{AtomicUsize, Ordering};

use sieve_syntax::language::Language;

use crate::ferry::{Ferry, missing, repository};
use crate::places::rename_each;
use crate::whole_way::{Case, is_reported_waived_and_recorded};

const FARE: &str = "namespace Ferries\n{\n    class Fare\n    {\n        public int Of(bool child)\n        {\n            return child ? 4 : 4;\n        }\n    }\n}\n";

const SAME: &str = "src/Fare.cs:7:20: warning: both branches are the same: the condition has no effect [same-branches]";

#[test]
fn a_project_is_sifted_waived_and_recorded() {
    let ferry = Ferry::with(&[("src/Fare.cs", FARE), ("ferries.csproj", "<Project/>\n")]);
    let case = Case { file: "src/Fare.cs", source: FARE, line: 7, finding: SAME };
    is_reported_waived_and_recorded(&ferry, &case);
}

/// A mistake is told at its place, and the rest of the file is sifted.
#[test]
fn a_broken_file_tells_where() {
    let ferry = Ferry::with(&[("src/Fare.cs", &FARE.replace("int Of", "int Low { get; sett; }\n        int Of"))]);
    assert_eq!(
        ferry.findings(&[]),
        [
            "src/Fare.cs:5:31: error: expected 'get', 'set' or 'init', found a name [broken-syntax]",
            &SAME.replace(":7:", ":8:"),
        ]
    );
}

/// What is compiled only sometimes is equal to nothing, and what is no code is left out.
#[test]
fn lines_for_the_preprocessor_keep_rules_silent() {
    let body = "#if NEAP\n            Moor();\n#endif\n            Wait();\n";
    let choice = format!(
        "        if (low)\n        {{\n{body}        }}\n        else\n        {{\n            Moor();\n            Wait();\n        }}\n"
    );
    let source = format!(
        "class Quay\n{{\n    void Sail()\n    {{\n{choice}    }}\n#if NOTES\n    we'd rather wait\n#endif\n}}\n"
    );
    let ferry = Ferry::with(&[("Quay.cs", &source)]);
    assert_eq!(ferry.findings(&[]), [""; 0]);
    let plain = source.replace("#if NEAP\n", "").replacen("#endif\n", "", 1);
    ferry.write("Quay.cs", &plain);
    assert_eq!(
        ferry.findings(&[]),
        ["Quay.cs:5:9: warning: both branches are the same: the condition has no effect [same-branches]"]
    );
}

const TILL: &str =
    "using System;\nusing Ferries.Tides;\n\nnamespace Ferries.Desk\n{\n    class Till\n    {\n    }\n}\n";

/// What the other files declare in a namespace says whether a file names any of it: cold and warm, after changes, and read alone.
#[test]
fn a_namespace_that_is_opened_in_vain_is_told_by_what_others_declare() {
    let tides = |code: &str| format!("namespace Ferries.Tides\n{{\n{code}}}\n");
    let table = tides("    class Table\n    {\n    }\n");
    let ferry = Ferry::in_git(&[("src/Till.cs", TILL), ("src/Tides.cs", &table)]);
    let only = ["--only", "unused-namespace"];
    let found =
        ["src/Till.cs:2:1: warning: nothing of the namespace \"Ferries.Tides\" is named here [unused-namespace]"
            .to_string()];
    assert_eq!(ferry.findings(&only), found);
    assert_eq!(ferry.findings(&only), found, "the second run is warm");
    assert_eq!(ferry.findings(&["--only", "unused-namespace", "src/Till.cs"]), found, "the other file is not visited");
    ferry.commit("all is there");
    let called = "    static class Ends\n    {\n        public static void Add(this int day, int end)\n        {\n        }\n    }\n";
    ferry.write("src/Tides.cs", tides(called));
    assert_eq!(ferry.findings(&only), [""; 0], "a list may be filled by it");
    ferry.write("src/Tides.cs", &table);
    ferry.write("src/Till.cs", TILL.replace("Till\n    {\n", "Till\n    {\n        Table table;\n"));
    assert_eq!(ferry.findings(&only), [""; 0]);
    ferry.commit("the table is named");
    ferry.write("src/Tides.cs", table.replace("Table", "Ebb"));
    assert_eq!(
        ferry.findings(&["--only", "unused-namespace", "--changed"]),
        found,
        "the change of another file made it so"
    );
}

/// What is fixed is still what the file was, token by token.
#[test]
fn fixes_keep_what_a_file_means() {
    let spaced = FARE.replace("4;\n", "4;  \n");
    let ferry = Ferry::with(&[("src/Fare.cs", &spaced)]);
    let fixed = ferry.run(&["fix", "--mesh", "fine", "--only", "trailing-space"]);
    assert_eq!(fixed.status, 0, "{}", fixed.err);
    assert_eq!(ferry.read("src/Fare.cs"), FARE);
}

#[test]
fn the_settlement_of_the_demo_has_what_it_is_to_show() {
    assert_eq!(
        program().findings(&[]),
        [
            "Ledger.cs:23:13: warning: this block does nothing [empty-block]",
            "Ledger.cs:46:26: warning: both branches are the same: the condition has no effect [same-branches]",
            "Sale.cs:47:22: warning: line 39 tests the same: this branch is never taken [repeated-condition]",
        ]
    );
}

const FILES: [&str; 2] = ["Ledger.cs", "Sale.cs"];

/// Copies the program of the demo.
fn program() -> Ferry {
    let ferry = Ferry::empty();
    for name in FILES {
        let source = std::fs::read(repository().join("demo/settlement/src").join(name)).expect("a file of the demo");
        ferry.write(name, source);
    }
    ferry
}

/// What a program puts out, or what the compiler says of it.
fn runs(ferry: &Ferry) -> Result<String, String> {
    let made = ferry.path("settlement.exe");
    let mut compiler = Command::new("mcs");
    compiler.arg(format!("-out:{}", made.display())).args(FILES).current_dir(ferry.path(""));
    let text = |bytes: &[u8]| String::from_utf8_lossy(bytes).into_owned();
    let compiled = compiler.output().expect("mcs runs");
    if !compiled.status.success() {
        return Err(text(&compiled.stderr));
    }
    let ran = Command::new("mono").arg(&made).output().expect("mono runs");
    if ran.status.success() { Ok(text(&ran.stdout)) } else { Err(text(&ran.stderr)) }
}

/// Every second name of a program is renamed, each alone: it still builds and puts out the same, or it is said why it is not renamed.
#[test]
fn a_program_goes_on_as_before_after_each_renaming() {
    if !Command::new("mcs").arg("--version").output().is_ok_and(|output| output.status.success()) {
        return missing("mcs is not installed");
    }
    let before = runs(&program()).expect("the demo builds");
    assert!(before.contains("Gull Island"), "{before}");
    let (mut programs, mut refused) = (Vec::new(), 0);
    rename_each(program, Language::CSharp, &FILES, 2, |ferry, renamed| match renamed {
        Some(told) => programs.push((ferry, told)),
        None => refused += 1,
    });
    let next = AtomicUsize::new(0);
    std::thread::scope(|threads| {
        for _ in 0..std::thread::available_parallelism().map_or(1, usize::from) {
            threads.spawn(|| {
                while let Some((ferry, told)) = programs.get(next.fetch_add(1, Ordering::Relaxed)) {
                    assert_eq!(runs(ferry).as_ref(), Ok(&before), "{told}");
                }
            });
        }
    });
    println!("{} renamed, {refused} refused", programs.len());
    assert!(programs.len() > 30, "{} renamed, {refused} refused", programs.len());
}

const TIDES: &str = "namespace Ferries.Tides\n{\n    /// <summary>A tide.</summary>\n    public class Table\n    {\n        public Table(int low) { this.low = low; }\n        private int low;\n        public int Depth(int at) => low + at;\n        public static Table Of(int at) => new Table(low: at);\n    }\n}\n";

const DESK: &str = "using Ferries.Tides;\nusing Low = Ferries.Tides.Table;\n\nnamespace Ferries.Desk;\n\n/// <summary>Asks a <see cref=\"Table\"/>.</summary>\nclass Desk\n{\n    private readonly Table table = Table.Of(3);\n    int Ask(object other) => other is Table t ? t.Depth(at: 2) : Ferries.Tides.Table.Of(2).Depth(1);\n}\n";

/// Another library has a type of that name, too, and this file does not see ours.
const OTHER: &str = "using Paper;\n\nnamespace Print;\n\nclass Page { Table table; Ferries.Tides.Table tides; }\n";

#[test]
fn a_type_is_renamed_wherever_it_is_seen() {
    let files = [("Table.cs", TIDES), ("Desk.cs", DESK), ("Page.cs", OTHER)];
    for place in ["Table.cs:4:18", "Desk.cs:9:22", "Desk.cs:2:27", "Page.cs:5:41"] {
        let ferry = Ferry::with(&files);
        let run = ferry.run(&["rename", place, "Almanac"]);
        assert_eq!(run.status, 0, "{place}: {}", run.err);
        assert_eq!(ferry.read("Table.cs"), TIDES.replace("Table", "Almanac"), "{place}");
        assert_eq!(ferry.read("Desk.cs"), DESK.replace("Table", "Almanac"), "{place}");
        assert_eq!(ferry.read("Page.cs"), OTHER.replace("Tides.Table", "Tides.Almanac"), "{place}");
    }
}

/// One file may open a namespace for all of them.
#[test]
fn a_type_is_seen_where_another_file_opens_its_namespace() {
    let files = [("Table.cs", TIDES), ("Page.cs", OTHER), ("All.cs", "global using Ferries.Tides;\n")];
    for place in ["Table.cs:4:18", "Page.cs:5:14"] {
        let ferry = Ferry::with(&files);
        let run = ferry.run(&["rename", place, "Almanac"]);
        assert_eq!(run.status, 0, "{place}: {}", run.err);
        assert_eq!(ferry.read("Page.cs"), OTHER.replace("Table", "Almanac"), "{place}");
    }
}

#[test]
fn what_may_be_used_elsewhere_is_not_renamed() {
    let files = [("Table.cs", TIDES), ("Desk.cs", DESK), ("Page.cs", OTHER)];
    for (place, new, why) in [
        ("Table.cs:8:30", "when_", "it is not known whether this gives the parameter \"at\" its value"),
        ("Table.cs:1:11", "Boats", "namespaces are not followed in C#"),
        ("Table.cs:4:18", "Desk", "there is a type \"Desk\" already"),
        ("Table.cs:4:18", "record", "cannot be a name in C#"),
        ("Page.cs:5:14", "Sheet", "it is not known what \"Table\" refers to here"),
    ] {
        let ferry = Ferry::with(&files);
        let run = ferry.run(&["rename", place, new]);
        assert!(run.status != 0 && run.err.contains(why), "{place} {new}: {}\n{}", run.err, run.out);
        assert_eq!(ferry.read("Table.cs"), TIDES);
    }
    let parts = [
        ("A.cs", "partial class Boat\n{\n    private int low;\n}\n"),
        ("B.cs", "partial class Boat\n{\n    int Low => low;\n}\n"),
    ];
    let run = Ferry::with(&parts).run(&["rename", "A.cs:3:17", "depth"]);
    assert!(run.status != 0 && run.err.contains("another part of the type may use it"), "{}", run.err);
    let attribute = "class LowAttribute : System.Attribute {}\n\n[Low]\nclass Boat {}\n";
    let run = Ferry::with(&[("A.cs", attribute)]).run(&["rename", "A.cs:1:7", "Tide"]);
    assert!(run.status != 0, "{}", run.out);
}

/// A private field, its uses and a named argument with its documentation.
#[test]
fn parameters_and_private_members_are_renamed() {
    let source = "class Boat\n{\n    /// <param name=\"low\">How low.</param>\n    private int Sail(int low) => low + depth;\n    private int depth;\n    public int Go(Boat other) => Sail(low: 3) + other.depth;\n}\n";
    let ferry = Ferry::with(&[("Boat.cs", source)]);
    assert_eq!(ferry.run(&["rename", "Boat.cs:4:26", "tide"]).status, 0);
    assert_eq!(ferry.run(&["rename", "Boat.cs:5:17", "draught"]).status, 0);
    let wanted = source.replace("\"low\"", "\"tide\"").replace("int low) => low", "int tide) => tide");
    let wanted = wanted.replace("low: 3", "tide: 3").replace("depth", "draught");
    assert_eq!(ferry.read("Boat.cs"), wanted);
}

/// What a fix leaves out is what the compiler can do without.
#[test]
fn what_nothing_uses_is_told_and_fixed() {
    let source = "using System;\nusing Table = Ferries.Table;\n\nclass Boat\n{\n    private int low;\n\n    public void Sail()\n    {\n        int crew = Crew();\n        try\n        {\n            Go();\n        }\n        catch (Exception late)\n        {\n            Stop();\n        }\n        return;\n        Go();\n    }\n}\n";
    let ferry = Ferry::with(&[("Boat.cs", source)]);
    assert_eq!(
        ferry.findings(&["--no-cache"]),
        [
            "Boat.cs:2:7: warning: \"Ferries.Table\" as \"Table\" is imported but never used [unused-import]",
            "Boat.cs:6:17: warning: nothing uses the private field \"low\" [unused-member]",
            "Boat.cs:10:13: warning: \"crew\" is assigned but never used [unused-variable]",
            "Boat.cs:15:26: warning: \"late\" is caught but never used [unused-variable]",
            "Boat.cs:20:9: warning: this can never run: line 19 always returns [unreachable-code]",
        ]
    );
}

/// What is not understood may declare anything: code that is left out, and files in other encodings.
#[test]
fn a_namespace_of_which_not_all_is_understood_is_left_alone() {
    let ferry = Ferry::with(&[("Till.cs", TILL), ("Tides.cs", "namespace Ferries.Tides { class Table {} }\n")]);
    assert_eq!(ferry.findings(&["--only", "unused-namespace"]).len(), 1);
    let left_out = "#if NEAP\n#if SPRING\nextern alias Tides;\n#endif\nnamespace Ferries.Tides { class Ebb {} \n#else\n}}\n#endif\n";
    let in_latin_1: &[u8] = b"namespace Ferries.Tides { class Ebb { string end = \"\xe9\"; } }\n";
    for hidden in [left_out.as_bytes(), in_latin_1] {
        ferry.write("Ebb.cs", hidden);
        assert_eq!(ferry.findings(&["--only", "unused-namespace", "Till.cs"]), [""; 0]);
    }
}
