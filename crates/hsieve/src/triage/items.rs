//! All findings of the list, kept in step with the code.

use std::collections::{BTreeSet, HashMap};
use std::sync::Arc;

use sieve_engine::outcome::{Finding, Held, Identity};
use sieve_rules::RuleId;

use super::item::{Item, State, Way};

/// The place of an item in the order in which items came. It never changes.
pub type Id = usize;

/// The findings, in the order of their places at the start; one that came later is where it belongs.
#[derive(Debug, Default)]
pub struct Items {
    all: Vec<Item>,
    order: Vec<Id>,
}

/// What makes a finding the same after a change elsewhere.
type Key = (RuleId, Arc<str>, Result<Box<Identity>, String>);

fn key(finding: &Finding) -> Key {
    let what = finding.identity.clone().ok_or_else(|| finding.message.clone());
    (finding.rule, Arc::clone(&finding.path), what)
}

/// What somebody must have done with a finding that is held back.
fn way_of(finding: &Finding) -> Option<Way> {
    finding.held.as_ref().map(|held| match held {
        Held::Baseline => Way::Recorded,
        Held::Waiver { .. } | Held::SettingsWaiver { .. } => Way::Waived,
        Held::Scope { .. } => Way::Level,
    })
}

/// Why a look was taken: what was done with which items, or which of them are open again.
#[derive(Debug, Default)]
pub struct Since<'s> {
    /// What was done.
    pub done: Option<(Way, &'s [Id])>,
    /// Items whose action was undone.
    pub reopened: &'s [Id],
}

impl Items {
    /// An item.
    pub fn get(&self, id: Id) -> &Item {
        &self.all[id]
    }

    /// The items in the order of the list.
    pub fn iter(&self) -> impl Iterator<Item = (Id, &Item)> {
        self.order.iter().map(|id| (*id, &self.all[*id]))
    }

    /// Sets what has become of an item.
    pub fn set(&mut self, id: Id, state: State) {
        self.all[id].state = state;
    }

    /// How many are in a state.
    pub fn count(&self, state: State) -> usize {
        self.all.iter().filter(|item| item.state == state).count()
    }

    /// Takes over what is reported now, in the order of places, and what holds other findings back. Gives how many of the items with which
    /// something was done are not reported any more.
    pub fn take(
        &mut self,
        findings: Vec<Finding>,
        held: &[Finding],
        since: &Since<'_>,
        owner: &dyn Fn(&str) -> Option<String>,
    ) -> usize {
        let (way, targets) =
            since.done.map_or((None, BTreeSet::new()), |(way, ids)| (Some(way), BTreeSet::from_iter(ids)));
        let mut places: HashMap<Key, Vec<Finding>> = HashMap::new();
        let mut keys = Vec::new();
        for finding in findings {
            let key = key(&finding);
            let same = places.entry(key.clone()).or_insert_with(|| {
                keys.push(key);
                Vec::new()
            });
            same.push(finding);
        }
        let mut known: HashMap<Key, Vec<Id>> = HashMap::new();
        self.order.iter().for_each(|id| known.entry(key(&self.all[*id].finding)).or_default().push(*id));
        let is_new = !self.all.is_empty();
        let mut is_reported = vec![false; self.all.len()];
        let mut new = Vec::new();
        for key in keys {
            let found = places.remove(&key).unwrap_or_default();
            let same = known.remove(&key).unwrap_or_default();
            // Where fewer are left than there were, those with which something was done are the ones that went.
            let mut kept: Vec<(u8, usize)> =
                same.iter().enumerate().map(|(at, id)| (self.rank(*id, &targets, since.reopened), at)).collect();
            kept.sort_unstable();
            kept.truncate(found.len());
            let mut kept: Vec<usize> = kept.into_iter().map(|(_, at)| at).collect();
            kept.sort_unstable();
            let mut found = found.into_iter();
            for (at, finding) in kept.into_iter().zip(found.by_ref()) {
                is_reported[same[at]] = true;
                self.all[same[at]].finding = finding;
            }
            new.extend(found);
        }
        let vanished = targets.iter().filter(|id| !is_reported[***id]).count();
        let level_of = way.filter(|way| *way == Way::Level).and(targets.first()).map(|id| self.all[**id].finding.rule);
        let mut holders: HashMap<Key, Vec<Way>> = HashMap::new();
        held.iter().for_each(|finding| holders.entry(key(finding)).or_default().extend(way_of(finding)));
        for (id, is_reported) in is_reported.into_iter().enumerate() {
            let item = &mut self.all[id];
            let came_back = is_reported && !item.is_reported;
            item.is_reported = is_reported;
            item.state = match (way.filter(|_| targets.contains(&id)), item.state) {
                (Some(way), _) if !is_reported || way == Way::Level => State::Done(way),
                _ if came_back || is_reported && since.reopened.contains(&id) => State::Open,
                // What was done with another one may hold for it, too.
                (_, State::Open) if !is_reported && level_of == Some(item.finding.rule) => State::Done(Way::Level),
                (_, State::Open) if !is_reported => {
                    let holder = holders.get_mut(&key(&item.finding)).and_then(Vec::pop);
                    holder.map_or(State::Gone, State::Done)
                }
                (_, other) => other,
            };
        }
        for finding in new {
            let owner = owner(&finding.path);
            self.insert(Item { finding, state: State::Open, is_reported: true, is_new, owner });
        }
        vanished
    }

    /// The lower, the rather an item is still reported.
    fn rank(&self, id: Id, targets: &BTreeSet<&Id>, reopened: &[Id]) -> u8 {
        match self.all[id].is_reported {
            _ if targets.contains(&id) => 2,
            _ if reopened.contains(&id) => 1,
            true => 0,
            false => 3,
        }
    }

    /// Puts a new item where it belongs.
    fn insert(&mut self, item: Item) {
        let place = |item: &Item| (Arc::clone(&item.finding.path), item.finding.span.start, item.finding.rule);
        let own = place(&item);
        let is_last = self.order.last().is_none_or(|last| place(&self.all[*last]) <= own);
        let at = if is_last { None } else { self.order.iter().position(|id| place(&self.all[*id]) > own) };
        self.order.insert(at.unwrap_or(self.order.len()), self.all.len());
        self.all.push(item);
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;
    use sieve_rules::{Level, RuleSet};
    use sieve_syntax::text::{Place, Span};

    use super::*;

    /// Findings of two rules in two files: a few kinds, so that many are alike.
    fn findings(places: &[(bool, bool, u8)]) -> Vec<Finding> {
        let rules = RuleSet::built_in();
        let rules = [rules.named("unused-import"), rules.named("magic-number")].map(|rule| rule.expect("a rule"));
        let mut sorted: Vec<(bool, usize, bool, u8)> =
            places.iter().enumerate().map(|(line, (file, rule, code))| (*file, line, *rule, code % 3)).collect();
        sorted.sort_unstable();
        let finding = |(file, line, rule, code): (bool, usize, bool, u8)| {
            let place = Place { line: line as u32 + 1, column: 1 };
            Finding {
                rule: rules[usize::from(rule)],
                level: Level::Warning,
                path: if file { "tides.py" } else { "fares.py" }.into(),
                span: Span::new(line as u32 * 10, line as u32 * 10 + 1),
                start: place,
                end: place,
                message: String::new(),
                advice: None,
                related: Vec::new(),
                fix: None,
                held: None,
                identity: Some(Box::new(Identity { within: String::new(), code: code.to_string() })),
                excerpt: None,
            }
        };
        sorted.into_iter().map(finding).collect()
    }

    fn take(items: &mut Items, findings: Vec<Finding>, since: &Since<'_>) -> usize {
        items.take(findings, &[], since, &|_| None)
    }

    fn open(items: &Items) -> Vec<Id> {
        items.iter().filter(|(_, item)| item.state == State::Open).map(|(id, _)| id).collect()
    }

    proptest! {
        /// What goes with an action is what it was for, however alike the others are, and undoing brings back just that.
        #[test]
        fn an_action_and_its_undoing_meet_the_same_items(
            places in proptest::collection::vec(any::<(bool, bool, u8)>(), 1..40),
            chosen in any::<proptest::sample::Index>(),
            reach in 1..4_usize,
        ) {
            let mut items = Items::default();
            let all = findings(&places);
            take(&mut items, all.clone(), &Since::default());
            let before = open(&items);
            let first = before[chosen.index(before.len())];
            let rule = items.get(first).finding.rule;
            let of_rule = before.iter().copied().filter(|id| *id == first || items.get(*id).finding.rule == rule);
            let targets: Vec<Id> = of_rule.take(reach).collect();
            let spans: Vec<(Arc<str>, Span)> =
                targets.iter().map(|id| &items.get(*id).finding).map(|one| (Arc::clone(&one.path), one.span)).collect();
            let left: Vec<Finding> =
                all.iter().filter(|one| !spans.contains(&(Arc::clone(&one.path), one.span))).cloned().collect();
            let vanished = take(&mut items, left, &Since { done: Some((Way::Fixed, &targets)), reopened: &[] });
            prop_assert_eq!(vanished, targets.len());
            let expected: Vec<Id> = before.iter().copied().filter(|id| !targets.contains(id)).collect();
            prop_assert_eq!(open(&items), expected);
            take(&mut items, all.clone(), &Since { done: None, reopened: &targets });
            prop_assert_eq!(open(&items), before);
            let shown: Vec<Span> = items.iter().map(|(_, item)| item.finding.span).collect();
            let reported: Vec<Span> = all.iter().map(|one| one.span).collect();
            prop_assert_eq!(shown, reported);
        }

        /// Whatever becomes of the code, each finding is on the list once, and nothing on it vanishes.
        #[test]
        fn the_list_has_each_finding_once(
            looks in proptest::collection::vec(proptest::collection::vec(any::<(bool, bool, u8)>(), 0..20), 1..5),
        ) {
            let mut items = Items::default();
            let mut listed = 0;
            for places in looks {
                let all = findings(&places);
                take(&mut items, all.clone(), &Since::default());
                prop_assert_eq!(open(&items).len(), all.len());
                prop_assert!(items.order.len() >= listed);
                listed = items.order.len();
            }
        }
    }

    #[test]
    fn what_an_action_holds_back_besides_is_told() {
        let mut items = Items::default();
        let all = findings(&[(false, false, 0), (false, false, 1), (false, false, 2)]);
        take(&mut items, all.clone(), &Since::default());
        let mut held = all[1].clone();
        held.held = Some(Held::Waiver { line: 1, reason: None });
        items.take(vec![], &[held], &Since { done: Some((Way::Waived, &[0])), reopened: &[] }, &|_| None);
        let states: Vec<State> = items.iter().map(|(_, item)| item.state).collect();
        assert_eq!(states, [State::Done(Way::Waived), State::Done(Way::Waived), State::Gone]);
    }
}
