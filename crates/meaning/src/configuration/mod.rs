//! What infrastructure files declare and refer to, by address: the files of one folder are one module, whose blocks share their names.
//!
//! An address is what an expression writes: `var.quay`, `local.tides`, `data.tide_table.north`, `pier_berth.north`, `module.board`. What a
//! module gives out is known by `output.NAME`.

mod address;
mod json;
mod read;
mod uses;

use sieve_syntax::tree::NodeId;

/// Files with these endings are parts of the module that is their folder.
const ENDINGS: [&str; 4] = [".tf", ".tofu", ".tf.json", ".tofu.json"];

/// What one file declares and refers to, in the order of the text.
#[derive(Debug, Default)]
pub struct Configuration {
    /// What it declares.
    pub declared: Vec<Declared>,
    /// Where it refers to something that a module declares.
    pub used: Vec<Used>,
    /// The modules that it calls.
    pub calls: Vec<ModuleCall>,
}

/// Something that a file declares.
#[derive(Debug)]
pub struct Declared {
    /// Its address.
    pub address: String,
    /// What names it: a label, or the name of an assignment.
    pub name: NodeId,
    /// The block or the assignment.
    pub node: NodeId,
    /// Whether a module that calls this one must give it a value.
    pub is_required: bool,
    /// The expression that is its value where nothing else gives it one: a default, or a local value.
    pub value: Option<NodeId>,
}

impl Declared {
    /// What it is in words, and its name, where it is a value that is named for the module alone. Others live on under their names.
    pub fn value_name(&self) -> Option<(&'static str, &str)> {
        let (of, name) = self.address.split_once('.')?;
        let noun = match of {
            "var" => "variable",
            "local" => "local value",
            "output" => "output",
            _ => return None,
        };
        Some((noun, name))
    }
}

/// A reference to something that a module declares.
#[derive(Debug)]
pub struct Used {
    /// Its address.
    pub address: String,
    /// The expression that is the address, without what it takes out of it.
    pub node: NodeId,
    /// What it takes out of a module that is called: the name of an output.
    pub output: Option<NodeId>,
    /// Whether the address is of something that must be there; not so where it names what was, or what a provider knows.
    pub must_exist: bool,
    /// Whether it says where something was, or is after a move: a move that is written down stays as it is.
    pub is_of_move: bool,
}

/// A block that calls a module.
#[derive(Debug)]
pub struct ModuleCall {
    /// What the file calls it.
    pub address: String,
    /// The block.
    pub block: NodeId,
    /// What names it.
    pub name: NodeId,
    /// Where the module is, where that is written as a plain string.
    pub source: Option<String>,
    /// The values that it is given: the names of the assignments and blocks in it, but for those that say how it is called.
    pub given: Vec<(String, NodeId)>,
}

impl ModuleCall {
    /// Where the module is, if that is a folder told from the one of the file.
    pub fn folder(&self) -> Option<&str> {
        self.source.as_deref().filter(|source| source.starts_with("./") || source.starts_with("../"))
    }
}

/// Whether a part of a module is in the JSON form.
pub fn is_in_json(path: &str) -> bool {
    is_of_module(path) && path.ends_with(".json")
}

/// Whether a file gives values to the variables of the module in its folder.
pub fn gives_values(path: &str) -> bool {
    path.ends_with(".tfvars")
}

/// The block that says that what has an address was called otherwise, so that it is kept and not made anew; nothing where none is kept.
pub fn move_block(old: &str, new: &str, line_end: &str) -> Option<String> {
    let is_kept = !["var.", "local.", "output.", "data.", "ephemeral."].iter().any(|of| old.starts_with(of));
    is_kept.then(|| ["moved {", &format!("  from = {old}"), &format!("  to   = {new}"), "}", ""].join(line_end))
}

/// Whether a file is a part of the module that is its folder.
pub fn is_of_module(path: &str) -> bool {
    ENDINGS.iter().any(|ending| path.ends_with(ending))
}

/// Whether a file beside those of a module may declare or use something in it, though it is none of them: it is of another program, or
/// others are made of it.
pub(crate) fn may_belong_to_module(name: &str) -> bool {
    let is_description = !is_of_module(name) && ENDINGS.iter().any(|ending| name.contains(&format!("{ending}.")));
    // Lock files and settings of tools are hidden; tests of a module use what it gives.
    let is_other = name.ends_with(".hcl") && !name.starts_with('.') && !name.ends_with("test.hcl");
    is_description || is_other
}
