//! What is said of a rule where the pointer rests.

use std::fmt::Write;

use sieve_engine::outcome::{Finding, Held};
use sieve_engine::settings::Effective;
use sieve_rules::{RuleId, RuleSet, RuleView};

/// What a finding is, why it matters, and how to live with it.
pub fn of_finding(finding: &Finding, rules: &RuleSet) -> String {
    let rule = rules.rule(finding.rule);
    let mut text = format!("**{}** {}\n\n{}", rule.name, facts(rule, finding.level.word()), finding.message);
    if let Some(advice) = &finding.advice {
        let _ = write!(text, "  \n{advice}");
    }
    if let Some(held) = &finding.held {
        let _ = write!(text, "\n\nHeld back by {}.", held_by(held));
    }
    text + &why(rule)
}

/// What a rule is about, and its level in a folder.
pub fn of_rule(id: RuleId, settings: &Effective) -> String {
    let rule = settings.rule_set().rule(id);
    format!("**{}** {}\n\n{}{}", rule.name, facts(rule, settings.level(id).word()), rule.what, why(rule))
}

fn facts(rule: RuleView<'_>, level: &str) -> String {
    format!("*{level} here, {}, {}, {} mesh*", rule.concern, rule.certainty, rule.mesh)
}

fn why(rule: RuleView<'_>) -> String {
    let mut text = String::new();
    if !rule.why.is_empty() {
        let _ = write!(text, "\n\n*Why:* {}", rule.why);
    }
    if let Some(built_in) = rule.as_built_in() {
        let _ = write!(text, "\n\n*Where it stays silent:* {}", built_in.silent);
    }
    text
}

fn held_by(held: &Held) -> String {
    match held {
        Held::Baseline => "the baseline".to_string(),
        Held::Waiver { line, reason } => format!("the waiver on line {line}{}", because(reason.as_deref())),
        Held::SettingsWaiver { at, reason } => format!("the waiver at {at}{}", because(Some(reason))),
        Held::Scope { at, reason } => format!("the scope at {at}{}", because(reason.as_deref())),
    }
}

fn because(reason: Option<&str>) -> String {
    reason.map_or(String::new(), |reason| format!(" because {reason}"))
}
