//! The places that no rule could decide, by rule and reason: what a team could tell the tool, the most telling first.

use std::collections::BTreeMap;

use sieve_engine::outcome::UnsurePlace;

use super::Shown;
use crate::screen::{FAINT, STRONG, safe, styled};

/// So many places are shown for each reason; `lines` and `json` have them all.
const MOST_PLACES: usize = 4;

type ByReason<'p> = BTreeMap<&'p str, Vec<&'p UnsurePlace>>;

pub(super) fn text(view: &Shown<'_>) -> String {
    let mut by_rule: BTreeMap<&str, ByReason<'_>> = BTreeMap::new();
    for place in &view.outcome.unsure {
        let rule = view.outcome.rules.name(place.rule);
        by_rule.entry(rule).or_default().entry(&place.reason).or_default().push(place);
    }
    let mut rules: Vec<(&str, ByReason<'_>)> = by_rule.into_iter().collect();
    let count = |reasons: &ByReason<'_>| reasons.values().map(Vec::len).sum::<usize>();
    rules.sort_by_key(|(_, reasons)| std::cmp::Reverse(count(reasons)));
    let mut text = String::new();
    for (rule, reasons) in rules {
        text += &format!("{}  {}\n", styled(FAINT, "unsure "), styled(STRONG, rule));
        let mut reasons: Vec<(&str, Vec<&UnsurePlace>)> = reasons.into_iter().collect();
        reasons.sort_by_key(|(_, places)| std::cmp::Reverse(places.len()));
        for (reason, places) in reasons {
            text += &format!("{:>7}  {}\n", places.len(), safe(reason));
            for place in places.iter().take(MOST_PLACES) {
                let at = format!("{}:{}:{}", safe(&place.path), place.start.line, place.start.column);
                text += &format!("{:9}{}\n", "", styled(FAINT, &at));
            }
            if places.len() > MOST_PLACES {
                let more = format!("and {} more (--output lines has them all)", places.len() - MOST_PLACES);
                text += &format!("{:9}{}\n", "", styled(FAINT, &more));
            }
        }
        text.push('\n');
    }
    text
}
