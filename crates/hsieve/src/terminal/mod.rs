//! A terminal that is taken over whole: keys as they are pressed, a screen of its own, and afterwards everything as it was.

mod palette;
pub mod parts;

use std::io::{self, Stdout};
use std::sync::Once;
use std::time::Duration;

use ratatui::backend::CrosstermBackend;
use ratatui::crossterm::cursor::{Hide, Show};
use ratatui::crossterm::event;
use ratatui::crossterm::execute;
use ratatui::crossterm::terminal::{
    Clear, ClearType, EnterAlternateScreen, LeaveAlternateScreen, disable_raw_mode, enable_raw_mode,
};
use ratatui::{Frame, Terminal};

pub use palette::Palette;

/// The terminal while it is taken.
pub struct FullScreen {
    terminal: Terminal<CrosstermBackend<Stdout>>,
}

impl FullScreen {
    /// Takes the terminal. It is given back when this is dropped, and when the program panics.
    pub fn take() -> io::Result<FullScreen> {
        static HOOK: Once = Once::new();
        HOOK.call_once(|| {
            let before = std::panic::take_hook();
            std::panic::set_hook(Box::new(move |panic| {
                give_back();
                before(panic);
            }));
        });
        enter()?;
        // Installs the handler for changes of the size before the first picture, so that none is missed.
        event::poll(Duration::ZERO)?;
        Ok(FullScreen { terminal: Terminal::new(CrosstermBackend::new(io::stdout()))? })
    }

    /// Draws one picture.
    pub fn draw(&mut self, draw: impl FnOnce(&mut Frame<'_>)) -> io::Result<()> {
        self.terminal.draw(draw).map(drop)
    }

    /// Gives the terminal to somebody else for a while.
    pub fn aside<T>(&mut self, work: impl FnOnce() -> T) -> io::Result<T> {
        give_back();
        let result = work();
        enter()?;
        self.begin_again()?;
        Ok(result)
    }

    /// Draws the next picture whole: what is on the screen now is not known. Unlike the library's own way this asks the terminal for
    /// nothing: not all of them answer.
    pub fn begin_again(&mut self) -> io::Result<()> {
        execute!(io::stdout(), Clear(ClearType::All))?;
        self.terminal = Terminal::new(CrosstermBackend::new(io::stdout()))?;
        Ok(())
    }

    /// Stops the program, as Ctrl-Z does elsewhere, until the shell lets it go on.
    pub fn stop(&mut self) -> io::Result<()> {
        #[cfg(unix)]
        self.aside(|| {
            use rustix::process::{Signal, getpid, kill_process};
            kill_process(getpid(), Signal::TSTP)
        })??;
        Ok(())
    }
}

impl Drop for FullScreen {
    fn drop(&mut self) {
        give_back();
    }
}

fn enter() -> io::Result<()> {
    enable_raw_mode()?;
    execute!(io::stdout(), EnterAlternateScreen, Hide).inspect_err(|_| give_back())
}

/// A terminal that is gone cannot be given back.
fn give_back() {
    let _ = execute!(io::stdout(), Show, LeaveAlternateScreen);
    let _ = disable_raw_mode();
}
