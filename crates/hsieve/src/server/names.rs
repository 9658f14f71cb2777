//! Commands by name, and the files that they are run for.

use std::path::PathBuf;

use serde_json::Value;

use super::session::file_of;
use super::wire::Fault;

/// Applies all exact fixes in a file: of one rule, if it is named.
pub const FIX_ALL: &str = "sieve.fixAll";
/// Selects a stretch of a file.
pub const SELECT: &str = "sieve.select";
/// Records a finding in the baseline.
pub const RECORD: &str = "sieve.record";
/// Shows the page of a rule.
pub const EXPLAIN: &str = "sieve.explain";
/// Looks at everything.
pub const SIFT_PROJECT: &str = "sieve.siftProject";
/// Lists the places in a file that could not be decided.
pub const UNSURE: &str = "sieve.unsure";

/// All of them.
pub const COMMANDS: &[&str] = &[FIX_ALL, SELECT, RECORD, EXPLAIN, SIFT_PROJECT, UNSURE];

/// The path of a file that an argument of a command names.
pub fn argument_path(argument: Option<&Value>) -> Result<PathBuf, Fault> {
    let uri = argument.and_then(Value::as_str).and_then(|uri| uri.parse().ok());
    let uri = uri.ok_or_else(|| Fault::new(Fault::INVALID_PARAMS, "the command needs the URI of a file"))?;
    file_of(&uri)
}
