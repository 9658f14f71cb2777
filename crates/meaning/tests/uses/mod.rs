//! The uses of names in a source, as tests show them.

use sieve_meaning::names::Resolution;
use sieve_meaning::names_of;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

/// A source without faults.
pub fn parsed(language: Language, source: &str) -> (Text, Tree) {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "{source}: {:?}", tree.faults());
    (text, tree)
}

/// Each use of a name with the line on which the name is declared: `tide:4`, `tide:-` where nothing in the file declares it, `tide:4?`
/// where it may mean something else.
pub fn shown(language: Language, source: &str) -> Vec<String> {
    let (text, tree) = parsed(language, source);
    let names = names_of(language, &text, &tree);
    let line = |node| text.place(tree.node(node).span().start).line;
    let shown = names.references().map(|reference| {
        let declared = match reference.resolution {
            Resolution::Binding(id) => line(names.binding(id).declarations[0].node).to_string(),
            Resolution::Builtin => "builtin".to_string(),
            _ => "-".to_string(),
        };
        let doubt = if reference.is_doubtful { "?" } else { "" };
        format!("{}:{declared}{doubt}", names.text(reference.name))
    });
    shown.collect()
}
