//! The places of a name, and whether it may get another one within its file.

use sieve_meaning::names::{BindingId, Names};
use sieve_meaning::names_of;
use sieve_meaning::renaming::{Clash, Form, may_become, places};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// Hands the first binding of a name, in the order of scopes, to a function.
fn with_binding<T>(
    language: Language,
    source: &str,
    name: &str,
    work: impl FnOnce(&Text, &sieve_syntax::tree::Tree, &Names<'_>, BindingId) -> T,
) -> T {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    let names = names_of(language, &text, &tree);
    let found = names.bindings_with_ids().find(|(_, binding)| names.text(binding.name) == name);
    let (id, _) = found.unwrap_or_else(|| panic!("{source}: no binding of {name}"));
    work(&text, &tree, &names, id)
}

/// Places as `line:column form`.
fn placed(language: Language, source: &str, name: &str) -> Vec<String> {
    with_binding(language, source, name, |text, tree, names, id| {
        let all = places(tree, names, id);
        let shown = |place: &sieve_meaning::renaming::Place| {
            let at = text.place(place.span.start);
            let form = match place.form {
                Form::Plain => "",
                Form::Key | Form::KeyBefore => " key",
                Form::Imported => " imported",
                Form::Brought => " brought",
                Form::Exported => " exported",
            };
            format!("{}:{}{form}", at.line, at.column)
        };
        all.iter().map(shown).collect()
    })
}

fn clash(language: Language, source: &str, name: &str, new: &str) -> Option<&'static str> {
    with_binding(language, source, name, |_, _, names, id| {
        may_become(names, id, new).err().map(|clash| match clash {
            Clash::Taken(_) => "taken",
            Clash::Hides(_) => "hides",
            Clash::Unclear | Clash::Doubtful | Clash::Accessed => "unclear",
        })
    })
}

#[test]
fn what_another_part_of_the_file_brings_in_keeps_its_name_there() {
    let source = "fn low() {}\n\nmod quay {\n    use super::low;\n\n    fn go() {\n        low()\n    }\n}\n";
    assert_eq!(placed(Language::Rust, source, "low"), ["1:4", "4:16 brought"]);
}

#[test]
fn every_use_has_its_place_and_nothing_else_has() {
    assert_eq!(placed(Language::Python, "tide = 1\nprint(tide)\nx.tide\n\"tide\"\n", "tide"), ["1:1", "2:7"]);
    assert_eq!(
        placed(Language::Python, "def f(a):\n    a += 1\n    return lambda: a\n\na = 2\n", "a"),
        ["1:7", "2:5", "3:20"],
        "the parameter, and not the variable of the file"
    );
    assert_eq!(placed(Language::Python, "for q in quays:\n    del q\n", "q"), ["1:5", "2:9"]);
    assert_eq!(
        placed(Language::Python, "def f():\n    global g\n    g = 1\n\n\nprint(g)\n", "g"),
        ["2:12", "3:5", "6:7"]
    );
    assert_eq!(placed(Language::Python, "match x:\n    case [a, *_]:\n        print(a)\n", "a"), ["2:11", "3:15"]);
    assert_eq!(placed(Language::Python, "from m import a\na()\n", "a"), ["1:15 imported", "2:1"]);
    assert_eq!(placed(Language::Python, "from m import b as a\na()\n", "a"), ["1:20", "2:1"]);
    assert_eq!(placed(Language::Python, "f\"{tide:>{tide}}\"\ntide = 1\n", "tide"), ["1:4", "1:11", "2:1"]);
}

#[test]
fn keys_imports_and_exports_say_more_than_the_name() {
    let script = |source: &str| placed(Language::JavaScript, source, "a");
    assert_eq!(script("let a = 1; f({ a, b: a, a: 2 }); x.a;"), ["1:5", "1:16 key", "1:22"]);
    assert_eq!(script("const { a } = x; a;"), ["1:9 key", "1:18"]);
    assert_eq!(script("const { b: a } = x; a;"), ["1:12", "1:21"]);
    assert_eq!(script("const { a = 1 } = x;"), ["1:9 key"]);
    assert_eq!(script("import { a } from 'm'; a();"), ["1:10 imported", "1:24"]);
    assert_eq!(script("import { b as a } from 'm'; a();"), ["1:15", "1:29"]);
    assert_eq!(script("import a from 'm'; a();"), ["1:8", "1:20"]);
    assert_eq!(script("const a = 1; export { a };"), ["1:7", "1:23 exported"]);
    assert_eq!(script("const a = 1; export { a as b };"), ["1:7", "1:23"]);
    assert_eq!(placed(Language::TypeScript, "type a = 1; let x: a; let y: { a: a };", "a"), ["1:6", "1:20", "1:35"]);
}

#[test]
fn a_new_name_must_be_free_where_the_old_one_is_used() {
    let python = |source: &str| clash(Language::Python, source, "old", "new");
    assert_eq!(python("old = 1\n"), None);
    assert_eq!(python("old = 1\nnew = 2\n"), Some("taken"));
    assert_eq!(python("old = 1\ndef f():\n    new = 2\n    return old\n"), Some("taken"));
    assert_eq!(python("old = 1\ndef f():\n    new = 2\n    return new\n"), None);
    assert_eq!(python("old = 1\ndef f():\n    new = 2\n    def g():\n        return old\n"), Some("taken"));
    assert_eq!(python("def f():\n    old = 1\n    print(new)\n"), Some("hides"));
    assert_eq!(python("def f():\n    old = 1\n\n\nprint(new)\n"), None);
    assert_eq!(python("old = 1\nclass A:\n    new = 2\n    def f(self):\n        return old\n"), None);
    assert_eq!(python("old = 1\nclass A:\n    new = 2\n    x = old\n"), Some("taken"));
    assert_eq!(python("def f():\n    old = 1\n    exec(\"x\")\n"), Some("unclear"));
    assert_eq!(python("def f():\n    old = 1\n    return locals()\n"), Some("unclear"));
    assert_eq!(python("old = [new for new in ()]\n"), None);
    let script = |source: &str| clash(Language::JavaScript, source, "old", "new1");
    assert_eq!(script("let old = 1; { let new1 = 2; f(old); }"), Some("taken"));
    assert_eq!(script("let old = 1; { let new1 = 2; } f(old);"), None);
    assert_eq!(script("{ let old = 1; f(new1); } let new1;"), Some("hides"));
    assert_eq!(script("function f() { let old = 1; } f(new1);"), None);
    assert_eq!(script("function f(old) { eval('x'); }"), Some("unclear"));
}
