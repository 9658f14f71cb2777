//! Renaming, case by case: what it changes, what it tells, and why it refuses.

use crate::ferry::{Ended, Ferry};

const BOAT: &str = "\"\"\"Holds FerryBoat.\"\"\"\n\n\nclass FerryBoat:\n    # A FerryBoat sails.\n    def sail(self):\n        return 1\n";
const MAIN: &str = "from boats.ferry_boat import FerryBoat\nimport boats.ferry_boat as dock\n\nprint(FerryBoat().sail(), dock.FerryBoat)\n";

fn boats() -> Ferry {
    Ferry::with(&[("boats/__init__.py", ""), ("boats/ferry_boat.py", BOAT), ("main.py", MAIN)])
}

/// A file on its own, and what renaming at a place in it comes to.
fn rename_in(file: &str, code: &str, place: &str, new: &str) -> (Ferry, Ended) {
    let ferry = Ferry::with(&[(file, code)]);
    let ended = ferry.run(&["rename", &format!("{file}:{place}"), new]);
    (ferry, ended)
}

/// The reason of a refusal, with its places.
fn refusal(file: &str, code: &str, place: &str, new: &str) -> String {
    let (ferry, ended) = rename_in(file, code, place, new);
    assert_eq!(ended.status, 2, "{ended:?}");
    assert_eq!(ferry.read(file), code, "nothing is written");
    ended.err.strip_prefix("hsieve: nothing was renamed: ").unwrap_or(&ended.err).to_string()
}

fn renamed(file: &str, code: &str, place: &str, new: &str) -> String {
    let (ferry, ended) = rename_in(file, code, place, new);
    assert_eq!(ended.status, 0, "{ended:?}");
    ferry.read(file)
}

#[test]
fn a_preview_shows_and_writes_nothing() {
    let ferry = boats();
    let shown = ferry.run(&["rename", "boats/ferry_boat.py:4:7", "Steamer", "--preview"]);
    assert_eq!(shown.status, 1);
    assert!(shown.out.contains("-class FerryBoat:\n+class Steamer:"), "{}", shown.out);
    assert!(shown.out.contains("Would rename \"FerryBoat\" to \"Steamer\" in 5 places of 2 files"), "{}", shown.out);
    assert_eq!((ferry.read("boats/ferry_boat.py"), ferry.read("main.py")), (BOAT.to_string(), MAIN.to_string()));
}

#[test]
fn mentions_are_listed_and_changed_when_asked() {
    let ferry = boats();
    let told = ferry.run(&["rename", "boats/ferry_boat.py:4:7", "Steamer"]).out;
    assert!(told.contains("2 places in comments and strings mention \"FerryBoat\""), "{told}");
    assert!(
        told.contains("text    boats/ferry_boat.py:1:10") && told.contains("comment boats/ferry_boat.py:5:9"),
        "{told}"
    );
    assert!(told.contains("boats/ferry_boat.py is named after it (--with-file calls it steamer.py)"), "{told}");
    assert!(ferry.read("boats/ferry_boat.py").contains("# A FerryBoat sails."));
    let ferry = boats();
    ferry.run(&["rename", "boats/ferry_boat.py:4:7", "Steamer", "--mentions"]);
    assert!(!ferry.read("boats/ferry_boat.py").contains("FerryBoat"));
}

#[test]
fn the_file_goes_with_its_type_and_comes_back() {
    let ferry = boats();
    let told = ferry.run(&["rename", "boats/ferry_boat.py:4:7", "Steamer", "--with-file"]).out;
    assert!(told.contains("moved       boats/ferry_boat.py  to  boats/steamer.py"), "{told}");
    assert!(!ferry.path("boats/ferry_boat.py").exists());
    let main = ferry.read("main.py");
    assert!(main.starts_with("from boats.steamer import Steamer\nimport boats.steamer as dock\n"), "{main}");
    let undone = ferry.run(&["fix", "--undo"]);
    assert_eq!(undone.status, 0, "{undone:?}");
    assert!(!ferry.path("boats/steamer.py").exists());
    assert_eq!((ferry.read("boats/ferry_boat.py"), ferry.read("main.py")), (BOAT.to_string(), MAIN.to_string()));
}

#[test]
fn a_moved_file_that_changed_since_stays() {
    let ferry = boats();
    ferry.run(&["rename", "boats/ferry_boat.py:4:7", "Steamer", "--with-file"]);
    ferry.write("boats/steamer.py", "class Steamer: ...\n");
    let undone = ferry.run(&["fix", "--undo"]);
    assert_eq!(undone.status, 2, "{undone:?}");
    assert!(undone.err.contains("boats/ferry_boat.py"), "{undone:?}");
    assert_eq!(ferry.read("boats/steamer.py"), "class Steamer: ...\n");
}

#[test]
fn words_that_are_no_names_are_refused() {
    let code = "share = 2\n";
    for (new, reason) in [
        ("2x", "\"2x\" cannot be a name in Python"),
        ("class", "\"class\" cannot be a name in Python"),
        ("a b", "\"a b\" cannot be a name in Python"),
        ("", "\"\" cannot be a name in Python"),
        ("share", "it is called \"share\" already"),
    ] {
        assert!(refusal("fares.py", code, "1:1", new).starts_with(reason), "{new}");
    }
    assert_eq!(renamed("fares.py", code, "1:1", "of"), "of = 2\n", "a word of another language is a name here");
    assert!(refusal("fares.js", "const share = 2;\n", "1:7", "await").contains("cannot be a name in JavaScript"));
}

#[test]
fn places_without_a_name_are_refused() {
    let code = "share = 2\nprint(share)\n";
    for (place, reason) in [
        ("1:7", "there is no name at fares.py:1:7"),
        ("9:1", "fares.py has no such place"),
        ("2:1", "it is not known what \"print\" refers to here"),
    ] {
        assert!(refusal("fares.py", code, place, "part").starts_with(reason), "{place}");
    }
    assert_eq!(Ferry::empty().run(&["rename", "fares.py", "part"]).status, 2);
    assert_eq!(Ferry::empty().run(&["rename", "fares.py:1:1", "part"]).status, 3);
}

#[test]
fn names_that_would_clash_are_refused_where_they_do() {
    let taken = refusal("fares.py", "share = 2\npart = 3\nprint(share)\n", "1:1", "part");
    assert!(taken.contains("\"part\" is taken where \"share\" is used") && taken.contains("fares.py:2:1"), "{taken}");
    let hidden = "def f():\n    share = 2\n    print(len([]), share)\n";
    let hides = refusal("fares.py", hidden, "2:5", "len");
    assert!(hides.contains("\"len\" refers to something else") && hides.contains("fares.py:3:11"), "{hides}");
    let inner = "share = 2\n\n\ndef f(part):\n    return share + part\n";
    assert!(refusal("fares.py", inner, "1:1", "part").contains("is taken"), "an inner name would be caught");
}

#[test]
fn uses_that_nobody_sees_are_refused() {
    let evaluated = "def f():\n    share = 2\n    return eval(\"share * 2\")\n";
    let reason = refusal("fares.py", evaluated, "2:5", "part");
    assert!(reason.contains("ways that the code does not show") && reason.contains("fares.py:3:12"), "{reason}");
    let by_text = "import sys\n\n\ndef fare():\n    return 1\n\n\ndef total():\n    return getattr(sys.modules[__name__], \"fare\")()\n";
    let reason = refusal("fares.py", by_text, "4:5", "price");
    assert!(reason.contains("\"fare\" may be used in ways that the code does not show"), "{reason}");
    let script = "function f() {\n  const share = 2;\n  return eval(\"share\");\n}\n";
    assert!(refusal("fares.js", script, "2:9", "part").contains("ways that the code does not show"));
}

#[test]
fn names_at_run_time_elsewhere_do_not_hold_up_a_local_name() {
    let code = "def f():\n    share = 2\n    return share\n\n\nglobals()[\"quay\"] = 3\n";
    assert_eq!(renamed("fares.py", code, "2:5", "part"), code.replace("share", "part"));
}

#[test]
fn a_star_import_refuses_what_it_may_bring() {
    let ferry = Ferry::with(&[
        ("fares.py", "def fare():\n    return 1\n"),
        ("main.py", "from fares import *\n\nprint(fare())\n"),
    ]);
    let refused = ferry.run(&["rename", "fares.py:1:5", "price"]);
    assert!(refused.err.contains("\"fare\" may be used through a star import"), "{refused:?}");
    assert!(refused.err.contains("main.py:1:19") && refused.err.contains("main.py:3:7"), "{refused:?}");
}

#[test]
fn stars_of_modules_hand_on_the_new_name() {
    let ferry = Ferry::with(&[
        ("web/tides.js", "export const low = 1;\n"),
        ("web/all.js", "export * from './tides.js';\nexport { low as ebb } from './tides.js';\n"),
        ("web/board.js", "import { low, ebb } from './all.js';\nconsole.log(low, ebb, { low });\n"),
    ]);
    assert_eq!(ferry.run(&["rename", "web/tides.js:1:14", "lowest"]).status, 0);
    assert_eq!(ferry.read("web/all.js"), "export * from './tides.js';\nexport { lowest as ebb } from './tides.js';\n");
    assert_eq!(
        ferry.read("web/board.js"),
        "import { lowest, ebb } from './all.js';\nconsole.log(lowest, ebb, { low: lowest });\n"
    );
}

#[test]
fn keys_keep_their_names() {
    let code = "export function levels({ low }) {\n  const { high: top } = load(low);\n  return { low, top };\n}\n";
    let wanted =
        "export function levels({ low: ebb }) {\n  const { high: top } = load(ebb);\n  return { low: ebb, top };\n}\n";
    assert_eq!(renamed("tides.js", code, "1:26", "ebb"), wanted);
}

#[test]
fn keywords_of_calls_follow_a_parameter() {
    let ferry = Ferry::with(&[
        ("fares.py", "def fare(adult, share=1):\n    return adult * share\n"),
        ("main.py", "from fares import fare\n\nprint(fare(2, share=3), fare(adult=2))\n"),
    ]);
    assert_eq!(ferry.run(&["rename", "fares.py:1:17", "part"]).status, 0);
    assert_eq!(ferry.read("fares.py"), "def fare(adult, part=1):\n    return adult * part\n");
    assert_eq!(ferry.read("main.py"), "from fares import fare\n\nprint(fare(2, part=3), fare(adult=2))\n");
}

#[test]
fn shadowing_names_stay_what_they_are() {
    let code =
        "tide = 1\n\n\ndef low(tide):\n    return tide\n\n\ndef high():\n    return tide + sum(tide for tide in [2])\n";
    let wanted =
        "ebb = 1\n\n\ndef low(tide):\n    return tide\n\n\ndef high():\n    return ebb + sum(tide for tide in [2])\n";
    assert_eq!(renamed("tides.py", code, "1:1", "ebb"), wanted);
}

#[test]
fn members_are_renamed_where_the_object_is_known() {
    let code = "class Quay:\n    def low(self):\n        return self.depth\n\n    depth = 3\n\n\nprint(Quay().low())\n";
    let wanted = code.replace("low", "ebb");
    assert_eq!(renamed("quays.py", code, "2:9", "ebb"), wanted);
    let unknown = format!("{code}\n\ndef f(quay):\n    return quay.low()\n");
    let reason = refusal("quays.py", &unknown, "2:9", "ebb");
    assert!(reason.contains("quays.py:12:17"), "{reason}");
    let ferry = Ferry::with(&[("quays.py", &unknown)]);
    assert_eq!(ferry.run(&["rename", "quays.py:2:9", "ebb", "--all-members"]).status, 0);
    assert_eq!(ferry.read("quays.py"), unknown.replace("low", "ebb"));
}
