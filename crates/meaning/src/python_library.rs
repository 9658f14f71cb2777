//! The modules that come with Python 3.8 to 3.14, by the names of their first parts (`sys.stdlib_module_names`).

use std::collections::HashSet;
use std::sync::LazyLock;

const LIBRARY: &str = include_str!("python/library.txt");

static NAMES: LazyLock<HashSet<&str>> = LazyLock::new(|| LIBRARY.lines().collect());

/// Whether a module of this name comes with the language.
pub fn has(name: &str) -> bool {
    NAMES.contains(name)
}
