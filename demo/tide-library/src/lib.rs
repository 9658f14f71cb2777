//! The tides of the estuary, for everything that sails on them.

mod height;
mod table;

pub use height::{Height, Stage};
pub use table::TideTable;
