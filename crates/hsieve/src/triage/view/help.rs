//! The keys, in place of the list.

use ratatui::text::{Line, Span};

use crate::screen::{fitted, width};
use crate::terminal::Palette;
use crate::triage::keys::BINDINGS;

/// Columns for the name of a key.
const NAME: usize = 13;

pub(super) fn lines(columns: u16, palette: Palette) -> Vec<Line<'static>> {
    let told = BINDINGS.iter().filter(|binding| !binding.about.is_empty());
    let line = |binding: &crate::triage::keys::Binding| {
        let pad = " ".repeat(NAME.saturating_sub(width(binding.name)));
        let about = fitted(binding.about, usize::from(columns).saturating_sub(NAME + 1), false);
        Line::from(vec![Span::styled(format!(" {}{pad}", binding.name), palette.key()), Span::raw(about)])
    };
    told.map(line).collect()
}
