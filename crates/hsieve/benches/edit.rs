//! How long a workspace takes to say what is in a large file after an edit, as an editor asks it: `cargo bench -p hsieve --bench edit`.
//! Parsing alone is measured in the same run.

mod shared;
#[path = "shared/sources.rs"]
mod sources;

use std::hint::black_box;
use std::path::PathBuf;
use std::time::Instant;

use sieve_engine::Workspace;
use sieve_engine::project::Project;
use sieve_engine::run::Wants;
use sieve_engine::settings::Overrides;
use sieve_rules::Mesh;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use shared::{ROUNDS, median};

/// The lines of the file, as a budget for editors names them.
const LINES: usize = 10_000;

/// Edits of each file.
const EDITS: usize = 3 * ROUNDS;

fn main() {
    for (group, files) in sources::groups() {
        let ending = match group {
            "Python" => "py",
            "shell" => "sh",
            _ => "ts",
        };
        let files: Vec<&PathBuf> =
            files.iter().filter(|path| ending == "sh" || path.extension().is_some_and(|own| own == ending)).collect();
        let text: String = files.iter().filter_map(|path| std::fs::read_to_string(path).ok()).collect();
        if text.lines().count() < LINES {
            eprintln!("0 edits in {group}: there are no {LINES} lines of it here");
            continue;
        }
        let source: String = text.lines().take(LINES).map(|line| format!("{line}\n")).collect();
        one(Language::of_extension(ending).expect("a language"), &format!("desk.{ending}"), &source);
    }
}

fn one(language: Language, name: &str, source: &str) {
    let folder = tempfile::tempdir().expect("a temporary folder");
    let path = folder.path().join(name);
    std::fs::write(&path, source).expect("a file");
    let overrides = Overrides { mesh: Some(Mesh::Fine), ..Overrides::default() };
    let project = Project::at(folder.path(), folder.path());
    let mut workspace = Workspace::new(project, overrides, None, Wants::NONE).on_threads(1);
    workspace.outcome().expect("right settings");
    let (mut asked, mut parsed) = (Vec::new(), Vec::new());
    let mut findings = 0;
    for edit in 0..EDITS {
        let text = format!("{source}x{edit}=1\n");
        let started = Instant::now();
        workspace.set_overlay(&path, text.as_bytes());
        findings = workspace.outcome_now(&path).expect("right settings").outcome.findings.len();
        asked.push(started.elapsed());
        let started = Instant::now();
        black_box(language.parse(&Text::new(text)));
        parsed.push(started.elapsed());
    }
    let (asked, parsed) = (median(asked).as_secs_f64() * 1e3, median(parsed).as_secs_f64() * 1e3);
    println!(
        "{name:<8} {:>4} kB {findings:>5} findings  {asked:>6.1} ms, parsing {parsed:>5.1} ms, ratio {:.1}",
        source.len() / 1000,
        asked / parsed
    );
}
