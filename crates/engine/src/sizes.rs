//! How large a code base is: lines of each sort, and how much of what others use is described.

use std::collections::BTreeMap;

use rayon::prelude::*;
use sieve_rules::Sizes;

use crate::discover;
use crate::settings::SettingsError;
use crate::sift::load;
use crate::sift::{Request, in_pool};

/// The sizes of every folder below a request's paths, by its shown path.
///
/// # Errors
/// When a settings file is wrong.
pub fn measure(request: &Request<'_>) -> Result<BTreeMap<String, Sizes>, SettingsError> {
    let discovery = discover::discover(request)?;
    let sizes: Vec<Option<(String, Sizes)>> = in_pool(request.threads, || {
        let measured = discovery.files.par_iter().map(|candidate| {
            let text = load::text(candidate, request.project).ok()?.ok()?;
            let tree = candidate.language.parse(&text);
            let sizes = Sizes::of(&candidate.shown, candidate.language, &text, &tree);
            Some((folder_of(&candidate.shown), sizes))
        });
        measured.collect()
    });
    let mut folders: BTreeMap<String, Sizes> = BTreeMap::new();
    for (folder, sizes) in sizes.into_iter().flatten() {
        folders.entry(folder).or_default().add(sizes);
    }
    Ok(folders)
}

/// The folder of a path as it is shown.
pub fn folder_of(path: &str) -> String {
    path.rsplit_once('/').map_or(".".to_string(), |(folder, _)| folder.to_string())
}
