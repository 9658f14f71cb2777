//! The rules of a run: those of this program and those of packs, each known by its number in the set.

mod view;

use std::sync::{Arc, LazyLock};

use crate::catalogue;
use crate::catalogue::history::{self, Known};
use crate::house::HouseRule;
use crate::interface::RuleId;

pub use view::{OptionView, Origin, RuleView};

/// All rules that settings, waivers and findings may mention. Rules of this program have the same ids in every set.
#[derive(Debug, Default)]
pub struct RuleSet {
    /// Sorted by name.
    house: Vec<Arc<HouseRule>>,
}

static BUILT_IN: LazyLock<Arc<RuleSet>> = LazyLock::new(Arc::default);

impl RuleSet {
    /// The rules of this program alone.
    pub fn built_in() -> Arc<RuleSet> {
        Arc::clone(&BUILT_IN)
    }

    /// The rules of this program, and those of packs, no two of which have the same name.
    pub fn with(mut house: Vec<HouseRule>) -> RuleSet {
        house.sort_by(|one, other| one.name.cmp(&other.name));
        RuleSet { house: house.into_iter().map(Arc::new).collect() }
    }

    /// How many there are.
    pub fn count(&self) -> usize {
        catalogue::rules().len() + self.house.len()
    }

    /// The rules with their ids: those of this program, then those of packs, each sorted by name.
    pub fn iter(&self) -> impl Iterator<Item = (RuleId, RuleView<'_>)> + Clone {
        (0..self.count()).map(|index| (RuleId(index as u16), self.rule(RuleId(index as u16))))
    }

    /// The rule with an id.
    pub fn rule(&self, id: RuleId) -> RuleView<'_> {
        match self.house_rule(id) {
            Some(rule) => RuleView::house(rule),
            None => RuleView::built_in(catalogue::rule(id)),
        }
    }

    /// The rule with an id, if it is one of a pack.
    pub fn house_rule(&self, id: RuleId) -> Option<&Arc<HouseRule>> {
        self.house.get(usize::from(id.0).checked_sub(catalogue::rules().len())?)
    }

    /// The name of a rule.
    pub fn name(&self, id: RuleId) -> &str {
        self.rule(id).name
    }

    /// The id of the rule with a name.
    pub fn named(&self, name: &str) -> Option<RuleId> {
        if !name.contains(':') {
            return catalogue::named(name);
        }
        let place = self.house.binary_search_by(|rule| rule.name.as_str().cmp(name)).ok()?;
        Some(RuleId((catalogue::rules().len() + place) as u16))
    }

    /// The rule with a name, also with one that it had in an earlier release.
    pub fn known(&self, name: &str) -> Option<Known> {
        history::known(name).or_else(|| Some(Known { rule: self.named(name)?, renamed_in: None }))
    }

    /// The names of all rules.
    pub fn names(&self) -> impl Iterator<Item = &str> + Clone {
        self.iter().map(|(_, rule)| rule.name)
    }

    /// The names of the packs that have rules, sorted.
    pub fn packs(&self) -> Vec<&str> {
        let mut packs: Vec<&str> = self.house.iter().map(|rule| rule.pack()).collect();
        packs.dedup();
        packs
    }
}
