//! What earlier releases had otherwise: names, levels and meshes of rules, and rules that were not there yet.
//!
//! Settings name the release they were written for. Under them every rule keeps the level that it had then, and rules that came
//! later stay off, until somebody decides to move on.

use std::borrow::Cow;
use std::fmt;
use std::str::FromStr;
use std::sync::LazyLock;

use super::{named, rule};
use crate::interface::{Level, Mesh, Rule, RuleId};

/// A release: names and defaults do not change within one.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Release {
    major: u16,
    minor: u16,
}

impl Release {
    /// A release by its numbers.
    pub const fn new(major: u16, minor: u16) -> Release {
        Release { major, minor }
    }
}

impl fmt::Display for Release {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "{}.{}", self.major, self.minor)
    }
}

impl FromStr for Release {
    type Err = ();

    fn from_str(text: &str) -> Result<Release, ()> {
        let (major, minor) = text.split_once('.').ok_or(())?;
        let number = |digits: &str| digits.parse().map_err(|_| ());
        let release = Release { major: number(major)?, minor: number(minor)? };
        // `0.01` and `+0.1` are other ways of writing it, and not taken.
        if release.to_string() == text { Ok(release) } else { Err(()) }
    }
}

/// The release whose names and defaults this version has.
pub const CURRENT: Release = Release::new(0, 1);

/// Something that a release made otherwise.
#[derive(Debug, Clone)]
pub struct Change {
    /// The release that made it so.
    pub release: Release,
    /// What it changed.
    pub what: What,
}

/// What a release changed. Rules are given by the names that they have now.
#[derive(Debug, Clone)]
pub enum What {
    /// A rule came.
    Added(Cow<'static, str>),
    /// A rule's name changed.
    Renamed {
        /// The name before.
        from: Cow<'static, str>,
        /// The name now.
        to: Cow<'static, str>,
    },
    /// A rule's level changed.
    Level {
        /// The rule.
        rule: Cow<'static, str>,
        /// Its level before.
        before: Level,
    },
    /// The coarsest mesh that catches a rule changed.
    Mesh {
        /// The rule.
        rule: Cow<'static, str>,
        /// The mesh before.
        before: Mesh,
    },
}

/// All changes since the oldest release that settings may name.
#[derive(Debug)]
pub struct History {
    /// The oldest release whose defaults are known.
    pub oldest: Release,
    /// The changes, the oldest first.
    pub changes: Vec<Change>,
}

/// The history of this product. The first release is the current one.
static HISTORY: LazyLock<History> = LazyLock::new(|| History { oldest: CURRENT, changes: Vec::new() });

/// The history in force.
pub fn history() -> &'static History {
    #[cfg(debug_assertions)]
    if let Some(history) = SIMULATED.get() {
        return history;
    }
    &HISTORY
}

#[cfg(debug_assertions)]
static SIMULATED: std::sync::OnceLock<History> = std::sync::OnceLock::new();

/// Puts another history in force, to test what a release will do before there is one. Only in builds for development.
#[cfg(debug_assertions)]
pub fn simulate(history: History) {
    // A second call would change the past of a program that has begun to work.
    let _ = SIMULATED.set(history);
}

/// A rule found by a name that it has or had.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Known {
    /// The rule.
    pub rule: RuleId,
    /// The release that gave it another name; nothing if the name is the one it has.
    pub renamed_in: Option<Release>,
}

/// The rule with a name, also with one that it had in an earlier release.
pub fn known(name: &str) -> Option<Known> {
    if let Some(rule) = named(name) {
        return Some(Known { rule, renamed_in: None });
    }
    let mut wanted = name.to_string();
    let mut renamed_in = None;
    for change in &history().changes {
        if let What::Renamed { from, to } = &change.what
            && **from == wanted
        {
            wanted = to.to_string();
            renamed_in = Some(change.release);
        }
    }
    renamed_in?;
    Some(Known { rule: named(&wanted)?, renamed_in })
}

/// The defaults of a rule in a release.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Defaults {
    /// Its level where its mesh catches it.
    pub level: Level,
    /// The coarsest mesh that caught it; nothing if the rule was not there yet.
    pub mesh: Option<Mesh>,
}

/// Rules that hold for some teams only: no mesh catches them, settings switch them on by their names.
const ONLY_BY_NAME: &[&str] = &["async-suffix", "float-layout", "id-selector", "important-flag", "local-import"];

/// Whether only its name switches a rule on.
pub fn is_only_by_name(rule: &str) -> bool {
    ONLY_BY_NAME.contains(&rule)
}

/// The defaults that a rule had in a release.
pub fn defaults_in(id: RuleId, release: Release) -> Defaults {
    let facts = rule(id);
    let mesh = (!is_only_by_name(facts.name)).then_some(facts.mesh);
    let mut then = Defaults { level: facts.level, mesh };
    for change in history().changes.iter().rev().filter(|change| change.release > release) {
        match &change.what {
            What::Added(name) if is(facts, name) => then.mesh = None,
            What::Level { rule, before } if is(facts, rule) => then.level = *before,
            What::Mesh { rule, before } if is(facts, rule) => then.mesh = then.mesh.map(|_| *before),
            _ => {}
        }
    }
    then
}

fn is(facts: &Rule, name: &str) -> bool {
    facts.name == name
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn releases_are_written_in_one_way_and_ordered_by_number() {
        assert_eq!("0.10".parse(), Ok(Release::new(0, 10)));
        assert!(Release::new(0, 9) < Release::new(0, 10));
        for wrong in ["", "1", "0.01", "+0.1", "0.1.2", "a.b"] {
            assert_eq!(wrong.parse::<Release>(), Err(()), "{wrong}");
        }
    }

    #[test]
    fn the_table_names_rules_there_are_and_goes_forward() {
        let history = &*HISTORY;
        assert!(history.changes.is_sorted_by_key(|change| change.release));
        for change in &history.changes {
            assert!(change.release > history.oldest && change.release <= CURRENT);
            let (What::Added(name) | What::Level { rule: name, .. } | What::Mesh { rule: name, .. }) = &change.what
            else {
                continue;
            };
            assert!(named(name).is_some(), "{name}");
        }
    }

    #[test]
    fn the_current_release_has_the_current_defaults() {
        for (id, facts) in super::super::rules() {
            assert_eq!(
                defaults_in(id, CURRENT),
                Defaults { level: facts.level, mesh: (!ONLY_BY_NAME.contains(&facts.name)).then_some(facts.mesh) }
            );
        }
    }
}
