//! Queries at random, and code to ask them of.

use proptest::prelude::*;

pub const CODE: &[&str] = &[
    "import os\nfrom tides import *\n\n\ndef sail(boat, quay=1):\n    if boat.late:\n        return moor(quay, low(boat))\n    moor(boat)\n    print('tide', 3)\n    a, b, a = boat\n",
    "class Quay(Pier, key=1):\n    depth = 3\n\n    def sail(self, boat):\n        for one in boat:\n            try:\n                self.moor(one, 'x')\n            except Error:\n                pass\n        return [lambda x: moor(x, boat)]\n",
    "print(print(1, 2), moor(moor(boat)))\nx = f(x)\nif x:\n    import tides\nelse:\n    moor(3)\n",
];

pub const KINDS: &[&str] =
    &["any", "call", "function", "name", "block", "import", "string", "if", "class", "arguments", "assignment"];
pub const PATHS: &[&str] = &[
    "name",
    "callee",
    "argument",
    "body",
    "text",
    "target",
    "value",
    "argument.2",
    "argument.1.kind",
    "callee.name",
    "argument.value",
    "lines",
    "depth",
];
pub const TESTS: &[&str] = &[
    "is \"moor\"",
    "is \"boat\"",
    "in [\"x\", \"print\"]",
    "matches /^[a-m]/",
    "starts \"b\"",
    "ends \"t\"",
    "like \"m*\"",
    "> 1",
    "= 3",
    "exists",
    "refers \"print\"",
    "refers \"tides.low\"",
];
pub const WAYS: &[&str] = &["inside", "holding", "directly inside", "directly holding", "after", "before"];

pub fn pick(words: &'static [&'static str]) -> impl Strategy<Value = String> {
    proptest::sample::select(words).prop_map(str::to_string)
}

fn not() -> impl Strategy<Value = &'static str> {
    prop_oneof![3 => Just(""), 1 => Just("not ")]
}

/// A term of the grammar, as text.
pub fn term() -> impl Strategy<Value = String> {
    let test = (not(), pick(PATHS), pick(TESTS)).prop_filter_map("a test of a path", |(not, path, test)| {
        let is_attribute = matches!(path.as_str(), "text" | "value" | "lines" | "depth");
        (!(is_attribute && test.starts_with("refers"))).then(|| format!("{not}{path} {test}"))
    });
    let function =
        (not(), prop_oneof![Just("count"), Just("repeated"), Just("lines"), Just("complexity")], pick(PATHS))
            .prop_map(|(not, function, path)| format!("{not}{function}({path}) > 1"));
    let leaf = (pick(KINDS), proptest::collection::vec(prop_oneof![4 => test, 1 => function], 0..3))
        .prop_map(|(kind, tests)| if tests.is_empty() { kind } else { format!("{kind} {{ {} }}", tests.join(", ")) });
    leaf.prop_recursive(3, 12, 3, |inner| {
        let related = (inner.clone(), not(), pick(WAYS), inner.clone())
            .prop_map(|(one, not, way, other)| format!("({one} {not}{way} {other})"));
        let either = (inner.clone(), inner.clone()).prop_map(|(one, other)| format!("({one} or {other})"));
        let within = (pick(KINDS), not(), pick(PATHS), pick(WAYS), inner.clone())
            .prop_map(|(kind, not, path, way, other)| format!("{kind} {{ {not}{path} {way} {other} }}"));
        let same = (pick(KINDS), pick(PATHS), pick(PATHS))
            .prop_map(|(kind, one, other)| format!("{kind} {{ {one} as x, {other} same x }}"));
        prop_oneof![related, either, within, same]
    })
}
