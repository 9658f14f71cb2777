//! One binary for all tests of the engine.

mod baseline_model;
mod bench;
mod examples;
mod mutants;
mod promises;
