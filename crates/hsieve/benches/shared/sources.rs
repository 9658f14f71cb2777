//! Real sources of this machine, by groups of languages.

#[path = "library.rs"]
mod python;

use std::path::{Path, PathBuf};

const REFERENCE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../syntax/tests/reference/node_modules");

/// As much source of each language as is read, in bytes.
const ENOUGH: u64 = 3_000_000;

/// Sources of each group of languages.
pub fn groups() -> Vec<(&'static str, Vec<PathBuf>)> {
    let of = |folders: Vec<PathBuf>, deep: bool, is_one: &dyn Fn(&Path) -> bool| {
        let mut found: Vec<PathBuf> = folders.iter().flat_map(|folder| files_in(folder, deep)).collect();
        found.retain(|path| is_one(path));
        found.sort();
        let mut total = 0;
        let enough = |path: &PathBuf| {
            total += std::fs::metadata(path).map_or(0, |data| data.len());
            total < ENOUGH
        };
        found.into_iter().take_while(enough).collect()
    };
    let ends = |path: &Path, endings: &[&str]| {
        path.extension().and_then(|ending| ending.to_str()).is_some_and(|ending| endings.contains(&ending))
    };
    let scripts = ["three/src", "lodash-es", "zod/src", "rxjs/src"].map(|part| Path::new(REFERENCE).join(part));
    let commands = ["/usr/bin", "/usr/sbin", "/etc/init.d"].map(PathBuf::from);
    let is_script = |path: &Path| {
        std::fs::read(path).is_ok_and(|bytes| bytes.starts_with(b"#!/bin/sh") || bytes.starts_with(b"#!/bin/bash"))
    };
    vec![
        ("Python", of(python::library().into_iter().collect(), false, &|path| ends(path, &["py"]))),
        ("JavaScript, TypeScript", of(scripts.into(), true, &|path| ends(path, &["js", "ts", "tsx"]))),
        ("shell", of(commands.into(), false, &is_script)),
    ]
}

fn files_in(folder: &Path, deep: bool) -> Vec<PathBuf> {
    let entries = std::fs::read_dir(folder).into_iter().flatten().flatten().map(|entry| entry.path());
    let inner = |path: PathBuf| match path.is_dir() {
        true if deep => files_in(&path, deep),
        true => Vec::new(),
        false => vec![path],
    };
    entries.flat_map(inner).collect()
}
