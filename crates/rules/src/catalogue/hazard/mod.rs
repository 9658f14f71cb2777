//! Rules of the concern `hazard`.

