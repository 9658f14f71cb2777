//! The languages that are understood, as one table.

mod layer;
mod table;

pub use layer::{Layer, views};

use crate::literal::NumberValue;
use crate::text::{DecodeError, Encoding, Text};
use crate::tree::{Grammar, Kind, Tree};

/// A language that files can be written in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Language {
    /// Python 3.8 to 3.14.
    Python,
    /// ECMAScript 2025, in which tags may be.
    JavaScript,
    /// TypeScript 5.
    TypeScript,
    /// TypeScript 5, in which tags may be.
    Tsx,
    /// The shell of POSIX.1-2024, and bash 5.
    Shell,
    /// JSON (RFC 8259).
    Json,
    /// JSON in which comments may be, and a comma after the last element.
    Jsonc,
    /// TOML 1.0.
    Toml,
    /// YAML 1.2.2.
    Yaml,
    /// Style sheets: CSS as its standards of 2024 have it.
    Css,
    /// Pages: HTML as its living standard has it.
    Html,
    /// Infrastructure files: HCL native syntax.
    Hcl,
    /// Go 1.22.
    Go,
    /// Rust 2024.
    Rust,
    /// Java 21.
    Java,
    /// C# 13.
    CSharp,
}

/// What files in a language hold.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Sort {
    /// Programs.
    Programs,
    /// Values, and nothing that runs.
    Data,
    /// What describes something else: pages, how they look, infrastructure.
    Descriptions,
}

/// What the tool knows of a language besides its grammar.
#[derive(Debug)]
pub struct LanguageSpec {
    /// Its name in settings and in output: lower case.
    pub name: &'static str,
    /// Its name in prose.
    pub title: &'static str,
    /// Endings of its files' names, without the dot.
    pub extensions: &'static [&'static str],
    /// Names of files in it whose endings are those of another one: what each begins and ends with.
    pub file_names: &'static [(&'static str, &'static str)],
    /// What files in it hold.
    pub sort: Sort,
    /// Programs after `#!` that run it, without version numbers.
    pub interpreters: &'static [&'static str],
    /// Programs after `#!` whose languages look like this one and are others.
    pub foreign_interpreters: &'static [&'static str],
    /// How lines near the head of files begin that are in another language with the same endings.
    pub foreign_lines: &'static [&'static str],
    /// What begins a comment that runs to the end of the line; nothing where no comments are.
    pub line_comment: &'static str,
    /// What begins and ends a comment between tags, in a language that has them.
    pub markup_comment: Option<(&'static str, &'static str)>,
    /// A carriage return is a character like any other, and only a line feed ends a line.
    pub return_is_text: bool,
    /// Where lines end is part of the grammar, not only where a statement could end.
    pub lines_matter: bool,
    /// What begins a comment that describes what is below it; nothing where a text within describes it.
    pub doc_comment: Option<&'static str>,
    /// What a file binds can be used through its strings and by other files, without being exported.
    pub exports_everything: bool,
    /// Statements that take effect before their block runs, wherever they are in it.
    pub hoisted: &'static [Kind],
    /// The grammars that it is made of.
    pub grammars: &'static [Grammar],
    parse: fn(&Text) -> Tree,
    parse_expression: fn(&str) -> Tree,
    declared_encoding: fn(&[u8]) -> Option<&str>,
    number_value: fn(&str) -> Option<NumberValue>,
    string_value: fn(&str) -> Option<String>,
    /// The languages of what a file in it may hold besides.
    pub holds: &'static [Language],
    layers: fn(&Text, &Tree) -> Vec<Layer>,
}

impl LanguageSpec {
    /// The forms that a comment can have, the usual one first: what is before and after its words.
    pub fn comment_forms(&self) -> impl Iterator<Item = (&'static str, &'static str)> {
        let to_line_end = (!self.line_comment.is_empty()).then_some((self.line_comment, ""));
        to_line_end.into_iter().chain(self.markup_comment)
    }
}

impl Language {
    /// Every language.
    pub const ALL: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Shell,
        Language::Json,
        Language::Jsonc,
        Language::Toml,
        Language::Yaml,
        Language::Css,
        Language::Html,
        Language::Hcl,
        Language::Go,
        Language::Rust,
        Language::Java,
        #[cfg(not(feature = "without-csharp"))]
        Language::CSharp,
    ];

    /// The languages of programs whose names and whose ways through the code are understood.
    pub const OF_CODE: &'static [Language] =
        &[Language::Python, Language::JavaScript, Language::TypeScript, Language::Tsx, Language::Shell];

    /// The languages with variables that have names.
    pub const WITH_VARIABLES: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Shell,
        Language::Go,
        Language::Rust,
        Language::Java,
        Language::CSharp,
        Language::Hcl,
    ];

    /// The languages that programs are written in.
    pub const OF_PROGRAMS: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Shell,
        Language::Go,
        Language::Rust,
        Language::Java,
        #[cfg(not(feature = "without-csharp"))]
        Language::CSharp,
    ];

    /// Those of them whose statements are made of expressions.
    pub const WITH_EXPRESSIONS: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Go,
        Language::Rust,
        Language::Java,
        Language::CSharp,
    ];

    /// The languages with classes and exceptions.
    pub const WITH_CLASSES: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Java,
        Language::CSharp,
    ];

    /// The languages of programs whose variables may be read before they have a value: when they run, or as the compiler has it.
    pub const WITH_UNSET_VARIABLES: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Shell,
        Language::Java,
        Language::CSharp,
    ];

    /// The languages of programs of whose code it is known which statements can run.
    pub const WITH_FLOW: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Shell,
        Language::Go,
        Language::Java,
        Language::CSharp,
    ];

    /// The languages whose tokens have whitespace between them as the grammar leaves it open.
    pub const WITH_SPACING: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Json,
        Language::Jsonc,
        Language::Toml,
        Language::Yaml,
        Language::Java,
        Language::CSharp,
        Language::Css,
        Language::Hcl,
    ];

    /// The languages that people lay out by hand, in blocks of statements or declarations: no formatter is the only one.
    pub const SPACED_BY_HAND: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Shell,
        Language::Java,
        Language::CSharp,
        Language::Css,
        Language::Hcl,
    ];

    /// The same, and pages, whose attributes have equals signs.
    pub const WITH_OPERATORS: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Shell,
        Language::Java,
        Language::CSharp,
        Language::Css,
        Language::Hcl,
        Language::Html,
    ];

    /// The languages whose statements begin with words of the language.
    pub const WITH_STATEMENT_WORDS: &'static [Language] = Language::WITH_CLASSES;

    /// The languages that hold values.
    pub const OF_DATA: &'static [Language] = &[Language::Json, Language::Jsonc, Language::Toml, Language::Yaml];

    /// JavaScript and what is made of it.
    pub const OF_JAVASCRIPT: &'static [Language] = &[Language::JavaScript, Language::TypeScript, Language::Tsx];

    /// The languages in which elements with tags are.
    pub const WITH_ELEMENTS: &'static [Language] = &[Language::Html, Language::JavaScript, Language::Tsx];

    /// The languages whose names are understood.
    pub const WITH_NAMES: &'static [Language] =
        &[Language::Python, Language::JavaScript, Language::TypeScript, Language::Tsx];

    /// The languages with functions whose results are awaited.
    pub const WITH_WAITING: &'static [Language] =
        &[Language::Python, Language::JavaScript, Language::TypeScript, Language::Tsx, Language::CSharp];

    /// The languages whose libraries format values by strings with placeholders that no compiler holds against them.
    pub const WITH_FORMATTING: &'static [Language] =
        &[Language::Python, Language::Go, Language::Java, Language::CSharp];

    /// Those in which most strings mean the same in double quotes as in single ones.
    pub const WITH_EITHER_QUOTES: &'static [Language] = &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Yaml,
        Language::Css,
        Language::Html,
    ];

    /// What is known of it.
    pub fn spec(self) -> &'static LanguageSpec {
        match self {
            Language::Python => &table::PYTHON,
            Language::JavaScript => &table::JAVASCRIPT,
            Language::TypeScript => &table::TYPESCRIPT,
            Language::Tsx => &table::TSX,
            Language::Shell => &table::SHELL,
            Language::Json => &table::JSON,
            Language::Jsonc => &table::JSONC,
            Language::Toml => &table::TOML,
            Language::Yaml => &table::YAML,
            Language::Css => &table::CSS,
            Language::Html => &table::HTML,
            Language::Hcl => &table::HCL,
            Language::Go => &table::GO,
            Language::Rust => &table::RUST,
            Language::Java => &table::JAVA,
            Language::CSharp => &table::CSHARP,
        }
    }

    /// Its name in settings and output.
    pub fn name(self) -> &'static str {
        self.spec().name
    }

    /// The language with this name.
    pub fn named(name: &str) -> Option<Language> {
        Language::ALL.iter().copied().find(|language| language.name() == name)
    }

    /// The language of files with this ending, without the dot.
    pub fn of_extension(extension: &str) -> Option<Language> {
        Language::ALL.iter().copied().find(|language| language.spec().extensions.contains(&extension))
    }

    /// The language of a file by its name without folders.
    pub fn of_file_name(name: &str) -> Option<Language> {
        let extension = name.rsplit_once('.')?.1;
        let has_form = |(start, end): &(&str, &str)| name.starts_with(start) && name[start.len()..].ends_with(end);
        let named = |language: &Language| language.spec().file_names.iter().any(has_form);
        Language::ALL.iter().copied().find(named).or_else(|| Language::of_extension(extension))
    }

    /// Whether programs are written in it.
    pub fn is_code(self) -> bool {
        self.spec().sort == Sort::Programs
    }

    /// Whether its files hold values, and nothing that runs or is shown.
    pub fn is_data(self) -> bool {
        self.spec().sort == Sort::Data
    }

    /// The language that a first line such as `#!/usr/bin/env python3` names.
    pub fn of_first_line(line: &str) -> Option<Language> {
        let program = program_of(line)?;
        Language::ALL.iter().copied().find(|language| language.spec().interpreters.contains(&program))
    }

    /// Whether a text says that it is in a language that only looks like this one: by the word after `sieve: dialect` in a comment
    /// at its head, or else by its first line.
    pub fn is_foreign(self, source: &str) -> bool {
        let first = source.split('\n').next().unwrap_or_default();
        let has_other_mode = mode_of(first).is_some_and(|own| own != self);
        // Programs for translations and for films end their files as one for types does.
        if has_other_mode || self.is_code() && source.starts_with("<?xml ") {
            return true;
        }
        let is_of_other = |line: &str| self.spec().foreign_lines.iter().any(|start| line.starts_with(start));
        if !self.spec().foreign_lines.is_empty() && source.lines().take(LONG_HEAD).any(is_of_other) {
            return true;
        }
        // Nothing of a script runs behind `exec perl -x`, but what is written in that language.
        let hands_over = |line: &str| line.starts_with("exec ") && line.contains("perl ") && line.contains(" -x");
        if !self.spec().foreign_interpreters.is_empty() && source.lines().take(LONG_HEAD).any(hands_over) {
            return true;
        }
        // A script that hands itself to another interpreter says so in its second line: `#! -*-perl-*-`.
        let second = source.split('\n').nth(1).filter(|line| line.starts_with("#!") && line.contains("-*-"));
        let told = self.dialect_told(source).or_else(|| second.and_then(mode_word)).or_else(|| program_of(first));
        told.is_some_and(|program| self.spec().foreign_interpreters.contains(&plain_program(program).as_str()))
    }

    /// The dialect that a comment among the first lines of a text names.
    fn dialect_told(self, source: &str) -> Option<&str> {
        if self.spec().foreign_interpreters.is_empty() {
            return None;
        }
        let head =
            source.lines().take(HEAD).filter_map(|line| line.trim_start().strip_prefix(self.spec().line_comment));
        head.into_iter()
            .find_map(|comment| comment.trim_start().strip_prefix("sieve: dialect")?.split_whitespace().next())
    }

    /// Decodes a file's bytes, in the encoding that the file names if the language lets it.
    ///
    /// # Errors
    /// When the bytes are not written in that encoding.
    pub fn decode(self, bytes: Vec<u8>) -> Result<Text, DecodeError> {
        let declared = (self.spec().declared_encoding)(&bytes).map(str::to_owned);
        Text::decode(bytes, declared.as_deref())
    }

    /// The encoding that a file names in its first lines, if the language lets it and the encoding is known.
    pub fn encoding_named_in(self, bytes: &[u8]) -> Option<Encoding> {
        (self.spec().declared_encoding)(bytes).and_then(Encoding::named)
    }

    /// Whether a tree in it may have nodes of a kind.
    pub fn produces(self, kind: Kind) -> bool {
        kind.grammars().iter().any(|grammar| self.spec().grammars.contains(grammar))
    }

    /// Parses a file. Never fails: what is wrong is in the tree's faults.
    pub fn parse(self, text: &Text) -> Tree {
        (self.spec().parse)(text)
    }

    /// What a file in it holds in other languages. A tree is of the whole file, as one of these languages sees it.
    pub fn layers(self, text: &Text, tree: &Tree) -> Vec<Layer> {
        (self.spec().layers)(text, tree)
    }

    /// The value of a number literal; `None` where it is too large to be known exactly.
    pub fn number_value(self, literal: &str) -> Option<NumberValue> {
        (self.spec().number_value)(literal)
    }

    /// The characters that a string literal represents, quotes and escapes resolved; `None` where they cannot be known.
    pub fn string_value(self, literal: &str) -> Option<String> {
        (self.spec().string_value)(literal)
    }

    /// Parses one expression that is alone, such as the text of a type annotation.
    pub fn parse_expression(self, source: &str) -> Tree {
        (self.spec().parse_expression)(source)
    }
}

/// How many lines at the head of a text may tell its dialect.
const HEAD: usize = 10;

/// So many lines at its head may be a licence, before something shows that a file is in another language.
const LONG_HEAD: usize = 80;

/// The name of a program, also where it is filled in when a package is built: `@PERL_PATH@`.
fn plain_program(program: &str) -> String {
    let filled_in = program.strip_prefix('@').and_then(|rest| rest.strip_suffix('@'));
    filled_in.map_or(program.to_string(), |name| name.split('_').next().unwrap_or(name).to_ascii_lowercase())
}

/// The language that the mode line of an editor names, in a comment of the first line: `-*- shell-script -*-` ("Specifying File
/// Variables", GNU Emacs Manual).
fn mode_of(line: &str) -> Option<Language> {
    match mode_word(line)? {
        "shell-script" | "sh" => Some(Language::Shell),
        "python" => Some(Language::Python),
        _ => None,
    }
}

/// The word of such a mode line.
fn mode_word(line: &str) -> Option<&str> {
    let (_, inner) = line.split_once("-*-")?;
    Some(inner.split_once("-*-")?.0.trim().trim_start_matches("mode:").trim_matches([' ', ';']))
}

/// The program that a first line names, without its version.
fn program_of(line: &str) -> Option<&str> {
    // The completion system of zsh loads functions by such first lines.
    if line.starts_with("#compdef") || line.starts_with("#autoload") {
        return Some("zsh");
    }
    let command = line.strip_prefix("#!")?;
    let mut words = command.split_whitespace().map(|word| word.rsplit('/').next().unwrap_or(word));
    let mut program = words.next()?;
    if program == "env" {
        program = words.find(|word| !word.starts_with('-') && !word.contains('='))?;
    }
    Some(program.trim_end_matches(|last: char| last.is_ascii_digit() || last == '.'))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn first_lines_name_languages() {
        for line in ["#!/usr/bin/python3.11", "#!/usr/bin/env python", "#! /usr/bin/env -S python3 -u", "#!python"] {
            assert_eq!(Language::of_first_line(line), Some(Language::Python), "{line}");
        }
        assert_eq!(Language::of_first_line("#!/bin/sh -e"), Some(Language::Shell));
        assert_eq!(Language::of_first_line("#!/bin/zsh"), None);
        assert!(Language::Shell.is_foreign("#compdef ferry\n_arguments\n"));
        assert!(Language::Shell.is_foreign("#! /bin/sh\n#! -*-perl-*-\nuse strict;\n"));
        assert!(Language::Shell.is_foreign("#!@PERL_PATH@\nuse strict;\n"));
        assert!(!Language::Shell.is_foreign("#!@SHELL@\nmoor\n"));
        assert!(Language::Shell.is_foreign("#!/bin/sh\n# Tides.\nexec perl -x -S $0 ${1+\"$@\"}\n#!perl -w\n"));
        assert!(!Language::Shell.is_foreign("# compdef\n"));
        assert!(Language::JavaScript.is_foreign("// Tides.\nimport type {Tide} from './tides';\n"));
        assert!(!Language::JavaScript.is_foreign("import type from './tides';\n"));
        assert!(!Language::TypeScript.is_foreign("import type {Tide} from './tides';\n"));
        assert!(Language::Python.is_foreign("# ferry(1) completion  -*- shell-script -*-\n"));
        assert!(!Language::Python.is_foreign("# -*- coding: utf-8 -*-\nx = 1\n"));
        assert!(Language::TypeScript.is_foreign("<?xml version=\"1.0\"?>\n<TS></TS>\n"));
        assert!(!Language::Html.is_foreign("<?xml version=\"1.0\"?>\n<html></html>\n"));
        assert_eq!(Language::of_first_line("# python"), None);
    }

    #[test]
    fn a_comment_at_the_head_tells_the_dialect() {
        assert!(Language::Shell.is_foreign("#!/bin/zsh\nprint -l *(.)\n"));
        assert!(Language::Shell.is_foreign("# Tides.\n# sieve: dialect zsh\n"));
        assert!(!Language::Shell.is_foreign("#!/bin/zsh\n# sieve: dialect posix\n"));
        assert!(!Language::Python.is_foreign("# sieve: dialect zsh\n"));
    }

    #[test]
    fn names_of_files_come_before_their_endings() {
        let names = ["tsconfig.json", "tsconfig.base.json", "package.json", "board.jsonc", "quay.py", "json", ".json"];
        let languages = names.map(|name| Language::of_file_name(name).map(Language::name));
        let wanted = [Some("jsonc"), Some("jsonc"), Some("json"), Some("jsonc"), Some("python"), None, Some("json")];
        assert_eq!(languages, wanted);
    }

    #[test]
    fn each_language_holds_code_or_data_or_describes_something() {
        let of = |sort: Sort| {
            Language::ALL.iter().copied().filter(|language| language.spec().sort == sort).collect::<Vec<_>>()
        };
        assert_eq!((of(Sort::Programs), of(Sort::Data)), (Language::OF_PROGRAMS.to_vec(), Language::OF_DATA.to_vec()));
        assert!(Language::OF_CODE.iter().all(|language| Language::OF_PROGRAMS.contains(language)));
        assert_eq!(of(Sort::Descriptions), [Language::Css, Language::Html, Language::Hcl]);
    }

    #[test]
    fn names_are_found_again() {
        for language in Language::ALL {
            assert_eq!(Language::named(language.name()), Some(*language));
        }
    }
}
