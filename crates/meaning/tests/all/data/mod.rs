//! Values of data files, held against what other readers make of them.

mod corpus;
mod hostile;
mod paths;
mod pointers;
mod reference;
mod toml;
mod yaml;
