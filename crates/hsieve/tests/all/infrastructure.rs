//! Infrastructure files: names over the files of a folder, and modules that call each other, in every way that a run sees them.

use crate::ferry::Ferry;
use crate::members::{refusal, renamed};

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
    for (other, text) in [("stack.hcl", "tide = 1\n"), ("lines.tf.in", "@tide@\n")] {
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

const IN_JSON: &str = r#"{
  "//": "made by hand: ${var.nothing}",
  "variable": { "depth": { "type": "number" }, "lamps": { "default": 2 }, "idle": {} },
  "locals": [{ "lit": "${var.lamps} of ${local.tide}" }],
  "resource": { "quay_light": { "north": { "depth": "${var.depht}", "depends_on": ["quay_light.suoth"] } } },
  "module": { "pier": { "source": "./quay", "dept": 3 } },
  "moved": { "from": "quay_light.west", "to": "quay_light.north" }
}
"#;

#[test]
fn the_json_form_is_a_part_of_its_module() {
    let ferry = Ferry::in_git(&[
        ("main.tf.json", IN_JSON),
        (
            "lights.tf",
            "locals {\n  tide = 1\n}\n\noutput \"lit\" {\n  value = local.lit + local.dark\n}\n\nresource \"quay_light\" \"south\" {}\n",
        ),
        ("quay/main.tf", QUAY),
    ]);
    let expected = [
        "lights.tf:6:23: error: nothing in this folder declares local.dark [undeclared-reference]",
        "main.tf.json:3:75: warning: nothing in this folder uses var.idle [unused-declaration]",
        "main.tf.json:5:53: error: nothing in this folder declares var.depht [undeclared-reference]",
        "main.tf.json:5:84: error: nothing in this folder declares quay_light.suoth [undeclared-reference]",
        "main.tf.json:6:15: error: the module in ./quay needs a value for \"depth\" [missing-argument]",
        "main.tf.json:6:45: error: the module in ./quay has no variable \"dept\" [unknown-argument]",
    ];
    let with_depth = "main.tf.json:3:17: warning: nothing in this folder uses var.depth [unused-declaration]";
    let mut all = expected.to_vec();
    all.insert(1, with_depth);
    assert_eq!(ferry.findings(&["--no-cache"]), all, "cold");
    assert_eq!(ferry.findings(&[]), all);
    assert_eq!(ferry.commit("lights").status, 0);
    ferry.write("main.tf.json", IN_JSON.replace("\"lit\"", "\"dim\""));
    let lit = "lights.tf:6:11: error: nothing in this folder declares local.lit [undeclared-reference]";
    let found = ferry.findings(&["--changed"]);
    assert!(found.iter().any(|line| line == lit), "a change in one form shows in the other: {found:?}");
    ferry.write("main.tf.json", "{ \"variable\": ");
    let found = ferry.findings(&[]);
    assert!(!found.iter().any(|line| line.contains("[undeclared-reference]")), "not all of it is known: {found:?}");
}

const LIGHTS: &str = "resource \"quay_light\" \"north\" {\n  depth = var.depth\n  tides = [for depth in local.tides : depth > var.depth]\n}\n\nlocals {\n  tides = [1, 2]\n  lit   = \"${quay_light.north.lamps} of ${var.depth}\"\n}\n\noutput \"lamps\" {\n  value      = resource.quay_light.north.lamps\n  depends_on = [quay_light.north]\n}\n";
const CALLER: &str = "module \"pier\" {\n  source = \"./pier\"\n  depth  = 4\n}\n\nmodule \"board\" {\n  source = \"./board\"\n  depth  = module.pier.lamps\n}\n";

fn pier() -> [(&'static str, &'static str); 5] {
    [
        ("main.tf", CALLER),
        ("pier/lights.tf", LIGHTS),
        ("pier/variables.tf", VARIABLES),
        ("pier/terraform.tfvars", "depth = 3\nlamps = 2\n"),
        ("board/main.tf", VARIABLES),
    ]
}

#[test]
fn a_variable_is_renamed_in_its_folder_its_values_and_the_folders_that_call_it() {
    let wanted = [
        CALLER.replacen("depth  = 4", "draught  = 4", 1),
        LIGHTS.replace("var.depth", "var.draught"),
        VARIABLES.replace("depth", "draught"),
        "draught = 3\nlamps = 2\n".to_string(),
        VARIABLES.to_string(),
    ];
    for place in ["pier/variables.tf:1:12", "pier/lights.tf:2:15", "main.tf:3:3", "pier/terraform.tfvars:1:1"] {
        assert_eq!(renamed(&pier(), place, "draught", &[]), wanted, "{place}");
    }
}

#[test]
fn outputs_and_local_values_are_renamed_where_they_are_used() {
    let after = renamed(&pier(), "main.tf:8:24", "lights", &[]);
    assert_eq!(after[0], CALLER.replace("pier.lamps", "pier.lights"));
    assert_eq!(after[1], LIGHTS.replace("output \"lamps\"", "output \"lights\""));
    // The call and what it gives out may be in two files of a folder.
    let mut apart = pier().to_vec();
    apart.push(("shown.tf", "output \"lamps\" {\n  value = module.pier.lamps\n}\n"));
    for place in ["shown.tf:2:24", "pier/lights.tf:11:10", "main.tf:8:24"] {
        let after = renamed(&apart, place, "lights", &[]);
        assert_eq!(after[0], CALLER.replace("pier.lamps", "pier.lights"), "{place}");
        assert_eq!(after[5], "output \"lamps\" {\n  value = module.pier.lights\n}\n", "{place}");
    }
    let local = renamed(&pier(), "pier/lights.tf:7:3", "hours", &[]);
    assert_eq!(local[1], LIGHTS.replace("local.tides", "local.hours").replace("  tides = [1", "  hours = [1"));
}

#[test]
fn what_was_made_under_the_old_name_is_told_to_have_moved() {
    let after = renamed(&pier(), "pier/lights.tf:8:25", "south", &[]);
    let block = "\nmoved {\n  from = quay_light.north\n  to   = quay_light.south\n}\n";
    let renamed_once = LIGHTS.replace("quay_light.north", "quay_light.south").replace("\"north\"", "\"south\"");
    assert_eq!(after[1], format!("{renamed_once}{block}"));
    // A move that was told before stays as it is.
    let files = [("lights.tf", &*after[1])];
    let again = renamed(&files, "lights.tf:1:24", "west", &[]);
    assert!(again[0].contains("  from = quay_light.north\n  to   = quay_light.south\n"), "{}", again[0]);
    assert!(again[0].ends_with("  from = quay_light.south\n  to   = quay_light.west\n}\n"), "{}", again[0]);
    let module = renamed(&pier(), "main.tf:1:10", "jetty", &[]);
    assert!(module[0].contains("module \"jetty\"") && module[0].contains("module.jetty.lamps"), "{}", module[0]);
    assert!(module[0].contains("from = module.pier"), "{}", module[0]);
}

#[test]
fn what_infrastructure_files_may_use_elsewhere_is_not_renamed() {
    let more: &[(&str, &str)] = &[("pier/variables.tf", "variable \"depth\" {}\nvariable \"draught\" {}\n")];
    let with = |more: &[(&'static str, &'static str)]| {
        let kept = pier().into_iter().filter(|(name, _)| more.iter().all(|(other, _)| other != name));
        kept.chain(more.iter().copied()).collect::<Vec<_>>()
    };
    for (more, place, new, why) in [
        (more, "main.tf:3:3", "draught", "var.draught is declared already"),
        (
            &[("pier/more.tf.json", "{}")],
            "main.tf:3:3",
            "draught",
            "var.depth may be used in more.tf.json, which is not read",
        ),
        (&[("pier/broken.tf", "a = [\n")], "main.tf:3:3", "draught", "a file of the module has a syntax fault"),
        (
            &[("values/north.tfvars", "depth = 1\n")],
            "main.tf:3:3",
            "draught",
            "it is not known which module gets this value",
        ),
        (
            &[("pier/tests/all.tftest.hcl", "variables {\n  depth = 1\n}\n")],
            "main.tf:3:3",
            "draught",
            "may be the variable here",
        ),
        (&[], "main.tf:3:3", "true", "\"true\" cannot be a name in HCL"),
        (&[], "main.tf:2:3", "origin", "what is renamed here are variables"),
        (&[], "pier/lights.tf:1:12", "lamp", "what is renamed here are variables"),
        (&[("pier/lost.tf", "a = var.tide\n")], "pier/lost.tf:1:9", "ebb", "nothing in the folder declares var.tide"),
    ] {
        let found = refusal(&with(more), place, new, &[]);
        assert!(found.contains(why), "{place} {new}: {found}");
    }
}
