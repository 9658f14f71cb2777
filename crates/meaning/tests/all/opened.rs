//! What the namespaces of C# declare for whoever opens them, and what a file names.

use sieve_meaning::opened::{Opened, names_in, number_of, opened_by};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

fn opened(code: &str) -> Vec<Opened> {
    let text = Text::new(code.to_string());
    let tree = Language::CSharp.parse(&text);
    opened_by(Language::CSharp, &text, &tree).expect("the language opens namespaces")
}

#[test]
fn a_namespace_has_types_and_what_is_called_on_objects() {
    let found = opened(
        "namespace Ferries { namespace Tides { class Table { class Row {} } } static class Ends { static int End(this int x) => x; static int Own(int x) => x; } }",
    );
    let [tides, ferries] = found.as_slice() else { panic!("{found:?}") };
    assert_eq!((tides.name.as_str(), tides.names.as_slice()), ("Ferries.Tides", [number_of("Table")].as_slice()));
    assert_eq!(ferries.name, "Ferries");
    for (name, is_there) in [("Ends", true), ("End", true), ("Own", false), ("Row", false)] {
        assert_eq!(ferries.names.contains(&number_of(name)), is_there, "{name}");
    }
}

#[test]
fn an_attribute_has_two_names_and_what_needs_no_name_leaves_all_open() {
    let found = opened("namespace Ferries.Marks;\nclass FragileAttribute {}\n");
    assert!(["Fragile", "FragileAttribute"].iter().all(|name| found[0].names.contains(&number_of(name))));
    assert!(!found[0].is_open);
    assert!(opened("namespace F;\nstatic class E { static void Add(this int x, int y) {} }\n")[0].is_open);
}

#[test]
fn strings_and_plain_comments_name_nothing() {
    let text = Text::new("/// <see cref=\"Table\"/>\n// Quay\nclass A { string b = \"Boat\"; @int c; }\n".into());
    let tree = Language::CSharp.parse(&text);
    let names = names_in(&text, &tree);
    let is_named = |name: &str| names.binary_search(&number_of(name)).is_ok();
    assert!(is_named("Table") && is_named("int") && is_named("b"));
    assert!(!is_named("Quay") && !is_named("Boat") && !is_named("A"));
}

#[test]
fn code_that_is_left_out_may_declare_anything() {
    let hidden = "#if NEAP\n#if SPRING\nextern alias Tides;\n#endif\nnamespace Ferries.Tides\n{\n    class Table {}\n#else\n}}\n#endif\n";
    let found = opened(hidden);
    assert!(found.iter().all(|one| one.is_open) && found.iter().any(|one| one.name == "Ferries.Tides"), "{found:?}");
}
