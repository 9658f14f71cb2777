//! Which findings a waiver holds back: a table of code, and the lines whose finding is held or not.

use sieve_engine::settings::Overrides;
use sieve_rules::catalogue;

use crate::folder::{Folder, listed};

/// What is reported of a file and what is held back, as `line` or `(line)`.
fn lines(name: &str, code: &str) -> Vec<String> {
    let folder = Folder::with(&[(name, code)]);
    let only = ["undefined-name", "unused-import", "unused-variable", "mutable-default"];
    let only = only.iter().filter_map(|name| catalogue::named(name)).collect();
    let outcome = folder.sift(&[], Overrides { only, ..Overrides::default() }, false);
    let short = |finding: String| {
        let line = finding.split(':').nth(1).unwrap_or_default().to_string();
        if finding.ends_with("(waiver)") { format!("({line})") } else { line }
    };
    listed(&outcome).into_iter().map(short).collect()
}

#[track_caller]
fn assert_lines(name: &str, code: &str, expected: &[&str]) {
    assert_eq!(lines(name, code), expected, "{code}");
}

#[test]
fn at_the_end_of_a_line_it_holds_for_the_statement() {
    assert_lines("a.py", "print(low)  # sieve: waive undefined-name because old\nprint(high)\n", &["(1)", "2"]);
    assert_lines(
        "a.py",
        "print(\n    low,\n    high,\n)  # sieve: waive undefined-name because old\nprint(spring)\n",
        &["(2)", "(3)", "5"],
    );
    assert_lines("a.py", "print(  # sieve: waive undefined-name because old\n    low,\n)\n", &["(2)"]);
    assert_lines(
        "a.js",
        "const a = low; // sieve: waive undefined-name because old\nexport default [a, high];\n",
        &["(1)", "2"],
    );
}

#[test]
fn after_the_head_of_a_block_it_holds_for_the_head() {
    assert_lines(
        "a.py",
        "if low:  # sieve: waive undefined-name because old\n    print(high)\nelse:\n    print(spring)\n",
        &["(1)", "2", "4"],
    );
    assert_lines(
        "a.py",
        "def sail(boats=[]):  # sieve: waive mutable-default because old\n    boats.append(low)\n",
        &["(1)", "2"],
    );
    assert_lines(
        "a.js",
        "if (low) { // sieve: waive undefined-name because old\n  console.log(high);\n}\nexport {};\n",
        &["(1)", "2"],
    );
}

#[test]
fn on_a_line_of_its_own_it_holds_for_the_next_statement_or_clause() {
    assert_lines(
        "a.py",
        "# sieve: waive undefined-name because old\ndef sail():\n    print(low)\n    print(high)\n\n\nprint(spring)\n",
        &["(3)", "(4)", "7"],
    );
    assert_lines(
        "a.py",
        "try:\n    print(low)\n# sieve: waive undefined-name because old\nexcept OSError:\n    print(high)\n",
        &["2", "(5)"],
    );
    assert_lines(
        "a.py",
        "# sieve: waive undefined-name because old\n\n# Words between.\nprint(low)\nprint(high)\n",
        &["(4)", "5"],
    );
    assert_lines(
        "a.js",
        "// sieve: waive undefined-name because old\nfor (;;) {\n  console.log(low);\n}\nconsole.log(high);\nexport {};\n",
        &["(3)", "5"],
    );
}

#[test]
fn for_the_file_and_between_marks() {
    assert_lines("a.py", "print(low)\n# sieve: waive-file undefined-name because old\nprint(high)\n", &["(1)", "(3)"]);
    assert_lines(
        "a.py",
        "print(low)\n# sieve: pause undefined-name because old\nprint(high)\n# sieve: resume undefined-name\nprint(spring)\n",
        &["1", "(3)", "5"],
    );
    assert_lines("a.py", "# sieve: pause undefined-name because old\nprint(low)\nprint(high)\n", &["(2)", "(3)"]);
    assert_lines(
        "a.py",
        "# sieve: pause undefined-name, unused-import because old\nimport os\n# sieve: resume undefined-name\nprint(low)\nimport sys\n",
        &["(2)", "4", "(5)"],
    );
    assert_lines("a.sh", "#!/bin/sh\n# sieve: waive-file mistake because old\n:\n", &[]);
}

#[test]
fn names_of_rules_and_concerns_count_and_no_others() {
    let code = |names: &str| format!("import os  # sieve: waive {names} because old\nprint(low)\n");
    assert_lines("a.py", &code("unused-import"), &["(1)", "2"]);
    assert_lines("a.py", &code("leftover"), &["(1)", "2"]);
    assert_lines("a.py", &code("mistake, leftover"), &["(1)", "2"]);
    assert_lines("a.py", &code("mistake"), &["1", "2"]);
    assert_lines("a.py", &code("unused-imports"), &["1", "2"]);
}

#[test]
fn a_last_day_that_is_over_or_no_day_holds_nothing() {
    let code = |day: &str| format!("import os  # sieve: waive unused-import because old until {day}\n");
    assert_lines("a.py", &code("2999-12-31"), &["(1)"]);
    assert_lines("a.py", &code("2020-12-31"), &["1"]);
    for wrong in ["tomorrow", "2020-1-1", "31.12.2999", "2999-02-30", "2999-12"] {
        assert_lines("a.py", &code(wrong), &["1"]);
    }
    assert_lines("a.py", "import os  # sieve: waive unused-import until 2999-12-31 because old\n", &["(1)"]);
    let today = sieve_engine::today();
    assert_lines("a.py", &code(&today.to_string()), &["(1)"]);
}

#[test]
fn only_comments_hold_and_only_where_the_mark_begins_them() {
    assert_lines("a.py", "import os; x = '# sieve: waive unused-import because old'\n", &["1"]);
    assert_lines("a.py", "import os  # about sieve: waive unused-import because old\n", &["1"]);
    assert_lines("a.py", "import os  ## sieve: waive unused-import because old\n", &["(1)"]);
    assert_lines(
        "a.js",
        "import os from 'os'; /* sieve: waive unused-import because old */\nexport const low = 1;\n",
        &["(1)"],
    );
    assert_lines(
        "a.jsx",
        "const a = <b>{low /* sieve: waive undefined-name because old */}</b>;\nconsole.log(a);\nexport {};\n",
        &["(1)"],
    );
}
