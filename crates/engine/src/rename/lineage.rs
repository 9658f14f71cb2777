//! What inherits from what, among things with numbers: the classes or the types of a project.

use std::collections::BTreeSet;

/// What each inherits from, and what inherits from it.
#[derive(Default)]
pub(super) struct Lineage {
    bases: Vec<Vec<usize>>,
    heirs: Vec<Vec<usize>>,
}

impl Lineage {
    /// Of so many, none of which inherits from another one yet.
    pub(super) fn of(count: usize) -> Lineage {
        Lineage { bases: vec![Vec::new(); count], heirs: vec![Vec::new(); count] }
    }

    /// One inherits from another one.
    pub(super) fn add(&mut self, heir: usize, base: usize) {
        self.bases[heir].push(base);
        self.heirs[base].push(heir);
    }

    /// One with all that it inherits from, itself first and the nearest before those further up.
    pub(super) fn above(&self, one: usize) -> Vec<usize> {
        reachable(one, |from| self.bases[from].iter())
    }

    /// One with all that it inherits from and that inherit from it, in order.
    pub(super) fn straight(&self, one: usize) -> Vec<usize> {
        let below = reachable(one, |from| self.heirs[from].iter());
        in_order(self.above(one).into_iter().chain(below))
    }

    /// All that are related to one through any number of steps up and down, in order.
    pub(super) fn family(&self, one: usize) -> Vec<usize> {
        in_order(reachable(one, |from| self.bases[from].iter().chain(&self.heirs[from])).into_iter())
    }
}

fn in_order(all: impl Iterator<Item = usize>) -> Vec<usize> {
    all.collect::<BTreeSet<_>>().into_iter().collect()
}

fn reachable<'l, I: Iterator<Item = &'l usize>>(start: usize, steps: impl Fn(usize) -> I) -> Vec<usize> {
    let mut seen = BTreeSet::from([start]);
    let mut found = vec![start];
    let mut next = 0;
    while let Some(&from) = found.get(next) {
        found.extend(steps(from).copied().filter(|to| seen.insert(*to)));
        next += 1;
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    /// 0 inherits from 1 and 2, these from 3; 4 inherits from 2, and 5 and 6 from each other.
    #[test]
    fn steps_lead_up_down_or_both_ways() {
        let mut lineage = Lineage::of(7);
        for (heir, base) in [(0, 1), (0, 2), (1, 3), (2, 3), (4, 2), (5, 6), (6, 5)] {
            lineage.add(heir, base);
        }
        assert_eq!(lineage.above(0), [0, 1, 2, 3]);
        assert_eq!(lineage.straight(2), [0, 2, 3, 4]);
        assert_eq!(lineage.family(4), [0, 1, 2, 3, 4]);
        assert_eq!((lineage.above(5), lineage.straight(6), lineage.family(5)), (vec![5, 6], vec![5, 6], vec![5, 6]));
    }
}
