//! Jobs that `hsieve init --with` writes: the script is run as a system for jobs would run it.

use std::path::PathBuf;

use assert_cmd::cargo::cargo_bin;

use crate::ferry::{Ended, Ferry, ended};

/// Runs the script, with the program on the path.
fn job(ferry: &Ferry, variables: &[(&str, &str)]) -> Ended {
    let program: PathBuf = cargo_bin("hsieve");
    let path = format!("{}:/usr/bin:/bin", program.parent().expect("a folder").display());
    let mut command = assert_cmd::Command::new("sh");
    command.arg("ci/sieve.sh").current_dir(ferry.path(".")).env("PATH", path).env_remove("SIEVE_BASE");
    command.env("XDG_CACHE_HOME", ferry.path(".git/kept/cache")).env("XDG_STATE_HOME", ferry.path(".git/kept/state"));
    ended(command.envs(variables.iter().copied()))
}

fn ferry() -> Ferry {
    let ferry = Ferry::in_git(&[("fares.py", "import os\n\n\ndef child(age):\n    return age\n"), ("sieve.toml", "")]);
    let run = ferry.run(&["init", "--with", "ci=shell"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(run.out.starts_with("wrote ci/sieve.sh"), "{}", run.out);
    assert_eq!(ferry.commit("fares").status, 0);
    ferry
}

#[test]
fn the_script_tells_everything_and_fails_with_the_status_of_the_run() {
    let ferry = ferry();
    let run = job(&ferry, &[]);
    assert_eq!(run.status, 1, "{run:?}");
    for words in
        ["hsieve 0.1.0\n", "fares.py:1:8  unused-import", "Sifted 2 files", "The same on your machine: hsieve sift\n"]
    {
        assert!(run.out.contains(words), "{words}: {}", run.out);
    }
    assert!(!run.out.contains('\u{1b}'), "a log has no colours");
    assert!(ferry.read("sieve-results/sieve.sarif").contains("\"unused-import\""));
    assert!(ferry.read("sieve-results/sieve.xml").contains("<failure"));
    assert!(ferry.read("sieve-results/sieve.md").starts_with("### Honest Sieve: 1 warning"));
    ferry.write("fares.py", "def child(age):\n    return age\n");
    let run = job(&ferry, &[("SIEVE_RESULTS", "out")]);
    assert_eq!(run.status, 0, "{run:?}");
    assert!(!run.out.contains("on your machine") && ferry.read("out/sieve.xml").contains("failures=\"0\""));
}

#[test]
fn of_a_proposal_only_what_it_changes_counts() {
    let ferry = ferry();
    assert_eq!(ferry.git(&["switch", "--quiet", "--create", "tide"]).status, 0);
    ferry.write("tide.py", "import re\n");
    assert_eq!(ferry.commit("tide").status, 0);
    let run = job(&ferry, &[("SIEVE_BASE", "main")]);
    assert_eq!(run.status, 1, "{run:?}");
    assert!(run.out.contains("tide.py:1:8") && !run.out.contains("fares.py:1:8"), "{}", run.out);
    assert!(run.out.ends_with("The same on your machine: hsieve sift --changed main\n"), "{}", run.out);
    let wrong = job(&ferry, &[("SIEVE_BASE", "no-such-branch")]);
    assert_eq!(wrong.status, 2, "{wrong:?}");
}

#[test]
fn a_job_without_the_program_says_so() {
    let ferry = ferry();
    let run = job(&ferry, &[("PATH", "/usr/bin:/bin")]);
    assert_eq!((run.status, run.err.as_str()), (3, "hsieve is not on the PATH of this job\n"));
}

#[test]
fn jobs_are_written_once_and_are_clean() {
    let ferry = ferry();
    ferry.write("ci/sieve.sh", "echo ours\n");
    let run = ferry.run(&["init", "--with", "ci=github"]);
    assert!(run.out.starts_with("kept ci/sieve.sh  as it was"), "{}", run.out);
    assert_eq!(ferry.read("ci/sieve.sh"), "echo ours\n");
    assert!(ferry.read(".github/workflows/sieve.yml").contains("sh ci/sieve.sh"));
    std::fs::remove_file(ferry.path("ci/sieve.sh")).expect("removing");
    let run = ferry.run(&["init", "--with", "ci=gitlab"]);
    assert!(run.out.contains("Left to do: include the file in .gitlab-ci.yml"), "{}", run.out);
    assert!(ferry.read("ci/sieve.gitlab-ci.yml").contains("sh ci/sieve.sh"));
    let clean = ferry.run(&["sift", "ci", "--mesh", "fine", "--output", "lines", "--quiet"]);
    assert_eq!((clean.status, clean.out.as_str()), (0, ""));
    let unknown = ferry.run(&["init", "--with", "ci=boat"]);
    assert!(unknown.status == 2 && unknown.err.contains("ci=shell, ci=github, ci=gitlab"), "{}", unknown.err);
}

#[test]
fn a_new_code_base_gets_its_settings_and_its_job() {
    let ferry = Ferry::in_git(&[("fares.py", "def child(age):\n    return age\n")]);
    let run = ferry.run(&["init", "--yes", "--without", "hook,editor", "--with", "ci=shell"]);
    assert_eq!(run.status, 0, "{run:?}");
    assert!(run.out.contains("wrote sieve.toml") && run.out.contains("wrote ci/sieve.sh"), "{}", run.out);
    assert_eq!(job(&ferry, &[]).status, 0);
}

#[test]
#[cfg(unix)]
fn nothing_is_written_through_a_link() {
    let ferry = Ferry::in_git(&[("fares.py", "x = 1\n"), ("sieve.toml", "")]);
    let outside = tempfile::tempdir().expect("a folder");
    std::os::unix::fs::symlink(outside.path(), ferry.path("ci")).expect("a link");
    let run = ferry.run(&["init", "--with", "ci=shell"]);
    assert!(run.status == 3 && run.err.contains("it is a link or a file, not a folder"), "{run:?}");
    assert_eq!(std::fs::read_dir(outside.path()).expect("a folder").count(), 0);
}
