//! Parameters of paths: `/quays/{quay}` and what is said of `quay` (OpenAPI 3.1, 4.8.8 and 4.8.12; 2.0, Paths Object).

use std::sync::LazyLock;

use regex::Regex;
use rustc_hash::{FxHashMap, FxHashSet};
use sieve_meaning::data::{REFERENCE, Value};

use super::{Complaint, Places, TooMuch};
use crate::schema::cut;

/// A name in braces; marks after it say how a server is to read it, and are not part of it.
static TEMPLATE: LazyLock<Regex> = LazyLock::new(|| Regex::new(r"\{([^{}?#&;/.][^{}]*?)[*+]?\}").expect("it is one"));

/// Operations whose path has a name that no parameter describes, parameters that no path has, and those that are there twice.
pub(super) fn path_parameters<'d, 't>(places: &Places<'_, 'd, 't>) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let mut found = Vec::new();
    for operation in &places.list {
        let Some(item) = operation.parent() else { continue };
        // Callbacks and webhooks have keys of other forms.
        let Some(path) = item.key().filter(|key| key.starts_with('/')) else { continue };
        let shared = parameters(places, item);
        let own = parameters(places, *operation);
        found.extend(repeated(&shared.list));
        found.extend(repeated(&own.list));
        let names: FxHashSet<&str> =
            TEMPLATE.captures_iter(path).filter_map(|captures| captures.get(1)).map(|name| name.as_str()).collect();
        let described = || shared.list.iter().chain(&own.list).filter(|parameter| parameter.location == "path");
        for parameter in described().filter(|parameter| !names.contains(parameter.name.as_str())) {
            let problem = format!("the path has no {{{}}}", cut(&parameter.name));
            found.push(Complaint::about(parameter.at, problem));
        }
        if shared.is_complete && own.is_complete {
            let known: FxHashSet<&str> = described().map(|parameter| parameter.name.as_str()).collect();
            let mut missing: Vec<&&str> = names.iter().filter(|name| !known.contains(**name)).collect();
            missing.sort_unstable();
            if !missing.is_empty() {
                let missing: Vec<String> = missing.iter().map(|name| format!("{{{name}}}")).collect();
                let problem = format!("no parameter describes {}", missing.join(", "));
                found.push(Complaint { problem, ..Complaint::about_whole(*operation) });
            }
        }
    }
    let mut seen = FxHashSet::default();
    found.retain(|complaint| seen.insert(complaint.span));
    Ok(found)
}

/// What a list of parameters says.
struct Parameters<'d, 't> {
    list: Vec<Parameter<'d, 't>>,
    /// Whether each of them is known.
    is_complete: bool,
}

struct Parameter<'d, 't> {
    name: String,
    /// Where a request has it: `path`, `query` …
    location: String,
    /// Its name as it is written there, or the reference to it.
    at: Value<'d, 't>,
}

fn parameters<'d, 't>(places: &Places<'_, 'd, 't>, holder: Value<'d, 't>) -> Parameters<'d, 't> {
    let mut parameters = Parameters { list: Vec::new(), is_complete: holder.reference().is_none() };
    for entry in holder.get("parameters").into_iter().flat_map(Value::children) {
        let known = places.value(entry).and_then(|parameter| {
            let name = parameter.get("name")?;
            let at = if entry.reference().is_some() { entry.get(REFERENCE)? } else { name };
            Some(Parameter { name: name.as_str()?, location: parameter.get("in")?.as_str()?, at })
        });
        parameters.is_complete &= known.is_some();
        parameters.list.extend(known);
    }
    parameters
}

/// Parameters that their list has already.
fn repeated<'d, 't>(list: &[Parameter<'d, 't>]) -> Vec<Complaint<'d, 't>> {
    let mut first: FxHashMap<(&str, &str), Value<'d, 't>> = FxHashMap::default();
    let mut found = Vec::new();
    for parameter in list {
        match first.get(&(parameter.name.as_str(), parameter.location.as_str())) {
            Some(known) => {
                let problem = format!("a parameter {} is there already", cut(&parameter.name));
                let related = Some((known.span(), "the same parameter"));
                found.push(Complaint { related, ..Complaint::about(parameter.at, problem) });
            }
            None => drop(first.insert((&parameter.name, &parameter.location), parameter.at)),
        }
    }
    found
}
