//! How long the rules of a pack take for the code that is here.

use std::time::{Duration, Instant};

use sieve_meaning::names::Names;
use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_rules::{Dispatch, Input, RuleSet, run_on};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use super::dispatch_of;
use crate::check::load;
use crate::run::Request;
use crate::settings::SettingsError;
use crate::workspace::discover;

/// So much code is enough to measure with, in bytes.
const ENOUGH: usize = 4 << 20;

/// Less is too little: then what is measured is the work for a file, not for its code.
const TOO_LITTLE: usize = 50_000;

/// The rules are run over it as often as this; the fastest counts.
const ROUNDS: usize = 5;

/// How long a rule takes.
#[derive(Debug, Clone)]
pub struct Cost {
    /// The rule's name.
    pub rule: String,
    /// The time for each megabyte of code that it is for.
    pub per_megabyte: Duration,
    /// The same as a share of parsing this code.
    pub of_parsing: f64,
    /// The bytes that it was measured with.
    pub bytes: usize,
}

struct Sample {
    language: Language,
    text: Text,
    tree: Tree,
    parsing: Duration,
}

/// What each rule of a pack costs, measured with the code below a request's paths; nothing for rules in whose languages there is too little.
///
/// # Errors
/// When a settings file is wrong.
pub fn costs(request: &Request<'_>, rules: &RuleSet, pack: &str) -> Result<Vec<Cost>, SettingsError> {
    let samples = samples(request)?;
    let names: Vec<Names<'_>> = samples.iter().map(|one| names_of(one.language, &one.text, &one.tree)).collect();
    let inputs: Vec<(Input<'_>, Duration)> =
        samples.iter().zip(&names).map(|(one, names)| (one.input(names), one.parsing)).collect();
    let idle = Dispatch::new(Vec::new());
    let mut costs = Vec::new();
    for (id, view) in rules.iter().filter(|(_, rule)| rule.pack() == Some(pack)) {
        let Some(rule) = rules.house_rule(id) else { continue };
        let own: Vec<&(Input<'_>, Duration)> =
            inputs.iter().filter(|(input, _)| view.languages.contains(&input.language)).collect();
        let bytes: usize = own.iter().map(|(input, _)| input.text.source().len()).sum();
        if bytes < TOO_LITTLE {
            continue;
        }
        let dispatch = dispatch_of(id, rule);
        let time = fastest(&own, &dispatch).saturating_sub(fastest(&own, &idle));
        let parsing: Duration = own.iter().map(|(_, parsing)| *parsing).sum();
        let megabytes = bytes as f64 / 1e6;
        costs.push(Cost {
            rule: rule.name.clone(),
            per_megabyte: time.div_f64(megabytes),
            of_parsing: time.as_secs_f64() / parsing.as_secs_f64().max(1e-9),
            bytes,
        });
    }
    Ok(costs)
}

fn fastest(inputs: &[&(Input<'_>, Duration)], dispatch: &Dispatch) -> Duration {
    let round = || {
        let started = Instant::now();
        for (input, _) in inputs {
            std::hint::black_box(run_on(input, dispatch));
        }
        started.elapsed()
    };
    (0..ROUNDS).map(|_| round()).min().unwrap_or_default()
}

/// Some of the code that is here, parsed.
fn samples(request: &Request<'_>) -> Result<Vec<Sample>, SettingsError> {
    let discovery = discover::discover(&request.search())?;
    let mut samples = Vec::new();
    let mut bytes = 0;
    for candidate in &discovery.files {
        let Ok(Ok(text)) = load::text(candidate, request.project) else { continue };
        bytes += text.source().len();
        let started = Instant::now();
        let tree = candidate.language.parse(&text);
        samples.push(Sample { language: candidate.language, text, tree, parsing: started.elapsed() });
        if bytes > ENOUGH {
            break;
        }
    }
    Ok(samples)
}

impl Sample {
    fn input<'s>(&'s self, names: &'s Names<'s>) -> Input<'s> {
        let (language, text, tree) = (self.language, &self.text, &self.tree);
        Input { path: "example", language, text, tree, names: Some(names), others: &Alone }
    }
}
