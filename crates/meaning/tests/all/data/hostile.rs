//! Values of texts that nobody means well with.

use sieve_meaning::data::Data;
use sieve_syntax::language::Language;

use super::reference::parsed;

#[test]
fn values_of_hostile_texts_are_read_in_time_that_grows_with_them() {
    let many = 50_000;
    let keys: String = (0..many).map(|number| format!("k{number} = 1\n")).collect();
    let headers: String = (0..many).map(|number| format!("[t.k{number}]\n")).collect();
    let anchors: String = (0..many).map(|number| format!("- &a{number} x\n- *a{number}\n")).collect();
    for (language, source) in [
        (Language::Toml, keys.clone()),
        (Language::Toml, headers),
        (Language::Toml, "[[t]]\n".repeat(many)),
        (Language::Toml, "[t]\n".repeat(many)),
        (Language::Toml, "a.b.c.d = 1\n".repeat(many)),
        (Language::Toml, "[a.b\n".repeat(many)),
        (Language::Yaml, keys.replace(" = ", ": ")),
        (Language::Yaml, "a: 1\n".repeat(many)),
        (Language::Yaml, "- &a x\n- *a\n".repeat(many)),
        (Language::Yaml, anchors),
        (Language::Yaml, "a: &a [*a]\n".repeat(many)),
        (Language::Yaml, "- *nothing\n".repeat(many)),
        (Language::Yaml, "- &a [&b x, &c {&d k: &e v}]\n".repeat(many)),
        (Language::Json, format!("{{{}\"a\": 1}}", "\"a\": 1, ".repeat(many))),
        (Language::Json, "{\"a\":".repeat(many)),
        (Language::Json, "[".repeat(many)),
    ] {
        let (text, tree) = parsed(language, &source);
        let data = Data::of(language, &text, &tree);
        // Each value has a parent before it, so that all of them can be told where they are.
        assert!(data.values().all(|value| value.parent().is_none_or(|parent| parent.id() < value.id())));
        // Anchors are found by their nodes, so that a rule may ask of each.
        assert!(data.anchors().is_sorted_by_key(|anchor| anchor.node));
        assert!(data.anchors().iter().all(|anchor| data.anchor(anchor.node) == Some(anchor)));
        let _ = (data.repeats().len(), data.unknown_aliases().len(), data.root().map(|root| root.to_json(1_000)));
    }
}
