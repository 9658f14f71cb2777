//! What one file says of itself and asks of others: found in one visit, from its content alone.

use std::cell::RefCell;
use std::collections::BTreeSet;

use serde::{Deserialize, Serialize};
use sieve_meaning::project::{CallQuestion, Callee, Others, Summary, Target};
use sieve_meaning::python_library;
use sieve_meaning::signature::Given;
use sieve_syntax::language::Language;

/// What a file says of itself and asks of others.
#[derive(Debug, Default, Serialize, Deserialize)]
pub(crate) struct Facts {
    /// What it exports, as bytes: few files are asked by others. Nothing where no rule asked for its names.
    pub(crate) summary: Option<Box<[u8]>>,
    /// Its calls that other files decide over, each form once.
    pub(crate) calls: Vec<CallFact>,
    /// Modules of which it asks whether loading them has effects.
    pub(crate) loads: Vec<String>,
    /// Names that it imports: the modules and the names.
    pub(crate) imports: Vec<(String, String)>,
}

impl Facts {
    /// Whether the file asks nothing.
    pub(crate) fn asks_nothing(&self) -> bool {
        self.calls.is_empty() && self.loads.is_empty() && self.imports.is_empty()
    }
}

/// A call that other files decide over.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub(crate) struct CallFact {
    target: Target,
    is_new: bool,
    stands_alone: bool,
    positions: usize,
    names: Vec<String>,
    spreads_positions: bool,
    spreads_names: bool,
}

impl CallFact {
    fn of(question: &CallQuestion<'_>) -> CallFact {
        let given = question.given;
        CallFact {
            target: question.target.clone(),
            is_new: question.is_new,
            stands_alone: question.stands_alone,
            positions: given.positions,
            names: given.names.iter().map(|name| (*name).to_string()).collect(),
            spreads_positions: given.spreads_positions,
            spreads_names: given.spreads_names,
        }
    }

    /// What the call runs by what others say, and whether that matters to a rule.
    pub(crate) fn ask(&self, others: &dyn Others) -> (Option<Callee>, bool) {
        let given = Given {
            positions: self.positions,
            names: self.names.iter().map(String::as_str).collect(),
            spreads_positions: self.spreads_positions,
            spreads_names: self.spreads_names,
        };
        let question =
            CallQuestion { target: &self.target, is_new: self.is_new, given: &given, stands_alone: self.stands_alone };
        let callee = others.callee(&question);
        let matters = callee.as_ref().is_some_and(|callee| question.minds(callee));
        (callee, matters)
    }
}

/// Nobody answers, and what is asked is noted.
#[derive(Debug)]
pub(crate) struct Asked {
    language: Language,
    calls: RefCell<BTreeSet<CallFact>>,
    loads: RefCell<BTreeSet<String>>,
    imports: RefCell<BTreeSet<(String, String)>>,
}

impl Asked {
    pub(crate) fn of(language: Language) -> Asked {
        Asked { language, calls: RefCell::default(), loads: RefCell::default(), imports: RefCell::default() }
    }

    /// Whether a module may be one of the project.
    fn may_be_known(&self, module: &str) -> bool {
        let first = module.split('.').next().unwrap_or_default();
        !module.is_empty() && (self.language != Language::Python || !python_library::has(first))
    }

    /// What was asked, together with what the file exports.
    pub(crate) fn into_facts(self, summary: Option<Summary>) -> Facts {
        let packed = summary.and_then(|summary| postcard::to_stdvec(&summary).ok());
        Facts {
            summary: packed.map(Vec::into_boxed_slice),
            calls: self.calls.into_inner().into_iter().collect(),
            loads: self.loads.into_inner().into_iter().collect(),
            imports: self.imports.into_inner().into_iter().collect(),
        }
    }
}

impl Others for Asked {
    fn callee(&self, question: &CallQuestion<'_>) -> Option<Callee> {
        let may_be_known = match question.target {
            Target::Import { module, .. } => self.may_be_known(module),
            Target::Class(..) => true,
        };
        if may_be_known {
            self.calls.borrow_mut().insert(CallFact::of(question));
        }
        None
    }

    fn has_effects(&self, module: &str) -> bool {
        if self.may_be_known(module) {
            self.loads.borrow_mut().insert(module.to_string());
        }
        false
    }

    fn lacks(&self, module: &str, name: &str) -> bool {
        if self.may_be_known(module) {
            self.imports.borrow_mut().insert((module.to_string(), name.to_string()));
        }
        false
    }
}
