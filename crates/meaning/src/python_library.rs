//! The modules that come with Python 3.8 to 3.14, by the names of their first parts (`sys.stdlib_module_names`).

use std::collections::{HashMap, HashSet};
use std::sync::LazyLock;

const LIBRARY: &str = include_str!("python/library.txt");

static NAMES: LazyLock<HashSet<&str>> = LazyLock::new(|| LIBRARY.lines().collect());

/// Whether a module of this name comes with the language.
pub fn has(name: &str) -> bool {
    NAMES.contains(name)
}

/// Functions of the library that give a coroutine, which does nothing until it is awaited ("asyncio", The Python Standard Library 3.14).
const COROUTINES: &[&str] = &[
    "create_subprocess_exec",
    "create_subprocess_shell",
    "open_connection",
    "open_unix_connection",
    "sleep",
    "start_server",
    "to_thread",
    "wait",
    "wait_for",
];

/// Whether what these names lead to in a module gives a coroutine.
pub fn is_coroutine(module: &str, path: &[&str]) -> bool {
    matches!(path, [name] if module == "asyncio" && COROUTINES.contains(name))
}

const MEMBERS: &str = include_str!("python/members.txt");

static MEMBERS_OF: LazyLock<HashMap<&str, Vec<&str>>> = LazyLock::new(|| {
    let of_module =
        |line: &'static str| line.split_once(": ").map(|(module, names)| (module, names.split(' ').collect()));
    MEMBERS.lines().filter_map(of_module).collect()
});

/// The public names of a module of the library, sorted, those that came and went between the versions included; nothing for modules
/// that are not in the table.
pub fn members(module: &str) -> Option<&'static [&'static str]> {
    MEMBERS_OF.get(module).map(Vec::as_slice)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn members_are_sorted_and_belong_to_modules_of_the_library() {
        assert!(members("os.path").is_some_and(|names| names.contains(&"exists")));
        assert!(members("nowhere").is_none());
        for (module, names) in MEMBERS_OF.iter() {
            assert!(has(module.split('.').next().unwrap_or_default()), "{module}");
            assert!(names.is_sorted() && !names.is_empty(), "{module}");
        }
    }
}
