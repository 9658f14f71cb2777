//! Each complaint about the syntax of shell scripts, with a small source that causes it, its place and its words.

use sieve_syntax::language::Language;

use crate::messages::{assert_messages, assert_no_rule_is_missing};

/// Source, place of the first fault, its message.
const CASES: &[(&str, &str, &str)] = &[
    ("`(`", "1:2", "this is not closed before the backquote"),
    ("`{ a`", "1:5", "expected '}', found '`'"),
    ("f()", "1:4", "expected the body of the function, found the end of the file"),
    ("f() a", "1:5", "expected the body of the function, found a word"),
    ("function", "1:9", "expected a word, found the end of the file"),
    ("(a) b", "1:5", "expected the end of the command, found a word"),
    ("if", "1:3", "expected a command, found the end of the file"),
    ("if a", "1:5", "expected 'then', found the end of the file"),
    ("if a; then b", "1:13", "expected 'fi', found the end of the file"),
    ("if a; then fi", "1:12", "expected a command, found 'fi'"),
    ("for", "1:4", "expected a name, found the end of the file"),
    ("for 1", "1:6", "expected 'do', found the end of the file"),
    ("for a in", "1:9", "expected ';' or the end of the line, found the end of the file"),
    ("for a in b; do done", "1:16", "expected a command, found 'done'"),
    ("for ((", "1:5", "expected a name, found '('"),
    ("for ((;;)", "1:5", "'(' is never closed"),
    ("case", "1:1", "'case' is never closed"),
    (")", "1:1", "')' closes nothing"),
    ("}", "1:1", "expected a command, found '}'"),
    ("[[", "1:1", "'[[' is never closed"),
    ("[[ a == ]]", "1:9", "expected a word, found ']]'"),
    ("[[ ( a ]]", "1:8", "expected ')', found ']]'"),
    ("${", "1:1", "'${' is never closed"),
    ("\"", "1:1", "this quote is never closed"),
    ("&& a", "1:1", "expected a command, found '&&'"),
    ("| a", "1:1", "expected a command, found '|'"),
    ("a ; ; b", "1:5", "expected a command, found ';'"),
    (";; ", "1:1", "expected a command, found ';;'"),
    ("a & & b", "1:5", "expected a command, found '&'"),
    ("then", "1:1", "expected a command, found 'then'"),
    ("esac", "1:1", "expected a command, found 'esac'"),
];

#[test]
fn messages_name_the_place_and_the_problem() {
    assert_messages(CASES.iter().map(|(source, place, message)| (Language::Shell, *source, *place, *message)));
}

#[test]
fn every_rule_has_a_source_that_breaks_it() {
    assert_no_rule_is_missing("shell", CASES.iter().map(|case| case.2));
}
