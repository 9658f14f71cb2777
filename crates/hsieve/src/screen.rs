//! Standard output: colours, width, and text that is safe to show.

use std::borrow::Cow;
use std::io::{self, BufWriter, IsTerminal, Stdout, Write};

use anstream::{AutoStream, ColorChoice};
use anstyle::{AnsiColor, Style};
use sieve_engine::files::FileError;
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
    is_terminal: bool,
    /// The reader has seen enough and left.
    closed: bool,
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
            terminal_size::terminal_size().map_or(PLAIN_WIDTH, |(width, _)| usize::from(width.0).clamp(40, 120));
        let is_terminal = io::stdout().is_terminal();
        Screen { out: BufWriter::new(io::stdout()), colour, width, is_terminal, closed: false }
    }

    /// The columns there are.
    pub fn width(&self) -> usize {
        self.width
    }

    /// Whether colours reach the reader.
    pub fn in_colour(&self) -> bool {
        self.colour
    }

    /// Writes a line, or several. Whatever is in it, only our own styles reach the terminal.
    pub fn line(&mut self, text: impl AsRef<str>) -> anyhow::Result<()> {
        let text = harmless(text.as_ref().trim_end());
        if self.colour {
            return self.put(format!("{text}\n").as_bytes());
        }
        self.put(format!("{}\n", anstream::adapter::strip_str(&text)).as_bytes())
    }

    /// Writes an empty line.
    pub fn gap(&mut self) -> anyhow::Result<()> {
        self.line("")
    }

    /// Writes a document in its own bytes; on a terminal in a form that is safe there.
    pub fn raw(&mut self, bytes: &[u8]) -> anyhow::Result<()> {
        if self.is_terminal {
            return self.put(harmless(&String::from_utf8_lossy(bytes)).as_bytes());
        }
        self.put(bytes)
    }

    /// Writes a document for a program, which is of no use in part: a reader who leaves before its end fails the run.
    pub fn document(&mut self, bytes: &[u8]) -> anyhow::Result<()> {
        self.raw(bytes)?;
        self.finish()?;
        if self.closed {
            let cause = io::Error::other("its reader left before the end");
            return Err(FileError { path: "standard output".into(), doing: "write", cause }.into());
        }
        Ok(())
    }

    /// Writes everything out.
    pub fn finish(&mut self) -> anyhow::Result<()> {
        if self.closed {
            return Ok(());
        }
        let flushed = self.out.flush();
        self.noticed(flushed)
    }

    fn put(&mut self, bytes: &[u8]) -> anyhow::Result<()> {
        if self.closed {
            return Ok(());
        }
        let written = self.out.write_all(bytes);
        self.noticed(written)
    }

    /// A reader who leaves early changes nothing of the run and of its exit status.
    fn noticed(&mut self, result: io::Result<()>) -> anyhow::Result<()> {
        match result {
            Err(error) if error.kind() == io::ErrorKind::BrokenPipe => {
                self.closed = true;
                Ok(())
            }
            Err(cause) => Err(FileError { path: "standard output".into(), doing: "write", cause }.into()),
            Ok(()) => Ok(()),
        }
    }
}

/// Says on standard error what is wrong. That it cannot be said is no reason to fail.
pub fn complain(text: impl std::fmt::Display) {
    let _ = writeln!(io::stderr(), "hsieve: {}", safe(&text.to_string()));
}

/// Says several lines of our own on standard error, with styles where they are seen.
pub fn complain_styled(text: &str) {
    let _ = writeln!(anstream::stderr(), "{}", harmless(text));
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

/// A character of a file as it is shown, and the columns that it takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Cell {
    character: char,
    /// The columns.
    pub width: usize,
}

impl Cell {
    /// Appends what is shown.
    pub fn show(self, text: &mut String) {
        match self.character {
            '\t' => text.extend(std::iter::repeat_n(' ', self.width)),
            other if is_unsafe(other) => text.push_str(&escaped(other)),
            other => text.push(other),
        }
    }
}

/// Characters of a file as they are safe to show: tabs as spaces, control characters as escapes.
pub fn cells(text: &str) -> Vec<Cell> {
    let mut cells = Vec::with_capacity(text.len());
    let mut column = 0;
    for character in text.chars() {
        let width = match character {
            '\t' => TAB - column % TAB,
            other if is_unsafe(other) => escaped(other).len(),
            other => other.width().unwrap_or(1),
        };
        cells.push(Cell { character, width });
        column += width;
    }
    cells
}

/// Control characters could move the cursor or hide text; so could marks of writing direction and odd line ends.
pub fn is_unsafe(character: char) -> bool {
    character.is_control()
        || matches!(character, '\u{61c}' | '\u{200e}' | '\u{200f}' | '\u{2028}'..='\u{202e}' | '\u{2066}'..='\u{2069}')
}

/// How a character is shown that is not safe.
fn escaped(character: char) -> String {
    match character {
        '\n' => "\\n".into(),
        '\r' => "\\r".into(),
        '\t' => "\\t".into(),
        other if u32::from(other) < 0x100 => format!("\\x{:02x}", u32::from(other)),
        other => format!("\\u{{{:x}}}", u32::from(other)),
    }
}

/// Text of others (messages, names) in a form safe to show on one line.
pub fn safe(text: &str) -> String {
    if !text.contains(is_unsafe) {
        return text.to_string();
    }
    let shown = |character| if is_unsafe(character) { escaped(character) } else { String::from(character) };
    text.chars().map(shown).collect()
}

/// Text with line ends and styles of our own: anything else that could act on a terminal is escaped.
fn harmless(text: &str) -> Cow<'_, str> {
    let suspect = |character| is_unsafe(character) && character != '\n';
    if !text.contains(suspect) {
        return Cow::Borrowed(text);
    }
    let mut result = String::with_capacity(text.len());
    let mut rest = text;
    while let Some(at) = rest.find(suspect) {
        result.push_str(&rest[..at]);
        rest = &rest[at..];
        let length = style_length(rest);
        if length > 0 {
            result.push_str(&rest[..length]);
            rest = &rest[length..];
        } else if let Some(character) = rest.chars().next() {
            result.push_str(&escaped(character));
            rest = &rest[character.len_utf8()..];
        }
    }
    Cow::Owned(result + rest)
}

/// The length of a sequence that sets a style ("Select Graphic Rendition", ECMA-48) at the start of a text; 0 if there is none.
fn style_length(text: &str) -> usize {
    let Some(inner) = text.strip_prefix("\u{1b}[") else { return 0 };
    let end = inner.find(|character: char| !character.is_ascii_digit() && character != ';');
    end.filter(|end| inner[*end..].starts_with('m')).map_or(0, |end| end + 3)
}

/// The columns that text takes, styles not counted.
pub fn width(text: &str) -> usize {
    text.chars().map(|character| character.width().unwrap_or(0)).sum()
}

/// Text in so many columns, with `…` where it was cut: at its beginning or its end.
pub fn fitted(text: &str, columns: usize, keeps_end: bool) -> String {
    if width(text) <= columns {
        return text.to_string();
    }
    let mut kept = Vec::new();
    let mut left = columns.saturating_sub(1);
    let characters: Box<dyn Iterator<Item = char>> =
        if keeps_end { Box::new(text.chars().rev()) } else { Box::new(text.chars()) };
    for character in characters {
        let wide = width(character.encode_utf8(&mut [0; 4]));
        if wide > left {
            break;
        }
        left -= wide;
        kept.push(character);
    }
    if keeps_end {
        kept.push('…');
        kept.reverse();
    } else {
        kept.push('…');
    }
    kept.into_iter().collect()
}

/// Text broken into lines of at most `width` columns, at whitespace.
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

/// Each level of findings with the words for one of them and for several, the serious ones first.
pub const LEVELS: [(Level, &str, &str); 3] =
    [(Level::Error, "error", "errors"), (Level::Warning, "warning", "warnings"), (Level::Note, "note", "notes")];

/// "2 errors, 1 warning": the levels of which there are findings.
pub fn by_level(count: impl Fn(Level) -> usize) -> String {
    let counts = LEVELS.map(|(level, one, many)| (count(level), one, many));
    let counts = counts.into_iter().filter(|(count, ..)| *count > 0);
    counts.map(|(count, one, many)| counted(count, one, many)).collect::<Vec<String>>().join(", ")
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
        let widths = |text: &str| cells(text).iter().map(|cell| cell.width).collect::<Vec<usize>>();
        assert_eq!(widths("a\t漢b"), [1, 3, 2, 1]);
        assert_eq!(widths("\u{1b}\u{202e}"), [4, 8]);
    }

    #[test]
    fn what_could_act_on_a_terminal_is_escaped() {
        assert_eq!(safe("a\u{1b}[31mb\n\u{9b}\u{7f}\u{202e}"), "a\\x1b[31mb\\n\\x9b\\x7f\\u{202e}");
        let own = styled(STRONG, "tide");
        assert_eq!(harmless(&format!("{own}\n\u{1b}]0;x\u{7}")), format!("{own}\n\\x1b]0;x\\x07"));
    }

    #[test]
    fn numbers_are_grouped() {
        assert_eq!(grouped(38120), "38 120");
        assert_eq!(grouped(7), "7");
    }

    #[test]
    fn long_text_is_cut_at_either_end() {
        assert_eq!(fitted("booking/fares.py", 20, true), "booking/fares.py");
        assert_eq!(fitted("booking/fares.py", 9, true), "…fares.py");
        assert_eq!(fitted("the 潮 is high", 6, false), "the …");
    }
}
