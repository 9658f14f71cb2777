//! What each rule costs: instructions for each byte of real code in its languages, counted by `valgrind --tool=callgrind`.
//!
//! `cargo bench -p hsieve --bench cost` prints the table; with `-- --write` it goes to `docs/cost.md`. Instructions are the same in each run
//! over the same files, whatever else the machine does; the files are those that this machine has.

#[path = "shared/sources.rs"]
mod sources;

use std::collections::{BTreeMap, HashMap};
use std::hint::black_box;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

use sieve_meaning::names::Names;
use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_rules::{Check, Dispatch, Enabled, Input, Report, catalogue, run_on};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

const PAGE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/cost.md");

/// What comes before the work list in the arguments of the counted process.
const WORK: &str = "--work";

/// Stages, each with the function that is all of it.
const STAGES: &[(&str, &str)] = &[
    ("decoding, lines", "cost::decoded"),
    ("lexing, parsing", "cost::parsed"),
    ("names", "cost::named"),
    ("flow, for two rules", "sieve_meaning::flow::Flows::of"),
    ("spacing, for five rules", "sieve_rules::spacing::scan"),
    ("what calls run, for four rules", "sieve_meaning::project::callee::Calls::callee"),
    ("all rules", "cost::ruled"),
];

fn main() {
    let arguments: Vec<String> = std::env::args().collect();
    if let Some(at) = arguments.iter().position(|argument| argument == WORK) {
        return work(&arguments[at + 1]);
    }
    let groups = sources::groups();
    let mut columns = Vec::new();
    for (name, files) in &groups {
        let bytes: u64 = files.iter().map(|file| std::fs::metadata(file).map_or(0, |data| data.len())).sum();
        match counted(files) {
            Some(costs) => columns.push((*name, bytes, costs)),
            None => eprintln!("0 counts for {name}: valgrind is not there, or no sources"),
        }
    }
    let page = page(&columns);
    if arguments.iter().any(|argument| argument == "--write") && columns.len() == groups.len() {
        std::fs::write(PAGE, page).expect("the page can be written");
    } else {
        print!("{page}");
    }
}

/// Runs all rules over the files of a list: this is what is counted.
fn work(list: &str) {
    let rules = catalogue::rules().map(|(rule, facts)| Enabled {
        rule,
        facts,
        values: facts.options.iter().map(|option| option.default_value()).collect(),
    });
    let dispatch = Dispatch::new(rules.collect());
    for path in std::fs::read_to_string(list).expect("the list").lines() {
        let language = Path::new(path).extension().and_then(|ending| Language::of_extension(ending.to_str()?));
        let language = language.unwrap_or(Language::Shell);
        let Some(text) = decoded(language, std::fs::read(path).expect("a source")) else { continue };
        let tree = parsed(language, &text);
        let names = named(language, &text, &tree);
        let others = &Alone;
        let input = Input { path: "quays/board", language, text: &text, tree: &tree, names: Some(&names), others };
        black_box(ruled(&input, &dispatch));
    }
}

// Functions of their own, so that what they take is not counted as what calls them takes.

#[inline(never)]
fn decoded(language: Language, bytes: Vec<u8>) -> Option<Text> {
    language.decode(bytes).ok()
}

#[inline(never)]
fn parsed(language: Language, text: &Text) -> Tree {
    language.parse(text)
}

#[inline(never)]
fn named<'t>(language: Language, text: &'t Text, tree: &'t Tree) -> Names<'t> {
    names_of(language, text, tree)
}

#[inline(never)]
fn ruled(input: &Input<'_>, dispatch: &Dispatch) -> Report {
    run_on(input, dispatch)
}

/// Instructions of each function and what it calls, over some files.
fn counted(files: &[PathBuf]) -> Option<HashMap<String, u64>> {
    if files.is_empty() {
        return None;
    }
    let folder = std::env::temp_dir().join(format!("hsieve-cost-{}", std::process::id()));
    std::fs::create_dir_all(&folder).expect("a temporary folder");
    let (list, out) = (folder.join("list"), folder.join("out"));
    let lines: Vec<String> = files.iter().map(|file| file.display().to_string()).collect();
    std::fs::write(&list, lines.join("\n")).expect("a temporary file");
    let status = Command::new("valgrind")
        .arg("--tool=callgrind")
        .arg(format!("--callgrind-out-file={}", out.display()))
        .arg(std::env::current_exe().expect("the program"))
        .args([Path::new(WORK), &list])
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .status()
        .ok()?;
    let profile = std::fs::read_to_string(&out).ok().filter(|_| status.success());
    let _ = std::fs::remove_dir_all(&folder);
    Some(inclusive(&profile?))
}

/// Sums a profile by function: its own lines, and the lines after its calls, which hold what these took. (Callgrind Format
/// Specification, valgrind 3.19.)
fn inclusive(profile: &str) -> HashMap<String, u64> {
    let mut names: HashMap<&str, &str> = HashMap::new();
    let mut sums: HashMap<String, u64> = HashMap::new();
    let mut current: Option<&str> = None;
    for line in profile.lines() {
        if let Some(named) = line.strip_prefix("fn=").or_else(|| line.strip_prefix("cfn=")) {
            let (id, name) = named.split_once(' ').unwrap_or((named, ""));
            if !name.is_empty() {
                names.insert(id, name);
            }
            if line.starts_with("fn=") {
                current = names.get(id).copied();
            }
        } else if line.starts_with(|first: char| first.is_ascii_digit() || matches!(first, '+' | '-' | '*'))
            && let (Some(function), Some(cost)) = (current, line.split(' ').nth(1))
        {
            *sums.entry(function.to_string()).or_default() += cost.parse::<u64>().unwrap_or_default();
        }
    }
    sums
}

type Column<'c> = (&'c str, u64, HashMap<String, u64>);

fn page(columns: &[Column<'_>]) -> String {
    let mut page = String::from(
        "# What rules cost\n\nInstructions for each byte of source, counted by `cargo bench -p hsieve --bench cost -- --write` over the code that one \
         machine had.\nCompare lines with each other, not with those of another machine.\n\n",
    );
    let cell = |(_, bytes, costs): &Column<'_>, function: &str| {
        let cost = costs.get(function).map(|cost| *cost as f64 / *bytes as f64);
        cost.map_or(String::new(), |cost| format!("{cost:.2}"))
    };
    let row = |name: &str, function: &str| {
        let cells: Vec<String> = columns.iter().map(|column| cell(column, function)).collect();
        format!("| {name} | {} |\n", cells.join(" | "))
    };
    let head = |first: &str| {
        let names: Vec<&str> = columns.iter().map(|(name, ..)| *name).collect();
        format!("| {first} | {} |\n|---|{}\n", names.join(" | "), "--:|".repeat(names.len()))
    };
    page += &head("stage");
    for (name, function) in STAGES {
        let is_there = columns.iter().any(|column| !cell(column, function).is_empty());
        assert!(is_there, "nothing was counted of {function}: it is called otherwise, or part of what calls it");
        page += &row(name, function);
    }
    page += &format!("\n{}", head("rule"));
    let mut rules: BTreeMap<String, String> = BTreeMap::new();
    for (_, facts) in catalogue::rules().filter(|(_, facts)| !matches!(facts.check, Check::Spacing(_))) {
        let module = facts.name.replace('-', "_");
        let function = format!("sieve_rules::catalogue::{}::{module}::check", facts.concern.word());
        if columns.iter().any(|column| !cell(column, &function).is_empty()) {
            rules.insert(facts.name.to_string(), row(facts.name, &function));
        }
    }
    page + &rules.into_values().collect::<String>()
}
