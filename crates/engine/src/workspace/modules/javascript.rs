//! Modules of JavaScript and TypeScript: after "Modules: Packages" and "ECMAScript modules" of the Node.js documentation, version 22, and
//! "Modules - Reference" of the TypeScript handbook.

use std::path::{Path, PathBuf};

use serde_json::Value;

use super::ModulesOf;
use super::package;
use crate::project::absolute;

/// Endings that an import may leave out, the ones that say most first.
const ENDINGS: &[&str] = &["ts", "tsx", "mts", "cts", "js", "jsx", "mjs", "cjs"];

/// Settings files of compilers that say where modules are.
const COMPILER_SETTINGS: &[&str] = &["tsconfig.json", "jsconfig.json"];

/// Settings that are built on others, no further than this.
const MOST_BASES: usize = 8;

pub(super) fn find(modules: &ModulesOf<'_>, from: &Path, module: &str) -> Option<PathBuf> {
    let folder = from.parent()?;
    if module.starts_with("./") || module.starts_with("../") || matches!(module, "." | "..") {
        return at(modules, &absolute(folder, Path::new(module)));
    }
    if module.starts_with('/') {
        return None;
    }
    by_paths(modules, folder, module).or_else(|| package::find(modules, folder, module))
}

/// The file at a path: as it is written, with an ending, as the source of what will be compiled to it, or the index of a folder.
pub(super) fn at(modules: &ModulesOf<'_>, path: &Path) -> Option<PathBuf> {
    let name = path.file_name()?.to_str()?;
    if modules.is_file(path) {
        return Some(path.to_path_buf());
    }
    for (compiled, sources) in
        [("js", ["ts", "tsx"]), ("jsx", ["tsx", "ts"]), ("mjs", ["mts", "ts"]), ("cjs", ["cts", "ts"])]
    {
        if let Some(stem) = name.strip_suffix(&format!(".{compiled}")) {
            let found = sources.iter().map(|ending| path.with_file_name(format!("{stem}.{ending}")));
            if let Some(found) = found.into_iter().find(|path| modules.is_file(path)) {
                return Some(found);
            }
        }
    }
    // A declaration file tells of what is elsewhere: the one that it describes is not known.
    if modules.is_file(&path.with_file_name(format!("{name}.d.ts"))) {
        return None;
    }
    let with_ending = ENDINGS.iter().map(|ending| path.with_file_name(format!("{name}.{ending}")));
    let index = ENDINGS.iter().map(|ending| path.join(format!("index.{ending}")));
    with_ending.chain(index).find(|path| modules.is_file(path))
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
