//! An object of JSON on each line: findings, what is gone, undecided places, files that were left out, and at the end the account.

use serde_json::json;

use super::Shown;
use super::json::{account, compared, gone, left_out, line_text, unsure};

pub(super) fn text(shown: &Shown<'_>) -> anyhow::Result<String> {
    let rules = &shown.outcome.rules;
    let mut text = String::new();
    for (finding, since) in shown.findings() {
        text += &line_text(&json!({ "finding": compared(finding, since, rules) }))?;
    }
    if shown.limit.is_some() {
        text += &line_text(&json!({ "more": shown.more() }))?;
    }
    for finding in shown.comparison.iter().flat_map(|comparison| &comparison.gone) {
        text += &line_text(&json!({ "gone": gone(finding) }))?;
    }
    for place in shown.outcome.unsure.iter().filter(|_| shown.unsure) {
        text += &line_text(&json!({ "unsure": unsure(place, rules) }))?;
    }
    for file in shown.outcome.left_out.iter().filter(|_| shown.left_out) {
        text += &line_text(&json!({ "left-out": left_out(file) }))?;
    }
    Ok(text + &line_text(&json!({ "account": account(shown) }))?)
}
