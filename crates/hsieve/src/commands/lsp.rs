//! `hsieve lsp`

use std::fs::OpenOptions;

use anyhow::Context;

use crate::arguments::LspArguments;
use crate::server;
use crate::status::Status;

/// Serves an editor until it says that it is done.
pub fn run(arguments: &LspArguments) -> anyhow::Result<Status> {
    let log = arguments.log.as_ref().map(|path| {
        let opened = OpenOptions::new().create(true).append(true).open(path);
        opened.with_context(|| format!("the log {} cannot be written", path.display()))
    });
    let was_asked = server::serve(log.transpose()?);
    Ok(if was_asked { Status::Clean } else { Status::Findings })
}
