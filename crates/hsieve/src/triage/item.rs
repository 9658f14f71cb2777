//! One finding on the list, and what has become of it.

use sieve_engine::outcome::Finding;

/// What was done about a finding.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Way {
    /// Its fix was applied.
    Fixed,
    /// A waiver was written.
    Waived,
    /// The baseline knows it.
    Recorded,
    /// Its rule has another level there.
    Level,
    /// Nothing: it was passed over.
    Skipped,
}

impl Way {
    /// Every way, in the order in which they are counted.
    pub const ALL: [Way; 5] = [Way::Fixed, Way::Waived, Way::Recorded, Way::Level, Way::Skipped];

    /// The word for a finding with which this was done.
    pub fn word(self) -> &'static str {
        match self {
            Way::Fixed => "fixed",
            Way::Waived => "waived",
            Way::Recorded => "recorded",
            Way::Level => "level",
            Way::Skipped => "skipped",
        }
    }

    /// The word after the number of such findings.
    pub fn counted(self) -> &'static str {
        match self {
            Way::Level => "by level",
            other => other.word(),
        }
    }
}

/// What has become of a finding.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum State {
    /// Nothing yet.
    Open,
    /// Somebody decided.
    Done(Way),
    /// It is not there any more: something else removed it.
    Gone,
}

/// A finding on the list. It stays there whatever becomes of it, so that nothing moves under the eye.
#[derive(Debug, Clone)]
pub struct Item {
    /// The finding as it was last seen.
    pub finding: Finding,
    /// What has become of it.
    pub state: State,
    /// Whether the code has it.
    pub is_reported: bool,
    /// Whether it came while the list was open.
    pub is_new: bool,
    /// Who owns its file, if that is known.
    pub owner: Option<String>,
}
