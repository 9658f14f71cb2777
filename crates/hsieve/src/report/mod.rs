//! Reports of a run for people who were not there: a page, a work list, and the figures of runs over time.

mod export;
mod facts;
mod page;
mod record;
mod treemap;

pub use export::{csv, markdown};
pub use facts::Facts;
pub use page::{MOST_PLACES, page};
pub use record::Record;
