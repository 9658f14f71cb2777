//! The last lines: what happened or is asked, and the keys.

use ratatui::text::{Line, Span};

use crate::screen::{counted, fitted, safe, width};
use crate::terminal::{Palette, parts};
use crate::triage::keys::{BINDINGS, Binding, Command};
use crate::triage::list::Reach;
use crate::triage::session::{Mode, Session};

pub(super) fn lines(session: &Session, columns: u16, palette: Palette) -> Vec<Line<'static>> {
    let columns = usize::from(columns);
    let (first, second) = match question(session) {
        Some(question) => {
            let question = fitted(&question, columns.saturating_sub(2), false);
            let room = columns.saturating_sub(width(&question) + 3);
            let answer = answer(session).unwrap_or_default();
            let first =
                vec![Span::styled(format!(" {question} "), palette.alert()), Span::raw(fitted(&answer, room, true))];
            let second = match (&session.message, choices(session)) {
                (Some((words, _)), _) => Span::styled(format!(" {words}"), palette.alert()),
                (None, Some(choices)) => {
                    Span::styled(format!(" {choices} · any other key leaves it"), palette.strong())
                }
                (None, None) => Span::styled(" Enter goes on, Esc leaves it", palette.faint()),
            };
            (Line::from(first), Line::from(second))
        }
        None => (happened(session, columns, palette), keys(columns, palette)),
    };
    vec![first, second]
}

/// The column of the cursor, where something is typed.
pub(super) fn cursor(session: &Session, columns: u16) -> Option<u16> {
    let input = input(session)?;
    let question = question(session)?;
    let behind = width(&input.parts().1);
    let shown = fitted(&input.text(), usize::from(columns).saturating_sub(width(&question) + 3), true);
    u16::try_from((width(&question) + 2 + width(&shown)).saturating_sub(behind)).ok()
}

fn input(session: &Session) -> Option<&crate::triage::input::Input> {
    match &session.mode {
        Mode::Filter(input) | Mode::Reason(input) | Mode::Until(_, input) | Mode::Because(_, _, input) => Some(input),
        _ => None,
    }
}

fn answer(session: &Session) -> Option<String> {
    input(session).map(|input| input.text())
}

fn question(session: &Session) -> Option<String> {
    let target = session.reach_in_words();
    Some(match &session.mode {
        Mode::List | Mode::Help => return None,
        Mode::Filter(_) => "list only what has:".to_string(),
        Mode::Reason(_) => format!("waive {target}, because:"),
        Mode::Until(..) => "until, its last day (may be empty):".to_string(),
        Mode::Level => format!("level of {}?", rule(session)),
        Mode::Place(level) => format!("{} {}, where?", rule(session), level.word()),
        Mode::Because(level, ..) => format!("{} {}, because (may be empty):", rule(session), level.word()),
        Mode::Confirm(to_review) => {
            let fixes = counted(*to_review, "fix that is not exact and was", "fixes that are not exact and were");
            format!("apply {fixes} not seen yet?")
        }
    })
}

/// The keys that answer a question.
fn choices(session: &Session) -> Option<&'static str> {
    match session.mode {
        Mode::Level => Some("e error · w warning · n note · o off"),
        Mode::Place(_) => Some("f this file · d this folder · e everywhere"),
        Mode::Confirm(_) => Some("y yes, with all others"),
        _ => None,
    }
}

fn rule(session: &Session) -> &str {
    session.current().map_or("", |item| session.work.rules.name(item.finding.rule))
}

fn happened(session: &Session, columns: usize, palette: Palette) -> Line<'static> {
    let room = columns.saturating_sub(2);
    match (&session.message, session.reach) {
        (Some((words, is_wrong)), _) => {
            let style = if *is_wrong { palette.alert() } else { palette.strong() };
            Line::styled(format!(" {}", fitted(&safe(words), room, false)), style)
        }
        (None, _) if session.mode == Mode::Help => Line::styled(" Any key goes back to the list.", palette.faint()),
        (None, Reach::One) => Line::styled(" Keys act on this finding.", palette.faint()),
        (None, _) => {
            let words = format!("The next key acts on {}, marked •.", session.reach_in_words());
            Line::styled(format!(" {}", fitted(&words, room, false)), palette.alert())
        }
    }
}

/// The keys for which there is room; how to get help and how to leave are always among them.
fn keys(columns: usize, palette: Palette) -> Line<'static> {
    let needed = |binding: &Binding| width(binding.name) + width(binding.short) + 3;
    let (last, others): (Vec<&Binding>, Vec<&Binding>) = BINDINGS
        .iter()
        .filter(|binding| !binding.short.is_empty())
        .partition(|binding| matches!(binding.command, Command::Help | Command::Quit));
    let mut left = columns.saturating_sub(last.iter().map(|binding| needed(binding)).sum());
    let fits = |binding: &&Binding| {
        let fits = needed(binding) <= left;
        left = if fits { left - needed(binding) } else { 0 };
        fits
    };
    let shown: Vec<&Binding> = others.into_iter().filter(fits).collect();
    parts::keys(shown.into_iter().chain(last).map(|binding| (binding.name, binding.short)), palette)
}
