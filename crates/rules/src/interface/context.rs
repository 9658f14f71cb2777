//! What a rule's function is given.

use std::borrow::Cow;
use std::cell::{OnceCell, RefCell};
use std::collections::BTreeMap;
use std::hash::{Hash, Hasher};
use std::ops::Deref;
use std::rc::Rc;
use std::sync::Arc;

use rustc_hash::{FxHashMap, FxHasher};
use sieve_meaning::configuration::Configuration;
use sieve_meaning::data::{Data, Outline, PartId};
use sieve_meaning::names::{Declaration, DeclarationKind, Names, Resolution};
use sieve_meaning::project::{Alone, Calls, Others};
use sieve_meaning::refers::{ExternalPath, outside};
use sieve_syntax::language::Language;
use sieve_syntax::text::{LineEnding, Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use super::finding::UsualStyle;
use super::memo::Memo;
use super::name_style::NameStyle;
use super::shell_values::ShellValues;
use super::styles::NAMED_KINDS;
use super::{
    Ban, BanKind, Edit, Enabled, Finding, Fix, FixKind, LanguageTraits, ListedValues, NameForm, Naming, OptionValue,
    Page, ReexportedName, Related, Report, Unless, Unsure, traits_of,
};

/// The parts of one document by their names, each part once, in the order of the file.
pub(crate) type Parts = FxHashMap<Arc<str>, Vec<PartId>>;

/// One file, understood as far as the enabled rules need: what is passed around is one pointer.
#[derive(Debug, Clone, Copy)]
pub struct File<'f>(&'f FileData<'f>);

impl<'f> Deref for File<'f> {
    type Target = FileData<'f>;

    #[inline]
    fn deref(&self) -> &FileData<'f> {
        self.0
    }
}

/// What is known of a file, and what several rules ask, computed when the first of them does.
#[derive(Debug)]
pub struct FileData<'f> {
    /// Its path, with `/`, relative to the working folder.
    pub path: &'f str,
    /// Its language.
    pub language: Language,
    /// What holds for code in the language.
    pub traits: &'static LanguageTraits,
    /// Its text.
    pub text: &'f Text,
    /// Its syntax tree.
    pub tree: &'f Tree,
    /// Its names, if an enabled rule needs them.
    pub names: Option<&'f Names<'f>>,
    /// Whether its name or a folder's says that it holds tests.
    pub is_test: bool,
    /// Whether its ending says that it describes what another file holds.
    only_describes: bool,
    /// Its calls, to be followed, if an enabled rule needs names.
    pub calls: Option<&'f Calls<'f, 'f>>,
    /// The files around it.
    pub(crate) others: &'f dyn Others,
    /// One step of its indentation, once it is known: fixes need it line by line.
    pub(crate) unit: OnceCell<String>,
    /// What the variables of a script hold, once somebody asks.
    pub(crate) shell_values: OnceCell<ShellValues>,
    /// What rules and helpers remember of it.
    memo: Memo,
    /// Whether something it imports may have another name in it, once that is known.
    renames_imports: OnceCell<bool>,
    /// Its values, where it holds data, once somebody asks.
    values: OnceCell<Arc<Outline>>,
    /// Its ids and labels, where it is a page, once somebody asks.
    page: OnceCell<Page>,
    /// What it declares and refers to, where its folder is a module, once somebody asks.
    configuration: OnceCell<Option<Configuration>>,
    /// The parts of its documents, by the document and the description of its kind, once somebody asks.
    parts: RefCell<FxHashMap<(usize, u128), Option<Rc<Parts>>>>,
}

impl<'f> FileData<'f> {
    /// A file of which no more than its tree is known.
    pub(crate) fn new(path: &'f str, language: Language, text: &'f Text, tree: &'f Tree) -> FileData<'f> {
        FileData {
            path,
            language,
            traits: traits_of(language),
            text,
            tree,
            names: None,
            calls: None,
            others: &Alone,
            is_test: names_tests(path),
            only_describes: [".d.ts", ".d.mts", ".d.cts", ".pyi"].iter().any(|ending| path.ends_with(ending)),
            unit: OnceCell::new(),
            shell_values: OnceCell::new(),
            memo: Memo::default(),
            renames_imports: OnceCell::new(),
            values: OnceCell::new(),
            page: OnceCell::new(),
            configuration: OnceCell::new(),
            parts: RefCell::default(),
        }
    }

    /// The same with its names, and its calls to be followed.
    pub(crate) fn with_names(self, names: Option<&'f Names<'f>>, calls: Option<&'f Calls<'f, 'f>>) -> FileData<'f> {
        FileData { names, calls, ..self }
    }

    /// The same among other files.
    pub(crate) fn among(self, others: &'f dyn Others) -> FileData<'f> {
        FileData { others, ..self }
    }
}

impl<'f> File<'f> {
    /// The handle that rules are given.
    pub(crate) fn of(data: &'f FileData<'f>) -> File<'f> {
        File(data)
    }

    /// What is known of it, for as long as the file is looked at.
    pub(crate) fn data(self) -> &'f FileData<'f> {
        self.0
    }

    /// What a rule or helper wants to know of the file once, by the type of the answer.
    pub(crate) fn once<T: 'static>(self, work: impl FnOnce() -> T) -> Rc<T> {
        self.0.memo.once(None, work)
    }

    /// What it wants to know once of a node that many others lie in.
    pub(crate) fn once_at<T: 'static>(self, node: NodeRef<'_>, work: impl FnOnce() -> T) -> Rc<T> {
        self.0.memo.once(Some(node.id()), work)
    }

    /// Its ids and labels, where it is a page.
    pub(crate) fn page(self, find: impl FnOnce() -> Page) -> &'f Page {
        self.0.page.get_or_init(find)
    }

    /// What it declares and refers to, where its folder is a module.
    pub(crate) fn configuration(self) -> Option<&'f Configuration> {
        let FileData { path, language, text, tree, .. } = *self.0;
        self.0.configuration.get_or_init(|| Configuration::of(language, path, text, tree)).as_ref()
    }

    /// Its values, where it holds data.
    pub fn values(&self) -> Option<Data<'f>> {
        let FileData { language, text, tree, .. } = *self.0;
        let outline = || Arc::clone(self.0.values.get_or_init(|| Arc::new(Outline::of(language, text, tree))));
        language.is_data().then(|| Data::with(outline(), language, text, tree))
    }

    /// The parts of one of its documents, as a description of its kind names them, which a digest tells from others; nothing where
    /// there are too many.
    pub(crate) fn parts(self, document: usize, kind: u128, find: impl FnOnce() -> Option<Parts>) -> Option<Rc<Parts>> {
        let mut known = self.0.parts.borrow_mut();
        known.entry((document, kind)).or_insert_with(|| find().map(Rc::new)).clone()
    }

    /// The name of the file without its folders.
    #[inline]
    pub fn name(&self) -> &'f str {
        self.path.rsplit('/').next().unwrap_or(self.path)
    }

    /// Whether its name or a folder's says that it holds tests.
    #[inline]
    pub fn is_test(&self) -> bool {
        self.is_test
    }

    /// Whether it only describes what another file or a library holds: names and shapes in it were chosen there.
    pub fn only_describes(&self) -> bool {
        self.only_describes
    }

    /// Whether others have a say in the members of a class: it has bases, or promises to look like something.
    pub fn has_bases(&self, class: NodeRef<'_>) -> bool {
        class.child(Role::Arguments).is_some_and(|bases| {
            let free = |base: NodeRef<'_>| {
                matches!(self.node_text(base), "object" | "ABC" | "abc.ABC") || base.kind() == Kind::KeywordArgument
            };
            bases.kind() == Kind::Heritage || !bases.children().all(free)
        })
    }

    /// What ends its lines, to be put at the end of a new one.
    pub fn line_end(&self) -> &'static str {
        if self.language.spec().return_is_text {
            return LineEnding::Lf.as_str();
        }
        self.text.lines().ending(self.text.source()).as_str()
    }

    /// Whether it holds carriage returns that its language reads as part of the text, not of a line end.
    pub fn has_returns_as_text(&self) -> bool {
        self.language.spec().return_is_text && self.text.source().contains('\r')
    }

    /// Its name as a module: without folders and ending, a package's file having its folder's name.
    pub fn module_name(&self) -> &'f str {
        let stem = self.name().split('.').next().unwrap_or_default();
        let folder = self.path.rsplit('/').nth(1);
        if stem == "__init__" { folder.unwrap_or(stem) } else { stem }
    }

    /// A module as imports name it: by a string, or by its dotted name.
    pub(crate) fn named_by(&self, module: NodeRef<'_>) -> Option<String> {
        let written = self.node_text(module);
        if module.kind() == Kind::String { self.language.string_value(written) } else { Some(written.to_string()) }
    }

    /// What an expression refers to outside of the file, if that is known.
    pub fn outside(&self, node: NodeRef<'f>) -> Option<ExternalPath<'f>> {
        outside(self.language, self.text, self.names?, node)
    }

    /// The same as one text, its names joined by dots.
    pub fn refers(&self, node: NodeRef<'f>) -> Option<Rc<str>> {
        self.calls?.refers(node)
    }

    /// Whether an expression refers to a thing through modules of the project that hand it on.
    pub(crate) fn leads_to(&self, node: NodeRef<'f>, thing: &str) -> bool {
        self.calls.is_some_and(|calls| calls.leads_to(node, thing))
    }

    /// Which of some things outside of the file an expression refers to.
    pub fn refers_to(&self, node: NodeRef<'f>, things: &[&str]) -> Option<Rc<str>> {
        if !self.may_refer(node, things) {
            return None;
        }
        self.refers(node).filter(|name| things.contains(&&**name))
    }

    /// Whether an expression is called as one of some things are: most members and names are not, which is seen at once.
    pub(crate) fn may_refer(&self, node: NodeRef<'f>, things: &[&str]) -> bool {
        let last = match node.kind() {
            Kind::Member => node.child(Role::Name).map(|name| self.node_text(name)),
            Kind::Name if !self.renames_imports() => Some(self.node_text(node)),
            _ => None,
        };
        last.is_none_or(|last| things.iter().any(|thing| ends_with_name(thing, last)))
    }

    /// Whether a name may be one that an import, or what takes one apart, gave to something that is called otherwise.
    pub(crate) fn may_be_renamed(&self, name: NodeRef<'_>) -> bool {
        if !self.renames_imports() {
            return false;
        }
        let Some(names) = self.names else { return true };
        let gives = |one: &Declaration| matches!(one.kind, DeclarationKind::Import | DeclarationKind::Unpacking);
        match names.resolution_at(name.id()) {
            Some(Resolution::Binding(id)) => names.binding(id).declarations.iter().any(gives),
            _ => false,
        }
    }

    /// Whether something from elsewhere may have a name of the file's own choice.
    pub(crate) fn renames_imports(&self) -> bool {
        let compute = || {
            let Some(names) = self.names else { return true };
            let may_rename = |one: &Declaration| match one.kind {
                DeclarationKind::Import => {
                    !self.traits.dotted_modules || self.tree.node(one.node).child(Role::Alias).is_some()
                }
                // `const { now: tide } = require("clock")`
                DeclarationKind::Unpacking => !self.traits.dotted_modules,
                _ => false,
            };
            names.bindings().any(|binding| binding.declarations.iter().any(may_rename))
        };
        *self.renames_imports.get_or_init(compute)
    }

    /// The text of a node.
    #[inline]
    pub fn node_text(&self, node: NodeRef<'_>) -> &'f str {
        self.text.slice(node.span())
    }
}

/// A file, the rule's options, and a place for what it says.
pub struct Context<'c> {
    file: File<'c>,
    enabled: &'c Enabled,
    policy: &'c TeamPolicy,
    report: &'c mut Report,
}

/// What a team chose, beside the options of rules.
#[derive(Debug, Default)]
pub struct TeamPolicy {
    /// What is not to be used.
    pub bans: Vec<Ban>,
    /// What names look like.
    pub naming: Naming,
    /// The elements that components put out, by the names of the components.
    pub components: BTreeMap<String, String>,
    /// Which values something may have.
    pub values: Vec<ListedValues>,
}

impl<'c> Context<'c> {
    #[inline]
    pub(crate) fn new(
        file: File<'c>,
        enabled: &'c Enabled,
        policy: &'c TeamPolicy,
        report: &'c mut Report,
    ) -> Context<'c> {
        Context { file, enabled, policy, report }
    }

    /// The file.
    #[inline]
    pub fn file(&self) -> File<'c> {
        self.file
    }

    /// The file's names. Only rules that say they need names may ask.
    #[inline]
    pub fn names(&self) -> &'c Names<'c> {
        self.file.names.expect("a rule that asks for names says so in its facts")
    }

    /// The text of a node.
    #[inline]
    pub fn text(&self, node: NodeRef<'_>) -> &'c str {
        self.file.node_text(node)
    }

    /// The line, from 1, of a byte offset.
    #[inline]
    pub fn line(&self, offset: u32) -> u32 {
        self.file.text.lines().line_of(offset)
    }

    /// The value of an option of the rule.
    fn option(&self, name: &str) -> Option<&'c OptionValue> {
        // Nearly always both are the same literal.
        let is_it = |known: &str| std::ptr::eq(known, name) || known == name;
        let index = self.enabled.facts.options.iter().position(|option| is_it(option.name))?;
        self.enabled.values.get(index)
    }

    /// The value of an option that is a count.
    pub fn count(&self, name: &str) -> u32 {
        match self.option(name) {
            Some(OptionValue::Count(count)) => *count,
            _ => 0,
        }
    }

    /// The value of an option that is a list of numbers.
    pub fn numbers(&self, name: &str) -> &'c [f64] {
        match self.option(name) {
            Some(OptionValue::Numbers(numbers)) => numbers,
            _ => &[],
        }
    }

    /// The value of an option that is a list of words.
    pub fn words(&self, name: &str) -> &'c [String] {
        match self.option(name) {
            Some(OptionValue::Words(words)) => words,
            _ => &[],
        }
    }

    /// The value of an option that is one word.
    pub fn word(&self, name: &str) -> &'c str {
        match self.option(name) {
            Some(OptionValue::Word(word)) => word,
            _ => "",
        }
    }

    /// What the team does not want used in some way.
    pub fn bans(&self, kind: BanKind) -> impl Iterator<Item = &'c Ban> + use<'c> {
        self.policy.bans.iter().filter(move |ban| ban.kind == kind)
    }

    /// Which values something may have, where settings say so.
    pub fn listed_values(&self) -> &'c [ListedValues] {
        &self.policy.values
    }

    /// The element that a component puts out, where settings say so.
    pub fn element_of(&self, component: &str) -> Option<&'c str> {
        self.policy.components.get(component).map(String::as_str)
    }

    /// What names of a sort look like in the file's language.
    pub fn name_form(&self, kind: &str) -> &'c NameForm {
        self.policy.naming.form(self.file.language, kind)
    }

    /// The style of a name of a sort, if it has one alone and settings say nothing of the sort: the code base may be used to it.
    pub fn usual_style(&self, kind: &str, name: &str) -> Option<UsualStyle> {
        let kind = NAMED_KINDS.iter().copied().find(|known| *known == kind)?;
        let is_free = self.policy.naming.chosen(self.file.language, kind).is_none();
        is_free.then(|| NameStyle::only_one_of(name)).flatten().map(|style| UsualStyle { kind, style })
    }

    /// Whether an option that is yes or no is set.
    pub fn flag(&self, name: &str) -> bool {
        matches!(self.option(name), Some(OptionValue::Flag(true)))
    }

    /// Reports a violation at a place.
    pub fn report(&mut self, span: Span, message: impl Into<String>) -> Reported<'_> {
        self.report.findings.push(Finding {
            rule: self.enabled.rule,
            span,
            message: message.into(),
            advice: None,
            related: Vec::new(),
            fix: None,
            anchor: None,
            unless: None,
        });
        let index = self.report.findings.len() - 1;
        Reported { finding: &mut self.report.findings[index] }
    }

    /// Counts a place as undecided.
    pub fn unsure(&mut self, span: Span, reason: &'static str) {
        self.report.unsure.push(Unsure { rule: self.enabled.rule, span, reason });
    }
}

/// A finding that was just reported, to say more of it.
pub struct Reported<'r> {
    finding: &'r mut Finding,
}

impl Reported<'_> {
    /// What to do about it.
    pub fn advice(self, advice: impl Into<Cow<'static, str>>) -> Self {
        self.finding.advice = Some(advice.into());
        self
    }

    /// Another place of the file that explains it.
    pub fn related(self, span: Span, label: impl Into<String>) -> Self {
        self.finding.related.push(Related::Here { span, label: label.into() });
        self
    }

    /// A line of another file that explains it, or of this one.
    pub fn related_line(self, place: Related) -> Self {
        self.finding.related.push(place);
        self
    }

    /// An exact fix.
    pub fn fix(self, edits: Vec<Edit>) -> Self {
        self.finding.fix = Some(Fix { kind: FixKind::Exact, edits });
        self
    }

    /// A fix to be checked first; none if there are no edits.
    pub fn fix_to_review(self, edits: Option<Vec<Edit>>) -> Self {
        self.finding.fix = edits.map(|edits| Fix { kind: FixKind::Review, edits });
        self
    }

    /// The finding holds only if no other file uses a name through this one.
    pub fn unless_used(self, reexported: Option<ReexportedName>) -> Self {
        self.finding.unless = reexported.map(Unless::Used);
        self
    }

    /// The finding holds only if nothing provides a name to all files.
    pub fn unless_provided(self, name: &str) -> Self {
        self.finding.unless = Some(Unless::Provided(name.to_string()));
        self
    }

    /// The finding holds only if no other file gives a member of this name to a module.
    pub fn unless_given(self, member: Option<&str>) -> Self {
        match member {
            Some(member) => self.unless_provided(&format!(".{member}")),
            None => self,
        }
    }

    /// The finding holds only if a style is not that of nearly all names of a sort.
    pub fn unless_usual(self, usual: Option<UsualStyle>) -> Self {
        if let Some(usual) = usual {
            self.finding.unless = Some(Unless::Usual(usual));
        }
        self
    }

    /// The stretch whose tokens make this the same finding in another version of the file.
    pub fn anchor(self, anchor: Span) -> Self {
        self.finding.anchor = Some(anchor);
        self
    }
}

/// Whether a name is the last of several that are joined by dots.
fn ends_with_name(dotted: &str, name: &str) -> bool {
    dotted.as_bytes().last() == name.as_bytes().last()
        && dotted.strip_suffix(name).is_some_and(|before| before.is_empty() || before.ends_with('.'))
}

/// The hash of a word, as sets of words hold them.
pub(crate) fn word_hash(word: &str) -> u64 {
    let mut hasher = FxHasher::default();
    word.hash(&mut hasher);
    hasher.finish()
}

/// Whether a file's name or a folder's says that it holds tests.
pub(crate) fn names_tests(path: &str) -> bool {
    let (folders, name) = path.rsplit_once('/').unwrap_or(("", path));
    // Projects beside the one they test may have its name, with a word behind a dot: `Ferries.Tests`.
    let is_test = |folder: &str| {
        let word = folder.rsplit('.').next().unwrap_or(folder);
        matches!(folder, "__tests__" | "spec") || ["test", "tests"].iter().any(|own| word.eq_ignore_ascii_case(own))
    };
    folders.split('/').any(is_test)
        || name.starts_with("test")
        || [".test.", ".spec.", "_test.", "_tests.", "Test.java", "Tests.java", "Test.cs", "Tests.cs"]
            .iter()
            .any(|mark| name.contains(mark))
}
