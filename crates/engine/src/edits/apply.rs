//! Puts edits into a text.

use sieve_rules::Edit;

/// The text with the edits in it, which come in any order and do not overlap; one that does all the same is left out.
pub fn apply_edits(source: &str, edits: &[&Edit]) -> String {
    let mut sorted = edits.to_vec();
    sorted.sort_by_key(|edit| edit.span);
    let mut result = String::with_capacity(source.len());
    let mut done = 0;
    for edit in sorted {
        let range = edit.span.range();
        if range.start < done {
            continue;
        }
        result.push_str(&source[done..range.start]);
        result.push_str(&edit.text);
        done = range.end;
    }
    result.push_str(&source[done..]);
    result
}

/// Chooses fixes that do not touch each other, earlier ones first; the rest wait for another round. Gives their indexes.
pub(crate) fn without_conflicts(fixes: &[&[Edit]]) -> Vec<usize> {
    let mut order: Vec<usize> = (0..fixes.len()).collect();
    order.sort_by_key(|index| fixes[*index].iter().map(|edit| edit.span).min());
    // Stretches taken so far; an insertion takes the place it is at.
    let mut taken: std::collections::BTreeMap<u32, (u32, bool)> = std::collections::BTreeMap::new();
    let mut chosen = Vec::new();
    let removes = |edit: &Edit| edit.text.is_empty() && !edit.span.is_empty();
    for index in order {
        // What is only removed may be beside something else that is.
        let touches = |edit: &Edit| {
            let (start, end) = (edit.span.start, edit.span.end);
            let removes = removes(edit);
            let meets = |(taken_start, (taken_end, removed)): (&u32, &(u32, bool))| {
                if removes && *removed { *taken_end > start && *taken_start < end } else { *taken_end >= start }
            };
            taken.range(..=end).next_back().is_some_and(meets)
                || removes && taken.range(..end).next_back().is_some_and(meets)
        };
        if fixes[index].iter().any(touches) {
            continue;
        }
        for edit in fixes[index] {
            let there = taken.entry(edit.span.start).or_insert((edit.span.end, removes(edit)));
            *there = (there.0.max(edit.span.end), there.1 && removes(edit));
        }
        chosen.push(index);
    }
    chosen
}

#[cfg(test)]
mod tests {
    use super::*;
    use sieve_syntax::text::Span;

    #[test]
    fn fixes_that_touch_wait() {
        let remove = |start, end| vec![Edit::remove(Span::new(start, end))];
        let fixes = [remove(0, 3), remove(3, 5), remove(8, 9), remove(2, 8), vec![Edit::insert(9, "x")]];
        let slices: Vec<&[Edit]> = fixes.iter().map(Vec::as_slice).collect();
        assert_eq!(without_conflicts(&slices), [0, 1, 2]);
        let claims =
            [vec![Edit::claim(4), Edit::remove(Span::new(6, 7))], vec![Edit::claim(4), Edit::remove(Span::new(9, 10))]];
        let slices: Vec<&[Edit]> = claims.iter().map(Vec::as_slice).collect();
        assert_eq!(without_conflicts(&slices), [0]);
    }

    #[test]
    fn edits_take_the_place_of_text() {
        let edits = [Edit::replace(Span::new(0, 1), "quay"), Edit::insert(3, "!")];
        assert_eq!(apply_edits("a b", &edits.iter().collect::<Vec<_>>()), "quay b!");
        let overlapping = [Edit::remove(Span::new(0, 2)), Edit::insert(1, "!")];
        assert_eq!(apply_edits("abc", &overlapping.iter().collect::<Vec<_>>()), "c");
    }
}
