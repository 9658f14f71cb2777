//! What names represent in Python, one rule of the language a test.

use sieve_meaning::names::{Exports, Names, Resolution, ScopeKind, Unknown};
use sieve_meaning::names_of;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

fn with_names<T>(source: &str, work: impl FnOnce(&Names<'_>) -> T) -> T {
    let text = Text::new(source.to_string());
    let tree = Language::Python.parse(&text);
    work(&names_of(Language::Python, &text, &tree))
}

/// The names that nothing binds, in the order of the text.
fn undefined(source: &str) -> Vec<String> {
    with_resolution(source, |resolution| resolution == Resolution::Undefined)
}

/// The names of which nothing can be known.
fn unknown(source: &str, reason: Unknown) -> Vec<String> {
    with_resolution(source, |resolution| resolution == Resolution::Unknown(reason))
}

fn with_resolution(source: &str, wanted: impl Fn(Resolution) -> bool) -> Vec<String> {
    with_names(source, |names| {
        let found = names.references().filter(|reference| wanted(reference.resolution));
        found.map(|reference| names.text(reference.name).to_string()).collect()
    })
}

/// How often the bindings of a name are used, in the order in which their scopes bind it.
fn uses(source: &str, name: &str) -> Vec<u32> {
    with_names(source, |names| {
        names.bindings().filter(|binding| names.text(binding.name) == name).map(|binding| binding.uses).collect()
    })
}

#[test]
fn functions_see_the_file_and_each_other() {
    assert!(undefined("def a():\n    return b() + C\n\ndef b():\n    return a\n\nC = 1\n").is_empty());
    assert_eq!(undefined("def a():\n    x = 1\n\nprint(x)\n"), ["x"]);
}

#[test]
fn names_of_a_class_are_seen_only_directly_in_it() {
    assert!(undefined("class A:\n    x = 1\n    y = x\n").is_empty());
    assert_eq!(undefined("class A:\n    x = 1\n    def f(self):\n        return x\n"), ["x"]);
    assert_eq!(undefined("class A:\n    x = 1\n    y = [x for _ in ()]\n"), ["x"]);
    assert!(undefined("class A:\n    x = [1]\n    y = [z for z in x]\n").is_empty());
}

#[test]
fn a_class_that_binds_a_name_may_still_use_the_one_around_it_first() {
    assert_eq!(uses("import quays\nclass A:\n    quays = quays.all()\n", "quays"), [1, 1]);
}

#[test]
fn comprehensions_have_a_scope_and_their_first_loop_has_not() {
    assert_eq!(undefined("[x for x in y]\n"), ["y"]);
    assert_eq!(undefined("[x for x in ()]\nx\n"), ["x"]);
    assert!(undefined("[y for x in () for y in x if y]\n").is_empty());
}

#[test]
fn a_walrus_binds_around_comprehensions() {
    assert!(undefined("def f():\n    [last := x for x in ()]\n    return last\n").is_empty());
    assert!(undefined("if (n := 1) > 0:\n    print(n)\n").is_empty());
}

#[test]
fn parameters_defaults_and_decorators_have_their_own_places() {
    assert_eq!(undefined("def f(a, b=a):\n    return b\n"), ["a"]);
    assert_eq!(undefined("@f\ndef f():\n    pass\n"), Vec::<String>::new());
    assert_eq!(undefined("lambda a, *b, c=d, **e: (a, b, c, e, g)\n"), ["d", "g"]);
    assert_eq!(undefined("class A(B, metaclass=C):\n    pass\n"), ["B", "C"]);
}

#[test]
fn global_and_nonlocal_lead_elsewhere() {
    assert!(undefined("def f():\n    global x\n    x = 1\n\nprint(x)\n").is_empty());
    let source = "def a():\n    x = 0\n    def b():\n        def c():\n            nonlocal x\n            x = 1\n        c()\n    b()\n    return x\n";
    assert_eq!(uses(source, "x"), [1]);
}

#[test]
fn deletion_binds_and_uses() {
    assert_eq!(uses("import os\ndel os\n", "os"), [1]);
}

#[test]
fn patterns_bind_their_names() {
    let source = "match x:\n    case [a, *b] if a:\n        b\n    case {'k': c, **d}:\n        (c, d)\n    case P(q=e) | e:\n        e\n    case _:\n        _\n";
    assert_eq!(undefined(source), ["x", "P", "_"]);
}

#[test]
fn type_parameters_are_seen_in_the_whole_function() {
    assert!(undefined("def f[T](x: T) -> T:\n    y: T = x\n    return y\n").is_empty());
    assert!(undefined("class A[T]:\n    def f(self, x: T) -> T: ...\n").is_empty());
    assert!(undefined("type Pair[T] = tuple[T, T]\nPair\n").is_empty());
    assert_eq!(undefined("def f[T](): ...\nT\n"), ["T"]);
}

#[test]
fn strings_in_annotations_hold_names() {
    assert_eq!(undefined("def f(x: 'Boat', y: list['Quay']) -> 'Tide': ...\n"), ["Boat", "Quay", "Tide"]);
    assert!(
        undefined("from typing import Literal, Annotated\nx: Literal['fast']\ny: Annotated[int, 'at least one']\n")
            .is_empty()
    );
    assert_eq!(uses("import tides\nx: 'tides.Table' = None\n", "tides"), [1]);
    assert_eq!(uses("import typing as t\nx: \"t.Literal['\\\\n']\" = None\n", "t"), [1]);
}

#[test]
fn text_that_is_no_type_is_never_undefined() {
    assert!(undefined("x: 'not a type at all' = 1\n").is_empty());
}

#[test]
fn the_list_of_exports_uses_names() {
    let source = "import a, b, c\n__all__ = ['a']\n__all__ += ['b']\n__all__.append('c')\n";
    assert_eq!(uses(source, "a"), [1]);
    assert_eq!(uses(source, "b"), [1]);
    assert_eq!(uses(source, "c"), [1]);
    assert_eq!(with_names(source, |names| names.exports()), Exports::Listed);
    assert_eq!(with_names("__all__ = [n for n in dir()]\n", |names| names.exports()), Exports::Unknown);
    assert_eq!(with_names("x = 1\n", |names| names.exports()), Exports::Unlisted);
}

#[test]
fn what_cannot_be_told_has_its_reason() {
    assert_eq!(unknown("from tides import *\nhigh\n", Unknown::StarImport), ["high"]);
    assert_eq!(unknown("exec('x = 1')\nx\n", Unknown::MadeAtRunTime), ["x"]);
    assert_eq!(unknown("import sys\nsys.modules[__name__]\nx\n", Unknown::MadeAtRunTime), ["x"]);
    assert_eq!(unknown("@enum.global_enum\nclass Tide: ...\nHIGH\nimport enum\n", Unknown::MadeAtRunTime), ["HIGH"]);
    assert_eq!(
        unknown("try:\n    unicode\nexcept NameError:\n    pass\nunicode\n", Unknown::Handled),
        ["unicode", "unicode"]
    );
    assert_eq!(unknown("x = )\ny\n", Unknown::BrokenSyntax), ["y"]);
}

#[test]
fn a_function_that_looks_at_its_names_does_not_make_names_for_others() {
    assert_eq!(undefined("def f():\n    return locals()\n\nx\n"), ["x"]);
}

#[test]
fn builtins_are_known_unless_they_are_bound() {
    with_names("print\nlist = 1\nlist\n", |names| {
        let resolutions: Vec<Resolution> = names.references().map(|reference| reference.resolution).collect();
        assert_eq!(resolutions[0], Resolution::Builtin);
        assert!(matches!(resolutions[1], Resolution::Binding(_)));
    });
}

#[test]
fn names_that_are_equal_in_compatibility_form_are_one() {
    assert_eq!(uses("ﬁsh = 1\nfish\n", "fish"), [1]);
}

#[test]
fn scopes_know_their_sort_and_surroundings() {
    with_names("class A:\n    def f(self):\n        return [x for x in self]\n", |names| {
        let inner = names.references().last().expect("a use").scope;
        assert_eq!(names.scope(inner).kind, ScopeKind::Function);
        let class = names.scope(inner).parent.expect("a class");
        assert_eq!(names.scope(class).kind, ScopeKind::Class);
        assert!(names.lookup(class, "f").is_some());
        assert!(names.lookup(class, "g").is_none());
    });
}
