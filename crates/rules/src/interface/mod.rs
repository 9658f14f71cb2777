//! What a rule is and what it says.

mod ban;
mod context;
mod enabled;
mod facts;
mod finding;
mod naming;
mod option;
mod scale;
mod spacing;

pub use ban::{Ban, BanKind};

pub(crate) use context::FileData;
pub use context::{Context, File, TeamPolicy};
pub use enabled::Enabled;
pub use facts::{Check, Examples, Line, Rule, RuleId, Wrong};
pub use finding::{Edit, Finding, Fix, FixKind, ReexportedName, Related, Report, Unsure};
pub use naming::{NAMED_KINDS, NameForm, NameStyle, Naming, NamingKey, default_styles, kinds_of};
pub use option::{OptionDefault, OptionFacts, OptionValue};
pub use scale::{Certainty, Concern, Level, Mesh};
pub use spacing::SpacingKind;
