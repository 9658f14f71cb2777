//! Follows calls from file to file, by what each file says of itself.

use std::fmt;
use std::rc::Rc;
use std::sync::Arc;

use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};
use sieve_syntax::language::Language;

use super::{Base, Class, Definition, Function, Module, Modules};
use crate::folder_module::ModuleQuestion;
use crate::opened::{Opened, OpeningQuestion};
use crate::signature::{Given, Signature};

/// Longer ways from module to module are not followed.
pub(super) const MOST_STEPS: usize = 16;

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

/// What a call runs that other files decide over.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub enum Target {
    /// A thing of another module.
    Import {
        /// The module, as imports of the language write it.
        module: String,
        /// The names that lead from it to the thing.
        path: Vec<String>,
    },
    /// A class of the file that is built on one of another file, and the classes of the file that it is built on, by their names.
    Class(Class, Vec<(String, Class)>),
}

/// A call that other files decide over, and its form.
#[derive(Debug, Clone, Copy)]
pub struct CallQuestion<'q> {
    /// What is called.
    pub target: &'q Target,
    /// Whether it is called to make an object.
    pub is_new: bool,
    /// What it is given.
    pub given: &'q Given<'q>,
    /// Whether its result is not used, or as if it were there at once.
    pub stands_alone: bool,
}

impl CallQuestion<'_> {
    /// Whether something may be wrong with the call, if this is what it runs.
    pub fn minds(&self, callee: &Callee) -> bool {
        let misfits = || callee.signature.as_ref().is_some_and(|signature| signature.check(self.given).is_err());
        self.stands_alone && (callee.is_async || callee.is_pure) || misfits()
    }
}

/// What other files say to the questions of one.
pub trait Others: fmt::Debug {
    /// Whether a module may be one of the project, so that it makes sense to ask for what is in it.
    fn may_know(&self, module: &str) -> bool;

    /// What a call runs; nothing where that is not known for sure.
    fn callee(&self, question: &CallQuestion<'_>) -> Option<Callee>;

    /// Whether loading a module of the project does more than define things; false for what is not in the project.
    fn has_effects(&self, module: &str) -> bool;

    /// Whether a module of the project certainly does not have a name; false where that is not known. Nothing as the name asks for the
    /// module itself: whether the project certainly has no file for it.
    fn lacks(&self, module: &str, name: &str) -> bool;

    /// Whether names that lead into a module of the project lead on from there to a thing, by the module it is from and its names joined
    /// by dots; false where that is not known.
    fn leads_to(&self, module: &str, path: &[&str], thing: &str) -> bool;

    /// What is wrong, by a question to a module that is a folder; nothing where all is well, or that is not known.
    fn complaint(&self, question: &ModuleQuestion) -> Option<Vec<String>>;

    /// Those namespaces that a file opens and names nothing of, by all that the project declares in them. `own` is what it declares
    /// itself.
    fn opened_in_vain(&self, question: &OpeningQuestion, own: &[Opened]) -> Vec<String>;
}

/// A file that is alone.
#[derive(Debug)]
pub struct Alone;

impl Others for Alone {
    fn may_know(&self, _module: &str) -> bool {
        false
    }

    fn callee(&self, _question: &CallQuestion<'_>) -> Option<Callee> {
        None
    }

    fn has_effects(&self, _module: &str) -> bool {
        false
    }

    fn lacks(&self, _module: &str, _name: &str) -> bool {
        false
    }

    fn leads_to(&self, _module: &str, _path: &[&str], _thing: &str) -> bool {
        false
    }

    fn complaint(&self, _question: &ModuleQuestion) -> Option<Vec<String>> {
        None
    }

    fn opened_in_vain(&self, question: &OpeningQuestion, own: &[Opened]) -> Vec<String> {
        let declared: FxHashMap<&str, &Opened> = own.iter().map(|one| (one.name.as_str(), one)).collect();
        question.in_vain(|namespace| declared.get(namespace).copied().into_iter())
    }
}

impl Callee {
    pub(super) fn of_function(function: &Function, module: Option<&Arc<Module>>, on_object: bool) -> Callee {
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

    /// A function of the library that gives a coroutine; what it takes is not looked at.
    pub(super) fn of_library_coroutine() -> Callee {
        Callee {
            signature: Some(Signature::any()),
            is_async: true,
            is_pure: false,
            makes_object: false,
            file: None,
            line: 0,
        }
    }

    pub(super) fn of_class(signature: Signature, line: u32, module: Option<&Arc<Module>>) -> Callee {
        Callee {
            signature: Some(signature),
            is_async: false,
            is_pure: false,
            makes_object: true,
            file: module.map(|module| Arc::clone(&module.path)),
            line,
        }
    }
}

/// Follows what one file calls into others.
#[derive(Debug)]
pub struct Linker<'l> {
    /// The language of the file.
    pub language: Language,
    /// What the modules know the file by.
    pub path: &'l str,
    /// The other files.
    pub modules: &'l dyn Modules,
}

/// A thing, and the module that it is in, if that is another one.
struct Place {
    definition: Rc<Definition>,
    module: Option<Arc<Module>>,
}

impl Others for Linker<'_> {
    fn may_know(&self, module: &str) -> bool {
        !module.is_empty()
    }

    fn callee(&self, question: &CallQuestion<'_>) -> Option<Callee> {
        let is_new = question.is_new;
        let place = match question.target {
            Target::Class(class, own) => {
                let signature = self.constructor(class, Home::Here(own), 0)?;
                return Some(Callee::of_class(signature, class.line, None));
            }
            Target::Import { module, path } => self.follow(self.path, module, path, 0)?,
        };
        match &*place.definition {
            Definition::Function(function) if !is_new => {
                Some(Callee::of_function(function, place.module.as_ref(), false))
            }
            Definition::Class(class) if is_new || self.language == Language::Python => {
                let signature = self.constructor(class, place.home(), 0)?;
                Some(Callee::of_class(signature, class.line, place.module.as_ref()))
            }
            _ => None,
        }
    }

    fn opened_in_vain(&self, question: &OpeningQuestion, own: &[Opened]) -> Vec<String> {
        self.modules.opened_in_vain(question, own)
    }

    fn has_effects(&self, module: &str) -> bool {
        self.modules.find(self.path, module).is_some_and(|found| found.summary.has_effects)
    }

    fn lacks(&self, module: &str, name: &str) -> bool {
        if !self.may_know(module) {
            return false;
        }
        if name.is_empty() {
            return self.modules.is_missing(self.path, module);
        }
        let Some(found) = self.modules.find(self.path, module) else { return false };
        // Nobody imports from the file itself: another module has the same name.
        if *found.path == *self.path {
            return false;
        }
        // What a file with types takes from one without is described by a third one.
        let is_described = matches!(self.language, Language::TypeScript | Language::Tsx)
            && [".js", ".mjs", ".cjs", ".jsx"].iter().any(|ending| found.path.ends_with(ending));
        if is_described {
            return false;
        }
        if self.language == Language::Python && self.is_more_than_its_file(module, name) {
            return false;
        }
        if self.language == Language::Python && found.path.ends_with("__init__.py") {
            // An example in a folder that is named like what it shows.
            let holds_this = self.path.starts_with(found.path.trim_end_matches("__init__.py"));
            if holds_this && !module.contains('.') && found.summary.declares_nothing() {
                return false;
            }
            // What is in a package and not a file of Python may be a compiled or a generated module.
            let may_be_module = name.len() == 1 || !name.starts_with(char::is_uppercase);
            if may_be_module || self.modules.find(self.path, &below(module, name)).is_some() {
                return false;
            }
        }
        self.module_lacks(&found, name, 0)
    }

    fn leads_to(&self, module: &str, path: &[&str], thing: &str) -> bool {
        let path: Vec<String> = path.iter().map(|name| (*name).to_string()).collect();
        self.may_know(module) && self.leads_on(self.path, module, &path, thing, 0)
    }

    fn complaint(&self, question: &ModuleQuestion) -> Option<Vec<String>> {
        let module = self.modules.folder(self.path, question.folder())?;
        let ModuleQuestion::GivesNot { call, output } = question else { return module.complaint(question) };
        let folder = module.called(call)?.to_string();
        let called = self.modules.folder(self.path, &folder)?;
        called.complaint(&ModuleQuestion::Lacks { folder, address: format!("output.{output}") })
    }
}

/// Whether a thing is called by a file of the project and names in it, from the root or from a folder that holds the modules.
fn is_called(file: &str, path: &[String], thing: &str) -> bool {
    let name = format!("{}.{}", module_of_file(file), path.join("."));
    name == thing || name.strip_suffix(thing).is_some_and(|before| before.ends_with('.'))
}

/// The name of a file as a module, from the root of the project: folders and name joined by dots.
fn module_of_file(path: &str) -> String {
    let stem = path.rsplit_once('.').map_or(path, |(stem, _)| stem);
    let stem = stem.strip_suffix("/__init__").or(stem.strip_suffix("/index")).unwrap_or(stem);
    stem.replace('/', ".")
}

/// The name of a module in a package of Python.
fn below(package: &str, name: &str) -> String {
    let dot = if package.ends_with('.') { "" } else { "." };
    format!("{package}{dot}{name}")
}

impl Linker<'_> {
    /// Follows names from a module to what they represent.
    fn follow(&self, from: &str, module: &str, path: &[String], steps: usize) -> Option<Place> {
        if steps > MOST_STEPS {
            return None;
        }
        let found = self.modules.find(from, module);
        let [name, rest @ ..] = path else { return None };
        if let Some(found) = &found {
            match found.summary.get(name) {
                Some(Definition::Alias(next, names)) => {
                    let whole: Vec<String> = names.iter().chain(rest).cloned().collect();
                    return self.follow(&found.path, next, &whole, steps + 1);
                }
                Some(definition) if rest.is_empty() => {
                    return Some(Place { definition: Rc::new(definition.clone()), module: Some(Arc::clone(found)) });
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
        if self.language == Language::Python && !rest.is_empty() && !module.is_empty() {
            return self.follow(from, &below(module, name), rest, steps + 1);
        }
        None
    }

    /// Whether names lead from a module to a thing, from re-export to re-export.
    fn leads_on(&self, from: &str, module: &str, path: &[String], thing: &str, steps: usize) -> bool {
        let [name, rest @ ..] = path else { return false };
        if steps > MOST_STEPS {
            return false;
        }
        let Some(found) = self.modules.find(from, module) else {
            // A module of a package may be named like a member of it.
            let inner = || !rest.is_empty() && self.leads_on(from, &below(module, name), rest, thing, steps + 1);
            return format!("{module}.{}", path.join(".")) == thing || (self.language == Language::Python && inner());
        };
        if is_called(&found.path, path, thing) {
            return true;
        }
        match found.summary.get(name) {
            Some(Definition::Alias(next, names)) => {
                let whole: Vec<String> = names.iter().chain(rest).cloned().collect();
                self.leads_on(&found.path, next, &whole, thing, steps + 1)
            }
            Some(_) => false,
            // Where several stars could bring it, each with stars of its own, the ways would multiply.
            None => match found.summary.stars.as_slice() {
                [star] => self.leads_on(&found.path, star, path, thing, steps + 1),
                _ => false,
            },
        }
    }

    /// Whether the package around a module calls something else by the name of that, or has a module that may be put into it.
    fn is_more_than_its_file(&self, module: &str, name: &str) -> bool {
        let Some((package, own)) = module.rsplit_once('.') else { return false };
        if package.is_empty() || package.ends_with('.') {
            return false;
        }
        let is_hidden = self.modules.find(self.path, package).is_some_and(|around| match around.summary.get(own) {
            Some(Definition::Alias(from, names)) => !names.is_empty() && from != "." && from != package,
            Some(_) => true,
            None => false,
        });
        is_hidden || self.modules.find(self.path, &below(package, name)).is_some()
    }

    fn module_lacks(&self, module: &Module, name: &str, steps: usize) -> bool {
        let summary = &module.summary;
        let star_lacks = |star: &String| {
            self.modules.find(&module.path, star).is_some_and(|found| self.module_lacks(&found, name, steps + 1))
        };
        // What is called like a class and more is made by what decorates it.
        let is_made =
            name.rsplit_once('_').is_some_and(|(class, _)| matches!(summary.get(class), Some(Definition::Class(_))));
        steps <= MOST_STEPS
            && !summary.is_open
            && !is_made
            && summary.get(name).is_none()
            && summary.stars.iter().all(star_lacks)
    }

    /// What making an object of a class takes.
    fn constructor(&self, class: &Class, home: Home<'_>, steps: usize) -> Option<Signature> {
        if !class.is_plain || steps > MOST_STEPS {
            return None;
        }
        let mut from_base = None;
        for base in &class.bases {
            let taken = match base {
                Base::Unknown => return None,
                Base::ExternalPath(name, path) => {
                    let place = self.follow(home.path(self.path), name, path, steps + 1)?;
                    let Definition::Class(base) = &*place.definition else { return None };
                    self.constructor(base, place.home(), steps + 1)?
                }
                Base::Here(name) => self.constructor(home.class(name)?, home, steps + 1)?,
            };
            from_base.get_or_insert(taken);
        }
        // Of several bases the order in which they are asked decides.
        if class.constructor.is_none() && class.bases.len() > 1 {
            return None;
        }
        Some(class.constructor.clone().or(from_base).unwrap_or_default())
    }
}

/// Where a class is, and so where the names of its bases mean something.
#[derive(Clone, Copy)]
enum Home<'h> {
    /// In the file that asks: the classes of it that count.
    Here(&'h [(String, Class)]),
    /// In another one.
    Module(&'h Module),
}

impl<'h> Home<'h> {
    fn path(self, own: &'h str) -> &'h str {
        match self {
            Home::Here(_) => own,
            Home::Module(module) => &module.path,
        }
    }

    fn class(self, name: &str) -> Option<&'h Class> {
        match self {
            Home::Here(classes) => classes.iter().find(|(known, _)| known == name).map(|(_, class)| class),
            Home::Module(module) => match module.summary.own(name)? {
                Definition::Class(class) => Some(class),
                _ => None,
            },
        }
    }
}

impl Place {
    fn home(&self) -> Home<'_> {
        self.module.as_deref().map_or(Home::Here(&[]), Home::Module)
    }
}
