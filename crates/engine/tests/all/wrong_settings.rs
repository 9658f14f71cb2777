//! Wrong settings: each is refused with its place and with what would be right.

use sieve_engine::settings::Overrides;

use crate::folder::Folder;

/// What is said of a settings file.
fn said(text: &str) -> String {
    let folder = Folder::with(&[("sieve.toml", text), ("a.py", "x = 1\n")]);
    match folder.settings_for("a.py") {
        Ok(_) => "right".into(),
        Err(error) => error.to_string().replace(&format!("{}/", folder.root().display()), ""),
    }
}

#[track_caller]
fn assert_said(cases: &[(&str, &str)]) {
    for (text, expected) in cases {
        assert_eq!(said(text), *expected, "{text}");
    }
}

#[test]
fn values_of_the_whole_file() {
    assert_said(&[
        ("mesh = \"fin\"", "sieve.toml:1:8: \"fin\" is not a mesh; the nearest is \"fine\""),
        ("mash = \"fine\"", "sieve.toml:1:1: there is no setting \"mash\"; the nearest is \"mesh\""),
        ("mesh = 3", "sieve.toml:1:8: a mesh is wanted here, not the number 3"),
        ("fail-on = \"loud\"", "sieve.toml:1:11: \"loud\" is not a level; there are: off, note, warning, error"),
        (
            "only = \"leftover\"",
            "sieve.toml:1:8: a list of rules and concerns is wanted here, not the string \"leftover\"",
        ),
        (
            "only = [\"leftovers\"]",
            "sieve.toml:1:9: there is no rule or concern \"leftovers\"; the nearest is \"leftover\"",
        ),
        ("top = \"yes\"", "sieve.toml:1:7: true or false is wanted here, not the string \"yes\""),
        ("defaults = 3", "sieve.toml:1:12: a string is wanted here, not the number 3"),
    ]);
}

#[test]
fn rules_and_their_options() {
    assert_said(&[
        ("[rule]\n", "sieve.toml:1:2: there is no setting \"rule\"; the nearest is \"rules\""),
        (
            "[rules]\nlong-lines = \"off\"",
            "sieve.toml:2:1: there is no rule \"long-lines\"; the nearest is \"long-line\"",
        ),
        ("[rules]\nlong-line = \"of\"", "sieve.toml:2:13: \"of\" is not a level; the nearest is \"off\""),
        ("[rules]\nlong-line = 3", "sieve.toml:2:13: a level is wanted here, not the number 3"),
        (
            "[rules]\nlong-line = { limits = 3 }",
            "sieve.toml:2:15: long-line has no option \"limits\"; the nearest is \"limit\"",
        ),
        (
            "[rules]\nlong-line = { limit = -1 }",
            "sieve.toml:2:23: a whole number of at least zero is wanted here, not the number -1",
        ),
        (
            "[rules]\nlong-line = { limit = \"wide\" }",
            "sieve.toml:2:23: a whole number of at least zero is wanted here, not the string \"wide\"",
        ),
        (
            "[rules]\nmagic-number = { allowed = [\"a\"] }",
            "sieve.toml:2:29: a number is wanted here, not the string \"a\"",
        ),
        (
            "[rules]\nquote-style = { quotes = \"back\" }",
            "sieve.toml:2:26: \"back\" is not one of its words; there are: as-is, double, single",
        ),
    ]);
}

#[test]
fn patterns_and_languages() {
    assert_said(&[
        ("[files]\nskip = \"vendor\"", "sieve.toml:2:8: a list of patterns is wanted here, not the string \"vendor\""),
        ("[files]\nskip = [\"[\"]", "sieve.toml:2:9: \"[\" is no pattern: unclosed character class; missing ']'"),
        ("[files]\nlargest = -1", "sieve.toml:2:11: a whole number of at least zero is wanted here, not the number -1"),
        (
            "[files]\nlanguages = { \"*.inc\" = \"pythn\" }",
            "sieve.toml:2:25: \"pythn\" is not a language; the nearest is \"python\"",
        ),
        ("[files]\nskips = []", "sieve.toml:2:1: there is no setting \"files.skips\"; the nearest is \"skip\""),
    ]);
}

#[test]
fn tables_need_their_parts() {
    assert_said(&[
        (
            "[values]\n\"colour\" = [\"red\"]\n",
            "sieve.toml:2:1: \"colour\" names no value: a JSONPath such as \"$.quays[*].size\", or a block and a name in it such as \
             \"resource.quay_light.colour\", is wanted",
        ),
        (
            "[values]\n\"$.quays\" = \"red\"\n",
            "sieve.toml:2:13: a list of values is wanted here, not the string \"red\"",
        ),
        (
            "[values]\n\"$.quays\" = [[]]\n",
            "sieve.toml:2:14: a string, a number, or true or false is wanted here, not a list",
        ),
        ("[[scope]]\npaths = [\"a\"]\n", "sieve.toml:1:1: a scope needs `paths`, and `rules`, `naming` or `values`"),
        (
            "[[scope]]\nrules = { long-line = \"off\" }\nbecause = \"x\"",
            "sieve.toml:1:1: a scope needs `paths`, and `rules`, `naming` or `values`",
        ),
        ("[scope]\npaths = []", "sieve.toml:1:1: a list of tables, each headed [[scope]], is wanted here, not a table"),
        (
            "[[waive]]\npaths = [\"a\"]\nrules = [\"long-line\"]",
            "sieve.toml:1:1: a waiver needs `paths`, `rules` and `because`",
        ),
        (
            "[[waive]]\npaths = [\"a\"]\nrules = [\"long-lin\"]\nbecause = \"x\"",
            "sieve.toml:3:10: there is no rule or concern \"long-lin\"; the nearest is \"long-line\"",
        ),
        (
            "[[ban]]\nimport = \"a\"",
            "sieve.toml:1:1: a ban needs one of `import`, `call` and `member`, and a `because`",
        ),
        (
            "[[ban]]\nbecause = \"x\"",
            "sieve.toml:1:1: a ban needs one of `import`, `call` and `member`, and a `because`",
        ),
        (
            "[[ban]]\nimport = \"a\"\ncall = \"b\"\nbecause = \"x\"",
            "sieve.toml:2:1: a ban is for one thing; give each its own [[ban]]",
        ),
        ("[[budget]]\n", "sieve.toml:1:1: a budget needs `most`, the number of entries that the baseline may have"),
        (
            "[[budget]]\nmost = \"a\"",
            "sieve.toml:2:8: a whole number of at least zero is wanted here, not the string \"a\"",
        ),
    ]);
}

#[test]
fn styles_of_names() {
    assert_said(&[
        (
            "[naming]\nfunction = \"lower-snake\"",
            "sieve.toml:2:12: \"lower-snake\" is not a style of names; the nearest is \"lower_snake\"",
        ),
        (
            "[naming]\nfunctions = \"lower_snake\"",
            "sieve.toml:2:1: there is no setting \"naming.functions\"; the nearest is \"function\"",
        ),
    ]);
}

#[test]
fn what_is_no_toml() {
    assert_said(&[
        (
            "[rules]\nlong-line = { level = \"off\", level = \"note\" }",
            "sieve.toml:2:30: this is not TOML: duplicate key",
        ),
        ("mesh = \"fine\"\nmesh = \"coarse\"", "sieve.toml:2:1: this is not TOML: duplicate key"),
        ("mesh = ", "sieve.toml:1:8: this is not TOML: string values must be quoted, expected literal string"),
        ("[rules\n", "sieve.toml:1:7: this is not TOML: unclosed table, expected `]`"),
        ("\0", "sieve.toml:1:2: this is not TOML: key with no value, expected `=`"),
    ]);
}

#[test]
fn right_settings_are_right() {
    for text in [
        "",
        "# words\n",
        "mesh = \"fine\"\nfail-on = \"off\"\nonly = [\"leftover\", \"long-line\"]\n",
        "[rules]\nlong-line = \"off\"\nmagic-number = { level = \"note\", allowed = [-1, 0.5] }\n",
        "[rules.long-line]\nlevel = \"note\"\nlimit = 90\n",
        "[files]\nskip = [\"vendor/**\", \"!vendor/own\"]\nlargest = 10_000\nlanguages = { \"*.inc\" = \"python\" }\n",
        "[[scope]]\npaths = [\"a/**\"]\nbecause = \"on purpose\"\nrules = { long-line = \"off\" }\n",
        "[[waive]]\npaths = [\"a\"]\nrules = [\"long-line\"]\nbecause = \"old\"\nuntil = 2020-01-01\n",
        "[[waive]]\npaths = [\"a\"]\nrules = [\"long-line\"]\nbecause = \"old\"\nuntil = \"2020-01-01\"\n",
        "[[ban]]\nimport = \"a.b\"\nbecause = \"gone\"\n[[budget]]\nmost = 3\n",
        "[naming]\nfunction = \"lower_snake\"\n",
        "defaults = \"0.1\"\ntop = true\n",
    ] {
        assert_eq!(said(text), "right", "{text}");
    }
}

#[test]
fn a_wrong_file_above_or_below_is_named() {
    let folder = Folder::with(&[
        ("sieve.toml", "mesh = \"fine\"\n"),
        ("booking/sieve.toml", "mesh = \"fin\"\n"),
        ("booking/fares/a.py", "x = 1\n"),
        ("b.py", "x = 1\n"),
    ]);
    let settings = folder.settings(Overrides::default());
    assert!(settings.for_file(&folder.path("b.py")).is_ok(), "what is below does not count above");
    let error = settings.for_file(&folder.path("booking/fares/a.py")).expect_err("a wrong file above");
    assert_eq!(
        (error.path, error.place.map(|at| (at.line, at.column))),
        (folder.path("booking/sieve.toml"), Some((1, 8)))
    );
}

#[cfg(unix)]
#[test]
fn what_is_no_file_or_leads_away_is_refused() {
    let outside = Folder::with(&[("sieve.toml", "mesh = \"fine\"\n")]);
    let folder = Folder::with(&[("a.py", "x = 1\n")]);
    let refused = || folder.wrong_settings("a.py").message;
    std::fs::create_dir(folder.path("sieve.toml")).expect("a folder");
    assert_eq!(refused(), "cannot read it: it is a folder");
    std::fs::remove_dir(folder.path("sieve.toml")).expect("a folder");
    std::os::unix::fs::symlink(outside.path("sieve.toml"), folder.path("sieve.toml")).expect("a link");
    assert_eq!(refused(), "cannot read it: it is a link to a place outside of the code base");
    std::fs::remove_file(folder.path("sieve.toml")).expect("a link");
    std::os::unix::fs::symlink("/dev/zero", folder.path("sieve.toml")).expect("a link");
    assert_eq!(refused(), "cannot read it: it is a link to a place outside of the code base");
    std::fs::remove_file(folder.path("sieve.toml")).expect("a link");
    folder.write("sieve.toml", b"mesh = \"fine\" # \xff\n");
    assert_eq!(refused(), "this is not UTF-8");
}
