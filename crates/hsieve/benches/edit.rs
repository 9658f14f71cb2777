//! How long a workspace takes to say what is in a large file after an edit, as an editor asks it: `cargo bench -p hsieve --bench edit`.
//! Parsing alone is measured in the same run.

#[path = "shared/long.rs"]
mod long;
mod shared;
#[path = "shared/sources.rs"]
mod sources;

use std::hint::black_box;
use std::time::Instant;

use sieve_engine::Workspace;
use sieve_engine::project::Project;
use sieve_engine::run::Wants;
use sieve_engine::settings::Overrides;
use sieve_rules::Mesh;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use long::long;
use shared::{ROUNDS, median};

/// Edits of each file.
const EDITS: usize = 3 * ROUNDS;

fn main() {
    for (group, files) in sources::groups() {
        if let Some((ending, source, _)) = long(group, &files) {
            one(Language::of_extension(ending).expect("a language"), &format!("desk.{ending}"), &source);
        }
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
