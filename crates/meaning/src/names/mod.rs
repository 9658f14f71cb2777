//! Scopes, bindings and references of one file.

mod alike;
mod collector;
mod dotted;
mod members;
mod resolve;
mod symbol;
mod uses;

pub(crate) use collector::Collector;
pub(crate) use dotted::top_of_path;
pub(crate) use resolve::resolve;
pub use symbol::{Namespace, Symbol};

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::text::Span;
use sieve_syntax::tree::NodeId;
use symbol::Symbols;

/// Index of a scope in its file; the first is the file's own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct ScopeId(u32);

impl ScopeId {
    /// The scope of the file itself.
    pub const FILE: ScopeId = ScopeId(0);
    /// The first scope that is opened in it.
    pub(crate) const FIRST_IN_FILE: ScopeId = ScopeId(1);

    /// As an index into a vector with an entry for every scope.
    pub(crate) fn index(self) -> usize {
        self.0 as usize
    }
}

/// Index of a binding in its file.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct BindingId(u32);

impl BindingId {
    /// As an index into a vector with an entry for every binding.
    pub(crate) fn index(self) -> usize {
        self.0 as usize
    }
}

/// What a scope belongs to, which decides who sees its names.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ScopeKind {
    /// The whole file.
    File,
    /// A class: its names are seen only directly in it.
    Class,
    /// A module in a file: what is in it does not see the names around it.
    Module,
    /// Types that are seen in all that is in it, which other files add to.
    Namespace,
    /// A type whose members are seen in all that is in it, functions too.
    Members,
    /// A function or lambda.
    Function,
    /// A comprehension: what it binds with `:=` belongs to the scope around it.
    Comprehension,
    /// A block within a function or file.
    Block,
    /// The type parameters of a function, class or alias.
    TypeParameters,
}

/// A part of the program with names of its own.
#[derive(Debug)]
pub struct Scope {
    /// What it belongs to.
    pub kind: ScopeKind,
    /// The node that opens it.
    pub node: NodeId,
    /// The scope around it.
    pub parent: Option<ScopeId>,
    /// Why names may exist here that no code binds.
    pub may_bind: Option<Unknown>,
    /// Why names of this scope may be used although no code shows it.
    pub may_use: Option<Unknown>,
    /// Whether what is in it sees local variables from around it, and not only what the whole file or module declares.
    pub(crate) sees_locals: bool,
}

/// One name in one scope, however often it is bound there.
#[derive(Debug)]
pub struct Binding {
    /// The name.
    pub name: Symbol,
    /// Where it lives.
    pub scope: ScopeId,
    /// Every place that binds it, in the order of the text.
    pub declarations: Vec<Declaration>,
    /// How many references resolve to it and are more than giving it a value.
    pub uses: u32,
    /// How many references only give it a value.
    pub writes: u32,
    /// Uses before this node are not of this name.
    pub(crate) seen_from: NodeId,
}

/// One place that binds a name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Declaration {
    /// The node of the name.
    pub node: NodeId,
    /// How it is bound.
    pub kind: DeclarationKind,
}

/// How a place binds a name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[expect(missing_docs, reason = "the names are the field's own words")]
pub enum DeclarationKind {
    Parameter,
    TypeParameter,
    Function,
    Class,
    TypeAlias,
    Namespace,
    Import,
    /// The only target of an assignment with a value.
    Assignment,
    /// One of several targets that take a value apart.
    Unpacking,
    /// A target of `:=`.
    NamedExpression,
    /// A type without a value.
    Annotation,
    /// A target that is changed in place, such as by `+=`.
    Update,
    /// A variable of a type or of an object, or a constant of an enumeration.
    Field,
    LoopTarget,
    WithTarget,
    CaughtException,
    Pattern,
    Deletion,
    /// A `global` or `nonlocal` statement.
    Elsewhere,
}

/// One use of a name.
#[derive(Debug, Clone, Copy)]
pub struct Reference {
    /// The name.
    pub name: Symbol,
    /// Where it is used.
    pub scope: ScopeId,
    /// The node of the name, or of the string that holds it.
    pub node: NodeId,
    /// The stretch of the name itself.
    pub span: Span,
    /// What it represents.
    pub resolution: Resolution,
    /// Whether the place only gives the name a new value.
    pub writes: bool,
    /// Whether it may as well be the name of something else, which is not known here.
    pub is_doubtful: bool,
    /// Why it need not be bound, if it is not.
    pub(crate) excuse: Option<Unknown>,
    /// Where it is looked for.
    pub(crate) reach: Reach,
}

/// Where a used name is looked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Reach {
    /// In its scope, then outwards.
    Scopes,
    /// The same; where no value of that name is seen, it means a type.
    ValueOrType,
    /// The same; what is nearer is meant, a value or a type.
    NearestValueOrType,
    /// The same in every namespace, its own first.
    Anything,
    /// In the module or the type that the use before it means, whatever the namespace.
    Path,
    /// In its scope alone, whatever the namespace.
    Scope,
    /// Among the members of its scope, and those that it inherits.
    Members,
}

/// What a used name represents.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Resolution {
    /// A name bound in this file.
    Binding(BindingId),
    /// A name that the language provides.
    Builtin,
    /// Cannot be known, and why.
    Unknown(Unknown),
    /// Nothing: no scope that is seen from here binds it.
    Undefined,
}

/// Why something cannot be known.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Unknown {
    /// A star import may bring any name.
    StarImport,
    /// Code is run from text, or names are made at run time.
    MadeAtRunTime,
    /// The code itself handles the case that the name does not exist.
    Handled,
    /// A part of the file could not be understood.
    BrokenSyntax,
    /// The file is written for an older version of the language too, which had the name.
    OlderVersion,
    /// Another file may bring it, or use it.
    OtherFile,
    /// It is of a type that other files may go on with, and give the same names once more.
    OtherPart,
    /// It is text, which may or may not represent a name.
    InText,
    /// Code that is not compiled may use it.
    LeftOut,
}

impl Unknown {
    /// Whether something in the file makes names in a way that the code does not show.
    pub fn is_about_code(self) -> bool {
        matches!(self, Unknown::MadeAtRunTime | Unknown::BrokenSyntax | Unknown::LeftOut)
    }

    /// The reason in words.
    pub fn describe(self) -> &'static str {
        match self {
            Unknown::StarImport => "a star import may define this name",
            Unknown::MadeAtRunTime => "names are made at run time here",
            Unknown::Handled => "the code handles that the name may not exist",
            Unknown::BrokenSyntax => "a part of the file could not be understood",
            Unknown::OlderVersion => "an older version of the language had the name, and the file knows of it",
            Unknown::OtherFile | Unknown::OtherPart => "another file may define or use this name",
            Unknown::InText => "a string may hold the name",
            Unknown::LeftOut => "code that is left out by a condition may use this name",
        }
    }
}

/// What a file exports under a name list of its own, such as Python's `__all__`.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Exports {
    /// There is no such list.
    Unlisted,
    /// There is a list, and its names count as used.
    Listed,
    /// There is a list that is made at run time.
    Unknown,
}

/// All that is known of the names in one file.
#[derive(Debug)]
pub struct Names<'t> {
    scopes: Vec<Scope>,
    bindings: Vec<Binding>,
    references: Vec<Reference>,
    /// The place of the first use at each node, from 1; 0 where there is none.
    by_node: Vec<u32>,
    table: FxHashMap<(ScopeId, Symbol), BindingId>,
    symbols: Symbols<'t>,
    exports: Exports,
    /// The names of members that are used of something which is not known.
    accessed: FxHashSet<Symbol>,
    /// The words of macros that the file defines.
    expanded: FxHashSet<Symbol>,
    /// The scopes of modules, and of the members of types, by their nodes.
    holders: FxHashMap<NodeId, ScopeId>,
}

impl<'t> Names<'t> {
    /// The text of a name.
    pub fn text(&self, name: Symbol) -> &str {
        self.symbols.text(name)
    }

    /// A scope.
    pub fn scope(&self, id: ScopeId) -> &Scope {
        &self.scopes[id.0 as usize]
    }

    /// All scopes with their ids, each behind the one around it.
    pub(crate) fn scopes_with_ids(&self) -> impl Iterator<Item = (ScopeId, &Scope)> {
        self.scopes.iter().enumerate().map(|(index, scope)| (ScopeId(index as u32), scope))
    }

    /// A binding.
    pub fn binding(&self, id: BindingId) -> &Binding {
        &self.bindings[id.0 as usize]
    }

    /// All bindings, in the order in which their scopes first bind them.
    pub fn bindings(&self) -> impl ExactSizeIterator<Item = &Binding> {
        self.bindings.iter()
    }

    /// All bindings with their ids.
    pub fn bindings_with_ids(&self) -> impl Iterator<Item = (BindingId, &Binding)> {
        self.bindings.iter().enumerate().map(|(index, binding)| (BindingId(index as u32), binding))
    }

    /// All uses of names; those in the code in the order of the text.
    pub fn references(&self) -> impl Iterator<Item = &Reference> {
        self.references.iter()
    }

    /// The uses of names at nodes of a range, in the order of the text.
    pub fn references_in(&self, nodes: std::ops::Range<NodeId>) -> impl Iterator<Item = &Reference> {
        let first = self.references.partition_point(|reference| reference.node < nodes.start);
        self.references[first..].iter().take_while(move |reference| reference.node < nodes.end)
    }

    /// The uses of some bindings, each in the order of the text.
    pub fn uses_of(&self, bindings: &FxHashSet<BindingId>) -> FxHashMap<BindingId, Vec<&Reference>> {
        let mut uses: FxHashMap<BindingId, Vec<&Reference>> = FxHashMap::default();
        for reference in &self.references {
            if let Resolution::Binding(id) = reference.resolution
                && bindings.contains(&id)
            {
                uses.entry(id).or_default().push(reference);
            }
        }
        uses
    }

    /// The binding of a value in one scope, if it has one of that name there.
    pub fn lookup(&self, scope: ScopeId, name: &str) -> Option<BindingId> {
        self.lookup_in(Namespace::Values, scope, name)
    }

    /// The binding of a name of a namespace in one scope, if it has one there.
    pub fn lookup_in(&self, namespace: Namespace, scope: ScopeId, name: &str) -> Option<BindingId> {
        self.table.get(&(scope, self.symbols.find(name, namespace)?)).copied()
    }

    /// The namespace of a name.
    pub fn namespace(&self, name: Symbol) -> Namespace {
        self.symbols.namespace(name)
    }

    /// Whether macros of the file may mean it wherever they are used: all but variables.
    pub fn may_be_expanded(&self, binding: &Binding) -> bool {
        let is_type = |one: &Declaration| one.kind == DeclarationKind::TypeParameter;
        let is_item = binding.seen_from == NodeId::ROOT || binding.declarations.iter().all(is_type);
        is_item && self.expanded.contains(&binding.name)
    }

    /// The scope with the members of a type, by its node, in languages that see them in all that is in it.
    pub fn members_scope(&self, class: NodeId) -> Option<ScopeId> {
        self.holders.get(&class).copied().filter(|scope| self.scope(*scope).kind == ScopeKind::Members)
    }

    /// The scope of what a module in braces or an enumeration declares, by its node.
    pub fn module_scope(&self, module: NodeId) -> Option<ScopeId> {
        self.holders.get(&module).copied().filter(|scope| self.scope(*scope).kind == ScopeKind::Module)
    }

    /// Whether a member of that name is used of something which is not known, so that it may be this one; so for what is in a namespace.
    pub fn may_be_accessed(&self, binding: &Binding) -> bool {
        let kind = self.scope(binding.scope).kind;
        matches!(kind, ScopeKind::Members | ScopeKind::Namespace) && self.accessed.contains(&binding.name)
    }

    /// The binding that a node declares. Looks through all declarations.
    pub fn declared_at(&self, node: NodeId) -> Option<BindingId> {
        let declares = |binding: &Binding| binding.declarations.iter().any(|declaration| declaration.node == node);
        self.bindings_with_ids().find(|(_, binding)| declares(binding)).map(|(id, _)| id)
    }

    /// What the name at a node represents, if the node is a use of a name.
    #[inline]
    pub fn resolution_at(&self, node: NodeId) -> Option<Resolution> {
        let place = self.by_node.get(node.index())?.checked_sub(1)?;
        Some(self.references[place as usize].resolution)
    }

    /// Whether the name at a node represents the builtin of that name, for sure.
    pub fn is_builtin_at(&self, node: NodeId) -> bool {
        self.resolution_at(node) == Some(Resolution::Builtin)
    }

    /// What the file exports.
    pub fn exports(&self) -> Exports {
        self.exports
    }
}
