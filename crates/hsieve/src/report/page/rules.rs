//! Why the rules with findings exist, so that the page needs no other one.

use maud::{Markup, html};

use super::words::{anchor, sentence};
use crate::report::facts::Facts;
use crate::screen::safe;

pub(super) fn section(facts: &Facts<'_>) -> Option<Markup> {
    let mut rules: Vec<_> = facts.rules().into_iter().map(|(id, _)| facts.outcome.rules.rule(id)).collect();
    if rules.is_empty() {
        return None;
    }
    rules.sort_by_key(|rule| rule.name);
    Some(html! {
        dl class="rules" {
            @for rule in rules {
                dt id=(anchor(rule.name)) { (rule.name) }
                dd {
                    p { (sentence(rule.what)) }
                    @if !rule.why.is_empty() { p { (safe(rule.why)) } }
                    p class="faint" { (rule.concern.word()) " · " (rule.certainty.word()) " · " (rule.mesh.word()) " mesh · " code { "hsieve explain " (rule.name) } }
                }
            }
        }
    })
}
