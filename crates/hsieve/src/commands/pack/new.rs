//! `hsieve pack new`

use std::path::Path;

use sieve_engine::files;
use sieve_engine::project::absolute;

use crate::arguments::NewPackArguments;
use crate::run::here;
use crate::screen::{FAINT, STRONG, Screen, TYPED, safe, styled};
use crate::status::{Status, usage};

/// The pack that is written, with a mark where its name goes.
const TEMPLATE: &str = include_str!("new.toml");

/// Writes a commented pack with one working rule.
pub fn run(arguments: &NewPackArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let project = here()?;
    let written =
        if arguments.name.ends_with(".toml") { arguments.name.clone() } else { format!("{}.toml", arguments.name) };
    let path = absolute(&project.folder, Path::new(&written));
    let name = path.file_stem().map(|stem| stem.to_string_lossy().into_owned()).unwrap_or_default();
    let is_word =
        |word: &str| !word.is_empty() && word.bytes().all(|byte| byte.is_ascii_lowercase() || byte.is_ascii_digit());
    if !name.starts_with(|first: char| first.is_ascii_lowercase()) || !name.split('-').all(is_word) {
        return usage(format!("the name of a pack is made of lower-case words joined by hyphens, not {name:?}"));
    }
    let shown = project.shown(&path);
    if std::fs::symlink_metadata(&path).is_ok() {
        return usage(format!("{shown} is there already"));
    }
    if let Some(folder) = path.parent() {
        std::fs::create_dir_all(folder)?;
    }
    files::write(&path, TEMPLATE.replace("NAME", &name).as_bytes())?;
    screen.line(format!("{}  with one rule, {name}:import-in-function", styled(STRONG, &safe(&shown))))?;
    for (command, what) in [("pack test", "runs its examples"), ("pack add", "puts it to use here")] {
        let typed = styled(TYPED, &format!("hsieve {command} {}", safe(&shown)));
        screen.line(format!("  {typed}  {}", styled(FAINT, what)))?;
    }
    Ok(Status::Clean)
}
