//! One binary for all tests of the built program.

mod across;
mod bad_input;
mod baseline;
mod cache;
mod changes;
mod debt;
mod demo;
mod docs;
mod exempt;
mod ferry;
mod fix;
mod hooks;
mod hostile;
mod init;
mod killed;
mod library;
mod no_room;
mod packages;
mod releases;
mod review;
mod settings;
mod shell;
mod sift;
mod story;
mod undo;
mod web;
