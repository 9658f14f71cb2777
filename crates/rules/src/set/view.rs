//! A rule as settings, waivers, baseline and output see it: it does not matter to them whether it is built in or of a pack.

use std::borrow::Cow;

use sieve_syntax::language::Language;

use crate::catalogue::history;
use crate::house::{HouseOption, HouseRule};
use crate::interface::{Certainty, Concern, FixKind, Level, Mesh, OptionDefault, OptionFacts, OptionValue, Rule};

/// The facts of a rule in a set.
#[derive(Debug, Clone, Copy)]
pub struct RuleView<'r> {
    /// Its name; that of a rule in a pack begins with the pack's and a colon.
    pub name: &'r str,
    /// The group it belongs to.
    pub concern: Concern,
    /// The coarsest mesh that catches it.
    pub mesh: Mesh,
    /// The level of its findings unless settings say otherwise.
    pub level: Level,
    /// How sure it is.
    pub certainty: Certainty,
    /// The languages it holds for.
    pub languages: &'r [Language],
    /// The kind of fix it offers, if any.
    pub fix: Option<FixKind>,
    /// What it reports, in one line.
    pub what: &'r str,
    /// Why that matters.
    pub why: &'r str,
    /// Where it is.
    pub origin: Origin<'r>,
}

/// Where a rule is defined.
#[derive(Debug, Clone, Copy)]
pub enum Origin<'r> {
    /// In this program.
    BuiltIn(&'static Rule),
    /// In a pack.
    House(&'r HouseRule),
}

/// An option of a rule in a set.
#[derive(Debug, Clone)]
pub struct OptionView<'r> {
    /// Its name in settings.
    pub name: &'r str,
    /// What it does, in one line.
    pub about: &'r str,
    /// Its value where nothing sets it.
    pub default: OptionValue,
    /// The kind of value it takes, in words.
    pub sort: Cow<'r, str>,
    /// The words that may be chosen, if it takes only some.
    pub choices: Option<&'static [&'static str]>,
}

impl<'r> RuleView<'r> {
    /// A rule of this program.
    pub fn built_in(rule: &'static Rule) -> RuleView<'r> {
        RuleView {
            name: rule.name,
            concern: rule.concern,
            mesh: rule.mesh,
            level: rule.level,
            certainty: rule.certainty,
            languages: rule.languages,
            fix: rule.fix,
            what: rule.what,
            why: rule.why,
            origin: Origin::BuiltIn(rule),
        }
    }

    /// A rule of a pack.
    pub fn house(rule: &'r HouseRule) -> RuleView<'r> {
        RuleView {
            name: &rule.name,
            concern: Concern::House,
            mesh: rule.mesh,
            level: rule.level,
            certainty: rule.certainty,
            languages: &rule.languages,
            fix: rule.fix.as_ref().map(|fix| fix.kind),
            what: &rule.what,
            why: &rule.why,
            origin: Origin::House(rule),
        }
    }

    /// Its options, in the order in which its values are kept.
    pub fn options(&self) -> Vec<OptionView<'r>> {
        match self.origin {
            Origin::BuiltIn(rule) => rule.options.iter().map(OptionView::built_in).collect(),
            Origin::House(rule) => rule.options.iter().map(OptionView::house).collect(),
        }
    }

    /// Published standards that it serves.
    pub fn standards(&self) -> Vec<&'r str> {
        match self.origin {
            Origin::BuiltIn(rule) => rule.standards.to_vec(),
            Origin::House(rule) => rule.standards.iter().map(String::as_str).collect(),
        }
    }

    /// The rule of this program, if it is one.
    pub fn as_built_in(&self) -> Option<&'static Rule> {
        match self.origin {
            Origin::BuiltIn(rule) => Some(rule),
            Origin::House(_) => None,
        }
    }

    /// The rule of a pack, if it is one.
    pub fn as_house(&self) -> Option<&'r HouseRule> {
        match self.origin {
            Origin::BuiltIn(_) => None,
            Origin::House(rule) => Some(rule),
        }
    }

    /// The name of its pack, if it is of one.
    pub fn pack(&self) -> Option<&'r str> {
        self.as_house().map(HouseRule::pack)
    }

    /// Whether it runs at a mesh when nothing names it.
    pub fn is_caught_by(&self, mesh: Mesh) -> bool {
        self.mesh <= mesh && self.certainty != Certainty::Guess && !history::is_only_by_name(self.name)
    }

    /// Whether what it finds in a file may depend on the other files of a run.
    pub fn goes_over_files(&self) -> bool {
        self.as_built_in().is_some_and(Rule::goes_over_files)
    }

    /// Whether code elsewhere in the file decides over a place: a change in one line can make a finding in another.
    pub fn looks_around(&self) -> bool {
        self.as_built_in().is_none_or(Rule::looks_around)
    }
}

impl<'r> OptionView<'r> {
    fn built_in(option: &'static OptionFacts) -> OptionView<'r> {
        let choices = match option.default {
            OptionDefault::Choice(_, all) | OptionDefault::Choices(_, all) => Some(all),
            _ => None,
        };
        OptionView {
            name: option.name,
            about: option.about,
            default: option.default_value(),
            sort: option.sort(),
            choices,
        }
    }

    fn house(option: &'r HouseOption) -> OptionView<'r> {
        OptionView {
            name: &option.name,
            about: &option.about,
            default: option.default.clone(),
            sort: option.default.sort().into(),
            choices: None,
        }
    }
}
