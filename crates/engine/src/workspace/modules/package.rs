//! Packages within the project: workspaces, a package's own name, and what its `exports` and `imports` say.

use std::ffi::OsStr;
use std::path::{Path, PathBuf};

use serde_json::Value;

use super::ModulesOf;
use super::file::at;
use crate::files::EntryKind;
use crate::project::absolute;

/// Conditions of `exports`, the one that source code means first.
const CONDITIONS: &[&str] = &["source", "import", "module", "default", "require", "node"];

/// A package of the project by the name that is imported: `@ferry/tides/table` is `./table` of `@ferry/tides`.
pub(super) fn find(modules: &ModulesOf<'_>, folder: &Path, module: &str) -> Option<PathBuf> {
    if module.starts_with('#') {
        let (own, settings) = nearest(modules, folder)?;
        return target(modules, &own, &settings["imports"], module);
    }
    let slashes = if module.starts_with('@') { 2 } else { 1 };
    let name_end = module.match_indices('/').nth(slashes - 1).map_or(module.len(), |(at, _)| at);
    let (name, rest) = module.split_at(name_end);
    let package = named(modules, folder, name)?;
    let settings = modules.settings(&package.join("package.json"))?;
    let inner = format!(".{rest}");
    match &settings["exports"] {
        Value::Null if rest.is_empty() => {
            let main = ["source", "module", "main"].iter().find_map(|key| settings[*key].as_str()).unwrap_or("index");
            at(modules, &absolute(&package, Path::new(main)))
        }
        Value::Null => at(modules, &absolute(&package, Path::new(&inner))),
        exports => target(modules, &package, exports, &inner),
    }
}

/// The nearest package around a folder.
fn nearest(modules: &ModulesOf<'_>, folder: &Path) -> Option<(PathBuf, std::sync::Arc<Value>)> {
    let own = modules.upwards(folder).find(|folder| modules.is_file(&folder.join("package.json")))?;
    Some((own.to_path_buf(), modules.settings(&own.join("package.json"))?))
}

/// The folder of the package with a name: the one around the file, or one of the workspaces around that.
fn named(modules: &ModulesOf<'_>, folder: &Path, name: &str) -> Option<PathBuf> {
    for outer in modules.upwards(folder) {
        let path = outer.join("package.json");
        if !modules.is_file(&path) {
            continue;
        }
        let settings = modules.settings(&path)?;
        if settings["name"].as_str() == Some(name) {
            return Some(outer.to_path_buf());
        }
        let listed = if settings["workspaces"].is_array() {
            &settings["workspaces"]
        } else {
            &settings["workspaces"]["packages"]
        };
        let patterns = listed.as_array().into_iter().flatten().filter_map(Value::as_str);
        let found = patterns.flat_map(|pattern| folders(modules, outer, pattern)).find(|folder| {
            let path = folder.join("package.json");
            modules.is_file(&path) && modules.settings(&path).is_some_and(|found| found["name"].as_str() == Some(name))
        });
        if found.is_some() {
            return found;
        }
    }
    None
}

/// The folders that a pattern of workspaces names: a path, or all folders in one.
fn folders(modules: &ModulesOf<'_>, outer: &Path, pattern: &str) -> Vec<PathBuf> {
    let pattern = pattern.trim_start_matches("./").trim_end_matches('/');
    let Some(holder) = pattern.strip_suffix("/*") else { return vec![absolute(outer, Path::new(pattern))] };
    let holder = absolute(outer, Path::new(holder));
    let Some(listing) = modules.listing(&holder) else { return Vec::new() };
    let is_folder = |name: &OsStr, kind: EntryKind| match kind {
        EntryKind::Folder => true,
        EntryKind::Link => modules.files().is_folder(&holder.join(name)),
        EntryKind::File | EntryKind::Other => false,
    };
    let inner = listing.entries().filter(|(name, kind)| is_folder(name, *kind));
    let mut found: Vec<PathBuf> = inner.map(|(name, _)| holder.join(name)).collect();
    found.sort();
    found
}

/// What `exports` or `imports` map a path to.
fn target(modules: &ModulesOf<'_>, package: &Path, map: &Value, wanted: &str) -> Option<PathBuf> {
    let (value, middle) = match map {
        Value::Object(entries) if entries.keys().any(|key| key.starts_with(['.', '#'])) => entry(entries, wanted)?,
        whole if wanted == "." => (whole, ""),
        _ => return None,
    };
    let written = by_condition(value)?;
    at(modules, &absolute(package, Path::new(&written.replacen('*', middle, 1))))
}

fn entry<'v>(entries: &'v serde_json::Map<String, Value>, wanted: &'v str) -> Option<(&'v Value, &'v str)> {
    entries
        .iter()
        .filter_map(|(pattern, value)| fit(pattern, wanted).map(|(weight, middle)| (weight, value, middle)))
        .max_by_key(|(weight, _, _)| *weight)
        .map(|(_, value, middle)| (value, middle))
}

/// Whether a pattern with at most one star fits a name: how much it says of it, and what the star represents.
pub(super) fn fit<'n>(pattern: &str, name: &'n str) -> Option<(usize, &'n str)> {
    match pattern.split_once('*') {
        None => (pattern == name).then_some((usize::MAX, "")),
        Some((head, tail)) => Some((head.len(), name.strip_prefix(head)?.strip_suffix(tail)?)),
    }
}

fn by_condition(value: &Value) -> Option<&str> {
    match value {
        Value::String(path) => Some(path),
        Value::Array(several) => several.iter().find_map(by_condition),
        Value::Object(conditions) => {
            CONDITIONS.iter().filter_map(|condition| conditions.get(*condition)).find_map(by_condition)
        }
        _ => None,
    }
}
