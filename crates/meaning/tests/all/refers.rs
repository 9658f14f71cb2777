//! What expressions refer to outside of their file.

use sieve_meaning::names_of;
use sieve_meaning::refers::outside;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Role};

/// What the callee of the last call that is a statement refers to, dotted.
fn callee(language: Language, source: &str) -> Option<String> {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "{source}: {:?}", tree.faults());
    let names = names_of(language, &text, &tree);
    let values = tree.nodes().filter(|node| node.kind() == Kind::ExpressionStatement);
    let values = values.filter_map(|statement| statement.child(Role::Value));
    let call = values.filter(|value| matches!(value.kind(), Kind::Call | Kind::New)).last().expect("a call");
    let callee = call.child(Role::Callee).expect("a callee");
    outside(language, &text, &names, callee).map(|found| found.dotted())
}

#[test]
fn names_of_python_lead_through_imports() {
    for (source, expected) in [
        ("import clock\nclock.now()\n", Some("clock.now")),
        ("import clock as c\nc.now.utc()\n", Some("clock.now.utc")),
        ("import tides.north\ntides.north.high()\n", Some("tides.north.high")),
        ("import tides.north as n\nn.high()\n", Some("tides.north.high")),
        ("from clock import now\nnow()\n", Some("clock.now")),
        ("from clock import now as then\nthen()\n", Some("clock.now")),
        ("from .clock import now\nnow()\n", Some(".clock.now")),
        ("from . import clock\nclock.now()\n", Some("..clock.now")),
        ("print(1)\n", Some("print")),
        ("(print)(1)\n", Some("print")),
        ("def f():\n    from clock import now\n    now()\n", Some("clock.now")),
        // Its own, assigned again, or not known.
        ("def now():\n    pass\nnow()\n", None),
        ("from clock import now\nnow = 1\nnow()\n", None),
        ("from clock import *\nnow()\n", None),
        ("later()\n", None),
        ("def f(clock):\n    clock.now()\n", None),
        ("import clock\nclock[0].now()\n", None),
        ("f()()\n", None),
    ] {
        assert_eq!(callee(Language::Python, source).as_deref(), expected, "{source}");
    }
}

#[test]
fn several_imports_of_one_name_refer_to_the_first() {
    let source = "try:\n    from clock import now\nexcept ImportError:\n    from watch import now\nnow()\n";
    assert_eq!(callee(Language::Python, source).as_deref(), Some("clock.now"));
}

#[test]
fn names_of_scripts_lead_through_imports_and_require() {
    for (source, expected) in [
        ("import { now } from 'clock'; now();", Some("clock.now")),
        ("import { now as then } from 'clock'; then();", Some("clock.now")),
        ("import clock from 'clock'; clock();", Some("clock.default")),
        ("import clock from 'clock'; clock.now();", Some("clock.default.now")),
        ("import * as clock from 'clock'; clock.now();", Some("clock.now")),
        ("import * as fs from 'node:fs'; fs.rm();", Some("fs.rm")),
        ("import { now } from './clock.js'; now();", Some("./clock.js.now")),
        ("const clock = require('clock'); clock.now();", Some("clock.now")),
        ("const { now } = require('clock'); now();", Some("clock.now")),
        ("const { now: then } = require('node:clock'); then();", Some("clock.now")),
        ("require('clock').now();", Some("clock.now")),
        ("Math.max(1);", Some("Math.max")),
        ("new Date();", Some("Date")),
        ("(Math).max(1);", Some("Math.max")),
        // Its own, assigned again, deeper in a pattern, or another `require`.
        ("function now() {} now();", None),
        ("let clock = require('clock'); clock = other; clock.now();", None),
        ("const { a: { now } } = require('clock'); now();", None),
        ("function f(require) { const c = require('clock'); c.now(); }", None),
        ("const { now } = load('clock'); now();", None),
        ("import 'clock'; now();", None),
        ("clock[now]();", None),
    ] {
        assert_eq!(callee(Language::JavaScript, source).as_deref(), expected, "{source}");
    }
    let typed = "import { type Quay, moor } from './quays'; moor!(1);";
    assert_eq!(callee(Language::TypeScript, typed).as_deref(), Some("./quays.moor"));
}
