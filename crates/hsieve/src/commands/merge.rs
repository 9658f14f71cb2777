//! `hsieve merge`

use std::path::{Path, PathBuf};

use sieve_engine::run::join_parts;
use sieve_engine::{Part, PartError};

use super::shard::{Asked, folder_of};
use super::tell::Plan;
use crate::arguments::{Choice, Common, Counting, MergeArguments};
use crate::run::{Setup, here, shown};
use crate::screen::{Screen, complain_styled, counted};
use crate::status::{Status, usage};

/// Joins parts, and reports.
pub fn run(arguments: &MergeArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let parts = parts(&arguments.parts)?;
    let asked = asked(&parts)?;
    fits(&asked, arguments)?;
    let common = Common {
        paths: asked.paths,
        choice: Choice { mesh: asked.mesh, only: asked.only, without: asked.without },
        settings: arguments.settings.clone(),
        pack: arguments.pack.clone(),
        threads: arguments.threads,
        no_cache: true,
        cache_write: false,
        verbose: false,
        quiet: arguments.quiet,
    };
    let counting = Counting { changed: None, no_baseline: arguments.no_baseline };
    let setup = Setup::counting(&common, &counting, false)?;
    let plan = Plan::new(&arguments.telling, &common, &counting, &setup)?;
    let parts = parts.into_iter().map(|(_, part)| part).collect();
    let joined = setup.with_request(plan.wants(), |request| join_parts(request, parts));
    let joined = joined.map_err(|error| shown(&setup.project, error))?;
    let status = plan.tell(&setup, (&joined.sifted.outcome, None), false, screen)?;
    if joined.missing > 0 && !arguments.quiet {
        screen.finish()?;
        let files = counted(joined.missing, "file was", "files were");
        complain_styled(&format!("{files} sifted here: no shard had them as they are, or their settings"));
    }
    Ok(status)
}

/// All parts, in the order of their numbers.
fn parts(paths: &[PathBuf]) -> anyhow::Result<Vec<(&Path, Part)>> {
    let mut parts = Vec::new();
    for path in paths {
        match Part::read(path) {
            Ok(part) => parts.push((path.as_path(), part)),
            Err(PartError::File(error)) => return Err(error.into()),
            Err(error @ PartError::NoPart(_)) => return Err(anyhow::Error::new(error)),
            Err(error @ PartError::OtherBuild { .. }) => return usage(error.to_string()),
        }
    }
    parts.sort_by_key(|(_, part)| part.shard().number);
    let of = parts[0].1.shard().of;
    for pair in parts.windows(2) {
        let [(one, first), (other, second)] = pair else { continue };
        let (one, other) = (one.display(), other.display());
        if first.shard() == second.shard() {
            return usage(format!("{one} and {other} are both {}", first.shard()));
        }
        if first.shard().of != second.shard().of {
            return usage(format!("{one} is {}, but {other} is {}", first.shard(), second.shard()));
        }
    }
    let is_there = |number: &u32| parts.iter().any(|(_, part)| part.shard().number == *number);
    let missing = (1..=of).filter(|number| !is_there(number)).map(|number| number.to_string());
    let missing: Vec<String> = missing.take(10).collect();
    match &missing[..] {
        [] => Ok(parts),
        [one] => usage(format!("shard {one} of {of} is missing")),
        several if several.len() < 10 => usage(format!("shards {} of {of} are missing", several.join(", "))),
        several => usage(format!("shards {} and others of {of} are missing", several.join(", "))),
    }
}

/// What all parts were asked for.
fn asked(parts: &[(&Path, Part)]) -> anyhow::Result<Asked> {
    let (path, first) = &parts[0];
    let Ok(asked) = serde_json::from_str::<Asked>(first.asked()) else {
        return Err(anyhow::Error::new(PartError::NoPart(path.to_path_buf())));
    };
    match parts.iter().find(|(_, part)| part.asked() != first.asked()) {
        None => Ok(asked),
        Some((other, part)) => usage(format!(
            "{} and {} are not of one run: they were asked for {} and {}",
            path.display(),
            other.display(),
            first.asked(),
            part.asked()
        )),
    }
}

/// Makes sure that this is where the parts belong, and that nothing that they were given is missing.
fn fits(asked: &Asked, arguments: &MergeArguments) -> anyhow::Result<()> {
    let here = folder_of(&here()?);
    if asked.folder != here {
        return usage(format!(
            "the shards were sifted in the folder {} of the code base, this is {here}",
            asked.folder
        ));
    }
    let option = |name: &str, value: &str| format!("{name} {value}");
    let given = |settings: Option<&PathBuf>, packs: &[String]| {
        let settings = settings.map(|path| option("--settings", &path.to_string_lossy()));
        settings.into_iter().chain(packs.iter().map(|pack| option("--pack", pack))).collect::<Vec<String>>()
    };
    let shards = given(asked.settings.as_ref(), &asked.packs);
    let own = given(arguments.settings.as_ref(), &arguments.pack);
    if shards == own {
        return Ok(());
    }
    let words = |options: &[String]| if options.is_empty() { "no such option".into() } else { options.join(" ") };
    usage(format!("the shards were given {}, and merge {}: give both the same", words(&shards), words(&own)))
}
