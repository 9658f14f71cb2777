//! Whitespace beyond ASCII: each language's own list counts, and a keyword before such a character stays a keyword.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Role, Tree};

use crate::shape::assert_sound;

fn parse(language: Language, source: &str) -> Tree {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert_sound(&tree, source);
    tree
}

fn shape(tree: &Tree) -> Vec<(Kind, Role)> {
    tree.nodes().map(|node| (node.kind(), node.role())).collect()
}

/// "White Space" of ECMAScript 2025, section 12.2: the characters beyond ASCII.
const SPACES: &[char] = &[
    '\u{a0}', '\u{feff}', '\u{1680}', '\u{2000}', '\u{2001}', '\u{2002}', '\u{2003}', '\u{2004}', '\u{2005}',
    '\u{2006}', '\u{2007}', '\u{2008}', '\u{2009}', '\u{200a}', '\u{202f}', '\u{205f}', '\u{3000}',
];

/// Statements with `_` for each place where whitespace is; every keyword is before one of them.
const SCRIPTS: &[&str] = &[
    "if_(a)_b;_else_c;",
    "for_(const_x_of_y)_{_continue;_}",
    "for_(var_k_in_y)_{_break;_}",
    "do_x();_while_(y);",
    "class_A_extends_B_{_static_async_sail()_{_await_super.go();_return_this;_}_get_a()_{_return_1;_}_}",
    "switch_(x)_{_case_1:_default:_y();_}",
    "try_{_a();_}_catch_(e)_{_throw_e;_}_finally_{_debugger;_}",
    "let_x_=_typeof_y_===_void_0;_delete_a.b;_x_=_new_Foo();",
    "function_f()_{_return_null;_}",
    "async_function_*g()_{_yield_true;_}",
    "x_=_a_instanceof_B;_y_=_c_in_d;_z_=_false;",
    "import_x_from_'y';_export_default_x;",
    "export_const_q_=_1;_export_{_q_as_w_};",
];

#[test]
fn keywords_stay_keywords_before_whitespace_beyond_ascii() {
    for script in SCRIPTS {
        for language in [Language::JavaScript, Language::TypeScript] {
            let plain = parse(language, &script.replace('_', " "));
            assert!(plain.faults().is_empty(), "{script} in {language:?}: {:?}", plain.faults());
            for space in SPACES {
                let odd = parse(language, &script.replace('_', &space.to_string()));
                assert!(odd.faults().is_empty(), "{script} with {space:?} in {language:?}: {:?}", odd.faults());
                assert_eq!(shape(&odd), shape(&plain), "{script} with {space:?} in {language:?}");
            }
        }
    }
}

#[test]
fn line_and_paragraph_separators_end_lines() {
    for source in [
        "if (a)\u{2028}{ b }",
        "class A\u{2029}{ }",
        "do\u{2028}{ x() } while (y)",
        "try\u{2029}{ } finally\u{2028}{ }",
    ] {
        assert!(parse(Language::JavaScript, source).faults().is_empty(), "{source:?}");
    }
    // A line that ends ends the statement where the grammar restricts it.
    let split = parse(Language::JavaScript, "function f() { return\u{2028}1; }");
    let same = parse(Language::JavaScript, "function f() { return\n1; }");
    assert_eq!(shape(&split), shape(&same));
}

#[test]
fn typescript_words_stay_words() {
    for space in SPACES {
        let source = "interface_A_extends_B_{_readonly_x:_keyof_C_}_type_D_=_unique_symbol;_enum_E_{_F_}"
            .replace('_', &space.to_string());
        let tree = parse(Language::TypeScript, &source);
        let plain = parse(Language::TypeScript, &source.replace(*space, " "));
        assert_eq!(shape(&tree), shape(&plain), "{space:?}");
        assert_eq!(tree.faults().len(), plain.faults().len());
    }
}

/// CPython's tokenizer knows space, tab and form feed only ("Whitespace between tokens", The Python Language Reference, 2.1.9).
#[test]
fn python_has_no_whitespace_beyond_ascii() {
    assert!(parse(Language::Python, "if\x0ca:\n    pass\n").faults().is_empty());
    for space in SPACES.iter().filter(|space| **space != '\u{feff}') {
        let source = format!("if{space}a:\n    pass\n");
        let tree = parse(Language::Python, &source);
        assert_eq!(tree.faults().first().map(|fault| fault.span.start), Some(2), "{source:?}");
    }
    assert!(!parse(Language::Python, "a\x0b= 1\n").faults().is_empty());
}

/// "Blank" in the shell is what the locale says; in the POSIX locale that is space and tab (POSIX.1-2024, XBD 7.3.1).
#[test]
fn shell_words_hold_whitespace_beyond_ascii() {
    let tree = parse(Language::Shell, "echo\u{a0}tide\n");
    assert!(tree.faults().is_empty());
    let command = tree.nodes().find(|node| node.kind() == Kind::Command).expect("a command");
    assert_eq!(command.children().count(), 1, "one word that holds the character");
}
