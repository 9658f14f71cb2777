//! What holds for the names of any source, whole or not, in every language of programs.

use crate::pieces::source_with;
use proptest::prelude::*;
use sieve_meaning::names::Resolution;
use sieve_meaning::names_of;
use sieve_meaning::renaming::{Form, may_become, places};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// What binds or opens scopes beside the common pieces.
const MORE: &[&str] = &[
    "LowAttribute",
    "_",
    "base",
    "super",
    "@a",
    "partial ",
    "mut ",
    "as ",
    "global ",
    "where ",
    "select ",
    "with ",
    "get;",
    "set;",
    "out ",
    "ref ",
    "/** {@link Low} */\n",
];

proptest! {
    #![proptest_config(ProptestConfig::with_cases(4000))]

    /// Each place of a name is a stretch of the text with that name, and no two places are the same.
    #[test]
    fn places_are_names_in_the_text(source in source_with(MORE)) {
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
    fn uses_mean_what_is_there(source in source_with(MORE)) {
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
