//! The language server with clients that err, hurry, or go.

use proptest::prelude::*;
use serde_json::{Value, json};

use crate::editor::{Editor, listed, uri};
use crate::ferry::Ferry;

const SOURCE: &str = "import os\n\n\ndef low(day):\n    tide = '🚢 é'\n    return day\n";

fn ferry() -> Ferry {
    Ferry::with(&[("a.py", SOURCE), ("b.py", "from a import low\n\nlow(1)\n"), ("sieve.toml", "mesh = \"fine\"\n")])
}

#[test]
fn messages_that_are_none_are_refused_and_the_server_goes_on() {
    let ferry = ferry();
    let mut editor = Editor::silent(&ferry);
    let refused =
        |editor: &mut Editor, method: &str| editor.ask(method, json!({})).expect_err("refused")["code"].clone();
    assert_eq!(refused(&mut editor, "textDocument/hover"), -32002, "initialize comes first");
    editor.send_raw(b"Content-Length: 5\r\n\r\n{\"a\":");
    assert_eq!(editor.answer_to(&Value::Null).expect_err("refused")["code"], -32700);
    editor.send(&json!([1, 2]));
    assert_eq!(editor.answer_to(&Value::Null).expect_err("refused")["code"], -32600);
    editor.ask("initialize", json!({ "capabilities": {} })).expect("an answer");
    assert_eq!(refused(&mut editor, "initialize"), -32600);
    assert_eq!(refused(&mut editor, "ferry/sail"), -32601);
    assert_eq!(refused(&mut editor, "textDocument/hover"), -32602);
    editor.tell("ferry/moor", json!({}));
    editor.tell("textDocument/didOpen", json!({ "textDocument": 3 }));
    editor.tell(
        "textDocument/didChange",
        json!({ "textDocument": { "uri": uri(&ferry, "a.py"), "version": 1 }, "contentChanges": [] }),
    );
    editor.send(&json!({ "jsonrpc": "2.0", "id": 99, "result": null }));
    assert_eq!(refused(&mut editor, "ferry/sail"), -32601);
    assert_eq!(editor.end(), 0);
}

#[test]
fn after_shutdown_only_exit_is_taken() {
    let ferry = ferry();
    let mut editor = Editor::with(&ferry, json!({}));
    editor.ask("shutdown", Value::Null).expect("an answer");
    assert_eq!(editor.ask("textDocument/hover", json!({})).expect_err("refused")["code"], -32600);
    editor.tell("exit", Value::Null);
    assert_eq!(editor.status(), 0);
}

#[test]
fn a_server_whose_client_is_gone_ends() {
    let ferry = ferry();
    assert_eq!(Editor::with(&ferry, json!({})).cut_off(), 1);
    assert_eq!(Editor::silent(&ferry).cut_off(), 1);
    let mut editor = Editor::with(&ferry, json!({}));
    editor.tell("exit", Value::Null);
    assert_eq!(editor.status(), 1, "exit without shutdown");
    let mut editor = Editor::silent(&ferry);
    editor.send_raw(b"Content-Length: 99999999999999999\r\n\r\n");
    assert_eq!(editor.answer_to(&Value::Null).expect_err("refused")["code"], -32700);
    assert_eq!(editor.status(), 1, "where the next message begins cannot be known");
}

#[test]
fn requests_are_taken_back() {
    let ferry = ferry();
    let mut editor = Editor::with(&ferry, json!({ "textDocument": { "diagnostic": {} } }));
    let all = editor.ask("workspace/diagnostic", json!({ "previousResultIds": [] })).expect("a report");
    let items = all["items"].as_array().expect("a list");
    let known: Vec<Value> = items.iter().map(|item| json!({ "uri": item["uri"], "value": item["resultId"] })).collect();
    let waiting = editor.ask_later("workspace/diagnostic", json!({ "previousResultIds": known }));
    editor.tell("$/cancelRequest", json!({ "id": waiting }));
    assert_eq!(editor.answer_to(&json!(waiting)).expect_err("cancelled")["code"], -32800);
    let waiting = editor.ask_later("workspace/diagnostic", json!({ "previousResultIds": known }));
    editor.ask("shutdown", Value::Null).expect("an answer");
    assert!(editor.requests.is_empty());
    let _ = waiting;
}

#[test]
fn several_folders_and_files_outside_of_them_are_served() {
    let (one, other, third) = (ferry(), ferry(), ferry());
    other.write("sieve.toml", "[rules]\nunused-import = \"off\"\n");
    let mut editor = Editor::with(&one, json!({}));
    let added = json!({ "uri": uri(&other, ""), "name": "other" });
    editor.tell("workspace/didChangeWorkspaceFolders", json!({ "event": { "added": [added], "removed": [] } }));
    let has_import = |editor: &mut Editor, ferry: &Ferry| {
        let file = uri(ferry, "a.py");
        editor.open(&file, SOURCE);
        editor.diagnostics(&file, 1).contains(&"1:8 unused-import".to_string())
    };
    assert!(has_import(&mut editor, &one) && !has_import(&mut editor, &other) && has_import(&mut editor, &third));
    let removed = json!({ "uri": uri(&other, ""), "name": "other" });
    editor.tell("workspace/didChangeWorkspaceFolders", json!({ "event": { "added": [], "removed": [removed] } }));
    assert_eq!(editor.end(), 0);
}

#[test]
fn files_that_change_on_the_disk_are_noticed() {
    let ferry = ferry();
    let watches = json!({ "workspace": { "didChangeWatchedFiles": { "dynamicRegistration": true } } });
    let mut editor = Editor::with(&ferry, watches);
    editor.until(|editor| editor.requests.iter().any(|request| request["method"] == "client/registerCapability"));
    let (a, b) = (uri(&ferry, "a.py"), uri(&ferry, "b.py"));
    editor.open(&b, &ferry.read("b.py"));
    assert!(!editor.diagnostics(&b, 1).iter().any(|one| one.ends_with("argument-count")));
    ferry.write("a.py", "def low():\n    return 1\n");
    editor.tell("workspace/didChangeWatchedFiles", json!({ "changes": [{ "uri": a, "type": 2 }] }));
    editor.until(|editor| listed(&editor.told[&b]["diagnostics"]).contains(&"3:5 argument-count".to_string()));
    ferry.write("sieve.toml", "[rules]\nargument-count = \"off\"\n");
    editor.tell(
        "workspace/didChangeWatchedFiles",
        json!({ "changes": [{ "uri": uri(&ferry, "sieve.toml"), "type": 2 }] }),
    );
    editor.until(|editor| listed(&editor.told[&b]["diagnostics"]).is_empty());
}

/// Lines and columns that are there, and some that are not.
fn edits() -> impl Strategy<Value = Vec<(u32, u32, u32, u32, String)>> {
    let text = prop_oneof![Just("".into()), Just("\n".into()), "[a-z🚢é(:=' ]{0,6}", Just("import sys\n".into())];
    proptest::collection::vec((0..8u32, 0..14u32, 0..2u32, 0..9u32, text), 1..12)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// After any edits, in any units, the diagnostics are those of a run over the text that the editor has.
    #[test]
    fn after_any_edits_an_editor_sees_what_a_run_says(edits in edits(), units in proptest::sample::select(vec!["utf-8", "utf-16", "utf-32"])) {
        let ferry = ferry();
        let mut editor = Editor::with(&ferry, json!({ "general": { "positionEncodings": [units] } }));
        let file = uri(&ferry, "a.py");
        editor.open(&file, SOURCE);
        let mut text = SOURCE.to_string();
        for (number, (line, column, lines, end, new)) in edits.iter().enumerate() {
            let (start, stop) = ((*line, *column), (line + lines, if *lines == 0 { column + end } else { *end }));
            let range = json!({ "start": { "line": start.0, "character": start.1 }, "end": { "line": stop.0, "character": stop.1 } });
            let from = offset(&text, start, units);
            let to = offset(&text, stop, units).max(from);
            text.replace_range(from..to, new);
            editor.tell("textDocument/didChange", json!({
                "textDocument": { "uri": file, "version": number + 2 },
                "contentChanges": [{ "range": range, "text": new }] }));
        }
        let found = editor.diagnostics(&file, edits.len() as i64 + 1);
        ferry.write("a.py", &text);
        let ended = ferry.run(&["sift", "a.py", "--quiet", "--no-cache", "--output", "json"]);
        let document: Value = serde_json::from_str(&ended.out).expect("JSON");
        let rules: Vec<&str> = document["findings"].as_array().expect("a list").iter().filter_map(|one| one["rule"].as_str()).collect();
        let seen: Vec<&str> = found.iter().filter_map(|one| one.split(' ').nth(1)).collect();
        prop_assert_eq!(seen, rules, "{:?}", text);
    }
}

/// The offset of a position, counted one character after another.
fn offset(text: &str, (line, column): (u32, u32), units: &str) -> usize {
    let mut lines = text.split_inclusive('\n');
    let start: usize = lines.by_ref().take(line as usize).map(str::len).sum();
    let Some(rest) = text.get(start..).map(|rest| rest.split('\n').next().unwrap_or_default()) else {
        return text.len();
    };
    let mut left = column as usize;
    let mut at = start;
    for one in rest.chars() {
        let length = match units {
            "utf-8" => one.len_utf8(),
            "utf-16" => one.len_utf16(),
            _ => 1,
        };
        if left < length {
            break;
        }
        left -= length;
        at += one.len_utf8();
    }
    at
}

#[test]
fn a_look_at_many_files_tells_how_far_it_has_come() {
    let ferry = ferry();
    (0..450).for_each(|number| ferry.write(&format!("quays/quay{number}.py"), "import os\n"));
    let mut editor = Editor::with(&ferry, json!({ "window": { "workDoneProgress": true } }));
    let progress = |editor: &Editor, kind: &str| -> Vec<Value> {
        let all = editor.notifications.iter().filter(|one| one["method"] == "$/progress");
        all.filter(|one| one["params"]["value"]["kind"] == kind).map(|one| one["params"]["value"].clone()).collect()
    };
    editor.until(|editor| !progress(editor, "end").is_empty() && editor.told.len() >= 450);
    assert_eq!(editor.requests[0]["method"], "window/workDoneProgress/create");
    assert_eq!(progress(&editor, "begin").len(), 1);
    let percentages: Vec<u64> =
        progress(&editor, "report").iter().filter_map(|report| report["percentage"].as_u64()).collect();
    assert!(percentages.is_sorted() && percentages.len() > 50, "{percentages:?}");
    let quay = uri(&ferry, "quays/quay7.py");
    assert_eq!(listed(&editor.told[&quay]["diagnostics"]), ["1:1 missing-doc", "1:8 unused-import"]);
    editor.open(&quay, "");
    editor.until(|editor| editor.told[&quay]["diagnostics"] == json!([]));
    editor.tell("textDocument/didClose", json!({ "textDocument": { "uri": quay } }));
    editor.until(|editor| editor.told[&quay]["diagnostics"] != json!([]));
    editor.ask("workspace/executeCommand", json!({ "command": "sieve.siftProject" })).expect("an answer");
    editor.until(|editor| editor.notifications.iter().any(|one| one["method"] == "window/showMessage"));
    let said = editor.notifications.iter().rfind(|one| one["method"] == "window/showMessage").expect("a message");
    assert!(said["params"]["message"].as_str().expect("words").starts_with("Sifted 452 files: "), "{said}");
}

#[test]
fn the_cursor_may_be_anywhere_in_the_line_of_a_finding() {
    let ferry = ferry();
    let mut editor = Editor::with(&ferry, json!({}));
    let file = uri(&ferry, "a.py");
    editor.open(&file, SOURCE);
    let mut titles = |line: u32, end: u32| -> Vec<String> {
        let (start, end) = (json!({ "line": line, "character": 0 }), json!({ "line": line, "character": end }));
        let params = json!({ "textDocument": { "uri": file }, "range": { "start": start, "end": end },
            "context": { "diagnostics": [] } });
        let actions = editor.ask("textDocument/codeAction", params).expect("actions");
        let titles = actions.as_array().expect("a list").iter().filter_map(|action| action["title"].as_str());
        titles.map(str::to_string).collect()
    };
    assert!(titles(4, 0).contains(&"Fix unused-variable, to be reviewed".to_string()), "{:?}", titles(4, 0));
    assert!(titles(5, 0).is_empty() && titles(4, 2).is_empty(), "{:?}", titles(4, 2));
}
