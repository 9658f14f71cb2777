//! `hsieve fix --review`: asks about each fix that is not exact.

use std::io::BufRead;

use sieve_engine::fix::{self, Decision, FixOutcome, Proposal};
use sieve_engine::run::Wants;
use sieve_engine::settings::SettingsError;
use sieve_rules::RuleSet;

use crate::output::{card, coloured};
use crate::run::Setup;
use crate::screen::{FAINT, STRONG, Screen, styled};

const QUESTION: &str = "Apply it?  y yes · n no · a all of this rule · q quit";

/// Walks through the fixes to review; nothing is written yet.
pub fn reviewed(setup: &Setup, screen: &mut Screen) -> anyhow::Result<Result<FixOutcome, SettingsError>> {
    let mut failure = None;
    let mut asked = 0;
    let outcome = setup.with_request(Wants { excerpts: true, ..Wants::NONE }, |request| {
        let mut decide = |proposal: &Proposal<'_>| {
            asked += 1;
            ask(proposal, setup.settings.rule_set(), screen).unwrap_or_else(|error| {
                failure = Some(error);
                Decision::Quit
            })
        };
        fix::review(request, &mut decide)
    });
    if let Some(error) = failure {
        return Err(error);
    }
    if asked == 0 && outcome.is_ok() {
        screen.line(styled(FAINT, "No finding here has a fix to review."))?;
    }
    Ok(outcome)
}

/// Shows a proposal and reads the answer; the end of the input means to quit.
fn ask(proposal: &Proposal<'_>, rules: &RuleSet, screen: &mut Screen) -> anyhow::Result<Decision> {
    screen.line(card(proposal.finding, rules, screen.width()))?;
    screen.gap()?;
    let diff = String::from_utf8_lossy(proposal.diff);
    // The names of the file are in the card already.
    let body: Vec<&str> = diff.lines().skip(2).collect();
    screen.line(coloured(body.join("\n").as_bytes()))?;
    screen.gap()?;
    loop {
        screen.line(styled(STRONG, QUESTION))?;
        screen.finish()?;
        let mut answer = String::new();
        if std::io::stdin().lock().read_line(&mut answer)? == 0 {
            return Ok(Decision::Quit);
        }
        let rule = rules.name(proposal.finding.rule);
        let decision = match answer.trim() {
            "y" | "yes" => Some((Decision::Yes, "taken".to_string())),
            "n" | "no" => Some((Decision::No, "left as it is".to_string())),
            "a" | "all" => Some((Decision::AllOfRule, format!("taken, and all others of {rule}"))),
            "q" | "quit" => Some((Decision::Quit, "left as it is, and all that follow".to_string())),
            _ => None,
        };
        if let Some((decision, words)) = decision {
            screen.line(styled(FAINT, &words))?;
            screen.gap()?;
            return Ok(decision);
        }
    }
}
