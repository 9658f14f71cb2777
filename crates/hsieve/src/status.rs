//! How a run ends: its exit status and its last words.

use std::process::ExitCode;

use sieve_engine::baseline::ReadError;
use sieve_engine::files::FileError;
use sieve_engine::settings::SettingsError;

use crate::screen::{complain, complain_styled, safe};

/// The exit status of a run.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Status {
    /// Nothing at or above the failing level.
    Clean = 0,
    /// Findings at or above it, or, with a preview, a fix to apply.
    Findings = 1,
    /// Wrong usage or wrong settings.
    Usage = 2,
    /// Something could not be read, written or run.
    Failed = 3,
}

/// A mistake in how the program was called: what is wrong, and perhaps lines that say more.
#[derive(Debug)]
pub struct UsageError(Vec<String>);

impl std::fmt::Display for UsageError {
    fn fmt(&self, out: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        out.write_str(&self.0.join("\n"))
    }
}

impl std::error::Error for UsageError {}

/// A mistake in usage, as an error.
pub fn usage<T>(message: impl Into<String>) -> anyhow::Result<T> {
    Err(UsageError(vec![message.into()]).into())
}

/// A mistake in usage that takes several lines to tell.
pub fn usage_in_lines<T>(lines: Vec<String>) -> anyhow::Result<T> {
    Err(UsageError(lines).into())
}

/// Says what went wrong, if anything, and gives the exit status.
pub fn exit(outcome: anyhow::Result<Status>) -> ExitCode {
    let status = match outcome {
        Ok(status) => status,
        Err(error) => {
            let is_bare = error.chain().count() == 1;
            match (error.downcast_ref::<FileError>().filter(|_| is_bare), error.downcast_ref::<UsageError>()) {
                (Some(error), _) => complain(error.from_here()),
                (_, Some(UsageError(lines))) => {
                    complain(&lines[0]);
                    lines[1..].iter().for_each(|line| complain_styled(&safe(line)));
                }
                _ => complain(format!("{error:#}")),
            }
            status_of(&error)
        }
    };
    ExitCode::from(status as u8)
}

fn status_of(error: &anyhow::Error) -> Status {
    let wrong_settings = error.is::<SettingsError>() || matches!(error.downcast_ref(), Some(ReadError::Content(_)));
    if wrong_settings || error.is::<UsageError>() { Status::Usage } else { Status::Failed }
}
