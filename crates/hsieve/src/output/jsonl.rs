//! An object of JSON on each line: findings, what is gone, undecided places, files that were left out, and at the end the account.

use serde_json::{Value, json};

use super::json::{account, compared, gone, left_out, line_text, unsure};
use super::{Put, Shown};

/// Gives line after line, so that they need not all be there at once.
pub(super) fn write(shown: &Shown<'_>, put: &mut Put<'_>) -> anyhow::Result<()> {
    let rules = &shown.outcome.rules;
    let mut put = |value: Value| put(&line_text(&value)?);
    for (finding, since) in shown.findings() {
        put(json!({ "finding": compared(finding, since, rules) }))?;
    }
    if shown.limit.is_some() {
        put(json!({ "more": shown.more() }))?;
    }
    for finding in shown.comparison.iter().flat_map(|comparison| &comparison.gone) {
        put(json!({ "gone": gone(finding) }))?;
    }
    for place in shown.outcome.unsure.iter().filter(|_| shown.unsure) {
        put(json!({ "unsure": unsure(place, rules) }))?;
    }
    for file in shown.outcome.left_out.iter().filter(|_| shown.left_out) {
        put(json!({ "left-out": left_out(file) }))?;
    }
    put(json!({ "account": account(shown) }))
}
