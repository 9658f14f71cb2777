//! What a file holds in other languages, sifted as files of these are.

use sieve_meaning::names_of;
use sieve_meaning::project::{Alone, Linker, Others};
use sieve_rules::{Input, Report, run_house_on, run_on_layer};
use sieve_syntax::language::{Language, Layer};

use super::view::View;
use crate::hold::baseline::Identities;
use crate::join::Asked;
use crate::outcome::{Finding, UnsurePlace};
use crate::subject::Subject;
use crate::workspace::modules::ModulesOf;

/// What was found in the layers of a file.
#[derive(Debug, Default)]
pub(super) struct InLayers {
    pub(super) findings: Vec<Finding>,
    pub(super) unsure: Vec<UnsurePlace>,
    /// What the layers ask of other files; nothing where those have answered.
    pub(super) asked: Vec<(Language, Asked)>,
}

/// Runs all rules over the layers of a file.
pub(super) fn sift_layers(view: &View<'_>, layers: &[Layer]) -> InLayers {
    let subject = view.subject;
    let dispatch = subject.settings.dispatch();
    let path = subject.rooted_path();
    let mut asked = Vec::new();
    let mut found = sift(view, layers, dispatch.needs_names(), |input, layer| {
        if subject.asks_others {
            let modules = ModulesOf::new(&subject.index.modules, subject.project, layer.language);
            let linker = Linker { language: layer.language, path: &path, modules: &modules };
            return run_on_layer(&with(input, &linker), layer, dispatch);
        }
        let questions = Asked::of(layer.language);
        let report = run_on_layer(&with(input, &questions), layer, dispatch);
        asked.push((layer.language, questions));
        report
    });
    found.asked = asked;
    found
}

fn with<'i>(input: &Input<'i>, others: &'i dyn Others) -> Input<'i> {
    Input { others, ..*input }
}

/// Runs the rules of packs alone over them.
pub(super) fn house_in_layers(view: &View<'_>, layers: &[Layer]) -> InLayers {
    let dispatch = view.subject.settings.dispatch();
    sift(view, layers, dispatch.house_needs_names(), |input, _| run_house_on(input, dispatch))
}

fn sift(
    view: &View<'_>,
    layers: &[Layer],
    needs_names: bool,
    mut run: impl FnMut(&Input<'_>, &Layer) -> Report,
) -> InLayers {
    let mut found = InLayers::default();
    let path = view.subject.rooted_path();
    for layer in layers {
        let Layer { language, tree, .. } = layer;
        let (language, text) = (*language, view.text);
        let names = needs_names.then(|| names_of(language, text, tree));
        let report = run(&Input { path: &path, language, text, tree, names: names.as_ref(), others: &Alone }, layer);
        let subject = Subject { language, ..*view.subject };
        let own = View { tree, subject: &subject, identities: &Identities::new(text, tree), ..*view };
        // Other scripts of the page, and those of other files, may use what is declared here: what they decide is not said.
        let is_sure = |finding: &sieve_rules::Finding| finding.unless.is_none();
        found.findings.extend(report.findings.into_iter().filter(is_sure).map(|finding| own.finding(finding)));
        found.unsure.extend(report.unsure.iter().map(|unsure| own.unsure(unsure)));
    }
    found
}
