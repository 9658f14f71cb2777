//! What is there for shells and readers of manuals: completion in the shells themselves, pages, the version.

use std::process::Command;

use crate::ferry::{Ferry, has, missing};

/// The script for a shell, in a file.
fn script(ferry: &Ferry, shell: &str) -> String {
    let run = ferry.run(&["completions", shell]);
    assert_eq!((run.status, run.err.as_str()), (0, ""));
    ferry.write(&format!("{shell}.script"), &run.out);
    ferry.path(&format!("{shell}.script")).display().to_string()
}

fn said(command: &mut Command) -> String {
    let output = command.output().expect("the shell runs");
    String::from_utf8_lossy(&output.stdout).into_owned() + &String::from_utf8_lossy(&output.stderr)
}

/// Lines and the words on them that may follow: of a command, of an option, of the value of one.
const LINES: &[(&str, &[&str])] = &[
    ("hsieve si", &["sift"]),
    ("hsieve sift --me", &["--mesh"]),
    ("hsieve settings u", &["upgrade"]),
    ("hsieve merge --outp", &["--output"]),
    ("hsieve explain --output ", &["text", "markdown"]),
];

#[test]
fn bash_completes() {
    if !has("bash") {
        return missing("bash");
    }
    let ferry = Ferry::empty();
    let script = script(&ferry, "bash");
    for (line, wanted) in LINES {
        let words: Vec<&str> = line.split(' ').collect();
        let list: String = words.iter().map(|word| format!(" '{word}'")).collect();
        let text = format!(
            "source '{script}'; COMP_WORDS=({list} ); COMP_CWORD={}; _hsieve hsieve '{}' '{}'; printf '%s\\n' \"${{COMPREPLY[@]}}\"",
            words.len() - 1,
            words[words.len() - 1],
            words[words.len() - 2],
        );
        let found = said(Command::new("bash").args(["--norc", "-c", &text]));
        wanted.iter().for_each(|word| assert!(found.lines().any(|found| found == *word), "{line}: {found}"));
    }
}

#[test]
fn fish_completes() {
    if !has("fish") {
        return missing("fish");
    }
    let ferry = Ferry::empty();
    let script = script(&ferry, "fish");
    for (line, wanted) in LINES {
        let mut command = Command::new("fish");
        command.args(["--no-config", "-c", &format!("source '{script}'; complete --do-complete '{line}'")]);
        let found = said(command.env("HOME", ferry.path(".")));
        let first = |found: &str| found.split('\t').next().unwrap_or_default().to_string();
        wanted.iter().for_each(|word| assert!(found.lines().any(|line| first(line) == *word), "{line}: {found}"));
    }
}

/// A shell that completes needs a terminal: it is run on one of its own, and shows what it would offer.
const ZSH: &str = r#"
zmodload zsh/zpty
zpty shell zsh -f -i
zpty -w shell "source $1"
zpty -r -m shell out '*ready*'
zpty -w -n shell "$2"$'\t'
zpty -r -m shell out '*offered*'
print -r -- "$out"
"#;

/// What that shell reads first, from a file, so that the terminal shows neither word before its time.
///
/// A shell draws nothing while keys wait to be read: the key that asks draws the list itself and says when it has.
const ZSH_SETUP: &str = r#"
PS1=; unsetopt zle_bracketed_paste
autoload -Uz compinit; compinit -u -d $HOME/dump
source $HOME/zsh.script
zstyle ":completion:*" list-packed no; LISTMAX=0; zstyle ":completion:*:default" list-prompt ""
offer() { zle list-choices; zle -R; print offered }
zle -N offer; bindkey "^I" offer
print ready
"#;

#[test]
fn zsh_completes() {
    if !has("zsh") {
        return missing("zsh");
    }
    let ferry = Ferry::empty();
    script(&ferry, "zsh");
    ferry.write("ask.zsh", ZSH);
    ferry.write("setup.zsh", ZSH_SETUP);
    for (line, wanted) in LINES {
        let mut command = Command::new("zsh");
        command
            .arg("-f")
            .arg(ferry.path("ask.zsh"))
            .arg(ferry.path("setup.zsh"))
            .arg(line)
            .env("HOME", ferry.path("."))
            .env("TERM", "dumb");
        let found = said(&mut command);
        let offered = found.replace(line, "");
        wanted.iter().for_each(|word| assert!(offered.contains(word), "{line}: {found}"));
    }
}

#[test]
fn every_page_that_a_page_names_is_there() {
    let ferry = Ferry::empty();
    std::fs::create_dir(ferry.path("man")).expect("a folder");
    let run = ferry.run(&["man", "--to", "man"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let names: Vec<String> = std::fs::read_dir(ferry.path("man"))
        .expect("a folder")
        .map(|entry| entry.expect("an entry").file_name().to_string_lossy().into_owned())
        .collect();
    assert!(run.out.contains(&format!("{} pages", names.len())), "{}", run.out);
    let mut named = 0;
    for name in &names {
        let text = ferry.read(&format!("man/{name}"));
        assert!(text.contains(".TH hsieve"), "{name}");
        for page in text.lines().filter_map(|line| line.trim().strip_suffix("(1)")) {
            let page = page.replace("\\-", "-");
            assert!(names.contains(&format!("{page}.1")), "{name} names {page}");
            named += 1;
        }
    }
    assert!(named >= names.len() - 1, "{named}");
    assert_eq!(ferry.run(&["man", "sift"]).out, ferry.read("man/hsieve-sift.1"));
    assert_eq!(ferry.run(&["man"]).out, ferry.read("man/hsieve.1"));
    assert!(ferry.run(&["man", "settings-set"]).out.contains("hsieve\\-settings\\-set"));
    let wrong = ferry.run(&["man", "sfit"]);
    assert_eq!(
        (wrong.status, wrong.err.as_str()),
        (2, "hsieve: there is no command \"sfit\"; the nearest is \"sift\"\n")
    );
    assert_eq!(ferry.run(&["man", "--to", "no/such"]).status, 3);
}

#[test]
fn the_version_tells_one_build_from_another() {
    let ferry = Ferry::empty();
    let run = ferry.run(&["--version"]);
    let lines: Vec<&str> = run.out.lines().collect();
    assert_eq!((run.status, lines[0]), (0, concat!("hsieve ", env!("CARGO_PKG_VERSION"))));
    for (line, label) in lines[1..].iter().zip(["revision", "build", "target", "rules"]) {
        assert!(line.trim_start().starts_with(label) && line.split_whitespace().count() == 2, "{line}");
    }
    assert_eq!(ferry.run(&["-V"]).out, run.out);
    let program = std::fs::read(assert_cmd::cargo::cargo_bin("hsieve")).expect("the program");
    let build = format!("{:032x}", xxhash_rust::xxh3::xxh3_128(&program));
    assert!(lines[2].ends_with(&build[..12]), "{} {build}", lines[2]);
}
