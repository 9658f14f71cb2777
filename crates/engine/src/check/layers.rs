//! What a file holds in other languages, sifted as files of these are.

use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_rules::{Input, Report, run_house_on, run_on_layer};
use sieve_syntax::language::Layer;

use super::view::View;
use crate::hold::baseline::Identities;
use crate::outcome::{Finding, UnsurePlace};
use crate::subject::Subject;

/// What was found in the layers of a file.
#[derive(Debug, Default)]
pub(super) struct InLayers {
    pub(super) findings: Vec<Finding>,
    pub(super) unsure: Vec<UnsurePlace>,
}

/// Runs all rules over the layers of a file.
pub(super) fn sift_layers(view: &View<'_>, layers: &[Layer]) -> InLayers {
    let dispatch = view.subject.settings.dispatch();
    sift(view, layers, dispatch.needs_names(), |input, layer| run_on_layer(input, layer, dispatch))
}

/// Runs the rules of packs alone over them.
pub(super) fn house_in_layers(view: &View<'_>, layers: &[Layer]) -> InLayers {
    let dispatch = view.subject.settings.dispatch();
    sift(view, layers, dispatch.house_needs_names(), |input, _| run_house_on(input, dispatch))
}

fn sift(view: &View<'_>, layers: &[Layer], needs_names: bool, run: impl Fn(&Input<'_>, &Layer) -> Report) -> InLayers {
    let mut found = InLayers::default();
    let path = view.subject.rooted_path();
    for layer in layers {
        let Layer { language, tree, .. } = layer;
        let (language, text) = (*language, view.text);
        let names = needs_names.then(|| names_of(language, text, tree));
        let report = run(&Input { path: &path, language, text, tree, names: names.as_ref(), others: &Alone }, layer);
        let subject = Subject { language, ..*view.subject };
        let own = View { tree, subject: &subject, identities: &Identities::new(text, tree), ..*view };
        // Other scripts of the page, and those of other files, are not asked: what they decide is not said.
        let is_sure = |finding: &sieve_rules::Finding| finding.unless.is_none();
        found.findings.extend(report.findings.into_iter().filter(is_sure).map(|finding| own.finding(finding)));
        found.unsure.extend(report.unsure.iter().map(|unsure| own.unsure(unsure)));
    }
    found
}
