//! Infrastructure files: names over the files of a folder, and modules that call each other, in every way that a run sees them.

use crate::ferry::Ferry;

const MAIN: &str = "module \"quay\" {\n  source = \"./quay\"\n  depth  = var.depth\n}\n";
const VARIABLES: &str = "variable \"depth\" {\n  type = number\n}\n";
const QUAY: &str = "variable \"depth\" {\n  type = number\n}\n\noutput \"deep\" {\n  value = var.depth > 3\n}\n";

fn ferry() -> Ferry {
    let ferry = Ferry::in_git(&[("main.tf", MAIN), ("variables.tf", VARIABLES), ("quay/main.tf", QUAY)]);
    assert_eq!(ferry.commit("quays").status, 0);
    ferry
}

const RENAMED: &str = "main.tf:3:3: error: the module in ./quay has no variable \"depth\" [unknown-argument]";

#[test]
fn what_changes_in_one_file_is_told_in_the_others() {
    let ferry = ferry();
    assert_eq!(ferry.findings(&[]), [""; 0]);
    ferry.write("variables.tf", VARIABLES.replace("depth", "deep"));
    let expected = [
        "main.tf:3:12: error: nothing in this folder declares var.depth [undeclared-reference]",
        "variables.tf:1:10: warning: nothing in this folder uses var.deep [unused-declaration]",
    ];
    assert_eq!(ferry.findings(&[]), expected, "warm");
    assert_eq!(ferry.findings(&["--no-cache"]), expected, "cold");
    ferry.write("variables.tf", VARIABLES);
    assert_eq!(ferry.findings(&[]), [""; 0], "and back");
}

#[test]
fn what_a_module_takes_is_told_where_it_is_called() {
    let ferry = ferry();
    ferry.write("quay/main.tf", QUAY.replace("depth", "depths"));
    let needed = "main.tf:1:8: error: the module in ./quay needs a value for \"depths\" [missing-argument]";
    assert_eq!(ferry.findings(&[]), [needed, RENAMED]);
    assert_eq!(ferry.findings(&["main.tf"]), [needed, RENAMED], "a file alone knows the others");
    assert_eq!(ferry.findings(&["--changed"]), [needed, RENAMED], "the change brought it");
    let advice = ferry.run(&["sift", "--output", "cards", "main.tf"]).out;
    assert!(advice.contains("did you mean depths?"), "{advice}");
    ferry.git(&["add", "--all"]);
    ferry.write("quay/main.tf", QUAY);
    assert_eq!(ferry.findings(&["--staged"]), [needed, RENAMED], "what is staged is read from the index");
    assert_eq!(ferry.findings(&[]), [""; 0]);
}

#[test]
fn a_change_that_asks_for_more_is_told_where_something_was_missing_already() {
    let ferry = ferry();
    let takes = |names: &str| {
        names.split(' ').map(|name| format!("variable \"{name}\" {{\n  type = number\n}}\n")).collect::<String>()
    };
    ferry.write("quay/main.tf", takes("depth lamp"));
    assert_eq!(ferry.commit("a lamp is missing").status, 0);
    assert_eq!(ferry.findings(&["--changed"]), [""; 0]);
    ferry.write("quay/main.tf", takes("depth lamp tide"));
    let more = "main.tf:1:8: error: the module in ./quay needs values for \"lamp\", \"tide\" [missing-argument]";
    assert_eq!(ferry.findings(&["--changed"])[0], more);
}

const LISTED: &str = "[values]\n\"module.depth\" = [3, 4]\n";

#[test]
fn values_are_followed_over_the_files_of_the_folder() {
    let ferry = ferry();
    ferry.write("sieve.toml", LISTED);
    ferry.write("variables.tf", VARIABLES.replace("number", "number\n  default = 5"));
    let expected = "main.tf:3:12: error: var.depth is \"5\" here, which is none of the values that the settings list [value-not-listed]";
    assert_eq!(ferry.findings(&[]), [expected]);
    ferry.write("variables.tf", VARIABLES.replace("number", "number\n  default = 4"));
    assert_eq!(ferry.findings(&[]), [""; 0], "another file's value changed");
    ferry.write("variables.tf", VARIABLES);
    assert_eq!(ferry.findings(&[]), [""; 0], "the value comes from outside");
    ferry.write("main.tf", MAIN.replace("var.depth", "[3, (7)]"));
    let written = "main.tf:3:17: error: \"7\" is none of the values that the settings list [value-not-listed]";
    let unused = "variables.tf:1:10: warning: nothing in this folder uses var.depth [unused-declaration]";
    assert_eq!(ferry.findings(&[]), [written, unused]);
    ferry.write("sieve.toml", LISTED.replace("[3, 4]", "[3, 7]"));
    assert_eq!(ferry.findings(&[]), [unused], "the settings changed");
}

#[test]
fn listed_values_hold_for_data_in_some_paths() {
    let ferry = Ferry::with(&[
        ("sieve.toml", "[[scope]]\npaths = [\"quays/*\"]\nvalues = { \"$..size\" = [\"small\", 3, false] }\n"),
        ("quays/north.yaml", "size: smal\nberths:\n  - &one {size: [small, 3, off, 4]}\n  - *one\n"),
        ("quays/west.json", "{ \"size\": null, \"berth\": { \"size\": \"small\" } }\n"),
        ("tides.toml", "size = 9\n"),
    ]);
    let of_list = |line: &String| line.ends_with("[value-not-listed]");
    let lines: Vec<String> = ferry.findings(&[]).into_iter().filter(of_list).collect();
    let said = |place: &str, value: &str| {
        format!("quays/{place}: error: \"{value}\" is none of the values that the settings list [value-not-listed]")
    };
    assert_eq!(
        lines,
        [
            said("north.yaml:1:7", "smal"),
            said("north.yaml:3:28", "off"),
            said("north.yaml:3:33", "4"),
            said("west.json:1:11", "null")
        ]
    );
    let advice = ferry.run(&["sift", "--output", "cards", "quays/north.yaml"]).out;
    assert!(advice.contains("did you mean small?") && advice.contains("it takes: small, 3, false"), "{advice}");
    let shown = ferry.run(&["settings", "quays/north.yaml"]).out;
    assert!(shown.contains("$..size") && shown.contains("[\"small\", \"3\", \"false\"]"), "{shown}");
}

/// A file is looked at again where another of its questions is answered, even if the answer reads the same.
#[test]
fn an_answer_to_one_question_is_not_taken_for_that_to_another() {
    let ferry = ferry();
    ferry.write("more.tf", "locals {\n  tide = 2\n}\n\nmodule \"pier\" {\n  source = \"./quay\"\n  depth  = 3\n}\n");
    assert_eq!(
        ferry.findings(&["more.tf"]),
        ["more.tf:2:3: warning: nothing in this folder uses local.tide [unused-declaration]"]
    );
    ferry.write("stack.hcl", "tide = 1\n");
    ferry.write("quay/main.tf", "output \"deep\" {\n  value = 3\n}\n");
    assert_eq!(
        ferry.findings(&["more.tf"]),
        ["more.tf:7:3: error: the module in ./quay has no variable \"depth\" [unknown-argument]"]
    );
}

#[test]
fn nothing_is_said_of_a_module_that_may_hold_more() {
    let ferry = ferry();
    ferry.write("variables.tf", "");
    ferry.write("more.tf", "variable \"tide\" {\n  type = number\n}\n\nlocals {\n  low = var.tide\n}\n");
    let rules = |ferry: &Ferry| -> Vec<String> {
        let lines = ferry.findings(&["--no-cache"]);
        lines.iter().filter_map(|line| Some(line.rsplit_once('[')?.1.trim_end_matches(']').to_string())).collect()
    };
    assert_eq!(rules(&ferry), ["undeclared-reference", "unused-declaration"]);
    for (other, text) in [("more.tf.json", "{}\n"), ("stack.hcl", "tide = 1\n"), ("lines.tf.in", "@tide@\n")] {
        ferry.write(other, text);
        assert_eq!(rules(&ferry), [""; 0], "{other}");
        std::fs::remove_file(ferry.path(other)).expect("it was written");
    }
    ferry.write("broken.tf", "a = = 1\n");
    assert_eq!(rules(&ferry), ["broken-syntax"]);
}

#[cfg(unix)]
#[test]
fn modules_outside_of_the_code_base_are_not_looked_at() {
    let outside = tempfile::tempdir().expect("a folder");
    std::fs::write(outside.path().join("main.tf"), QUAY.replace("depth", "other")).expect("written");
    let ferry = ferry();
    std::fs::remove_file(ferry.path("quay/main.tf")).expect("it is there");
    std::fs::remove_dir(ferry.path("quay")).expect("it is empty");
    std::os::unix::fs::symlink(outside.path(), ferry.path("quay")).expect("a link");
    assert_eq!(ferry.findings(&["--no-cache"]), [""; 0]);
    ferry.write("main.tf", MAIN.replace("./quay", "../../../../etc"));
    assert_eq!(ferry.findings(&["--no-cache"]), [""; 0]);
}
