//! What the last run counted, so that the next can say where things go. Kept outside the code base, and outside the cache: a run
//! without the cache says the same.

use serde::{Deserialize, Serialize};
use xxhash_rust::xxh3::xxh3_128;

use crate::files::places;
use crate::files::sealed;
use crate::project::Project;

const HEAD: &[u8] = b"sieve-last 1\n";

#[derive(Debug, Serialize, Deserialize)]
struct LastRun {
    density: f64,
}

/// Keeps the density of a run, and gives that of the run before of the same sort in the same folder. That it cannot be kept is no
/// failure.
pub fn exchange(project: &Project, kind: &str, density: f64) -> Option<f64> {
    let key = xxh3_128(format!("{:?}\0{kind}", project.folder).as_bytes());
    let path = places::state_folder()?.join(format!("{key:032x}.last"));
    let bytes = std::fs::read(&path).unwrap_or_default();
    let before = sealed::open(&bytes, HEAD).and_then(|body| postcard::from_bytes::<LastRun>(body).ok());
    let body = postcard::to_stdvec(&LastRun { density }).ok()?;
    let _ = sealed::write(&path, HEAD, &body);
    before.map(|run| run.density)
}
