//! A safety net under all rules: every finding and every fix over large real code bases, compared with stored digests.
//!
//! There is a digest for each rule and one for each file, so that a difference names both. A difference that is wanted is stored by
//! running the tests with `SIEVE_WRITE_NET` set; the commit says what it is. What is found is listed in `target/net` as well, where
//! two versions can be compared line by line.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

use serde_json::Value;
use sieve_rules::{Certainty, catalogue};
use xxhash_rust::xxh3::{Xxh3, xxh3_64};

use crate::ferry::{Ferry, has, missing, repository};
use crate::library::copy_of_library;
use crate::packages::{PARTS, copy, reference};
use crate::shell::scripts_of_machine;

/// What was found in a code base.
struct Catch {
    /// Each finding and undecided place as one line, by path and place.
    lines: Vec<String>,
    /// Digests: of the code base, of each rule, of each file.
    digests: BTreeMap<String, String>,
}

/// Switches on what runs only where it is enabled by name.
fn settings() -> String {
    let by_name = catalogue::rules().filter(|(_, rule)| rule.certainty == Certainty::Guess);
    by_name.fold("mesh = \"fine\"\n[rules]\n".to_string(), |text, (_, rule)| text + rule.name + " = \"note\"\n")
}

/// Sifts the folder `name` of a code base.
fn sift(ferry: &Ferry, name: &str) -> Catch {
    ferry.write("sieve.toml", settings());
    let listing = ferry.path("listing.json");
    let ended =
        ferry.run(&["sift", name, "--output", "json", "--unsure", "--no-cache", "--quiet", "--to", "listing.json"]);
    assert!(ended.status <= 1, "{}", ended.err);
    let document: Value = serde_json::from_slice(&std::fs::read(listing).expect("a file")).expect("JSON");
    let found = |key: &str| document[key].as_array().expect("a list").clone();
    let (mut lines, mut groups) = (Vec::new(), BTreeMap::<String, Xxh3>::new());
    let mut note = |item: &Value, kind: &str| {
        let mut item = item.clone();
        // It follows from the rest and the code, which has a digest of its own.
        item.as_object_mut().expect("an object").shift_remove("fingerprint");
        let line = format!(
            "{}:{}:{} {kind} {} {item}",
            item["path"].as_str().expect("a path"),
            item["start"]["line"],
            item["start"]["column"],
            item["rule"].as_str().expect("a rule")
        );
        for group in [
            format!("rule {}", item["rule"].as_str().expect("a rule")),
            format!("file {}", item["path"].as_str().expect("a path")),
        ] {
            groups.entry(group).or_default().update(line.as_bytes());
        }
        lines.push(line);
    };
    found("findings").iter().for_each(|item| note(item, "found"));
    found("unsure").iter().for_each(|item| note(item, "unsure"));
    assert_eq!(document["account"]["failed"], Value::Array(Vec::new()), "{name}");
    let mut digests: BTreeMap<String, String> =
        groups.into_iter().map(|(group, digest)| (group, format!("{:08x}", digest.digest() as u32))).collect();
    digests.insert("files".into(), document["account"]["files"].to_string());
    digests.insert("code".into(), format!("{:016x}", digest_of(&ferry.path(name))));
    Catch { lines, digests }
}

/// A digest of all files below a folder: their paths and what is in them.
fn digest_of(folder: &Path) -> u64 {
    let mut paths = vec![folder.to_path_buf()];
    let mut digest = Xxh3::new();
    while let Some(path) = paths.pop() {
        if path.is_dir() {
            let mut entries: Vec<PathBuf> =
                std::fs::read_dir(&path).expect("a folder").flatten().map(|entry| entry.path()).collect();
            entries.sort();
            paths.extend(entries);
        } else {
            digest.update(path.strip_prefix(folder).expect("below it").to_string_lossy().as_bytes());
            digest.update(&xxh3_64(&std::fs::read(&path).expect("a file")).to_le_bytes());
        }
    }
    digest.digest()
}

/// Compares what is found with what is stored.
fn compare(name: &str, catch: &Catch) {
    let list = repository().join("target/net");
    std::fs::create_dir_all(&list).expect("a folder");
    let stored = repository().join("crates/hsieve/tests/net").join(format!("{name}.digests"));
    let text: String = catch.digests.iter().map(|(group, digest)| format!("{group} {digest}\n")).collect();
    if std::env::var_os("SIEVE_WRITE_NET").is_some() {
        std::fs::write(&stored, text).expect("a file");
        std::fs::write(list.join(format!("{name}.stored")), catch.lines.join("\n")).expect("a file");
        return;
    }
    let stored = std::fs::read_to_string(stored).expect("stored digests");
    let stored: BTreeMap<&str, &str> = stored.lines().filter_map(|line| line.rsplit_once(' ')).collect();
    if stored.get("code").copied() != catch.digests.get("code").map(String::as_str) {
        eprintln!("0 findings of {name} compared: the code on this machine is not the code of the digests");
        return;
    }
    std::fs::write(list.join(format!("{name}.found")), catch.lines.join("\n")).expect("a file");
    let groups = || stored.keys().copied().chain(catch.digests.keys().map(String::as_str));
    let differ = |group: &&str| stored.get(group).copied() != catch.digests.get(*group).map(String::as_str);
    let mut different: Vec<&str> = groups().filter(differ).collect();
    different.sort_unstable();
    different.dedup();
    let (rules, files): (Vec<&str>, Vec<&str>) = different.iter().partition(|group| group.starts_with("rule "));
    assert!(
        different.is_empty(),
        "{name}: other findings than before, listed in {}\n{}\n{} files, such as\n{}",
        list.display(),
        rules.join("\n"),
        files.len(),
        files.iter().take(10).copied().collect::<Vec<_>>().join("\n")
    );
    eprintln!("{} findings of {name} are what they were", catch.lines.len());
}

#[test]
fn the_library_of_python_gives_what_it_gave() {
    if !has("python3") {
        return missing("0 findings of the library compared: no python3 on this machine");
    }
    let ferry = Ferry::empty();
    copy_of_library(&ferry.path("library"));
    compare("library", &sift(&ferry, "library"));
}

#[test]
fn packages_of_javascript_and_typescript_give_what_they_gave() {
    let modules = reference().join("node_modules");
    if !modules.is_dir() {
        return missing("0 findings of packages compared: `npm install` was not run");
    }
    let ferry = Ferry::empty();
    let mut files = Vec::new();
    PARTS.iter().for_each(|part| copy(&modules, &ferry.path("packages"), Path::new(part), &mut files));
    compare("packages", &sift(&ferry, "packages"));
}

#[test]
fn scripts_of_the_machine_give_what_they_gave() {
    let ferry = Ferry::empty();
    let scripts = scripts_of_machine();
    if scripts.is_empty() {
        return missing("0 findings of scripts compared: none on this machine");
    }
    for (number, script) in scripts.iter().enumerate() {
        ferry.write(&format!("scripts/{number:03}.sh"), script);
    }
    compare("scripts", &sift(&ferry, "scripts"));
}
