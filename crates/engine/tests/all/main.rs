//! One binary for all tests of the engine.

mod any_source;
mod baseline_model;
mod bench;
mod discovery;
mod effective;
mod examples;
mod folder;
mod import_reference;
mod mutants;
mod overlaid;
mod packs;
#[path = "../../../meaning/tests/all/pieces/mod.rs"]
mod pieces;
mod promises;
mod provided;
#[path = "../../../syntax/tests/all/random.rs"]
mod random;
mod recall;
mod resolution;
mod slow_server;
mod waivers;
mod workspace;
mod wrong_settings;
