//! Modules of JavaScript and TypeScript: after "Modules: Packages" and "ECMAScript modules" of the Node.js documentation, version 22, and
//! "Modules - Reference" of the TypeScript handbook.

use std::path::{Path, PathBuf};

use serde_json::Value;

use super::ModulesOf;
use super::file::at;
use super::package;
use crate::project::absolute;

/// Settings files of compilers that say where modules are.
const COMPILER_SETTINGS: &[&str] = &["tsconfig.json", "jsconfig.json"];

/// Settings that are built on others, no further than this.
const MOST_BASES: usize = 8;

/// Where a module is that is named by its place beside the file.
pub(super) fn place(from: &Path, module: &str) -> Option<PathBuf> {
    let is_beside = module.starts_with("./") || module.starts_with("../") || matches!(module, "." | "..");
    is_beside.then(|| from.parent().map(|folder| absolute(folder, Path::new(module))))?
}

pub(super) fn find(modules: &ModulesOf<'_>, from: &Path, module: &str) -> Option<PathBuf> {
    let folder = from.parent()?;
    if let Some(place) = place(from, module) {
        return at(modules, &place);
    }
    if module.starts_with('/') {
        return None;
    }
    by_paths(modules, folder, module).or_else(|| package::find(modules, folder, module))
}

/// By `paths` and `baseUrl` of the compiler settings nearest to the file.
fn by_paths(modules: &ModulesOf<'_>, folder: &Path, module: &str) -> Option<PathBuf> {
    let candidates = modules.upwards(folder).flat_map(|folder| COMPILER_SETTINGS.iter().map(|name| folder.join(name)));
    let settings = candidates.into_iter().find(|path| modules.is_file(path))?;
    let (base, paths) = paths_of(modules, &settings, 0)?;
    let mut best: Option<(usize, &str, &Value)> = None;
    for (pattern, targets) in paths.as_object().into_iter().flatten() {
        if let Some((weight, middle)) = package::fit(pattern, module)
            && best.is_none_or(|(known, _, _)| weight > known)
        {
            best = Some((weight, middle, targets));
        }
    }
    if let Some((_, middle, targets)) = best {
        let targets = targets.as_array()?.iter().filter_map(Value::as_str);
        let written = targets.map(|target| absolute(&base, Path::new(&target.replacen('*', middle, 1))));
        return written.into_iter().find_map(|path| at(modules, &path));
    }
    None
}

/// `paths`, and the folder that they start from.
fn paths_of(modules: &ModulesOf<'_>, path: &Path, depth: usize) -> Option<(PathBuf, Value)> {
    let settings = modules.settings(path)?;
    let folder = path.parent()?;
    let options = &settings["compilerOptions"];
    if options["paths"].is_object() {
        let base = options["baseUrl"].as_str().map_or(folder.to_path_buf(), |base| absolute(folder, Path::new(base)));
        return Some((base, options["paths"].clone()));
    }
    let base = settings["extends"].as_str().filter(|base| base.starts_with('.') && depth < MOST_BASES)?;
    let base = if base.ends_with(".json") { base.to_string() } else { format!("{base}.json") };
    paths_of(modules, &absolute(folder, Path::new(&base)), depth + 1)
}
