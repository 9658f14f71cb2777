//! Names and imports over which the other files of a project decide.

use sieve_engine::outcome::Finding;
use sieve_engine::settings::Overrides;
use sieve_rules::{FixKind, catalogue};

use crate::folder::Folder;

fn found(folder: &Folder, paths: &[&str], rule: &str) -> Vec<Finding> {
    let only = vec![catalogue::named(rule).expect("a rule")];
    folder.sift(paths, Overrides { only, ..Overrides::default() }, false).findings
}

#[test]
fn a_name_that_many_files_use_and_none_binds_comes_from_outside() {
    let slip = ("slip.py", "print(tdie)\n");
    let uses = [("a.py", "_('low')\n"), ("b.py", "_('high')\n"), ("c.py", "_('flat')\n"), slip];
    let folder = Folder::with(&uses);
    let names = |paths: &[&str]| -> Vec<String> {
        found(&folder, paths, "undefined-name").into_iter().map(|finding| finding.message).collect()
    };
    assert_eq!(names(&[]), ["nothing defines \"tdie\""]);
    assert!(names(&["a.py"]).is_empty(), "the other files count too where one is asked for");
    folder.write("d.py", "def _(text):\n    return text\n");
    assert_eq!(names(&[]).len(), 4, "a name that is bound somewhere is an import that was forgotten");
    folder.write("e.py", "import builtins\n\nbuiltins._ = str\n");
    assert_eq!(names(&[]), ["nothing defines \"tdie\""], "what is set for all files is there for all");
}

#[test]
fn scripts_know_what_others_set_on_the_global_object() {
    let folder = Folder::with(&[
        ("tides.js", "export const low = 1;\nwindow.quay = 3;\n"),
        ("board.js", "export const depth = quay + 1;\nexport const other = bouy;\n"),
    ]);
    let messages: Vec<String> =
        found(&folder, &[], "undefined-name").into_iter().map(|finding| finding.message).collect();
    assert_eq!(messages, ["nothing defines \"bouy\""]);
}

#[test]
fn what_code_outside_may_import_is_taken_away_after_review_only() {
    let source = "import os\nfrom tides import low\n\n\ndef sail():\n    return 1\n";
    let folder = Folder::with(&[("ferry/__init__.py", ""), ("ferry/board.py", source)]);
    let kinds = |folder: &Folder| -> Vec<Option<FixKind>> {
        let found = found(folder, &[], "unused-import");
        found.into_iter().map(|finding| finding.fix.map(|fix| fix.kind)).collect()
    };
    assert_eq!(kinds(&folder), [Some(FixKind::Exact), Some(FixKind::Exact)], "nobody else imports a program");
    folder.write("setup.py", "setup()\n");
    assert_eq!(kinds(&folder), [Some(FixKind::Exact), Some(FixKind::Review)], "the library is taken from itself");
}

#[test]
fn faces_of_other_modules_keep_their_imports() {
    for source in [
        "\"\"\"All of it.\"\"\"\nfrom tides import *\nfrom quays import north\n\nDEPTH = 3\n",
        "\"\"\"Moved to quays; kept for backward compatibility.\"\"\"\nfrom quays import north\n",
        "try:\n    from quays import north\nexcept ImportError:\n    from piers import north\n",
    ] {
        let folder = Folder::with(&[("board.py", source)]);
        assert!(found(&folder, &[], "unused-import").is_empty(), "{source}");
    }
    let folder = Folder::with(&[("board.py", "from quays import north\n\n\ndef sail():\n    return 1\n")]);
    assert_eq!(found(&folder, &[], "unused-import").len(), 1);
}

#[test]
fn names_in_the_style_that_the_code_base_has_are_as_they_are_meant_to_be() {
    let quay = |number: usize| {
        let functions: String = (0..5)
            .map(|pier| format!("export function pier_{pier}(late_boat) {{\n  return late_boat;\n}}\n\n"))
            .collect();
        (format!("quays/q{number}.js"), functions)
    };
    let files: Vec<(String, String)> = (0..12).map(quay).collect();
    let files: Vec<(&str, &str)> = files.iter().map(|(name, text)| (name.as_str(), text.as_str())).collect();
    let folder = Folder::with(&files);
    folder.write("odd.js", "export function Low_tide(late_boat) {\n  return late_boat;\n}\n");
    let names = |paths: &[&str]| -> Vec<String> {
        let only = ["function-name", "parameter-name"].map(|rule| catalogue::named(rule).expect("a rule")).to_vec();
        for cache in [false, true, true] {
            let overrides = Overrides { only: only.clone(), ..Overrides::default() };
            let outcome = folder.sift(paths, overrides, cache);
            if cache {
                return outcome.findings.into_iter().map(|finding| finding.message).collect();
            }
        }
        Vec::new()
    };
    assert_eq!(names(&[]), ["the function \"Low_tide\" is not camelCase or PascalCase"], "the odd one is reported");
    assert!(names(&["quays/q1.js"]).is_empty(), "the same where one file is asked for");
    folder.write("sieve.toml", "[naming.javascript]\nfunction = \"camelCase\"\n");
    assert_eq!(names(&["quays/q1.js"]).len(), 5, "what settings say holds");
    folder.write("sieve.toml", "");
    for number in 0..12 {
        folder.write(
            &format!("piers/p{number}.js"),
            "export function northPier(lateBoat) {\n  return lateBoat;\n}\n".repeat(3).as_str(),
        );
    }
    assert!(names(&["quays/q1.js"]).len() > 4, "two styles are no habit");
}
