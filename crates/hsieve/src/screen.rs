//! Standard output: colours, width, and text that is safe to show.

use std::io::{self, BufWriter, Stdout, Write};

use anstream::{AutoStream, ColorChoice};
use anstyle::{AnsiColor, Style};
use sieve_rules::Level;
use unicode_width::UnicodeWidthChar;

use crate::arguments::When;

/// Columns between tab stops where code is shown.
const TAB: usize = 4;

/// The width where output is no terminal.
const PLAIN_WIDTH: usize = 100;

/// Standard output.
pub struct Screen {
    out: BufWriter<Stdout>,
    colour: bool,
    width: usize,
}

impl Screen {
    /// Output in colour, or not.
    pub fn new(color: When) -> Screen {
        let colour = match color {
            When::Always => true,
            When::Never => false,
            When::Auto => AutoStream::choice(&io::stdout()) != ColorChoice::Never,
        };
        let width =
            terminal_size::terminal_size().map_or(PLAIN_WIDTH, |(width, _)| usize::from(width.0).clamp(60, 120));
        Screen { out: BufWriter::new(io::stdout()), colour, width }
    }

    /// The columns there are.
    pub fn width(&self) -> usize {
        self.width
    }

    /// Whether colours reach the reader.
    pub fn in_colour(&self) -> bool {
        self.colour
    }

    /// Writes a line.
    pub fn line(&mut self, text: impl AsRef<str>) -> anyhow::Result<()> {
        let text = text.as_ref().trim_end();
        if self.colour {
            return Ok(writeln!(self.out, "{text}")?);
        }
        Ok(writeln!(self.out, "{}", anstream::adapter::strip_str(text))?)
    }

    /// Writes an empty line.
    pub fn gap(&mut self) -> anyhow::Result<()> {
        self.line("")
    }

    /// Writes text as it is, without changing a byte.
    pub fn raw(&mut self, bytes: &[u8]) -> anyhow::Result<()> {
        Ok(self.out.write_all(bytes)?)
    }

    /// Writes everything out.
    pub fn finish(&mut self) -> anyhow::Result<()> {
        Ok(self.out.flush()?)
    }
}

/// Text in a style.
pub fn styled(style: Style, text: &str) -> String {
    if text.is_empty() { String::new() } else { format!("{style}{text}{style:#}") }
}

/// The style of a level's word.
pub fn level_style(level: Level) -> Style {
    match level {
        Level::Error => Style::new().bold().fg_color(Some(AnsiColor::Red.into())),
        Level::Warning => Style::new().bold().fg_color(Some(AnsiColor::Yellow.into())),
        Level::Note => Style::new().bold().fg_color(Some(AnsiColor::Cyan.into())),
        Level::Off => FAINT,
    }
}

/// What matters less.
pub const FAINT: Style = Style::new().dimmed();

/// What the eye is to find.
pub const STRONG: Style = Style::new().bold();

/// Commands and settings to type.
pub const TYPED: Style = Style::new().fg_color(Some(anstyle::Color::Ansi(AnsiColor::Green)));

/// Characters of a file as they are safe to show, each with its width: tabs as blanks, control characters as signs for them.
pub fn shown(text: &str) -> Vec<(char, usize)> {
    let mut cells = Vec::with_capacity(text.len());
    let mut column = 0;
    for character in text.chars() {
        if character == '\t' {
            let width = TAB - column % TAB;
            cells.push((' ', width));
            column += width;
            continue;
        }
        let visible = if is_unsafe(character) { '\u{fffd}' } else { character };
        let width = visible.width().unwrap_or(1);
        cells.push((visible, width));
        column += width;
    }
    cells
}

/// Control characters could move the cursor or hide text; so could marks of writing direction.
fn is_unsafe(character: char) -> bool {
    character.is_control()
        || matches!(character, '\u{200e}' | '\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}')
}

/// Text of others (messages, names) in a form safe to show on one line.
pub fn safe(text: &str) -> String {
    text.chars().map(|character| if is_unsafe(character) { '\u{fffd}' } else { character }).collect()
}

/// The columns that text takes, styles not counted.
pub fn width(text: &str) -> usize {
    text.chars().map(|character| character.width().unwrap_or(0)).sum()
}

/// Text broken into lines of at most `width` columns, at blanks.
pub fn wrapped(text: &str, columns: usize) -> Vec<String> {
    let mut lines = vec![String::new()];
    for word in text.split_whitespace() {
        let line = lines.last_mut().expect("there is always a line");
        if line.is_empty() {
            line.push_str(word);
        } else if width(line) + 1 + width(word) <= columns {
            line.push(' ');
            line.push_str(word);
        } else {
            lines.push(word.to_string());
        }
    }
    lines
}

/// A number with a thin gap between its thousands.
pub fn grouped(number: usize) -> String {
    let digits = number.to_string();
    let mut text = String::new();
    for (index, digit) in digits.chars().enumerate() {
        if index > 0 && (digits.len() - index).is_multiple_of(3) {
            text.push(' ');
        }
        text.push(digit);
    }
    text
}

/// "1 error", "2 errors".
pub fn counted(number: usize, one: &str, many: &str) -> String {
    format!("{} {}", grouped(number), if number == 1 { one } else { many })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tabs_and_wide_characters_have_their_width() {
        let widths: Vec<usize> = shown("a\t漢b").iter().map(|(_, width)| *width).collect();
        assert_eq!(widths, [1, 3, 2, 1]);
    }

    #[test]
    fn escape_sequences_are_not_shown_as_such() {
        assert_eq!(safe("a\u{1b}[31mb"), "a\u{fffd}[31mb");
    }

    #[test]
    fn numbers_are_grouped() {
        assert_eq!(grouped(38120), "38 120");
        assert_eq!(grouped(7), "7");
    }
}
