//! Values held against schemas that are in the document itself: defaults and examples.

mod satisfies;

use sieve_meaning::data::path::Path;

use super::{Complaint, Places, TooMuch};
use satisfies::Judge;

/// Values of each place that do not satisfy the schema that is there.
pub(super) fn fits<'d, 't>(
    places: &Places<'_, 'd, 't>,
    values: &[Path],
    schema: &Path,
) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let mut judge = Judge::new(places.document, &places.steps);
    let mut found = Vec::new();
    for place in &places.list {
        let values = places.find_all(values, *place)?;
        if values.is_empty() {
            continue;
        }
        let Some(schema) = places.find(schema, *place)?.first().copied() else { continue };
        for value in values {
            let problems = judge.problems(value, schema)?.into_iter();
            found.extend(problems.map(|problem| Complaint::within(value, problem)));
        }
    }
    Ok(found)
}
