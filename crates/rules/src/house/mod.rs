//! House rules: what a team says in a query instead of in code. They are values, made from what a pack says, and are run in the same
//! visit of a file as all other rules.

mod data;
mod error;
mod run;
mod words;

use std::collections::BTreeMap;
use std::sync::Arc;

use sieve_syntax::language::Language;

use crate::interface::{Certainty, FixKind, Level, Mesh, OptionValue};
use crate::query::{Given, Query, QueryError, Repair, Template, lists_in};

use data::DataCheck;
pub use data::{CONSISTENT, DataDefinition, DocumentError, DocumentKind, Requirement};
pub use error::{HouseError, Part};
pub use run::EnabledHouse;
pub(crate) use run::Ready;

/// What a pack says of a rule.
#[derive(Debug, Clone)]
pub struct Definition {
    /// Its full name, with that of its pack.
    pub name: String,
    /// The languages it holds for.
    pub languages: Vec<Language>,
    /// The query: what it reports.
    pub find: String,
    /// Places of data and what must hold for them, in a rule that has no query.
    pub data: Option<DataDefinition>,
    /// What is wrong, with parts of what is found in it.
    pub message: String,
    /// What to do, likewise.
    pub advice: Option<String>,
    /// What it reports in one line, where the message does not say it well without an example.
    pub what: Option<String>,
    /// Why that matters.
    pub why: String,
    /// The level of its findings unless settings say otherwise.
    pub level: Level,
    /// The coarsest mesh that catches it.
    pub mesh: Mesh,
    /// How sure it is.
    pub certainty: Certainty,
    /// What it serves.
    pub standards: Vec<String>,
    /// How it is fixed: how safe that is, and what is done.
    pub fix: Option<(FixKind, String)>,
    /// Values that users may set.
    pub options: Vec<HouseOption>,
    /// Code that it reports, and code that it does not.
    pub examples: Vec<HouseExample>,
    /// The lists that its query asks for, by the names of their files.
    pub lists: BTreeMap<String, Vec<String>>,
}

impl Definition {
    /// A rule of a name that says no more than it has to, with everything else as it is where a pack does not say it.
    pub fn named(name: impl Into<String>, languages: Vec<Language>) -> Definition {
        Definition {
            name: name.into(),
            languages,
            find: String::new(),
            data: None,
            message: String::new(),
            advice: None,
            what: None,
            why: String::new(),
            level: Level::Warning,
            mesh: Mesh::Medium,
            certainty: Certainty::Proven,
            standards: Vec::new(),
            fix: None,
            options: Vec::new(),
            examples: Vec::new(),
            lists: BTreeMap::new(),
        }
    }

    /// All that decides over what it finds, and says of it. Examples and reasons do not.
    fn digest(&self) -> String {
        let Definition { languages, find, data, message, advice, fix, lists, .. } = self;
        format!("{languages:?} {find:?} {data:?} {message:?} {advice:?} {fix:?} {lists:?}")
    }
}

/// An option of a house rule, given to its query as `$name`.
#[derive(Debug, Clone, PartialEq)]
pub struct HouseOption {
    /// Its name in settings.
    pub name: String,
    /// Its value where nothing sets it; tells its sort too.
    pub default: OptionValue,
    /// What it does, in one line.
    pub about: String,
}

/// An example, which is a test.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct HouseExample {
    /// The code.
    pub code: String,
    /// Whether something is to be found in it.
    pub is_wrong: bool,
    /// The path of the file that it stands for.
    pub path: String,
    /// Whether the pack says the path.
    pub has_path: bool,
    /// The language it is in.
    pub language: Language,
    /// The places that are reported, as `line:column`; nothing in code that is right.
    pub at: Vec<String>,
    /// The code after its fix.
    pub fixed: Option<String>,
    /// The line of the pack that it is on, from 1.
    pub line: u32,
}

/// A rule of a pack, ready to be used.
#[derive(Debug)]
pub struct HouseRule {
    /// Its full name, `pack:rule`.
    pub name: String,
    /// The languages it holds for.
    pub languages: Vec<Language>,
    /// What it reports, in one line.
    pub what: String,
    /// Why that matters.
    pub why: String,
    /// The level of its findings unless settings say otherwise.
    pub level: Level,
    /// The coarsest mesh that catches it.
    pub mesh: Mesh,
    /// How sure it is.
    pub certainty: Certainty,
    /// What it serves.
    pub standards: Vec<String>,
    /// How it is fixed.
    pub fix: Option<HouseFix>,
    /// Values that users may set.
    pub options: Vec<HouseOption>,
    /// Code that it reports, and code that it does not.
    pub examples: Vec<HouseExample>,
    /// The query as it is written, or the places of data with what must hold for them.
    pub find: String,
    /// What tells it from a rule that finds or says something else.
    pub digest: String,
    query: Arc<Query>,
    data: Option<Arc<DataCheck>>,
    message: Template,
    advice: Option<Template>,
    lists: BTreeMap<String, Vec<String>>,
}

/// How a house rule is fixed.
#[derive(Debug)]
pub struct HouseFix {
    /// How safe that is.
    pub kind: FixKind,
    /// What is done, as it is written.
    pub written: String,
    repair: Repair,
}

impl HouseRule {
    /// Makes a rule of what a pack says.
    ///
    /// # Errors
    /// When its query, or a string that takes something from it, is wrong.
    pub fn new(definition: Definition) -> Result<HouseRule, HouseError> {
        if definition.data.is_some() {
            return HouseRule::about_data(definition);
        }
        let digest = definition.digest();
        let Definition { name, languages, find, message, advice, what, why, level, mesh, certainty, .. } = definition;
        let Definition { standards, fix, options, examples, lists, .. } = definition;
        let wrong = |part: Part| move |error: QueryError| HouseError { part, error };
        let given: Vec<(&str, &OptionValue)> = options.iter().map(|one| (one.name.as_str(), &one.default)).collect();
        let given = Given { options: &given, lists: Some(&lists) };
        let query = Query::with(&find, &languages, &given).map_err(wrong(Part::Find))?;
        let message_parts = query.template(&message, &languages).map_err(wrong(Part::Message))?;
        let advice = advice.map(|advice| query.template(&advice, &languages).map_err(wrong(Part::Advice)));
        let fix = fix.map(|(kind, written)| {
            let repair = query.repair(&written, &languages).map_err(wrong(Part::Fix))?;
            Ok(HouseFix { kind, written, repair })
        });
        Ok(HouseRule {
            what: what.unwrap_or(message),
            message: message_parts,
            advice: advice.transpose()?,
            fix: fix.transpose()?,
            query: Arc::new(query),
            data: None,
            name,
            languages,
            why,
            level,
            mesh,
            certainty,
            standards,
            options,
            examples,
            find,
            digest,
            lists,
        })
    }

    /// A rule about places of data. What it finds is no matter of its query, which any file matches.
    fn about_data(definition: Definition) -> Result<HouseRule, HouseError> {
        let said = definition.data.clone().unwrap_or_default();
        let check = DataCheck::new(&said, &definition.message, definition.advice.as_deref())?;
        let digest = definition.digest();
        let what = definition.what.clone().or(Some(definition.message.clone()));
        let plain = Definition {
            data: None,
            find: "file".to_string(),
            message: definition.name.clone(),
            advice: None,
            what,
            ..definition
        };
        let rule = HouseRule::new(plain)?;
        Ok(HouseRule { data: Some(check), find: said.written(), digest, ..rule })
    }

    /// Whether it is about places of data, and has no query.
    pub fn is_about_data(&self) -> bool {
        self.data.is_some()
    }

    /// Its checks, if it is about places of data.
    pub(crate) fn data(&self) -> Option<&DataCheck> {
        self.data.as_deref()
    }

    /// The name of its pack.
    pub fn pack(&self) -> &str {
        self.name.split_once(':').map_or("", |(pack, _)| pack)
    }

    /// Whether it could find anything in a language.
    pub fn is_for(&self, language: Language) -> bool {
        self.query.is_for(language)
    }

    /// The names of the files of lists that a query asks for.
    ///
    /// # Errors
    /// When it is not written as queries are.
    pub fn lists_in(find: &str) -> Result<Vec<String>, QueryError> {
        lists_in(find)
    }

    /// Its query where its options have some values, in their order.
    ///
    /// # Errors
    /// When a value is none that the query can take.
    pub fn query_with(&self, values: &[OptionValue]) -> Result<Arc<Query>, QueryError> {
        if self.data.is_some() || self.options.iter().map(|option| &option.default).eq(values) {
            return Ok(Arc::clone(&self.query));
        }
        let given: Vec<(&str, &OptionValue)> =
            self.options.iter().map(|option| option.name.as_str()).zip(values).collect();
        Query::with(&self.find, &self.languages, &Given { options: &given, lists: Some(&self.lists) }).map(Arc::new)
    }
}
