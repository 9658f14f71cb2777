//! Mistakes planted into the sources of real packages, where several files or libraries decide: found there, and nowhere else.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

use crate::ferry::{Ferry, missing};
use crate::packages::{copy, reference};

/// One mistake: the rule, the parts of packages that it is planted into, and how a line becomes wrong.
struct Mistake {
    rule: &'static str,
    parts: &'static [&'static str],
    plant: fn(&str) -> Option<String>,
}

const MISTAKES: &[Mistake] = &[
    Mistake {
        rule: "missing-file",
        parts: &["rxjs/src", "semantic-ui-react/src", "preact/src", "bootstrap/js/src"],
        plant: |line| {
            let (before, path) = line.split_once(" from '.").filter(|_| line.starts_with("import "))?;
            let (path, after) = path.split_once('\'')?;
            (!path.ends_with('/') && path.len() > 3).then(|| format!("{before} from '.{path}qq'{after}"))
        },
    },
    Mistake {
        rule: "hook-in-branch",
        parts: &["@blueprintjs/core/src", "@tanstack/react-query/src"],
        plant: |line| {
            let is_call = line.trim_start().starts_with("React.use") || line.contains(" = React.use");
            is_call.then(|| line.replacen("React.use", "window.late && React.use", 1))
        },
    },
    Mistake {
        rule: "state-while-drawing",
        parts: &["@blueprintjs/core/src", "@tanstack/react-query/src"],
        plant: |line| {
            let (names, state) = line.trim().strip_prefix("const [")?.split_once("] = ")?;
            let (_, setter) = names.split_once(", ")?;
            let is_whole = state.contains("useState") && state.ends_with(");");
            is_whole.then(|| format!("{line} {setter}(1);"))
        },
    },
    Mistake {
        rule: "keyless-element",
        parts: &["@blueprintjs/core/src", "semantic-ui-react/src"],
        plant: |line| {
            let is_mapped = line.contains(".map(") && line.contains("=> <") && line.contains(" key={");
            is_mapped.then(|| line.replacen(" key={", " id={", 1))
        },
    },
];

/// The places that a rule reports, without columns.
fn found(ferry: &Ferry, rule: &str) -> BTreeSet<String> {
    let ended = ferry.run(&["sift", "packages", "--only", rule, "--output", "lines"]);
    ended.out.lines().map(|line| line.splitn(3, ':').take(2).collect::<Vec<_>>().join(":")).collect()
}

#[test]
fn mistakes_that_other_files_or_libraries_decide_over_are_found_where_they_are_planted() {
    let modules = reference().join("node_modules");
    if !modules.is_dir() {
        missing(&format!("0 mistakes planted: `npm install` was not run in {}", reference().display()));
        return;
    }
    for mistake in MISTAKES {
        let ferry = Ferry::empty();
        let folder = ferry.path("packages");
        let mut files: Vec<PathBuf> = Vec::new();
        mistake.parts.iter().for_each(|part| copy(&modules, &folder, Path::new(part), &mut files));
        // What only describes other code is left alone by these rules, and so are tests by some.
        let is_code = |file: &str| !file.ends_with(".d.ts") && !file.contains(".test.");
        files.retain(|file| file.to_str().is_some_and(is_code));
        let before = found(&ferry, mistake.rule);
        let planted: BTreeSet<String> = files.iter().filter_map(|file| plant(&folder, file, mistake.plant)).collect();
        let after = found(&ferry, mistake.rule);
        let caught = planted.intersection(&after).count();
        let elsewhere: Vec<&String> = after.difference(&before).filter(|place| !planted.contains(*place)).collect();
        let missed: Vec<&String> = planted.difference(&after).take(9).collect();
        eprintln!("{}: {caught} of {} found, {} before", mistake.rule, planted.len(), before.len());
        assert!(elsewhere.is_empty(), "{}: {elsewhere:?}", mistake.rule);
        assert!(!planted.is_empty() && caught * 10 >= planted.len() * 9, "{}: not found: {missed:?}", mistake.rule);
    }
}

/// Makes the first line wrong that can be, and gives its place.
fn plant(folder: &Path, file: &Path, change: fn(&str) -> Option<String>) -> Option<String> {
    let path = folder.join(file);
    let source = std::fs::read_to_string(&path).ok()?;
    let mut lines: Vec<String> = source.lines().map(str::to_string).collect();
    let (index, wrong) = lines.iter().enumerate().find_map(|(index, line)| Some((index, change(line)?)))?;
    lines[index] = wrong;
    std::fs::write(&path, lines.join("\n") + "\n").expect("a file");
    Some(format!("packages/{}:{}", file.to_str()?, index + 1))
}
