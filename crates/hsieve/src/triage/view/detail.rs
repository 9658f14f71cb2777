//! What is said of the finding under the cursor.

use ratatui::layout::Rect;
use ratatui::style::Style;
use ratatui::text::{Line, Span};
use sieve_engine::outcome::Finding;

use super::code;
use super::words::{MARGIN, Window, margin, said};
use crate::screen::safe;
use crate::terminal::Palette;
use crate::triage::item::{Item, State};
use crate::triage::session::Session;

/// With fewer lines than this, less code is shown, so that there is room for the fix.
const LOW: u16 = 16;

pub(super) fn lines(session: &Session, area: Rect, palette: Palette) -> Vec<Line<'static>> {
    let columns = usize::from(area.width);
    let around = if area.height < LOW { 1 } else { 3 };
    let Some(item) = session.current() else { return Vec::new() };
    let finding = &item.finding;
    let rule = session.work.rules.rule(finding.rule);
    let mut lines = vec![place(item, rule.name, palette)];
    match session.source().filter(|_| item.is_reported) {
        Some(source) => lines.extend(code::lines(finding, source, around, columns, palette)),
        None => lines.extend(said("", &finding.message, columns, Style::new())),
    }
    if let Some(advice) = &finding.advice {
        lines.extend(said("do: ", advice, columns, Style::new()));
    }
    for place in &finding.related {
        let words = format!("{}:{}  {}", place.path, place.start.line, place.label);
        lines.extend(said("see: ", &words, columns, Style::new()));
    }
    if item.is_reported {
        lines.extend(fix(session, finding, around, columns, palette));
    }
    lines.extend(said("why: ", rule.why, columns, palette.faint()));
    lines
}

/// Where it is, and what has become of it.
fn place(item: &Item, rule: &str, palette: Palette) -> Line<'static> {
    let finding = &item.finding;
    let state = match item.state {
        State::Open => Span::styled(finding.level.word(), palette.level(finding.level)),
        State::Done(way) => Span::styled(way.word(), palette.alert()),
        State::Gone => Span::styled("gone: something else removed it", palette.alert()),
    };
    let place = format!(" {}:{}:{}", safe(&finding.path), finding.start.line, finding.start.column);
    Line::from(vec![Span::styled(place, palette.strong()), Span::raw(format!("  {rule}  ")), state])
}

/// What the fix would change.
fn fix(session: &Session, finding: &Finding, around: u32, columns: usize, palette: Palette) -> Vec<Line<'static>> {
    let Some(fix) = &finding.fix else { return Vec::new() };
    let mut lines = said("fix: ", fix.kind.word(), columns, Style::new());
    let diff = session.source().map(|source| source.diff(finding, around as usize)).unwrap_or_default();
    for line in &diff {
        let style = match line.as_bytes().first() {
            Some(b'-') => palette.removed(),
            Some(b'+') => palette.added(),
            _ => palette.faint(),
        };
        let shown = Window { skip: 0, room: columns.saturating_sub(MARGIN) }.of(line);
        lines.push(Line::from(vec![margin(), Span::styled(shown, style)]));
    }
    lines
}
