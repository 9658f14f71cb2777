//! Reads a file that is to be sifted or fixed, unless it is to be left out.

use std::path::PathBuf;

use sieve_syntax::text::Text;

use crate::files::FileError;
use crate::outcome::LeftOut;
use crate::project::Project;
use crate::workspace::discover::{Candidate, is_packed, says_generated};

/// The bytes of a file.
///
/// # Errors
/// When it cannot be read; the error names it as it is shown.
pub(crate) fn bytes_of(candidate: &Candidate, project: &Project) -> Result<Result<Vec<u8>, LeftOut>, FileError> {
    if !candidate.named && project.files.size(&candidate.path) > candidate.settings.largest.value {
        return Ok(Err(LeftOut::TooLarge));
    }
    project.files.read(&candidate.path, u64::MAX).map(Ok).map_err(|mut error| {
        error.path = PathBuf::from(&*candidate.shown);
        error
    })
}

/// The text of a file, unless it is to be left out.
///
/// # Errors
/// When it cannot be read; the error names it as it is shown.
pub(crate) fn text(candidate: &Candidate, project: &Project) -> Result<Result<Text, LeftOut>, FileError> {
    Ok(bytes_of(candidate, project)?.and_then(|bytes| text_of(candidate, bytes)))
}

/// The text of a file, unless its bytes are no text or say that a program made them.
pub(crate) fn text_of(candidate: &Candidate, bytes: Vec<u8>) -> Result<Text, LeftOut> {
    let text = candidate.language.decode(bytes).map_err(|_| LeftOut::NotUtf8)?;
    if candidate.language.is_foreign(text.source()) {
        return Err(LeftOut::OtherDialect);
    }
    let made = says_generated(text.source()) || is_packed(candidate.language, &text);
    if !candidate.named && made { Err(LeftOut::Generated) } else { Ok(text) }
}
