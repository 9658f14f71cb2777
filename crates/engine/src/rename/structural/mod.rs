//! Members of types in languages whose types have the methods of interfaces without saying so: fields of structs, methods that name their
//! type by a receiver, and what interfaces ask for.
//!
//! A use counts where the type of what is before the dot is known: by what declarations write, and by following values to them. Where it is
//! not known, the renaming is refused, unless all members of that name are to be taken for the same one. So it is where code that is not seen
//! may use a member by its name: interfaces of other packages, and what reads members by their names.

mod checks;
mod embedded;
mod expression;
mod implements;
mod lookup;
mod member;
mod project;
mod uses;
mod variable;
mod written;

pub(super) use embedded::embedded_fields;
pub(super) use member::{is_member, member};
