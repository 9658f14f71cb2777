//! Tells the program which state of its sources it is built from.

use std::path::Path;
use std::process::Command;

fn main() {
    println!("cargo:rerun-if-env-changed=HSIEVE_REVISION");
    println!("cargo:rerun-if-changed=build.rs");
    let told = std::env::var("HSIEVE_REVISION").ok().filter(|revision| !revision.is_empty());
    let revision = told.or_else(of_git).unwrap_or_else(|| "unknown".into());
    println!("cargo:rustc-env=HSIEVE_REVISION={revision}");
    println!("cargo:rustc-env=HSIEVE_TARGET={}", std::env::var("TARGET").unwrap_or_default());
}

/// The revision that is checked out, where there is a repository.
fn of_git() -> Option<String> {
    let folder = asked(&["rev-parse", "--absolute-git-dir"])?;
    let head = Path::new(&folder).join("logs/HEAD");
    // It grows with every commit and every checkout.
    if head.is_file() {
        println!("cargo:rerun-if-changed={}", head.display());
    }
    asked(&["rev-parse", "--short=12", "HEAD"])
}

fn asked(arguments: &[&str]) -> Option<String> {
    let output = Command::new("git").args(arguments).output().ok().filter(|output| output.status.success())?;
    Some(String::from_utf8(output.stdout).ok()?.trim().to_string())
}
