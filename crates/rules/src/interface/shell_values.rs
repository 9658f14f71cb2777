//! What is known of the variables of a script, for as long as it is looked at.

use std::cell::RefCell;

use rustc_hash::{FxHashMap, FxHashSet};

/// What a value may be, when the shell splits it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Holds {
    /// One word, or nothing.
    OneWord,
    /// Nothing in the file says.
    Unknown,
    /// What somebody else typed or named: whitespace and patterns may be in it.
    Anything,
    /// Several words on purpose.
    Several,
}

/// What the variables of a script hold, by all that it assigns to them.
#[derive(Debug)]
pub(crate) struct ShellValues {
    /// The functions that the script calls with what it says there.
    pub(crate) called: FxHashSet<u64>,
    pub(crate) known: FxHashMap<Place, Holds>,
    /// What the names of variables say, of those that were met.
    pub(crate) by_name: RefCell<FxHashMap<u64, Option<Holds>>>,
}

/// A variable, or a parameter of a function: the hash of the name of the function, and that of the variable or its number.
pub(crate) type Place = (u64, u64);
