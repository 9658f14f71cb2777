//! What rules ask of a language, in one table: no rule asks which language it looks at.

use sieve_syntax::language::Language;

use super::formatting::{self, FormattingCall};
use super::pure::{self, PureMethods};
use super::resources::{self, Resources};

/// What holds for code in a language, beside what the table of `syntax` says.
#[derive(Debug)]
pub struct LanguageTraits {
    /// The indentation of statements says which belong together, and a block needs at least one.
    pub indents_blocks: bool,
    /// A statement that does nothing, where a block needs at least one.
    pub empty_statement: Option<&'static str>,
    /// Nearly all code keeps to one published style, which says how definitions, comments and imports are spaced (PEP 8).
    pub has_common_style: bool,
    /// Modules have dotted names, and files the names of modules; else strings name them.
    pub dotted_modules: bool,
    /// Which imports belong together.
    pub import_groups: ImportGroups,
    /// Strings may have letters before them, whatever their quotes, and three quotes around them.
    pub prefixed_strings: bool,
    /// A comma after the only element makes a sequence of it, and may follow whatever is the last parameter.
    pub comma_makes_sequence: bool,
    /// Callers may give arguments by the names of parameters.
    pub arguments_by_name: bool,
    /// Callers give those of a function without a name by their places alone.
    pub lambdas_by_place: bool,
    /// A handler says which exceptions it takes.
    pub typed_handlers: bool,
    /// An async function that nobody waits for never begins.
    pub lazy_async: bool,
    /// A list or a mapping without elements is false as a condition.
    pub empty_is_false: bool,
    /// A boolean may be absent, and is compared to ask whether it is there and holds.
    pub absent_booleans: bool,
    /// A comparison with a literal tells the checker of types what a variable holds.
    pub narrows_types: bool,
    /// Operators of logic are words: `not`, `and`, `in`.
    pub word_operators: bool,
    /// Statements are commands, which are made of words; variables are there once they are set.
    pub runs_commands: bool,
    /// Names may hold hyphens.
    pub hyphens_in_names: bool,
    /// Outside of functions a name of the language keeps its meaning until the file binds it.
    pub builtins_until_bound: bool,
    /// Methods of interfaces of its library: most types with a method of such a name mean to have the interface.
    pub known_methods: &'static [&'static str],
    /// Members that its runtime looks for by their names.
    pub special_members: &'static [&'static str],
    /// A line may end anywhere within brackets.
    pub breaks_in_brackets: bool,
    /// Whose members they are is known well enough to rename them.
    pub follows_members: bool,
    /// Calls that never come back, beside those that leave the program.
    pub leaving_calls: &'static [&'static str],
    /// Macros that are expressions like others: nothing in them leaves a loop or begins its next iteration.
    pub plain_macros: &'static [&'static str],
    /// Attributes of what something else than the code uses.
    pub keeping_attributes: &'static [&'static str],
    /// Nothing happens when a member is assigned to but that it holds the value.
    pub plain_members: bool,
    /// Methods of types of its library that only return results.
    pub pure_methods: &'static [PureMethods],
    /// Functions of its library that only return results, by the names of their modules and their own.
    pub pure_functions: &'static [(&'static str, &'static [&'static str])],
    /// What its library opens, and who closes that.
    pub resources: Resources,
    /// Declarations say of which type a variable is, and the compiler holds it to that.
    pub has_written_types: bool,
    /// A name that begins with a capital is exported to other packages.
    pub capitals_are_public: bool,
    /// A word before a declaration says that others see it.
    pub says_visibility: bool,
    /// What is before a declaration only says something of it, and never changes what it takes.
    pub decorators_only_say: bool,
    /// Conditions are of a type of their own: what does not fit there does not compile.
    pub typed_conditions: bool,
    /// Members of a class that say nothing of it are seen by the class alone.
    pub private_by_default: bool,
    /// Types may have functions that are written in other languages, which see all members.
    pub native_functions: bool,
    /// Functions of its library that give all members of a type.
    pub listing_functions: &'static [&'static str],
    /// Functions of its library that format values.
    pub formatting_calls: &'static [FormattingCall],
    /// Libraries that call private functions by their names.
    pub calling_libraries: &'static [&'static str],
    /// A handler may take errors of a type without giving them a name.
    pub nameless_handlers: bool,
    /// Errors that nearly all others are of.
    pub broad_errors: &'static [&'static str],
    /// Each handler says the type of the errors that it takes, and gives them a name, or takes all.
    pub types_errors: bool,
    /// What is around an empty block may be all that is meant: the `finally` of a `try` is never interrupted, what is used is made and closed.
    pub empty_block_may_act: bool,
    /// A name that begins with a capital may be a property, which acts when it is assigned to.
    pub capitals_may_act: bool,
    /// Namespaces say nothing of who sees what is in them.
    pub open_namespaces: bool,
    /// What its library has for strings that are put together piece by piece, where a string never changes and each piece copies it.
    pub string_builder: Option<&'static str>,
    /// What the language calls a type of what other types can do.
    pub interface_noun: &'static str,
    /// Elements are those of one page: their ids and labels are all in the file.
    pub is_page: bool,
    /// Which whole numbers its readers hold.
    pub whole_numbers: WholeNumbers,
    /// The option that says for which version code is written.
    pub version_option: Option<VersionOption>,
    /// A language whose settings hold where it has none of its own.
    pub kin: Option<Language>,
}

/// Which imports belong together, so that they can be in order.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ImportGroups {
    /// Those that come from the same sort of place: the library, packages, the project.
    ByOrigin,
    /// Those between blank lines, as their authors want them; among them those of the library come first where that is the custom.
    ByBlankLines {
        /// Whether it is.
        library_first: bool,
    },
}

/// The whole numbers that all readers of a language hold as they are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum WholeNumbers {
    /// Those that a double of 64 bits tells apart (IEEE 754).
    Doubles,
    /// All up to a largest one.
    UpTo(u64),
}

/// Options that name versions.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum VersionOption {
    /// The minor version of Python 3.
    Python,
    /// The year of an edition of ECMAScript.
    JavaScript,
}

const PYTHON: LanguageTraits = LanguageTraits {
    indents_blocks: true,
    empty_statement: Some("pass"),
    has_common_style: true,
    dotted_modules: true,
    import_groups: ImportGroups::ByOrigin,
    prefixed_strings: true,
    comma_makes_sequence: true,
    arguments_by_name: true,
    lambdas_by_place: false,
    typed_handlers: true,
    lazy_async: true,
    empty_is_false: true,
    absent_booleans: false,
    narrows_types: false,
    word_operators: true,
    runs_commands: false,
    hyphens_in_names: false,
    builtins_until_bound: true,
    known_methods: &[],
    special_members: &[],
    breaks_in_brackets: true,
    follows_members: true,
    leaving_calls: &[],
    plain_macros: &[],
    keeping_attributes: &[],
    plain_members: false,
    pure_methods: &[],
    pure_functions: &[],
    resources: resources::NONE,
    has_written_types: false,
    capitals_are_public: false,
    says_visibility: false,
    decorators_only_say: false,
    typed_conditions: false,
    private_by_default: false,
    native_functions: false,
    listing_functions: &[],
    formatting_calls: &[],
    calling_libraries: &[],
    nameless_handlers: false,
    broad_errors: &["Exception", "BaseException"],
    types_errors: false,
    empty_block_may_act: false,
    capitals_may_act: false,
    open_namespaces: false,
    string_builder: None,
    interface_noun: "interface",
    is_page: false,
    whole_numbers: WholeNumbers::Doubles,
    version_option: Some(VersionOption::Python),
    kin: None,
};

const JAVASCRIPT: LanguageTraits = LanguageTraits {
    indents_blocks: false,
    empty_statement: None,
    has_common_style: false,
    dotted_modules: false,
    import_groups: ImportGroups::ByOrigin,
    prefixed_strings: false,
    comma_makes_sequence: false,
    arguments_by_name: false,
    lambdas_by_place: false,
    typed_handlers: false,
    lazy_async: false,
    empty_is_false: false,
    absent_booleans: false,
    narrows_types: false,
    word_operators: false,
    runs_commands: false,
    hyphens_in_names: false,
    builtins_until_bound: false,
    known_methods: &[],
    special_members: &[],
    breaks_in_brackets: true,
    follows_members: true,
    leaving_calls: &[],
    plain_macros: &[],
    keeping_attributes: &[],
    plain_members: false,
    pure_methods: &[],
    pure_functions: &[],
    resources: resources::NONE,
    has_written_types: false,
    capitals_are_public: false,
    says_visibility: false,
    decorators_only_say: false,
    typed_conditions: false,
    private_by_default: false,
    native_functions: false,
    listing_functions: &[],
    formatting_calls: &[],
    calling_libraries: &[],
    nameless_handlers: false,
    broad_errors: &[],
    types_errors: false,
    empty_block_may_act: false,
    capitals_may_act: false,
    open_namespaces: false,
    string_builder: None,
    interface_noun: "interface",
    is_page: false,
    whole_numbers: WholeNumbers::Doubles,
    version_option: Some(VersionOption::JavaScript),
    kin: None,
};

/// What is compiled to older editions may say more.
const TYPESCRIPT: LanguageTraits = LanguageTraits { narrows_types: true, version_option: None, ..JAVASCRIPT };

/// Files with tags in them are written by the same people.
const TSX: LanguageTraits = LanguageTraits { kin: Some(Language::TypeScript), ..TYPESCRIPT };

const SHELL: LanguageTraits = LanguageTraits {
    runs_commands: true,
    empty_statement: Some(":"),
    hyphens_in_names: true,
    version_option: None,
    ..JAVASCRIPT
};

/// Values alone.
const JSON: LanguageTraits = LanguageTraits { version_option: None, ..JAVASCRIPT };

/// Files with comments in them are written by the same people.
const JSONC: LanguageTraits = LanguageTraits { kin: Some(Language::Json), ..JSON };

const TOML: LanguageTraits =
    LanguageTraits { hyphens_in_names: true, whole_numbers: WholeNumbers::UpTo(i64::MAX as u64), ..JSON };

const YAML: LanguageTraits =
    LanguageTraits { hyphens_in_names: true, whole_numbers: WholeNumbers::UpTo(u64::MAX), ..JSON };

const CSS: LanguageTraits = LanguageTraits { hyphens_in_names: true, ..JSON };

const HTML: LanguageTraits = LanguageTraits { is_page: true, ..CSS };

const HCL: LanguageTraits = LanguageTraits { hyphens_in_names: true, ..JSON };

const GO: LanguageTraits = LanguageTraits {
    formatting_calls: formatting::GO,
    typed_conditions: true,
    known_methods: &[
        "Close",
        "Error",
        "Format",
        "GoString",
        "Is",
        "Len",
        "Less",
        "MarshalJSON",
        "MarshalText",
        "Read",
        "ServeHTTP",
        "String",
        "Swap",
        "UnmarshalJSON",
        "UnmarshalText",
        "Unwrap",
        "Write",
    ],
    breaks_in_brackets: false,
    follows_members: false,
    leaving_calls: &["panic"],
    plain_members: true,
    pure_functions: pure::GO,
    resources: resources::GO,
    has_written_types: true,
    capitals_are_public: true,
    string_builder: Some("strings.Builder"),
    version_option: None,
    ..JAVASCRIPT
};

const RUST: LanguageTraits = LanguageTraits {
    formatting_calls: &[],
    known_methods: &[],
    leaving_calls: &[],
    plain_macros: sieve_meaning::RUST_MACROS_OF_VALUES,
    keeping_attributes: &["used", "link_section", "no_mangle", "export_name"],
    // What is behind a smart pointer may be told that it changes.
    plain_members: false,
    pure_methods: pure::RUST,
    // What opens something closes it at the end of its block.
    resources: resources::NONE,
    pure_functions: &[],
    capitals_are_public: false,
    says_visibility: true,
    decorators_only_say: true,
    broad_errors: &[],
    types_errors: false,
    empty_block_may_act: false,
    capitals_may_act: false,
    open_namespaces: false,
    string_builder: None,
    interface_noun: "trait",
    ..GO
};

const JAVA: LanguageTraits = LanguageTraits {
    formatting_calls: formatting::JAVA,
    import_groups: ImportGroups::ByBlankLines { library_first: false },
    // For serialization ("Java Object Serialization Specification", version 6.0).
    special_members: &[
        "readObject",
        "readObjectNoData",
        "readResolve",
        "serialPersistentFields",
        "serialVersionUID",
        "writeObject",
        "writeReplace",
    ],
    breaks_in_brackets: true,
    interface_noun: "interface",
    string_builder: Some("StringBuilder"),
    leaving_calls: &["System.exit"],
    plain_macros: &[],
    keeping_attributes: &[],
    plain_members: true,
    pure_methods: pure::JAVA,
    resources: resources::JAVA,
    native_functions: true,
    listing_functions: &["getDeclaredMethods", "getDeclaredFields"],
    broad_errors: &["Exception", "RuntimeException", "Throwable", "java.lang.Exception", "java.lang.Throwable"],
    types_errors: true,
    ..RUST
};

const CSHARP: LanguageTraits = LanguageTraits {
    formatting_calls: formatting::CSHARP,
    import_groups: ImportGroups::ByBlankLines { library_first: true },
    broad_errors: &["Exception", "System.Exception"],
    special_members: &["Main"],
    private_by_default: true,
    native_functions: false,
    listing_functions: &["GetMethods", "GetFields", "GetMembers", "GetProperties"],
    calling_libraries: &["UnityEngine", "UnityEditor"],
    nameless_handlers: true,
    arguments_by_name: true,
    lambdas_by_place: true,
    absent_booleans: true,
    empty_block_may_act: true,
    capitals_may_act: true,
    open_namespaces: true,
    leaving_calls: &["Environment.Exit"],
    plain_members: false,
    pure_methods: pure::CSHARP,
    resources: resources::CSHARP,
    ..JAVA
};

/// The traits of a language.
pub fn traits_of(language: Language) -> &'static LanguageTraits {
    match language {
        Language::Python => &PYTHON,
        Language::JavaScript => &JAVASCRIPT,
        Language::TypeScript => &TYPESCRIPT,
        Language::Tsx => &TSX,
        Language::Shell => &SHELL,
        Language::Json => &JSON,
        Language::Jsonc => &JSONC,
        Language::Toml => &TOML,
        Language::Yaml => &YAML,
        Language::Css => &CSS,
        Language::Html => &HTML,
        Language::Hcl => &HCL,
        Language::Go => &GO,
        Language::Rust => &RUST,
        Language::Java => &JAVA,
        Language::CSharp => &CSHARP,
    }
}
