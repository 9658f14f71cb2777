//! One file for each command.

pub mod baseline;
pub mod completions;
pub mod demo;
pub mod explain;
pub mod find;
pub mod fix;
pub mod hook;
pub mod init;
mod init_proposal;
pub mod lsp;
pub mod merge;
pub mod pack;
pub mod rename;
pub mod report;
mod review;
pub mod rules;
pub mod settings;
mod settings_change;
mod shard;
pub mod sift;
mod tell;
pub mod tree;
pub mod triage;
pub mod waive;
pub mod waivers;
pub mod watch;
