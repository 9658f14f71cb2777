//! A terminal that is taken over whole: keys as they are pressed, a screen of its own, and afterwards everything as it was.

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
use ratatui::style::{Color, Modifier, Style};
use ratatui::{Frame, Terminal};
use sieve_rules::Level;
use sieve_syntax::tree::TokenClass;

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
        // From here on it is told when the size changes: before the first picture, so that no change is missed.
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

/// The styles of a full screen: with colours, or with what a terminal without them can show.
#[derive(Debug, Clone, Copy)]
pub struct Palette {
    /// Whether there are colours.
    pub colour: bool,
}

impl Palette {
    fn coloured(self, color: Color) -> Style {
        if self.colour { Style::new().fg(color) } else { Style::new() }
    }

    /// What the eye is to find.
    pub fn strong(self) -> Style {
        Style::new().add_modifier(Modifier::BOLD)
    }

    /// What matters less.
    pub fn faint(self) -> Style {
        Style::new().add_modifier(Modifier::DIM)
    }

    /// What the next key acts on.
    pub fn selected(self) -> Style {
        Style::new().add_modifier(Modifier::REVERSED)
    }

    /// A key that can be pressed.
    pub fn key(self) -> Style {
        self.coloured(Color::Green).add_modifier(Modifier::BOLD)
    }

    /// What needs attention before the next key.
    pub fn alert(self) -> Style {
        self.coloured(Color::Yellow).add_modifier(Modifier::BOLD)
    }

    /// The word of a level.
    pub fn level(self, level: Level) -> Style {
        match level {
            Level::Error => self.coloured(Color::Red).add_modifier(Modifier::BOLD),
            Level::Warning => self.coloured(Color::Yellow).add_modifier(Modifier::BOLD),
            Level::Note => self.coloured(Color::Cyan).add_modifier(Modifier::BOLD),
            Level::Off => self.faint(),
        }
    }

    /// A line that goes.
    pub fn removed(self) -> Style {
        self.coloured(Color::Red)
    }

    /// A line that comes.
    pub fn added(self) -> Style {
        self.coloured(Color::Green)
    }

    /// A token of code.
    pub fn code(self, class: TokenClass) -> Style {
        match class {
            TokenClass::Comment => self.faint(),
            TokenClass::String => self.coloured(Color::Green),
            TokenClass::Number => self.coloured(Color::Magenta),
            TokenClass::Keyword => self.coloured(Color::Blue).add_modifier(Modifier::BOLD),
            TokenClass::Plain => Style::new(),
        }
    }
}
