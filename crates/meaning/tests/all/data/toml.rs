//! TOML, as Python's own reader has it.

use sieve_syntax::language::Language;

use super::corpus::{changed, files};
use super::reference::{compare, told, values};

const REFERENCE: &str = "
import datetime, json, sys, tomllib
def plain(value):
    if isinstance(value, dict):
        return {key: plain(inner) for key, inner in value.items()}
    if isinstance(value, list):
        return [plain(inner) for inner in value]
    if isinstance(value, (datetime.date, datetime.time)):
        return {'= date': True}
    if isinstance(value, (int, float)) and not isinstance(value, bool):
        return {'= number': repr(float(value))}
    return value
for name in open(sys.argv[1]).read().splitlines():
    try:
        print(json.dumps([plain(tomllib.load(open(name, 'rb')))]))
    except (tomllib.TOMLDecodeError, UnicodeDecodeError):
        print('\"error\"')
";

#[test]
fn real_files_have_the_values_that_the_reference_gives_them() {
    let files = files(&["toml", "orig"]);
    assert!(files.len() > 200, "{} files", files.len());
    compare(Language::Toml, &files, &told("python3", &["-c", REFERENCE], &files));
}

#[test]
fn changed_files_are_accepted_where_the_reference_accepts_them() {
    let folder = tempfile::tempdir().expect("a folder");
    let files = changed(&files(&["toml"]), 20, folder.path());
    compare(Language::Toml, &files, &told("python3", &["-c", REFERENCE], &files));
}

#[test]
fn tables_are_put_together_as_the_specification_says() {
    let accepted = [
        ("a.b = 1\na.c = 2\n", r#"[{"a": {"b": {"= number": "1e0"}, "c": {"= number": "2e0"}}}]"#),
        ("[a.b]\nx = 1\n[a]\ny = 2\n", r#"[{"a": {"b": {"x": {"= number": "1e0"}}, "y": {"= number": "2e0"}}}]"#),
        (
            "[[quay]]\nn = 1\n[quay.depth]\nlow = 2\n[[quay]]\n",
            r#"[{"quay": [{"n": {"= number": "1e0"}, "depth": {"low": {"= number": "2e0"}}}, {}]}]"#,
        ),
        ("", "[{}]"),
        ("\"a.b\".c = ''\n", r#"[{"a.b": {"c": ""}}]"#),
    ];
    for (source, expected) in accepted {
        let expected: serde_json::Value = serde_json::from_str(expected).expect("JSON");
        assert_eq!(values(Language::Toml, source), Some(expected), "{source}");
    }
    for refused in [
        "a = 1\na = 2\n",
        "[a]\n[a]\n",
        "a = {b = 1}\n[a.c]\n",
        "a = {b = 1}\na.c = 2\n",
        "a = [{}]\n[[a]]\n",
        "[a]\nb.c = 1\n[a.b]\n",
        "[a.b]\n[a]\nb.c = 1\n",
        "[[a]]\n[a]\n",
        "[a]\n[[a]]\n",
        "a = {b.c = 1, b = 2}\n",
    ] {
        assert_eq!(values(Language::Toml, refused), None, "{refused}");
    }
}
