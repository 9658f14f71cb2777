//! Texts that are open in the editor.

use std::path::PathBuf;

use lsp_types::{TextDocumentContentChangeEvent, Uri};
use sieve_engine::discover::of_name;
use sieve_engine::outcome::Finding;
use sieve_syntax::text::{Encoding, Span, Text};

use super::position::Units;

/// A text as the editor has it.
#[derive(Debug)]
pub struct Document {
    /// As the client names it.
    pub uri: Uri,
    /// Its file, absolute.
    pub path: PathBuf,
    /// Its version, as the client counts.
    pub version: i32,
    /// The text.
    pub text: Text,
    /// What the last look at everything found here that no look at this file alone can find, moved along with the text.
    pub over_files: Vec<Finding>,
}

impl Document {
    /// Takes changes over, each on top of the one before.
    pub fn change(&mut self, version: i32, changes: Vec<TextDocumentContentChangeEvent>, units: Units) {
        for change in changes {
            let old = self.text.source();
            let span = match change.range {
                Some(range) => units.span(&self.text, range),
                None => Span::new(0, old.len() as u32),
            };
            let mut source = String::with_capacity(old.len() + change.text.len());
            source.push_str(&old[..span.start as usize]);
            source.push_str(&change.text);
            source.push_str(&old[span.end as usize..]);
            self.move_along(span, change.text.len() as i64 - i64::from(span.len()));
            self.text = Text::new(source);
        }
        self.version = version;
    }

    /// Moves what is behind a change; what it touches is dropped.
    fn move_along(&mut self, changed: Span, longer: i64) {
        self.over_files.retain_mut(|finding| {
            let span = &mut finding.span;
            if changed.start >= span.end {
                return true;
            }
            let at = |offset: u32| (i64::from(offset) + longer) as u32;
            let is_behind = changed.end <= span.start;
            if is_behind {
                *span = Span::new(at(span.start), at(span.end));
            }
            is_behind
        });
    }

    /// The bytes that a file with this text would have.
    pub fn bytes(&self) -> Vec<u8> {
        let source = self.text.source();
        let language = of_name(&self.path).filter(|_| !source.is_ascii());
        let named = language.and_then(|language| language.encoding_named_in(source.as_bytes()));
        let encoding = named.unwrap_or(Encoding::Utf8);
        encoding.encode(source).unwrap_or_else(|| source.as_bytes().to_vec())
    }
}

#[cfg(test)]
mod tests {
    use lsp_types::{Position, Range};

    use super::*;

    fn document(path: &str, source: &str) -> Document {
        let uri = format!("file://{path}").parse().expect("a URI");
        Document { uri, path: path.into(), version: 1, text: Text::new(source.into()), over_files: Vec::new() }
    }

    fn change(range: Option<((u32, u32), (u32, u32))>, text: &str) -> TextDocumentContentChangeEvent {
        let position = |(line, character)| Position::new(line, character);
        let range = range.map(|(start, end)| Range::new(position(start), position(end)));
        TextDocumentContentChangeEvent { range, range_length: None, text: text.into() }
    }

    #[test]
    fn changes_come_on_top_of_each_other() {
        let mut document = document("/a.py", "low\r\n🚢 high\n");
        let changes = vec![
            change(Some(((1, 3), (1, 7))), "tide"),
            change(Some(((0, 3), (1, 0))), ""),
            change(Some(((9, 0), (9, 0))), "end"),
        ];
        document.change(2, changes, Units::Utf16);
        assert_eq!((document.text.source(), document.version), ("low🚢 tide\nend", 2));
        document.change(3, vec![change(None, "new")], Units::Utf16);
        assert_eq!(document.text.source(), "new");
    }

    #[test]
    fn a_text_has_the_bytes_that_its_file_would_have() {
        let declared = "# -*- coding: latin-1 -*-\nx = 'é'\n";
        assert!(document("/a.py", declared).bytes().ends_with(b"x = '\xe9'\n"));
        assert_eq!(document("/a.sh", "é\n").bytes(), "é\n".as_bytes());
    }
}
