//! `hsieve pack add`

use std::collections::BTreeMap;
use std::path::Path;

use sieve_engine::files;
use sieve_engine::project::{Project, absolute, relative};
use sieve_engine::settings::{self, EditError, FILE_NAME, Pack, PackSource, Packs};
use sieve_engine::trial;

use super::shown::{described, origin};
use super::test;
use crate::arguments::{AddPackArguments, Common};
use crate::run::{Setup, here, shown};
use crate::screen::{FAINT, STRONG, Screen, TYPED, counted, grouped, safe, styled, width};
use crate::status::{Status, usage};

/// Tries a pack on its examples and on the code here, and writes it into the settings.
pub fn run(arguments: &AddPackArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let project = here()?;
    let source = PackSource::written(&arguments.pack);
    let packs = Packs::alone(&project, &source).map_err(|error| shown(&project, error))?;
    let Some(pack) = packs.list().last() else { return usage(format!("{} is no pack", arguments.pack)) };
    screen.line(format!("{}  {}", styled(STRONG, &pack.name), described(pack, &packs)))?;
    screen.line(styled(FAINT, &format!("  {}", origin(pack, &project.shown(&pack.path)))))?;
    let tried = trial::examples(packs.rules(), &pack.name);
    if tried.iter().any(|one| !one.failures.is_empty()) {
        screen.gap()?;
        test::results(pack, &tried, &[], &project, screen)?;
        screen.gap()?;
        screen.line("Nothing was written: a pack is added when its examples show what they are to show.")?;
        return Ok(Status::Findings);
    }
    let examples: usize = tried.iter().map(|one| one.rule.examples.len()).sum();
    screen.line(format!("  {} as they should be", counted(examples, "example is", "examples are")))?;
    let path = project.root.join(FILE_NAME);
    let before = settings::source_of(&path)?;
    let after = match settings::add_pack(&path, &before, &entry(&source, pack, &project)?) {
        Ok(Some(after)) => after,
        Ok(None) => return usage(format!("{} is in use here already", arguments.pack)),
        Err(EditError::Wrong(error)) => return Err(shown(&project, error).into()),
        Err(error) => return usage(error.to_string()),
    };
    screen.gap()?;
    let setup = Setup::with_file(&Common::default(), path.clone(), after.clone().into_bytes())?;
    found_here(&setup, pack, screen)?;
    screen.gap()?;
    let name = safe(&project.shown(&path));
    if arguments.preview {
        screen.line(styled(FAINT, &format!("Nothing is written; without --preview, {name} would have:")))?;
    } else {
        files::write(&path, after.as_bytes())?;
        screen.line(styled(STRONG, &name))?;
    }
    let old: Vec<&str> = before.lines().collect();
    for (index, line) in after.lines().enumerate().filter(|(_, line)| !old.contains(line) && !line.is_empty()) {
        screen.line(format!("{}  {}", styled(FAINT, &format!("{:>7}", index + 1)), styled(TYPED, &safe(line))))?;
    }
    Ok(Status::Clean)
}

/// What the pack finds in the code here, by rule.
fn found_here(setup: &Setup, pack: &Pack, screen: &mut Screen) -> anyhow::Result<()> {
    let outcome = setup.sift(sieve_engine::run::Wants::NONE)?.outcome;
    let mut counts: BTreeMap<&str, usize> = BTreeMap::new();
    for finding in outcome.caught() {
        let rule = outcome.rules.rule(finding.rule);
        if rule.pack() == Some(&pack.name) {
            *counts.entry(rule.name).or_insert(0) += 1;
        }
    }
    let files = counted(outcome.files, "file", "files");
    if counts.is_empty() {
        return screen.line(format!("It finds nothing in the {files} here."));
    }
    screen.line(format!("What it finds in the {files} here:"))?;
    let room = counts.keys().map(|name| width(name)).max().unwrap_or(0);
    counts.iter().try_for_each(|(name, count)| screen.line(format!("  {name:<room$}  {:>6}", grouped(*count))))
}

/// How the settings are to name the pack: a file by its path from them, an address with what is there now.
fn entry(source: &PackSource, pack: &Pack, project: &Project) -> anyhow::Result<PackSource> {
    Ok(match source {
        PackSource::BuiltIn(_) => source.clone(),
        PackSource::Path(path) => match relative(&project.root, &absolute(&project.folder, Path::new(path))) {
            // Without a slash or a dot it would be the name of a built-in pack.
            Some(path) if path.contains(['/', '.']) => PackSource::Path(path),
            Some(path) => PackSource::Path(format!("./{path}")),
            None => return usage(format!("{path} is outside of the code base: settings name files in it")),
        },
        PackSource::Address { address, .. } => {
            PackSource::Address { address: address.clone(), sha256: Some(pack.sha256.clone()) }
        }
    })
}
