//! The keys that settings files may have, as one table: for checking, for messages, for the docs.

/// A key of a settings file.
#[derive(Debug, Clone, Copy)]
pub struct Key {
    /// Its name, with the table it stands in.
    pub name: &'static str,
    /// What it does, in one line.
    pub about: &'static str,
    /// Its default, as it is written in settings.
    pub default: &'static str,
}

/// Every key outside `[rules]`.
pub const TOP_KEYS: &[Key] = &[
    Key {
        name: "defaults",
        about: "the release whose default levels and rule names the file was written for",
        default: "\"0.1\"",
    },
    Key {
        name: "fail-on",
        about: "the level from which on a finding fails a run: note, warning, error, or off",
        default: "\"warning\"",
    },
    Key { name: "mesh", about: "how fine to sift: coarse, medium or fine", default: "\"medium\"" },
    Key { name: "top", about: "whether settings further up are left aside", default: "false" },
    Key {
        name: "files.generated",
        about: "patterns of files made by programs, besides those that say so in their first lines",
        default: "[]",
    },
    Key { name: "files.languages", about: "the language of files that match a pattern", default: "{}" },
    Key { name: "files.largest", about: "files of more bytes are left out", default: "10_000_000" },
    Key {
        name: "files.skip",
        about: "patterns of files that are not sifted, besides those that git ignores",
        default: "[]",
    },
];
