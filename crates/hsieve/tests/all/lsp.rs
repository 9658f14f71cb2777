//! The language server, as an editor sees it.

use serde_json::{Value, json};

use crate::editor::{Editor, listed, uri, with_edits};
use crate::ferry::Ferry;

const TIDES: &str = "def low(day):\n    return day\n";
const BOARD: &str = "import os\nfrom tides import low\n\nlow(1)\nx = 1 \n";

fn ferry() -> Ferry {
    Ferry::with(&[("tides.py", TIDES), ("board.py", BOARD), ("sieve.toml", "mesh = \"fine\"\n")])
}

fn utf8() -> Value {
    json!({ "general": { "positionEncodings": ["utf-8"] }, "workspace": { "workspaceEdit": { "documentChanges": true } } })
}

/// What a run says of a file: `line:column rule`.
fn sifted(ferry: &Ferry, name: &str) -> Vec<String> {
    let ended = ferry.run(&["sift", "--quiet", "--no-cache", "--output", "json"]);
    let document: Value = serde_json::from_str(&ended.out).expect("JSON");
    let found = document["findings"].as_array().expect("a list").iter();
    let found =
        found.filter(|finding| finding["path"] == json!(name) && finding.get("held").is_none_or(Value::is_null));
    found
        .map(|finding| {
            let start = &finding["start"];
            format!("{}:{} {}", start["line"], start["column"], finding["rule"].as_str().expect("a rule"))
        })
        .collect()
}

#[test]
fn an_open_text_has_the_findings_of_a_run_and_new_ones_as_it_changes() {
    let ferry = ferry();
    let mut editor = Editor::with(&ferry, utf8());
    let board = uri(&ferry, "board.py");
    editor.open(&board, BOARD);
    let found = editor.diagnostics(&board, 1);
    assert_eq!(found, sifted(&ferry, "board.py"));
    assert!(found.contains(&"1:8 unused-import".to_string()), "{found:?}");
    let changed = "from tides import low\n\nlow()\n";
    editor.change(&board, 2, changed);
    let found = editor.diagnostics(&board, 2);
    ferry.write("board.py", changed);
    assert_eq!(found, sifted(&ferry, "board.py"));
    assert!(found.contains(&"3:1 argument-count".to_string()), "{found:?}");
    assert_eq!(editor.end(), 0);
}

#[test]
fn a_diagnostic_says_what_a_finding_says() {
    let ferry = ferry();
    let mut editor = Editor::with(&ferry, utf8());
    let board = uri(&ferry, "board.py");
    editor.open(&board, BOARD);
    editor.diagnostics(&board, 1);
    let first = &editor.told[&board]["diagnostics"][1];
    assert_eq!(first["code"], "unused-import");
    assert_eq!(first["source"], "hsieve");
    assert_eq!(first["severity"], 2);
    assert_eq!(first["tags"], json!([1]));
    let page = first["codeDescription"]["href"].as_str().expect("a page").strip_prefix("file://").expect("a file");
    assert!(std::fs::read_to_string(page).expect("a page").starts_with("# unused-import"));
}

#[test]
fn a_change_in_one_text_changes_what_is_said_of_another_one_and_of_files_that_are_not_open() {
    let ferry = ferry();
    ferry.write("late.py", "from tides import low\n\nlow(1)\n");
    let mut editor = Editor::with(&ferry, utf8());
    let (board, tides, late) = (uri(&ferry, "board.py"), uri(&ferry, "tides.py"), uri(&ferry, "late.py"));
    editor.open(&board, BOARD);
    editor.open(&tides, TIDES);
    let lacks = |editor: &Editor, uri: &str| {
        let told = editor.told.get(uri);
        told.is_some_and(|told| listed(&told["diagnostics"]).iter().any(|one| one.ends_with("argument-count")))
    };
    editor.diagnostics(&tides, 1);
    assert!(!lacks(&editor, &board));
    editor.change(&tides, 2, "def low(day, quay):\n    return day, quay\n");
    editor.until(|editor| lacks(editor, &board) && lacks(editor, &late));
    editor.change(&tides, 3, TIDES);
    editor.until(|editor| !lacks(editor, &board) && !lacks(editor, &late));
}

#[test]
fn fixes_are_those_of_the_command_line() {
    let ferry = ferry();
    let mut editor = Editor::with(&ferry, utf8());
    let board = uri(&ferry, "board.py");
    editor.open(&board, BOARD);
    editor.diagnostics(&board, 1);
    let actions = |editor: &mut Editor, line: u32, only: Value| -> Vec<Value> {
        let position = json!({ "line": line, "character": 7 });
        let params = json!({ "textDocument": { "uri": board }, "range": { "start": position, "end": position },
            "context": { "diagnostics": editor.told[&board]["diagnostics"], "only": only } });
        editor.ask("textDocument/codeAction", params).expect("actions").as_array().expect("a list").clone()
    };
    let quick = actions(&mut editor, 0, Value::Null);
    assert_eq!((&quick[0]["title"], &quick[0]["isPreferred"]), (&json!("Fix unused-import"), &json!(true)));
    assert_eq!(quick[0]["diagnostics"][0]["code"], "unused-import");
    let edits = |action: &Value| action["edit"]["documentChanges"][0]["edits"].clone();
    assert_eq!(with_edits(BOARD, &edits(&quick[0])), BOARD.replacen("import os\n", "", 1));
    let titles: Vec<&str> = quick.iter().filter_map(|action| action["title"].as_str()).collect();
    for title in [
        "Waive unused-import here, with a reason…",
        "Make unused-import a note in sieve.toml",
        "Switch unused-import off in sieve.toml",
        "Record this unused-import in the baseline",
        "Explain unused-import",
    ] {
        assert!(titles.contains(&title), "{titles:?}");
    }
    let all = actions(&mut editor, 0, json!(["source.fixAll"]));
    let fixed = with_edits(BOARD, &edits(&all[0]));
    assert_eq!(ferry.run(&["fix", "board.py", "--quiet"]).status, 0);
    assert_eq!(fixed, ferry.read("board.py"));
    assert!(actions(&mut editor, 0, json!(["refactor"])).is_empty());
}

#[test]
fn layout_is_that_of_the_command_line_and_other_lines_stay() {
    let source = "x = 1 \ny = [1,2]\nz = 3\t\n";
    let ferry = Ferry::with(&[("a.py", source)]);
    let mut editor = Editor::with(&ferry, utf8());
    let file = uri(&ferry, "a.py");
    editor.open(&file, source);
    let params = json!({ "textDocument": { "uri": file }, "options": { "tabSize": 4, "insertSpaces": true } });
    let edits = editor.ask("textDocument/formatting", params.clone()).expect("edits");
    ferry.run(&["fix", "--only", "layout", "--quiet"]);
    assert_eq!(with_edits(source, &edits), ferry.read("a.py"));
    let mut of_range = params;
    of_range["range"] = json!({ "start": { "line": 2, "character": 0 }, "end": { "line": 3, "character": 0 } });
    let edits = editor.ask("textDocument/rangeFormatting", of_range).expect("edits");
    assert_eq!(with_edits(source, &edits), "x = 1 \ny = [1,2]\nz = 3\n");
}

#[test]
fn waivers_levels_and_the_baseline_are_written_from_the_editor() {
    let ferry = ferry();
    let mut editor = Editor::with(&ferry, utf8());
    let board = uri(&ferry, "board.py");
    editor.open(&board, BOARD);
    editor.diagnostics(&board, 1);
    let position = json!({ "line": 0, "character": 8 });
    let params = json!({ "textDocument": { "uri": board }, "range": { "start": position, "end": position },
        "context": { "diagnostics": [] } });
    let actions = editor.ask("textDocument/codeAction", params).expect("actions");
    let named = |title: &str| -> Value {
        let all = actions.as_array().expect("a list");
        all.iter().find(|action| action["title"] == title).unwrap_or_else(|| panic!("{title}: {actions}")).clone()
    };
    let waive = named("Waive unused-import here, with a reason…");
    let waived = with_edits(BOARD, &waive["edit"]["documentChanges"][0]["edits"]);
    assert!(waived.starts_with("import os  # sieve: waive unused-import because REASON\n"), "{waived}");
    let selected = &waive["command"]["arguments"][1];
    assert_eq!((&selected["start"]["character"], &selected["end"]["character"]), (&json!(48), &json!(54)));
    let off = &named("Switch unused-import off in sieve.toml")["edit"]["documentChanges"][0];
    assert_eq!(off["textDocument"]["uri"], uri(&ferry, "sieve.toml"));
    let settings = with_edits("mesh = \"fine\"\n", &off["edits"]);
    assert!(settings.contains("unused-import = \"off\""), "{settings}");
    let record = named("Record this unused-import in the baseline");
    let run = json!({ "command": record["command"]["command"], "arguments": record["command"]["arguments"] });
    editor.ask("workspace/executeCommand", run).expect("it is recorded");
    assert!(ferry.read("sieve-baseline.jsonl").contains("unused-import"));
    assert!(!listed(&editor.told[&board]["diagnostics"]).contains(&"1:8 unused-import".to_string()));
}

#[test]
fn settings_are_checked_completed_and_explained_while_they_are_written() {
    let ferry = ferry();
    let mut editor = Editor::with(&ferry, utf8());
    let (board, settings) = (uri(&ferry, "board.py"), uri(&ferry, "sieve.toml"));
    editor.open(&board, BOARD);
    editor.diagnostics(&board, 1);
    editor.open(&settings, "mesh = \"fine\"\n[rules]\nunused-imprt = \"off\"\n");
    editor.until(|editor| editor.told.get(&settings).is_some_and(|told| told["diagnostics"] != json!([])));
    let wrong = &editor.told[&settings]["diagnostics"][0];
    assert!(wrong["message"].as_str().expect("a message").contains("unused-import"), "{wrong}");
    assert_eq!(wrong["range"]["start"]["line"], 2);
    editor.change(&settings, 2, "mesh = \"fine\"\n[rules]\nunused-import = \"off\"\n");
    editor.until(|editor| {
        let is_right = editor.told[&settings]["diagnostics"] == json!([]);
        is_right && !listed(&editor.told[&board]["diagnostics"]).contains(&"1:8 unused-import".to_string())
    });
    let at = |line: u32, character: u32| json!({ "textDocument": { "uri": settings }, "position": { "line": line, "character": character } });
    let items = editor.ask("textDocument/completion", at(2, 4)).expect("items");
    let labels: Vec<&str> =
        items.as_array().expect("a list").iter().filter_map(|item| item["label"].as_str()).collect();
    assert!(labels.contains(&"unused-variable"), "{labels:?}");
    let hover = editor.ask("textDocument/hover", at(2, 4)).expect("a hover");
    let text = hover["contents"]["value"].as_str().expect("a text");
    assert!(text.starts_with("**unused-import** *off here"), "{text}");
}

#[test]
fn a_name_changes_in_all_files_or_nowhere() {
    let ferry = ferry();
    let mut editor = Editor::with(&ferry, utf8());
    let tides = uri(&ferry, "tides.py");
    let text = format!("# Not saved.\n{TIDES}");
    editor.open(&tides, &text);
    let at = json!({ "textDocument": { "uri": tides }, "position": { "line": 1, "character": 5 } });
    let name = editor.ask("textDocument/prepareRename", at.clone()).expect("a name");
    assert_eq!(name["placeholder"], "low");
    let mut params = at.clone();
    params["newName"] = json!("ebb");
    let edit = editor.ask("textDocument/rename", params.clone()).expect("an edit");
    let files = edit["documentChanges"].as_array().expect("changes");
    let of = |name: &str| files.iter().find(|file| file["textDocument"]["uri"] == uri(&ferry, name)).expect("a file");
    assert_eq!(with_edits(&text, &of("tides.py")["edits"]), text.replace("low", "ebb"));
    assert_eq!(of("tides.py")["textDocument"]["version"], 1);
    assert_eq!(with_edits(BOARD, &of("board.py")["edits"]), BOARD.replace("low", "ebb"));
    params["newName"] = json!("not a name");
    let refused = editor.ask("textDocument/rename", params).expect_err("it is refused");
    assert!(refused["message"].as_str().expect("words").starts_with("nothing was renamed: "), "{refused}");
}

/// A module of a crate is in a file of its name: an editor that can gives that another one, and in others it is refused.
#[test]
fn a_file_goes_with_its_module() {
    let files = [("src/lib.rs", "mod tides;\n"), ("src/tides.rs", "pub fn low() {}\n")];
    let mut able = utf8();
    able["workspace"]["workspaceEdit"]["resourceOperations"] = json!(["create", "rename"]);
    for capabilities in [able, utf8()] {
        let moves = capabilities["workspace"]["workspaceEdit"]["resourceOperations"].is_array();
        let ferry = Ferry::with(&files);
        let mut editor = Editor::with(&ferry, capabilities);
        let library = uri(&ferry, "src/lib.rs");
        editor.open(&library, files[0].1);
        let position = json!({ "line": 0, "character": 5 });
        let params = json!({ "textDocument": { "uri": library }, "position": position, "newName": "water" });
        let answer = editor.ask("textDocument/rename", params);
        if !moves {
            let refused = answer.expect_err("it is refused");
            assert!(refused["message"].as_str().expect("words").contains("src/tides.rs: the file would"), "{refused}");
            continue;
        }
        let edit = answer.expect("an edit");
        let operations = edit["documentChanges"].as_array().expect("changes");
        let moved = operations.iter().find(|one| one["kind"] == "rename").expect("a file that gets another name");
        assert_eq!(moved["oldUri"], uri(&ferry, "src/tides.rs"));
        assert_eq!(moved["newUri"], uri(&ferry, "src/water.rs"));
    }
}

#[test]
fn hover_says_why() {
    let ferry = ferry();
    let mut editor = Editor::with(&ferry, utf8());
    let board = uri(&ferry, "board.py");
    editor.open(&board, BOARD);
    let at = json!({ "textDocument": { "uri": board }, "position": { "line": 0, "character": 8 } });
    let hover = editor.ask("textDocument/hover", at).expect("a hover");
    let text = hover["contents"]["value"].as_str().expect("a text");
    assert!(text.contains("**unused-import** *warning here") && text.contains("*Why:*"), "{text}");
    let nothing = json!({ "textDocument": { "uri": board }, "position": { "line": 2, "character": 0 } });
    assert_eq!(editor.ask("textDocument/hover", nothing).expect("an answer"), Value::Null);
}

#[test]
fn diagnostics_can_be_pulled_and_are_not_sent_twice() {
    let ferry = ferry();
    let mut pulls = utf8();
    pulls["textDocument"] = json!({ "diagnostic": {} });
    pulls["workspace"]["diagnostics"] = json!({ "refreshSupport": true });
    let mut editor = Editor::with(&ferry, pulls);
    let board = uri(&ferry, "board.py");
    editor.open(&board, BOARD);
    let mut params = json!({ "textDocument": { "uri": board } });
    let report = editor.ask("textDocument/diagnostic", params.clone()).expect("a report");
    assert_eq!((&report["kind"], listed(&report["items"])), (&json!("full"), sifted(&ferry, "board.py")));
    params["previousResultId"] = report["resultId"].clone();
    let again = editor.ask("textDocument/diagnostic", params).expect("a report");
    assert_eq!(again, json!({ "kind": "unchanged", "resultId": report["resultId"] }));
    let all = editor.ask("workspace/diagnostic", json!({ "previousResultIds": [] })).expect("a report");
    let items = all["items"].as_array().expect("a list");
    let known: Vec<Value> = items.iter().map(|item| json!({ "uri": item["uri"], "value": item["resultId"] })).collect();
    assert!(items.iter().any(|item| item["uri"] == uri(&ferry, "tides.py")), "{all}");
    // Nothing new is told only when there is something new.
    let waiting =
        editor.ask_later("workspace/diagnostic", json!({ "previousResultIds": known, "partialResultToken": "part" }));
    editor.change(&board, 2, TIDES);
    assert_eq!(editor.answer_to(&json!(waiting)).expect("a report"), json!({ "items": [] }));
    let part = editor.notifications.iter().find(|one| one["params"]["token"] == "part").expect("a part");
    assert_eq!(part["params"]["value"]["items"][0]["uri"], board);
    assert!(editor.told.is_empty());
}

#[test]
fn what_is_held_back_is_shown_as_a_hint_only_if_that_is_wanted() {
    let ferry = Ferry::with(&[("a.py", "import os  # sieve: waive unused-import because the desk reads it\n")]);
    let file = uri(&ferry, "a.py");
    let shown = |options: Value| {
        let mut editor = Editor::with_options(&ferry, utf8(), options);
        editor.open(&file, &ferry.read("a.py"));
        editor.diagnostics(&file, 1);
        editor.told[&file]["diagnostics"].clone()
    };
    assert_eq!(shown(Value::Null), json!([]));
    assert_eq!(shown(json!({ "held": true }))[0]["severity"], 4);
}

#[test]
fn files_that_a_run_leaves_out_have_no_findings() {
    let ferry = Ferry::with(&[
        (".gitignore", "build/\n"),
        ("build/a.py", "import os\n"),
        ("made.py", "# Generated by tides. Do not edit.\nimport os\n"),
        ("b.py", "import os\n"),
    ]);
    let mut editor = Editor::with(&ferry, utf8());
    for (name, expected) in [("build/a.py", 0), ("made.py", 0), ("b.py", 1)] {
        let file = uri(&ferry, name);
        editor.open(&file, &ferry.read(name));
        assert_eq!(editor.diagnostics(&file, 1).len(), expected, "{name}");
    }
}
