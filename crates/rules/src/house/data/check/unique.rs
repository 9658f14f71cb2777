//! The same value in two places.

use rustc_hash::FxHashMap;
use sieve_meaning::data::path::Path;
use sieve_syntax::text::Span;

use super::{Complaint, Places, TooMuch};
use crate::schema::cut;

/// Values that another place has already.
pub(super) fn unique<'d, 't>(places: &Places<'_, 'd, 't>, path: &Path) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let mut found = Vec::new();
    let mut first: FxHashMap<String, Span> = FxHashMap::default();
    for place in &places.list {
        for value in places.find(path, *place)? {
            let name = value.to_json_within(usize::MAX, &places.steps)?.to_string();
            match first.get(&name) {
                Some(span) => {
                    let related = Some((*span, "the same value"));
                    let problem = format!("{} is there already", cut(&name));
                    found.push(Complaint { related, ..Complaint::about(value, problem) });
                }
                None => drop(first.insert(name, value.span())),
            }
        }
    }
    Ok(found)
}
