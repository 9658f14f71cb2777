//! The list.

use ratatui::layout::Rect;
use ratatui::style::Style;
use ratatui::text::Line;

use crate::screen::{grouped, safe};
use crate::terminal::{Palette, parts};
use crate::triage::item::{Item, State};
use crate::triage::list::{Grouping, Reach, Row};
use crate::triage::session::Session;

pub(super) fn lines(session: &mut Session, area: Rect, palette: Palette) -> Vec<Line<'static>> {
    let shown = session.list.visible(area.height.into());
    if session.list.rows().is_empty() {
        return vec![Line::styled(nothing(session), palette.faint())];
    }
    let reached = if session.reach == Reach::One { Vec::new() } else { session.reached() };
    let columns = usize::from(area.width);
    let mut lines = Vec::with_capacity(shown.len());
    for at in shown {
        lines.push(match &session.list.rows()[at] {
            Row::Head(name, left, all) => head(name, *left, *all, columns, palette),
            Row::Item(id) => {
                let marks = Marks { is_current: at == session.list.at(), is_reached: reached.contains(id) };
                finding(session, session.work.items.get(*id), marks, columns, palette)
            }
        });
    }
    lines
}

fn nothing(session: &Session) -> &'static str {
    match session.list.filter.is_empty() {
        true => "  Nothing is left. h shows what is done, q leaves.",
        false => "  No finding has these words. Esc shows all again.",
    }
}

fn head(name: &str, left: usize, all: usize, columns: usize, palette: Palette) -> Line<'static> {
    let count = if left == all { grouped(all) } else { format!("{} of {}", grouped(left), grouped(all)) };
    parts::group(name, count, columns, palette)
}

struct Marks {
    is_current: bool,
    is_reached: bool,
}

fn finding(session: &Session, item: &Item, marks: Marks, columns: usize, palette: Palette) -> Line<'static> {
    let finding = &item.finding;
    let mark = match (marks.is_current, marks.is_reached) {
        (true, _) => "▸",
        (false, true) => "•",
        (false, false) => " ",
    };
    let (word, style) = match item.state {
        State::Open => (finding.level.word(), palette.level(finding.level)),
        State::Done(way) => (way.word(), palette.faint()),
        State::Gone => ("gone", palette.faint()),
    };
    let by_file = session.list.grouping == Grouping::File;
    let place = match by_file {
        true => parts::place(finding),
        false => format!("{}:{}", safe(&finding.path), finding.start.line),
    };
    let rule = session.work.rules.name(finding.rule);
    let new = if item.is_new && item.state == State::Open { "new: " } else { "" };
    let said = match session.list.grouping {
        Grouping::Rule => format!("{place}  {new}{}", safe(&finding.message)),
        Grouping::File | Grouping::Owner => format!("{place}  {new}{rule}  {}", safe(&finding.message)),
    };
    let body = if item.state == State::Open { Style::new() } else { palette.faint() };
    let body = if marks.is_current { palette.selected() } else { body };
    parts::row(mark, (word, style), (&said, body), columns, palette)
}
