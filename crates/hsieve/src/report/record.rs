//! The figures of a run, a line of JSON for each, so that they can be followed over time.

use std::collections::BTreeMap;
use std::path::Path;

use anyhow::Context;
use serde::{Deserialize, Serialize};
use sieve_engine::Date;
use sieve_engine::files;
use sieve_engine::git::Git;
use sieve_engine::outcome::Outcome;
use sieve_engine::project::Project;
use sieve_rules::Level;

/// The levels that findings have.
pub const LEVELS: [Level; 3] = [Level::Error, Level::Warning, Level::Note];

/// What a run came to.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Record {
    /// The commit that was checked out, where git knows.
    pub revision: Option<String>,
    /// The day of the run.
    pub day: Date,
    /// The mesh, or the coarsest and the finest where parts of the code base have different ones.
    pub mesh: Option<String>,
    /// How many files were sifted.
    pub files: usize,
    /// How many lines they had.
    pub lines: usize,
    /// Findings per 1000 lines.
    pub density: Option<f64>,
    /// How many findings were reported, by level.
    pub levels: BTreeMap<String, usize>,
    /// The same by concern.
    pub concerns: BTreeMap<String, usize>,
    /// The same by rule.
    pub rules: BTreeMap<String, usize>,
    /// How many were held back, by what.
    pub held: BTreeMap<String, usize>,
    /// How many places were not decided.
    pub unsure: usize,
}

impl Record {
    /// The figures of a run.
    pub fn of(outcome: &Outcome, project: &Project, day: Date) -> Record {
        let mut record = Record {
            revision: Git::around(&project.folder).ok().and_then(|git| git.revision()),
            day,
            mesh: mesh_of(outcome),
            files: outcome.files,
            lines: outcome.lines,
            density: outcome.density().map(|density| (density * 1000.0).round() / 1000.0),
            levels: LEVELS.iter().map(|level| (level.word().to_string(), outcome.caught_at(*level))).collect(),
            concerns: BTreeMap::new(),
            rules: BTreeMap::new(),
            held: outcome.held().into_iter().map(|(word, count)| (word.to_string(), count)).collect(),
            unsure: outcome.unsure.len(),
        };
        for finding in outcome.caught() {
            let rule = outcome.rules.rule(finding.rule);
            *record.concerns.entry(rule.concern.word().to_string()).or_insert(0) += 1;
            *record.rules.entry(rule.name.to_string()).or_insert(0) += 1;
        }
        record
    }

    /// Whether it can be compared with another run: by the same mesh.
    pub fn is_like(&self, outcome: &Outcome) -> bool {
        self.mesh == mesh_of(outcome)
    }

    /// How many findings were reported.
    pub fn count(&self) -> usize {
        self.levels.values().sum()
    }

    /// Adds it to a file as its last line.
    pub fn append_to(&self, path: &Path) -> anyhow::Result<()> {
        Ok(files::append(path, format!("{}\n", serde_json::to_string(self)?).as_bytes())?)
    }

    /// The records of a file, in their order.
    pub fn read_all(path: &Path) -> anyhow::Result<Vec<Record>> {
        let bytes = files::read(path)?;
        let text = String::from_utf8_lossy(&bytes);
        let lines = text.lines().enumerate().filter(|(_, line)| !line.trim().is_empty());
        let read = |(index, line): (usize, &str)| {
            let place =
                || format!("{}:{}: this is no line that `hsieve sift --record` wrote", path.display(), index + 1);
            serde_json::from_str(line).with_context(place)
        };
        lines.map(read).collect()
    }
}

fn mesh_of(outcome: &Outcome) -> Option<String> {
    outcome.mesh.map(
        |(coarsest, finest)| {
            if coarsest == finest { coarsest.to_string() } else { format!("{coarsest} to {finest}") }
        },
    )
}
