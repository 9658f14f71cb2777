//! Words and margins that several parts of the picture have.

use ratatui::style::Style;
use ratatui::text::{Line, Span};

use crate::screen::{safe, width, wrapped};

/// Columns before code and words.
pub(super) const MARGIN: usize = 9;

pub(super) fn margin() -> Span<'static> {
    Span::raw(" ".repeat(MARGIN))
}

/// Words after a label, broken into lines.
pub(super) fn said(label: &str, words: &str, columns: usize, style: Style) -> Vec<Line<'static>> {
    let room = columns.saturating_sub(MARGIN + 1).clamp(20, 100);
    let lines = wrapped(&format!("{label}{}", safe(words)), room);
    lines.into_iter().map(|line| Line::from(vec![margin(), Span::styled(line, style)])).collect()
}

/// Text in so many columns, with `…` where it was cut: at its beginning or its end.
pub(super) fn fitted(text: &str, columns: usize, keeps_end: bool) -> String {
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn long_text_is_cut_at_either_end() {
        assert_eq!(fitted("booking/fares.py", 20, true), "booking/fares.py");
        assert_eq!(fitted("booking/fares.py", 9, true), "…fares.py");
        assert_eq!(fitted("the 潮 is high", 6, false), "the …");
    }
}
