//! Who owns which files, by a `CODEOWNERS` file in the form that several hosts of repositories share: a pattern and its owners on
//! each line, the last that fits wins.

use std::collections::HashMap;
use std::path::Path;

use ignore::gitignore::{Gitignore, GitignoreBuilder};

use crate::files::{Disk, Files};

/// Where the file may be, below the root; the first that is there counts.
const PLACES: &[&str] = &["CODEOWNERS", ".github/CODEOWNERS", ".gitlab/CODEOWNERS", "docs/CODEOWNERS"];

/// A larger file is not read.
const LARGEST: u64 = 4 << 20;

/// The owners of a code base's files.
#[derive(Debug)]
pub struct Owners {
    patterns: Gitignore,
    /// For each pattern its place in the file and the owners.
    owners: HashMap<String, (usize, String)>,
}

impl Owners {
    /// Reads the file of a code base, if it has one.
    pub fn find(root: &Path) -> Option<Owners> {
        let path = PLACES.iter().map(|place| root.join(place)).find(|path| Disk.is_file(path))?;
        let text = String::from_utf8_lossy(&Disk.read_within(root, &path, LARGEST).ok()?).into_owned();
        Some(Owners::of(root, &text))
    }

    fn of(root: &Path, text: &str) -> Owners {
        let mut builder = GitignoreBuilder::new(root);
        let mut owners = HashMap::new();
        for (index, line) in text.lines().enumerate() {
            let line = line.split(" #").next().unwrap_or_default().trim();
            // Heads of sections are in brackets, and a leading mark of exclusion belongs to other files.
            if line.is_empty() || line.starts_with(['#', '[', '^', '!']) {
                continue;
            }
            let (pattern, names) = line.split_once(char::is_whitespace).unwrap_or((line, ""));
            if builder.add_line(None, pattern).is_ok() {
                let names = names.split_whitespace().collect::<Vec<_>>().join(" ");
                owners.insert(pattern.to_string(), (index, names));
            }
        }
        Owners { patterns: builder.build().unwrap_or_else(|_| Gitignore::empty()), owners }
    }

    /// The owners of a file below the root; nothing if it has none.
    pub fn of_path(&self, path: &Path) -> Option<&str> {
        let inner = path.strip_prefix(self.patterns.path()).unwrap_or(path);
        let last = inner
            .ancestors()
            .filter(|part| !part.as_os_str().is_empty())
            .filter_map(|part| self.pattern(part, part != inner));
        let (_, names) = last.max_by_key(|(index, _)| *index)?;
        Some(names.as_str()).filter(|names| !names.is_empty())
    }

    /// The last pattern that fits a file, or a folder that holds it.
    fn pattern(&self, path: &Path, is_folder: bool) -> Option<&(usize, String)> {
        let ignore::Match::Ignore(glob) = self.patterns.matched(path, is_folder) else { return None };
        // `docs/*` means the files in a folder, not those further down.
        let reaches_down = !is_folder || !glob.original().ends_with("/*");
        self.owners.get(glob.original()).filter(|_| reaches_down)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_last_pattern_that_fits_wins() {
        let text = "# who\n* @harbour\n/booking/ @desk @fares # both\n*.sh @crew\n/booking/old/\n";
        let owners = Owners::of(Path::new("/ferry"), text);
        let of = |path: &str| owners.of_path(&Path::new("/ferry").join(path)).map(str::to_owned);
        assert_eq!(of("tides.py").as_deref(), Some("@harbour"));
        assert_eq!(of("booking/a/fares.py").as_deref(), Some("@desk @fares"));
        assert_eq!(of("booking/run.sh").as_deref(), Some("@crew"));
        assert_eq!(of("booking/old/a.py"), None);
    }
}
