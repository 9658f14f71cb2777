//! Words and margins that several parts of the picture have.

use ratatui::style::Style;
use ratatui::text::{Line, Span};

use crate::screen::{safe, wrapped};

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
