//! Members of types, in languages in which declarations say of which type a variable is.
//!
//! A use counts where the type of its object is known: by what declarations write, by `new`, by what methods say that they return. Where it
//! is not known, the renaming is refused, unless all members of that name are to be taken for the same one.

mod member;
mod object;
mod target;
mod types;
mod uses;

pub(super) use member::{at_use, member};
