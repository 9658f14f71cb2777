//! Changes of texts, as the protocol writes them.

use std::collections::HashMap;
use std::ops::Range;
use std::path::{Path, PathBuf};

use lsp_types::{
    CreateFile, CreateFileOptions, DocumentChangeOperation, DocumentChanges, OneOf,
    OptionalVersionedTextDocumentIdentifier, RenameFile, RenameFileOptions, ResourceOp, TextDocumentEdit, TextEdit,
    WorkspaceEdit,
};
use sieve_rules::Edit;
use sieve_syntax::text::{Span, Text};
use similar::{Algorithm, DiffOp, capture_diff_slices};

use super::position::Units;
use super::uri::uri_of;

/// Edits as the protocol writes them.
pub fn text_edits(text: &Text, edits: &[Edit], units: Units) -> Vec<TextEdit> {
    // An edit that changes nothing only keeps others from its place.
    let real = edits.iter().filter(|edit| !(edit.span.is_empty() && edit.text.is_empty()));
    real.map(|edit| TextEdit::new(units.range(text, edit.span), edit.text.to_string())).collect()
}

/// What makes one text into another, in pieces as small as lines that differ allow.
pub fn edits_between(old: &Text, new: &str) -> Vec<Edit> {
    let source = old.source();
    let (before, after) = (lines_of(source), lines_of(new));
    let ends = |lines: &[&str]| -> Vec<usize> {
        let mut end = 0;
        std::iter::once(0)
            .chain(lines.iter().map(|line| {
                end += line.len();
                end
            }))
            .collect()
    };
    let (old_at, new_at) = (ends(&before), ends(&after));
    let mut edits = Vec::new();
    for op in capture_diff_slices(Algorithm::Histogram, &before, &after) {
        let (old_lines, new_lines) = (op.old_range(), op.new_range());
        let mut add = |old: Range<usize>, of_new: Range<usize>| {
            let old = Span::new(old_at[old.start] as u32, old_at[old.end] as u32);
            edits.push(narrowed(source, old, &new[new_at[of_new.start]..new_at[of_new.end]]));
        };
        match op {
            DiffOp::Equal { .. } => {}
            // As many lines as before: most likely each is still the same line.
            _ if old_lines.len() == new_lines.len() => {
                old_lines.zip(new_lines).for_each(|(old, new)| add(old..old + 1, new..new + 1));
            }
            _ => add(old_lines, new_lines),
        }
    }
    edits
}

fn lines_of(source: &str) -> Vec<&str> {
    source.split_inclusive('\n').collect()
}

/// An edit without what is the same at its beginning and its end.
fn narrowed(source: &str, span: Span, new: &str) -> Edit {
    let old = &source[span.range()];
    let same = old.char_indices().zip(new.chars()).find(|((_, one), other)| one != other);
    let start = same.map_or(old.len().min(new.len()), |((at, _), _)| at);
    let (old, rest) = (&old[start..], &new[start..]);
    let backwards = old.chars().rev().zip(rest.chars().rev()).take_while(|(one, other)| one == other);
    let end: usize = backwards.map(|(one, _)| one.len_utf8()).sum();
    let start = span.start + start as u32;
    Edit::replace(Span::new(start, span.end - end as u32), rest[..rest.len() - end].to_string())
}

/// Changes of several files.
#[derive(Debug, Default)]
pub struct Changes {
    files: Vec<Change>,
}

#[derive(Debug)]
struct Change {
    path: PathBuf,
    version: Option<i32>,
    is_new: bool,
    edits: Vec<TextEdit>,
    moved_to: Option<PathBuf>,
}

impl Changes {
    /// Adds the edits of a file; its version, if it is open.
    pub fn add(&mut self, path: &Path, version: Option<i32>, edits: Vec<TextEdit>) {
        self.files.push(Change { path: path.to_path_buf(), version, is_new: false, edits, moved_to: None });
    }

    /// Adds a file that is not there yet.
    pub fn create(&mut self, path: &Path, edits: Vec<TextEdit>) {
        self.files.push(Change { path: path.to_path_buf(), version: None, is_new: true, edits, moved_to: None });
    }

    /// Gives the file that was added last another name, after its edits.
    pub fn move_last(&mut self, to: &Path) {
        if let Some(last) = self.files.last_mut() {
            last.moved_to = Some(to.to_path_buf());
        }
    }

    /// In the form that the client understands: with versions, if it does.
    pub fn into_edit(self, with_versions: bool) -> WorkspaceEdit {
        if !with_versions {
            let files = self.files.into_iter().map(|change| (uri_of(&change.path), change.edits));
            return WorkspaceEdit::new(files.collect::<HashMap<_, _>>());
        }
        let mut operations = Vec::new();
        for change in self.files {
            let uri = uri_of(&change.path);
            if change.is_new {
                let options = CreateFileOptions { overwrite: Some(false), ignore_if_exists: Some(true) };
                let create = CreateFile { uri: uri.clone(), options: Some(options), annotation_id: None };
                operations.push(DocumentChangeOperation::Op(ResourceOp::Create(create)));
            }
            operations.push(DocumentChangeOperation::Edit(TextDocumentEdit {
                text_document: OptionalVersionedTextDocumentIdentifier { uri: uri.clone(), version: change.version },
                edits: change.edits.into_iter().map(OneOf::Left).collect(),
            }));
            if let Some(to) = change.moved_to {
                let options = RenameFileOptions { overwrite: Some(false), ignore_if_exists: Some(false) };
                let rename =
                    RenameFile { old_uri: uri, new_uri: uri_of(&to), options: Some(options), annotation_id: None };
                operations.push(DocumentChangeOperation::Op(ResourceOp::Rename(rename)));
            }
        }
        WorkspaceEdit { document_changes: Some(DocumentChanges::Operations(operations)), ..WorkspaceEdit::default() }
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;
    use sieve_engine::fix::apply_edits;

    use super::*;

    fn applied(old: &str, new: &str) -> (String, Vec<Edit>) {
        let edits = edits_between(&Text::new(old.into()), new);
        (apply_edits(old, &edits.iter().collect::<Vec<_>>()), edits)
    }

    #[test]
    fn edits_are_small() {
        let (_, edits) = applied("import os\nx = 1 \ny = 2\n", "x = 1\ny = 2\n");
        let spans: Vec<Span> = edits.iter().map(|edit| edit.span).collect();
        assert!(spans.iter().all(|span| span.end <= 16), "{edits:?}");
        assert_eq!(applied("low é\n", "low è\n").1, [Edit::replace(Span::new(4, 6), "è")]);
    }

    proptest! {
        #[test]
        fn the_edits_make_the_one_text_into_the_other(old in "([aéb] ?|\n|\r\n){0,20}", new in "([aéb] ?|\n|\r\n){0,20}") {
            prop_assert_eq!(applied(&old, &new).0, new);
        }
    }
}
