//! How far a document is looked into: all who look at it share the steps.

use std::cell::Cell;

/// Steps that may still be taken.
#[derive(Debug, Clone)]
pub struct Steps {
    /// How many there were.
    pub(super) most: usize,
    left: Cell<usize>,
}

impl Steps {
    /// So many.
    pub fn new(most: usize) -> Steps {
        Steps { most, left: Cell::new(most) }
    }

    /// Takes one; nothing where none is left.
    pub fn take(&self) -> Option<()> {
        self.left.set(self.left.get().checked_sub(1)?);
        Some(())
    }
}
