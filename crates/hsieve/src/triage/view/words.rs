//! Words and margins that several parts of the picture have.

use ratatui::style::Style;
use ratatui::text::{Line, Span};

use crate::screen::{cells, safe, wrapped};

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

/// The columns of a line that are shown.
pub(super) struct Window {
    /// So many are passed over.
    pub(super) skip: usize,
    /// For so many there is room.
    pub(super) room: usize,
}

impl Window {
    /// What of some text falls into them.
    pub(super) fn of(&mut self, text: &str) -> String {
        let mut shown = String::new();
        for cell in cells(text) {
            if self.skip > 0 {
                self.skip = self.skip.saturating_sub(cell.width);
            } else if cell.width <= self.room {
                self.room -= cell.width;
                cell.show(&mut shown);
            } else {
                self.room = 0;
            }
        }
        shown
    }
}
