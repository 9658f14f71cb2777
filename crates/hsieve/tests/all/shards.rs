//! Shards: joined, they say what one run over everything says.

use std::path::{Path, PathBuf};

use crate::ferry::{Ended, Ferry, ended, has, missing};
use crate::library::copy_of_library;
use crate::packages::{PARTS, copy, reference};

/// A pack of the languages that are sifted here.
fn pack() -> String {
    crate::forms::PACK.replace("[\"python\"]", "[\"python\", \"typescript\", \"javascript\"]")
}

const SETTINGS: &str = "packs = [\"ferry.toml\"]\nmesh = \"fine\"\n\n[rules]\nunused-export = \"warning\"\nunused-function = \"warning\"\n\
    letter-case-clash = \"error\"\n\n[[waive]]\npaths = [\"**/a*\"]\nrules = [\"long-line\"]\nbecause = \"as it came\"\n\n\
    [[budget]]\nrules = [\"unused-import\"]\nmost = 3\n";

/// Files that depend on each other, so that what is said of one is often known by another shard only.
fn ferry() -> Ferry {
    let ferry = Ferry::with(&[("ferry.toml", &pack()), ("sieve.toml", SETTINGS)]);
    ferry.write("fares.py", "def child(age):\n    return age\n\n\nasync def book(day):\n    return day\n");
    let copied = "    rows = [quay for quay in day]\n    rows.sort()\n    total = sum(rows)\n    first = rows[0]\n    last = rows[-1]\n    \
        print(total, first, last)\n    return rows, total, first, last, len(rows)\n";
    for number in 0..30 {
        let text = format!(
            "import os\nfrom fares import child, book\n\n\ndef plan{number}(day):\n    child({number}, 2)\n    book({number})\n{copied}"
        );
        ferry.write(&format!("quays/quay{number:02}.py"), text);
        ferry.write(
            &format!("web/dock{number:02}.ts"),
            format!("import {{ dock{} }} from './dock{:02}';\nexport const dock{number} = 1;\nexport const spare{number} = dock{};\n", number + 1, number + 1, number + 1),
        );
    }
    ferry
}

const ALL: &[&str] = &["json", "sarif", "counts", "cards", "junit", "jsonl", "markdown", "lines"];

/// For code bases with so many findings that each form takes its time.
const FEW: &[&str] = &["json", "sarif", "counts"];

/// What a command writes in some forms, its exit status, and the account without its time.
fn forms(ferry: &Ferry, command: &[&str], wanted: &[&str]) -> (i32, String, Vec<Vec<u8>>) {
    let files: Vec<String> = wanted.iter().map(|form| format!(".git/out.{form}")).collect();
    let outputs = wanted.iter().zip(&files).flat_map(|(form, file)| ["--output", form, "--to", file]);
    let mut arguments: Vec<&str> = command.iter().copied().chain(outputs).collect();
    arguments.extend(["--held", "--unsure", "--left-out"]);
    // The density of the run before is none of the run's own.
    let _ = std::fs::remove_dir_all(ferry.path(".git/kept/state"));
    let Ended { status, out, err } = ferry.run(&arguments);
    assert_eq!(out, "");
    let account = err.lines().map(|line| line.split(" in ").next().unwrap_or_default().to_owned() + "\n").collect();
    let written = |file: &String| std::fs::read(ferry.path(file)).unwrap_or_else(|_| panic!("{file}: {err}"));
    (status, account, files.iter().map(written).collect())
}

/// Sifts all shards; gives their files.
fn parts(ferry: &Ferry, count: usize, more: &[&str]) -> Vec<String> {
    let part = |number: usize| {
        let (shard, file) = (format!("{number}/{count}"), format!("{number}.part"));
        let mut arguments = vec!["sift", "--shard", &shard, "--to", &file];
        arguments.extend(more);
        let run = ferry.run(&arguments);
        assert_eq!((run.status, run.out.as_str()), (0, ""), "{}", run.err);
        assert!(run.err.starts_with(&format!("Sifted shard {number} of {count}: ")), "{}", run.err);
        file
    };
    (1..=count).map(part).collect()
}

fn merge<'a>(parts: &'a [String], more: &[&'a str]) -> Vec<&'a str> {
    ["merge"].into_iter().chain(parts.iter().map(String::as_str)).chain(more.iter().copied()).collect()
}

/// Whether the shards of a code base come to what a run over everything comes to.
fn assert_same(ferry: &Ferry, counts: &[usize], wanted: &[&str]) {
    let whole = forms(ferry, &["sift", "--no-cache"], wanted);
    assert!(whole.2[0].len() > 1000, "something is found");
    for count in counts {
        let parts = parts(ferry, *count, &["--no-cache"]);
        let joined = forms(ferry, &merge(&parts, &[]), wanted);
        assert_eq!((whole.0, &whole.1), (joined.0, &joined.1), "{count} shards");
        for ((one, other), form) in whole.2.iter().zip(&joined.2).zip(wanted) {
            assert!(one == other, "{count} shards, {form}");
        }
    }
}

#[test]
fn joined_shards_are_one_run_over_everything() {
    let ferry = ferry();
    assert_same(&ferry, &[1, 2, 3, 7], ALL);
    // More shards than files: some are empty.
    assert_same(&ferry, &[90], ALL);
    assert_eq!(ferry.run(&["baseline", "take", "--only", "magic-number"]).status, 0);
    ferry.write("quays/quay07.py", "def plan7(day):\n    return day\n");
    std::fs::rename(ferry.path("quays/quay09.py"), ferry.path("quays/late.py")).expect("renaming");
    assert_same(&ferry, &[2, 3], ALL);
    assert!(ferry.run(&["sift", "--output", "counts"]).out.contains("paid off"), "the baseline counts");
}

#[test]
fn joined_shards_of_a_library_are_one_run() {
    if !has("python3") {
        return missing("python3");
    }
    let settings = SETTINGS.replace("fine", "medium");
    let ferry = Ferry::with(&[("ferry.toml", &pack()), ("sieve.toml", &settings)]);
    assert!(copy_of_library(&ferry.path("library")) > 500);
    assert_eq!(ferry.run(&["baseline", "take", "--only", "unused-import"]).status, 2, "the budget is kept");
    ferry.write("sieve.toml", settings.replace("most = 3", "most = 3000"));
    assert_eq!(ferry.run(&["baseline", "take", "--only", "unused-import,mistake"]).status, 0);
    assert_same(&ferry, &[2, 3, 7], FEW);
}

#[test]
fn joined_shards_of_packages_are_one_run() {
    let modules = reference().join("node_modules");
    if !modules.is_dir() {
        return missing("the packages of the references");
    }
    let ferry = Ferry::with(&[("ferry.toml", &pack()), ("sieve.toml", SETTINGS)]);
    for part in PARTS {
        copy(&modules.join(part), &ferry.path(part), Path::new(""), &mut Vec::new());
    }
    assert_same(&ferry, &[2, 3, 7], FEW);
}

#[test]
fn shards_use_the_cache_and_leave_it_to_the_others() {
    let ferry = ferry();
    let whole = forms(&ferry, &["sift"], ALL);
    for _ in 0..2 {
        let parts = parts(&ferry, 3, &[]);
        assert!(forms(&ferry, &merge(&parts, &[]), ALL) == whole);
        assert!(forms(&ferry, &["sift"], ALL) == whole);
    }
}

#[test]
fn what_no_shard_had_as_it_is_is_sifted_where_they_are_joined() {
    let ferry = ferry();
    let parts = parts(&ferry, 2, &[]);
    ferry.write("fares.py", "def child(age, day):\n    return age\n\n\ndef book(day):\n    return day\n");
    ferry.write("new.py", "import os\n");
    std::fs::remove_file(ferry.path("quays/quay03.py")).expect("removing");
    let whole = ferry.run(&["sift", "--no-cache", "--output", "json"]);
    let joined = ferry.run(&merge(&parts, &["--output", "json"]));
    assert_eq!((whole.status, whole.out), (joined.status, joined.out));
    assert_eq!(joined.err, "2 files were sifted here: no shard had them as they are, or their settings\n");
    assert_eq!(ferry.run(&merge(&parts, &["--output", "json", "--quiet"])).err, "");
}

#[test]
fn paths_and_rules_are_those_of_the_shards() {
    let ferry = ferry();
    let choice = ["quays", "--mesh", "coarse", "--without", "ferry:no-print"];
    let parts = parts(&ferry, 3, &choice);
    let mut whole = vec!["sift", "--output", "json", "--no-cache"];
    whole.extend(choice);
    assert_eq!(ferry.run(&merge(&parts, &["--output", "json"])).out, ferry.run(&whole).out);
    // Everything that changes what is told works as for one run.
    let least = ["--output", "lines", "--level", "error", "--fail-on", "off", "--limit", "1", "--quiet"];
    whole.truncate(1);
    whole.extend(choice);
    whole.extend(least);
    let (one, joined) = (ferry.run(&whole), ferry.run(&merge(&parts, &least)));
    assert_eq!((one.status, one.out), (joined.status, joined.out));
}

#[test]
fn shards_of_a_folder_within_are_joined_there() {
    let ferry = ferry();
    let there = |arguments: &[&str]| ended(ferry.command(arguments).current_dir(ferry.path("quays")));
    for number in ["1/2", "2/2"] {
        assert_eq!(there(&["sift", "--shard", number, "--to", &format!("../{}.part", &number[..1])]).status, 0);
    }
    let joined = there(&["merge", "../1.part", "../2.part", "--output", "json"]);
    assert_eq!(joined.out, there(&["sift", "--no-cache", "--output", "json"]).out);
    assert!(joined.out.contains("\"../fares.py\""), "a related place is shown from there");
    let elsewhere = ferry.run(&["merge", "1.part", "2.part"]);
    assert_eq!(elsewhere.status, 2);
    assert!(elsewhere.err.contains("the shards were sifted in the folder quays of the code base"), "{}", elsewhere.err);
}

fn refused(ferry: &Ferry, arguments: &[&str], status: i32, words: &str) {
    let run = ferry.run(arguments);
    assert!(run.status == status && run.err.contains(words) && run.out.is_empty(), "{arguments:?} {run:?}");
}

#[test]
fn parts_that_do_not_belong_together_are_refused() {
    let ferry = ferry();
    parts(&ferry, 3, &[]);
    refused(&ferry, &["merge", "1.part", "3.part"], 2, "shard 2 of 3 is missing");
    refused(&ferry, &["merge", "2.part"], 2, "shards 1, 3 of 3 are missing");
    std::fs::copy(ferry.path("1.part"), ferry.path("again.part")).expect("a copy");
    refused(&ferry, &["merge", "1.part", "2.part", "again.part", "3.part"], 2, "are both shard 1 of 3");
    ferry.run(&["sift", "--shard", "2/4", "--to", "four.part"]);
    refused(&ferry, &["merge", "1.part", "four.part"], 2, "1.part is shard 1 of 3, but four.part is shard 2 of 4");
    ferry.run(&["sift", "--mesh", "coarse", "--shard", "3/3", "--to", "coarse.part"]);
    refused(&ferry, &["merge", "1.part", "2.part", "coarse.part"], 2, "are not of one run");
    refused(&ferry, &["merge", "1.part", "no.part"], 3, "no.part: cannot read it: there is no such file");
    refused(&ferry, &["merge", "sieve.toml"], 3, "sieve.toml: it is not what `hsieve sift --shard` writes");
    refused(&ferry, &["merge", "1.part", "2.part", "3.part", "--pack", "ferry.toml"], 2, "give both the same");
    ferry.run(&["sift", "--settings", "sieve.toml", "--shard", "1/1", "--to", "set.part"]);
    refused(&ferry, &["merge", "set.part"], 2, "the shards were given --settings sieve.toml, and merge no such option");
    assert_eq!(ferry.run(&["merge", "set.part", "--settings", "sieve.toml", "--quiet"]).status, 1);
}

#[test]
fn damaged_parts_are_refused() {
    let ferry = ferry();
    parts(&ferry, 1, &[]);
    let whole = std::fs::read(ferry.path("1.part")).expect("a part");
    for at in (0..whole.len()).step_by(whole.len() / 23) {
        let mut damaged = whole.clone();
        damaged[at] ^= 0x20;
        ferry.write("damaged.part", damaged);
        refused(&ferry, &["merge", "damaged.part"], 3, "or not whole");
        ferry.write("damaged.part", &whole[..at]);
        refused(&ferry, &["merge", "damaged.part"], 3, "or not whole");
    }
}

#[test]
fn a_shard_tells_what_is_wrong_with_how_it_is_asked_for() {
    let ferry = ferry();
    refused(&ferry, &["sift", "--shard", "1/2"], 2, "--to");
    refused(&ferry, &["sift", "--shard", "3/2", "--to", "a.part"], 2, "--shard cannot be \"3/2\"");
    refused(&ferry, &["sift", "--shard", "1/2", "--to", "a.part", "--output", "json"], 2, "--output");
    refused(&ferry, &["sift", "--shard", "1/2", "--to", "a.part", "--changed"], 2, "--changed");
    refused(&ferry, &["sift", "-", "--shard", "1/2", "--to", "a.part"], 2, "standard input, which has no shards");
    refused(&ferry, &["sift", "--shard", "1/2", "--to", "fares.py"], 2, "fares.py");
    assert!(ferry.read("fares.py").starts_with("def child"), "a source is not written over");
    refused(&ferry, &["sift", "--shard", "1/2", "--to", "no/a.part"], 3, "no/a.part");
    let mut auto = ferry.command(&["sift", "--shard", "auto", "--to", "a.part"]);
    let run = ended(auto.env("CI_NODE_INDEX", "2").env("CI_NODE_TOTAL", "5"));
    assert!(run.err.starts_with("Sifted shard 2 of 5, by CI_NODE_INDEX and CI_NODE_TOTAL: "), "{}", run.err);
}

#[test]
#[cfg(unix)]
fn a_file_that_cannot_be_read_fails_the_shard_that_has_it_and_the_whole() {
    use std::os::unix::fs::PermissionsExt;
    let ferry = ferry();
    let path: PathBuf = ferry.path("quays/quay05.py");
    std::fs::set_permissions(&path, std::fs::Permissions::from_mode(0)).expect("permissions");
    if std::fs::read(&path).is_ok() {
        // Nothing is closed to this user: a link that leads nowhere, named, is not to be read either.
        std::fs::remove_file(&path).expect("removing");
    }
    let run = |number: usize| {
        ferry.run(&[
            "sift",
            "quays",
            "quays/quay05.py",
            "--shard",
            &format!("{number}/2"),
            "--to",
            &format!("{number}.part"),
        ])
    };
    let statuses: Vec<i32> = (1..=2).map(|number| run(number).status).collect();
    assert!(statuses.contains(&3), "{statuses:?}");
    let joined = ferry.run(&["merge", "1.part", "2.part", "--output", "json"]);
    let whole = ferry.run(&["sift", "quays", "quays/quay05.py", "--output", "json", "--no-cache"]);
    assert_eq!((joined.status, joined.out), (3, whole.out));
}
