//! Each complaint about syntax, with the smallest text that causes it, its place and its words.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// Text, place of the first fault, its message.
const CASES: &[(&str, &str, &str)] = &[
    ("x = \n", "1:5", "expected an expression, found the end of the line"),
    ("print 'tide'\n", "1:7", "print is a function in Python 3: what it prints belongs in parentheses"),
    ("exec code in names\n", "1:6", "exec is a function in Python 3: what it runs belongs in parentheses"),
    ("prints tide\n", "1:8", "expected the end of the statement, found a name"),
    ("if x\n    y\n", "1:5", "expected ':', found the end of the line"),
    ("if x:\ny\n", "2:1", "expected an indented block, found a name"),
    ("(1\n", "1:1", "'(' is never closed"),
    ("(1]\n", "1:3", "']' does not close '('"),
    ("1)\n", "1:2", "')' closes nothing"),
    ("x = 'a\n", "1:5", "this string is never closed"),
    ("f'{a\n", "1:3", "'{' is never closed"),
    ("f'}'\n", "1:3", "a lone '}' in a format string is written '}}'"),
    ("f'{}'\n", "1:4", "expected an expression, found '}'"),
    ("f'{a!x}'\n", "1:6", "a conversion is '!s', '!r' or '!a'"),
    ("'\\x4'\n", "1:1", "an escape in this literal is not complete"),
    ("b'\u{e9}'\n", "1:1", "a bytes literal holds only ASCII characters; write others as escapes"),
    ("'a' b'b'\n", "1:1", "string, bytes and template literals cannot be joined"),
    ("012\n", "1:1", "a whole number cannot begin with zero; write 0o for octal"),
    ("0b12\n", "1:1", "this number has a digit that its base does not have, or none"),
    ("1__0\n", "1:1", "an underscore in a number must be between two digits"),
    ("1x\n", "1:1", "a space is missing between a number and a name"),
    ("x = $\n", "1:5", "this character has no meaning outside strings and comments"),
    ("x = \u{1}\n", "1:5", "a control character is not allowed here"),
    ("x = €\n", "1:5", "this character cannot be part of a name"),
    ("x = \\ 1\n", "1:5", "'\\' joins lines only at the very end of a line"),
    ("if x:\n    a\n  b\n", "3:3", "this indentation fits no block that is open"),
    (
        "if x:\n        a\n\tb\n",
        "3:2",
        "spaces and tabs are mixed so that the indentation depends on the width of a tab",
    ),
    ("  x\n", "1:3", "this line is indented, but nothing above it opens a block"),
    ("f() = 1\n", "1:1", "a call cannot be assigned to"),
    ("None = 1\n", "1:1", "a constant of the language cannot be assigned to"),
    ("(a, 1) = b\n", "1:5", "a literal cannot be assigned to"),
    ("a, b += 1\n", "1:1", "a list of targets cannot be assigned to"),
    ("a, b: int\n", "1:1", "a list of targets cannot be given a type"),
    ("del a + b\n", "1:5", "an expression cannot be deleted"),
    ("for f() in x: pass\n", "1:5", "a call cannot be assigned to"),
    ("f(a=1, b)\n", "1:8", "a positional argument follows one given by name"),
    ("f(**a, *b)\n", "1:8", "'*' arguments must come before '**' arguments"),
    ("f(x for x in y, 1)\n", "1:17", "a generator expression among other arguments needs parentheses"),
    ("f(a.b=1)\n", "1:6", "only a plain name can name an argument; '==' compares"),
    ("def f(a=1, b): pass\n", "1:13", "a parameter without a default follows one with a default"),
    ("def f(*): pass\n", "1:8", "expected a name, found ')'"),
    ("def f(*, **k): pass\n", "1:10", "a named parameter must follow a lone '*'"),
    ("def f(/): pass\n", "1:7", "'/' is allowed once, after a parameter and before any '*'"),
    ("def f(**k, a): pass\n", "1:12", "nothing can follow the '**' parameter"),
    ("def f(*a=1): pass\n", "1:9", "a parameter that takes the rest cannot have a default"),
    ("(*a)\n", "1:4", "a starred expression in parentheses needs a comma after it"),
    ("(a.b := 1)\n", "1:6", "':=' binds only a single name"),
    ("try:\n    a\nb\n", "3:1", "expected 'except' or 'finally', found a name"),
    ("try:\n    a\nexcept A, B as c:\n    d\n", "3:13", "several exceptions with a name need parentheses"),
    ("match x:\n    case a.b as _:\n        c\n", "2:17", "'_' takes anything and cannot be a name for it"),
    (
        "match x:\n    case {**_}:\n        c\n",
        "2:13",
        "'**_' has no meaning: a mapping pattern lets further entries be",
    ),
    (
        "match x:\n    case 1j + 2j:\n        c\n",
        "2:15",
        "a complex number in a pattern is a real and then an imaginary number",
    ),
    ("match x:\n    case A(b=1, c):\n        c\n", "2:17", "a positional pattern follows one given by name"),
    ("@a\nx = 1\n", "2:1", "expected a function or a class, found a name"),
    ("import a.\n", "1:10", "expected a name, found the end of the line"),
    ("a b\n", "1:3", "expected the end of the statement, found a name"),
    ("!a", "1:1", "'!' has a meaning only in '!=' and within format strings"),
    ("def f(*a, *b): pass", "1:11", "'*' is allowed only once among parameters"),
    ("match x:\n    a", "1:7", "expected the end of the statement, found a name"),
    ("match x:\n    case a: b\n    c", "3:5", "expected 'case', found a name"),
    ("async a", "1:7", "expected 'def', 'for' or 'with', found a name"),
    ("try:\n    a\nexcept A:\n    b\nexcept* B:\n    c", "6:6", "'except' and 'except*' cannot be in one 'try'"),
    ("a < b = 1", "1:1", "a comparison cannot be assigned to"),
    ("[x for x in y] = 1", "1:1", "a comprehension cannot be assigned to"),
    ("(x if y else z) = 1", "1:2", "a conditional expression cannot be assigned to"),
    ("{1: 2} = 1", "1:1", "a dictionary cannot be assigned to"),
    ("match x:\n    case {a: 1}: b", "2:12", "a key in a pattern is a literal or a dotted name"),
    ("a\\", "1:2", "'\\' joins lines only at the very end of a line"),
    ("(a := 1) = 2", "1:2", "a named expression cannot be assigned to"),
    ("if x: if y: z", "1:7", "expected a simple statement or an indented block, found 'if'"),
    ("(yield) = 1", "1:2", "a yield expression cannot be assigned to"),
    ("async def f():\n    await x = 1", "2:5", "an await expression cannot be assigned to"),
    ("a = \u{0}", "1:5", "a zero byte is not allowed in source code"),
    ("f'a", "1:4", "this format string is never closed"),
    ("a \\\n", "1:3", "a line is joined with a next line that is not there"),
];

#[test]
fn each_mistake_is_reported_once_at_its_place() {
    for (source, place, message) in CASES {
        let text = Text::new((*source).to_string());
        let tree = Language::Python.parse(&text);
        let found: Vec<String> = tree
            .faults()
            .iter()
            .map(|fault| {
                let at = text.place(fault.span.start);
                format!("{}:{} {}", at.line, at.column, fault.problem)
            })
            .collect();
        assert_eq!(found, [format!("{place} {message}")], "{source}");
    }
}

#[test]
fn every_rule_has_a_source_that_breaks_it() {
    crate::messages::assert_no_rule_is_missing("python", CASES.iter().map(|case| case.2));
}
