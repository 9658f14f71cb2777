//! What is known of the names of each language, in one table: nothing else here asks which language it looks at for them.

use sieve_syntax::language::Language;

#[cfg(not(feature = "without-csharp"))]
use crate::csharp;
use crate::names::Collector;
use crate::{go, java, javascript, python, python_library, rust, shell};

/// What is known of the names of a language.
pub(crate) struct LanguageMeaning {
    /// Walks a tree and reports its scopes, bindings and uses.
    pub(crate) collect: fn(&mut Collector<'_>),
    /// Whether the language gives a name.
    pub(crate) is_builtin: fn(&str) -> bool,
    /// Whether a name may be one that other files bring.
    pub(crate) may_be_brought: fn(&str) -> bool,
    /// Whether a module belongs to the library that comes with the language, by its name as imports write it.
    pub(crate) is_of_library: fn(&str) -> bool,
    /// The public names of a module of that library, sorted; nothing where they are not known.
    pub(crate) library_members: fn(&str) -> Option<&'static [&'static str]>,
    /// The objects whose members every file sees as plain names.
    pub(crate) holders: &'static [&'static str],
    /// Whether any file may give a module members that the files of the module do not declare: `tides.low = estimate`.
    pub(crate) opens_modules: bool,
    /// A method by which a library gives names to every file: a word that names the library, the method, and the names.
    pub(crate) installer: Option<(&'static str, &'static str, &'static [&'static str])>,
    /// Which cases of a choice run after one that fits.
    pub(crate) cases: Cases,
    /// What becomes of a variable that is read before it has a value.
    pub(crate) values: Values,
    /// Builtins of which a call never comes back.
    pub(crate) ending_builtins: &'static [&'static str],
    /// How doc comments name parameters.
    pub(crate) documented: DocForm,
    /// What a function gives whose result must be awaited, whether it says so by a word or not.
    pub(crate) tasks: &'static [&'static str],
    /// A file opens namespaces, whose types it knows by their names alone.
    pub(crate) opens_namespaces: bool,
}

/// How doc comments name parameters.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum DocForm {
    /// By fields (`:param name:`) and in sections of their own.
    FieldsAndSections,
    /// By tags: `@param name`.
    Tags,
    /// By elements: `<param name="name">`.
    Elements,
}

/// Which cases of a choice run after one that fits.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Cases {
    /// None. They are patterns, which are tried in their order.
    None,
    /// None, unless one says that it falls through. `break` leaves the choice.
    WhereSaid,
    /// All behind it, up to a `break`.
    All,
    /// All behind one with a colon, none behind one with an arrow.
    BehindColon,
}

/// What becomes of a variable that is read before it has a value.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Values {
    /// It has a value from the beginning, or nothing is known of it.
    Unchecked,
    /// An error, once the program comes by.
    AtRunTime,
    /// The compiler refuses it, whatever the author knows of the ways there.
    ByCompiler,
}

/// Nothing is known.
const NONE: LanguageMeaning = LanguageMeaning {
    collect: |_| {},
    is_builtin: |_| false,
    may_be_brought: |_| false,
    is_of_library: |_| false,
    library_members: |_| None,
    holders: &[],
    opens_modules: false,
    installer: None,
    cases: Cases::None,
    values: Values::Unchecked,
    ending_builtins: &[],
    documented: DocForm::Tags,
    tasks: &[],
    opens_namespaces: false,
};

static PYTHON: LanguageMeaning = LanguageMeaning {
    collect: python::collect,
    is_builtin: python::builtins::exists,
    is_of_library: |module| python_library::has(module.split('.').next().unwrap_or_default()),
    library_members: python_library::members,
    documented: DocForm::FieldsAndSections,
    values: Values::AtRunTime,
    holders: &["builtins", "__builtin__", "__builtins__", "builtins.__dict__", "__builtin__.__dict__"],
    opens_modules: true,
    installer: Some(("gettext", "install", &["_", "gettext", "ngettext", "pgettext", "npgettext"])),
    ..NONE
};

const JAVASCRIPT: LanguageMeaning = LanguageMeaning {
    collect: |collector| javascript::collect(collector, false),
    is_builtin: javascript::globals::is_value,
    may_be_brought: javascript::globals::may_be_brought,
    is_of_library: |module| module.starts_with("node:") || javascript::OF_NODE.contains(&module),
    holders: &["window", "global", "globalThis", "self", "top", "root"],
    cases: Cases::All,
    values: Values::AtRunTime,
    ..NONE
};

const TYPESCRIPT: LanguageMeaning = LanguageMeaning {
    collect: |collector| javascript::collect(collector, true),
    is_builtin: javascript::globals::is_value_or_type,
    ..JAVASCRIPT
};

/// Any name may be one of the environment.
static SHELL: LanguageMeaning = LanguageMeaning { collect: shell::collect, is_builtin: |_| true, ..NONE };

static GO: LanguageMeaning = LanguageMeaning {
    collect: go::collect,
    is_builtin: go::is_predeclared,
    is_of_library: go::is_of_library,
    cases: Cases::WhereSaid,
    ending_builtins: &["panic"],
    ..NONE
};

static JAVA: LanguageMeaning = LanguageMeaning {
    collect: java::collect,
    is_builtin: java::is_given,
    is_of_library: java::is_of_library,
    cases: Cases::BehindColon,
    values: Values::ByCompiler,
    ..NONE
};

#[cfg(feature = "without-csharp")]
static CSHARP: LanguageMeaning = NONE;

/// No case with statements runs into the next one.
#[cfg(not(feature = "without-csharp"))]
static CSHARP: LanguageMeaning = LanguageMeaning {
    collect: csharp::collect,
    is_builtin: csharp::is_given,
    is_of_library: csharp::is_of_library,
    cases: Cases::BehindColon,
    values: Values::ByCompiler,
    documented: DocForm::Elements,
    tasks: &["Task", "ValueTask"],
    opens_namespaces: true,
    ..NONE
};

static RUST: LanguageMeaning = LanguageMeaning { collect: rust::collect, is_builtin: rust::is_given, ..NONE };

/// What is known of a language.
pub(crate) fn meaning_of(language: Language) -> &'static LanguageMeaning {
    match language {
        Language::Python => &PYTHON,
        Language::JavaScript => &JAVASCRIPT,
        Language::TypeScript | Language::Tsx => &TYPESCRIPT,
        Language::Shell => &SHELL,
        Language::Json
        | Language::Jsonc
        | Language::Toml
        | Language::Yaml
        | Language::Css
        | Language::Html
        | Language::Hcl => &NONE,
        Language::CSharp => &CSHARP,
        Language::Rust => &RUST,
        Language::Java => &JAVA,
        Language::Go => &GO,
    }
}
