//! What the parts of a pack are read with: the files beside it, and places in its strings.

use sieve_rules::query::QueryError;
use toml::Spanned;
use toml::de::DeValue;

use crate::settings::SettingsError;
use crate::settings::reader::Reader;

/// Reads a file beside a pack.
pub(super) type Beside<'l> = &'l dyn Fn(&str) -> Result<Vec<u8>, String>;

impl Reader<'_> {
    /// An error in a string, at its place in the file where the string is written as it is.
    pub(super) fn in_string(&self, value: &Spanned<DeValue<'_>>, error: &QueryError) -> SettingsError {
        let written = &self.text.source()[value.span()];
        let place = value.get_ref().as_str().and_then(|text| Some(value.span().start + written.find(text)?));
        let range = |start: usize| start + error.place.start..start + error.place.end;
        self.error(place.map_or(value.span(), range), error.to_string())
    }
}
