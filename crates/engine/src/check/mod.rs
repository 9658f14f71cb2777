//! One text: parsed, named, given to the rules, and its waivers; what comes of that is a report of this file alone.

mod ask;
mod house;
mod layers;
pub(crate) mod load;
mod one_file;
mod schemas;
mod text;
pub(crate) mod view;

pub(crate) use one_file::{FileResult, OneFile};
pub(crate) use text::sift_tree;
pub use text::{FileOutcome, sift_text};
