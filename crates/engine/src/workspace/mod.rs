//! The code base: which files there are, whose they are, and which of them an import means.

pub mod discover;
pub(crate) mod modules;
pub(crate) mod once;
pub mod owners;
pub(crate) mod shares;
pub(crate) mod walk;
