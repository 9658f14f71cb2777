//! Which statements never run, and which variables have no value where they are read: one rule of control flow a case.

use sieve_meaning::flow::{Flows, Unset};
use sieve_meaning::names_of;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// The lines of statements that never run, over all functions and the file itself.
fn dead(language: Language, source: &str) -> Vec<u32> {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "{source}: {:?}", tree.faults());
    let names = names_of(language, &text, &tree);
    let flows = Flows::new(language, &text, &tree, Some(&names));
    let notable: Vec<_> = flows.notable_owners().collect();
    for flow in flows.owners().filter_map(|owner| flows.of(owner)) {
        assert!(flow.dead_statements().is_empty() || notable.contains(&flow.owner()), "{source}");
    }
    let all = notable.into_iter().filter_map(|owner| flows.of(owner));
    let mut lines: Vec<u32> = all
        .flat_map(|flow| flow.dead_statements().iter().map(|one| text.place(one.span().start).line).collect::<Vec<_>>())
        .collect();
    lines.sort_unstable();
    lines.dedup();
    lines
}

/// The uses of variables without a value, as `line name how`.
fn unset(language: Language, source: &str) -> Vec<String> {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "{source}: {:?}", tree.faults());
    let names = names_of(language, &text, &tree);
    let flows = Flows::new(language, &text, &tree, Some(&names));
    let mut found = Vec::new();
    for flow in flows.owners().filter_map(|owner| flows.of(owner)) {
        for one in flow.unset_uses() {
            let span = tree.node(one.node).span();
            let how = match one.unset {
                Unset::Always => "always",
                Unset::Maybe => "maybe",
                Unset::Doubtful => "doubtful",
            };
            found.push(format!("{} {} {how}", text.place(span.start).line, text.slice(span)));
        }
    }
    found.sort();
    found
}

#[test]
fn statements_after_an_exit_never_run() {
    for (source, lines) in [
        ("def f():\n    return 1\n    a()\n", vec![3]),
        ("def f():\n    raise E\n    a()\n", vec![3]),
        ("for a in b:\n    break\n    c()\nd()\n", vec![3]),
        ("for a in b:\n    continue\n    c()\nd()\n", vec![3]),
        ("def f():\n    if a:\n        return 1\n    else:\n        return 2\n    b()\n", vec![6]),
        ("def f():\n    if a:\n        return 1\n    b()\n", vec![]),
        ("def f():\n    while True:\n        a()\n    b()\n", vec![4]),
        ("def f():\n    while True:\n        if a:\n            break\n    b()\n", vec![]),
        ("def f():\n    while a:\n        return\n    else:\n        b()\n    c()\n", vec![]),
        ("def f():\n    try:\n        return 1\n    finally:\n        a()\n    b()\n", vec![6]),
        ("def f():\n    try:\n        return g()\n    except E:\n        pass\n    b()\n", vec![]),
        (
            "def f():\n    try:\n        a()\n    except E:\n        raise\n    else:\n        return 1\n    b()\n",
            vec![8],
        ),
        ("def f():\n    with a:\n        return 1\n    b()\n", vec![]),
        (
            "def f():\n    match a:\n        case 1:\n            return 1\n        case _:\n            return 2\n    b()\n",
            vec![7],
        ),
        ("def f():\n    match a:\n        case 1:\n            return 1\n    b()\n", vec![]),
        ("def f():\n    return\n    def g():\n        pass\n", vec![3]),
        ("def f():\n    return lambda: 1\n", vec![]),
    ] {
        assert_eq!(dead(Language::Python, source), lines, "{source}");
    }
}

#[test]
fn labels_cases_and_finally_of_scripts() {
    for (source, lines) in [
        ("function f() {\nreturn 1;\na();\n}\n", vec![3]),
        ("function f() {\nthrow a;\nb();\n}\n", vec![3]),
        ("function f() {\nouter: for (;;) {\nfor (;;) {\nbreak outer;\n}\na();\n}\nb();\n}\n", vec![6]),
        ("function f() {\na: { break a;\nb(); }\nc();\n}\n", vec![3]),
        ("function f(a) {\nswitch (a) {\ncase 1: return 1;\ndefault: return 2;\n}\nb();\n}\n", vec![6]),
        ("function f(a) {\nswitch (a) {\ncase 1: return 1;\n}\nb();\n}\n", vec![]),
        ("function f(a) {\nswitch (a) {\ncase 1: b();\ndefault: return 2;\n}\nc();\n}\n", vec![6]),
        ("function f() {\ndo { return 1; } while (a);\nb();\n}\n", vec![3]),
        ("function f() {\nfor (;;) {}\nb();\n}\n", vec![3]),
        ("function f() {\ntry { return 1; } finally { a(); }\nb();\n}\n", vec![3]),
        ("function f() {\ntry { a(); } finally { return 1; }\nb();\n}\n", vec![3]),
        ("const f = () => { return 1;\na(); };\n", vec![2]),
    ] {
        assert_eq!(dead(Language::JavaScript, source), lines, "{source}");
    }
}

#[test]
fn scripts_of_shells_end_and_return() {
    for (source, lines) in [
        ("#!/bin/bash\nf() {\nreturn 1\na\n}\n", vec![4]),
        ("#!/bin/bash\nfor a in b; do\nbreak\nc\ndone\nd\n", vec![4]),
        ("#!/bin/bash\nf() {\nif a; then return; fi\nb\n}\n", vec![]),
        ("#!/bin/bash\nf() {\nif a; then return; else return 1; fi\nb\n}\n", vec![4]),
        ("#!/bin/bash\nf() {\n( exit 1 )\nb\n}\n", vec![]),
    ] {
        assert_eq!(dead(Language::Shell, source), lines, "{source}");
    }
}

#[test]
fn variables_need_a_value_on_every_path() {
    for (source, uses) in [
        ("def f():\n    a = 1\n    return a\n", vec![]),
        ("def f():\n    print(a)\n    a = 1\n", vec!["2 a always"]),
        ("def f(b):\n    if b:\n        a = 1\n    return a\n", vec!["4 a maybe"]),
        ("def f(b):\n    if b:\n        a = 1\n    else:\n        a = 2\n    return a\n", vec![]),
        ("def f(b):\n    if b:\n        a = 1\n    else:\n        return 2\n    return a\n", vec![]),
        ("def f(b):\n    try:\n        a = g()\n    except E:\n        pass\n    return a\n", vec!["6 a maybe"]),
        ("def f(b):\n    try:\n        a = g()\n    except E:\n        raise\n    return a\n", vec![]),
        ("def f():\n    a = 1\n    del a\n    return a\n", vec!["4 a always"]),
        ("def f(a):\n    return a\n", vec![]),
        ("def f():\n    with g() as a:\n        pass\n    return a\n", vec![]),
        ("def f():\n    while True:\n        a = g()\n        if a:\n            break\n    return a\n", vec![]),
        ("def f():\n    def g():\n        return a\n    a = 1\n    return g\n", vec![]),
    ] {
        assert_eq!(unset(Language::Python, source), uses, "{source}");
    }
    for (source, uses) in [
        ("function f() {\nuse(a);\nlet a = 1;\n}\n", vec!["2 a always"]),
        ("function f() {\nlet a = 1;\nuse(a);\n}\n", vec![]),
        ("function f() {\nlet a;\nuse(a);\n}\n", vec![]),
        ("function f() {\nuse(g());\nfunction g() {}\n}\n", vec![]),
        ("function f() {\nuse(() => a);\nconst a = 1;\n}\n", vec![]),
    ] {
        assert_eq!(unset(Language::JavaScript, source), uses, "{source}");
    }
}

#[test]
fn loops_that_may_not_run_are_doubtful() {
    let source = "def f(b):\n    for c in b:\n        a = c\n    return a\n";
    assert_eq!(unset(Language::Python, source), ["4 a doubtful"]);
}

/// "Terminating statements", "Switch statements", "Select statements", "Break statements" of the Go Programming Language Specification.
#[test]
fn cases_of_go_do_not_run_into_each_other() {
    let of_body = |body: &str| dead(Language::Go, &format!("package quay\nfunc f() {{\n{body}\n}}\n"));
    for (body, lines) in [
        ("switch a {\ncase 1:\nreturn\ndefault:\nreturn\n}\nb()", vec![9]),
        ("switch a {\ncase 1:\nreturn\n}\nb()", vec![]),
        ("switch a {\ndefault:\nreturn\ncase 1:\nbreak\n}\nb()", vec![]),
        ("switch a {\ncase 1:\nfallthrough\ncase 2:\nreturn\ndefault:\nreturn\n}\nb()", vec![11]),
        ("switch a {\ncase 1:\nreturn\nfallthrough\ncase 2:\nb()\n}", vec![6]),
        ("switch {\n}\nb()", vec![]),
        ("select {}\nb()", vec![4]),
        ("select {\ncase <-a:\nreturn\n}\nb()", vec![7]),
        ("select {\ncase <-a:\nreturn\ndefault:\n}\nb()", vec![]),
        ("select {\ncase <-a:\nbreak\n}\nb()", vec![]),
        ("for {\nselect {\ncase <-a:\nbreak\n}\n}\nb()", vec![9]),
        ("low:\nfor {\nselect {\ncase <-a:\nbreak low\n}\n}\nb()", vec![]),
        ("low:\nfor {\nfor {\ncontinue low\n}\nc()\n}\nb()", vec![8, 10]),
        ("for range a {\nreturn\n}\nb()", vec![]),
        ("if c := d(); c {\nreturn\n} else {\nreturn\n}\nb()", vec![8]),
        ("goto low\nb()\nlow:\nc()", vec![]),
        ("panic(1)\nb()", vec![4]),
        ("if a {\npanic(1)\n} else {\nreturn\n}\nb()", vec![8]),
        ("switch {\ndefault:\npanic(1)\n}\nb()", vec![7]),
        ("panic := a\npanic(1)\nb()", vec![]),
        ("a.panic(1)\nb()", vec![]),
        ("defer a()\ngo a()\na <- 1\nreturn\nb()", vec![7]),
        ("go func() {\nreturn\na()\n}()", vec![5]),
    ] {
        assert_eq!(of_body(body), lines, "{body}");
    }
}
