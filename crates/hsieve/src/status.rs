//! How a run ends: its exit status and its last words.

use std::io;
use std::process::ExitCode;

use sieve_engine::baseline::ReadError;
use sieve_engine::files::FileError;
use sieve_engine::settings::SettingsError;

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

/// A mistake in how the program was called.
#[derive(Debug)]
pub struct UsageError(pub String);

impl std::fmt::Display for UsageError {
    fn fmt(&self, out: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        out.write_str(&self.0)
    }
}

impl std::error::Error for UsageError {}

/// A mistake in usage, as an error.
pub fn usage<T>(message: impl Into<String>) -> anyhow::Result<T> {
    Err(UsageError(message.into()).into())
}

/// Says what went wrong, if anything, and gives the exit status.
pub fn exit(outcome: anyhow::Result<Status>) -> ExitCode {
    let status = match outcome {
        Ok(status) => status,
        Err(error) if is_closed_pipe(&error) => Status::Clean,
        Err(error) => {
            match error.downcast_ref::<FileError>() {
                Some(error) => eprintln!("hsieve: {}", error.from_here()),
                None => eprintln!("hsieve: {error:#}"),
            }
            status_of(&error)
        }
    };
    ExitCode::from(status as u8)
}

/// Who reads our output has seen enough and left: that is no error of ours.
fn is_closed_pipe(error: &anyhow::Error) -> bool {
    error.downcast_ref::<io::Error>().is_some_and(|error| error.kind() == io::ErrorKind::BrokenPipe)
}

fn status_of(error: &anyhow::Error) -> Status {
    let wrong_settings = error.is::<SettingsError>() || matches!(error.downcast_ref(), Some(ReadError::Content(_)));
    if wrong_settings || error.is::<UsageError>() { Status::Usage } else { Status::Failed }
}
