//! JSON Schemas that settings name for the data in some paths.

use std::path::Path;
use std::sync::Arc;

use serde_json::Value as Json;
use sieve_meaning::data::Data;
use sieve_rules::schema::Schema;
use sieve_syntax::language::Language;
use xxhash_rust::xxh3::xxh3_128;

use super::file::{LoadedSchema, SettingsFile};
use super::{LARGEST, SettingsError};
use crate::files::Files;

/// Reads the schemas that a settings file names, from its folder.
///
/// # Errors
/// When one is not there, is no JSON, YAML or TOML, or is no schema.
pub(super) fn load(file: &mut SettingsFile, files: &dyn Files, root: &Path) -> Result<(), SettingsError> {
    let folder = file.folder().to_path_buf();
    for index in 0..file.schemas.len() {
        let entry = &file.schemas[index];
        let path = folder.join(&entry.path);
        match read(files, root, &path) {
            Ok(loaded) => file.schemas[index].loaded = Some(loaded),
            Err(message) => {
                let place = Some(file.text.place(entry.span.start));
                let message = format!("the schema {}: {message}", entry.path);
                return Err(SettingsError { path: file.path.clone(), place, message });
            }
        }
    }
    Ok(())
}

/// Reads one schema.
///
/// # Errors
/// In words: when it is not there, is no JSON, YAML or TOML, or is no schema.
pub(crate) fn read(files: &dyn Files, root: &Path, path: &Path) -> Result<LoadedSchema, String> {
    let name = path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
    language_of(&name)?;
    let bytes = files.read_within(root, path, LARGEST).map_err(|error| error.cause.to_string())?;
    let digest = xxh3_128(&bytes);
    let schema = Schema::new(&json(&name, bytes)?)?;
    Ok(LoadedSchema { schema: Arc::new(schema), path: path.to_path_buf(), digest })
}

/// The values of a file of JSON, YAML or TOML, which it is by its name.
///
/// # Errors
/// In words: when it is none of them, or is wrong.
pub(super) fn json(name: &str, bytes: Vec<u8>) -> Result<Json, String> {
    let language = language_of(name)?;
    let text = language.decode(bytes).map_err(|_| "it is not UTF-8".to_string())?;
    let tree = language.parse(&text);
    if let Some(fault) = tree.faults().first() {
        let place = text.place(fault.span.start);
        return Err(format!("line {}: {}", place.line, fault.problem));
    }
    let data = Data::of(language, &text, &tree);
    let value = data.root().ok_or_else(|| "it is empty".to_string())?;
    value.to_json(MOST).map_err(|error| error.to_string())
}

fn language_of(name: &str) -> Result<Language, String> {
    let language = Language::of_file_name(name).filter(|language| language.is_data());
    language.ok_or_else(|| "it is no file of JSON, YAML or TOML by its name".to_string())
}

/// The most values that a schema may have.
const MOST: usize = 1_000_000;
