//! What reading a settings file takes: its text, and errors with places in it.

use std::cell::RefCell;
use std::ops::Range;
use std::path::Path;

use sieve_rules::RuleSet;
use sieve_syntax::text::{Place, Text};
use toml::Spanned;

use super::SettingsError;
use super::error::nearest;
use super::file::{OldName, Placed};

pub(super) type Read<T> = Result<T, SettingsError>;

/// Turns places in the text into errors.
pub(super) struct Reader<'s> {
    pub(super) path: &'s Path,
    pub(super) text: &'s Text,
    /// The rules that it may mention.
    pub(super) rules: &'s RuleSet,
    pub(super) old_names: RefCell<Vec<OldName>>,
}

impl Reader<'_> {
    pub(super) fn syntax_error(&self, error: &toml::de::Error) -> SettingsError {
        let message = format!("this is not TOML: {}", error.message().replace('\n', ", "));
        self.error(error.span().unwrap_or(0..0), message)
    }

    pub(super) fn error(&self, span: Range<usize>, message: String) -> SettingsError {
        SettingsError { path: self.path.to_path_buf(), place: Some(self.place(&span)), message }
    }

    pub(super) fn place(&self, span: &Range<usize>) -> Place {
        self.text.place(span.start as u32)
    }

    pub(super) fn line(&self, span: &Range<usize>) -> u32 {
        self.place(span).line
    }

    pub(super) fn placed<T>(&self, key: &Spanned<impl Sized>, value: T) -> Placed<T> {
        Placed { value, line: self.line(&key.span()) }
    }

    /// The complaint about a key that a table does not have. `what` ends in a space, or in `"table.`.
    pub(super) fn no_key<T>(&self, key: &Spanned<impl AsRef<str>>, what: &str, names: &[&str]) -> Read<T> {
        let name = key.get_ref().as_ref();
        let hint = nearest(name, names.iter().copied());
        Err(self.error(key.span(), format!("{what}{name}\"{hint}")))
    }
}

/// A settings file's byte-order mark, if it has one, and the text after it, from which all places count.
pub(crate) fn split_mark(source: &str) -> (&str, &str) {
    source.split_at(source.len() - source.trim_start_matches('\u{feff}').len())
}
