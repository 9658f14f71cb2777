//! Values and keys that are on no list.

use rustc_hash::FxHashSet;
use sieve_meaning::data::path::Path;

use super::{Complaint, Places, TooMuch};
use crate::schema::cut;

/// Places whose value is none of those that the paths lead to in the document.
pub(super) fn values<'d, 't>(places: &Places<'_, 'd, 't>, paths: &[Path]) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let mut known: FxHashSet<String> = FxHashSet::default();
    for value in places.find_all(paths, places.document)? {
        known.insert(value.to_json_within(usize::MAX, &places.steps)?.to_string());
    }
    let mut found = Vec::new();
    for place in &places.list {
        let name = place.to_json_within(usize::MAX, &places.steps)?.to_string();
        if !known.contains(&name) {
            found.push(Complaint::about(*place, format!("{} is not listed", cut(&name))));
        }
    }
    Ok(found)
}

/// Places whose key is that of nothing that the paths lead to in the document.
pub(super) fn keys<'d, 't>(places: &Places<'_, 'd, 't>, paths: &[Path]) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let listed = places.find_all(paths, places.document)?;
    let known: FxHashSet<&str> = listed.into_iter().filter_map(|value| value.key()).collect();
    let named = places.list.iter().filter_map(|place| Some((*place, place.key()?)));
    let unknown = named.filter(|(_, key)| !known.contains(key));
    Ok(unknown
        .map(|(place, key)| Complaint {
            span: place.key_or_own_span(),
            ..Complaint::about(place, format!("\"{}\" is not listed", cut(key)))
        })
        .collect())
}
