//! What is known of each language, one entry a language.

use super::layer;
use super::{Language, LanguageSpec, Sort};
#[cfg(not(feature = "without-csharp"))]
use crate::csharp;
use crate::text::Text;
use crate::tree::{Grammar, Kind};
use crate::{css, go, hcl, html, java, javascript, json, python, rust, shell, toml, yaml};

pub(super) static PYTHON: LanguageSpec = LanguageSpec {
    name: "python",
    title: "Python",
    extensions: &["py", "pyi", "pyw"],
    file_names: &[],
    sort: Sort::Programs,
    interpreters: &["python", "pypy"],
    foreign_interpreters: &[],
    foreign_lines: &[],
    line_comment: "#",
    markup_comment: None,
    return_is_text: false,
    lines_matter: true,
    doc_comment: None,
    exports_everything: true,
    hoisted: &[],
    grammars: &[Grammar::Python],
    parse: python::parse,
    parse_expression: python::parse_expression,
    declared_encoding: python::declared_encoding,
    number_value: python::number_value,
    string_value: python::string_value,
    holds: &[],
    layers: |_, _| Vec::new(),
};

/// Functions are made before their block runs; what only types have never runs.
const JAVASCRIPT_HOISTED: &[Kind] = &[Kind::Function, Kind::Interface, Kind::TypeAlias, Kind::Pass];

pub(super) const JAVASCRIPT: LanguageSpec = LanguageSpec {
    name: "javascript",
    title: "JavaScript",
    extensions: &["js", "mjs", "cjs", "jsx"],
    file_names: &[],
    sort: Sort::Programs,
    interpreters: &["node", "nodejs"],
    foreign_interpreters: &[],
    foreign_lines: &["import type {", "export type "],
    line_comment: "//",
    markup_comment: Some(("{/*", " */}")),
    return_is_text: false,
    lines_matter: false,
    doc_comment: Some("/**"),
    exports_everything: false,
    hoisted: JAVASCRIPT_HOISTED,
    grammars: &[Grammar::Script, Grammar::Tags],
    parse: javascript::parse,
    parse_expression: javascript::parse_expression,
    declared_encoding: always_unicode,
    number_value: javascript::number_value,
    string_value: javascript::string_value,
    holds: &[],
    layers: |_, _| Vec::new(),
};

pub(super) const TYPESCRIPT: LanguageSpec = LanguageSpec {
    foreign_lines: &[],
    name: "typescript",
    title: "TypeScript",
    extensions: &["ts", "mts", "cts"],
    interpreters: &[],
    markup_comment: None,
    grammars: &[Grammar::Script, Grammar::Types],
    parse: javascript::parse_typescript,
    parse_expression: javascript::parse_typescript_expression,
    ..JAVASCRIPT
};

pub(super) const TSX: LanguageSpec = LanguageSpec {
    name: "tsx",
    title: "TypeScript with tags",
    extensions: &["tsx"],
    markup_comment: JAVASCRIPT.markup_comment,
    grammars: &[Grammar::Script, Grammar::Types, Grammar::Tags],
    parse: javascript::parse_tsx,
    ..TYPESCRIPT
};

pub(super) static SHELL: LanguageSpec = LanguageSpec {
    name: "shell",
    title: "Shell",
    extensions: &["sh", "bash"],
    file_names: &[],
    sort: Sort::Programs,
    interpreters: &["sh", "bash", "dash", "ash"],
    foreign_interpreters: &[
        "zsh", "ksh", "mksh", "yash", "csh", "tcsh", "fish", "perl", "python", "ruby", "awk", "expect", "php",
    ],
    foreign_lines: &[],
    line_comment: "#",
    markup_comment: None,
    return_is_text: true,
    lines_matter: true,
    doc_comment: None,
    exports_everything: true,
    hoisted: &[],
    grammars: &[Grammar::Shell],
    parse: shell::parse,
    parse_expression: shell::parse_source,
    declared_encoding: always_unicode,
    number_value: shell::number_value,
    string_value: shell::string_value,
    holds: &[],
    layers: |_, _| Vec::new(),
};

pub(super) const JSON: LanguageSpec = LanguageSpec {
    name: "json",
    title: "JSON",
    extensions: &["json", "jsonld", "geojson", "webmanifest"],
    file_names: &[],
    sort: Sort::Data,
    interpreters: &[],
    foreign_interpreters: &[],
    foreign_lines: &[],
    line_comment: "",
    markup_comment: None,
    return_is_text: false,
    lines_matter: false,
    doc_comment: None,
    exports_everything: false,
    hoisted: &[],
    grammars: &[Grammar::Json],
    parse: |text| json::parse(text, json::Dialect::Strict),
    parse_expression: |source| json::parse(&Text::new(source.to_string()), json::Dialect::Strict),
    declared_encoding: always_unicode,
    number_value: json::number_value,
    string_value: json::string_value,
    holds: &[],
    layers: |_, _| Vec::new(),
};

/// The settings of compilers and editors are the best known files in it.
pub(super) const JSONC: LanguageSpec = LanguageSpec {
    name: "jsonc",
    title: "JSON with comments",
    extensions: &["jsonc", "code-workspace"],
    file_names: &[("tsconfig", ".json"), ("jsconfig", ".json"), ("devcontainer", ".json"), ("asv.conf", ".json")],
    line_comment: "//",
    parse: |text| json::parse(text, json::Dialect::Commented),
    parse_expression: |source| json::parse(&Text::new(source.to_string()), json::Dialect::Commented),
    ..JSON
};

pub(super) static TOML: LanguageSpec = LanguageSpec {
    name: "toml",
    title: "TOML",
    extensions: &["toml"],
    line_comment: "#",
    lines_matter: true,
    grammars: &[Grammar::Toml],
    parse: toml::parse,
    parse_expression: |source| toml::parse(&Text::new(source.to_string())),
    number_value: toml::number_value,
    string_value: toml::string_value,
    ..JSON
};

pub(super) static YAML: LanguageSpec = LanguageSpec {
    name: "yaml",
    title: "YAML",
    extensions: &["yaml", "yml"],
    line_comment: "#",
    lines_matter: true,
    grammars: &[Grammar::Yaml],
    parse: yaml::parse,
    parse_expression: |source| yaml::parse(&Text::new(source.to_string())),
    number_value: yaml::number_value,
    string_value: yaml::string_value,
    ..JSON
};

pub(super) const CSS: LanguageSpec = LanguageSpec {
    name: "css",
    title: "CSS",
    extensions: &["css"],
    sort: Sort::Descriptions,
    line_comment: "",
    markup_comment: Some(("/*", " */")),
    grammars: &[Grammar::Style],
    parse: css::parse,
    parse_expression: |source| css::parse_declarations(&Text::new(source.to_string())),
    number_value: css::number_value,
    string_value: css::string_value,
    ..JSON
};

pub(super) static HTML: LanguageSpec = LanguageSpec {
    name: "html",
    title: "HTML",
    extensions: &["html", "htm"],
    markup_comment: Some(("<!--", " -->")),
    grammars: &[Grammar::Html],
    parse: html::parse,
    parse_expression: |source| html::parse(&Text::new(source.to_string())),
    number_value: html::number_value,
    string_value: html::string_value,
    holds: &[Language::JavaScript, Language::TypeScript, Language::Css, Language::Json],
    layers: layer::of_page,
    ..CSS
};

pub(super) static HCL: LanguageSpec = LanguageSpec {
    name: "hcl",
    title: "HCL",
    extensions: &["hcl", "tf", "tfvars", "tofu"],
    sort: Sort::Descriptions,
    line_comment: "#",
    markup_comment: None,
    lines_matter: true,
    grammars: &[Grammar::Hcl],
    parse: hcl::parse,
    parse_expression: |source| hcl::parse(&Text::new(source.to_string())),
    number_value: hcl::number_value,
    string_value: hcl::string_value,
    ..JSON
};

pub(super) static GO: LanguageSpec = LanguageSpec {
    name: "go",
    title: "Go",
    extensions: &["go"],
    sort: Sort::Programs,
    line_comment: "//",
    lines_matter: true,
    doc_comment: Some("//"),
    grammars: &[Grammar::Go],
    parse: go::parse,
    parse_expression: go::parse_expression,
    number_value: go::number_value,
    string_value: go::string_value,
    ..JSON
};

pub(super) static RUST: LanguageSpec = LanguageSpec {
    name: "rust",
    title: "Rust",
    extensions: &["rs"],
    sort: Sort::Programs,
    line_comment: "//",
    doc_comment: Some("///"),
    grammars: &[Grammar::Rust],
    parse: rust::parse,
    parse_expression: rust::parse_expression,
    number_value: rust::number_value,
    string_value: rust::string_value,
    ..JSON
};

pub(super) static JAVA: LanguageSpec = LanguageSpec {
    name: "java",
    title: "Java",
    extensions: &["java"],
    sort: Sort::Programs,
    line_comment: "//",
    doc_comment: Some("/**"),
    grammars: &[Grammar::Java],
    parse: java::parse,
    parse_expression: java::parse_expression,
    number_value: java::number_value,
    string_value: java::string_value,
    ..JSON
};

/// A language that a build leaves out: no file is in it.
#[cfg(feature = "without-csharp")]
pub(super) static CSHARP: LanguageSpec = LanguageSpec { name: "csharp", title: "C#", extensions: &[], ..JSON };

#[cfg(not(feature = "without-csharp"))]
pub(super) static CSHARP: LanguageSpec = LanguageSpec {
    name: "csharp",
    title: "C#",
    extensions: &["cs", "csx"],
    sort: Sort::Programs,
    line_comment: "//",
    doc_comment: Some("///"),
    grammars: &[Grammar::CSharp],
    parse: csharp::parse,
    parse_expression: csharp::parse_expression,
    number_value: csharp::number_value,
    string_value: csharp::string_value,
    hoisted: &[Kind::Function],
    ..JSON
};

/// Nothing in a file says that it is not Unicode.
fn always_unicode(_bytes: &[u8]) -> Option<&str> {
    None
}
