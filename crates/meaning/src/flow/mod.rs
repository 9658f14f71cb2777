//! Control flow: what can run, and which variables have a value where they are read.
//!
//! One graph for each function, and one for the code of the file outside of functions. What a graph says is about all runs that the
//! code shows: conditions are taken to hold and not to hold, each on its own. Answers are therefore one-sided: code that is not reached
//! in the graph never runs; a variable that is always set in the graph is.

mod assigned;
mod build;
mod graph;
mod leaving;
mod unassigned;
mod variables;

use rustc_hash::FxHashSet;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, Tree};

use crate::names::Names;
use crate::table::{Values, meaning_of};
use graph::{Event, Graph};
use variables::Variables;

pub use assigned::{Unset, UnsetUse};

/// What is asked of the flow of a whole file.
#[derive(Debug)]
pub struct Flows<'t> {
    language: Language,
    text: &'t Text,
    tree: &'t Tree,
    variables: Variables,
    /// Statements that are calls which never come back.
    endings: FxHashSet<NodeId>,
    /// In whose code something may be dead; `None` where a look at the statements does not tell.
    with_dead_code: Option<FxHashSet<NodeId>>,
}

/// The flow of one function, or of the code of a file outside of functions.
#[derive(Debug)]
pub struct Flow<'t> {
    owner: NodeRef<'t>,
    graph: Graph,
    reached: Vec<bool>,
    unset: Vec<UnsetUse>,
    follows_compiler: bool,
}

impl<'t> Flows<'t> {
    /// Prepares the flow of a file. Without names nothing is known of variables.
    pub fn new(language: Language, text: &'t Text, tree: &'t Tree, names: Option<&Names<'t>>) -> Flows<'t> {
        let variables = names.map(|names| match meaning_of(language).values {
            Values::Unchecked => Variables::default(),
            Values::AtRunTime => variables::variables_of(language, tree, names),
            Values::ByCompiler => unassigned::variables_of(text, tree, names),
        });
        let variables = variables.unwrap_or_default();
        let endings = names.map(|names| leaving::endings(text, tree, names, meaning_of(language).ending_builtins));
        let endings = endings.unwrap_or_default();
        let with_dead_code = (language != Language::Shell).then(|| leaving::owners_with_dead_code(tree, &endings));
        Flows { language, text, tree, variables, endings, with_dead_code }
    }

    /// Those owners of which there is anything to say: others have no dead code, and no variable that may be without a value.
    pub fn notable_owners(&self) -> impl Iterator<Item = NodeRef<'t>> {
        self.owners().filter(|owner| {
            let may_be_dead = self.with_dead_code.as_ref().is_none_or(|known| known.contains(&owner.id()));
            may_be_dead || !self.variables.of_owner(owner.id()).is_empty()
        })
    }

    /// Every function and the file itself, in the order of the text.
    pub fn owners(&self) -> impl Iterator<Item = NodeRef<'t>> + use<'t> {
        self.tree.nodes().filter(|node| match node.kind() {
            Kind::File => true,
            Kind::Function | Kind::Lambda | Kind::StaticBlock => node.child(Role::Body).is_some(),
            _ => false,
        })
    }

    /// The flow of one of them; nothing where the code is damaged, or too entangled to be followed.
    pub fn of(&self, owner: NodeRef<'t>) -> Option<Flow<'t>> {
        let graph = build::build(self.language, self.text, owner, &self.variables, &self.endings)?;
        let unset = assigned::unset_uses(&graph, owner, &self.variables);
        let reached = graph.reached();
        let follows_compiler = meaning_of(self.language).values == Values::ByCompiler;
        Some(Flow { owner, graph, reached, unset, follows_compiler })
    }
}

impl<'t> Flow<'t> {
    /// The function or file.
    pub fn owner(&self) -> NodeRef<'t> {
        self.owner
    }

    /// The statements that no run comes to, in the order of the text.
    pub fn dead_statements(&self) -> Vec<NodeRef<'t>> {
        let statements = |reached: bool| {
            let blocks = self.graph.blocks().filter(move |block| self.reached[block.index()] == reached);
            blocks.flat_map(|block| self.graph.events(block)).filter_map(|event| match event {
                Event::Statement(node) => Some(*node),
                _ => None,
            })
        };
        let mut dead: Vec<NodeId> = statements(false).collect();
        if dead.is_empty() {
            return Vec::new();
        }
        // A statement after a `finally` is in the graph several times.
        let alive: FxHashSet<NodeId> = statements(true).collect();
        dead.retain(|node| !alive.contains(node));
        dead.sort();
        dead.dedup();
        let tree = self.owner.tree();
        dead.into_iter().map(|node| tree.node(node)).collect()
    }

    /// Whether the compiler of the language refuses those places that read a variable without a value: every path counts then.
    pub fn follows_compiler(&self) -> bool {
        self.follows_compiler
    }

    /// The places that read a variable which has, or may have, no value there, in the order of the text.
    pub fn unset_uses(&self) -> &[UnsetUse] {
        &self.unset
    }
}
