//! What teams ask for: each need is one query, in every language that has the thing.

use sieve_syntax::language::Language::{self, Python, Shell, Tsx, TypeScript};

use crate::queries::bench::{finds, finds_in};

/// A query that is the same in several languages.
#[track_caller]
fn finds_all(query: &str, codes: &[(Language, &str)]) {
    codes.iter().for_each(|(language, code)| finds(query, *language, code));
}

#[test]
fn imports() {
    finds_all(
        "import inside function",
        &[(Python, "import a\ndef f():\n    «import b\n"), (Python, "def f():\n    «from b import c\n")],
    );
    finds(
        "(call { callee is \"require\" } or call { callee.kind is \"import-call\" }) inside function",
        TypeScript,
        "const a = require('a');\nfunction f() { «require('b'); }\n",
    );
    finds(
        "import { (module is \"tides\" or item.module is \"tides\") }",
        Python,
        "«import tides\n«from tides import low\nimport quays\n",
    );
    finds(
        "import { module.value is \"tides\" }",
        TypeScript,
        "«import { low } from 'tides';\nimport { high } from './tides';\n",
    );
    finds("import", Python, "«import tides\n«from quays import north\nprint(1)\n");
}

#[test]
fn calls_that_are_not_wanted() {
    finds_all(
        "call { callee refers \"eval\" }",
        &[(Python, "«eval(x)\nquery.eval(x)\n"), (TypeScript, "«eval(x);\nquery.eval(x);\n")],
    );
    finds("call { callee refers \"print\" }", Python, "«print(1)\nself.print(2)\n");
    finds("call { callee.object refers \"console\" }", TypeScript, "«console.log(1);\nlogger.log(2);\n");
    let charge = "call { callee refers \"money.charge\" } not inside file { path like \"booking/**\" }";
    finds_in(charge, "web/desk.py", Python, "from money import charge\n«charge(1)\n");
    finds_in(charge, "booking/desk.py", Python, "from money import charge\ncharge(1)\n");
    let sleep = "call { callee refers \"time.sleep\" } inside file { path like \"tests/**\" }";
    finds_in(sleep, "tests/test_tides.py", Python, "import time\n«time.sleep(1)\n");
    let sleep = "call { callee refers \"setTimeout\" } inside file { path like \"**/*.test.ts\" }";
    finds_in(sleep, "web/tides.test.ts", TypeScript, "«setTimeout(() => 1, 2);\n");
    finds("command { callee is \"sleep\" }", Shell, "«sleep 3\necho sleep\n");
    finds_all(
        "call { argument.2.kind is \"string\" }",
        &[
            (Python, "«board(boat, 'late')\nboard('late', boat)\n"),
            (TypeScript, "«board(boat, 'late');\nboard('late');\n"),
        ],
    );
}

#[test]
fn the_environment_is_read_in_one_place() {
    let python = "(call { callee refers \"os.getenv\" } or subscript { object refers \"os.environ\" }) not inside file { path like \"settings/**\" }";
    finds_in(python, "booking/a.py", Python, "import os\n«os.getenv('A')\n«os.environ['A']\nboat['A']\n");
    finds_in(python, "settings/a.py", Python, "import os\nos.getenv('A')\n");
    finds(
        "member { object refers \"process.env\" }",
        TypeScript,
        "const a = «process.env.PORT;\nconst b = env.PORT;\n",
    );
}

#[test]
fn classes_and_what_they_have() {
    finds(
        "class { keyword.name is \"metaclass\" }",
        Python,
        "«class A(metaclass=M):\n    pass\nclass B(M):\n    pass\n",
    );
    finds(
        "class { argument is \"Boat\", not body directly holding function { name is \"sail\" } }",
        Python,
        "class A(Boat):\n    def sail(self):\n        pass\n«class B(Boat):\n    depth = 3\nclass C(Quay):\n    pass\n",
    );
    finds(
        "class { value is \"Boat\", not body directly holding function { name is \"sail\" } }",
        TypeScript,
        "class A extends Boat { sail() {} }\n«class B extends Boat { moor() {} }\nclass C extends Quay {}\n",
    );
    finds_in(
        "function { not decorator exists } inside file { path like \"views/**\" }",
        "views/board.py",
        Python,
        "@page\ndef board():\n    pass\n\n\n«def hidden():\n    pass\n",
    );
}

#[test]
fn functions_and_what_they_take() {
    finds(
        "function { count(parameter) > 3, not name is \"__init__\" }",
        Python,
        "«def a(b, c, d, e):\n    pass\nclass B:\n    def __init__(self, c, d, e):\n        pass\n",
    );
    finds(
        "function { count(parameter) > 3, not name is \"constructor\" }",
        TypeScript,
        "«function a(b, c, d, e) {}\nclass B { constructor(b, c, d, e) {} }\n",
    );
    finds("assignment { repeated(target) }", Python, "«low, low = tides\nlow, high = tides\n");
}

#[test]
fn tests_assert_something() {
    finds(
        "function { name starts \"test_\", not body holding assert, not body holding call { callee.name starts \"assert\" } }",
        Python,
        "def test_a():\n    assert b\ndef test_c(self):\n    self.assertEqual(1, 1)\n«def test_d():\n    e()\n",
    );
    finds(
        "call { callee is \"it\", not argument holding call { callee is \"expect\" } }",
        TypeScript,
        "it('a', () => { expect(1).toBe(1); });\n«it('b', () => { run(); });\n",
    );
}

#[test]
fn handlers_do_more_than_log() {
    finds(
        "catch { count(statement) = 1, body directly holding (expression-statement holding call { callee.object is \"log\" }) }",
        Python,
        "try:\n    a()\n«except E:\n    log.error('x')\nexcept F:\n    log.error('y')\n    raise\n",
    );
    finds(
        "catch { count(statement) = 1, body directly holding (expression-statement holding call { callee.object is \"log\" }) }",
        TypeScript,
        "try { a(); } «catch (e) { log.error(e); }\ntry { a(); } catch (e) { log.error(e); throw e; }\n",
    );
}

#[test]
fn order_and_comparisons() {
    let order = "call { callee.name is \"use\", callee.object as boat } after call { callee.name is \"close\", callee.object same boat }";
    finds_all(order, &[(Python, "a.close()\n«a.use()\nb.use()\n"), (TypeScript, "a.use();\na.close();\n«a.use();\n")]);
    finds_all(
        "comparison { operand.kind is \"string\" }",
        &[
            (Python, "if «kind == 'late':\n    pass\nif a == b:\n    pass\n"),
            (TypeScript, "if («kind === 'late') a();\nif (a === b) c();\n"),
        ],
    );
}

#[test]
fn names_tags_and_options() {
    finds_in("file { not path matches /(^|\\/)[a-z_]+\\.py$/ }", "booking/lateFares.py", Python, "«x = 1\n");
    finds_in("file { not path matches /(^|\\/)[a-z_]+\\.py$/ }", "booking/late_fares.py", Python, "x = 1\n");
    finds(
        "element { tag is \"Quay\", not attribute.name is \"depth\" }",
        Tsx,
        "export const a = «<Quay name=\"north\" />;\nexport const b = <Quay depth={3}></Quay>;\n",
    );
    finds(
        "command { callee is \"curl\", not argument is \"--fail\" }",
        Shell,
        "«curl https://tides.example\ncurl --fail https://tides.example\n",
    );
}
