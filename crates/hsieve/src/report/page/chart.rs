//! Lines over time, as SVG that takes its colours from the page.

use maud::{Markup, html};
use sieve_engine::Date;

use crate::report::facts::Facts;
use crate::report::record::LEVELS;
use crate::screen::grouped;

const WIDTH: f64 = 640.0;
const HEIGHT: f64 = 180.0;
/// Room for the numbers at the left, and around.
const LEFT: f64 = 48.0;
const EDGE: f64 = 12.0;

/// What the distance between two points is.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Scale {
    /// The same for all: there may be many in a day.
    Runs,
    /// The days between them.
    Days,
}

/// A line: its name, its class, and its points by day.
struct Line {
    name: String,
    class: &'static str,
    points: Vec<(Date, usize)>,
}

/// Findings over the recorded runs, this one included, and the debt of the baseline.
pub(super) fn trend(facts: &Facts<'_>) -> Option<Markup> {
    let now = |level| (facts.day, facts.outcome.caught_at(level));
    let findings = LEVELS.map(|level| {
        let of =
            |record: &crate::report::Record| (record.day, record.levels.get(level.word()).copied().unwrap_or_default());
        let points = facts.records.iter().map(of).chain([now(level)]).collect();
        Line { name: format!("{level}s"), class: level.word(), points }
    });
    let has_runs = !facts.records.is_empty();
    let entries = facts.debt.iter().map(|point| (point.day, point.lines.saturating_sub(1))).collect();
    let debt = Line { name: "entries".into(), class: "debt", points: entries };
    let has_debt = debt.points.len() > 1;
    (has_runs || has_debt).then(|| {
        html! {
            @if has_runs { (chart("Findings in recorded runs, one after the other", &findings, Scale::Runs)) }
            @if has_debt { (chart("Entries of the baseline", &[debt], Scale::Days)) }
        }
    })
}

fn chart(title: &str, lines: &[Line], scale: Scale) -> Markup {
    let days: Vec<Date> = lines.iter().flat_map(|line| line.points.iter().map(|(day, _)| *day)).collect();
    let (first, last) =
        (days.iter().min().copied().unwrap_or_default(), days.iter().max().copied().unwrap_or_default());
    let most = lines.iter().flat_map(|line| &line.points).map(|(_, value)| *value).max().unwrap_or(0).max(1);
    let ticks = ticks(most);
    let top = *ticks.last().unwrap_or(&most) as f64;
    let count = lines.iter().map(|line| line.points.len()).max().unwrap_or(0);
    let x = |index: usize, day: Date| {
        let (at, span) = match scale {
            Scale::Runs => (index as f64, count.saturating_sub(1) as f64),
            Scale::Days => (days_between(first, day), days_between(first, last)),
        };
        LEFT + at / span.max(1.0) * (WIDTH - LEFT - EDGE)
    };
    let y = |value: usize| HEIGHT - EDGE - value as f64 / top * (HEIGHT - 2.0 * EDGE);
    html! {
        figure {
            figcaption {
                (title)
                @for line in lines { " " span class={ "key " (line.class) } { (line.name) } }
            }
            svg.chart viewBox={ "0 0 " (WIDTH) " " (HEIGHT + 18.0) } role="img" aria-label=(title) {
                @for tick in &ticks {
                    line class="grid" x1=(LEFT) x2=(WIDTH - EDGE) y1=(px(y(*tick))) y2=(px(y(*tick))) {}
                    text class="axis" x=(LEFT - 6.0) y=(px(y(*tick) + 4.0)) text-anchor="end" { (grouped(*tick)) }
                }
                text class="axis" x=(LEFT) y=(HEIGHT + 14.0) { (first) }
                text class="axis" x=(WIDTH - EDGE) y=(HEIGHT + 14.0) text-anchor="end" { (last) }
                @for line in lines {
                    polyline class={ "line " (line.class) } points=(points(&line.points, &x, &y)) {}
                    @for (index, (day, value)) in line.points.iter().enumerate() {
                        circle class={ "dot " (line.class) } cx=(px(x(index, *day))) cy=(px(y(*value))) r="2.5" {
                            title { (day) ": " (grouped(*value)) " " (line.name) }
                        }
                    }
                }
            }
            details {
                summary { "The numbers" }
                table {
                    thead { tr { th scope="col" { "day" } @for line in lines { th scope="col" class="number" { (line.name) } } } }
                    tbody {
                        @for (index, (day, _)) in lines[0].points.iter().enumerate() {
                            tr {
                                th scope="row" { (day) }
                                @for line in lines {
                                    td class="number" { (line.points.get(index).map_or(String::new(), |(_, value)| grouped(*value))) }
                                }
                            }
                        }
                    }
                }
            }
        }
    }
}

fn points(points: &[(Date, usize)], x: &impl Fn(usize, Date) -> f64, y: &impl Fn(usize) -> f64) -> String {
    let one = |(index, (day, value)): (usize, &(Date, usize))| format!("{},{}", px(x(index, *day)), px(y(*value)));
    points.iter().enumerate().map(one).collect::<Vec<String>>().join(" ")
}

/// A length with as many digits as are seen.
fn px(length: f64) -> String {
    format!("{length:.1}")
}

fn days_between(first: Date, last: Date) -> f64 {
    last.since(first).map_or(0.0, |span| f64::from(span.get_days()))
}

/// Round numbers from zero up to one that is not below the largest.
fn ticks(most: usize) -> Vec<usize> {
    let mut step = 1;
    // 1, 2, 5, 10, 20, 50 …
    for factor in [2, 5, 2].into_iter().cycle() {
        if step * 4 >= most {
            break;
        }
        step = if factor == 5 { step / 2 * 5 } else { step * 2 };
    }
    (0..=most.div_ceil(step)).map(|count| count * step).collect()
}

#[cfg(test)]
mod tests {
    use super::ticks;

    #[test]
    fn ticks_are_round_and_reach_the_largest() {
        assert_eq!(ticks(1), [0, 1]);
        assert_eq!(ticks(7), [0, 2, 4, 6, 8]);
        assert_eq!(ticks(38), [0, 10, 20, 30, 40]);
        assert_eq!(ticks(5000), [0, 2000, 4000, 6000]);
    }
}
