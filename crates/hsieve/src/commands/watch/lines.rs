//! Changes told one after the other: for pipes and logs.

use super::block::Block;
use super::known::{Difference, Known};
use super::look::Teller;
use crate::screen::{FAINT, STRONG, Screen, complain, counted, styled};

/// A block for each change, as lines or as an object of JSON.
pub struct Lines<'s> {
    as_json: bool,
    screen: &'s mut Screen,
}

impl<'s> Lines<'s> {
    /// Tells what there is at the start.
    pub fn begin(as_json: bool, known: &Known, screen: &'s mut Screen) -> anyhow::Result<Lines<'s>> {
        if as_json {
            Block { changed: &[], difference: &Difference::default(), known }.write(true, screen)?;
        } else {
            let watched = format!("Watching {}", counted(known.sifted, "file", "files"));
            let found = format!("{}; Ctrl-C ends it", counted(known.count(), "finding", "findings"));
            screen.line(format!("{}  {}", styled(STRONG, &watched), styled(FAINT, &found)))?;
            screen.finish()?;
        }
        Ok(Lines { as_json, screen })
    }
}

impl Teller for Lines<'_> {
    fn tell(&mut self, changed: &[String], difference: &Difference, known: &Known) -> anyhow::Result<()> {
        Block { changed, difference, known }.write(self.as_json, self.screen)
    }

    fn complain(&mut self, words: String) {
        complain(words);
    }
}
