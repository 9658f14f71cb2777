//! To be.
