//! Rules: what a rule is, the catalogue of all there are, and running them over one file.
//!
//! A rule is a file in `catalogue/CONCERN/`: its facts, with examples that are run as tests, and one function. Rules are pure
//! functions of a file; settings, waivers and reading belong to the engine.
#![forbid(unsafe_code)]

mod blocks;
mod built;
pub mod catalogue;
mod components;
pub mod copies;
mod described;
mod directive;
mod dispatch;
mod evaluated;
mod expected;
mod face;
mod habit;
pub mod house;
mod indent;
mod input;
mod inside;
pub mod interface;
mod markup;
mod measured;
mod modifier;
mod pattern;
mod placeholders;
pub mod query;
mod run;
mod same;
pub mod schema;
mod set;
mod shell;
mod shell_places;
mod shell_values;
mod size;
mod slip;
mod spacing;
mod style;
mod typed_in_comment;

pub use dispatch::{Dispatch, Share};
pub use input::Input;
pub use interface::*;
pub use markup::elements::element_names;
pub use run::{run, run_house_on, run_on, run_on_layer, run_share_on};
pub use set::{OptionView, Origin, RuleSet, RuleView};
pub use size::Sizes;
