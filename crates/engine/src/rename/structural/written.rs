//! What types represent as they are written, and names of the project.

use sieve_meaning::names::{BindingId, Resolution};
use sieve_meaning::{go_interfaces, is_of_library};
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::project::{Known, PackageId, Project, TypeId, is_type_name};

/// Types and values are followed through this many steps.
pub(super) const MOST_STEPS: usize = 200;

/// What a name represents.
pub(super) enum Meaning<'v> {
    /// What a place of the project declares.
    Declared(usize, BindingId),
    /// Something else, as far as it is known.
    Other(Known<'v>),
}

impl<'v> Project<'v> {
    /// The type that is written at a node.
    pub(super) fn written(&self, file: usize, written: NodeRef<'v>) -> Known<'v> {
        self.written_within(file, written, MOST_STEPS)
    }

    fn written_within(&self, file: usize, written: NodeRef<'v>, steps: usize) -> Known<'v> {
        let Some(steps) = steps.checked_sub(1) else { return Known::Unknown };
        let inner = |role: Role| match written.child(role) {
            Some(inner) => self.written_within(file, inner, steps),
            None => Known::Unknown,
        };
        match written.kind() {
            Kind::PointerType => inner(Role::Element),
            Kind::GroupType => inner(Role::Type),
            Kind::Group => inner(Role::Value),
            Kind::Unary | Kind::TypeOperator => inner(Role::Operand),
            // What other packages hold for a type of the project is not followed.
            Kind::NamedType if written.child(Role::TypeArguments).is_some() => not_foreign(inner(Role::Name)),
            Kind::NamedType => inner(Role::Name),
            Kind::Subscript => not_foreign(inner(Role::Object)),
            Kind::Name | Kind::Member => match self.meaning(file, written) {
                Meaning::Declared(at, id) => self.type_declared(at, id, steps),
                Meaning::Other(Known::Package(_)) => Known::Unknown,
                Meaning::Other(known) => known,
            },
            _ if is_made_of_others(written.kind()) => Known::Written(file, written),
            _ => Known::Unknown,
        }
    }

    fn type_declared(&self, file: usize, id: BindingId, steps: usize) -> Known<'v> {
        let view = &self.views[file];
        let Some(first) = view.names.binding(id).declarations.first() else { return Known::Unknown };
        let Some(definition) = view.file.tree.node(first.node).parent() else { return Known::Unknown };
        match definition.kind() {
            Kind::TypeDefinition => self.declared_by(file, definition).map_or(Known::Unknown, Known::Type),
            Kind::TypeAlias => match definition.child(Role::Value) {
                Some(value) => self.written_within(file, value, steps),
                None => Known::Unknown,
            },
            Kind::TypeParameter => Known::Parameter(file, definition),
            _ => Known::Unknown,
        }
    }

    /// The type that an expression names, if it does not stand for a value.
    pub(super) fn named_type(&self, file: usize, node: NodeRef<'v>) -> Option<Known<'v>> {
        match node.kind() {
            Kind::Name | Kind::Member => match self.meaning(file, node) {
                Meaning::Declared(at, id) => {
                    let declarations = &self.views[at].names.binding(id).declarations;
                    let is_type = declarations.first().is_some_and(|one| is_type_name(one.kind));
                    is_type.then(|| self.type_declared(at, id, MOST_STEPS))
                }
                Meaning::Other(_) => None,
            },
            Kind::Group => self.named_type(file, node.child(Role::Value)?),
            Kind::Unary => self.named_type(file, node.child(Role::Operand)?),
            Kind::Subscript => self.named_type(file, node.child(Role::Object)?),
            kind => (is_made_of_others(kind) || is_written_type(kind)).then(|| self.written(file, node)),
        }
    }

    /// What a name, or a name of another package, represents.
    pub(super) fn meaning(&self, file: usize, name: NodeRef<'v>) -> Meaning<'v> {
        if name.kind() != Kind::Member {
            return self.meaning_of_name(file, name);
        }
        let (Some(object), Some(own)) = (name.child(Role::Object), name.child(Role::Name)) else {
            return Meaning::Other(Known::Unknown);
        };
        if object.kind() != Kind::Name {
            return Meaning::Other(Known::Unknown);
        }
        match self.meaning_of_name(file, object) {
            Meaning::Other(Known::Package(package)) => {
                self.declared_in(package, self.slice(file, own)).unwrap_or(Meaning::Other(Known::Unknown))
            }
            Meaning::Other(Known::Foreign) if self.import_of(file, object).is_some() => Meaning::Other(Known::Foreign),
            _ => Meaning::Other(Known::Unknown),
        }
    }

    fn meaning_of_name(&self, file: usize, name: NodeRef<'v>) -> Meaning<'v> {
        let view = &self.views[file];
        if let Some(path) = self.import_of(file, name) {
            return Meaning::Other(self.imported(path));
        }
        if let Some(id) = view.binding_at(name) {
            return Meaning::Declared(file, id);
        }
        let text = self.slice(file, name);
        if let Some(found) = self.declared_in(self.package_of[file], text) {
            return found;
        }
        if view.names.resolution_at(name.id()) == Some(Resolution::Builtin) {
            return Meaning::Other(Known::Foreign);
        }
        self.brought(file, text).unwrap_or(Meaning::Other(Known::Unknown))
    }

    fn declared_in(&self, package: PackageId, name: &str) -> Option<Meaning<'v>> {
        let (file, id) = self.packages[package].declared.get(name)?.first()?;
        Some(Meaning::Declared(*file, *id))
    }

    /// What a file gets by its name alone from another package of the project: `import . "saltmarsh.example/tides"`.
    fn brought(&self, file: usize, name: &str) -> Option<Meaning<'v>> {
        let brings_all =
            |item: &NodeRef<'_>| item.child(Role::Alias).is_some_and(|alias| alias.kind() == Kind::ImportAll);
        let items = self.views[file].import_items().filter(brings_all);
        let paths = items.filter_map(|item| item.child(Role::Module)).map(|path| unquoted(self.slice(file, path)));
        paths.into_iter().find_map(|path| match self.imported(path) {
            Known::Package(package) => self.declared_in(package, name),
            _ => None,
        })
    }

    /// The path of the package that a name stands for in its file.
    pub(super) fn import_of(&self, file: usize, name: NodeRef<'_>) -> Option<&'v str> {
        let view = &self.views[file];
        let id = view.binding_at(name).filter(|id| view.is_import(*id))?;
        let item = view.file.tree.node(view.names.binding(id).declarations.first()?.node);
        item.child(Role::Module).map(|path| unquoted(self.slice(file, path)))
    }

    /// What a path leads to. Without a file that says what the packages of the project are called, one that may be among them is not known.
    pub(super) fn imported(&self, path: &str) -> Known<'v> {
        if let Some(found) = self.packages.iter().position(|package| package.path.as_deref() == Some(path)) {
            return Known::Package(found);
        }
        let last = path.rsplit('/').next().unwrap_or(path);
        let may_be = |folder: &str| !folder.is_empty() && (path.ends_with(folder) || folder.ends_with(path));
        let is_here = self.packages.iter().any(|package| package.folder.ends_with(last) && may_be(package.folder));
        if is_here && !is_of_library(self.views[0].file.language, path) { Known::Unknown } else { Known::Foreign }
    }

    /// Whether functions of a package outside of the project know no types but their own.
    pub(super) fn knows_own_types_alone(&self, path: &str) -> bool {
        is_of_library(self.views[0].file.language, path) && !go_interfaces::has_type_parameters(path)
    }

    /// What a type is made of.
    pub(super) fn underlying(&self, known: Known<'v>) -> Known<'v> {
        let mut found = known;
        for _ in 0..MOST_STEPS {
            let Known::Type(of) = found else { return found };
            found = self.under(of);
        }
        Known::Unknown
    }

    fn under(&self, of: TypeId) -> Known<'v> {
        self.types[of].made_of.first().map_or(Known::Unknown, |(file, body)| self.written(*file, *body))
    }
}

/// The text of a string without its quotes.
pub(super) fn unquoted(text: &str) -> &str {
    text.trim_matches(['"', '`'])
}

fn not_foreign(known: Known<'_>) -> Known<'_> {
    if known == Known::Foreign { Known::Unknown } else { known }
}

/// Types that are made of others, and have no name.
fn is_made_of_others(kind: Kind) -> bool {
    matches!(
        kind,
        Kind::ArrayType
            | Kind::MapType
            | Kind::ChannelType
            | Kind::FunctionType
            | Kind::ObjectType
            | Kind::InterfaceType
            | Kind::RestType
    )
}

/// Other forms in which nothing but types is written.
fn is_written_type(kind: Kind) -> bool {
    matches!(kind, Kind::PointerType | Kind::GroupType | Kind::NamedType)
}
