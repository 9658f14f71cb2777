//! Python's modules: after chapter 5, "The import system", of the Python Language Reference 3.14, with the folders that a project's
//! programs and tests are usually run from.

use std::path::{Path, PathBuf};

use sieve_meaning::python_library;

use super::ModulesOf;

pub(super) fn find(modules: &ModulesOf<'_>, from: &Path, module: &str) -> Option<PathBuf> {
    let dots = module.len() - module.trim_start_matches('.').len();
    let names: Vec<&str> = module[dots..].split('.').map(str::trim).filter(|name| !name.is_empty()).collect();
    let folder = from.parent()?;
    if dots > 0 {
        let base = folder.ancestors().nth(dots - 1)?;
        return in_folder(modules, base, &names);
    }
    let first = *names.first()?;
    // A module of the project with such a name may or may not be the one that is meant.
    if python_library::has(first) {
        return None;
    }
    let mut found: Option<PathBuf> = None;
    for root in roots(modules, folder) {
        let Some(path) = in_folder(modules, &root, &names) else { continue };
        match &found {
            Some(known) if *known != path => return None,
            _ => found = Some(path),
        }
    }
    found
}

/// A module below a folder: a package's own file comes before a file of that name.
fn in_folder(modules: &ModulesOf<'_>, folder: &Path, names: &[&str]) -> Option<PathBuf> {
    let base = names.iter().fold(folder.to_path_buf(), |path, name| path.join(name));
    let package = base.join("__init__.py");
    if modules.is_file(&package) {
        return Some(package);
    }
    let file = base.with_file_name(format!("{}.py", names.last()?));
    modules.is_file(&file).then_some(file)
}

/// The folders in which absolute names are looked for: around the outermost package that holds the file, the file's own if it
/// belongs to no package, and those at the top of the project.
fn roots(modules: &ModulesOf<'_>, folder: &Path) -> Vec<PathBuf> {
    let outside = modules.upwards(folder).find(|folder| !modules.is_file(&folder.join("__init__.py")));
    let mut roots: Vec<PathBuf> = outside.into_iter().map(Path::to_path_buf).collect();
    for root in [modules.root().to_path_buf(), modules.root().join("src")] {
        if !roots.contains(&root) {
            roots.push(root);
        }
    }
    roots
}
