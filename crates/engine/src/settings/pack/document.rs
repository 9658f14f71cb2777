//! Reads what a pack says of a kind of document: how one is recognised, and the schema that defines its parts.

use std::cell::RefCell;
use std::collections::BTreeMap;
use std::sync::Arc;

use sieve_rules::house::{DocumentError, DocumentKind};
use toml::Spanned;
use toml::de::DeValue;
use xxhash_rust::xxh3::xxh3_128;

use super::beside::Beside;
use crate::settings::reader::{Read, Reader};
use crate::settings::schemas;

/// The keys of a kind of document.
pub(crate) const KEYS: &[&str] = &["name", "schema", "when"];

/// Those that packs of one run describe, by their digests: several packs may describe the same one, and its schema is compiled once.
pub(super) type Kinds = RefCell<BTreeMap<u128, Arc<DocumentKind>>>;

/// Reads one.
pub(super) fn read(
    reader: &Reader<'_>,
    entry: &Spanned<DeValue<'_>>,
    beside: Beside<'_>,
    kinds: &Kinds,
) -> Read<Arc<DocumentKind>> {
    let (mut name, mut when, mut schema) = (None, None, None);
    for (key, value) in reader.table(entry, "document")? {
        match key.get_ref().as_ref() {
            "name" => name = Some(reader.string(value)?),
            "when" => when = Some((reader.string(value)?, value)),
            "schema" => schema = Some((reader.string(value)?, value)),
            _ => return reader.no_key(key, "a kind of document has no \"", KEYS),
        }
    }
    let (Some(name), Some((when, when_place)), Some((schema, schema_place))) = (name, when, schema) else {
        let message = "a kind of document needs `name`, `when` and `schema`".to_string();
        return Err(reader.error(entry.span(), message));
    };
    let wrong = |message: String| reader.error(schema_place.span(), format!("the schema {schema}: {message}"));
    let bytes = beside(schema).map_err(wrong)?;
    let digest = xxh3_128(format!("{name:?} {when:?} {schema:?} {:x}", xxh3_128(&bytes)).as_bytes());
    if let Some(known) = kinds.borrow().get(&digest) {
        return Ok(Arc::clone(known));
    }
    let json = schemas::json(schema, bytes).map_err(wrong)?;
    let kind = DocumentKind::new(name.to_string(), when, &json, digest).map(Arc::new).map_err(|error| match error {
        DocumentError::When(error) => reader.in_string(when_place, &error),
        DocumentError::Schema(message) => wrong(message),
    })?;
    kinds.borrow_mut().insert(digest, Arc::clone(&kind));
    Ok(kind)
}
