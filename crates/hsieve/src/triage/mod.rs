//! Findings worked through one by one, on a screen that shows all of them.

mod acts;
mod editor;
mod input;
mod item;
mod items;
mod keys;
mod list;
mod session;
mod source;
mod view;
mod work;

use std::time::Duration;

use ratatui::crossterm::event::{self, Event, KeyEventKind};

use crate::terminal::{FullScreen, Palette};
use session::{After, Job, Session};

pub use item::{State, Way};
pub use work::{Chosen, Work};

/// Shows the findings and does what the keys say, until the user leaves. Gives back what was done.
pub fn go_on(work: Work, palette: Palette) -> anyhow::Result<Work> {
    let mut terminal = FullScreen::take()?;
    let mut session = Session::new(work);
    loop {
        terminal.draw(|frame| view::draw(frame, &mut session, palette))?;
        // A key that is held down comes faster than pictures can be drawn.
        let mut next = After::Go;
        while next == After::Go {
            match event::read()? {
                Event::Key(key) if key.kind != KeyEventKind::Release => next = session.key(key),
                Event::Resize(..) => terminal.begin_again()?,
                _ => {}
            }
            if !event::poll(Duration::ZERO)? {
                break;
            }
        }
        match next {
            After::Go => {}
            After::Quit => return Ok(session.work),
            After::Stop => terminal.stop()?,
            After::Work(job) => work_on(&mut session, &job, &mut terminal, palette)?,
            After::Edit(path, line) => {
                let result = terminal.aside(|| editor::open(&path, line))?;
                session.edited(&path, result);
            }
        }
    }
}

fn work_on(session: &mut Session, job: &Job, terminal: &mut FullScreen, palette: Palette) -> anyhow::Result<()> {
    session.message = Some(("working…".into(), false));
    terminal.draw(|frame| view::draw(frame, session, palette))?;
    session.work(job);
    Ok(())
}
