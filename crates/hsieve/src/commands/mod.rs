//! One file for each command.

pub mod baseline;
pub mod completions;
pub mod demo;
pub mod explain;
pub mod fix;
pub mod rules;
pub mod settings;
pub mod sift;
pub mod tree;
pub mod waive;
pub mod waivers;
