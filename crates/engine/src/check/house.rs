//! A result that is known but for the rules of packs, which were others then: they alone are run again.

use jiff::civil::Date;
use sieve_meaning::names_of;
use sieve_rules::{Check, run_house_on};
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use super::FileOutcome;
use super::ask::ask;
use super::layers::house_in_layers;
use super::text::{drop_leading, held};
use super::view::View;
use crate::hold::baseline::Identities;
use crate::join::Waiting;
use crate::subject::{Subject, Wants};

/// Puts what the rules of packs find now in the place of what they found, and lets waivers hold back what they cover of all. The result is
/// that of the whole run.
pub(super) fn renew_house(
    outcome: &mut FileOutcome,
    (text, tree): (&Text, &Tree),
    subject: &Subject<'_>,
    wants: Wants,
    today: Date,
) {
    let settings = subject.settings;
    let view = View { text, tree, subject, wants, identities: &Identities::new(text, tree) };
    let dispatch = settings.dispatch();
    let names = dispatch.house_needs_names().then(|| names_of(subject.language, text, tree));
    let (mut report, asked) = ask((text, tree), subject, names.as_ref(), |input| run_house_on(input, dispatch));
    if subject.asks_others {
        drop_leading(&mut report, subject);
    } else {
        outcome.facts.leads = asked.into_leads();
        outcome.facts.references = Waiting::of(&report.findings).references.into_iter().collect();
    }
    let stays = |rule| {
        let built_in = settings.rule_set().rule(rule).as_built_in();
        // What is said of waivers follows from what they hold back.
        built_in.is_some_and(|rule| !matches!(rule.check, Check::Upkeep))
    };
    outcome.findings.retain(|finding| stays(finding.rule));
    outcome.findings.iter_mut().for_each(|finding| finding.held = view.scope_of(finding.rule));
    outcome.findings.extend(report.findings.into_iter().map(|finding| view.finding(finding)));
    outcome.unsure.retain(|place| settings.rule_set().house_rule(place.rule).is_none());
    outcome.unsure.extend(report.unsure.iter().map(|unsure| view.unsure(unsure)));
    let layers = subject.language.layers(text, tree);
    let within = house_in_layers(&view, &layers);
    outcome.findings.extend(within.findings);
    outcome.unsure.extend(within.unsure);
    outcome.unsure.sort_by_key(|place| (place.start, place.rule));
    outcome.waivers = held(&view, &layers, &mut outcome.findings, &outcome.unsure, today);
}
