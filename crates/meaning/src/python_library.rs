//! The modules that come with Python 3.8 to 3.14, by the names of their first parts (`sys.stdlib_module_names`).

const LIBRARY: &str = include_str!("python/library.txt");

/// Whether a module of this name comes with the language.
pub fn has(name: &str) -> bool {
    LIBRARY.lines().any(|module| module == name)
}
