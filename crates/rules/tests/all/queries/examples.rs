//! Each construct of the language at work.

use sieve_syntax::language::Language::{Python, Shell, Tsx, TypeScript};

use crate::queries::bench::{finds, finds_in, matches};
use sieve_rules::query::Query;
use sieve_syntax::text::Text;

#[test]
fn kinds_and_where_they_are() {
    finds("import inside function", Python, "import os\n\ndef sail():\n    «import tides\n");
    finds("import not inside function", Python, "«import os\n\ndef sail():\n    import tides\n");
    finds("catch { body directly holding pass }", Python, "try:\n    sail()\n«except E:\n    pass\n");
    finds("function holding await", TypeScript, "«async function sail() { await x; }\nfunction moor() {}\n");
    finds("call directly inside return", Python, "def f():\n    sail(1)\n    return «moor(tide())\n");
    finds(
        "function directly inside class",
        Python,
        "class Boat:\n    «def sail(self):\n        def inner():\n            pass\n",
    );
    finds(
        "(import or call { callee is \"require\" }) inside function",
        TypeScript,
        "require('a');\nfunction f() { «require('b'); }\n",
    );
    finds(
        "call inside (function inside class)",
        Python,
        "class A:\n    def f(self):\n        «g()\ndef h():\n    g()\n",
    );
}

#[test]
fn before_and_after_in_one_block() {
    let code = "def sail(boat):\n    «close(boat)\n    if boat:\n        close(boat)\n    use(boat)\n";
    finds("call { callee is \"close\" } before call { callee is \"use\" }", Python, code);
    let code = "def sail(boat):\n    use(boat)\n    close(boat)\n    «use(boat)\n    later(lambda: close(1))\n";
    finds("call { callee is \"use\" } after call { callee is \"close\" }", Python, code);
    finds("call { callee is \"use\" } not after call", Python, "«use(1)\nuse(2)\n");
    let nested = "def sail():\n    def moor():\n        close(1)\n    use(1)\n";
    finds("call { callee is \"use\" } after call { callee is \"close\" }", Python, nested);
}

#[test]
fn paths_lead_through_what_only_holds_together() {
    finds(
        "class { keyword.name is \"metaclass\" }",
        Python,
        "«class A(B, metaclass=M):\n    pass\nclass C(B):\n    pass\n",
    );
    finds(
        "function { count(parameter) > 2, not name starts \"test_\" }",
        Python,
        "«def a(b, c, d):\n    pass\ndef test_a(b, c, d):\n    pass\n",
    );
    finds(
        "element { tag is \"img\", not attribute.name is \"alt\" }",
        Tsx,
        "a = «<img src=\"x\"/>;\nb = <img alt=\"x\"/>;\nc = <i/>;\n",
    );
    finds(
        "call { argument.value is \"tide\" }",
        Python,
        "«sail('tide')\nsail(\"ti\" 'de')\n«sail(1, \"\"\"tide\"\"\")\n",
    );
    finds("call { argument exists, not argument.keyword-argument exists }", Python, "sail()\n«sail(1)\n");
    finds("function { doc exists }", Python, "«def sail():\n    \"\"\"Sails.\"\"\"\n\ndef moor():\n    pass\n");
    finds("function { not exported exists }", Python, "«def _sail():\n    pass\n\ndef moor():\n    pass\n");
}

#[test]
fn operators() {
    finds("name { text in [\"tide\", \"quay\"] }", Python, "«tide = «quay + boat\n");
    finds("name { text matches /^t.*e$/ }", Python, "«tide + title + stern\n".replace("title", "«title").as_str());
    finds("name { text like \"t*e\" }", Python, "«tide + stern\n");
    finds("name { text ends \"de\" }", Python, "«tide + quay\n");
    finds("number { value >= 10, value < 100 }", Python, "a = [9, «10, «0x20, 100]\n");
    finds("number { value is 10 }", Python, "a = [9, «1e1, «10]\n");
    finds("function { lines > 3 }", Python, "«def a():\n    b()\n    c()\n    d()\ndef e():\n    f()\n");
    finds("call { depth >= 2 }", Python, "def a():\n    b()\n    if c():\n        «d()\n");
    finds(
        "function { complexity(body) > 2 }",
        Python,
        "«def a():\n    if b:\n        c()\n    if d and e:\n        f()\ndef g():\n    pass\n",
    );
    finds("function { lines(body) = 1 }", Python, "«def a():\n    b()\ndef c():\n    d()\n    e()\n");
    finds("any { text is \"tide\" }", Python, "«tide = 3\n");
    finds("call { (callee is \"a\" or argument is \"b\") }", Python, "«a()\n«c(b)\nd()\n");
    finds("call { callee.name is \"eval\" }", Python, "«eval(x)\n«a.eval(x)\n");
    finds_in("import inside file { path like \"booking/**\" }", "booking/desk/a.py", Python, "«import os\n");
    finds_in("import not inside file { path in [\"lint/**\", \"tools/*.py\"] }", "tools/a.py", Python, "import os\n");
    finds("command { callee is \"rm\", not argument starts \"-\" }", Shell, "«rm tide\nrm -f tide\n");
}

#[test]
fn files_that_cannot_hold_a_match_are_told_without_parsing() {
    let may = |source: &str, text: &str| Query::new(source, &[Python]).expect(source).may_match(text.as_bytes());
    assert!(
        !may("call { callee.name is \"sail\" }", "moor()\n") && may("call { callee.name is \"sail\" }", "a.sail()\n")
    );
    assert!(may("call { not callee.name is \"sail\" }", "moor()\n"), "what is not there may be found");
    assert!(may("call { (callee is \"sail\" or callee is \"moor\") }", "moor()\n"));
    assert!(may("call { argument.value is \"é\" }", "moor('\\xe9')\n"), "values are written in many ways");
    assert!(may("name { text is \"é\" }", "x\n"), "other encodings have other bytes");
    assert!(may("call { callee refers \"tides.low\" }", "from tides import low as l\nl()\n"));
}

#[test]
fn captured_nodes_are_compared() {
    finds("call { argument as first, callee.object same first }", Python, "«a.b( a )\na.b(c)\n«a[1].b(a[ 1 ])\n");
    finds("assignment { repeated(target) }", Python, "a, b = c\n«a, b, a = c\n");
    let order = "call { callee.name is \"sail\", callee.object as boat } after call { callee.name is \"sink\", callee.object same boat }";
    finds(order, Python, "a.sink()\nb.sail()\n«a.sail()\n");
    let far = format!("a.sink()\n{}a.sail()\n", "x = 1\n".repeat(5000));
    let query = Query::new(order, &[Python]).unwrap();
    let found = matches(&query, "a.py", Python, &Text::new(far));
    assert_eq!((found.found.len(), found.unsure.len()), (0, 1), "too far away to be asked");
    finds("assignment as outer { value holding (name { text is \"x\" } inside call) }", Python, "«a = f(x)\nb = x\n");
}

#[test]
fn names_are_followed_and_what_cannot_be_known_is_told() {
    let refers = "call { callee refers \"datetime.datetime.now\" }";
    finds(
        refers,
        Python,
        "from datetime import datetime as day\nimport datetime as d\n«day.now()\n«d.datetime.now()\nx.now()\n",
    );
    finds("call { callee refers \"print\" }", Python, "«print(1)\n\n\ndef sail(print):\n    print(2)\n");
    finds(
        "call { callee refers \"console.log\" }",
        TypeScript,
        "«console.log(1);\nlet f = (console: any) => console.log(2);\n",
    );
    let query = Query::new("call { callee refers \"tides.low\" }", &[Python]).unwrap();
    assert!(query.needs_names());
    let found = matches(&query, "a.py", Python, &Text::new("from tides import *\nlow()\nhigh()\n".into()));
    assert_eq!((found.found.len(), found.unsure.len()), (0, 1), "a star import may bring the name");
    let query = Query::new("call { not callee refers \"tides.low\" }", &[Python]).unwrap();
    let found = matches(&query, "a.py", Python, &Text::new("from tides import *\nlow()\nhigh()\n".into()));
    assert_eq!((found.found.len(), found.unsure.len()), (1, 1), "not knowing is neither yes nor no");
}
