//! How long a workspace takes to say what is in a large file after an edit, as an editor asks it: `cargo bench -p hsieve --bench edit`.
//! Parsing alone is measured in the same run.

mod shared;

use std::hint::black_box;
use std::path::{Path, PathBuf};
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
    for (language, name, folder, ending) in [
        (Language::Python, "desk.py", "booking", "py"),
        (Language::TypeScript, "desk.ts", "web/src", "ts"),
        (Language::Shell, "desk.sh", "ops", "sh"),
    ] {
        one(language, name, &source(folder, ending));
    }
}

/// The sources of the demo in a language, as often as it takes.
fn source(folder: &str, ending: &str) -> String {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo").join(folder);
    let entries = std::fs::read_dir(folder).expect("a folder of the demo").map(|entry| entry.expect("an entry").path());
    let mut files: Vec<PathBuf> = entries.filter(|path| path.extension().is_some_and(|own| own == ending)).collect();
    files.sort();
    let all: String = files.iter().map(|path| std::fs::read_to_string(path).expect("a source")).collect();
    all.repeat(LINES / all.lines().count() + 1).lines().take(LINES).map(|line| format!("{line}\n")).collect()
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
        findings = workspace.outcome_of(std::slice::from_ref(&path)).expect("right settings").outcome.findings.len();
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
