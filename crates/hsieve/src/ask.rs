//! Questions with yes or no, answered on standard input.

use std::io::{BufRead, IsTerminal};

use crate::screen::{STRONG, Screen, styled};

/// Asks until there is an answer; the end of the input means no.
pub fn agree(question: &str, screen: &mut Screen) -> anyhow::Result<bool> {
    loop {
        screen.line(format!("{}  y yes · n no", styled(STRONG, question)))?;
        screen.finish()?;
        let mut answer = String::new();
        if std::io::stdin().lock().read_line(&mut answer)? == 0 {
            return Ok(false);
        }
        match answer.trim() {
            "y" | "yes" => return Ok(true),
            "n" | "no" => return Ok(false),
            _ => {}
        }
    }
}

/// Whether somebody is there to answer.
pub fn can_ask() -> bool {
    std::io::stdin().is_terminal() && std::io::stdout().is_terminal()
}
