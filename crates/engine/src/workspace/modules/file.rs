//! The file that a path of JavaScript or TypeScript means, as imports write it.

use std::path::{Path, PathBuf};

use super::ModulesOf;

/// Endings that an import may leave out, the ones that say most first.
const ENDINGS: &[&str] = &["ts", "tsx", "mts", "cts", "js", "jsx", "mjs", "cjs"];

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
