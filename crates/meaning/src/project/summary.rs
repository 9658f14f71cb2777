//! What a file exports to others.

use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};
use sieve_syntax::language::Language;
use sieve_syntax::text::{Marks, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use super::{Class, Function};
use crate::names::{Binding, DeclarationKind, Names, ScopeId, Unknown};
use crate::refers::{ExternalPath, of_item, outside};

/// What others get by a name.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub enum Definition {
    /// A function.
    Function(Box<Function>),
    /// A class.
    Class(Box<Class>),
    /// A thing of another module: the module, and the names that lead to it.
    Alias(String, Vec<String>),
    /// Something else.
    Other,
}

/// What a file exports.
#[derive(Debug, Default, Serialize, Deserialize)]
pub struct Summary {
    /// Things of the whole file by their names in it.
    own: FxHashMap<Box<str>, Definition>,
    /// The names that others see, where these are not those in the file.
    handed_out: Option<FxHashMap<Box<str>, Definition>>,
    /// Modules of which every name is re-exported.
    pub stars: Vec<String>,
    /// Loading it does more than define things.
    pub has_effects: bool,
    /// It may export more than is listed here.
    pub is_open: bool,
}

/// What makes names of a module at run time.
static MADE_AT_RUN_TIME: Marks = Marks::new(&[
    "globals()",
    "sys.modules",
    "exec(",
    "__getattr__",
    "setattr(",
    "__dict__",
    "vars()",
    "locals()",
    ".export\n",
    "current_module",
    "currentframe",
    "getmodule",
]);

/// Forms of modules that are not understood here.
static OTHER_MODULES: Marks = Marks::new(&[
    "module.exports",
    "exports.",
    "export =",
    "export as namespace",
    "export import",
    "@typedef",
    "@callback",
]);

impl Summary {
    /// Reads a file.
    pub fn of<'t>(language: Language, text: &'t Text, tree: &'t Tree, names: &Names<'t>) -> Summary {
        let mut summary = Summary { has_effects: has_effects(text, tree), ..Summary::default() };
        for binding in names.bindings().filter(|binding| binding.scope == ScopeId::FILE) {
            let definition = definition_of(language, text, tree, names, binding);
            summary.own.insert(names.text(binding.name).into(), definition);
        }
        if language == Language::Python {
            let imports = tree.nodes_of(Kind::ImportAll).filter(|node| is_outermost(*node));
            for import in imports.filter_map(|star| star.parent()?.child(Role::Module)) {
                summary.stars.push(text.slice(import.span()).to_string());
            }
            for name in given_by_name(text, tree) {
                summary.own.entry(name.into()).or_insert(Definition::Other);
            }
        } else {
            summary.collect_exports(language, text, tree);
        }
        summary.is_open = !tree.faults().is_empty()
            || summary.may_export_more(language, text)
            || language == Language::Python && (gives_itself_away(text, tree) || only_calls(tree));
        summary
    }

    /// Whether the file may export more than its declarations say: what makes names at run time, and forms of modules that are not
    /// understood here.
    fn may_export_more(&self, language: Language, text: &Text) -> bool {
        let marks = if language == Language::Python { &MADE_AT_RUN_TIME } else { &OTHER_MODULES };
        let is_script = self.handed_out.as_ref().is_some_and(|out| out.is_empty()) && self.stars.is_empty();
        is_script || marks.are_in(text.source())
    }

    /// Whether the file gives others nothing at all.
    pub fn declares_nothing(&self) -> bool {
        self.own.is_empty() && self.stars.is_empty()
    }

    /// What others get by a name.
    pub fn get(&self, name: &str) -> Option<&Definition> {
        self.handed_out.as_ref().unwrap_or(&self.own).get(name)
    }

    /// What a name means in the file itself.
    pub fn own(&self, name: &str) -> Option<&Definition> {
        self.own.get(name)
    }

    /// The exports of a module of JavaScript.
    fn collect_exports(&mut self, language: Language, text: &Text, tree: &Tree) {
        let mut out: FxHashMap<Box<str>, Definition> = FxHashMap::default();
        for export in tree.root().children().filter(|node| node.kind() == Kind::Export) {
            let module = export.child(Role::Module).and_then(|module| language.string_value(text.slice(module.span())));
            for item in export.children_in(Role::Item) {
                let slice = |node: NodeRef<'_>| text.slice(node.span());
                match (item.kind(), &module) {
                    (Kind::ExportAll, Some(module)) if item.child(Role::Alias).is_none() => {
                        self.stars.push(module.clone());
                    }
                    (Kind::ExportAll, Some(module)) => {
                        let Some(shown) = item.child(Role::Alias).map(slice) else { continue };
                        out.insert(shown.into(), Definition::Alias(module.clone(), Vec::new()));
                    }
                    (Kind::ExportItem, module) => {
                        let Some(name) = item.child(Role::Name).map(slice) else { continue };
                        let shown = item.child(Role::Alias).map_or(name, slice);
                        let definition = match module {
                            Some(module) => Definition::Alias(module.clone(), vec![name.to_string()]),
                            None => self.own.get(name).cloned().unwrap_or(Definition::Other),
                        };
                        out.insert(shown.into(), definition);
                    }
                    _ => {}
                }
            }
            let is_default = text.slice(export.span()).trim_start_matches("export").trim_start().starts_with("default");
            for value in export.children_in(Role::Value) {
                for name in declared(value).into_iter().map(|name| text.slice(name.span())) {
                    let definition = self.own.get(name).cloned().unwrap_or(Definition::Other);
                    out.insert(if is_default { "default" } else { name }.into(), definition);
                }
                if is_default {
                    out.entry("default".into()).or_insert_with(|| match value.kind() {
                        Kind::Name => self.own.get(text.slice(value.span())).cloned().unwrap_or(Definition::Other),
                        Kind::Function | Kind::Lambda => {
                            Definition::Function(Function::of(language, text, value).into())
                        }
                        _ => Definition::Other,
                    });
                }
            }
        }
        self.handed_out = Some(out);
    }
}

/// Whether loading a file does more than define things: outside of functions it calls something for its effect, sets a part of
/// something, or gives a definition to a decorator that is itself called. What only runs as a program does not count.
fn has_effects(text: &Text, tree: &Tree) -> bool {
    let mut waiting: Vec<NodeRef<'_>> = tree.root().children().collect();
    while let Some(node) = waiting.pop() {
        match node.kind() {
            Kind::ExpressionStatement => {
                let value = node.child(Role::Value);
                if value.is_some_and(|value| {
                    matches!(value.kind(), Kind::Call | Kind::Await | Kind::New) || sets_part(value)
                }) {
                    return true;
                }
            }
            Kind::Assignment | Kind::CompoundAssignment | Kind::AnnotatedAssignment if sets_part(node) => return true,
            Kind::Delete => return true,
            Kind::Function | Kind::Class => {
                let is_call = |decorator: NodeRef<'_>| {
                    decorator.child(Role::Value).is_some_and(|value| value.kind() == Kind::Call)
                };
                if node.children_in(Role::Decorator).any(is_call) {
                    return true;
                }
            }
            Kind::If
                if node.child(Role::Condition).is_some_and(|test| text.slice(test.span()).contains("__name__")) => {}
            Kind::If | Kind::Try | Kind::With | Kind::For | Kind::While | Kind::Block | Kind::Catch => {
                waiting.extend(node.children());
            }
            _ => {}
        }
    }
    false
}

/// The names of arguments in calls for their effect, outside of functions: what is called may put these names into the module.
fn given_by_name<'t>(text: &'t Text, tree: &'t Tree) -> impl Iterator<Item = &'t str> {
    let statements = tree.root().children().filter(|node| node.kind() == Kind::ExpressionStatement);
    let calls = statements.filter_map(|node| node.child(Role::Value)).filter(|value| value.kind() == Kind::Call);
    let arguments = calls.filter_map(|call| call.child(Role::Arguments)).flat_map(NodeRef::children);
    let is_name =
        |word: &&str| !word.is_empty() && word.bytes().all(|byte| byte == b'_' || byte.is_ascii_alphanumeric());
    arguments.filter_map(move |argument| match argument.kind() {
        Kind::String => Some(text.slice(argument.span()).trim_matches(['"', '\''])).filter(is_name),
        _ => argument.child(Role::Name).map(|name| text.slice(name.span())),
    })
}

/// Whether a module does nothing but call something, which may put another one in its place.
fn only_calls(tree: &Tree) -> bool {
    let calls = |statement: NodeRef<'_>| statement.child(Role::Value).is_some_and(|value| value.kind() == Kind::Call);
    let is_one = |statement: NodeRef<'_>| match statement.kind() {
        Kind::Import => true,
        Kind::ExpressionStatement => {
            calls(statement) || statement.child(Role::Value).is_some_and(|value| value.kind() == Kind::String)
        }
        _ => false,
    };
    tree.root().children().all(is_one) && tree.root().children().any(calls) && tree.root().children().count() <= 3
}

/// Whether a module gives its own name to a call for its effect, or to one whose name mentions modules: that may put names into it.
fn gives_itself_away(text: &Text, tree: &Tree) -> bool {
    let is_own_name = |argument: NodeRef<'_>| text.slice(argument.span()) == "__name__";
    memchr::memmem::find(text.source().as_bytes(), b"__name__").is_some()
        && tree.root().children().any(|statement| {
            let Some(call) = statement.child(Role::Value).filter(|value| value.kind() == Kind::Call) else {
                return false;
            };
            let takes_it = call.child(Role::Arguments).and_then(|all| all.children().next()).is_some_and(is_own_name);
            let is_for_modules =
                || call.child(Role::Callee).is_some_and(|callee| text.slice(callee.span()).contains("module"));
            takes_it && (statement.kind() == Kind::ExpressionStatement || is_for_modules())
        })
}

/// Whether an assignment sets a part of something that may be somebody else's.
fn sets_part(assignment: NodeRef<'_>) -> bool {
    let is_assignment =
        matches!(assignment.kind(), Kind::Assignment | Kind::CompoundAssignment | Kind::AnnotatedAssignment);
    let is_part = |target: NodeRef<'_>| matches!(target.kind(), Kind::Member | Kind::Subscript);
    is_assignment && assignment.children_in(Role::Target).any(is_part)
}

/// The names that a declaration after `export` declares.
fn declared(declaration: NodeRef<'_>) -> Vec<NodeRef<'_>> {
    match declaration.kind() {
        Kind::Declaration => declaration
            .children_in(Role::Item)
            .filter_map(|item| item.child(Role::Target))
            .flat_map(|target| std::iter::once(target).chain(target.descendants()))
            .filter(|node| node.kind() == Kind::Name)
            .collect(),
        kind if kind.is_statement() => declaration.child(Role::Name).into_iter().collect(),
        _ => Vec::new(),
    }
}

fn is_outermost(node: NodeRef<'_>) -> bool {
    !node.ancestors().any(|around| around.kind().is_function() || around.kind() == Kind::Class)
}

/// What a name of a file represents, if one place alone says so.
pub(super) fn definition_of<'t>(
    language: Language,
    text: &'t Text,
    tree: &'t Tree,
    names: &Names<'t>,
    binding: &Binding,
) -> Definition {
    let [only] = binding.declarations.as_slice() else { return Definition::Other };
    let name = tree.node(only.node);
    let is_open = |reason: Unknown| reason.is_about_code() || reason == Unknown::OtherPart;
    if binding.writes > 0 || names.scope(binding.scope).may_bind.is_some_and(is_open) {
        return Definition::Other;
    }
    match (only.kind, name.parent()) {
        (DeclarationKind::Function, Some(function)) => {
            Definition::Function(Function::of(language, text, function).into())
        }
        (DeclarationKind::Class, Some(class)) if matches!(class.kind(), Kind::Class | Kind::ClassExpression) => {
            Definition::Class(Class::of(language, text, names, class).into())
        }
        (DeclarationKind::Import, _) => of_item(language, text, name).map_or(Definition::Other, |found| alias(&found)),
        (DeclarationKind::Assignment, Some(holder)) if language != Language::Python => {
            let value = holder.child_at_end(Role::Value).filter(|_| name.role() == Role::Target);
            match value {
                // The type that a variable is declared with says what it takes.
                Some(value) if value.kind() == Kind::Lambda && holder.child(Role::Type).is_none() => {
                    Definition::Function(Function::of(language, text, value).into())
                }
                Some(value) => match outside(language, text, names, value) {
                    Some(found) if !found.module.is_empty() => alias(&found),
                    _ => Definition::Other,
                },
                None => Definition::Other,
            }
        }
        _ => Definition::Other,
    }
}

fn alias(found: &ExternalPath<'_>) -> Definition {
    Definition::Alias(found.module.to_string(), found.path.iter().map(|name| (*name).to_string()).collect())
}
