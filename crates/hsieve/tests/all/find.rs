//! `hsieve find`: code by its structure, and queries by code.

use crate::ferry::Ferry;

const DESK: &str = "import os\n\nfrom tides import *\n\n\ndef board(boat, late):\n    print(\"boarding\", boat)\n    if late:\n        print(boat)\n        low(boat)\n    os.system(\"ring\")\n";

fn ferry() -> Ferry {
    Ferry::in_git(&[
        ("booking/desk.py", DESK),
        ("tools/ring.py", "from os import system as run\n\nrun(\"ring\")\n"),
        ("web/board.ts", "export function show(quay: string) {\n  console.log(quay,\n    1);\n}\n"),
        (".gitignore", "made/\n"),
        ("made/a.py", "print(1)\n"),
    ])
}

#[test]
fn places_are_listed_and_counted() {
    let ferry = ferry();
    let found = ferry.run(&["find", "call { callee.name is \"print\" }"]);
    assert_eq!(found.status, 0);
    assert_eq!(found.out, "booking/desk.py:7:5: print(\"boarding\", boat)\nbooking/desk.py:9:9: print(boat)\n");
    assert_eq!(found.err, "Found 2 places in 1 of 3 files\n");
    let found = ferry.run(&["find", "call { callee refers \"os.system\" }", "--count"]);
    assert_eq!(found.out, "booking        1\ntools          1\n");
    let cards = ferry.run(&["find", "call { callee refers \"console.log\" }", "--output", "cards"]);
    assert_eq!(cards.out, "web/board.ts\n      2:3  console.log(quay, …\n\n");
    let none = ferry.run(&["find", "class", "booking"]);
    assert_eq!((none.status, none.out.as_str(), none.err.as_str()), (1, "", "Found nothing in 1 file\n"));
}

#[test]
fn what_cannot_be_known_is_told() {
    let ferry = ferry();
    let found = ferry.run(&["find", "call { callee refers \"tides.low\" }"]);
    assert_eq!((found.status, found.out.as_str()), (1, ""));
    assert!(found.err.contains("unsure  1 place of which it cannot be known; --unsure shows them"), "{}", found.err);
    let shown = ferry.run(&["find", "call { callee refers \"tides.low\" }", "--unsure"]);
    assert_eq!(shown.out, "booking/desk.py:10:9: unsure: low(boat)\n");
}

#[test]
fn a_wrong_query_is_told_with_its_place() {
    let ferry = ferry();
    let wrong = ferry.run(&["find", "call { calee is \"print\" }"]);
    assert_eq!(wrong.status, 2);
    assert_eq!(
        wrong.err,
        "hsieve: the query is wrong: a call has no \"calee\"; did you mean \"callee\"?\n  call { calee is \"print\" }\n         ~~~~~\n"
    );
    let wrong = ferry.run(&["find", "call {\n  callee is \"\u{1b}[31m\"\n  x }"]);
    assert!(wrong.status == 2 && !wrong.err.contains('\u{1b}'), "{}", wrong.err);
}

#[test]
fn a_document_has_every_place() {
    let ferry = ferry();
    let found = ferry.run(&["find", "import", "--output", "json"]);
    let document: serde_json::Value = serde_json::from_str(&found.out).expect("json");
    assert_eq!(document["found"].as_array().map(Vec::len), Some(3));
    assert_eq!(document["found"][2]["path"], "tools/ring.py");
    assert_eq!(document["found"][2]["end"]["column"], 29);
    assert_eq!(document["folders"]["booking"], 2);
    assert_eq!(document["files"], 3);
}

#[test]
fn a_place_gives_queries_from_general_to_exact() {
    let ferry = ferry();
    let like = ferry.run(&["find", "--like", "booking/desk.py:9"]);
    let rows: Vec<(&str, &str)> = like.out.lines().filter_map(|row| row.trim().rsplit_once("  ")).collect();
    let rows: Vec<(&str, &str)> = rows.into_iter().map(|(query, count)| (query.trim(), count.trim())).collect();
    let exact = "call { callee refers \"print\", count(argument) = 1 }";
    assert_eq!(
        rows,
        [
            ("call", "6"),
            ("call { callee.name is \"print\" }", "2"),
            (exact, "1"),
            (format!("{exact} inside function").as_str(), "1"),
            (format!("{exact} inside file {{ path like \"booking/**\" }}").as_str(), "1"),
        ],
        "{}",
        like.out
    );
    for (query, count) in rows {
        let found = ferry.run(&["find", query]);
        assert_eq!(found.out.lines().count().to_string(), count, "{query}");
    }
    for (place, message) in [
        ("booking/desk.py", "the place needs a line"),
        ("booking/desk.py:2", "nothing is at line 2"),
        ("booking/desk.py:900", "nothing is at line 900"),
        ("booking/desk.py:1:400", "nothing is at line 1, column 400"),
        ("booking/none.py:1", "there is no such file"),
    ] {
        let wrong = ferry.run(&["find", "--like", place]);
        assert!(wrong.status >= 2 && wrong.err.contains(message), "{place}: {}", wrong.err);
    }
}

#[test]
fn kinds_are_listed_for_a_language() {
    let ferry = ferry();
    let all = ferry.run(&["tree", "--kinds"]);
    assert!(all.out.contains("in typescript, tsx") && all.out.contains("callee type-arguments"), "{}", all.out);
    let shell = ferry.run(&["tree", "--kinds", "shell"]);
    assert!(shell.out.contains("\npipeline ") && !shell.out.contains("\ninterface "), "{}", shell.out);
    let wrong = ferry.run(&["tree", "--kinds", "klingon"]);
    assert!(wrong.status == 2 && wrong.err.contains("there are: python, javascript"), "{}", wrong.err);
    let json = ferry.run(&["tree", "--kinds", "python", "--output", "json"]);
    let document: serde_json::Value = serde_json::from_str(&json.out).expect("json");
    assert!(document["kinds"].as_array().is_some_and(|kinds| kinds.len() > 50));
}
