//! What renaming asks of a language beside what rules ask, in one table.

use sieve_meaning::python_builtins;
use sieve_rules::traits_of;
use sieve_syntax::language::Language;

/// What decides over names in a language.
#[derive(Debug)]
pub(super) struct RenameTraits {
    /// The languages whose files use each other's names.
    pub(super) family: &'static [Language],
    /// Pages hold scripts in it.
    pub(super) is_in_pages: bool,
    /// A method is given its object as its first parameter.
    pub(super) object_is_parameter: bool,
    /// The members of an object are taken out of it by keys of their names.
    pub(super) members_are_keys: bool,
    /// A clause at the head of a file names the package of its types, and a file has the name of the type in it that all see.
    pub(super) names_package: bool,
    /// A file sees types of namespaces that it is in or opens by their names alone.
    pub(super) opens_namespaces: bool,
    /// Methods name their type by a receiver, and types have the methods of interfaces without saying so.
    pub(super) has_receivers: bool,
    /// Files see each other's items by paths that are not followed.
    pub(super) has_unfollowed_paths: bool,
    /// Words that have a meaning only in some places.
    pub(super) contextual: &'static [&'static str],
    /// Whether the language gives a name, or the name of a member, a meaning of its own.
    pub(super) has_meaning: fn(&str, bool) -> bool,
    /// Whether a base class of the language, by its name, has nothing to do with a member.
    pub(super) leaves_alone: fn(&str, &str) -> bool,
}

static PYTHON: RenameTraits = RenameTraits {
    family: &[Language::Python],
    is_in_pages: false,
    object_is_parameter: true,
    members_are_keys: false,
    names_package: false,
    opens_namespaces: false,
    has_receivers: false,
    has_unfollowed_paths: false,
    contextual: &[],
    has_meaning: |name, _| python_builtins::is_special(name),
    leaves_alone: |base, member| match base {
        "object" | "Generic" | "Protocol" | "ABC" => true,
        // Built-in exceptions (The Python Standard Library 3.14, "Built-in Exceptions").
        "Exception" | "ValueError" | "RuntimeError" | "TypeError" | "LookupError" => {
            !matches!(member, "args" | "with_traceback" | "add_note")
        }
        _ => false,
    },
};

static JAVASCRIPT: RenameTraits = RenameTraits {
    family: Language::OF_JAVASCRIPT,
    is_in_pages: true,
    object_is_parameter: false,
    members_are_keys: true,
    names_package: false,
    opens_namespaces: false,
    has_receivers: false,
    has_unfollowed_paths: false,
    contextual: &["let", "static", "yield", "await", "async", "of", "arguments", "eval"],
    has_meaning: |name, is_member| is_member && SPECIAL_MEMBERS.contains(&name),
    // Error objects (ECMAScript 2026, 20.5).
    leaves_alone: |base, member| {
        base == "Error" && !matches!(member, "name" | "message" | "stack" | "cause" | "toString")
    },
};

static GO: RenameTraits = RenameTraits { family: &[Language::Go], has_receivers: true, ..NOT_FOLLOWED };

/// Words that are no names of types ("Identifiers", The Java Language Specification).
static JAVA: RenameTraits = RenameTraits {
    family: &[Language::Java],
    names_package: true,
    contextual: &["permits", "record", "sealed", "var", "yield"],
    has_meaning: |name, is_member| {
        is_member && (SPECIAL_IN_JAVA.contains(&name) || traits_of(Language::Java).special_members.contains(&name))
    },
    leaves_alone: |base, member| match base {
        "Object" | "Record" | "Enum" | "Serializable" | "Cloneable" | "RandomAccess" => true,
        // Interfaces with one method (Java SE 21, API Specification).
        "AutoCloseable" | "Closeable" => member != "close",
        "Callable" => member != "call",
        "Comparable" => member != "compareTo",
        "Flushable" => member != "flush",
        "Runnable" => member != "run",
        "Supplier" => member != "get",
        "Iterable" => !matches!(member, "forEach" | "iterator" | "spliterator"),
        "Exception"
        | "RuntimeException"
        | "Error"
        | "Throwable"
        | "IllegalArgumentException"
        | "IllegalStateException"
        | "IOException" => {
            !member.starts_with("get")
                && !matches!(
                    member,
                    "addSuppressed" | "fillInStackTrace" | "initCause" | "printStackTrace" | "setStackTrace"
                )
        }
        _ => false,
    },
    ..NOT_FOLLOWED
};

/// Words that are reserved in some places ("Keywords", ECMA-334, and the language reference for version 13).
static CSHARP: RenameTraits = RenameTraits {
    family: &[Language::CSharp],
    opens_namespaces: true,
    contextual: &[
        "async",
        "await",
        "dynamic",
        "field",
        "file",
        "global",
        "nameof",
        "nint",
        "notnull",
        "nuint",
        "partial",
        "record",
        "required",
        "scoped",
        "unmanaged",
        "value",
        "var",
        "when",
        "where",
        "with",
        "yield",
    ],
    // "Application startup", ECMA-334.
    has_meaning: |name, is_member| name == "Main" || is_member && SPECIAL_IN_CSHARP.contains(&name),
    leaves_alone: |base, member| match base {
        "object" | "ValueType" | "Enum" | "Attribute" => true,
        // Interfaces with one or two members (.NET 9, API reference).
        "ICloneable" => member != "Clone",
        "IComparable" => member != "CompareTo",
        "IDisposable" => member != "Dispose",
        "IAsyncDisposable" => member != "DisposeAsync",
        "IEnumerable" => member != "GetEnumerator",
        "IEquatable" => member != "Equals",
        "IFormattable" => member != "ToString",
        // The types below an enumeration.
        "byte" | "sbyte" | "short" | "ushort" | "int" | "uint" | "long" | "ulong" => true,
        "Exception" | "ArgumentException" | "InvalidOperationException" => !matches!(
            member,
            "Data"
                | "GetBaseException"
                | "GetObjectData"
                | "HelpLink"
                | "HResult"
                | "InnerException"
                | "Message"
                | "ParamName"
                | "Source"
                | "StackTrace"
                | "TargetSite"
        ),
        _ => false,
    },
    ..NOT_FOLLOWED
};

static RUST: RenameTraits = RenameTraits {
    family: &[Language::Rust],
    has_unfollowed_paths: true,
    contextual: &["macro_rules", "raw", "safe", "union"],
    // "Main Functions", The Rust Reference.
    has_meaning: |name, _| name == "main",
    ..NOT_FOLLOWED
};

/// Names in scripts are not followed, and data has none.
const NOT_FOLLOWED: RenameTraits = RenameTraits {
    family: &[],
    is_in_pages: false,
    object_is_parameter: false,
    members_are_keys: false,
    names_package: false,
    opens_namespaces: false,
    has_receivers: false,
    has_unfollowed_paths: false,
    contextual: &[],
    has_meaning: |_, _| false,
    leaves_alone: |_, _| false,
};

/// The names of a page are those of its scripts.
static IN_PAGES: RenameTraits = RenameTraits { family: Language::OF_JAVASCRIPT, is_in_pages: true, ..NOT_FOLLOWED };

/// What infrastructure files declare is found by address.
static HCL: RenameTraits = RenameTraits { family: &[Language::Hcl], ..NOT_FOLLOWED };

/// The traits of a language.
pub(super) fn rename_traits_of(language: Language) -> &'static RenameTraits {
    match language {
        Language::Python => &PYTHON,
        Language::JavaScript | Language::TypeScript | Language::Tsx => &JAVASCRIPT,
        Language::Shell | Language::Json | Language::Jsonc | Language::Toml | Language::Yaml | Language::Css => {
            &NOT_FOLLOWED
        }
        Language::Html => &IN_PAGES,
        Language::Hcl => &HCL,
        Language::CSharp => &CSHARP,
        Language::Rust => &RUST,
        Language::Java => &JAVA,
        Language::Go => &GO,
    }
}

/// Members of all objects, of enumerations and records, and what a program begins with (Java SE 21, API Specification).
const SPECIAL_IN_JAVA: &[&str] = &[
    "clone",
    "compareTo",
    "describeConstable",
    "equals",
    "finalize",
    "getClass",
    "getDeclaringClass",
    "hashCode",
    "main",
    "name",
    "notify",
    "notifyAll",
    "ordinal",
    "toString",
    "valueOf",
    "values",
    "wait",
];

/// Members of all objects, and those that statements of the language look for by their names (C# language specification, version 8).
const SPECIAL_IN_CSHARP: &[&str] = &[
    "Add",
    "Current",
    "Deconstruct",
    "Dispose",
    "DisposeAsync",
    "Equals",
    "Finalize",
    "GetAsyncEnumerator",
    "GetAwaiter",
    "GetEnumerator",
    "GetHashCode",
    "GetPinnableReference",
    "GetResult",
    "GetType",
    "Invoke",
    "IsCompleted",
    "MemberwiseClone",
    "MoveNext",
    "MoveNextAsync",
    "OnCompleted",
    "ReferenceEquals",
    "Select",
    "SelectMany",
    "ToString",
    "Where",
];

/// Members that a language or its library looks for by their names.
const SPECIAL_MEMBERS: &[&str] = &[
    "constructor",
    "toString",
    "toLocaleString",
    "valueOf",
    "toJSON",
    "then",
    "next",
    "prototype",
    "__proto__",
    "default",
    "hasOwnProperty",
    "length",
    "name",
];
