//! Styles that settings choose: what a rule of layout does with each word of its options.

use crate::ferry::Ferry;

/// What a fix of layout makes of a file under a setting of one rule.
fn laid_out(rule: &str, file: &str, code: &str) -> String {
    let ferry = Ferry::with(&[("sieve.toml", &format!("[rules]\n{rule}\n")), (file, code)]);
    let name = rule.split(' ').next().unwrap_or_default();
    let ended = ferry.run(&["fix", "--only", name]);
    assert_eq!(ended.status, 0, "{ended:?}");
    let after = ferry.read(file);
    assert!(ferry.run(&["fix", "--only", name]).out.starts_with("Nothing to fix"), "a second run changes nothing");
    after
}

fn assert_laid_out(rule: &str, file: &str, code: &str, wanted: &str) {
    assert_eq!(laid_out(rule, file, code), wanted, "{rule}");
}

#[test]
fn quotes_are_chosen_and_never_escaped() {
    let code = "a = 'low'\nb = \"high\"\nc = 'say \"ebb\"'\nd = \"it's\"\ne = r'\\d'\nf = f'{a}'\n";
    assert_laid_out(
        "quote-style = { quotes = \"double\" }",
        "tides.py",
        code,
        "a = \"low\"\nb = \"high\"\nc = 'say \"ebb\"'\nd = \"it's\"\ne = r\"\\d\"\nf = f\"{a}\"\n",
    );
    assert_laid_out(
        "quote-style = { quotes = \"single\" }",
        "tides.js",
        "const a = \"low\", b = 'high', c = \"it's\", d = <b title=\"x\" />;\n",
        "const a = 'low', b = 'high', c = \"it's\", d = <b title=\"x\" />;\n",
    );
}

#[test]
fn semicolons_that_are_needed_stay() {
    let code = "const a = low();\nlet b;\n[a, b].forEach(sail);\nconst c = high();\n(function () {})();\nreturnTo();\n";
    assert_laid_out(
        "semicolons = { end = \"never\" }",
        "tides.js",
        code,
        "const a = low()\nlet b;\n[a, b].forEach(sail)\nconst c = high();\n(function () {})()\nreturnTo()\n",
    );
    assert_laid_out(
        "semicolons = { end = \"always\" }",
        "tides.js",
        "const a = low()\nfor (;;) { break }\nexport { a }\nclass Quay { depth = 1 }\n",
        "const a = low();\nfor (;;) { break; }\nexport { a };\nclass Quay { depth = 1; }\n",
    );
}

#[test]
fn last_commas_are_given_to_lists_that_go_over_lines() {
    let code = "fare(\n    adult,\n    child\n)\nquays = [\n    1,\n    2\n]\nlow = (1, 2,)\n";
    assert_laid_out(
        "trailing-comma = { several-lines = \"always\" }",
        "fares.py",
        code,
        "fare(\n    adult,\n    child,\n)\nquays = [\n    1,\n    2,\n]\nlow = (1, 2)\n",
    );
    assert_laid_out(
        "trailing-comma = { several-lines = \"never\" }",
        "fares.ts",
        "const a = {\n  low,\n  high,\n};\ntype Q = [\n  string,\n];\n",
        "const a = {\n  low,\n  high\n};\ntype Q = [\n  string,\n];\n",
    );
}

#[test]
fn braces_and_the_words_behind_them_have_their_line() {
    let code = "if (low) {\n  moor();\n} else {\n  sail();\n}\n";
    let next = "if (low)\n{\n  moor();\n}\nelse\n{\n  sail();\n}\n";
    let both = |word: &str| format!("brace-line = {{ open = \"{word}\", go-on = \"{word}\" }}");
    assert_laid_out(&both("next-line"), "tides.js", code, next);
    assert_laid_out(&both("same-line"), "tides.js", next, code);
}

#[test]
fn arrows_take_their_parameter_with_parentheses_or_without() {
    let with = "const f = (a) => a;\nconst g = async (b) => b;\nconst h = (c, d) => c;\nconst i = (e = 1) => e;\n";
    let without = "const f = a => a;\nconst g = async b => b;\nconst h = (c, d) => c;\nconst i = (e = 1) => e;\n";
    assert_laid_out("arrow-parentheses = { around = \"always\" }", "tides.js", without, with);
    assert_laid_out("arrow-parentheses = { around = \"never\" }", "tides.js", with, without);
    let typed = "const f = (a: number) => a;\n";
    assert_laid_out("arrow-parentheses = { around = \"never\" }", "tides.ts", typed, typed);
}

#[test]
fn arithmetic_has_even_blanks_or_one_on_both_sides() {
    let code = "fare = adult*2 + child *3\nlast = seats[-1]\npower = -2**n\n";
    let even = "fare = adult*2 + child * 3\nlast = seats[-1]\npower = -2**n\n";
    let one = "fare = adult * 2 + child * 3\nlast = seats[-1]\npower = -2 ** n\n";
    assert_laid_out("operator-spacing = { arithmetic = \"even\" }", "fares.py", code, even);
    assert_laid_out("operator-spacing = { arithmetic = \"one\" }", "fares.py", code, one);
    let script = "const fare = adult*2+child;\nconst mask = a|b;\n";
    let wanted = "const fare = adult * 2 + child;\nconst mask = a | b;\n";
    assert_laid_out("operator-spacing = { arithmetic = \"one\" }", "fares.js", script, wanted);
}

#[test]
fn steps_and_tabs_are_chosen() {
    let two = "if (low) {\n  moor();\n  if (high) {\n    sail();\n  }\n}\n";
    let four = "if (low) {\n    moor();\n    if (high) {\n        sail();\n    }\n}\n";
    assert_laid_out("indent-width = { width = 4 }", "tides.js", two, four);
    assert_laid_out("indent-width = { width = 2 }", "tides.js", four, two);
    let tabs = "if low; then\n\tmoor\nfi\n";
    assert_laid_out("tabs = { indent = \"spaces\" }", "tides.sh", tabs, "if low; then\n        moor\nfi\n");
}

#[test]
fn blank_lines_around_definitions_are_counted() {
    let code = "import tides\ndef low():\n    pass\ndef high():\n    pass\n";
    let wanted = "import tides\n\ndef low():\n    pass\n\ndef high():\n    pass\n";
    assert_laid_out("blank-lines = { top = 1 }", "tides.py", code, wanted);
    assert_laid_out("blank-lines = { most = 0 }", "tides.sh", "low\n\n\nhigh\n", "low\nhigh\n");
}

#[test]
fn long_lines_are_broken_within_brackets_only() {
    let call = "announce(north_quay, south_quay, the_tide_that_is_high_today)\n";
    let wanted = "announce(\n    north_quay, south_quay, the_tide_that_is_high_today\n)\n";
    let broken = laid_out("long-line = { limit = 60 }", "tides.py", call);
    assert!(broken == wanted || broken.lines().all(|line| line.chars().count() <= 60), "{broken}");
    let text = "x = 'a text that nobody can break is left as it is, however long it may be'\n";
    assert_eq!(laid_out("long-line = { limit = 60 }", "tides.py", text), text);
}

#[test]
fn imports_are_grouped_with_the_team_s_own_last() {
    let code = "import ferry.tides\nimport os\nimport requests\n\nprint(ferry, os, requests)\n";
    let ferry = Ferry::with(&[
        ("sieve.toml", "[rules]\nimport-order = { own = [\"ferry\"], alphabet = true }\n"),
        ("main.py", code),
    ]);
    let shown = ferry.run(&["sift", "--only", "import-order", "--output", "lines"]).out;
    assert!(shown.contains("main.py:2:1: note: \"os\" is imported after \"ferry.tides\""), "{shown}");
    ferry.write("main.py", "import os\nimport sys\n\nimport requests\n\nimport ferry.tides\n");
    assert_eq!(ferry.run(&["sift", "--only", "import-order", "--output", "lines"]).out, "");
}

#[test]
fn words_that_an_option_has_not_are_refused_with_those_it_has() {
    let ferry = Ferry::with(&[("sieve.toml", "[rules]\nquote-style = { quotes = \"curly\" }\n"), ("a.py", "")]);
    let refused = ferry.run(&["sift"]);
    assert_eq!(refused.status, 2);
    assert!(refused.err.contains("sieve.toml:2:") && refused.err.contains("as-is"), "{}", refused.err);
    assert!(refused.err.contains("single") && refused.err.contains("double"), "{}", refused.err);
    let shown = ferry.path("sieve.toml");
    std::fs::remove_file(shown).expect("a file");
    let told = ferry.run(&["explain", "quote-style"]).out;
    assert!(told.contains("one of \"as-is\""), "{told}");
}

#[test]
fn imports_of_the_own_package_follow_others() {
    let code = "import ferry.tides\nimport requests\n\nprint(ferry, requests)\n";
    for (path, is_own) in
        [("ferry/main.py", true), ("src/ferry/main.py", true), ("tools/ferry/main.py", false), ("main.py", false)]
    {
        let ferry = Ferry::with(&[("sieve.toml", "[rules]\nimport-order = \"note\"\n"), (path, code)]);
        let found = ferry.run(&["sift", "--only", "import-order", "--output", "lines"]).out;
        assert_eq!(found.contains("\"requests\" is imported after \"ferry.tides\""), is_own, "{path}: {found}");
    }
}
