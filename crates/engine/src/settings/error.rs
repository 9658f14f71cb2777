//! What is wrong with settings, with its place.

use std::borrow::Cow;
use std::fmt;
use std::path::PathBuf;

use sieve_syntax::text::Place;

/// A mistake in a settings file.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SettingsError {
    /// The file.
    pub path: PathBuf,
    /// Where in it; `None` where the whole file is meant.
    pub place: Option<Place>,
    /// What is wrong and what would be right.
    pub message: String,
}

impl fmt::Display for SettingsError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "{}", self.path.display())?;
        if let Some(place) = self.place {
            write!(out, ":{}:{}", place.line, place.column)?;
        }
        write!(out, ": {}", shortened(&self.message))
    }
}

/// The most bytes of a message that are shown: a wrong value may be as large as its file.
const LONGEST: usize = 600;

/// A message whose middle is left out where it is very long.
fn shortened(message: &str) -> Cow<'_, str> {
    if message.len() <= LONGEST {
        return Cow::Borrowed(message);
    }
    let (head, tail) =
        (message.floor_char_boundary(LONGEST / 2), message.ceil_char_boundary(message.len() - LONGEST / 4));
    Cow::Owned(format!("{} … {}", &message[..head], &message[tail..]))
}

impl std::error::Error for SettingsError {}

/// " Did you mean …?", with the nearest of the names there are, or all of them if they are few.
pub fn nearest<'n>(wrong: &str, names: impl Iterator<Item = &'n str> + Clone) -> String {
    // No name is much longer: comparing costs time for each pair of characters.
    let like = |name: &&str| wrong.len() <= 2 * name.len();
    let best = names
        .clone()
        .filter(like)
        .map(|name| (strsim::damerau_levenshtein(&wrong.to_lowercase(), name), name))
        .min_by_key(|(distance, _)| *distance);
    match best {
        Some((distance, name)) if distance <= (name.len() / 3).max(1) => format!("; the nearest is \"{name}\""),
        _ => {
            let all: Vec<&str> = names.collect();
            if all.len() <= 8 { format!("; there are: {}", all.join(", ")) } else { String::new() }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_nearest_name_is_told_and_few_names_are_listed() {
        assert_eq!(nearest("mehs", ["mesh", "files"].into_iter()), "; the nearest is \"mesh\"");
        assert_eq!(nearest("loudness", ["mesh", "files"].into_iter()), "; there are: mesh, files");
    }
}
