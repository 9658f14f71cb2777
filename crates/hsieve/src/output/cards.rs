//! A card for each finding: the code, a mark under the place, the message where the eye is.

use sieve_engine::outcome::{Excerpt, Finding, LeftOut, RelatedPlace};
use sieve_rules::RuleSet;

use super::{Shown, Since, held_by};
use crate::screen::{Cell, FAINT, STRONG, cells, counted, level_style, safe, styled, width, wrapped};

/// Columns before the code: the line number and a gap.
const MARGIN: usize = 9;

/// The longest mark under a place.
const LONGEST_MARK: usize = 60;

pub(super) fn text(view: &Shown<'_>, columns: usize) -> String {
    let mut text = String::new();
    for (finding, since) in view.findings() {
        text += &whole(finding, since, &view.outcome.rules, columns);
        text.push('\n');
    }
    if view.more() > 0 {
        let more = format!("and {}", counted(view.more(), "more finding", "more findings"));
        text += &format!("{:MARGIN$}{}\n\n", "", styled(FAINT, &more));
    }
    for finding in view.comparison.iter().flat_map(|comparison| &comparison.gone) {
        let place = format!("{}:{}:{}", safe(&finding.path), finding.line, finding.column);
        let words = format!("{:MARGIN$}{}\n\n", "", styled(FAINT, &safe(&finding.message)));
        text += &format!("{:<7}  {}  {}\n{words}", "gone", styled(STRONG, &place), safe(&finding.rule));
    }
    if view.left_out {
        text += &left_out(view);
    }
    if view.unsure {
        text += &super::unsure::text(view);
    }
    text
}

/// The files that were left out, and why.
fn left_out(view: &Shown<'_>) -> String {
    let line = |(path, cause): &(std::sync::Arc<str>, LeftOut)| {
        format!("{}  {}  {}\n", styled(FAINT, "left out"), styled(STRONG, &safe(path)), cause.describe())
    };
    let lines: String = view.outcome.left_out.iter().map(line).collect();
    if lines.is_empty() { lines } else { lines + "\n" }
}

/// One finding.
pub fn card(finding: &Finding, rules: &RuleSet, columns: usize) -> String {
    whole(finding, None, rules, columns)
}

fn whole(finding: &Finding, since: Option<Since>, rules: &RuleSet, columns: usize) -> String {
    let rule = rules.rule(finding.rule);
    let level = styled(level_style(finding.level), &format!("{:<7}", finding.level.word()));
    let place = format!("{}:{}:{}", safe(&finding.path), finding.start.line, finding.start.column);
    let since = since.map_or(String::new(), |since| format!("  {}", styled(FAINT, since.word())));
    let mut card = format!("{level}  {}  {}{since}\n", styled(STRONG, &place), rule.name);
    match &finding.excerpt {
        Some(excerpt) => card += &code(finding, excerpt, columns),
        None => card += &format!("{:MARGIN$}{}\n", "", safe(&finding.message)),
    }
    card += &advice(finding, columns);
    card += &related(finding);
    if let Some(held) = &finding.held {
        card += &format!("{:MARGIN$}{}\n", "", styled(FAINT, &held_by(held)));
    }
    card
}

/// The line before, the line, and the mark with the message.
fn code(finding: &Finding, excerpt: &Excerpt, columns: usize) -> String {
    let room = columns.saturating_sub(MARGIN).max(20);
    let cells = cells(&excerpt.line);
    let first = (finding.start.column - 1 - excerpt.cut.min(finding.start.column - 1)) as usize;
    let last = if finding.end.line == finding.start.line {
        (finding.end.column - 1).saturating_sub(excerpt.cut) as usize
    } else {
        cells.len()
    };
    let window = Window::around(&cells, first, last, room, excerpt);
    let mut text = String::new();
    if let Some(before) = &excerpt.before {
        let before: String = Window::whole(&crate::screen::cells(before), room).text;
        text += &numbered(finding.start.line - 1, &styled(FAINT, &before));
    }
    text += &numbered(finding.start.line, &window.text);
    text + &marked(finding, &window, room)
}

fn numbered(line: u32, code: &str) -> String {
    format!("{}  {code}\n", styled(FAINT, &format!("{line:>7}")))
}

/// The part of a line that fits, and where the mark is under it.
struct Window {
    text: String,
    mark_at: usize,
    mark_width: usize,
}

impl Window {
    fn whole(cells: &[Cell], room: usize) -> Window {
        let blank = Excerpt { before: None, line: String::new(), cut: 0, goes_on: false, edits: Vec::new() };
        Window::around(cells, 0, 0, room, &blank)
    }

    /// Cuts a long line around the marked cells, with `…` where it goes on.
    fn around(cells: &[Cell], first: usize, last: usize, room: usize, excerpt: &Excerpt) -> Window {
        let first = first.min(cells.len());
        let widths = |from: usize, to: usize| cells[from..to.max(from)].iter().map(|cell| cell.width).sum::<usize>();
        let mut from = 0;
        if widths(0, first) > room * 2 / 3 {
            while widths(from, first) > room / 3 {
                from += 1;
            }
        }
        let cut_before = from > 0 || excerpt.cut > 0;
        let room = room - usize::from(cut_before) - 1;
        let mut to = from;
        while to < cells.len() && widths(from, to + 1) <= room {
            to += 1;
        }
        let cut_behind = to < cells.len() || excerpt.goes_on;
        let mut text = String::new();
        if cut_before {
            text.push('…');
        }
        cells[from..to].iter().for_each(|cell| cell.show(&mut text));
        if cut_behind {
            text.push('…');
        }
        let mark_at = usize::from(cut_before) + widths(from, first);
        let mark_width = widths(first, last.min(to).max(first)).clamp(1, LONGEST_MARK);
        Window { text: text.trim_end().to_string(), mark_at, mark_width }
    }
}

/// The mark, with the message after it if it fits, else below.
fn marked(finding: &Finding, window: &Window, room: usize) -> String {
    let style = level_style(finding.level);
    let mark = styled(style, &"~".repeat(window.mark_width));
    let message = safe(&finding.message);
    let before = window.mark_at + window.mark_width + 2;
    let mut text = format!("{:indent$}{mark}", "", indent = MARGIN + window.mark_at);
    if before + width(&message) <= room {
        return text + &format!("  {message}\n");
    }
    text.push('\n');
    for line in wrapped(&message, room) {
        text += &format!("{:MARGIN$}{line}\n", "");
    }
    text
}

/// The places that explain a finding, a line each.
fn related(finding: &Finding) -> String {
    let line = |place: &RelatedPlace| {
        let at = format!("{}:{}", safe(&place.path), place.start.line);
        format!("{:MARGIN$}see: {}  {}\n", "", styled(STRONG, &at), styled(FAINT, &safe(&place.label)))
    };
    finding.related.iter().map(line).collect()
}

/// What to do, and at the right whether a fix is there.
fn advice(finding: &Finding, columns: usize) -> String {
    let fix = finding.fix.as_ref().map_or(String::new(), |fix| format!("fix: {}", fix.kind.word()));
    let advice = finding.advice.as_ref().map_or(String::new(), |advice| format!("do: {}", safe(advice)));
    if fix.is_empty() {
        return if advice.is_empty() { String::new() } else { format!("{:MARGIN$}{advice}\n", "") };
    }
    let right = columns.min(84);
    let gap = right.saturating_sub(MARGIN + width(&advice) + width(&fix)).max(2);
    format!("{:MARGIN$}{advice}{:gap$}{}\n", "", "", styled(FAINT, &fix))
}
