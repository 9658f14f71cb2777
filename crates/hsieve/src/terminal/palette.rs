//! Styles, with colours and without.

use ratatui::style::{Color, Modifier, Style};
use sieve_rules::Level;
use sieve_syntax::tree::TokenClass;

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
