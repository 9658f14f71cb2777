//! New names, in all files.

use std::path::Path;

use lsp_types::{PrepareRenameResponse, RenameParams, TextDocumentPositionParams, WorkspaceEdit};
use sieve_engine::rename::RenameRequest;
use sieve_rules::traits_of;
use sieve_syntax::language::views;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{TokenKind, Tree};

use super::actions::language_of;
use super::edits::{Changes, edits_between, text_edits};
use super::session::{Session, file_of};
use super::wire::Fault;

impl Session {
    /// The name at a position.
    pub(super) fn prepare_rename(
        &mut self,
        params: &TextDocumentPositionParams,
    ) -> Result<Option<PrepareRenameResponse>, Fault> {
        let path = file_of(&params.text_document.uri)?;
        let Some(document) = self.documents.get(&path) else { return Ok(None) };
        let offset = self.able.units.offset(&document.text, params.position);
        let Some(span) = name_at(&path, &document.text, offset) else { return Ok(None) };
        Ok(Some(PrepareRenameResponse::RangeWithPlaceholder {
            range: self.able.units.range(&document.text, span),
            placeholder: document.text.slice(span).to_string(),
        }))
    }

    /// The edits that give a name another one; refused with reasons where a use cannot be known.
    pub(super) fn rename(&mut self, params: &RenameParams) -> Result<Option<WorkspaceEdit>, Fault> {
        let at = &params.text_document_position;
        let path = file_of(&at.text_document.uri)?;
        let index = self.folder_of(&path);
        let Some(document) = self.documents.get(&path) else { return Ok(None) };
        let offset = self.able.units.offset(&document.text, at.position);
        let start = name_at(&path, &document.text, offset).map_or(offset, |span| span.start);
        let asked = RenameRequest {
            path: &path,
            place: document.text.place(start),
            new: &params.new_name,
            all_members: false,
            family: false,
            mentions: false,
            with_file: false,
        };
        let plan = self.folders[index].near.renamed(&asked);
        let plan = plan.map_err(|error| Fault::new(Fault::FAILED, format!("nothing was renamed: {error}")))?;
        let mut changes = Changes::default();
        for file in &plan.files {
            let (before, after) = texts(&file.path, &file.before, &file.after)
                .ok_or_else(|| Fault::new(Fault::FAILED, format!("{} cannot be decoded", file.shown)))?;
            let version = self.documents.get(&file.path).map(|document| document.version);
            let edits = edits_between(&before, &after);
            changes.add(&file.path, version, text_edits(&before, &edits, self.able.units));
            match &file.moved_to {
                Some(to) if self.able.moves_files => changes.move_last(to),
                Some(_) => {
                    let why =
                        "the file would get another name, too, and the editor does not do that; `hsieve rename` does";
                    return Err(Fault::new(Fault::FAILED, format!("nothing was renamed: {}: {why}", file.shown)));
                }
                None => {}
            }
        }
        Ok(Some(changes.into_edit(self.able.document_changes || self.able.moves_files)))
    }
}

/// The texts of a file before and after.
fn texts(path: &Path, before: &[u8], after: &[u8]) -> Option<(Text, String)> {
    let start = String::from_utf8_lossy(&before[..before.len().min(256)]);
    let language = language_of(path, &start)?;
    let decode = |bytes: &[u8]| language.decode(bytes.to_vec()).ok();
    Some((decode(before)?, decode(after)?.source().to_string()))
}

/// The name that an offset is in or at the end of; in a page, one in what it holds in other languages.
fn name_at(path: &Path, text: &Text, offset: u32) -> Option<Span> {
    let language = language_of(path, text.source())?;
    let tree = language.parse(text);
    let layers = language.layers(text, &tree);
    let own = usize::from(traits_of(language).is_page);
    views(language, &tree, &layers).skip(own).find_map(|(_, tree)| name_in(tree, text, offset))
}

fn name_in(tree: &Tree, text: &Text, offset: u32) -> Option<Span> {
    let around = Span::new(offset.saturating_sub(1), (offset + 1).min(text.source().len() as u32));
    let tokens = tree.tokens_in(around).map(|token| (tree.token_kind(token), tree.token_span(token)));
    let mut names =
        tokens.filter(|(kind, span)| *kind == TokenKind::Name && span.start <= offset && offset <= span.end);
    names.next().map(|(_, span)| span)
}
