//! Values that something may have, listed in settings: in data by a path, in infrastructure files by the names of blocks.

use std::fmt;

use sieve_meaning::data::path::Path;

/// The values that something may have.
#[derive(Debug, Clone)]
pub struct ListedValues {
    /// What has them.
    pub place: ValuePlace,
    /// All that it may have, as they are written; nothing where anything is right.
    pub allowed: Vec<String>,
}

/// What a value belongs to.
#[derive(Debug, Clone)]
pub enum ValuePlace {
    /// A part of data.
    Data(Path),
    /// A name in a block of an infrastructure file.
    Block(BlockPath),
}

/// Why a text is no place of values.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PlaceError(String);

impl fmt::Display for PlaceError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(&self.0)
    }
}

impl std::error::Error for PlaceError {}

impl ValuePlace {
    /// Reads a place: a JSONPath (RFC 9535), which begins with `$`, or words joined by dots.
    ///
    /// # Errors
    /// When it is neither.
    pub fn parse(source: &str) -> Result<ValuePlace, PlaceError> {
        if source.starts_with('$') {
            return Path::parse(source).map(ValuePlace::Data).map_err(|error| PlaceError(error.to_string()));
        }
        BlockPath::parse(source).map(ValuePlace::Block)
    }

    /// The path of a part of data.
    pub fn in_data(&self) -> Option<&Path> {
        if let ValuePlace::Data(path) = self { Some(path) } else { None }
    }

    /// The way to a name in a block.
    pub fn in_block(&self) -> Option<&BlockPath> {
        if let ValuePlace::Block(path) = self { Some(path) } else { None }
    }
}

/// The way to a value in a block: the type of the block, its labels, the types of blocks and the keys within, and the name. `*` stands for
/// any one of them, and labels may be left out.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BlockPath {
    words: Vec<String>,
}

/// A step on the way to a value.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Step<'s> {
    /// What it is called.
    pub name: &'s str,
    /// Whether it is a label of a block.
    pub is_label: bool,
}

/// Longer paths are refused: those that fit so far are bits of one number.
const MOST_WORDS: usize = 32;

impl BlockPath {
    fn parse(source: &str) -> Result<BlockPath, PlaceError> {
        let words: Vec<String> = source.split('.').map(str::to_string).collect();
        if words.len() < 2 || words.len() > MOST_WORDS || words.iter().any(String::is_empty) {
            let wanted = "a JSONPath such as \"$.quays[*].size\", or a block and a name in it such as \"resource.quay_light.colour\", is wanted";
            return Err(PlaceError(wanted.to_string()));
        }
        Ok(BlockPath { words })
    }

    /// Whether it leads to a value.
    pub fn fits<'s>(&self, way: impl Iterator<Item = Step<'s>>) -> bool {
        // How many words may have been used up so far.
        let mut used: u64 = 1;
        for step in way {
            let taken = self.words.iter().enumerate().filter(|(_, word)| *word == "*" || **word == *step.name);
            let after =
                taken.filter(|(index, _)| used & 1 << index != 0).fold(0, |all, (index, _)| all | 1 << (index + 1));
            used = if step.is_label { used | after } else { after };
        }
        used & 1 << self.words.len() != 0
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn fits(path: &str, way: &str) -> bool {
        let place = ValuePlace::parse(path).expect("a path");
        let path = place.in_block().expect("a path of a block");
        let step = |word: &'static str| Step { name: word.trim_matches('"'), is_label: word.starts_with('"') };
        path.fits(way.to_string().leak().split(' ').map(step))
    }

    #[test]
    fn labels_may_be_left_out_and_nothing_else() {
        let way = "resource \"quay_light\" \"north\" colour";
        for path in
            ["resource.colour", "resource.quay_light.colour", "resource.quay_light.north.colour", "resource.*.*.colour"]
        {
            assert!(fits(path, way), "{path}");
        }
        for path in ["resource.lamp.colour", "data.quay_light.colour", "resource.quay_light", "resource.*.*.*.colour"] {
            assert!(!fits(path, way), "{path}");
        }
        let inner = "resource \"quay_light\" \"north\" lamp colour";
        assert!(fits("resource.quay_light.lamp.colour", inner) && !fits("resource.quay_light.colour", inner));
    }

    #[test]
    fn what_is_no_place_is_refused() {
        for wrong in ["", "colour", "resource..colour", "$.quays[", ".a", "a."] {
            assert!(ValuePlace::parse(wrong).is_err(), "{wrong}");
        }
        assert!(ValuePlace::parse(&"a.".repeat(40)).is_err() && ValuePlace::parse("$.quays[*].size").is_ok());
    }
}
