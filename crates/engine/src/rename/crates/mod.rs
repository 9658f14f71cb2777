//! Items of crates, which paths name from any file: functions, types, traits, constants ("Paths" and "Use declarations", The Rust Reference).

mod lookup;
mod members;
mod mention;
mod modules;
mod moves;
mod target;
#[cfg(test)]
mod tests;
mod uses;

pub(super) use members::{may_be_member, member};
pub(super) use moves::moves;
pub(super) use uses::{origin, spread};
