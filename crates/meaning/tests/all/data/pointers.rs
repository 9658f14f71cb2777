//! JSON Pointers lead to places, and places to pointers.

use proptest::prelude::*;
use sieve_meaning::data::Data;
use sieve_syntax::language::Language;

use super::reference::parsed;

#[test]
fn pointers_lead_to_places_and_back() {
    for (language, source) in [
        (Language::Json, "{\n  \"paths\": {\"/tides~\": {\"get\": [1, {\"x\": null}]}}\n}\n"),
        (Language::Yaml, "paths:\n  /tides~:\n    get:\n      - 1\n      - x:\n"),
        (Language::Toml, "[paths.\"/tides~\"]\nget = [1, { x = '' }]\n"),
    ] {
        let (text, tree) = parsed(language, source);
        let data = Data::of(language, &text, &tree);
        let value = data.at("/paths/~1tides~0/get/1/x").unwrap_or_else(|| panic!("{source}"));
        assert_eq!(value.pointer(), "/paths/~1tides~0/get/1/x");
        assert!(text.slice(value.key_span().expect("a key")).contains('x'));
        assert_eq!(
            data.around(value.key_span().expect("a key").start).map(|found| found.pointer()),
            Some(value.pointer())
        );
        for none in [
            "/path",
            "/paths/",
            "/paths/~1tides~0/get/2",
            "/paths/~1tides~0/get/01",
            "paths",
            "/paths/~2",
            "/paths/~1tides~0/get/-",
        ] {
            assert!(data.at(none).is_none(), "{none}");
        }
        assert_eq!(data.at(""), data.root());
    }
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    /// Every value of any document is where its pointer says.
    #[test]
    fn every_value_is_found_by_its_pointer(keys in prop::collection::hash_set("\\PC{0,4}", 1..8), number in any::<i32>()) {
        let object: serde_json::Map<String, serde_json::Value> =
            keys.iter().map(|key| (key.clone(), serde_json::json!([{ "a": number }, key]))).collect();
        let source = serde_json::Value::Object(object).to_string();
        for language in [Language::Json, Language::Yaml] {
            let (text, tree) = parsed(language, &source);
            prop_assert!(tree.faults().is_empty(), "{source}");
            let data = Data::of(language, &text, &tree);
            for value in data.values() {
                prop_assert_eq!(data.at(&value.pointer()), Some(value));
            }
        }
    }

    /// JSON is YAML: the same text has the same values.
    #[test]
    fn json_is_read_as_yaml_alike(strings in prop::collection::vec(any::<String>(), 0..4), numbers in prop::collection::vec(-1e15f64..1e15, 0..4)) {
        let source = serde_json::json!({ "strings": strings, "numbers": numbers, "more": [true, null, {}] }).to_string();
        let of = |language| {
            let (text, tree) = parsed(language, &source);
            Data::of(language, &text, &tree).root().map(|value| value.to_json(10_000))
        };
        prop_assert_eq!(of(Language::Json), of(Language::Yaml), "{}", source);
    }
}
