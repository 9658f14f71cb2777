//! The rules of a log, and the standards that they serve.

use std::collections::{BTreeMap, BTreeSet};

use serde_json::{Value, json};
use sieve_rules::{Level, RuleId, RuleView};

use crate::output::Shown;
use crate::output::page::page;

/// Lists of weaknesses and criteria that others keep: how the names of their entries begin, what a list is called, and whose it is.
const LISTS: &[(&str, &str, &str)] = &[("CWE-", "CWE", "MITRE"), ("WCAG ", "WCAG", "W3C")];

/// The rules of a log, by their places in it.
pub(super) struct Rules<'r> {
    all: Vec<(RuleId, RuleView<'r>)>,
    places: BTreeMap<RuleId, usize>,
    /// The lists that any of them serves, with the entries.
    lists: BTreeMap<&'static str, BTreeSet<String>>,
}

impl<'r> Rules<'r> {
    /// Those that ran, and those of findings.
    pub(super) fn of(shown: &Shown<'r>) -> Rules<'r> {
        let mut ids = shown.ran.clone();
        ids.extend(shown.outcome.findings.iter().map(|finding| finding.rule));
        let all: Vec<(RuleId, RuleView<'_>)> = ids.into_iter().map(|id| (id, shown.outcome.rules.rule(id))).collect();
        let places = all.iter().enumerate().map(|(place, (id, _))| (*id, place)).collect();
        let mut lists: BTreeMap<&'static str, BTreeSet<String>> = BTreeMap::new();
        let standards = all.iter().flat_map(|(_, rule): &(RuleId, RuleView<'_>)| rule.standards());
        for (name, entry) in standards.filter_map(entry_of) {
            lists.entry(name).or_default().insert(entry);
        }
        Rules { all, places, lists }
    }

    /// The place of a rule.
    pub(super) fn place(&self, id: RuleId) -> usize {
        self.places.get(&id).copied().unwrap_or_default()
    }

    /// The place of a rule by its name.
    pub(super) fn place_of(&self, name: &str) -> Option<usize> {
        self.all.iter().position(|(_, rule)| rule.name == name)
    }

    pub(super) fn descriptors(&self) -> Vec<Value> {
        self.all.iter().map(|(_, rule)| self.descriptor(*rule)).collect()
    }

    fn descriptor(&self, rule: RuleView<'_>) -> Value {
        let why = if rule.why.is_empty() { rule.what } else { rule.why };
        let mut descriptor = json!({
            "id": rule.name,
            "name": pascal(rule.name),
            "shortDescription": { "text": rule.what },
            "fullDescription": { "text": why },
            "help": { "text": why, "markdown": page(rule) },
            "defaultConfiguration": { "level": level_word(rule.level) },
            "properties": {
                "tags": [rule.concern.word()],
                "certainty": rule.certainty.word(),
                "mesh": rule.mesh.word(),
                "standards": rule.standards(),
            },
        });
        let relations: Vec<Value> = rule.standards().iter().filter_map(|standard| self.relation(standard)).collect();
        if !relations.is_empty() {
            descriptor["relationships"] = relations.into();
        }
        descriptor
    }

    /// How a rule belongs to an entry of one of the lists.
    fn relation(&self, standard: &str) -> Option<Value> {
        let (name, entry) = entry_of(standard)?;
        let list = self.lists.keys().position(|list| *list == name)?;
        Some(json!({
            "target": { "id": entry, "toolComponent": { "name": name, "index": list } },
            "kinds": ["relevant"],
        }))
    }

    pub(super) fn taxonomies(&self) -> Vec<Value> {
        let organization = |name: &str| LISTS.iter().find(|(_, list, _)| *list == name).map_or("", |(.., whose)| whose);
        let taxonomy = |(name, entries): (&&str, &BTreeSet<String>)| {
            let taxa: Vec<Value> = entries.iter().map(|entry| json!({ "id": entry })).collect();
            json!({ "name": name, "organization": organization(name), "taxa": taxa })
        };
        self.lists.iter().map(taxonomy).collect()
    }
}

/// The list that a standard belongs to, and its entry in it: its first word, or the number of a criterion behind the name of the list, its
/// version and its level.
fn entry_of(standard: &str) -> Option<(&'static str, String)> {
    let (begins, name, _) = LISTS.iter().find(|(begins, ..)| standard.starts_with(begins))?;
    let words: Vec<&str> = standard.split([' ', ':', ',']).filter(|word| !word.is_empty()).collect();
    let is_number = |word: &&&str| word.matches('.').count() > 1;
    let entry = if begins.ends_with('-') { words.first() } else { words.iter().find(is_number).or(words.get(1)) };
    Some((name, entry?.to_string()))
}

/// A level in the words of the format; a rule that is off by default has none.
pub(super) fn level_word(level: Level) -> &'static str {
    match level {
        Level::Off => "none",
        other => other.word(),
    }
}

/// A name as the format wants it for people: `unused-import` becomes `UnusedImport`.
fn pascal(name: &str) -> String {
    let words = name.split(|character: char| !character.is_alphanumeric());
    let capital = |word: &str| {
        let mut characters = word.chars();
        characters.next().map_or(String::new(), |first| first.to_uppercase().collect::<String>() + characters.as_str())
    };
    words.map(capital).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_and_entries_are_found() {
        assert_eq!(pascal("ferry:no-print"), "FerryNoPrint");
        assert_eq!(entry_of("CWE-798: hard-coded credentials"), Some(("CWE", "CWE-798".to_string())));
        assert_eq!(entry_of("WCAG 2.2, 1.1.1 Non-text Content"), Some(("WCAG", "1.1.1".to_string())));
        assert_eq!(entry_of("WCAG 2.2 AA, 1.4.4 Resize Text"), Some(("WCAG", "1.4.4".to_string())));
        assert_eq!(entry_of("PEP 8"), None);
    }
}
