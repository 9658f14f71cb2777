//! One binary for all tests of the engine.

mod bench;
mod examples;
mod promises;
