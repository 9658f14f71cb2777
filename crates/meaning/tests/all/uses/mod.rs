//! What tests of names share: the uses in a source, as they are shown, and the files of a corpus.

use std::path::{Path, PathBuf};

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

/// The files below a folder, in the order of their paths.
pub fn files_below(folder: &Path) -> Vec<PathBuf> {
    let entries = std::fs::read_dir(folder).into_iter().flatten().flatten().map(|entry| entry.path());
    let below = entries.map(|path| if path.is_dir() { files_below(&path) } else { vec![path] });
    let mut found: Vec<PathBuf> = below.flatten().collect();
    found.sort();
    found
}

/// A file in a folder that lists others, one a line, as the references read it.
#[allow(dead_code, reason = "not every test has a reference that reads a list")]
pub fn list_in(folder: &Path, files: &[PathBuf]) -> PathBuf {
    let list = folder.join("list");
    let lines: Vec<String> = files.iter().map(|file| file.display().to_string()).collect();
    std::fs::write(&list, lines.join("\n")).expect("written");
    list
}
