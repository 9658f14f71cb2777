//! How fast each parser is on one thread, against the language's reference parser in the same run, over real code:
//! `cargo bench -p hsieve --bench languages [-- Go CSS]`. Only ratios within one run mean anything.

mod shared;

use std::hint::black_box;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use sieve_meaning::names_of;
use sieve_syntax::json;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use shared::{ROUNDS, median};

const REFERENCE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../syntax/tests/reference");

/// Parses all files twice and prints the seconds of the second time.
const TYPESCRIPT: &str = "
const fs = require('fs'), ts = require(process.argv[1] + '/node_modules/typescript');
const files = fs.readFileSync(process.argv[2], 'utf8').split('\\n').map(f => [f, fs.readFileSync(f, 'utf8')]);
const kind = f => (/x$/.test(f) ? ts.ScriptKind.TSX : /ts$/.test(f) ? ts.ScriptKind.TS : ts.ScriptKind.JSX);
const parse = () => { for (const [f, t] of files) ts.createSourceFile(f, t, ts.ScriptTarget.Latest, false, kind(f)); };
parse(); const start = process.hrtime.bigint(); parse();
console.log(Number(process.hrtime.bigint() - start) / 1e9);";

fn main() {
    let wanted: Vec<String> = std::env::args().skip(1).filter(|argument| !argument.starts_with('-')).collect();
    let modules = Path::new(REFERENCE).join("node_modules");
    let among = |ending: &str| files(&[modules.clone()], &[ending]);
    for (name, compare) in [
        ("TypeScript", &against_node as &dyn Fn()),
        ("Shell", &against_bash),
        ("JSON", &|| against_serde(&files(&[modules.clone()], &["json", "map"]))),
        ("TOML", &against_toml),
        ("YAML", &|| against_yaml(&files(&[modules.clone()], &["yaml", "yml"]))),
        ("CSS", &|| against_sheets(&among("css"))),
        ("HTML", &|| against_pages(&among("html"))),
        ("Go", &against_go),
        ("Rust", &against_syn),
        ("Java", &against_javac),
        ("C#", &against_general_parser),
        ("HCL", &|| against_infrastructure(&files(&[Path::new(REFERENCE).join("python_modules")], &["tf"]))),
    ] {
        if wanted.is_empty() || wanted.iter().any(|own| own == name) {
            compare();
        }
    }
}

/// JavaScript and TypeScript.
fn against_node() {
    let modules = Path::new(REFERENCE).join("node_modules");
    if modules.join("typescript").is_dir() {
        let parts: Vec<PathBuf> =
            ["rxjs/src", "zod/src", "@blueprintjs/core/src"].map(|part| modules.join(part)).into();
        against_typescript("TypeScript", Language::TypeScript, &files(&parts, &["ts"]));
        against_typescript("TypeScript with tags", Language::Tsx, &files(&parts, &["tsx"]));
        let parts: Vec<PathBuf> = ["three/src", "lodash-es", "core-js/internals"].map(|part| modules.join(part)).into();
        against_typescript("JavaScript", Language::JavaScript, &files(&parts, &["js"]));
    } else {
        eprintln!("0 comparisons with node: `npm install` was not run in {REFERENCE}");
    }
}

/// The library of Go, where it is installed.
fn against_go() {
    let installed = std::fs::read_dir("/usr/share").into_iter().flatten().flatten().map(|entry| entry.path());
    let is_library = |path: &PathBuf| path.file_name().is_some_and(|name| name.to_string_lossy().starts_with("go-"));
    let library: Vec<PathBuf> = installed.filter(is_library).collect();
    against_program("Go", Language::Go, &files(&library, &["go"]), "go", &["run", "seconds.go"]);
}

/// The library of Java, where it is installed with its sources.
fn against_javac() {
    let homes = std::fs::read_dir("/usr/lib/jvm").into_iter().flatten().flatten().map(|home| home.path());
    let archive = homes.map(|home| home.join("lib/src.zip")).filter(|archive| archive.is_file()).max();
    let unpacked = tempfile::tempdir().expect("a folder");
    let Some(archive) = archive else { return eprintln!("no comparison for Java: its sources are not installed") };
    let ran = Command::new("jar").arg("xf").arg(archive).arg("java.base").current_dir(unpacked.path()).status();
    assert!(ran.expect("jar runs").success(), "the sources cannot be unpacked");
    against_program("Java", Language::Java, &files(&[unpacked.path().into()], &["java"]), "java", &["Seconds.java"]);
}

/// Sources of C#, against a general parsing library.
fn against_general_parser() {
    let library = Path::new(REFERENCE).join("csharp_sources/library");
    against_program("C#", Language::CSharp, &files(&[library], &["cs"]), "python3", &["seconds.py"]);
}

/// The sources of the packages that this workspace is built from.
fn against_syn() {
    let home = std::env::var_os("CARGO_HOME").map(PathBuf::from);
    let home = home.or_else(|| Some(PathBuf::from(std::env::var_os("HOME")?).join(".cargo")));
    let texts = texts(Language::Rust, &files(&[home.unwrap_or_default().join("registry/src")], &["rs"]));
    let (mut ours, mut theirs) = (Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        ours.push(parse_all(Language::Rust, &texts));
        let started = Instant::now();
        texts.iter().for_each(|text| drop(black_box(syn::parse_file(text.source()))));
        theirs.push(started.elapsed());
    }
    tell("Rust", Language::Rust, &texts, ours, theirs);
}

fn files(parts: &[PathBuf], endings: &[&str]) -> Vec<PathBuf> {
    let mut found = Vec::new();
    let mut waiting = parts.to_vec();
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
            let path = entry.path();
            if path.is_dir() {
                waiting.push(path);
            } else if path.extension().is_some_and(|ending| endings.iter().any(|wanted| ending == *wanted)) {
                found.push(path);
            }
        }
    }
    found.sort();
    found
}

fn texts(language: Language, files: &[PathBuf]) -> Vec<Text> {
    files.iter().filter_map(|file| language.decode(std::fs::read(file).ok()?).ok()).collect()
}

/// Parses everything once and gives the time.
fn parse_all(language: Language, texts: &[Text]) -> Duration {
    let started = Instant::now();
    texts.iter().for_each(|text| drop(black_box(language.parse(text))));
    started.elapsed()
}

fn tell(title: &str, language: Language, texts: &[Text], ours: Vec<Duration>, theirs: Vec<Duration>) {
    let trees: Vec<_> = texts.iter().map(|text| (text, language.parse(text))).collect();
    let started = Instant::now();
    trees.iter().for_each(|(text, tree)| drop(black_box(names_of(language, text, tree))));
    let names = format!("names {:>5.0} MB/s   ", megabytes(texts) / started.elapsed().as_secs_f64());
    compared(title, texts, median(ours), median(theirs), &names);
}

fn against_typescript(title: &str, language: Language, files: &[PathBuf]) {
    let list = std::env::temp_dir().join(format!("hsieve-bench-{}.txt", std::process::id()));
    let lines: Vec<String> = files.iter().map(|file| file.display().to_string()).collect();
    std::fs::write(&list, lines.join("\n")).expect("a temporary file can be written");
    let texts = texts(language, files);
    let (mut ours, mut theirs) = (Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        ours.push(parse_all(language, &texts));
        let output = Command::new("node").args(["-e", TYPESCRIPT, REFERENCE]).arg(&list).output().expect("node runs");
        let seconds: f64 = String::from_utf8_lossy(&output.stdout).trim().parse().expect("it prints a time");
        theirs.push(Duration::from_secs_f64(seconds));
    }
    let _ = std::fs::remove_file(&list);
    tell(title, language, &texts, ours, theirs);
}

/// The reference makes values of the texts, and keeps no places.
fn against_serde(files: &[PathBuf]) {
    let texts: Vec<Text> = files.iter().filter_map(|file| std::fs::read_to_string(file).ok()).map(Text::new).collect();
    if texts.is_empty() {
        return eprintln!("0 comparisons of JSON: `npm install` was not run in {REFERENCE}");
    }
    let (mut ours, mut theirs) = (Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        let started = Instant::now();
        texts.iter().for_each(|text| drop(black_box(json::parse(text, json::Dialect::Strict))));
        ours.push(started.elapsed());
        let started = Instant::now();
        texts.iter().for_each(|text| drop(black_box(serde_json::from_str::<serde_json::Value>(text.source()))));
        theirs.push(started.elapsed());
    }
    compared("JSON", &texts, median(ours), median(theirs), "");
}

/// The manifests of the crates that this program is built from.
fn against_toml() {
    let home = std::env::var_os("CARGO_HOME").map(PathBuf::from);
    let home = home.or_else(|| Some(PathBuf::from(std::env::var_os("HOME")?).join(".cargo"))).unwrap_or_default();
    let texts = texts(Language::Toml, &files(&[home.join("registry/src")], &["toml"]));
    let (mut ours, mut theirs) = (Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        ours.push(parse_all(Language::Toml, &texts));
        let started = Instant::now();
        texts.iter().for_each(|text| drop(black_box(text.source().parse::<toml_edit::DocumentMut>())));
        theirs.push(started.elapsed());
    }
    compared("TOML", &texts, median(ours), median(theirs), "");
}

/// Composes all documents of all files twice, and prints the seconds of the second time.
const YAML: &str = "
import { readFileSync } from 'node:fs';
import { parseAllDocuments } from 'yaml';
const texts = readFileSync(process.argv.at(-1), 'utf8').split('\\n').map(file => readFileSync(file, 'utf8'));
const parse = () => { for (const text of texts) parseAllDocuments(text, { logLevel: 'silent' }); };
parse(); const start = process.hrtime.bigint(); parse();
console.log(Number(process.hrtime.bigint() - start) / 1e9);";

fn against_yaml(files: &[PathBuf]) {
    against_program("YAML", Language::Yaml, files, "node", &["--input-type=module", "-e", YAML]);
}

/// Parses all sheets twice with another parser, and prints the seconds of the second time.
const SHEETS: &str = "
import { readFileSync } from 'node:fs';
import { parse } from 'css-tree';
const texts = readFileSync(process.argv.at(-1), 'utf8').split('\\n').map(file => readFileSync(file, 'utf8'));
const all = () => { for (const text of texts) parse(text); };
all(); const start = process.hrtime.bigint(); all();
console.log(Number(process.hrtime.bigint() - start) / 1e9);";

/// Parses all pages with another parser, and prints the seconds.
const PAGES: &str = "
import sys, time, warnings, html5lib
warnings.simplefilter('ignore')
texts = [open(name, encoding='utf-8').read() for name in open(sys.argv[1]).read().split('\\n')]
start = time.perf_counter()
for text in texts: html5lib.parse(text)
print(time.perf_counter() - start)";

/// Parses all infrastructure files with another parser, and prints the seconds.
const INFRASTRUCTURE: &str = "
import sys, time, hcl2
texts = []
for name in open(sys.argv[1]).read().split('\\n'):
    text = open(name, encoding='utf-8').read()
    try: hcl2.loads(text); texts.append(text)
    except Exception: texts.append('')
start = time.perf_counter()
for text in texts: hcl2.loads(text)
print(time.perf_counter() - start)";

fn against_infrastructure(files: &[PathBuf]) {
    against_program("HCL", Language::Hcl, files, "python3", &["-c", INFRASTRUCTURE]);
}

fn against_sheets(files: &[PathBuf]) {
    against_program("CSS", Language::Css, files, "node", &["--input-type=module", "-e", SHEETS]);
}

fn against_pages(files: &[PathBuf]) {
    against_program("HTML", Language::Html, files, "python3", &["-c", PAGES]);
}

/// Against a program that is given a list of files and prints the seconds that it takes.
fn against_program(name: &str, language: Language, files: &[PathBuf], program: &str, arguments: &[&str]) {
    let sound = |file: &&PathBuf| std::fs::read_to_string(file).is_ok();
    let files: Vec<PathBuf> = files.iter().filter(sound).cloned().collect();
    let texts = texts(language, &files);
    let folder = tempfile::tempdir().expect("a folder");
    let list = folder.path().join("list");
    let names: Vec<String> = files.iter().map(|file| file.display().to_string()).collect();
    std::fs::write(&list, names.join("\n")).expect("a file");
    let ours = median((0..ROUNDS).map(|_| parse_all(language, &texts)).collect());
    let reference = Command::new(program).args(arguments).arg(&list).current_dir(REFERENCE).output();
    let seconds = reference.ok().and_then(|output| String::from_utf8_lossy(&output.stdout).trim().parse().ok());
    match seconds {
        Some(seconds) => compared(name, &texts, ours, Duration::from_secs_f64(seconds), ""),
        None => eprintln!("no comparison with {program} for {name}"),
    }
}

fn compared(name: &str, texts: &[Text], ours: Duration, theirs: Duration, more: &str) {
    let (ours, theirs) = (ours.as_secs_f64(), theirs.as_secs_f64());
    println!(
        "{name:<22} {:>5} files {:>5.1} MB   parse {:>5.0} MB/s   {more}reference {:>5.1} MB/s   ratio {:>5.1}",
        texts.len(),
        megabytes(texts),
        megabytes(texts) / ours,
        megabytes(texts) / theirs,
        theirs / ours
    );
}

fn megabytes(texts: &[Text]) -> f64 {
    texts.iter().map(|text| text.source().len()).sum::<usize>() as f64 / 1e6
}

/// Large scripts in one text, so that what a shell needs to start counts little.
fn against_bash() {
    let scripts: Vec<PathBuf> =
        files(&[PathBuf::from("/usr/share"), PathBuf::from("/usr/lib/git-core")], &["sh", "bash"]);
    let sound = |script: &&PathBuf| {
        Command::new("bash").arg("-n").arg(script).stderr(Stdio::null()).status().is_ok_and(|status| status.success())
    };
    let sources: Vec<String> =
        scripts.iter().filter(sound).filter_map(|script| std::fs::read_to_string(script).ok()).collect();
    let whole =
        sources.iter().filter(|source| !source.contains("exit")).map(String::as_str).collect::<Vec<_>>().join("\n");
    if whole.is_empty() {
        eprintln!("0 comparisons with bash: no bash or no scripts on this machine");
        return;
    }
    let source = whole.repeat((4_000_000 / whole.len()).max(1));
    let path = std::env::temp_dir().join(format!("hsieve-bench-{}.sh", std::process::id()));
    std::fs::write(&path, &source).expect("a temporary file can be written");
    let texts = [Text::new(source)];
    let (mut ours, mut theirs) = (Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        ours.push(parse_all(Language::Shell, &texts));
        let started = Instant::now();
        let _ = Command::new("bash").arg("-n").arg(&path).stderr(Stdio::null()).status();
        theirs.push(started.elapsed());
    }
    let _ = std::fs::remove_file(&path);
    tell("Shell", Language::Shell, &texts, ours, theirs);
}
