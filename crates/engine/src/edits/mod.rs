//! Edits of texts: putting them in, and proving that what comes out says what it said.

mod apply;
mod around;
mod verify;

pub use apply::apply_edits;
pub(crate) use apply::without_conflicts;
pub(crate) use around::only_there;
pub(crate) use verify::{Broken, Whole, code_changed, code_stays, new_faults};
