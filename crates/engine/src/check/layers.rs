//! What a file holds in other languages, sifted as files of these are.

use sieve_meaning::names::Names;
use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_rules::{Input, Report, run_house_on, run_on_layer};
use sieve_syntax::language::{Language, Layer};

use super::ask::ask;
use super::view::View;
use crate::hold::baseline::Identities;
use crate::join::Asked;
use crate::outcome::{Finding, UnsurePlace};
use crate::subject::Subject;

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
    let dispatch = view.subject.settings.dispatch();
    let mut asked = Vec::new();
    let found = sift(view, layers, dispatch.needs_names(), |own, names, layer| {
        let (report, questions) =
            ask((own.text, own.tree), own.subject, names, |input| run_on_layer(input, layer, dispatch));
        asked.push((layer.language, questions));
        report
    });
    InLayers { asked, ..found }
}

/// Runs the rules of packs alone over them.
pub(super) fn house_in_layers(view: &View<'_>, layers: &[Layer]) -> InLayers {
    let dispatch = view.subject.settings.dispatch();
    let path = view.subject.rooted_path();
    sift(view, layers, dispatch.house_needs_names(), |own, names, layer| {
        let (language, text, tree) = (layer.language, own.text, own.tree);
        run_house_on(&Input { path: &path, language, text, tree, names, others: &Alone }, dispatch)
    })
}

/// Runs some rules over the layers of a file, each seen as a file of its language.
fn sift(
    view: &View<'_>,
    layers: &[Layer],
    needs_names: bool,
    mut run: impl FnMut(&View<'_>, Option<&Names<'_>>, &Layer) -> Report,
) -> InLayers {
    let mut found = InLayers::default();
    for layer in layers {
        let Layer { language, tree, .. } = layer;
        let (language, text) = (*language, view.text);
        let names = needs_names.then(|| names_of(language, text, tree));
        let subject = Subject { language, ..*view.subject };
        let own = View { tree, subject: &subject, identities: &Identities::new(text, tree), ..*view };
        let report = run(&own, names.as_ref(), layer);
        // Other scripts of the page, and those of other files, may use what is declared here: what they decide is not said.
        let is_sure = |finding: &sieve_rules::Finding| finding.unless.is_none();
        found.findings.extend(report.findings.into_iter().filter(is_sure).map(|finding| own.finding(finding)));
        found.unsure.extend(report.unsure.iter().map(|unsure| own.unsure(unsure)));
    }
    found
}
