//! Queries: what they match, what is said of wrong ones, and what holds for all.

mod bench;
mod data;
mod errors;
mod examples;
mod guide;
mod house;
mod needs;
mod random;
