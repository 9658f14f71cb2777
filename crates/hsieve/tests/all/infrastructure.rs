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

/// The findings, a line each.
#[track_caller]
fn found(ferry: &Ferry, arguments: &[&str]) -> Vec<String> {
    let ended = ferry.run(&[&["sift", "--output", "lines"], arguments].concat());
    assert!(ended.status <= 1, "{}", ended.err);
    let lines = ended.out.lines().take_while(|line| !line.starts_with("Sifted"));
    lines.filter(|line| !line.is_empty()).map(str::to_owned).collect()
}

const RENAMED: &str = "main.tf:3:3: error: the module in ./quay has no variable \"depth\" [unknown-argument]";

#[test]
fn what_changes_in_one_file_is_told_in_the_others() {
    let ferry = ferry();
    assert_eq!(found(&ferry, &[]), [""; 0]);
    ferry.write("variables.tf", VARIABLES.replace("depth", "deep"));
    let expected = [
        "main.tf:3:12: error: nothing in this folder declares var.depth [undeclared-reference]",
        "variables.tf:1:10: warning: nothing in this folder uses var.deep [unused-declaration]",
    ];
    assert_eq!(found(&ferry, &[]), expected, "warm");
    assert_eq!(found(&ferry, &["--no-cache"]), expected, "cold");
    ferry.write("variables.tf", VARIABLES);
    assert_eq!(found(&ferry, &[]), [""; 0], "and back");
}

#[test]
fn what_a_module_takes_is_told_where_it_is_called() {
    let ferry = ferry();
    ferry.write("quay/main.tf", QUAY.replace("depth", "depths"));
    let needed = "main.tf:1:8: error: the module in ./quay needs a value for \"depths\" [missing-argument]";
    assert_eq!(found(&ferry, &[]), [needed, RENAMED]);
    assert_eq!(found(&ferry, &["main.tf"]), [needed, RENAMED], "a file alone knows the others");
    assert_eq!(found(&ferry, &["--changed"]), [needed, RENAMED], "the change brought it");
    let advice = ferry.run(&["sift", "--output", "cards", "main.tf"]).out;
    assert!(advice.contains("did you mean depths?"), "{advice}");
    ferry.git(&["add", "--all"]);
    ferry.write("quay/main.tf", QUAY);
    assert_eq!(found(&ferry, &["--staged"]), [needed, RENAMED], "what is staged is read from the index");
    assert_eq!(found(&ferry, &[]), [""; 0]);
}

/// A file is looked at again where another of its questions is answered, even if the answer reads the same.
#[test]
fn an_answer_to_one_question_is_not_taken_for_that_to_another() {
    let ferry = ferry();
    ferry.write("more.tf", "locals {\n  tide = 2\n}\n\nmodule \"pier\" {\n  source = \"./quay\"\n  depth  = 3\n}\n");
    assert_eq!(
        found(&ferry, &["more.tf"]),
        ["more.tf:2:3: warning: nothing in this folder uses local.tide [unused-declaration]"]
    );
    ferry.write("stack.hcl", "tide = 1\n");
    ferry.write("quay/main.tf", "output \"deep\" {\n  value = 3\n}\n");
    assert_eq!(
        found(&ferry, &["more.tf"]),
        ["more.tf:7:3: error: the module in ./quay has no variable \"depth\" [unknown-argument]"]
    );
}

#[test]
fn nothing_is_said_of_a_module_that_may_hold_more() {
    let ferry = ferry();
    ferry.write("variables.tf", "");
    ferry.write("more.tf", "variable \"tide\" {\n  type = number\n}\n\nlocals {\n  low = var.tide\n}\n");
    let rules = |ferry: &Ferry| -> Vec<String> {
        let lines = found(ferry, &["--no-cache"]);
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
    assert_eq!(found(&ferry, &["--no-cache"]), [""; 0]);
    ferry.write("main.tf", MAIN.replace("./quay", "../../../../etc"));
    assert_eq!(found(&ferry, &["--no-cache"]), [""; 0]);
}
