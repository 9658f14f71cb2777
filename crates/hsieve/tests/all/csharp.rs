//! C#: the program on a project: findings, waivers and the baseline, lines for the preprocessor.

use crate::ferry::{Ferry, repository};
use crate::whole_way::{Case, is_reported_waived_and_recorded};

const FARE: &str = "namespace Ferries\n{\n    class Fare\n    {\n        int Of(bool child)\n        {\n            return child ? 4 : 4;\n        }\n    }\n}\n";

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
            "src/Fare.cs:5:24: error: expected 'get', 'set' or 'init', found a name [broken-syntax]",
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
    let ferry = Ferry::empty();
    for name in ["Ledger.cs", "Sale.cs"] {
        let source =
            std::fs::read_to_string(repository().join("demo/settlement/src").join(name)).expect("a file of the demo");
        ferry.write(name, &source);
    }
    assert_eq!(
        ferry.findings(&[]),
        [
            "Ledger.cs:23:13: warning: this block does nothing [empty-block]",
            "Ledger.cs:46:26: warning: both branches are the same: the condition has no effect [same-branches]",
            "Sale.cs:47:22: warning: line 39 tests the same: this branch is never taken [repeated-condition]",
        ]
    );
}
