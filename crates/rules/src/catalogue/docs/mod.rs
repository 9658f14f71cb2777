//! Rules of the concern `docs`.

pub(super) mod missing_doc;
