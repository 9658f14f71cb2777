//! The picture of the screen that stays.

use ratatui::Frame;
use ratatui::style::Style;
use ratatui::text::{Line, Span};
use ratatui::widgets::Paragraph;
use sieve_engine::outcome::Finding;

use super::block::since_start;
use super::known::Known;
use super::view::View;
use crate::screen::{LEVELS, counted, fitted, grouped, safe};
use crate::terminal::{Palette, parts};

/// Draws everything.
pub fn draw(frame: &mut Frame<'_>, view: &mut View, known: &Known, palette: Palette) {
    let [header, middle, footer] = parts::frame_of(frame, 3, palette);
    let columns = usize::from(middle.width);
    frame.render_widget(Paragraph::new(head(view, known, columns, palette)), header);
    let lines = findings(view, known, columns, palette);
    view.page = middle.height.into();
    view.top = view.top.min(lines.len().saturating_sub(view.page));
    let shown: Vec<Line<'static>> = lines.into_iter().skip(view.top).take(view.page).collect();
    frame.render_widget(Paragraph::new(shown), middle);
    frame.render_widget(
        Paragraph::new(vec![account(known, palette), happened(view, columns, palette), keys(palette)]),
        footer,
    );
}

fn head(view: &View, known: &Known, columns: usize, palette: Palette) -> Line<'static> {
    let left = match view.is_paused {
        true => Span::styled(" paused", palette.alert()),
        false => Span::styled(format!(" watching {}", counted(known.sifted, "file", "files")), palette.strong()),
    };
    let right =
        if view.shows_all { "all findings, saved files first" } else { "findings of files saved since the start" };
    parts::both_sides(vec![left], right.to_string(), columns, palette)
}

fn findings(view: &View, known: &Known, columns: usize, palette: Palette) -> Vec<Line<'static>> {
    let shown = view.shown(known);
    if shown.is_empty() {
        let all = match known.count() {
            0 => "There is no finding.".to_string(),
            count => format!("a shows all {}.", counted(count, "finding", "findings")),
        };
        return vec![Line::styled(format!("  Nothing was saved yet. {all}"), palette.faint())];
    }
    let mut lines = Vec::new();
    for path in shown {
        let there = known.of_file(&path);
        let count = if there.is_empty() { "no finding".into() } else { counted(there.len(), "finding", "findings") };
        lines.push(parts::group(&path, count, columns, palette));
        for finding in there {
            let sign = if view.last.is_new(finding) { "+" } else { " " };
            lines.push(row(finding, sign, known, columns, palette));
        }
        let gone = view.last.gone_from(&path).iter();
        lines.extend(gone.map(|finding| row(finding, "-", known, columns, palette)));
    }
    lines
}

fn row(finding: &Finding, sign: &str, known: &Known, columns: usize, palette: Palette) -> Line<'static> {
    let rule = known.rules.name(finding.rule);
    let said = format!("{}  {rule}  {}", parts::place(finding), safe(&finding.message));
    let (word, body) = match sign {
        "-" => (("gone", palette.faint()), palette.faint()),
        _ => ((finding.level.word(), palette.level(finding.level)), Style::new()),
    };
    parts::row(sign, word, (&said, body), columns, palette)
}

/// What there is, and how it went since the start.
fn account(known: &Known, palette: Palette) -> Line<'static> {
    let (now, start) = (known.count(), known.count_at_start());
    let words = format!(" {}, {}", counted(now, "finding", "findings"), since_start(now, start));
    let mut spans = vec![Span::styled(words, palette.strong())];
    for (level, one, many) in LEVELS {
        let (now, start) = known.of_level(level);
        if (now, start) != (0, 0) {
            let change = match now.cmp(&start) {
                std::cmp::Ordering::Equal => String::new(),
                std::cmp::Ordering::Greater => format!(" (+{})", grouped(now - start)),
                std::cmp::Ordering::Less => format!(" (-{})", grouped(start - now)),
            };
            spans.push(Span::styled(format!(" · {}{change}", counted(now, one, many)), palette.faint()));
        }
    }
    Line::from(spans)
}

fn happened(view: &View, columns: usize, palette: Palette) -> Line<'static> {
    if let Some((fixes, files)) = view.asked {
        let what = counted(fixes, "exact fix", "exact fixes");
        let question =
            format!(" apply {what} in {}?  y yes · any other key leaves it", counted(files, "file", "files"));
        return Line::styled(fitted(&question, columns, false), palette.alert());
    }
    let style = if view.is_wrong { palette.alert() } else { Style::new() };
    Line::styled(fitted(&format!(" {}", safe(&view.said)), columns, false), style)
}

fn keys(palette: Palette) -> Line<'static> {
    let all = [("q", "quit"), ("a", "all"), ("f", "fix exact"), ("p", "pause"), ("↓ ↑", "scroll")];
    parts::keys(all.into_iter(), palette)
}
