//! Rules of the concern `boundary`.

