//! What files know of each other: a summary of each file, and calls followed from file to file.
//!
//! A summary depends on its own file only. Which file a module's name represents is answered by [`Modules`].

mod callee;
mod class;
mod function;
mod link;
mod members;
mod summary;

use std::fmt;
use std::sync::Arc;

use crate::folder_module::FolderModule;
use crate::opened::{Opened, OpeningQuestion};

pub use callee::{Calls, is_dropped, is_used_as_value};
pub use class::{Base, Class};
pub use function::{Function, gives_nothing, words_before};
pub use link::{Alone, CallQuestion, Callee, Linker, Others, Target};
pub use summary::{Definition, Summary};

/// A file of the project, as others see it.
#[derive(Debug)]
pub struct Module {
    /// What [`Modules`] knows it by.
    pub path: Arc<str>,
    /// What it exports.
    pub summary: Summary,
}

/// Finds the files of a project that imports name.
pub trait Modules: fmt::Debug {
    /// The module that a file means by a name, in the form in which imports of its language write it; nothing if it lies outside of the
    /// project or is not known for sure.
    fn find(&self, from: &str, module: &str) -> Option<Arc<Module>>;

    /// Whether certainly nothing is where a file names a module by its place.
    fn is_missing(&self, from: &str, module: &str) -> bool;

    /// The module that a folder is, told from that of a file, or that file's own where it is empty; nothing if it lies outside of the
    /// project, or not all of it is known.
    fn folder(&self, from: &str, folder: &str) -> Option<Arc<FolderModule>>;

    /// Those namespaces that a file opens and names nothing of, by all that the project declares in them. `own` is what it declares itself,
    /// where that may not be known.
    fn opened_in_vain(&self, question: &OpeningQuestion, own: &[Opened]) -> Vec<String>;
}
