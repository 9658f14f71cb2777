//! Parts that all full screens have.

use ratatui::Frame;
use ratatui::layout::{Constraint, Layout, Rect};
use ratatui::style::Style;
use ratatui::text::{Line, Span};
use ratatui::widgets::Paragraph;
use sieve_engine::outcome::Finding;

use super::Palette;
use crate::screen::{fitted, safe, width};

/// Columns of a row before its words.
const BEFORE: usize = 11;

/// Draws the lines between a head of one line, the middle, and so many lines at the foot; where these three are.
pub fn frame_of(frame: &mut Frame<'_>, foot: u16, palette: Palette) -> [Rect; 3] {
    let line = Constraint::Length(1);
    let rows = [line, line, Constraint::Min(0), line, Constraint::Length(foot)];
    let [head, above, middle, below, foot] = Layout::vertical(rows).areas(frame.area());
    for area in [above, below] {
        frame.render_widget(Paragraph::new(Line::styled("─".repeat(area.width.into()), palette.faint())), area);
    }
    [head, middle, foot]
}

/// Words at the left, and fainter ones at the right.
pub fn both_sides(mut left: Vec<Span<'static>>, right: String, columns: usize, palette: Palette) -> Line<'static> {
    let used: usize = left.iter().map(|part| width(&part.content)).sum();
    let gap = columns.saturating_sub(used + width(&right) + 1).max(2);
    left.push(Span::raw(" ".repeat(gap)));
    left.push(Span::styled(right, palette.faint()));
    Line::from(left)
}

/// The head of a group: its name, cut at its beginning where it is long, and a number at the right.
pub fn group(name: &str, count: String, columns: usize, palette: Palette) -> Line<'static> {
    let name = fitted(&safe(name), columns.saturating_sub(width(&count) + 3), true);
    let gap = " ".repeat(columns.saturating_sub(width(&name) + width(&count) + 2));
    Line::from(vec![
        Span::styled(format!(" {name}"), palette.strong()),
        Span::styled(format!("{gap}{count}"), palette.faint()),
    ])
}

/// A finding: a mark, a word with its style, and what is said of it with another.
pub fn row(mark: &str, word: (&str, Style), said: (&str, Style), columns: usize, palette: Palette) -> Line<'static> {
    Line::from(vec![
        Span::styled(format!("{mark} "), palette.strong()),
        Span::styled(format!("{:<8}", word.0), word.1),
        Span::raw(" "),
        Span::styled(fitted(said.0, columns.saturating_sub(BEFORE), false), said.1),
    ])
}

/// Where a finding is in its file.
pub fn place(finding: &Finding) -> String {
    format!("{:>4}:{:<3}", finding.start.line, finding.start.column)
}

/// Keys with what they do.
pub fn keys<'k>(keys: impl Iterator<Item = (&'k str, &'k str)>, palette: Palette) -> Line<'static> {
    Line::from_iter(
        keys.flat_map(|(key, word)| [Span::styled(format!(" {key}"), palette.key()), Span::raw(format!(" {word} "))]),
    )
}
