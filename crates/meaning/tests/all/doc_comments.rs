//! Which comment documents a declaration, and which parameters it documents, in every form that is understood.

use sieve_meaning::doc_comment::{doc_comment, documented_parameters};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Kind;

/// The doc comment of the last function or class of a file, and the parameters that it documents.
fn documented(language: Language, source: &str) -> Option<(String, Vec<String>)> {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "{source}: {:?}", tree.faults());
    let is_declaration = |kind: Kind| kind.is_function() || kind == Kind::Class;
    let node = tree.nodes().filter(|node| is_declaration(node.kind())).last().expect("a declaration");
    let span = doc_comment(language, &text, node)?;
    let parameters = documented_parameters(language, &text, span);
    let names = parameters.iter().map(|one| text.slice(one.name).to_string()).collect();
    for one in &parameters {
        assert!(span.contains(one.entry) && one.entry.contains(one.name), "{one:?} in {source}");
    }
    Some((text.slice(span).to_string(), names))
}

#[track_caller]
fn assert_parameters(language: Language, source: &str, expected: &[&str]) {
    let (_, names) = documented(language, source).expect("a doc comment");
    assert_eq!(names, expected, "{source}");
}

#[test]
fn docstrings_are_the_first_statement_of_a_body() {
    let docstring = |source: &str| documented(Language::Python, source).map(|(comment, _)| comment);
    assert_eq!(docstring("def low():\n    'Words.'\n").as_deref(), Some("'Words.'"));
    assert_eq!(
        docstring("class Quay:\n    \"\"\"Words.\"\"\"\n    depth = 3\n").as_deref(),
        Some("\"\"\"Words.\"\"\"")
    );
    assert_eq!(docstring("def low():\n    # a comment\n    r'''Words.'''\n").as_deref(), Some("r'''Words.'''"));
    assert_eq!(docstring("def low():\n    return 'words'\n"), None);
    assert_eq!(docstring("def low():\n    x = 1\n    'no docs'\n"), None);
    assert_eq!(docstring("# Words.\ndef low():\n    pass\n"), None);
}

#[test]
fn comments_of_javascript_stand_directly_above() {
    let comment = |source: &str| documented(Language::TypeScript, source).map(|(comment, _)| comment);
    let words = Some("/** Words. */");
    assert_eq!(comment("/** Words. */\nfunction low() {}\n").as_deref(), words);
    assert_eq!(comment("/** Words. */\nexport default class Quay {}\n").as_deref(), words);
    assert_eq!(comment("/** Words. */\nexport const low = () => 1;\n").as_deref(), words);
    assert_eq!(comment("const quay = {\n  /** Words. */\n  low: () => 1,\n};\n").as_deref(), words);
    assert_eq!(comment("class Quay {\n  /** Words. */\n  moor() {}\n}\n").as_deref(), words);
    assert_eq!(comment("/** Words. */\n\nfunction low() {}\n"), None, "a blank line is between");
    assert_eq!(comment("// Words.\nfunction low() {}\n"), None);
    assert_eq!(comment("/* Words. */\nfunction low() {}\n"), None);
    assert_eq!(comment("/**/\nfunction low() {}\n"), None);
    assert_eq!(comment("/** Words. */\nconst low = () => 1, high = () => 2;\n"), None, "one of two");
}

#[test]
fn parameters_in_field_lists() {
    let source = "def low(day, quay):\n    \"\"\"Gives the depth.\n\n    :param day: the day\n    :param str quay: the quay\n    :type day: int\n    :returns: the depth\n    \"\"\"\n";
    assert_parameters(Language::Python, source, &["day", "quay"]);
}

#[test]
fn parameters_in_sections() {
    let indented = "def low(day, quay, *rest, **more):\n    \"\"\"Gives the depth.\n\n    Args:\n        day (int): the day\n            of the week\n        quay: the quay\n        *rest: others\n        **more: named ones\n\n    Returns:\n        depth: the depth\n    \"\"\"\n";
    assert_parameters(Language::Python, indented, &["day", "quay", "rest", "more"]);
    let underlined = "def low(day, quay):\n    \"\"\"Gives the depth.\n\n    Parameters\n    ----------\n    day : int\n        The day.\n    quay : str\n        The quay.\n\n    Returns\n    -------\n    depth : int\n    \"\"\"\n";
    assert_parameters(Language::Python, underlined, &["day", "quay"]);
    let prose =
        "def low(day):\n    \"\"\"Arguments are given by name: day first.\n\n    A list: of words.\n    \"\"\"\n";
    assert_parameters(Language::Python, prose, &[]);
}

#[test]
fn parameters_in_tags() {
    let source = "/**\n * Gives the depth.\n * @param {number} day the day\n * @param quay - the quay\n * @param {string} [late] whether it is\n * @returns {number} the depth\n */\nfunction low(day, quay, late) {}\n";
    assert_parameters(Language::JavaScript, source, &["day", "quay", "late"]);
    let members =
        "/**\n * @param {object} options all\n * @param {string} options.quay one\n */\nfunction low(options) {}\n";
    let (_, names) = documented(Language::JavaScript, members).expect("a doc comment");
    assert_eq!(names.first().map(String::as_str), Some("options"), "{names:?}");
    let nested = "/**\n * @param {{ day: number, quay: string }} where the place\n */\nfunction low(where) {}\n";
    assert_parameters(Language::JavaScript, nested, &["where"]);
    assert_parameters(Language::TypeScript, "/** @param day the day */\nfunction low(day: number) {}\n", &["day"]);
}
