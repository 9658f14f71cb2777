//! What a word in settings, options and waivers represents: a rule, a concern, a published standard, a pack.

use sieve_rules::{Concern, RuleId, RuleSet};

use super::nearest;

/// The shortest beginning of a standard's name that represents it, in letters and digits.
const SHORTEST_STANDARD: usize = 3;

/// The rules that a word represents; none if it represents nothing there is. Names of earlier releases count.
pub fn rules_named(rules: &RuleSet, word: &str) -> Vec<RuleId> {
    if let Some(known) = rules.known(word) {
        return vec![known.rule];
    }
    if let Some(pack) = word.strip_suffix(":*") {
        return rules.iter().filter(|(_, rule)| rule.pack() == Some(pack)).map(|(id, _)| id).collect();
    }
    match Concern::named(word) {
        Some(concern) => rules.iter().filter(|(_, rule)| rule.concern == concern).map(|(id, _)| id).collect(),
        None => rules_of_standard(rules, word),
    }
}

/// Whether a word is well-formed and known, though no rule need belong to it yet.
pub fn is_known(rules: &RuleSet, word: &str) -> bool {
    !rules_named(rules, word).is_empty() || Concern::named(word).is_some()
}

/// Why a word represents nothing, and what it may have been meant to be.
pub fn unknown(rules: &RuleSet, word: &str) -> String {
    let packs = rules.packs();
    if let Some((pack, rule)) = word.split_once(':').filter(|(pack, _)| !pack.is_empty()) {
        if packs.is_empty() {
            return format!("there is no pack \"{pack}\": the settings name none");
        }
        if !packs.contains(&pack) {
            return format!("there is no pack \"{pack}\"{}", nearest(pack, packs.into_iter()));
        }
        let own = rules.names().filter_map(|name| name.strip_prefix(pack)?.strip_prefix(':'));
        return format!("the pack \"{pack}\" has no rule \"{rule}\"{}", nearest(rule, own));
    }
    let words = Concern::ALL.iter().map(|concern| concern.word());
    let hint = nearest(word, rules.names().chain(words));
    format!("there is no rule or concern \"{word}\"{hint}")
}

/// The rules that serve a standard whose name begins like this: `PEP 8`, `pep-8`, `POSIX`.
fn rules_of_standard(rules: &RuleSet, word: &str) -> Vec<RuleId> {
    let wanted = letters(word);
    if wanted.len() < SHORTEST_STANDARD {
        return Vec::new();
    }
    let serves = |standard: &&str| begins(standard, &wanted);
    let of_it = rules.iter().filter(|(_, rule)| rule.standards().iter().any(serves));
    of_it.map(|(id, _)| id).collect()
}

/// Whether a standard's name begins with these letters and digits, and does not go on in the middle of a word or number.
fn begins(standard: &str, wanted: &str) -> bool {
    let mut rest = wanted.chars().peekable();
    let mut last = ' ';
    for character in standard.chars() {
        if rest.peek().is_none() {
            return !(character.is_alphanumeric() && character.is_ascii_digit() == last.is_ascii_digit());
        }
        if character.is_alphanumeric() {
            if !rest.next().is_some_and(|next| character.to_lowercase().eq(std::iter::once(next))) {
                return false;
            }
            last = character;
        }
    }
    rest.peek().is_none()
}

fn letters(text: &str) -> String {
    text.chars().filter(|character| character.is_alphanumeric()).flat_map(char::to_lowercase).collect()
}

#[cfg(test)]
mod tests {
    use sieve_rules::catalogue;

    use super::*;

    fn names(word: &str) -> Vec<&'static str> {
        rules_named(&RuleSet::built_in(), word).into_iter().map(|id| catalogue::rule(id).name).collect()
    }

    #[test]
    fn standards_are_found_by_their_beginning() {
        assert_eq!(names("PEP 8"), names("pep-8"));
        assert!(names("PEP 8").contains(&"long-line"));
        assert!(names("posix").contains(&"final-newline"));
        assert!(names("The Python").is_empty() || names("the-python-language-reference").contains(&"repeated-key"));
        assert!(names("pe").is_empty() && names("pep 9").is_empty());
    }

    #[test]
    fn a_standard_is_not_found_by_half_a_number() {
        assert!(begins("PEP 8, Maximum Line Length", "pep8") && !begins("PEP 81", "pep8"));
        assert!(begins("POSIX.1-2024", "posix"));
    }
}
