//! Python's modules: after chapter 5, "The import system", of the Python Language Reference 3.14, with the folders that a project's
//! programs and tests are usually run from.

use std::path::{Path, PathBuf};
use std::rc::Rc;

use sieve_meaning::python_library;

use super::ModulesOf;

/// Where a module is that is named by its place beside the file, without an ending.
pub(super) fn place(from: &Path, module: &str) -> Option<PathBuf> {
    let (base, names) = beside(from, module)?;
    (!names.is_empty()).then(|| names.iter().fold(base.to_path_buf(), |path, name| path.join(name)))
}

/// The folder that the dots before a name mean, and the names after them.
fn beside<'a>(from: &'a Path, module: &'a str) -> Option<(&'a Path, Vec<&'a str>)> {
    let after = module.trim_start_matches('.');
    let up = (module.len() - after.len()).checked_sub(1)?;
    Some((from.parent()?.ancestors().nth(up)?, names_of(after)))
}

fn names_of(module: &str) -> Vec<&str> {
    module.split('.').map(str::trim).filter(|name| !name.is_empty()).collect()
}

pub(super) fn find(modules: &ModulesOf<'_>, from: &Path, module: &str) -> Option<PathBuf> {
    if module.starts_with('.') {
        let (base, names) = beside(from, module)?;
        return in_folder(modules, base, &names);
    }
    let folder = from.parent()?;
    let names: Vec<&str> = names_of(module);
    let first = *names.first()?;
    // A module of the project with such a name may or may not be the one that is meant.
    if python_library::has(first) {
        return None;
    }
    let mut found: Option<PathBuf> = None;
    let roots = Rc::clone(
        modules.roots.borrow_mut().entry(folder.to_path_buf()).or_insert_with(|| roots(modules, folder).into()),
    );
    for root in roots.iter() {
        let Some(path) = in_folder(modules, root, &names) else { continue };
        match &found {
            Some(known) if *known != path => return None,
            _ => found = Some(path),
        }
    }
    found
}

/// A module below a folder: a package's own file comes before a file of that name.
fn in_folder(modules: &ModulesOf<'_>, folder: &Path, names: &[&str]) -> Option<PathBuf> {
    // Most names are those of modules elsewhere, which one look at the folder tells.
    if names.first().is_some_and(|first| !holds(modules, folder, first)) {
        return None;
    }
    let base = names.iter().fold(folder.to_path_buf(), |path, name| path.join(name));
    let package = base.join("__init__.py");
    if modules.is_file(&package) {
        return Some(package);
    }
    let file = base.with_file_name(format!("{}.py", names.last()?));
    modules.is_file(&file).then_some(file)
}

/// Whether a folder has a package or a file of a name.
fn holds(modules: &ModulesOf<'_>, folder: &Path, name: &str) -> bool {
    modules.listing(folder).is_some_and(|listing| listing.has(name) || listing.has(&format!("{name}.py")))
}

/// The folders in which absolute names are looked for: around the outermost package that holds the file, the file's own if it
/// belongs to no package, and those at the top of the project and of the Python projects in it.
fn roots(modules: &ModulesOf<'_>, folder: &Path) -> Vec<PathBuf> {
    let outside = modules.upwards(folder).find(|folder| !modules.is_file(&folder.join("__init__.py")));
    let mut roots: Vec<PathBuf> = outside.into_iter().map(Path::to_path_buf).collect();
    let projects =
        modules.upwards(folder).filter(|folder| PROJECT_FILES.iter().any(|name| modules.is_file(&folder.join(name))));
    for project in projects.chain([modules.root()]) {
        for root in [project.to_path_buf(), project.join("src")] {
            if !roots.contains(&root) {
                roots.push(root);
            }
        }
    }
    roots
}

/// The files that are at the top of a Python project.
const PROJECT_FILES: &[&str] = &["pyproject.toml", "setup.py", "setup.cfg"];
