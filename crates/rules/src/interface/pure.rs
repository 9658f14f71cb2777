//! Methods and functions of libraries that do nothing but return a result, by language.

/// Methods of values of some types, which change nothing.
#[derive(Debug, Clone, Copy)]
pub struct PureMethods {
    /// The types as declarations write them.
    pub types: &'static [&'static str],
    /// The methods: those that make another value of it. What may be called to see whether it throws is left out.
    pub methods: &'static [&'static str],
    /// How others of them begin.
    pub beginnings: &'static [&'static str],
}

/// `java.lang.String`, whose objects never change.
pub(super) const JAVA: &[PureMethods] = &[PureMethods {
    types: &["String", "java.lang.String"],
    methods: &[
        "concat",
        "indent",
        "repeat",
        "replace",
        "replaceAll",
        "replaceFirst",
        "split",
        "strip",
        "stripIndent",
        "stripLeading",
        "stripTrailing",
        "toLowerCase",
        "toUpperCase",
        "translateEscapes",
        "trim",
    ],
    beginnings: &[],
}];

/// `System.String`, whose objects never change.
pub(super) const CSHARP: &[PureMethods] = &[PureMethods {
    types: &["string", "String", "System.String", "string?"],
    methods: &[
        "Insert",
        "PadLeft",
        "PadRight",
        "Remove",
        "Replace",
        "Split",
        "ToLower",
        "ToLowerInvariant",
        "ToUpper",
        "ToUpperInvariant",
        "Trim",
        "TrimEnd",
        "TrimStart",
    ],
    beginnings: &[],
}];

/// Strings and integers of the standard library of Rust.
pub(super) const RUST: &[PureMethods] = &[
    PureMethods {
        types: &["&str", "String", "&String", "&'static str"],
        methods: &["repeat", "replace", "replacen", "trim", "trim_end", "trim_start"],
        beginnings: &["strip_", "to_", "trim_"],
    },
    PureMethods {
        types: &["i8", "i16", "i32", "i64", "i128", "isize", "u8", "u16", "u32", "u64", "u128", "usize"],
        methods: &["abs", "abs_diff", "pow", "rem_euclid"],
        beginnings: &["checked_", "overflowing_", "rotate_", "saturating_", "swap_", "to_", "wrapping_"],
    },
];

/// Packages of the library of Go.
pub(super) const GO: &[(&str, &[&str])] = &[(
    "strings",
    &[
        "Fields",
        "Join",
        "Repeat",
        "Replace",
        "ReplaceAll",
        "Split",
        "SplitN",
        "Title",
        "ToLower",
        "ToTitle",
        "ToUpper",
        "Trim",
        "TrimLeft",
        "TrimPrefix",
        "TrimRight",
        "TrimSpace",
        "TrimSuffix",
    ],
)];
