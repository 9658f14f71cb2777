//! Variables that are local to a function of a shell script, and whether anything mentions them.

use sieve_meaning::names::{Names, Resolution, ScopeKind};
use sieve_meaning::names_of;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

fn with_names<T>(source: &str, work: impl FnOnce(&Names<'_>) -> T) -> T {
    let text = Text::new(source.to_string());
    let tree = Language::Shell.parse(&text);
    assert!(tree.faults().is_empty(), "{source}: {:?}", tree.faults());
    work(&names_of(Language::Shell, &text, &tree))
}

/// The local variables with how often they are mentioned.
fn locals(source: &str) -> Vec<(String, u32)> {
    with_names(source, |names| {
        let is_local =
            |binding: &&sieve_meaning::names::Binding| names.scope(binding.scope).kind == ScopeKind::Function;
        names.bindings().filter(is_local).map(|one| (names.text(one.name).to_string(), one.uses)).collect()
    })
}

fn assert_locals(source: &str, expected: &[(&str, bool)]) {
    let found = locals(&format!("#!/bin/bash\n{source}\n"));
    let found: Vec<(&str, bool)> = found.iter().map(|(name, uses)| (name.as_str(), *uses > 0)).collect();
    assert_eq!(found, expected, "{source}");
}

#[test]
fn local_variables_are_those_of_their_function() {
    assert_locals("f() { local quay=1; echo \"$quay\"; }", &[("quay", true)]);
    assert_locals("f() { local quay=1; }", &[("quay", false)]);
    assert_locals("f() { local quay tide; echo $tide; }", &[("quay", false), ("tide", true)]);
    assert_locals("f() { declare quay=1; typeset tide=2; }", &[("quay", false), ("tide", false)]);
    assert_locals("f() { quay=1; }", &[]);
    assert_locals("local quay=1", &[]);
    assert_locals("function f { local quay=1; }", &[("quay", false)]);
}

#[test]
fn every_form_of_an_expansion_mentions_a_variable() {
    for expansion in [
        "${quay}",
        "${quay%-*}",
        "${quay:-1}",
        "${#quay}",
        "${quay[0]}",
        "$((quay + 1))",
        "${!quay}",
        "\"a $quay b\"",
        "`echo $quay`",
        "$(echo $quay)",
        "${other:-$quay}",
        "<(cat $quay)",
    ] {
        assert_locals(&format!("f() {{ local quay=1; echo {expansion}; }}"), &[("quay", true)]);
    }
    assert_locals("f() { local quay=1; (( quay++ )); }", &[("quay", true)]);
    assert_locals("f() { local quay=1; [[ -v quay ]]; }", &[("quay", true)]);
    assert_locals("f() { local quay=1; cat <<E\n$quay\nE\n}", &[("quay", true)]);
    // A string may be run as code later.
    assert_locals("f() { local quay=1; echo '$quay'; }", &[("quay", true)]);
    assert_locals("f() { local quay=1; echo quays aquay; }", &[("quay", false)]);
}

#[test]
fn a_function_that_is_called_sees_the_variables_of_its_caller() {
    assert_locals("f() { local quay=1; g; }\ng() { echo $quay; }", &[("quay", true)]);
}

#[test]
fn code_from_elsewhere_makes_it_unknown() {
    for more in ["source moor.sh", ". moor.sh", "eval \"$1\"", "trap 'echo $quay' EXIT"] {
        let source = format!("#!/bin/bash\nf() {{ local quay=1; {more}; }}\n");
        let is_unknown = with_names(&source, |names| {
            names.bindings().any(|one| names.scope(one.scope).may_use.is_some())
                || names.references().any(|one| matches!(one.resolution, Resolution::Unknown(_)))
        });
        assert!(is_unknown, "{more}");
    }
}
