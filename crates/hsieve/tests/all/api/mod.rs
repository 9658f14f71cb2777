//! Descriptions of services: what the built-in packs say of them, compared with the published schemas of the specifications.

mod changed;
mod packs;
mod published;
