//! Differences between two versions of a file, in colour.

use crate::screen::{FAINT, STRONG, safe, styled};

/// The diff for eyes: what goes and what comes in different colours.
pub fn coloured(diff: &[u8]) -> String {
    let text = String::from_utf8_lossy(diff);
    let lines: Vec<String> = text.lines().map(coloured_line).collect();
    lines.join("\n")
}

fn coloured_line(line: &str) -> String {
    use anstyle::{AnsiColor, Style};
    let colour = |colour: AnsiColor| Style::new().fg_color(Some(colour.into()));
    let line = safe(line);
    let style = match line.as_bytes().first() {
        _ if line.starts_with("--- ") || line.starts_with("+++ ") => STRONG,
        Some(b'@') => FAINT,
        Some(b'-') => colour(AnsiColor::Red),
        Some(b'+') => colour(AnsiColor::Green),
        _ => return line,
    };
    let text = line.trim_end_matches([' ', '\t']);
    let whitespace = &line[text.len()..];
    // Whitespace that comes or goes at the end of a line would not be seen otherwise.
    let whitespace = if matches!(line.as_bytes().first(), Some(b'-' | b'+')) {
        styled(style.invert(), whitespace)
    } else {
        String::new()
    };
    styled(style, text) + &whitespace
}
