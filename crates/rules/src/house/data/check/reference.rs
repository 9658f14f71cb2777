//! References of the form `#/…` and `other.yaml#/…`, names of files, and what they lead to.

use rustc_hash::FxHashSet;
use sieve_meaning::data::path::Path;
use sieve_meaning::data::{PartId, Value};

use super::super::message::{DataMessage, Filling};
use super::{Complaint, Places, TooMuch};
use crate::interface::{FileReference, file_beside, path_beside};
use crate::schema::cut;

/// References that lead to nothing, or to something else than they may, within the document.
pub(super) fn refers_to<'d, 't>(places: &Places<'_, 'd, 't>, path: &Path) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let named = places.find(path, places.document)?;
    let allowed: FxHashSet<PartId> =
        named.into_iter().flat_map(Value::children).map(|value| value.resolved().id()).collect();
    let complaint = |(place, reference): (Value<'d, 't>, String)| {
        let problem = match places.document.referred(pointer_of(&reference)?) {
            None => leads_to_nothing(&reference),
            Some(target) if allowed.contains(&target.resolved().id()) => return None,
            Some(_) => format!("{} is none of what may be referred to here", cut(&reference)),
        };
        Some(Complaint::about(place, problem))
    };
    Ok(references(places).filter_map(complaint).collect())
}

/// References that lead to nothing, in the document or in another file of the code base.
pub(super) fn resolves<'d, 't>(places: &Places<'_, 'd, 't>) -> Vec<Complaint<'d, 't>> {
    let complaint = |(place, reference): (Value<'d, 't>, String)| match pointer_of(&reference) {
        Some(pointer) => {
            let leads = places.document.referred(pointer).is_some();
            (!leads).then(|| Complaint::about(place, leads_to_nothing(&reference)))
        }
        None => {
            let unless = Some(file_beside(places.path, &reference)?);
            Some(Complaint { unless, ..Complaint::about(place, leads_to_nothing(&reference)) })
        }
    };
    references(places).filter_map(complaint).collect()
}

/// Values that name a file which is not there.
pub(super) fn matches_file<'d, 't>(places: &Places<'_, 'd, 't>, named: &DataMessage) -> Vec<Complaint<'d, 't>> {
    let complaint = |place: &Value<'d, 't>| {
        let value = place.as_str()?;
        let key = place.key().unwrap_or_default();
        let path = named.fill(&Filling { key, value: &value, pointer: &|| place.pointer(), problem: "" });
        let from = if path.starts_with("./") || path.starts_with("../") { places.path } else { "" };
        let file = FileReference { path: path_beside(from, &path)?, pointer: None };
        let problem = format!("there is no file {}", cut(&file.path));
        Some(Complaint { unless: Some(file), ..Complaint::about(*place, problem) })
    };
    places.list.iter().filter_map(complaint).collect()
}

fn leads_to_nothing(reference: &str) -> String {
    format!("nothing is at {}", cut(reference))
}

/// The references at the places that start from the document or its file.
fn references<'p, 'd, 't>(places: &'p Places<'_, 'd, 't>) -> impl Iterator<Item = (Value<'d, 't>, String)> + 'p {
    let starting_here = places.list.iter().filter(|place| !is_based_elsewhere(**place));
    starting_here.filter_map(|place| Some((*place, place.as_str()?)))
}

/// The pointer of a reference within the document: `#/…`. Other fragments are names that schemas give themselves.
fn pointer_of(reference: &str) -> Option<&str> {
    reference.strip_prefix('#').filter(|rest| rest.is_empty() || rest.starts_with('/'))
}

/// Whether a schema around the place says that references start from itself (JSON Schema 2020-12, 8.2.1).
fn is_based_elsewhere(place: Value<'_, '_>) -> bool {
    let around = std::iter::successors(place.parent(), |value| value.parent());
    around.take_while(|value| value.parent().is_some()).any(|value| value.get("$id").and_then(Value::as_str).is_some())
}
