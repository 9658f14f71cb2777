//! What names mean, how flow runs and what data holds, compared with the languages' own implementations where there is one.

mod assigned;
mod callees;
mod configuration;
mod csharp_names;
mod data;
mod doc_comments;
mod flow_cases;
mod flow_runs;
mod go_names;
mod java_names;
mod javascript_names;
#[cfg(not(feature = "without-csharp"))]
mod opened;
mod pieces;
mod promises;
mod python_names;
#[path = "../../../syntax/tests/all/random.rs"]
mod random;
mod refers;
mod renaming;
mod rust_names;
mod shell_names;
mod signatures;
mod uses;
