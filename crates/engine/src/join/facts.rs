//! What one file says of itself and asks of others: found in one visit, from its content alone.

use std::cell::RefCell;
use std::collections::BTreeSet;

use serde::{Deserialize, Serialize};
use sieve_meaning::folder_module::{FileDeclarations, ModuleQuestion};
use sieve_meaning::is_of_library;
use sieve_meaning::names::Names;
use sieve_meaning::opened::{Opened, OpeningQuestion, opened_by};
use sieve_meaning::project::{CallQuestion, Callee, Others, Summary, Target};
use sieve_meaning::signature::Given;
use sieve_rules::{Finding, Unless, UsualStyle};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use super::free_names::FreeNames;
use super::uses::Used;
use super::words::Words;

/// What a file says of itself and asks of others.
#[derive(Debug, Clone, Default, Serialize, Deserialize)]
pub(crate) struct Facts {
    /// What it exports, as bytes: few files are asked by others. Nothing where no rule asked for its names.
    pub(crate) summary: Option<Box<[u8]>>,
    /// Its calls that other files decide over, each form once.
    pub(crate) calls: Vec<CallFact>,
    /// Modules of which it asks whether loading them has effects.
    pub(crate) loads: Vec<String>,
    /// Names that it imports: the modules and the names.
    pub(crate) imports: Vec<(String, String)>,
    /// Names that lead into other modules, and the thing of which it asks whether they lead on to it.
    pub(crate) leads: Vec<Lead>,
    /// Names of its own of which it asks whether another file uses them: through the module, or, where that is empty, mentions them.
    pub(crate) exports: Vec<(String, String)>,
    /// What it uses through the names of modules; nothing where nobody asks that of its language.
    pub(crate) used: Option<Used>,
    /// Whether it asks if code outside of the project may want one of them.
    pub(crate) asks_outside: bool,
    /// Names that it uses and that nothing in it defines: it asks whether something provides them to all files.
    pub(crate) unbound: Vec<String>,
    /// Styles of its names of which it asks whether they are usual: the sorts and the styles, in words.
    pub(crate) styles: Vec<(String, String)>,
    /// What it refers to in other files, and asks whether it is there: the paths from the root, and pointers.
    pub(crate) references: Vec<(String, Option<String>)>,
    /// The file, from the root, that it names as that of its own schema.
    pub(crate) schema: Option<String>,
    /// What it asks of the modules that folders are.
    pub(crate) modules: Vec<ModuleQuestion>,
    /// What it declares in the namespaces that others open.
    pub(crate) opened: Option<Vec<Opened>>,
    /// The namespaces that it opens, where it asks whether it names anything of them.
    pub(crate) opening: Option<OpeningQuestion>,
    /// What it declares for the module that its folder is.
    pub(crate) declarations: Option<FileDeclarations>,
    /// What it says of names that are not its own. Nothing where no rule asked for its names.
    pub(crate) free_names: Option<FreeNames>,
    /// The words in it; nothing where nobody asks that of its language.
    pub(crate) words: Option<Words>,
    /// What the scripts in it ask, which are in other languages: the names of these, and the facts.
    islands: Vec<(String, Facts)>,
}

impl Facts {
    /// Whether the file asks nothing.
    pub(crate) fn asks_nothing(&self) -> bool {
        let calls_nothing = self.calls.is_empty() && self.loads.is_empty() && self.unbound.is_empty();
        calls_nothing
            && self.leads.is_empty()
            && self.imports.is_empty()
            && self.exports.is_empty()
            && self.styles.is_empty()
            && self.references.is_empty()
            && self.modules.is_empty()
            && self.schema.is_none()
            && self.opening.is_none()
            && self.islands.is_empty()
    }

    /// Notes what the scripts in a file ask.
    pub(crate) fn note_islands(&mut self, asked: Vec<(Language, Asked)>) {
        let questions =
            asked.into_iter().map(|(language, asked)| (language.name().to_string(), asked.into_questions()));
        self.islands = questions.filter(|(_, facts)| !facts.asks_nothing()).collect();
    }

    /// What the scripts in it ask, by their languages.
    pub(crate) fn islands(&self) -> impl Iterator<Item = (Language, &Facts)> {
        self.islands.iter().filter_map(|(name, facts)| Some((Language::named(name)?, facts)))
    }
}

/// A module, names that lead on from it, and what they may lead to.
pub(crate) type Lead = (String, Vec<String>, String);

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

/// What findings of a visit wait for.
#[derive(Debug, Default)]
pub(crate) struct Waiting {
    /// Names of the file's own that others may use: the modules and the names.
    pub(crate) exports: BTreeSet<(String, String)>,
    /// Whether code outside of the project may want one of them.
    pub(crate) asks_outside: bool,
    /// Names that nothing in the file defines.
    pub(crate) unbound: BTreeSet<String>,
    /// Styles of names that may be usual.
    pub(crate) styles: BTreeSet<UsualStyle>,
    /// What is referred to in other files: the paths from the root, and pointers.
    pub(crate) references: BTreeSet<(String, Option<String>)>,
    /// The file, from the root, that is named as that of its own schema.
    pub(crate) schema: Option<String>,
}

impl Waiting {
    /// Notes what the findings of a visit wait for.
    pub(crate) fn of(findings: &[Finding]) -> Waiting {
        let mut waiting = Waiting::default();
        for unless in findings.iter().filter_map(|finding| finding.unless.as_ref()) {
            match unless {
                Unless::Used(name) => {
                    waiting.asks_outside |= name.is_public;
                    waiting.exports.insert((name.module.clone(), name.name.clone()));
                }
                Unless::Provided(name) => drop(waiting.unbound.insert(name.clone())),
                Unless::Usual(usual) => drop(waiting.styles.insert(*usual)),
                Unless::Leads(there) => drop(waiting.references.insert((there.path.clone(), there.pointer.clone()))),
            }
        }
        waiting
    }
}

/// Nobody answers, and what is asked is noted.
#[derive(Debug)]
pub(crate) struct Asked {
    language: Language,
    calls: RefCell<BTreeSet<CallFact>>,
    loads: RefCell<BTreeSet<String>>,
    imports: RefCell<BTreeSet<(String, String)>>,
    leads: RefCell<BTreeSet<Lead>>,
    modules: RefCell<BTreeSet<ModuleQuestion>>,
    opening: RefCell<Option<OpeningQuestion>>,
}

impl Asked {
    pub(crate) fn of(language: Language) -> Asked {
        Asked {
            language,
            calls: RefCell::default(),
            loads: RefCell::default(),
            imports: RefCell::default(),
            leads: RefCell::default(),
            modules: RefCell::default(),
            opening: RefCell::default(),
        }
    }

    /// Adds what another share of the rules asked.
    pub(crate) fn add(&mut self, other: Asked) {
        self.calls.get_mut().append(&mut other.calls.into_inner());
        self.loads.get_mut().append(&mut other.loads.into_inner());
        self.imports.get_mut().append(&mut other.imports.into_inner());
        self.leads.get_mut().append(&mut other.leads.into_inner());
        self.modules.get_mut().append(&mut other.modules.into_inner());
        // One rule asks, once for a file.
        if let Some(opening) = other.opening.into_inner() {
            self.opening.replace(Some(opening));
        }
    }

    /// The names of which it was asked where they lead.
    pub(crate) fn into_leads(self) -> Vec<Lead> {
        self.leads.into_inner().into_iter().collect()
    }

    /// What was asked, and nothing else.
    fn into_questions(self) -> Facts {
        Facts {
            calls: self.calls.into_inner().into_iter().collect(),
            loads: self.loads.into_inner().into_iter().collect(),
            imports: self.imports.into_inner().into_iter().collect(),
            leads: self.leads.into_inner().into_iter().collect(),
            modules: self.modules.into_inner().into_iter().collect(),
            opening: self.opening.into_inner(),
            ..Facts::default()
        }
    }

    /// What was asked, together with what the file says of itself: of its names, and of the module that its folder is, where its path is
    /// given.
    pub(crate) fn into_facts(
        self,
        (path, text, tree): (Option<&str>, &Text, &Tree),
        names: Option<&Names<'_>>,
        waiting: Waiting,
    ) -> Facts {
        let summary = names.map(|names| Summary::of(self.language, text, tree, names));
        let packed = summary.and_then(|summary| postcard::to_stdvec(&summary).ok());
        let is_open = self.language.spec().exports_everything;
        let has_names = packed.is_some();
        let source = text.source().as_bytes();
        Facts {
            exports: waiting.exports.into_iter().collect(),
            asks_outside: waiting.asks_outside,
            unbound: waiting.unbound.into_iter().collect(),
            references: waiting.references.into_iter().collect(),
            schema: waiting.schema,
            styles: waiting.styles.iter().map(|one| (one.kind.into(), one.style.word().into())).collect(),
            free_names: names.map(|names| FreeNames::of(self.language, text, tree, names)),
            used: (has_names && is_open).then(|| Used::of(source)),
            words: has_names.then(|| Words::of(source, is_open)),
            summary: packed.map(Vec::into_boxed_slice),
            opened: names.and_then(|_| opened_by(self.language, text, tree)),
            declarations: path.and_then(|path| FileDeclarations::of(self.language, path, (text, tree), names)),
            ..self.into_questions()
        }
    }
}

impl Others for Asked {
    fn may_know(&self, module: &str) -> bool {
        !module.is_empty() && !is_of_library(self.language, module)
    }

    fn callee(&self, question: &CallQuestion<'_>) -> Option<Callee> {
        self.calls.borrow_mut().insert(CallFact::of(question));
        None
    }

    fn has_effects(&self, module: &str) -> bool {
        if self.may_know(module) {
            self.loads.borrow_mut().insert(module.to_string());
        }
        false
    }

    fn lacks(&self, module: &str, name: &str) -> bool {
        if self.may_know(module) {
            self.imports.borrow_mut().insert((module.to_string(), name.to_string()));
        }
        false
    }

    fn leads_to(&self, module: &str, path: &[&str], thing: &str) -> bool {
        let path = path.iter().map(|name| (*name).to_string()).collect();
        self.leads.borrow_mut().insert((module.to_string(), path, thing.to_string()));
        false
    }

    fn complaint(&self, question: &ModuleQuestion) -> Option<Vec<String>> {
        self.modules.borrow_mut().insert(question.clone());
        None
    }

    fn opened_in_vain(&self, question: &OpeningQuestion, _own: &[Opened]) -> Vec<String> {
        self.opening.replace(Some(question.clone()));
        Vec::new()
    }
}

#[cfg(test)]
mod tests {
    use std::sync::Arc;

    use sieve_meaning::folder_module::FolderModule;
    use sieve_meaning::names_of;
    use sieve_meaning::project::{Alone, Linker, Module, Modules};
    use sieve_rules::{Dispatch, Enabled, Input, catalogue, run_on};
    use sieve_syntax::text::Text;

    use super::*;

    /// One other file, whatever its name.
    #[derive(Debug)]
    struct Other(Arc<Module>);

    impl Modules for Other {
        fn find(&self, _from: &str, _module: &str) -> Option<Arc<Module>> {
            Some(Arc::clone(&self.0))
        }

        fn is_missing(&self, _from: &str, _module: &str) -> bool {
            false
        }

        fn folder(&self, _from: &str, _folder: &str) -> Option<Arc<FolderModule>> {
            None
        }

        fn opened_in_vain(&self, _question: &OpeningQuestion, _own: &[Opened]) -> Vec<String> {
            Vec::new()
        }
    }

    fn facts(source: &str) -> Facts {
        let language = Language::Python;
        let rules =
            ["argument-count", "missing-export", "unused-import"].iter().filter_map(|name| catalogue::named(name));
        let dispatch = Dispatch::new(
            rules.map(|rule| Enabled { rule, facts: catalogue::rule(rule), values: Vec::new() }).collect(),
        );
        let text = Text::new(source.to_string());
        let tree = language.parse(&text);
        let names = names_of(language, &text, &tree);
        let asked = Asked::of(language);
        let input = Input { path: "board.py", language, text: &text, tree: &tree, names: Some(&names), others: &asked };
        run_on(&input, &dispatch);
        asked.into_facts((Some("board.py"), &text, &tree), Some(&names), Waiting::default())
    }

    fn other(source: &str) -> Other {
        let summary = facts(source).summary.expect("a summary");
        Other(Arc::new(Module { path: "tides.py".into(), summary: postcard::from_bytes(&summary).expect("a summary") }))
    }

    #[test]
    fn each_form_of_a_call_is_asked_about_once_and_the_library_is_not() {
        let one = facts("import os\nfrom tides import low\nlow(1)\nlow(2)\nlow(day=3)\nos.getcwd(1)\nprint(1)\n");
        assert_eq!(one.calls.len(), 2, "{:?}", one.calls);
        assert_eq!(one.imports, [("tides".to_string(), "low".to_string())]);
        assert!(facts("def low(day):\n    return day\n\n\nlow()\n").asks_nothing(), "the file answers itself");
        assert_eq!(facts("import tides\n").loads, ["tides"]);
    }

    #[test]
    fn facts_are_the_same_after_they_were_kept() {
        let one =
            facts("from tides import low\n\n\nclass Quay(low):\n    pass\n\n\nQuay(*low, day=1)\nlow(1, **low)\n");
        let bytes = postcard::to_stdvec(&one).expect("bytes");
        let kept: Facts = postcard::from_bytes(&bytes).expect("facts");
        assert_eq!((kept.calls.len(), kept.calls, kept.imports), (2, one.calls, one.imports));
        assert_eq!(kept.summary, one.summary);
    }

    #[test]
    fn an_answer_matters_where_the_call_does_not_fit() {
        let asking = facts("from tides import low\nlow(1)\n");
        let answer = |source: &str| {
            let other = other(source);
            let linker = Linker { language: Language::Python, path: "board.py", modules: &other };
            let (callee, matters) = asking.calls[0].ask(&linker);
            (callee.is_some(), matters)
        };
        assert_eq!(answer("def low(day):\n    return day\n"), (true, false));
        assert_eq!(answer("def low(day, quay):\n    return day\n"), (true, true));
        assert_eq!(answer("async def low(day):\n    return day\n"), (true, true), "nothing awaits it");
        assert_eq!(answer("class low:\n    def __init__(self):\n        pass\n"), (true, true));
        assert_eq!(answer("low = 3\n"), (false, false));
        assert_eq!(answer("def high(day):\n    return day\n"), (false, false));
        let (callee, matters) = asking.calls[0].ask(&Alone);
        assert!(callee.is_none() && !matters, "nobody answers a file that is alone");
    }
}
