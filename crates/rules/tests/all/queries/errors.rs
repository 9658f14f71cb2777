//! What is said of wrong queries: the place, what was expected, and the nearest right word.

use sieve_rules::query::Query;
use sieve_syntax::language::Language;

#[test]
fn wrong_queries_are_told_where_and_why() {
    for (source, place, message) in [
        ("", 0..0, "expected a kind of node, found the end of the query"),
        ("funtion", 0..7, "no kind of node is called \"funtion\"; did you mean \"function\"?"),
        ("call {", 6..6, "expected a role, a kind of child or an attribute, found the end of the query"),
        ("call { callee is \"a\" ", 21..21, "expected '}', found the end of the query"),
        ("call { calee is \"a\" }", 7..12, "a call has no \"calee\"; did you mean \"callee\"?"),
        (
            "call { condition is \"a\" }",
            7..16,
            "a call has no \"condition\"; a call has: callee, type-arguments, arguments, argument, value, type",
        ),
        (
            "call { callee foo \"a\" }",
            14..17,
            "expected exists, same, as, a relation or an operator (is in like matches starts ends refers = < > <= >=), found \"foo\"",
        ),
        (
            "call { callee is }",
            17..18,
            "expected a string, a number, a regular expression, a list or an option, found '}'",
        ),
        ("call { callee in \"a\" }", 17..20, "\"in\" takes a list"),
        ("call { callee > \"a\" }", 16..19, "\">\" takes a number here"),
        ("call { callee matches /(/ }", 22..25, "this pattern is wrong: unclosed group"),
        ("call { callee same first }", 19..24, "no node is called \"first\" before this"),
        ("call as a { callee as a }", 22..23, "\"a\" is the name of a node already"),
        ("call { not callee as a }", 21..22, "a node that is not there cannot be given a name"),
        ("call { callee is $limit }", 17..23, "there is no option \"limit\" here"),
        ("call { text.name is \"a\" }", 7..11, "\"text\" is an attribute: nothing comes after it"),
        ("call { argument.0 is \"a\" }", 16..17, "0 is no position: the first part is 1"),
        ("call { argument.1.5 is \"a\" }", 16..19, "1.5 is no position: the first part is 1"),
        ("call inside", 11..11, "expected a kind of node, found the end of the query"),
        ("call directly after call", 14..19, "expected inside or holding, found \"after\""),
        ("call call", 5..9, "expected a relation or the end of the query, found \"call\""),
        ("interface", 0..9, "\"interface\" is never in Python"),
    ] {
        let error = Query::new(source, &[Language::Python]).expect_err(source);
        assert_eq!((error.place.clone(), error.to_string()), (place, message.to_string()), "{source}");
    }
    assert!(Query::new("interface", &[Language::Python, Language::TypeScript]).is_ok());
}

#[test]
fn hostile_queries_are_refused_at_once() {
    for (open, close) in [("(", ")"), ("call { callee holding ", "")] {
        let source = format!("{}call{}", open.repeat(100_000), close.repeat(100_000));
        let error = Query::new(&source, &[Language::Python]).expect_err("too deep");
        assert!(error.to_string().contains("nested deeper than 64"), "{error}");
    }
    let error = Query::new(&format!("call {{ text matches /{}/ }}", "(a{1000}){1000}".repeat(9)), &[Language::Python]);
    assert!(error.expect_err("too large").to_string().contains("pattern is wrong"));
    let braces = format!("call {{ text like \"{}\" }}", "{a,".repeat(10_000));
    assert!(Query::new(&braces, &[Language::Python]).expect_err("braces").to_string().contains("braces"));
}
