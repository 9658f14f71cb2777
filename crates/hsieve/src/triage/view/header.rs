//! The first line: how many are left, and what was done with the others.

use ratatui::text::{Line, Span};

use crate::screen::{grouped, safe};
use crate::terminal::Palette;
use crate::terminal::parts::both_sides;
use crate::triage::item::{State, Way};
use crate::triage::session::Session;

pub(super) fn line(session: &Session, columns: u16, palette: Palette) -> Line<'static> {
    let items = &session.work.items;
    let left = items.count(State::Open);
    let mut parts = vec![Span::styled(format!(" {} left", grouped(left)), palette.strong())];
    let states = Way::ALL.map(|way| (State::Done(way), way.counted())).into_iter().chain([(State::Gone, "gone")]);
    for (state, word) in states {
        let count = items.count(state);
        if count > 0 {
            parts.push(Span::raw(format!(" · {} {word}", grouped(count))));
        }
    }
    let mut right = format!("by {}", session.list.grouping.word());
    if !session.list.filter.is_empty() {
        right = format!("only with \"{}\" · {right}", safe(&session.list.filter));
    }
    if !session.list.shows_done {
        right = format!("done ones hidden · {right}");
    }
    both_sides(parts, right, columns.into(), palette)
}
