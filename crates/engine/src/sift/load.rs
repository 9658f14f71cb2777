//! Reads a file that is to be sifted or fixed, unless it is to be left out.

use std::path::PathBuf;

use sieve_syntax::text::Text;

use crate::discover::{Candidate, is_packed, says_generated};
use crate::files::{self, FileError};
use crate::git::Changes;
use crate::outcome::LeftOut;

/// The bytes of a file: those that are staged, where only they count.
///
/// # Errors
/// When it cannot be read; the error names it as it is shown.
pub(crate) fn bytes_of(
    candidate: &Candidate,
    changes: Option<&Changes>,
) -> Result<Result<Vec<u8>, LeftOut>, FileError> {
    let given = changes.and_then(|changes| changes.of(&candidate.path)).and_then(|file| file.content.clone());
    let size = match &given {
        Some(bytes) => bytes.len() as u64,
        None => std::fs::metadata(&candidate.path).map_or(0, |file| file.len()),
    };
    if !candidate.named && size > candidate.settings.largest.value {
        return Ok(Err(LeftOut::TooLarge));
    }
    match given {
        Some(bytes) => Ok(Ok(bytes)),
        None => files::read(&candidate.path).map(Ok).map_err(|mut error| {
            error.path = PathBuf::from(&*candidate.shown);
            error
        }),
    }
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
