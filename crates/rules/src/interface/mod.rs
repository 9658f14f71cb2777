//! What a rule is and what it says.

mod ban;
mod context;
mod enabled;
mod facts;
mod file_reference;
mod finding;
mod formatting;
mod listed_values;
mod memo;
mod name_style;
mod naming;
mod option;
mod page;
mod pure;
mod resources;
mod scale;
mod shell_values;
mod spacing;
mod styles;
mod traits;

pub use ban::{Ban, BanKind};

pub(crate) use context::Parts;
pub use context::{Context, File, TeamPolicy};
pub(crate) use context::{FileData, word_hash};
pub use enabled::Enabled;
pub use facts::{Check, Examples, Line, Rule, RuleId, Wrong};
pub use file_reference::{FileReference, file_beside, path_beside};
pub use finding::{Edit, Finding, Fix, FixKind, ReexportedName, Related, Report, Unless, Unsure, UsualStyle};
pub use formatting::{FormattingCall, PlaceholderForm};
pub use listed_values::{BlockPath, ListedValues, PlaceError, Step, ValuePlace};
pub use name_style::NameStyle;
pub use naming::{NameForm, Naming, NamingKey};
pub use option::{OptionDefault, OptionFacts, OptionValue};
pub use page::Page;
pub use pure::PureMethods;
pub use resources::Resources;
pub use scale::{Certainty, Concern, Level, Mesh};
pub(crate) use shell_values::{Holds, Place, ShellValues};
pub use spacing::SpacingKind;
pub use styles::{NAMED_KINDS, default_styles, kinds_of};
pub use traits::{ImportGroups, LanguageTraits, VersionOption, WholeNumbers, traits_of};
