//! The picture of the screen that stays.

use ratatui::Frame;
use ratatui::layout::{Constraint, Layout};
use ratatui::style::Style;
use ratatui::text::{Line, Span};
use ratatui::widgets::Paragraph;
use sieve_engine::outcome::Finding;
use sieve_rules::Level;

use super::block::since_start;
use super::known::Known;
use super::view::View;
use crate::screen::{counted, fitted, grouped, safe, width};
use crate::terminal::Palette;

/// Draws everything.
pub fn draw(frame: &mut Frame<'_>, view: &mut View, known: &Known, palette: Palette) {
    let rows = [
        Constraint::Length(1),
        Constraint::Length(1),
        Constraint::Min(0),
        Constraint::Length(1),
        Constraint::Length(3),
    ];
    let [header, above, middle, below, footer] = Layout::vertical(rows).areas(frame.area());
    let columns = usize::from(middle.width);
    frame.render_widget(Paragraph::new(head(view, known, columns, palette)), header);
    for area in [above, below] {
        frame.render_widget(Paragraph::new(Line::styled("─".repeat(area.width.into()), palette.faint())), area);
    }
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
    let gap = columns.saturating_sub(width(&left.content) + width(right) + 1).max(2);
    Line::from(vec![left, Span::raw(" ".repeat(gap)), Span::styled(right, palette.faint())])
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
        let there = known.files().get(&path).map_or(&[][..], Vec::as_slice);
        let gone: Vec<&Finding> = view.last.gone.iter().filter(|finding| finding.path == path).collect();
        let count = if there.is_empty() { "no finding".into() } else { counted(there.len(), "finding", "findings") };
        let name = fitted(&safe(&path), columns.saturating_sub(width(&count) + 3), true);
        let gap = " ".repeat(columns.saturating_sub(width(&name) + width(&count) + 2).max(1));
        lines.push(Line::from(vec![
            Span::styled(format!(" {name}"), palette.strong()),
            Span::styled(format!("{gap}{count}"), palette.faint()),
        ]));
        let is_new = |finding: &Finding| {
            let same = |new: &Finding| (new.rule, &new.path, new.span) == (finding.rule, &finding.path, finding.span);
            view.last.new.iter().any(same)
        };
        for finding in there {
            lines.push(row(finding, if is_new(finding) { "+" } else { " " }, known, columns, palette));
        }
        lines.extend(gone.into_iter().map(|finding| row(finding, "-", known, columns, palette)));
    }
    lines
}

fn row(finding: &Finding, sign: &str, known: &Known, columns: usize, palette: Palette) -> Line<'static> {
    let rule = known.rules.name(finding.rule);
    let place = format!("{:>4}:{:<3}", finding.start.line, finding.start.column);
    let words = fitted(&format!("{place}  {rule}  {}", safe(&finding.message)), columns.saturating_sub(11), false);
    let is_gone = sign == "-";
    let (word, style) =
        if is_gone { ("gone", palette.faint()) } else { (finding.level.word(), palette.level(finding.level)) };
    Line::from(vec![
        Span::styled(format!("{sign} "), palette.strong()),
        Span::styled(format!("{word:<8}"), style),
        Span::styled(format!(" {words}"), if is_gone { palette.faint() } else { Style::new() }),
    ])
}

/// What there is, and how it went since the start.
fn account(known: &Known, palette: Palette) -> Line<'static> {
    let (now, start) = (known.count(), known.count_at_start());
    let words = format!(" {}, {}", counted(now, "finding", "findings"), since_start(now, start));
    let mut spans = vec![Span::styled(words, palette.strong())];
    for (level, one, many) in
        [(Level::Error, "error", "errors"), (Level::Warning, "warning", "warnings"), (Level::Note, "note", "notes")]
    {
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
    Line::from_iter(
        all.into_iter()
            .flat_map(|(key, word)| [Span::styled(format!(" {key}"), palette.key()), Span::raw(format!(" {word} "))]),
    )
}
