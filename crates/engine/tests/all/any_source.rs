//! What holds for any source in any language: it is sifted by all rules, and fixes make it no worse.

use proptest::prelude::*;
use sieve_engine::run::{Wants, sift_text};
use sieve_engine::settings::Overrides;
use sieve_rules::{Mesh, catalogue};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::bench::Bench;
use crate::pieces::source_with;

/// What the promise of all rules meets beside the common pieces: comments, pages, tables and shells.
const MORE: &[&str] = &[
    "x1",
    "é",
    "'b'",
    "`c`",
    "0x1f",
    "1.5e3",
    "true",
    "null",
    "None",
    "final ",
    "elif ",
    "then\n",
    "fi\n",
    "do\n",
    "done\n",
    "break;",
    "lock ",
    "async ",
    "await ",
    "throw ",
    "!=",
    "=+",
    "+",
    "-",
    "++",
    "?.",
    "</",
    "/>",
    "||",
    "|",
    "$",
    "${",
    "#",
    "@",
    "%",
    "*",
    "/",
    "\\",
    "// x\n",
    "# x\n",
    "/* y */",
    "<!-- z -->",
    "// sieve: waive unused-variable because a\n",
    "\r\n",
    "\n  - ",
    "\t",
    "  ",
    "key: ",
    "<p>",
    "<img alt=>",
    "</p>",
    "<script>",
    "</script>",
    "<style>",
    "color: red;",
    "@media ",
    "resource \"a\" \"b\" {\n",
    "[table]\n",
    "&anchor ",
    "*anchor",
    "<<EOF\n",
    "EOF\n",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 2000, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn all_rules_look_at_it_and_fixes_make_it_no_worse(source in source_with(MORE)) {
        let only = catalogue::rules().map(|(id, _)| id).collect();
        let bench = Bench::new(Overrides { mesh: Some(Mesh::Fine), only, ..Overrides::default() });
        for language in Language::ALL {
            let text = Text::new(source.clone());
            bench.with_subject_in(*language, |subject| {
                drop(sift_text(&text, subject, Wants::default(), sieve_engine::today()));
            });
            let fixed = Text::new(bench.fixed(*language, &source));
            let faults = |text: &Text| language.parse(text).faults().len();
            prop_assert!(faults(&fixed) <= faults(&text), "{language:?}: {source:?}\n---\n{:?}", fixed.source());
        }
    }
}
