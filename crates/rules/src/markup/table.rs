//! Tables of names in files, made of the indices of published specifications.

use std::sync::OnceLock;

use crate::slip::nearest;

/// Sorted lines, each a name with what is said of it behind a space. The first line says what it is.
#[derive(Debug)]
pub(crate) struct Table {
    source: &'static str,
    lines: OnceLock<Vec<(&'static str, &'static str)>>,
}

impl Table {
    pub(crate) const fn new(source: &'static str) -> Table {
        Table { source, lines: OnceLock::new() }
    }

    fn lines(&self) -> &[(&'static str, &'static str)] {
        self.lines.get_or_init(|| {
            let lines = self.source.lines().filter(|line| !line.starts_with('#'));
            let mut lines: Vec<_> = lines.map(|line| line.split_once(' ').unwrap_or((line, ""))).collect();
            lines.sort_unstable();
            lines
        })
    }

    /// What is said of a name, if it is there.
    pub(crate) fn get(&self, name: &str) -> Option<&'static str> {
        let lines = self.lines();
        lines.binary_search_by_key(&name, |(own, _)| own).ok().map(|index| lines[index].1)
    }

    /// Whether a name is there.
    pub(crate) fn has(&self, name: &str) -> bool {
        self.get(name).is_some()
    }

    /// The names.
    pub(crate) fn names(&self) -> impl Iterator<Item = &'static str> {
        self.lines().iter().map(|(name, _)| *name)
    }

    /// The name that was probably meant by one that is not there.
    pub(crate) fn meant_by(&self, wrong: &str) -> Option<&'static str> {
        nearest(wrong, self.names())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_are_found_with_what_is_said_of_them() {
        let table = Table::new("# Quays.\nnorth deep and wide\nsouth\n");
        assert_eq!(
            (table.get("north"), table.get("south"), table.get("east")),
            (Some("deep and wide"), Some(""), None)
        );
        assert_eq!(table.meant_by("nroth"), Some("north"));
        assert_eq!(table.meant_by("west"), None);
    }
}
