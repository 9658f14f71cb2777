//! Rules of the concern `docs`.

pub(super) mod doc_mismatch;
pub(super) mod empty_doc;
pub(super) mod missing_description;
pub(crate) mod missing_doc;
