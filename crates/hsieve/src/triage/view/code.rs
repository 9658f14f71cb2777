//! Lines of code around a place, with a mark under it.

use ratatui::text::{Line, Span};
use sieve_engine::outcome::Finding;

use super::words::{MARGIN, Window, margin};
use crate::screen::{cells, safe, width, wrapped};
use crate::terminal::Palette;
use crate::triage::source::Source;

/// The longest mark under a place, in columns.
const LONGEST_MARK: usize = 60;

/// The line of a finding and so many around it; the message is beside the mark if it fits, else below.
pub(super) fn lines(
    finding: &Finding,
    source: &Source,
    around: u32,
    columns: usize,
    palette: Palette,
) -> Vec<Line<'static>> {
    let room = columns.saturating_sub(MARGIN).max(10);
    let marked = finding.start.line;
    let mut lines = Vec::new();
    // All lines are shifted alike, so that indentation stays true.
    let shift = shift_of(finding, source, room);
    for line in marked.saturating_sub(around).max(1)..=(marked + around).min(source.count()) {
        let near = if line == marked { finding.span.start } else { 0 };
        let parts = source.line(line, near);
        let mut spans = vec![Span::styled(format!("{line:>7}  "), palette.faint())];
        let mut left = Window { skip: if line == marked { shift } else { 0 }, room };
        for part in &parts {
            let text = left.of(part.text);
            spans.push(Span::styled(text, palette.code(part.class)));
        }
        lines.push(Line::from(spans));
        if line == marked {
            lines.extend(mark(finding, source, shift, room, palette));
        }
    }
    lines
}

/// Columns between the beginning of the line, as far as it is shown, and the finding.
fn before(finding: &Finding, source: &Source) -> usize {
    let parts = source.line(finding.start.line, finding.span.start);
    let text: String = parts
        .iter()
        .flat_map(|part| part.text.char_indices().filter(|(at, _)| part.span.start + (*at as u32) < finding.span.start))
        .map(|(_, character)| character)
        .collect();
    cells(&text).iter().map(|cell| cell.width).sum()
}

fn shift_of(finding: &Finding, source: &Source, room: usize) -> usize {
    let before = before(finding, source);
    if before > room * 2 / 3 { before - room / 3 } else { 0 }
}

fn mark(finding: &Finding, source: &Source, shift: usize, room: usize, palette: Palette) -> Vec<Line<'static>> {
    let at = before(finding, source) - shift;
    let parts = source.line(finding.start.line, finding.span.start);
    let flagged: String = parts
        .iter()
        .flat_map(|part| part.text.char_indices().map(|(at, character)| (part.span.start + at as u32, character)))
        .filter(|(at, _)| (finding.span.start..finding.span.end).contains(at))
        .map(|(_, character)| character)
        .collect();
    let long: usize = cells(&flagged).iter().map(|cell| cell.width).sum();
    let long = long.clamp(1, LONGEST_MARK).min(room.saturating_sub(at).max(1));
    let message = safe(&finding.message);
    let mark = Span::styled("~".repeat(long), palette.level(finding.level));
    let indent = Span::raw(" ".repeat(MARGIN + at));
    if at + long + 2 + width(&message) <= room {
        return vec![Line::from(vec![indent, mark, Span::raw(format!("  {message}"))])];
    }
    let mut lines = vec![Line::from(vec![indent, mark])];
    lines.extend(wrapped(&message, room).into_iter().map(|line| Line::from(vec![margin(), Span::raw(line)])));
    lines
}
