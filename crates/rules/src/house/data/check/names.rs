//! Names in another style.

use std::collections::BTreeMap;

use sieve_meaning::data::Value;
use sieve_syntax::text::Span;

use super::{Complaint, Places};
use crate::interface::NameStyle;
use crate::schema::cut;

/// Of the names that tell a style, so many in a hundred have the one that is the style of all.
const MOST_OF_THEM: usize = 70;

/// Fewer names tell no style.
const ENOUGH: usize = 5;

/// Names that are not in a style.
pub(super) fn of_style<'d, 't>(places: &Places<'_, 'd, 't>, style: NameStyle) -> Vec<Complaint<'d, 't>> {
    let mut found = Vec::new();
    for place in &places.list {
        let Some((name, span)) = name_of(*place) else { continue };
        if !words(&name).all(|word| style.fits(word)) {
            let problem = format!("\"{}\" is not in the style {}", cut(&name), style.word());
            found.push(Complaint { span, ..Complaint::about(*place, problem) });
        }
    }
    found
}

/// Names that are not in the style that most of them are in, where there is one.
pub(super) fn consistent<'d, 't>(places: &Places<'_, 'd, 't>) -> Vec<Complaint<'d, 't>> {
    let mut counts: BTreeMap<NameStyle, usize> = BTreeMap::new();
    for place in &places.list {
        let Some((name, _)) = name_of(*place) else { continue };
        for style in words(&name).filter_map(NameStyle::only_one_of) {
            *counts.entry(style).or_default() += 1;
        }
    }
    let all: usize = counts.values().sum();
    match counts.into_iter().max_by_key(|(_, count)| *count) {
        Some((style, count)) if all >= ENOUGH && count * 100 >= all * MOST_OF_THEM => of_style(places, style),
        _ => Vec::new(),
    }
}

/// The name at a place and where it is: its key, or the string that it is.
fn name_of(place: Value<'_, '_>) -> Option<(String, Span)> {
    match (place.key(), place.as_str()) {
        (Some(key), None) => Some((key.to_string(), place.key_or_own_span())),
        (_, Some(value)) => Some((value, place.span())),
        (None, None) => None,
    }
}

/// The names in a name: of a path those between its slashes, without those in braces. Numbers and signs are none.
fn words(name: &str) -> impl Iterator<Item = &str> {
    let is_path = name.starts_with('/');
    let parts = name.split(move |c| is_path && matches!(c, '/' | '.' | ':'));
    let is_name = |part: &&str| part.starts_with(|first: char| first.is_alphabetic() || matches!(first, '_' | '$'));
    parts.filter(is_name).filter(move |part| !is_path || !part.contains(['{', '}', '*']))
}
