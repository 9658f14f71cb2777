//! What a call runs, as far as its own file says.

use std::cell::{OnceCell, RefCell};
use std::rc::Rc;

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, Tree};

use super::function::{is_member, words_before};
use super::link::{CallQuestion, Callee, MOST_STEPS, Others, Target};
use super::members::Members;
use super::summary::definition_of;
use super::{Base, Class, Definition, Function};
use crate::declared::{class_of, only_value};
use crate::names::{BindingId, Declaration, DeclarationKind, Names, Resolution, ScopeId, ScopeKind};
use crate::python_library;
use crate::refers::outside;
use crate::signature::{Given, Signature};

/// What a call runs, as far as its file says.
enum Called {
    /// Something of the file.
    Known(Rc<Callee>),
    /// Something that other files decide over.
    ExternalPath(Target),
}

/// Whether nothing takes the result of a call.
pub fn is_dropped(call: NodeRef<'_>) -> bool {
    call.role() == Role::Value && call.parent().is_some_and(|holder| holder.kind() == Kind::ExpressionStatement)
}

/// Whether the result of a call is used at once as a truth or a number, which nothing is that must be waited for.
pub fn is_used_as_value(call: NodeRef<'_>) -> bool {
    let mut inner = call;
    loop {
        let Some(parent) = inner.parent() else { return false };
        match (parent.kind(), inner.role()) {
            (Kind::Group | Kind::Unary, _) | (Kind::Logical, Role::Operand) => inner = parent,
            (Kind::If | Kind::While | Kind::Conditional, Role::Condition) => return true,
            (Kind::Comparison, Role::Operand) | (Kind::Binary, _) => {
                return inner == call || inner.kind() == Kind::Group;
            }
            _ => return false,
        }
    }
}

/// Follows calls that are in one file. What is found out is remembered: several rules ask for the same.
#[derive(Debug)]
pub struct Calls<'c, 't> {
    language: Language,
    text: &'t Text,
    tree: &'t Tree,
    names: &'c Names<'t>,
    others: &'c dyn Others,
    callees: RefCell<FxHashMap<NodeId, Option<Rc<Callee>>>>,
    definitions: RefCell<FxHashMap<BindingId, Rc<Definition>>>,
    members: OnceCell<Members>,
    /// The classes on which others are built beside more, by their names.
    mixed: OnceCell<FxHashSet<Box<str>>>,
    /// What calls of methods of the file run, by the method.
    methods: RefCell<FxHashMap<NodeId, Rc<Callee>>>,
    referred: RefCell<FxHashMap<NodeId, Option<Rc<str>>>>,
}

/// What making an object takes.
enum Constructor {
    Takes(Signature),
    /// Other files decide over it.
    ExternalPath,
}

impl<'c, 't> Calls<'c, 't> {
    /// The calls of a file, which asks others what it does not know itself.
    pub fn new(
        language: Language,
        text: &'t Text,
        tree: &'t Tree,
        names: &'c Names<'t>,
        others: &'c dyn Others,
    ) -> Calls<'c, 't> {
        Calls {
            language,
            text,
            tree,
            names,
            others,
            callees: RefCell::default(),
            definitions: RefCell::default(),
            members: OnceCell::new(),
            mixed: OnceCell::new(),
            methods: RefCell::default(),
            referred: RefCell::default(),
        }
    }

    /// What a call runs; nothing where that is not known for sure.
    pub fn callee(&self, call: NodeRef<'t>) -> Option<Rc<Callee>> {
        if let Some(known) = self.callees.borrow().get(&call.id()) {
            return known.clone();
        }
        let callee = self.find(call).and_then(|called| match called {
            Called::Known(callee) => Some(callee),
            Called::ExternalPath(target) => {
                let given = Given::by(self.text, call);
                let stands_alone = is_dropped(call) || is_used_as_value(call);
                let is_new = call.kind() == Kind::New;
                let question = CallQuestion { target: &target, is_new, given: &given, stands_alone };
                self.others.callee(&question).map(Rc::new)
            }
        });
        self.callees.borrow_mut().insert(call.id(), callee.clone());
        callee
    }

    /// Whether loading a module of the project does more than define things; false for what is not in the project.
    pub fn has_effects(&self, module: &str) -> bool {
        self.others.has_effects(module)
    }

    /// Whether a module of the project certainly does not have a name; false where that is not known.
    pub fn lacks(&self, module: &str, name: &str) -> bool {
        self.others.lacks(module, name)
    }

    /// Whether the project certainly has no file for a module that is named by its place.
    pub fn is_missing(&self, module: &str) -> bool {
        self.others.lacks(module, "")
    }

    /// Whether an expression refers to a thing through modules of the project that hand it on.
    pub fn leads_to(&self, node: NodeRef<'t>, thing: &str) -> bool {
        let Some(found) = outside(self.language, self.text, self.names, node) else { return false };
        self.others.may_know(&found.module) && self.others.leads_to(&found.module, &found.path, thing)
    }

    /// What an expression refers to outside of the file, as one text with its names joined by dots.
    pub fn refers(&self, node: NodeRef<'t>) -> Option<Rc<str>> {
        if let Some(known) = self.referred.borrow().get(&node.id()) {
            return known.clone();
        }
        let referred = outside(self.language, self.text, self.names, node).map(|found| found.dotted().into());
        self.referred.borrow_mut().insert(node.id(), referred.clone());
        referred
    }

    /// What a call runs, as far as its file says; nothing where nobody can know.
    fn find(&self, call: NodeRef<'t>) -> Option<Called> {
        let written = call.child(Role::Callee)?;
        // What makes the part of an object that its base has takes what making an object of the base takes.
        let of_base = self.base_made_by(written);
        let callee = of_base.unwrap_or(written);
        let is_new = call.kind() == Kind::New || of_base.is_some();
        if let Some(method) = self.own_method(callee) {
            return Some(Called::Known(method));
        }
        let makes_objects = is_new || self.language == Language::Python;
        if callee.kind() != Kind::Name {
            let found = outside(self.language, self.text, self.names, callee)?;
            if self.language == Language::Python && python_library::is_coroutine(&found.module, &found.path) {
                return Some(Called::Known(Callee::of_library_coroutine().into()));
            }
            if !self.others.may_know(&found.module) {
                return None;
            }
            let path = found.path.iter().map(|name| (*name).to_string()).collect();
            return Some(Called::ExternalPath(Target::Import { module: found.module.into_owned(), path }));
        }
        let Some(Resolution::Binding(binding)) = self.names.resolution_at(callee.id()) else { return None };
        if self.is_bound_later(callee, binding) {
            return None;
        }
        match &*self.definition(binding) {
            Definition::Function(function) if !is_new => {
                Some(Called::Known(Callee::of_function(function, None, false).into()))
            }
            Definition::Class(class) if makes_objects => Some(match self.constructor(class, 0)? {
                Constructor::Takes(signature) => Called::Known(Callee::of_class(signature, class.line, None).into()),
                Constructor::ExternalPath => {
                    Called::ExternalPath(Target::Class(Class::clone(class), self.own_bases(class)))
                }
            }),
            Definition::Alias(module, path) if self.others.may_know(module) => {
                Some(Called::ExternalPath(Target::Import { module: module.clone(), path: path.clone() }))
            }
            _ => None,
        }
    }

    /// Whether a name directly in a class is used before the class binds it, so that it still is what it is around the class.
    fn is_bound_later(&self, name: NodeRef<'t>, binding: BindingId) -> bool {
        let binding = self.names.binding(binding);
        let is_later = |declaration: &Declaration| declaration.node > name.id();
        self.names.scope(binding.scope).kind == ScopeKind::Class && binding.declarations.iter().all(is_later)
    }

    /// What making an object of a class of the file takes, if that is known or others decide over it.
    fn constructor(&self, class: &Class, steps: usize) -> Option<Constructor> {
        if !class.is_plain || steps > MOST_STEPS {
            return None;
        }
        let mut from_base = None;
        for base in &class.bases {
            let Base::Here(name) = base else {
                // Whatever else there is, another file has a say in it.
                return matches!(base, Base::ExternalPath(..)).then_some(Constructor::ExternalPath);
            };
            let binding = self.names.lookup(ScopeId::FILE, name)?;
            let base = match &*self.definition(binding) {
                Definition::Class(base) => self.constructor(base, steps + 1)?,
                _ => return None,
            };
            match base {
                Constructor::ExternalPath => return Some(Constructor::ExternalPath),
                Constructor::Takes(signature) => drop(from_base.get_or_insert(signature)),
            }
        }
        // Of several bases the order in which they are asked decides.
        if class.constructor.is_none() && class.bases.len() > 1 {
            return None;
        }
        Some(Constructor::Takes(class.constructor.clone().or(from_base).unwrap_or_default()))
    }

    /// The classes of the file that one is built on, by their names.
    fn own_bases(&self, class: &Class) -> Vec<(String, Class)> {
        let mut found: Vec<(String, Class)> = Vec::new();
        let mut waiting: Vec<Base> = class.bases.clone();
        while let Some(base) = waiting.pop() {
            let Base::Here(name) = base else { continue };
            if found.iter().any(|(known, _)| *known == name) {
                continue;
            }
            let Some(binding) = self.names.lookup(ScopeId::FILE, &name) else { continue };
            if let Definition::Class(base) = &*self.definition(binding) {
                waiting.extend(base.bases.iter().cloned());
                found.push((name, Class::clone(base)));
            }
        }
        found
    }

    /// What a name of the file represents.
    fn definition(&self, binding: BindingId) -> Rc<Definition> {
        if let Some(known) = self.definitions.borrow().get(&binding) {
            return Rc::clone(known);
        }
        let definition = definition_of(self.language, self.text, self.tree, self.names, self.names.binding(binding));
        let definition = Rc::new(definition);
        self.definitions.borrow_mut().insert(binding, Rc::clone(&definition));
        definition
    }

    /// The method that `self.name(…)` or `this.name(…)` runs, unless a class built on this one has another.
    fn own_method(&self, callee: NodeRef<'t>) -> Option<Rc<Callee>> {
        if callee.kind() != Kind::Member {
            return None;
        }
        let object = callee.child(Role::Object)?;
        let wanted = self.text.slice(callee.child(Role::Name)?.span());
        // Without types a method of a class further down may take more; only private ones are never replaced.
        let may_be_replaced = self.language == Language::JavaScript && !wanted.starts_with('#');
        if may_be_replaced || wanted.starts_with("__") && wanted.ends_with("__") {
            return None;
        }
        let class = match self.class_of_object(object) {
            Some(class) => class,
            None => self.method_around(object)?.parent()?.parent()?,
        };
        let only = self.members().only(class.id(), wanted)?;
        if let Some(known) = self.methods.borrow().get(&only) {
            return Some(Rc::clone(known));
        }
        let only = self.tree.node(only);
        let is_plain = only.child(Role::Body).is_some();
        let words = words_before(self.text, only);
        if !is_plain || self.is_placeholder(only) || words.iter().any(|word| matches!(*word, "get" | "set" | "static"))
        {
            return None;
        }
        let runs = Rc::new(Callee::of_function(&Function::of(self.language, self.text, only), None, true));
        self.methods.borrow_mut().insert(only.id(), Rc::clone(&runs));
        Some(runs)
    }

    /// The class of an object that a variable is given where it is made, and that is nothing else: `boat = Boat()`.
    fn class_of_object(&self, object: NodeRef<'t>) -> Option<NodeRef<'t>> {
        if object.kind() != Kind::Name || self.language != Language::Python {
            return None;
        }
        let made = only_value(self.names, object)?;
        let callee =
            made.child(Role::Callee).filter(|callee| made.kind() == Kind::Call && callee.kind() == Kind::Name)?;
        let class = class_of(self.names, callee)?;
        // A class with a decorator or a maker of its own may give other objects.
        let is_changed = class.children_in(Role::Decorator).next().is_some()
            || class.child(Role::Arguments).is_some_and(|bases| bases.children().next().is_some())
            || self.members().only(class.id(), "__new__").is_some();
        (!is_changed).then_some(class)
    }

    /// The only class that the class around is built on, where a call is of its constructor: `super().__init__(…)`. A class
    /// that is mixed into others is followed by what those are built on as well.
    fn base_made_by(&self, callee: NodeRef<'t>) -> Option<NodeRef<'t>> {
        let object = callee.child(Role::Object).filter(|object| object.kind() == Kind::Call)?;
        let calls_constructor = self.language == Language::Python
            && self.text.slice(object.span()) == "super()"
            && self.text.slice(callee.child(Role::Name)?.span()) == "__init__";
        if !calls_constructor {
            return None;
        }
        let is_definition = |node: &NodeRef<'t>| matches!(node.kind(), Kind::Function | Kind::Class);
        // What passes on whatever it is given does not know which class is next.
        let given = Given::by(self.text, callee.parent()?);
        if given.spreads_positions || given.spreads_names {
            return None;
        }
        let class = callee.ancestors().find(is_definition)?.class_around()?;
        let bases = class.child(Role::Arguments)?;
        let mut all = bases.children();
        let base = all.next().filter(|_| all.next().is_none())?;
        let is_mixed_in = class.child(Role::Name).is_some_and(|name| self.text.slice(name.span()).ends_with("Mixin"));
        (matches!(base.kind(), Kind::Name | Kind::Member) && !is_mixed_in && !self.is_mixed(class)).then_some(base)
    }

    /// Whether a class of the file is built on another one, or on one that is built on it, and on more beside it.
    fn is_mixed(&self, class: NodeRef<'t>) -> bool {
        let text = self.text;
        let mixed = self.mixed.get_or_init(|| {
            let mut mixed: FxHashSet<Box<str>> = FxHashSet::default();
            // Those that are built on others come behind them.
            let classes: Vec<NodeRef<'t>> = self.tree.nodes_of(Kind::Class).collect();
            for other in classes.into_iter().rev() {
                let Some(bases) = other.child(Role::Arguments) else { continue };
                let is_mixed = other.child(Role::Name).is_some_and(|name| mixed.contains(text.slice(name.span())));
                if is_mixed || bases.children().nth(1).is_some() {
                    mixed.extend(bases.children().map(|base| Box::from(text.slice(base.span()))));
                }
            }
            mixed
        });
        class.child(Role::Name).is_some_and(|name| mixed.contains(text.slice(name.span())))
    }

    /// Whether a method only represents those of the classes further down: it raises, or does nothing.
    fn is_placeholder(&self, method: NodeRef<'t>) -> bool {
        let mut statements = method.child(Role::Body).into_iter().flat_map(|body| body.children_in(Role::Statement));
        let does_nothing = |statement: NodeRef<'t>| match statement.kind() {
            Kind::Pass | Kind::Throw => true,
            Kind::Return => statement.child(Role::Value).is_none_or(|value| value.kind() == Kind::Null),
            Kind::ExpressionStatement => statement.child(Role::Value).is_some_and(|value| {
                matches!(value.kind(), Kind::String | Kind::EllipsisLiteral | Kind::Concatenation)
            }),
            _ => false,
        };
        statements.all(does_nothing)
    }

    fn members(&self) -> &Members {
        self.members.get_or_init(|| Members::of(self.text, self.tree))
    }

    /// The method whose object a name or `this` is.
    fn method_around(&self, object: NodeRef<'t>) -> Option<NodeRef<'t>> {
        match object.kind() {
            Kind::This => {
                let mut around =
                    object.ancestors().filter(|node| node.kind().is_function() || node.kind() == Kind::Class);
                let method = around.find(|node| node.kind() != Kind::Lambda || self.has_own_this(*node))?;
                (method.kind() == Kind::Function && is_member(method)).then_some(method)
            }
            Kind::Name if self.language == Language::Python && self.text.slice(object.span()) == "self" => {
                let Some(Resolution::Binding(binding)) = self.names.resolution_at(object.id()) else { return None };
                let binding = self.names.binding(binding);
                let [only] = binding.declarations.as_slice() else { return None };
                let name = self.tree.node(only.node);
                let parameter = name.parent().filter(|_| only.kind == DeclarationKind::Parameter)?;
                let method = parameter.parent()?.parent()?;
                let is_first = parameter.parent()?.children().next() == Some(parameter);
                (is_first && method.kind() == Kind::Function && is_member(method)).then_some(method)
            }
            _ => None,
        }
    }

    /// A function expression is called on an object of its own; an arrow is not.
    fn has_own_this(&self, lambda: NodeRef<'t>) -> bool {
        words_before(self.text, lambda).contains(&"function")
    }
}
