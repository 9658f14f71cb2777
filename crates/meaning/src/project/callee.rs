//! What a call calls, in this file or another one.

use std::cell::{OnceCell, RefCell};
use std::rc::Rc;
use std::sync::Arc;

use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, Tree};

use super::function::{is_member, words_before};
use super::members::Members;
use super::summary::thing_of;
use super::{Base, Class, Function, Module, Modules, Thing};
use crate::names::{BindingId, DeclarationSort, Names, Resolution, ScopeId};
use crate::refers::outside;
use crate::signature::Signature;

/// Longer ways from module to module are not followed.
const MOST_STEPS: usize = 16;

/// What a call runs.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Callee {
    /// What it takes, without an object that the language fills in; nothing where that is not known.
    pub signature: Option<Signature>,
    /// Whether what it gives must be awaited.
    pub is_async: bool,
    /// Whether a comment says that it has no effects.
    pub is_pure: bool,
    /// Whether it makes an object of a class.
    pub makes_object: bool,
    /// The file that it is in, where that is another one.
    pub file: Option<Arc<str>>,
    /// The line of its name, from 1.
    pub line: u32,
}

/// Follows calls that are in one file. What is found out is remembered: several rules ask for the same.
#[derive(Debug)]
pub struct Calls<'c, 't> {
    language: Language,
    text: &'t Text,
    tree: &'t Tree,
    names: &'c Names<'t>,
    path: &'c str,
    modules: &'c dyn Modules,
    callees: RefCell<FxHashMap<NodeId, Option<Rc<Callee>>>>,
    things: RefCell<FxHashMap<BindingId, Rc<Thing>>>,
    members: OnceCell<Members>,
    referred: RefCell<FxHashMap<NodeId, Option<Rc<str>>>>,
}

/// A thing, and the module that it is in, if that is another one.
struct Place {
    thing: Rc<Thing>,
    module: Option<Arc<Module>>,
}

impl<'c, 't> Calls<'c, 't> {
    /// The calls of a file, which the modules know by `path`.
    pub fn new(
        language: Language,
        text: &'t Text,
        tree: &'t Tree,
        names: &'c Names<'t>,
        path: &'c str,
        modules: &'c dyn Modules,
    ) -> Calls<'c, 't> {
        Calls {
            language,
            text,
            tree,
            names,
            path,
            modules,
            callees: RefCell::default(),
            things: RefCell::default(),
            members: OnceCell::new(),
            referred: RefCell::default(),
        }
    }

    /// What a call runs; nothing where that is not known for sure.
    pub fn callee(&self, call: NodeRef<'t>) -> Option<Rc<Callee>> {
        if let Some(known) = self.callees.borrow().get(&call.id()) {
            return known.clone();
        }
        let callee = self.find(call).map(Rc::new);
        self.callees.borrow_mut().insert(call.id(), callee.clone());
        callee
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

    fn find(&self, call: NodeRef<'t>) -> Option<Callee> {
        let callee = call.child(Role::Callee)?;
        let is_new = call.kind() == Kind::New;
        if let Some(method) = self.own_method(callee) {
            return Some(self.of_function(&method, None, true));
        }
        let place = self.place_of(callee)?;
        match &*place.thing {
            Thing::Function(function) if !is_new => Some(self.of_function(function, place.module.as_ref(), false)),
            Thing::Class(class) if is_new || self.language == Language::Python => {
                let signature = self.constructor(class, place.module.as_ref(), 0)?;
                Some(Callee {
                    signature: Some(signature),
                    is_async: false,
                    is_pure: false,
                    makes_object: true,
                    file: place.module.map(|module| Arc::clone(&module.path)),
                    line: class.line,
                })
            }
            _ => None,
        }
    }

    fn of_function(&self, function: &Function, module: Option<&Arc<Module>>, on_object: bool) -> Callee {
        let bound = |signature: Signature| {
            if on_object && function.is_method { signature.bound() } else { signature }
        };
        Callee {
            signature: function.signature.clone().map(bound),
            is_async: function.is_async,
            is_pure: function.is_pure,
            makes_object: false,
            file: module.map(|module| Arc::clone(&module.path)),
            line: function.line,
        }
    }

    fn place_of(&self, callee: NodeRef<'t>) -> Option<Place> {
        if callee.kind() == Kind::Name {
            let Some(Resolution::Binding(binding)) = self.names.resolution_at(callee.id()) else { return None };
            let thing = self.thing(binding);
            return match &*thing {
                Thing::Function(_) | Thing::Class(_) => Some(Place { thing, module: None }),
                Thing::Alias(module, path) => self.follow(self.path, module, path, 0),
                Thing::Other => None,
            };
        }
        let found = outside(self.language, self.text, self.names, callee)?;
        let path: Vec<String> = found.path.iter().map(|name| (*name).to_string()).collect();
        self.follow(self.path, &found.module, &path, 0)
    }

    /// What a name of the file represents.
    fn thing(&self, binding: BindingId) -> Rc<Thing> {
        if let Some(known) = self.things.borrow().get(&binding) {
            return Rc::clone(known);
        }
        let thing = thing_of(self.language, self.text, self.tree, self.names, self.names.binding(binding));
        let thing = Rc::new(thing);
        self.things.borrow_mut().insert(binding, Rc::clone(&thing));
        thing
    }

    /// Whether loading a module of the project does more than define things; false for what is not in the project.
    pub fn has_effects(&self, module: &str) -> bool {
        self.modules.find(self.path, module).is_some_and(|found| found.summary.has_effects)
    }

    /// Follows names from a module to what they represent.
    fn follow(&self, from: &str, module: &str, path: &[String], steps: usize) -> Option<Place> {
        if steps > MOST_STEPS {
            return None;
        }
        let found = self.modules.find(from, module);
        let [name, rest @ ..] = path else { return None };
        if let Some(found) = &found {
            match found.summary.get(name) {
                Some(Thing::Alias(next, names)) => {
                    let whole: Vec<String> = names.iter().chain(rest).cloned().collect();
                    return self.follow(&found.path, next, &whole, steps + 1);
                }
                Some(thing) if rest.is_empty() => {
                    return Some(Place { thing: Rc::new(thing.clone()), module: Some(Arc::clone(found)) });
                }
                Some(_) => return None,
                None => {}
            }
            // What a star import brings is known only where no other star could bring it too.
            if let [star] = found.summary.stars.as_slice()
                && let Some(place) = self.follow(&found.path, star, path, steps + 1)
            {
                return Some(place);
            }
        }
        // In Python the name may be a module below.
        let below = || {
            let dot = if module.ends_with('.') { "" } else { "." };
            format!("{module}{dot}{name}")
        };
        if self.language == Language::Python && !rest.is_empty() && !module.is_empty() {
            return self.follow(from, &below(), rest, steps + 1);
        }
        None
    }

    /// What making an object of a class takes.
    fn constructor(&self, class: &Class, module: Option<&Arc<Module>>, steps: usize) -> Option<Signature> {
        if !class.is_plain || steps > MOST_STEPS {
            return None;
        }
        let mut from_base = None;
        for base in &class.bases {
            let place = match base {
                Base::Unknown => return None,
                Base::Outside(name, path) => {
                    self.follow(module.map_or(self.path, |module| &module.path), name, path, steps + 1)?
                }
                Base::Here(name) => self.class_here(name, module)?,
            };
            let Thing::Class(base) = &*place.thing else { return None };
            let taken = self.constructor(base, place.module.as_ref(), steps + 1)?;
            from_base.get_or_insert(taken);
        }
        // Of several bases the order in which they are asked decides.
        if class.constructor.is_none() && class.bases.len() > 1 {
            return None;
        }
        Some(class.constructor.clone().or(from_base).unwrap_or_default())
    }

    /// A class by its name in the file of another.
    fn class_here(&self, name: &str, module: Option<&Arc<Module>>) -> Option<Place> {
        match module {
            Some(module) => {
                Some(Place { thing: Rc::new(module.summary.own(name)?.clone()), module: Some(Arc::clone(module)) })
            }
            None => {
                let binding = self.names.lookup(ScopeId::FILE, name)?;
                Some(Place { thing: self.thing(binding), module: None })
            }
        }
    }

    /// The method that `self.name(…)` or `this.name(…)` runs, unless a class built on this one has another.
    fn own_method(&self, callee: NodeRef<'t>) -> Option<Function> {
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
        let method = self.method_around(object)?;
        let class = method.parent()?.parent()?;
        let only = self.members().only(class.id(), wanted)?;
        let only = self.tree.node(only);
        let is_plain = only.child(Role::Body).is_some();
        let words = words_before(self.text, only);
        if !is_plain || self.is_placeholder(only) || words.iter().any(|word| matches!(*word, "get" | "set" | "static"))
        {
            return None;
        }
        Some(Function::of(self.language, self.text, only))
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
            Kind::Name if self.language == Language::Python => {
                let Some(Resolution::Binding(binding)) = self.names.resolution_at(object.id()) else { return None };
                let binding = self.names.binding(binding);
                let [only] = binding.declarations.as_slice() else { return None };
                let name = self.tree.node(only.node);
                let parameter = name.parent().filter(|_| only.sort == DeclarationSort::Parameter)?;
                let method = parameter.parent()?.parent()?;
                let is_first = parameter.parent()?.children().next() == Some(parameter);
                let is_object = matches!(self.text.slice(name.span()), "self");
                (is_first && is_object && method.kind() == Kind::Function && is_member(method)).then_some(method)
            }
            _ => None,
        }
    }

    /// A function expression is called on an object of its own; an arrow is not.
    fn has_own_this(&self, lambda: NodeRef<'t>) -> bool {
        words_before(self.text, lambda).contains(&"function")
    }
}
