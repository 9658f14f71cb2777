//! The packages of a project, with the types that they declare.

use std::cell::RefCell;

use rustc_hash::FxHashMap;
use sieve_meaning::names::{BindingId, DeclarationKind, ScopeId};
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::rename::source::{Sources, View};

/// The number of a package among all of the project.
pub(super) type PackageId = usize;

/// The number of a type among all of the project.
pub(super) type TypeId = usize;

/// What is known of an expression, or of what a name represents. Pointers are taken for what they lead to: a dot follows them.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) enum Known<'v> {
    /// A value of a type that the project declares, or the type.
    Type(TypeId),
    /// One of a type that is made of what a file writes: a list, a function, a struct without a name.
    Written(usize, NodeRef<'v>),
    /// One of a type parameter.
    Parameter(usize, NodeRef<'v>),
    /// A package of the project.
    Package(PackageId),
    /// Nothing of the project.
    Foreign,
    /// It is not known.
    Unknown,
}

/// Files of a folder that say they are of one package.
pub(super) struct Package<'v> {
    /// How others import it.
    pub(super) path: Option<String>,
    /// The folder, from the root of the project.
    pub(super) folder: &'v str,
    /// What its files declare for all of them; files for other systems may declare the same.
    pub(super) declared: FxHashMap<&'v str, Vec<(usize, BindingId)>>,
}

/// A type with a name.
pub(super) struct Type<'v> {
    /// What it is made of, where it is declared; files for other systems may declare it too.
    pub(super) made_of: Vec<(usize, NodeRef<'v>)>,
    /// Its methods: functions with a receiver.
    pub(super) methods: FxHashMap<&'v str, Vec<(usize, NodeRef<'v>)>>,
}

/// All that the project declares.
pub(super) struct Project<'v> {
    pub(super) views: &'v [View<'v>],
    pub(super) packages: Vec<Package<'v>>,
    /// The package of each file.
    pub(super) package_of: Vec<PackageId>,
    pub(super) types: Vec<Type<'v>>,
    /// The types by what declares them.
    declared: FxHashMap<(usize, NodeId), TypeId>,
    /// The types by what they are made of.
    bodies: FxHashMap<(usize, NodeId), TypeId>,
    /// What expressions are, as far as that was asked.
    pub(super) seen: RefCell<FxHashMap<(usize, NodeId), Known<'v>>>,
}

impl<'v> Project<'v> {
    pub(super) fn new(sources: &'v Sources, views: &'v [View<'v>]) -> Project<'v> {
        let mut project = Project {
            views,
            packages: Vec::new(),
            package_of: Vec::new(),
            types: Vec::new(),
            declared: FxHashMap::default(),
            bodies: FxHashMap::default(),
            seen: RefCell::default(),
        };
        project.find_packages(sources);
        project.find_types();
        project.find_methods();
        project
    }

    fn find_packages(&mut self, sources: &'v Sources) {
        let mut numbers: FxHashMap<(&str, &str), PackageId> = FxHashMap::default();
        for (file, view) in self.views.iter().enumerate() {
            let (folder, name) = (view.file.folder(), view.package().map_or("", |name| view.file.slice(name)));
            let number = *numbers.entry((folder, name)).or_insert_with(|| {
                // What tests a package from outside is imported by nobody.
                let path = sources.import_path(file).filter(|_| !name.ends_with("_test"));
                self.packages.push(Package { path, folder, declared: FxHashMap::default() });
                self.packages.len() - 1
            });
            self.package_of.push(number);
            let declared = &mut self.packages[number].declared;
            for (id, binding) in view.names.bindings_with_ids() {
                if binding.scope == ScopeId::FILE && !view.is_import(id) {
                    declared.entry(view.names.text(binding.name)).or_default().push((file, id));
                }
            }
        }
    }

    /// Types with the same name in one package are one, which files for different systems declare.
    fn find_types(&mut self) {
        let mut numbers: FxHashMap<(PackageId, &str), TypeId> = FxHashMap::default();
        for (file, view) in self.views.iter().enumerate() {
            for definition in view.file.tree.nodes_of(Kind::TypeDefinition) {
                let Some(made_of) = definition.child(Role::Type) else { continue };
                let name = definition.child(Role::Name).map(|name| view.file.slice(name));
                let is_of_package = definition.ancestors().nth(1).is_some_and(|around| around.kind() == Kind::File);
                let next = self.types.len();
                let number = match name.filter(|_| is_of_package) {
                    Some(name) => *numbers.entry((self.package_of[file], name)).or_insert(next),
                    None => next,
                };
                if number == next {
                    self.types.push(Type { made_of: Vec::new(), methods: FxHashMap::default() });
                }
                self.types[number].made_of.push((file, made_of));
                self.declared.insert((file, definition.id()), number);
                self.bodies.insert((file, made_of.id()), number);
            }
        }
    }

    fn find_methods(&mut self) {
        for (file, view) in self.views.iter().enumerate() {
            let methods = view.file.tree.root().children().filter(|node| node.kind() == Kind::Function);
            for method in methods {
                if let Some(name) = method.child(Role::Name)
                    && let Known::Type(of) = self.receiver(file, method)
                {
                    self.types[of].methods.entry(view.file.slice(name)).or_default().push((file, method));
                }
            }
        }
    }

    /// The type of the object that a method is given.
    pub(super) fn receiver(&self, file: usize, method: NodeRef<'v>) -> Known<'v> {
        let list = method.child(Role::Receiver);
        let parameter = list.and_then(|list| list.children_in(Role::Parameter).next());
        let written = parameter.and_then(|parameter| parameter.child(Role::Type));
        written.map_or(Known::Unknown, |written| self.written(file, written))
    }

    /// The type that a definition declares.
    pub(super) fn declared_by(&self, file: usize, definition: NodeRef<'_>) -> Option<TypeId> {
        self.declared.get(&(file, definition.id())).copied()
    }

    /// The type that is made of what a node writes.
    pub(super) fn made_of(&self, file: usize, body: NodeId) -> Option<TypeId> {
        self.bodies.get(&(file, body)).copied()
    }

    pub(super) fn slice(&self, file: usize, node: NodeRef<'_>) -> &'v str {
        self.views[file].file.slice(node)
    }
}

/// Whether the only declaration of a name is a type, an alias of one, or the parameter of one.
pub(super) fn is_type_name(kind: DeclarationKind) -> bool {
    matches!(kind, DeclarationKind::Class | DeclarationKind::TypeAlias | DeclarationKind::TypeParameter)
}
