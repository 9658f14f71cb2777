//! What settings say of some paths: patterns, and schemas for what fits them.

use std::path::{Path, PathBuf};
use std::sync::Arc;

use sieve_rules::schema::Schema;

use super::file::{LoadedSchema, Patterns, SchemaEntry};
use crate::project::Project;

/// Patterns with the folder that they start from.
#[derive(Debug, Clone)]
pub struct PlacedPatterns {
    /// The folder of the settings file.
    pub folder: PathBuf,
    /// The patterns.
    pub patterns: Arc<Patterns>,
}

impl PlacedPatterns {
    pub(super) fn fit(&self, path: &Path) -> bool {
        path.strip_prefix(&self.folder).is_ok_and(|relative| {
            let relative = relative.to_string_lossy().replace('\\', "/");
            self.patterns.fit(&relative)
        })
    }

    /// The patterns as they are written.
    pub fn texts(&self) -> &[String] {
        &self.patterns.texts
    }
}

/// A schema in force for some files.
#[derive(Debug)]
pub struct PlacedSchema {
    /// The files.
    pub(super) paths: PlacedPatterns,
    /// What their values must satisfy.
    pub schema: Arc<Schema>,
    path: PathBuf,
    because: Option<String>,
    digest: u128,
}

impl PlacedSchema {
    /// An entry with its schema, for patterns that begin at a folder.
    pub(super) fn of(entry: &SchemaEntry, paths: PlacedPatterns) -> Option<PlacedSchema> {
        let LoadedSchema { schema, path, digest } = entry.loaded.clone()?;
        Some(PlacedSchema { paths, schema, path, because: entry.because.clone(), digest })
    }

    /// What to say of a value that is not as it must be.
    pub(crate) fn advice(&self, project: &Project) -> String {
        let says = format!("{} says what may be here", project.shown(&self.path));
        self.because.as_ref().map_or(says.clone(), |because| format!("{says}: {because}"))
    }

    /// All that decides over what it finds, as a text to be hashed.
    pub(super) fn fingerprint(&self) -> String {
        format!("{:?} {:?} {} {:032x}", self.paths.texts(), self.because, self.path.display(), self.digest)
    }
}
