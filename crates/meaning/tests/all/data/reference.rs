//! Other readers, and values in a form that both sides have.

use std::path::{Path, PathBuf};
use std::process::Command;

use serde_json::{Value as Json, json};
use sieve_meaning::data::{Data, Scalar, Shape, Value};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Tree};

/// The folder with reference readers and their packages.
pub fn references() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../syntax/tests/reference")
}

/// What a program prints, a line for each file: the files' names are given in a list, whose name is its last argument.
pub fn told(program: &str, arguments: &[&str], files: &[PathBuf]) -> Vec<String> {
    let folder = tempfile::tempdir().expect("a folder");
    let list = folder.path().join("list");
    let names: String = files.iter().map(|file| format!("{}\n", file.display())).collect();
    std::fs::write(&list, names).expect("a file");
    let output = Command::new(program).args(arguments).arg(&list).current_dir(references()).output();
    let output = output.unwrap_or_else(|error| panic!("{program}: {error}"));
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let lines: Vec<String> = String::from_utf8_lossy(&output.stdout).lines().map(str::to_owned).collect();
    assert_eq!(lines.len(), files.len(), "one line a file");
    lines
}

/// A text with its tree.
pub fn parsed(language: Language, source: &str) -> (Text, Tree) {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    (text, tree)
}

/// The values of all documents, or nothing where the text is wrong.
pub fn values(language: Language, source: &str) -> Option<Json> {
    let (text, tree) = parsed(language, source);
    let data = Data::of(language, &text, &tree);
    // Of a key that is there twice readers of TOML alone say that it is wrong.
    let is_right = tree.faults().is_empty()
        && data.unknown_aliases().is_empty()
        && (language != Language::Toml || data.repeats().is_empty());
    is_right.then(|| Json::Array(data.documents().map(plain).collect()))
}

/// A value: numbers as their doubles are written, dates as such.
fn plain(value: Value<'_, '_>) -> Json {
    match value.shape() {
        Shape::Object => {
            let entries = value.children().map(|child| (name(child), plain(child)));
            Json::Object(entries.collect())
        }
        Shape::List => Json::Array(value.children().map(plain).collect()),
        Shape::Scalar if value.resolved().node().kind() == Kind::DateTime => json!({"= date": true}),
        Shape::Scalar => match value.scalar() {
            Some(Scalar::Boolean(value)) => Json::Bool(value),
            Some(Scalar::Whole(value)) => number(value as f64),
            Some(Scalar::Real(value)) => number(value),
            Some(Scalar::String(value)) => Json::String(value),
            Some(Scalar::Null) | None => Json::Null,
        },
        Shape::Unknown => json!({"unknown": true}),
    }
}

/// The name of a key; collections that are keys have none.
fn name(value: Value<'_, '_>) -> String {
    match value.key_node().map(|key| key.kind()) {
        Some(Kind::List | Kind::Dictionary) => "a collection".to_string(),
        _ => value.key().unwrap_or_default().to_string(),
    }
}

fn number(value: f64) -> Json {
    let value = if value == 0.0 { 0.0 } else { value };
    json!({"= number": if value.is_nan() { "NaN".to_string() } else { format!("{value:e}") }})
}

/// What a reference printed, unless it refused the file.
fn read(line: &str) -> Option<Json> {
    let told: Json = serde_json::from_str(line).expect("JSON");
    (told != json!("error")).then_some(told)
}

/// Numbers are printed as strings of their doubles: JSON has no form for some.
fn numbered(value: Json) -> Json {
    match value {
        Json::Array(elements) => Json::Array(elements.into_iter().map(numbered).collect()),
        Json::Object(object) => match object.get("= number").and_then(Json::as_str) {
            Some(written) if object.len() == 1 => number(match written {
                "Infinity" | "inf" => f64::INFINITY,
                "-Infinity" | "-inf" => f64::NEG_INFINITY,
                other => other.parse().unwrap_or(f64::NAN),
            }),
            _ => Json::Object(object.into_iter().map(|(key, value)| (key, numbered(value))).collect()),
        },
        other => other,
    }
}

/// Compares the values of files with what a reference printed of them.
pub fn compare(language: Language, files: &[PathBuf], lines: &[String]) {
    compare_by(language, files, lines, |source| values(language, source), numbered);
}

/// Compares what holds what, and what each scalar is written as.
pub fn compare_strings(files: &[PathBuf], lines: &[String]) {
    let ours = |source: &str| {
        let (text, tree) = parsed(Language::Yaml, source);
        let data = Data::of(Language::Yaml, &text, &tree);
        let is_right = tree.faults().is_empty() && data.unknown_aliases().is_empty();
        is_right.then(|| Json::Array(data.documents().map(|value| written(&text, value)).collect()))
    };
    compare_by(Language::Yaml, files, lines, ours, |theirs| theirs);
}

fn compare_by(
    language: Language,
    files: &[PathBuf],
    lines: &[String],
    ours: impl Fn(&str) -> Option<Json>,
    theirs: fn(Json) -> Json,
) {
    let mut wrong = Vec::new();
    for (file, line) in files.iter().zip(lines) {
        let Ok(source) = std::fs::read_to_string(file) else { continue };
        let (ours, theirs) = (ours(&source), read(line).map(theirs));
        if ours != theirs {
            let (text, tree) = parsed(language, &source);
            let fault = tree.faults().first().map(|fault| {
                let place = text.place(fault.span.start);
                format!("{}:{} {}", place.line, place.column, fault.problem)
            });
            let at = match (&ours, &theirs) {
                (Some(ours), Some(theirs)) => difference(ours, theirs, String::new()),
                _ => format!("accepted by us {}, by the reference {}", ours.is_some(), theirs.is_some()),
            };
            let head: String = source.chars().take(300).collect();
            wrong.push(format!("{}: {at} {fault:?}\n{head}", file.display()));
        }
    }
    assert!(wrong.is_empty(), "{} of {}:\n{}", wrong.len(), files.len(), wrong.join("\n"));
}

/// Where two values differ first.
fn difference(ours: &Json, theirs: &Json, at: String) -> String {
    match (ours, theirs) {
        (Json::Object(a), Json::Object(b)) if a.keys().eq(b.keys()) => {
            let differing = a.iter().find(|(key, value)| b[*key] != **value).map(|(key, _)| key.clone());
            let key = differing.expect("some value differs");
            difference(&a[&key], &b[&key], format!("{at}/{key}"))
        }
        (Json::Array(a), Json::Array(b)) if a.len() == b.len() => {
            let index = (0..a.len()).find(|index| a[*index] != b[*index]).expect("some element differs");
            difference(&a[index], &b[index], format!("{at}/{index}"))
        }
        _ => {
            let short = |value: &Json| value.to_string().chars().take(200).collect::<String>();
            format!("{at}: {} is {} there", short(ours), short(theirs))
        }
    }
}

/// A value whose scalars are strings, as their characters are.
fn written(text: &Text, value: Value<'_, '_>) -> Json {
    match value.shape() {
        Shape::Object => {
            value.children().map(|child| (name(child), written(text, child))).collect::<serde_json::Map<_, _>>().into()
        }
        Shape::List => value.children().map(|child| written(text, child)).collect(),
        Shape::Scalar => match value.scalar() {
            Some(Scalar::String(value)) => value.into(),
            _ => text.slice(value.resolved().node().span()).trim_matches(['"', '\'']).into(),
        },
        Shape::Unknown => json!({"unknown": true}),
    }
}
