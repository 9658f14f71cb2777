//! What paths lead to from a place: something, or nothing.

use sieve_meaning::data::path::Path;

use super::{Complaint, Places, TooMuch};

/// Places from which none of the paths leads to anything.
pub(super) fn has<'d, 't>(places: &Places<'_, 'd, 't>, paths: &[Path]) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let mut found = Vec::new();
    for place in &places.list {
        // What is described elsewhere is not known.
        if places.value(*place).is_some() && places.find_all(paths, *place)?.is_empty() {
            found.push(Complaint::about_whole(*place));
        }
    }
    Ok(found)
}

/// What the paths lead to, and should not.
pub(super) fn has_no<'d, 't>(places: &Places<'_, 'd, 't>, paths: &[Path]) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let mut found = Vec::new();
    for place in &places.list {
        found.extend(places.find_all(paths, *place)?.into_iter().map(Complaint::about_whole));
    }
    Ok(found)
}
