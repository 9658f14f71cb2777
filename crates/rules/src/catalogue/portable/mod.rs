//! Rules of the concern `portable`.

