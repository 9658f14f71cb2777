//! Where the types are made that files name, in languages in which each file says of which package or namespaces it is.

use sieve_meaning::names::BindingId;
use sieve_syntax::tree::NodeRef;

use super::source::{View, bindings_called};
use super::traits::rename_traits_of;
use super::{namespaced, packaged};

/// Whether a binding is a type that other files may name.
pub(super) fn is_type(view: &View<'_>, id: BindingId) -> bool {
    let traits = rename_traits_of(view.file.language);
    traits.names_package && packaged::is_type(view, id) || traits.opens_namespaces && namespaced::is_type(view, id)
}

/// Where the type is made that a name in a file refers to which the file does not declare.
pub(super) fn origin(views: &[View<'_>], home: usize, name: NodeRef<'_>) -> Option<(usize, BindingId)> {
    origin_among(views, &bindings_called(views, views[home].file.slice(name), is_type), (home, name))
}

/// The same among the types of the project that have that name.
pub(super) fn origin_among(
    views: &[View<'_>],
    types: &[(usize, BindingId)],
    (home, name): (usize, NodeRef<'_>),
) -> Option<(usize, BindingId)> {
    if rename_traits_of(views[home].file.language).names_package {
        packaged::origin_among(views, types, home, name)
    } else {
        namespaced::origin_among(views, types, home, name)
    }
}
