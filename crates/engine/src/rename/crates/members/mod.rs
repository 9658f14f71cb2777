//! Members of types in crates: fields, functions and constants that are found through a type or a value of it.
//!
//! Types are followed from what declarations write: fields, parameters, results, the arguments of types, what the best known types of the
//! library make of theirs. What an expression is that nothing says stays unknown, and refuses the renaming where it matters.

mod checks;
mod expression;
mod library;
mod lookup;
mod member;
mod path;
mod target;
#[cfg(test)]
mod tests;
mod tokens;
mod types;
mod uses;
mod variable;
mod written;

use crate::rename::source::{Sources, View};
use crate::rename::{Edits, RenameRequest, Renamed};

use super::lookup::Lookup;
use super::uses::modules_around;
use lookup::World;
pub(in crate::rename) use target::may_be_member;

/// Renames the member that is named at a place, with all that has to be called as it is.
pub(in crate::rename) fn member(
    sources: &Sources,
    views: &[View<'_>],
    home: usize,
    asked: &RenameRequest<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    let modules = modules_around(sources, views, home);
    let paths = Lookup::new(views, &modules);
    let world = World::of(&paths);
    let file = views[home].file;
    let Some(offset) = file.text.lines().offset(file.text.source(), asked.place) else { return Ok(()) };
    let name = file.tree.token_span(file.tree.token_at(offset));
    let old = file.text.slice(name).to_string();
    let renamed = target::of(&world, (home, name), &old, asked)?;
    checks::may_be_renamed(&world, &renamed, &old, asked)?;
    let uses = uses::all(&world, &renamed, &old);
    checks::are_known(&world, &renamed, &uses, &old, asked)?;
    checks::is_free(&world, &renamed, &old, asked.new)?;
    uses.place(&renamed, asked, edits);
    Ok(())
}
