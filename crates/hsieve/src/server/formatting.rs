//! Layout, and other exact fixes of a text as a whole.

use std::path::Path;

use lsp_types::{DocumentFormattingParams, DocumentRangeFormattingParams, TextEdit};
use sieve_rules::{Concern, Edit, RuleId, RuleSet};

use super::edits::{edits_between, text_edits};
use super::session::{Session, file_of};
use super::wire::Fault;

impl Session {
    /// The layout of a whole text.
    pub(super) fn format(&mut self, params: &DocumentFormattingParams) -> Result<Vec<TextEdit>, Fault> {
        let path = file_of(&params.text_document.uri)?;
        let edits = self.layout(&path)?;
        let Some(document) = self.documents.get(&path) else { return Ok(Vec::new()) };
        Ok(text_edits(&document.text, &edits, self.able.units))
    }

    /// That of the lines of a range.
    pub(super) fn format_range(&mut self, params: &DocumentRangeFormattingParams) -> Result<Vec<TextEdit>, Fault> {
        let path = file_of(&params.text_document.uri)?;
        let mut edits = self.layout(&path)?;
        let Some(document) = self.documents.get(&path) else { return Ok(Vec::new()) };
        let span = self.able.units.span(&document.text, params.range);
        edits.retain(|edit| edit.span.start >= span.start && edit.span.end <= span.end);
        Ok(text_edits(&document.text, &edits, self.able.units))
    }

    fn layout(&mut self, path: &Path) -> Result<Vec<Edit>, Fault> {
        let rules = self.rules_of(path)?;
        self.fixing_edits(path, &of_layout(&rules))
    }

    /// The edits of the exact fixes in a text, of some rules alone if any are named.
    pub(super) fn fixing_edits(&mut self, path: &Path, only: &[RuleId]) -> Result<Vec<Edit>, Fault> {
        let index = self.folder_of(path);
        let fixed = self.folders[index].near.fixed(path, only);
        let fixed = fixed.map_err(|error| Fault::new(Fault::FAILED, error.to_string()))?;
        let Some((document, fixed)) = self.documents.get(path).zip(fixed) else { return Ok(Vec::new()) };
        // In another encoding the fixed bytes are another text.
        let is_same = fixed.before == document.text.source().as_bytes() || fixed.before == document.bytes();
        Ok(if is_same { edits_between(&document.text, &fixed.fixed.source) } else { Vec::new() })
    }
}

/// The rules of layout.
fn of_layout(rules: &RuleSet) -> Vec<RuleId> {
    rules.iter().filter(|(_, rule)| rule.concern == Concern::Layout).map(|(id, _)| id).collect()
}
