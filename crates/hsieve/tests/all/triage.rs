//! Findings are worked through on a terminal, each key as it is pressed.

use crate::ferry::Ferry;
use crate::pty::Pty;

const FARES: &str = "import math\nimport decimal\nimport os\n\n\ndef adult(age):\n    if age is 18:\n        return 450\n    fare = 3\n    return 0\n";
const TIDES: &str = "import json\n\n\ndef high(hours=[]):\n    return hours\n";

fn ferry() -> Ferry {
    Ferry::with(&[("booking/fares.py", FARES), ("tides.py", TIDES), ("CODEOWNERS", "booking/ @fares\n")])
}

const ENTER: &str = "\r";
const TAB: &str = "\t";
const ESCAPE: &str = "\u{1b}";
const DOWN: &str = "\u{1b}[B";
const UP: &str = "\u{1b}[A";
const PAGE_DOWN: &str = "\u{1b}[6~";
const PAGE_UP: &str = "\u{1b}[5~";
const HOME: &str = "\u{1b}[H";
const END: &str = "\u{1b}[F";
const RIGHT: &str = "\u{1b}[C";
const LEFT: &str = "\u{1b}[D";

fn begin(ferry: &Ferry) -> Pty {
    let mut pty = Pty::start(ferry, (80, 24), &["triage"], &[]);
    pty.sees("7 left");
    pty
}

#[track_caller]
fn assert_left(pty: Pty, words: &[&str]) {
    let mut pty = pty;
    pty.press("q");
    let (status, screen) = pty.end();
    assert_eq!(status, 0);
    words.iter().for_each(|words| assert!(screen.contains(words), "{words}:\n{screen}"));
}

#[test]
fn a_fix_is_applied_and_taken_back() {
    let ferry = ferry();
    let mut pty = begin(&ferry);
    pty.sees("fix: exact");
    pty.sees("-import math");
    pty.does("f", "fixed booking/fares.py:1:8");
    assert_eq!(ferry.read("booking/fares.py"), FARES.replacen("import math\n", "", 1));
    pty.sees("6 left · 1 fixed");
    // What was done stays on the list, and the cursor is on the next one.
    pty.wait("the one that follows", |screen| {
        screen.contains("▸ warning     1:8") && screen.contains("fixed       1:8")
    });
    pty.does("u", "undone: fixed booking/fares.py:1:8");
    assert_eq!(ferry.read("booking/fares.py"), FARES);
    pty.sees("7 left");
    pty.does("u", "there is nothing to undo");
    assert_left(pty, &["7 findings are left"]);
}

#[test]
fn keys_reach_further_when_asked() {
    let ferry = ferry();
    let mut pty = begin(&ferry);
    pty.does(TAB, "The next key acts on 3 findings of unused-import in this file");
    pty.does(TAB, "4 findings of unused-import everywhere");
    pty.does(ESCAPE, "Keys act on this finding.");
    pty.press(TAB);
    pty.does(TAB, "everywhere");
    pty.does("f", "fixed 4 findings of unused-import");
    assert!(!ferry.read("booking/fares.py").contains("import") && !ferry.read("tides.py").contains("import"));
    pty.sees("3 left · 4 fixed");
    // The next key acts on one finding again.
    pty.does("s", "skipped booking/fares.py:4:12");
    pty.sees("4 fixed · 1 skipped");
    pty.does("u", "undone: skipped");
    pty.does("u", "undone: fixed 4 findings");
    assert_eq!((ferry.read("booking/fares.py"), ferry.read("tides.py")), (FARES.into(), TIDES.into()));
    assert_left(pty, &["7 findings are left"]);
}

#[test]
fn fixes_that_were_not_seen_are_asked_for() {
    let unused = "def high():\n    tide = 3\n    return 0\n";
    let ferry = Ferry::with(&[("north.py", unused), ("south.py", unused)]);
    let mut pty = Pty::start(&ferry, (80, 24), &["triage"], &[]);
    pty.sees("fix: review");
    pty.press(TAB);
    pty.does(TAB, "everywhere, marked");
    pty.does("f", "apply 2 fixes that are not exact and were not seen yet?");
    pty.does("n", "not applied");
    pty.press("f");
    pty.does("y", "fixed 2 findings of unused-variable");
    assert!(!ferry.read("south.py").contains("tide"), "{}", ferry.read("south.py"));
    // One that is on the screen has been seen.
    pty.does("u", "undone: fixed");
    pty.does("f", "fixed north.py:2:5");
    assert_eq!(ferry.read("south.py"), unused);
    assert_left(pty, &["1 finding is left"]);
}

#[test]
fn a_waiver_has_a_reason_and_perhaps_a_last_day() {
    let ferry = ferry();
    let mut pty = begin(&ferry);
    pty.does("w", "waive this finding, because:");
    pty.does(ENTER, "state the reason");
    pty.press("the tables need it");
    pty.does(ENTER, "until, its last day");
    pty.press("2020-01-01");
    pty.does(ENTER, "that day is over");
    pty.press("\u{15}soon");
    pty.does(ENTER, "a day such as");
    pty.press("\u{15}2031-05-01");
    pty.does(ENTER, "waived booking/fares.py:1:8");
    let waiver = "import math  # sieve: waive unused-import because the tables need it until 2031-05-01\n";
    assert_eq!(ferry.read("booking/fares.py"), FARES.replacen("import math\n", waiver, 1));
    pty.does("w", "because:");
    pty.does(ESCAPE, "not waived");
    pty.does("u", "undone: waived");
    assert_eq!(ferry.read("booking/fares.py"), FARES);
    // Several are waived from the last one upwards.
    pty.press(TAB);
    pty.does("w", "waive 3 findings of unused-import in this file");
    pty.press("later");
    pty.press(ENTER);
    pty.does(ENTER, "waived 3 findings of unused-import in booking/fares.py");
    assert_eq!(ferry.read("booking/fares.py").matches("because later").count(), 3);
    assert_left(pty, &["waived     3 findings of unused-import in booking/fares.py", "4 findings are left"]);
    assert!(!ferry.run(&["sift", "--output", "lines"]).out.contains("fares.py:1"));
}

#[test]
fn findings_are_recorded() {
    let ferry = ferry();
    let mut pty = begin(&ferry);
    pty.does("b", "recorded booking/fares.py:1:8");
    assert_eq!(ferry.read("sieve-baseline.jsonl").lines().count(), 2);
    pty.press(TAB);
    pty.does("b", "recorded 2 findings");
    assert_eq!(ferry.read("sieve-baseline.jsonl").lines().count(), 4);
    pty.does("u", "undone: recorded 2 findings");
    pty.does("u", "undone: recorded booking/fares.py:1:8");
    assert!(!ferry.path("sieve-baseline.jsonl").exists());
    assert_left(pty, &["7 findings are left"]);
}

#[test]
fn a_level_holds_in_a_file_a_folder_or_everywhere() {
    let ferry = ferry();
    let mut pty = begin(&ferry);
    pty.does("l", "level of unused-import?");
    pty.does("n", "unused-import note, where?");
    pty.does("f", "unused-import note, because");
    pty.press("tables");
    pty.does(ENTER, "level: unused-import note in booking/fares.py");
    let scope =
        "[[scope]]\npaths = [\"booking/fares.py\"]\nbecause = \"tables\"\nrules = { unused-import = \"note\" }\n";
    assert_eq!(ferry.read("sieve.toml"), scope);
    pty.does("u", "undone: level");
    assert!(!ferry.path("sieve.toml").exists());
    pty.press("lod");
    pty.does(ENTER, "level: unused-import off below booking/");
    pty.sees("4 left · 3 by level");
    pty.does("u", "7 left");
    pty.press("lo");
    pty.does("e", "level: unused-import off everywhere");
    assert_eq!(ferry.read("sieve.toml"), "[rules]\nunused-import = \"off\"\n");
    pty.sees("3 left · 4 by level");
    pty.does("l", "level of ");
    pty.does("x", "the level is as it was");
    assert_left(pty, &["level      unused-import off everywhere", "3 findings are left"]);
}

#[test]
fn what_nearer_settings_overrule_is_not_written() {
    let ferry = ferry();
    ferry.write("sieve.toml", "");
    ferry.write("booking/sieve.toml", "[rules]\nunused-import = \"error\"\n");
    let mut pty = begin(&ferry);
    pty.press("lo");
    pty.does("e", "nothing came of it, so nothing was changed: nearer settings say otherwise");
    assert_eq!(ferry.read("sieve.toml"), "");
    assert_left(pty, &["7 findings are left"]);
}

#[test]
fn the_list_is_walked_grouped_and_filtered() {
    let ferry = ferry();
    let mut pty = begin(&ferry);
    pty.does(DOWN, "▸ warning     2:8");
    pty.does("j", "▸ warning     3:8");
    pty.does(UP, "▸ warning     2:8");
    pty.does("k", "▸ warning     1:8");
    pty.does(END, "tides.py:4:16");
    pty.does(HOME, "booking/fares.py:1:8");
    pty.does(PAGE_DOWN, "tides.py:4:16");
    pty.does(PAGE_UP, "booking/fares.py:1:8");
    pty.does("s", "1 skipped");
    pty.does("h", "done ones hidden");
    pty.wait("no skipped one", |screen| !screen.contains("skipped     1:8"));
    pty.does("h", "skipped     1:8");
    pty.press(HOME);
    pty.does("n", "▸ warning     2:8");
    pty.does("g", "by rule");
    pty.sees("booking/fares.py:1  \"math\"");
    pty.does("g", "by owner");
    pty.sees(" @fares");
    pty.sees(" nobody");
    pty.does("g", "by file");
    pty.does("/", "list only what has:");
    pty.does("TIDES list", "only with \"TIDES list\"");
    pty.wait("one finding", |screen| !screen.contains("booking/fares.py") && screen.contains("mutable-default"));
    pty.press(ENTER);
    pty.does(ESCAPE, "identity-of-literal");
    pty.does("/nowhere", "No finding has these words");
    pty.press(ENTER);
    pty.does("f", "nothing is left to do here");
    pty.does(ESCAPE, "identity-of-literal");
    pty.does("?", "leave; what was done stays done");
    pty.does("x", "▸ ");
    assert_left(pty, &["7 findings are left"]);
}

#[test]
fn what_is_said_of_a_finding_is_scrolled() {
    let ferry = ferry();
    let mut pty = Pty::start(&ferry, (60, 14), &["triage"], &[]);
    pty.sees("→ scrolls");
    pty.does(&RIGHT.repeat(20), "why: ");
    pty.press(&LEFT.repeat(20));
    pty.sees("booking/fares.py:1:8");
    assert_left(pty, &[]);
}

#[test]
fn the_editor_is_opened_at_the_place() {
    let ferry = ferry();
    ferry.write("edit.sh", "#!/bin/sh\nprintf '%s\\n' \"$@\" > told\nprintf 'import math\\nmath.pi\\n' > \"$2\"\n");
    let mut pty = Pty::start(&ferry, (80, 24), &["triage"], &[("EDITOR", "sh edit.sh")]);
    pty.sees("7 left");
    pty.press(DOWN);
    pty.does("e", "looked at the files again");
    let path = ferry.path("booking/fares.py").canonicalize().expect("there");
    assert_eq!(ferry.read("told"), format!("+2\n{}\n", path.display()));
    pty.sees("5 gone");
    assert_left(pty, &[]);
    let mut pty = Pty::start(&ferry, (80, 24), &["triage"], &[("VISUAL", "false")]);
    pty.does("e", "the editor ended with");
    assert_left(pty, &[]);
    let mut pty = Pty::start(&ferry, (80, 24), &["triage"], &[]);
    pty.does("e", "neither VISUAL nor EDITOR names an editor");
    assert_left(pty, &[]);
}

#[test]
fn what_others_changed_is_not_undone() {
    let ferry = ferry();
    let mut pty = begin(&ferry);
    pty.does("f", "1 fixed");
    ferry.write("booking/fares.py", "import decimal\n");
    pty.does("u", "booking/fares.py: cannot change it: it has changed since");
    assert_eq!(ferry.read("booking/fares.py"), "import decimal\n");
    pty.does("r", "looked at the files again");
    pty.sees("3 gone");
    assert_left(pty, &["fixed      booking/fares.py:1:8"]);
}

#[test]
fn it_is_usable_in_any_size() {
    let ferry = ferry();
    let mut pty = begin(&ferry);
    pty.resize(200, 60);
    pty.wait("both side by side", |screen| {
        screen.lines().any(|line| line.contains("│") && line.contains("unused-import"))
    });
    pty.resize(80, 24);
    pty.wait("one above the other", |screen| !screen.contains("│") && screen.contains("╌"));
    for (columns, rows) in [(20, 5), (1, 1), (10, 40), (250, 4)] {
        pty.resize(columns, rows);
        pty.press("jk?x");
    }
    pty.resize(80, 24);
    pty.sees("7 left");
    assert_left(pty, &["7 findings are left"]);
}

#[test]
fn without_colour_nothing_is_coloured() {
    let ferry = ferry();
    for (arguments, variables) in
        [(&["triage", "--color", "never"][..], &[][..]), (&["triage"][..], &[("NO_COLOR", "1")][..])]
    {
        let mut pty = Pty::start(&ferry, (80, 24), arguments, variables);
        pty.sees("q quit");
        let cells = |pty: &Pty, wanted: &dyn Fn(&vt100::Cell) -> bool| {
            let screen = pty.cells();
            (0..24)
                .flat_map(|row| (0..80).map(move |column| (row, column)))
                .any(|(row, column)| screen.cell(row, column).is_some_and(wanted))
        };
        let is_coloured =
            |cell: &vt100::Cell| cell.fgcolor() != vt100::Color::Default || cell.bgcolor() != vt100::Color::Default;
        assert!(!cells(&pty, &is_coloured), "{arguments:?}");
        assert!(cells(&pty, &|cell| cell.inverse()), "the cursor is seen all the same");
        assert_left(pty, &[]);
    }
    let mut pty = begin(&ferry);
    pty.sees("q quit");
    assert!(pty.cells().cell(23, 1).is_some_and(|cell| cell.fgcolor() != vt100::Color::Default));
    assert_left(pty, &[]);
}

#[test]
fn nothing_in_files_acts_on_the_terminal() {
    let ferry = Ferry::with(&[("booking/a\u{1b}[2J.py", "import math\n# \u{202e}taken\n")]);
    let mut pty = Pty::start(&ferry, (80, 24), &["triage"], &[]);
    pty.sees("\\u{202e}taken");
    pty.sees("booking/a\\x1b[2J.py");
    let raw = String::from_utf8_lossy(&pty.raw);
    assert!(!raw.contains('\u{202e}') && !raw.contains("a\u{1b}[2J"), "{raw}");
    assert_left(pty, &[]);
}

#[test]
fn thousands_of_findings_are_scrolled() {
    let ferry = Ferry::empty();
    for file in 0..50 {
        let imports: String = (0..100).map(|at| format!("import quay{at}\n")).collect();
        ferry.write(&format!("booking/f{file:02}.py"), imports);
    }
    let mut pty = Pty::start(&ferry, (80, 24), &["triage", "--only", "unused-import"], &[]);
    pty.sees("5 000 left");
    // Single bytes: a sequence that is cut in two by the terminal would be another key.
    pty.press(&"j".repeat(4000));
    pty.does("", "booking/f40.py:1:8");
    pty.does(&" ".repeat(400), "booking/f49.py:100:8");
    pty.does(HOME, "booking/f00.py:1:8");
    assert_left(pty, &["5 000 findings are left"]);
}

#[test]
fn without_a_terminal_it_says_so() {
    let ferry = ferry();
    let ended = ferry.run(&["triage"]);
    assert_eq!((ended.status, ended.out.as_str()), (2, ""));
    assert!(ended.err.contains("triage needs a terminal") && ended.err.contains("hsieve sift"), "{}", ended.err);
    let clean = Ferry::with(&[("tides.py", "HIGH = 3\n")]);
    let (status, screen) = Pty::start(&clean, (80, 24), &["triage"], &[]).end();
    assert_eq!(status, 0);
    assert!(screen.contains("Nothing to triage"), "{screen}");
}

#[test]
fn paths_and_levels_choose_what_is_listed() {
    let ferry = ferry();
    let mut pty = Pty::start(&ferry, (80, 24), &["triage", "tides.py"], &[]);
    pty.sees("2 left");
    assert_left(pty, &["2 findings are left"]);
    let (status, screen) = Pty::start(&ferry, (80, 24), &["triage", "--level", "error", "tides.py"], &[]).end();
    assert!(status == 0 && screen.contains("Nothing to triage"), "{screen}");
    let (status, screen) = Pty::start(&ferry, (80, 24), &["triage", "tide.py"], &[]).end();
    assert!(status == 2 && screen.contains("tide.py: there is no such file or folder"), "{screen}");
}

#[test]
#[cfg(debug_assertions)]
fn findings_in_settings_and_the_baseline_are_fixed_too() {
    let ferry = ferry();
    assert_eq!(ferry.run(&["baseline", "take", "tides.py"]).status, 0);
    let baseline = ferry.read("sieve-baseline.jsonl").replace("unused-import", "needless-import");
    ferry.write("sieve-baseline.jsonl", &baseline);
    ferry.write("sieve.toml", "[rules]\nneedless-import = \"error\"\n");
    ferry.write(".git/history", "oldest 0.0\n0.1 renamed needless-import unused-import\n");
    let history = ferry.path(".git/history");
    let variables = [("SIEVE_SIMULATED_HISTORY", history.to_str().expect("UTF-8"))];
    let mut pty = Pty::start(&ferry, (80, 24), &["triage"], &variables);
    pty.sees("7 left");
    pty.does("/renamed-rule", "only with \"renamed-rule\"");
    pty.does(ENTER, "Keys act on this finding");
    pty.does("w", "because:");
    pty.press("old");
    pty.press(ENTER);
    pty.does(ENTER, "no waiver can be written");
    pty.does("f", "fixed s");
    pty.does("f", "2 fixed");
    assert_eq!(ferry.read("sieve.toml"), "[rules]\nunused-import = \"error\"\n");
    assert_eq!(ferry.read("sieve-baseline.jsonl"), baseline.replace("needless-import", "unused-import"));
    pty.does("u", "6 left · 1 fixed");
    pty.does("u", "7 left");
    assert_eq!(ferry.read("sieve.toml"), "[rules]\nneedless-import = \"error\"\n");
    assert_eq!(ferry.read("sieve-baseline.jsonl"), baseline);
    assert_left(pty, &["7 findings are left"]);
}
