//! The jobs that `hsieve init --with ci=NAME` writes: a script, and what makes a system run it.

use std::path::Path;

use sieve_engine::files::{self, FileError};

/// Where the script is, from the root of a code base.
const SCRIPT: (&str, &str) = ("ci/sieve.sh", include_str!("ci/sieve.sh"));

/// A system that runs jobs.
struct System {
    /// The word for it after `--with`.
    word: &'static str,
    /// The file that describes its job, and what is in it; the script alone where there is none.
    job: Option<(&'static str, &'static str)>,
    /// What is left to do by hand.
    left: &'static str,
}

const SYSTEMS: &[System] = &[
    System {
        word: "ci=shell",
        job: None,
        left: "run sh ci/sieve.sh in a full clone, with SIEVE_BASE for what is proposed",
    },
    System {
        word: "ci=github",
        job: Some((".github/workflows/sieve.yml", include_str!("ci/github.yml"))),
        left: "put hsieve on the PATH of the job, where the file says so",
    },
    System {
        word: "ci=gitlab",
        job: Some(("ci/sieve.gitlab-ci.yml", include_str!("ci/gitlab.yml"))),
        left: "include the file in .gitlab-ci.yml, and name an image that has hsieve and git",
    },
];

/// What became of a file.
pub enum Written {
    /// It was written.
    New(&'static str),
    /// It was there, and is as it was.
    Kept(&'static str),
}

/// Writes the files for a word; gives what became of each, and what is left to do.
///
/// # Errors
/// When a file cannot be written.
pub fn write(root: &Path, word: &str) -> Result<(Vec<Written>, &'static str), FileError> {
    let system = SYSTEMS.iter().find(|system| system.word == word).unwrap_or(&SYSTEMS[0]);
    let mut written = Vec::new();
    for (place, text) in [SCRIPT].into_iter().chain(system.job) {
        let path = root.join(place);
        if path.symlink_metadata().is_ok() {
            written.push(Written::Kept(place));
            continue;
        }
        files::create_below(root, Path::new(place), text.as_bytes())?;
        written.push(Written::New(place));
    }
    Ok((written, system.left))
}
