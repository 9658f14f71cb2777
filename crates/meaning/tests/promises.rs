//! What holds for the names of any source, whole or not, in every language of programs.

use proptest::prelude::*;
use sieve_meaning::names::Resolution;
use sieve_meaning::names_of;
use sieve_meaning::renaming::{Form, may_become, places};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// Pieces of which a source is put together: words that open scopes, bind or import in some language, and signs.
const PIECES: &[&str] = &[
    "a",
    "b",
    "Low",
    "LowAttribute",
    "_",
    "value",
    "self",
    "this",
    "base",
    "super",
    "@a",
    "\"a\"",
    "3",
    "class ",
    "struct ",
    "interface ",
    "enum ",
    "record ",
    "namespace ",
    "partial ",
    "private ",
    "static ",
    "const ",
    "def ",
    "fn ",
    "func ",
    "function ",
    "void ",
    "int ",
    "var ",
    "let ",
    "mut ",
    "if ",
    "else ",
    "for ",
    "foreach ",
    "while ",
    "switch ",
    "match ",
    "case ",
    "default",
    "return ",
    "in ",
    "is ",
    "as ",
    "new ",
    "using ",
    "import ",
    "from ",
    "use ",
    "package ",
    "global ",
    "where ",
    "select ",
    "with ",
    "get;",
    "set;",
    "=>",
    "=",
    "==",
    ".",
    "::",
    ":",
    ";",
    ",",
    "(",
    ")",
    "{",
    "}",
    "[",
    "]",
    "<",
    ">",
    "&&",
    "!",
    "?",
    "out ",
    "ref ",
    "try ",
    "catch ",
    "except ",
    "finally ",
    "#if A\n",
    "#else\n",
    "#endif\n",
    "/// <see cref=\"Low\"/>\n",
    "/** {@link Low} */\n",
    "\n",
    "\n    ",
    " ",
];

fn source() -> impl Strategy<Value = String> {
    prop::collection::vec(prop::sample::select(PIECES), 0..60).prop_map(|pieces| pieces.concat())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(4000))]

    /// Each place of a name is a stretch of the text with that name, and no two places are the same.
    #[test]
    fn places_are_names_in_the_text(source in source()) {
        for language in Language::OF_PROGRAMS {
            let text = Text::new(source.clone());
            let tree = language.parse(&text);
            let names = names_of(*language, &text, &tree);
            for (id, binding) in names.bindings_with_ids() {
                let name = names.text(binding.name);
                let all = places(&tree, &names, id);
                prop_assert!(all.windows(2).all(|pair| pair[0].span < pair[1].span), "{language:?}: {name}");
                for place in all {
                    let written = text.slice(place.span);
                    let is_it = written.trim_start_matches('@') == name || place.form != Form::Plain;
                    prop_assert!(is_it || written.contains(name), "{language:?}: {name} is {written:?}");
                }
                let _ = may_become(&names, id, "harbour");
            }
        }
    }

    /// What a use means is bound in the file, the uses are in the order of the text, and each is counted.
    #[test]
    fn uses_mean_what_is_there(source in source()) {
        for language in Language::OF_PROGRAMS {
            let text = Text::new(source.clone());
            let tree = language.parse(&text);
            let names = names_of(*language, &text, &tree);
            let mut before = None;
            for reference in names.references() {
                prop_assert!(before <= Some(reference.node), "{language:?}");
                before = Some(reference.node);
                if let Resolution::Binding(id) = reference.resolution {
                    let binding = names.binding(id);
                    prop_assert!(binding.uses + binding.writes > 0, "{language:?}: {}", names.text(reference.name));
                    prop_assert!(!binding.declarations.is_empty(), "{language:?}");
                }
            }
        }
    }
}
