//! A rule as it is used: switched on, with the values of its options.

use super::{OptionValue, Rule, RuleId};

/// A rule that is on.
#[derive(Debug, Clone)]
pub struct Enabled {
    /// The rule.
    pub rule: RuleId,
    /// Its facts.
    pub facts: &'static Rule,
    /// The values of its options, in the order of its facts.
    pub values: Vec<OptionValue>,
}
