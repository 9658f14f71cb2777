//! `hsieve man`

use std::path::Path;

use clap::{Command, CommandFactory};
use clap_mangen::Man;
use sieve_engine::files;
use sieve_engine::settings::nearest;

use crate::arguments::{Arguments, ManArguments};
use crate::screen::{Screen, counted, safe};
use crate::status::{Status, usage};

/// Prints a page of the manual, or writes all of them to a folder.
pub fn run(arguments: &ManArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let mut all = Arguments::command();
    all.build();
    let mut pages = Vec::new();
    add_pages("hsieve", &all, &mut pages);
    match &arguments.to {
        Some(folder) => write_all(&pages, folder, screen)?,
        None => screen.raw(&page(asked(&pages, arguments.command.as_deref())?)?)?,
    }
    Ok(Status::Clean)
}

/// A page: the name by which `man` finds it, and its command.
type Page<'c> = (String, &'c Command);

/// The page of a command, and those of its own commands.
fn add_pages<'c>(name: &str, command: &'c Command, pages: &mut Vec<Page<'c>>) {
    pages.push((name.to_string(), command));
    for inner in command.get_subcommands().filter(|inner| !inner.is_hide_set()) {
        add_pages(&format!("{name}-{}", inner.get_name()), inner, pages);
    }
}

/// The page that was asked for: `settings-set` is that of `hsieve settings set`.
fn asked<'p, 'c>(pages: &'p [Page<'c>], name: Option<&str>) -> anyhow::Result<&'p Page<'c>> {
    let Some(name) = name else { return Ok(&pages[0]) };
    let names = pages[1..].iter().map(|(title, _)| title.trim_start_matches("hsieve-"));
    match names.clone().position(|known| known == name) {
        Some(place) => Ok(&pages[place + 1]),
        None => usage(format!("there is no command \"{}\"{}", safe(name), nearest(name, names))),
    }
}

/// A page in roff.
fn page((title, command): &Page<'_>) -> anyhow::Result<Vec<u8>> {
    let mut text = Vec::new();
    // Without a date the same program gives the same page.
    let command = (*command).clone().version(env!("CARGO_PKG_VERSION"));
    Man::new(command).title(title).manual("Honest Sieve").date("").render(&mut text)?;
    Ok(text)
}

fn write_all(pages: &[Page<'_>], folder: &Path, screen: &mut Screen) -> anyhow::Result<()> {
    for one in pages {
        files::write(&folder.join(format!("{}.1", one.0)), &page(one)?)?;
    }
    let shown = safe(&folder.to_string_lossy());
    screen.line(format!("{shown}  {}", counted(pages.len(), "page", "pages")))
}
