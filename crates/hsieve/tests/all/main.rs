//! One binary for all tests of the built program.

mod bad_input;
mod baseline;
mod demo;
mod docs;
mod exempt;
mod ferry;
mod fix;
mod hostile;
mod library;
mod settings;
mod sift;
mod story;
