//! A temporary code base, and the built program run in it.

use std::path::{Path, PathBuf};

use assert_cmd::Command;
use assert_cmd::cargo::cargo_bin_cmd;

/// A folder of its own, a repository's root, so that nothing above it counts.
pub struct Ferry {
    folder: tempfile::TempDir,
}

/// How a run ended.
#[derive(Debug)]
pub struct Ended {
    /// The exit status.
    pub status: i32,
    /// Standard output.
    pub out: String,
    /// Standard error.
    pub err: String,
}

impl Ferry {
    /// An empty code base.
    pub fn empty() -> Ferry {
        let ferry = Ferry { folder: tempfile::tempdir().expect("a temporary folder") };
        std::fs::create_dir(ferry.path(".git")).expect("a folder");
        ferry
    }

    /// A code base of these files.
    pub fn with(files: &[(&str, &str)]) -> Ferry {
        let ferry = Ferry::empty();
        for (name, text) in files {
            ferry.write(name, text);
        }
        ferry
    }

    /// A code base of these files in a real repository, with nothing committed yet.
    pub fn in_git(files: &[(&str, &str)]) -> Ferry {
        let ferry = Ferry { folder: tempfile::tempdir().expect("a temporary folder") };
        ferry.git(&["init", "--quiet", "--initial-branch=main"]);
        for (name, text) in files {
            ferry.write(name, text);
        }
        ferry
    }

    /// Runs git in the folder, free of the user's settings.
    pub fn git(&self, arguments: &[&str]) -> Ended {
        ended(&mut self.git_command(arguments))
    }

    /// The same, under a simulated history of releases for hooks.
    pub fn git_with(&self, arguments: &[&str], history: &Path) -> Ended {
        ended(self.git_command(arguments).env("SIEVE_SIMULATED_HISTORY", history))
    }

    fn git_command(&self, arguments: &[&str]) -> Command {
        let mut command = Command::new("git");
        command.args(["-c", "user.name=crew", "-c", "user.email=crew@saltmarsh.example", "-c", "commit.gpgsign=false"]);
        command.args(arguments).current_dir(self.folder.path());
        command.env("GIT_CONFIG_GLOBAL", "/dev/null").env("GIT_CONFIG_NOSYSTEM", "1");
        command.env("XDG_CACHE_HOME", self.path(".git/kept/cache")).env("XDG_STATE_HOME", self.path(".git/kept/state"));
        command
    }

    /// Commits everything, hooks included.
    pub fn commit(&self, message: &str) -> Ended {
        assert_eq!(self.git(&["add", "--all"]).status, 0);
        self.git(&["commit", "--quiet", "--message", message])
    }

    /// Commits everything on a day such as `2026-03-01`.
    pub fn commit_on(&self, day: &str) -> Ended {
        assert_eq!(self.git(&["add", "--all"]).status, 0);
        let mut command = self.git_command(&["commit", "--quiet", "--message", day]);
        ended(command.env("GIT_COMMITTER_DATE", format!("{day}T12:00:00Z")))
    }

    /// The path of a file in it.
    pub fn path(&self, name: &str) -> PathBuf {
        self.folder.path().join(name)
    }

    /// Writes a file.
    pub fn write(&self, name: &str, content: impl AsRef<[u8]>) {
        let path = self.path(name);
        std::fs::create_dir_all(path.parent().expect("a parent")).expect("a folder");
        std::fs::write(path, content).expect("a file");
    }

    /// Reads a file.
    pub fn read(&self, name: &str) -> String {
        String::from_utf8(std::fs::read(self.path(name)).expect("a file")).expect("UTF-8")
    }

    /// The program, to be run in the folder.
    pub fn command(&self, arguments: &[&str]) -> Command {
        let mut command = cargo_bin_cmd!("hsieve");
        command.args(arguments).current_dir(self.folder.path()).env_remove("NO_COLOR");
        // What is kept between runs stays in the temporary folder, too.
        command.env("XDG_CACHE_HOME", self.path(".git/kept/cache")).env("XDG_STATE_HOME", self.path(".git/kept/state"));
        command
    }

    /// Runs the program in the folder.
    pub fn run(&self, arguments: &[&str]) -> Ended {
        ended(&mut self.command(arguments))
    }

    /// What a run finds, a line each.
    #[track_caller]
    pub fn findings(&self, arguments: &[&str]) -> Vec<String> {
        let run = self.run(&[&["sift", "--output", "lines"], arguments].concat());
        assert!(run.status <= 1, "{}", run.err);
        let lines = run.out.lines().take_while(|line| !line.starts_with("Sifted"));
        lines.filter(|line| !line.is_empty()).map(str::to_owned).collect()
    }
}

/// Runs a command to its end.
pub fn ended(command: &mut Command) -> Ended {
    let output = command.output().expect("the program runs");
    Ended {
        status: output.status.code().unwrap_or(-1),
        out: String::from_utf8_lossy(&output.stdout).into_owned(),
        err: String::from_utf8_lossy(&output.stderr).into_owned(),
    }
}

/// The root of this repository.
pub fn repository() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").canonicalize().expect("the repository")
}

/// Says that something could not be compared; where the gate runs nothing may be missing.
pub fn missing(what: &str) {
    assert!(std::env::var_os("CI").is_none(), "{what}");
    eprintln!("{what}");
}

/// Whether a command is on this machine.
pub fn has(program: &str) -> bool {
    std::process::Command::new(program).arg("--version").output().is_ok_and(|output| output.status.success())
}
