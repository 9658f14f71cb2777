//! The picture: the list, what is said of the finding under the cursor, and the keys.

mod code;
mod detail;
mod footer;
mod header;
mod help;
mod rows;
mod words;

use ratatui::Frame;
use ratatui::layout::{Constraint, Layout, Rect};
use ratatui::text::Line;
use ratatui::widgets::{Clear, Paragraph};

use super::session::{Mode, Session};
use crate::terminal::{Palette, parts};

/// With so many columns, list and finding are side by side.
const WIDE: u16 = 120;

/// Draws everything.
pub fn draw(frame: &mut Frame<'_>, session: &mut Session, palette: Palette) {
    session.read_source();
    let [header, middle, footer] = parts::frame_of(frame, 2, palette);
    let side_by_side = middle.width >= WIDE;
    let split = if side_by_side {
        Layout::horizontal([Constraint::Percentage(42), Constraint::Length(3), Constraint::Min(0)])
    } else {
        Layout::vertical([Constraint::Percentage(42), Constraint::Length(1), Constraint::Min(0)])
    };
    let [list, between, detail] = split.areas(middle);
    frame.render_widget(Paragraph::new(header::line(session, header.width, palette)), header);
    let line = if side_by_side {
        vec![Line::styled(" │", palette.faint()); between.height.into()]
    } else {
        vec![Line::styled("╌".repeat(between.width.into()), palette.faint())]
    };
    frame.render_widget(Paragraph::new(line), between);
    session.page = list.height.into();
    if session.mode == Mode::Help {
        frame.render_widget(Clear, middle);
        frame.render_widget(Paragraph::new(help::lines(middle.width, palette)), middle);
    } else {
        frame.render_widget(Paragraph::new(rows::lines(session, list, palette)), list);
        frame.render_widget(Paragraph::new(said(session, detail, palette)), detail);
    }
    frame.render_widget(Paragraph::new(footer::lines(session, footer.width, palette)), footer);
    if let Some(column) = footer::cursor(session, footer.width) {
        frame.set_cursor_position((footer.x + column, footer.y));
    }
}

/// What is said of the finding, from the line to which it is scrolled.
fn said(session: &mut Session, area: Rect, palette: Palette) -> Vec<Line<'static>> {
    let lines = detail::lines(session, area, palette);
    let height = usize::from(area.height);
    session.scroll = session.scroll.min(lines.len().saturating_sub(height));
    let more = lines.len() - session.scroll > height;
    let mut shown: Vec<Line<'static>> = lines.into_iter().skip(session.scroll).take(height).collect();
    if let (true, Some(last)) = (more, shown.last_mut()) {
        *last = Line::styled("       … → scrolls", palette.faint());
    }
    shown
}
