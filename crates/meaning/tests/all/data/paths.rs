//! JSONPath: the compliance suite of the standard, through our values; paths that would never end.

use serde_json::Value as Json;
use sieve_meaning::data::path::Path;
use sieve_meaning::data::{Data, Value};
use sieve_syntax::language::Language;

use super::reference::{parsed, references};

/// What `$.store.book[0]` is written as in the suite.
fn normalized(value: Value<'_, '_>) -> String {
    let mut path = String::new();
    let mut inner = value;
    while let Some(parent) = inner.parent() {
        let step = match inner.key() {
            Some(name) => format!("[{}]", quoted(name)),
            None => format!("[{}]", parent.children().position(|child| child == inner).expect("a child")),
        };
        path = step + &path;
        inner = parent;
    }
    format!("${path}")
}

/// A name as a normalized path has it (RFC 9535, 2.7).
fn quoted(name: &str) -> String {
    let mut out = String::from("'");
    for character in name.chars() {
        match character {
            '\'' => out.push_str("\\'"),
            '\\' => out.push_str("\\\\"),
            '\u{8}' => out.push_str("\\b"),
            '\u{c}' => out.push_str("\\f"),
            '\n' => out.push_str("\\n"),
            '\r' => out.push_str("\\r"),
            '\t' => out.push_str("\\t"),
            control if (control as u32) < 0x20 => out.push_str(&format!("\\u{:04x}", control as u32)),
            other => out.push(other),
        }
    }
    out + "'"
}

#[test]
fn paths_lead_where_the_compliance_suite_says() {
    let suite =
        references().join("node_modules/jsonpath-rfc9535/src/__tests__/jsonpath-compliance-test-suite/cts.json");
    let suite: Json = serde_json::from_slice(&std::fs::read(suite).expect("the suite")).expect("JSON");
    let cases = suite["tests"].as_array().expect("cases");
    assert!(cases.len() > 600, "{} cases", cases.len());
    let mut wrong = Vec::new();
    for case in cases {
        let (name, selector) = (&case["name"], case["selector"].as_str().expect("a path"));
        let path = Path::parse(selector);
        if case["invalid_selector"] == Json::Bool(true) {
            if path.is_ok() {
                wrong.push(format!("{name}: {selector} is taken for a path"));
            }
            continue;
        }
        let Ok(path) = path else {
            wrong.push(format!("{name}: {selector} is refused: {path:?}"));
            continue;
        };
        let (text, tree) = parsed(Language::Json, &case["document"].to_string());
        let data = Data::of(Language::Json, &text, &tree);
        let found = path.find(data.root().expect("a value"), 1_000_000).expect("few steps");
        let values: Vec<Json> = found.iter().map(|value| value.to_json(1_000_000).expect("small")).collect();
        let paths: Vec<String> = found.iter().map(|value| normalized(*value)).collect();
        let is_right = |result: &Json, paths_of: &Json| {
            result.as_array().is_some_and(|result| same(result, &values)) && paths_of == &Json::from(paths.clone())
        };
        // Objects have no order for the standard: one of several results is right.
        let right = if case["results"].is_array() {
            let (results, paths) = (case["results"].as_array().expect("results"), &case["results_paths"]);
            results.iter().enumerate().any(|(index, result)| is_right(result, &paths[index]))
        } else {
            is_right(&case["result"], &case["result_paths"])
        };
        if !right {
            wrong.push(format!("{name}: {selector} in {} leads to {paths:?} {values:?}", case["document"]));
        }
    }
    assert!(wrong.is_empty(), "{} of {}:\n{}", wrong.len(), cases.len(), wrong.join("\n"));
}

/// Numbers are the same if their doubles are.
fn same(one: &[Json], other: &[Json]) -> bool {
    fn is_same(one: &Json, other: &Json) -> bool {
        match (one, other) {
            (Json::Number(one), Json::Number(other)) => one.as_f64() == other.as_f64(),
            (Json::Array(one), Json::Array(other)) => same(one, other),
            (Json::Object(one), Json::Object(other)) => {
                one.len() == other.len()
                    && one.iter().all(|(key, value)| other.get(key).is_some_and(|other| is_same(value, other)))
            }
            _ => one == other,
        }
    }
    one.len() == other.len() && one.iter().zip(other).all(|(one, other)| is_same(one, other))
}

#[test]
fn paths_that_would_take_too_long_are_given_up() {
    let list = format!("[{}]", vec!["[0,1,2,3,4,5,6,7,8,9]"; 200].join(","));
    let (text, tree) = parsed(Language::Json, &list);
    let data = Data::of(Language::Json, &text, &tree);
    let root = data.root().expect("a value");
    for path in ["$..*..*..*..*", "$..[?count($..*) > 0]", "$[0:1000000:1]..*..*..*", "$[?@..* == 1 || @..[?@..*]]"] {
        let Ok(path) = Path::parse(path) else { continue };
        let _ = path.find(root, 100_000);
    }
    assert!(Path::parse("$..*..*").expect("a path").find(root, 1_000).is_err());
    // Aliases that stand for each other's doubles are as many as leaves as two to their number.
    let mut bomb = "a0: &a0 [x, x]\n".to_string();
    for level in 1..60 {
        bomb += &format!("a{level}: &a{level} [*a{}, *a{}]\n", level - 1, level - 1);
    }
    let (text, tree) = parsed(Language::Yaml, &bomb);
    let data = Data::of(Language::Yaml, &text, &tree);
    let root = data.root().expect("a value");
    assert!(Path::parse("$..x").expect("a path").find(root, 100_000).is_err());
    assert!(root.to_json(100_000).is_err());
    assert_eq!(root.get("a59").expect("a value").index(1).expect("a value").shape(), sieve_meaning::data::Shape::List);
    // Brackets and filters without end.
    for source in [
        "$".to_string() + &"[?@".repeat(10_000),
        "$[?".to_string() + &"(".repeat(10_000),
        "$".to_string() + &"..*".repeat(10_000),
    ] {
        drop(Path::parse(&source));
    }
}

#[test]
fn mistakes_are_told_with_their_places() {
    for (source, place, message) in [
        ("paths", 0..1, "a path begins with '$'"),
        ("$.paths.", 8..8, "a name or '*' is behind a dot; other names are written ['in quotes']"),
        ("$['a", 2..3, "the string is never closed"),
        ("$[?@.a = 1]", 7..8, "',' or ']' is behind a selector"),
        ("$[?lenth(@) > 1]", 3..8, "there is no function \"lenth\": count, length, match, search, value are known"),
        ("$[?@.* == 1]", 3..6, "this may lead to several values: only one can be compared"),
        ("$[01]", 2..4, "this is no index: a whole number without leading zeros"),
    ] {
        let error = Path::parse(source).expect_err(source);
        let found = (error.place.start, error.message.as_str());
        assert_eq!(found, (place.start, message), "{source}: {error:?}");
    }
}
