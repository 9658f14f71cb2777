//! `hsieve sift --shard`: the results of a part of the files, for `hsieve merge`.

use std::path::{Path, PathBuf};
use std::time::Instant;

use anyhow::Context;
use serde::{Deserialize, Serialize};
use sieve_engine::Shard;
use sieve_engine::project::{Project, relative};
use sieve_engine::run::{Wants, sift_part};

use crate::arguments::{Common, SiftArguments};
use crate::run::{Setup, shown};
use crate::screen::{complain, complain_styled, counted, grouped, safe};
use crate::status::{Status, usage};

/// What a part was asked for: parts of one run agree on it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Asked {
    /// The working folder, from the root of the code base.
    pub folder: String,
    /// What to sift.
    pub paths: Vec<PathBuf>,
    /// The mesh.
    pub mesh: Option<String>,
    /// Only these rules.
    pub only: Vec<String>,
    /// Not these rules.
    pub without: Vec<String>,
    /// The settings file.
    pub settings: Option<PathBuf>,
    /// The packs.
    pub packs: Vec<String>,
}

impl Asked {
    fn of(common: &Common, project: &Project) -> Asked {
        Asked {
            folder: folder_of(project),
            paths: common.paths.clone(),
            mesh: common.choice.mesh.clone(),
            only: common.choice.only.clone(),
            without: common.choice.without.clone(),
            settings: common.settings.clone(),
            packs: common.pack.clone(),
        }
    }
}

/// The working folder, from the root of the code base.
pub fn folder_of(project: &Project) -> String {
    relative(&project.root, &project.folder).unwrap_or_default()
}

/// Sifts a shard, and writes its results.
pub fn run(word: &str, arguments: &SiftArguments) -> anyhow::Result<Status> {
    let started = Instant::now();
    let common = &arguments.common;
    let (shard, by) = shard_of(word, |name| std::env::var(name).ok())?;
    let to = place(arguments)?;
    if common.paths.iter().any(|path| path.as_os_str() == "-") {
        return usage("`-` is standard input, which has no shards");
    }
    let setup = Setup::new(common)?;
    let asked = serde_json::to_string(&Asked::of(common, &setup.project)).context("the paths cannot be kept")?;
    let wants = Wants { excerpts: false, identities: true, sizes: true };
    let sifted = setup.with_request(wants, |request| sift_part(request, shard, &asked));
    let sifted = sifted.map_err(|error| shown(&setup.project, error))?;
    let bytes = sifted.bytes.context("the results cannot be kept")?;
    setup.write_output(to, &bytes, &sifted.all)?;
    if !common.quiet {
        let files = counted(sifted.files, "file", "files");
        let (all, seconds) = (grouped(sifted.all.len()), started.elapsed().as_secs_f64());
        let to = safe(&to.to_string_lossy());
        complain_styled(&format!("Sifted {shard}{by}: {files} of {all} in {seconds:.2} s, results in {to}"));
    }
    sifted.errors.iter().for_each(complain);
    Ok(if sifted.errors.is_empty() { Status::Clean } else { Status::Failed })
}

/// Where the results go.
fn place(arguments: &SiftArguments) -> anyhow::Result<&Path> {
    match &arguments.telling.outputs.all[..] {
        [(None, Some(file))] => Ok(file),
        _ => usage("--shard writes one file: --to FILE"),
    }
}

/// How a variable of the environment counts copies of a job.
enum From {
    /// The first has this number.
    Number(u32),
    /// The number of the first is in this variable.
    Variable(&'static str),
}

/// Variables in which a job that runs several times finds its own number, and how many there are.
const VARIABLES: &[(&str, From, &str)] = &[
    ("CI_NODE_INDEX", From::Number(1), "CI_NODE_TOTAL"),
    ("CIRCLE_NODE_INDEX", From::Number(0), "CIRCLE_NODE_TOTAL"),
    ("BUILDKITE_PARALLEL_JOB", From::Number(0), "BUILDKITE_PARALLEL_JOB_COUNT"),
    ("SYSTEM_JOBPOSITIONINPHASE", From::Number(1), "SYSTEM_TOTALJOBSINPHASE"),
    ("SLURM_ARRAY_TASK_ID", From::Variable("SLURM_ARRAY_TASK_MIN"), "SLURM_ARRAY_TASK_COUNT"),
    ("AWS_BATCH_JOB_ARRAY_INDEX", From::Number(0), "AWS_BATCH_JOB_ARRAY_SIZE"),
];

/// The shard that a word names, and what said so where it is not the word itself.
fn shard_of(word: &str, variable: impl Fn(&str) -> Option<String>) -> anyhow::Result<(Shard, String)> {
    if word == "auto" {
        return by_variables(variable);
    }
    let numbers = word.split_once('/').and_then(|(number, of)| Some((number.parse().ok()?, of.parse().ok()?)));
    match numbers.and_then(|(number, of)| Shard::new(number, of)) {
        Some(shard) => Ok((shard, String::new())),
        None => {
            usage(format!("--shard cannot be \"{word}\": 2/3 is the second of three parts, auto is by the environment"))
        }
    }
}

fn by_variables(variable: impl Fn(&str) -> Option<String>) -> anyhow::Result<(Shard, String)> {
    let number = |name: &str| variable(name).and_then(|value| value.trim().parse::<u32>().ok());
    for (own, from, all) in VARIABLES {
        let Some(value) = variable(own) else { continue };
        let first = match from {
            From::Number(first) => Some(*first),
            From::Variable(name) => number(name),
        };
        let shard = number(own).zip(first).zip(number(all)).and_then(|((own, first), of)| {
            let index = own.checked_sub(first)?;
            Shard::new(index.checked_add(1)?, of)
        });
        return match shard {
            Some(shard) => Ok((shard, format!(", by {own} and {all}"))),
            None => {
                let of = variable(all).map_or(format!("{all} is not set"), |of| format!("{all} is {of}"));
                usage(format!("--shard auto: {own} is {value} and {of}, which names no shard: give --shard K/N"))
            }
        };
    }
    let names: Vec<&str> = VARIABLES.iter().map(|(own, ..)| *own).collect();
    usage(format!("--shard auto: none of these is set: {}; give --shard K/N", names.join(", ")))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn named(word: &str, variables: &[(&str, &str)]) -> Result<String, String> {
        let variable = |name: &str| variables.iter().find(|(own, _)| *own == name).map(|(_, value)| value.to_string());
        match shard_of(word, variable) {
            Ok((shard, by)) => Ok(format!("{shard}{by}")),
            Err(error) => Err(error.to_string()),
        }
    }

    #[test]
    fn a_shard_is_one_of_so_many() {
        assert_eq!(named("2/3", &[]).unwrap(), "shard 2 of 3");
        for wrong in ["0/3", "4/3", "1/0", "2", "a/b", "1/", "-1/2", "", "1/3/5", "99999999999/2"] {
            assert!(named(wrong, &[]).unwrap_err().contains("is the second of three parts"), "{wrong}");
        }
    }

    #[test]
    fn jobs_that_count_from_nothing_or_one_are_told_apart() {
        let both = |own, one, all, of| named("auto", &[(own, one), (all, of)]);
        assert_eq!(
            both("CI_NODE_INDEX", "3", "CI_NODE_TOTAL", "3").unwrap(),
            "shard 3 of 3, by CI_NODE_INDEX and CI_NODE_TOTAL"
        );
        assert!(both("CIRCLE_NODE_INDEX", "0", "CIRCLE_NODE_TOTAL", "4").unwrap().starts_with("shard 1 of 4, by"));
        let array = [("SLURM_ARRAY_TASK_ID", "12"), ("SLURM_ARRAY_TASK_MIN", "10"), ("SLURM_ARRAY_TASK_COUNT", "5")];
        assert!(named("auto", &array).unwrap().starts_with("shard 3 of 5"));
    }

    #[test]
    fn variables_that_name_no_shard_are_told() {
        let wrong = named("auto", &[("CI_NODE_INDEX", "4"), ("CI_NODE_TOTAL", "3")]).unwrap_err();
        assert!(wrong.contains("CI_NODE_INDEX is 4 and CI_NODE_TOTAL is 3"), "{wrong}");
        let half = named("auto", &[("CIRCLE_NODE_INDEX", "1")]).unwrap_err();
        assert!(half.contains("CIRCLE_NODE_TOTAL is not set"), "{half}");
        let none = named("auto", &[]).unwrap_err();
        assert!(none.contains("CI_NODE_INDEX") && none.contains("SLURM_ARRAY_TASK_ID"), "{none}");
    }
}
