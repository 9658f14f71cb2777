//! `hsieve demo`: a walk through the whole job, with real runs of the program itself.

use std::path::{Path, PathBuf};
use std::process::Command;

use anyhow::Context;
use sieve_engine::files;

use crate::arguments::DemoArguments;
use crate::screen::{FAINT, STRONG, Screen, TYPED, styled, wrapped};
use crate::status::{Status, usage};

/// The sample code base.
const FILES: &[(&str, &str)] = &[
    ("README.md", include_str!("../../../../demo/README.md")),
    ("api/service.yaml", include_str!("../../../../demo/api/service.yaml")),
    ("booking/__init__.py", include_str!("../../../../demo/booking/__init__.py")),
    ("booking/crew.py", include_str!("../../../../demo/booking/crew.py")),
    ("booking/desk.py", include_str!("../../../../demo/booking/desk.py")),
    ("booking/fares.py", include_str!("../../../../demo/booking/fares.py")),
    ("booking/tickets.py", include_str!("../../../../demo/booking/tickets.py")),
    ("booking/tides.py", include_str!("../../../../demo/booking/tides.py")),
    ("booking/timetable.py", include_str!("../../../../demo/booking/timetable.py")),
    ("display/board.go", include_str!("../../../../demo/display/board.go")),
    ("display/go.mod", include_str!("../../../../demo/display/go.mod")),
    ("display/main.go", include_str!("../../../../demo/display/main.go")),
    ("display/summary.go", include_str!("../../../../demo/display/summary.go")),
    ("display/tides/level.go", include_str!("../../../../demo/display/tides/level.go")),
    ("display/tides/tides.go", include_str!("../../../../demo/display/tides/tides.go")),
    ("infra/main.tf", include_str!("../../../../demo/infra/main.tf")),
    ("infra/quay/main.tf", include_str!("../../../../demo/infra/quay/main.tf")),
    ("infra/variables.tf", include_str!("../../../../demo/infra/variables.tf")),
    ("lint/boats.txt", include_str!("../../../../demo/lint/boats.txt")),
    ("lint/ferry.toml", include_str!("../../../../demo/lint/ferry.toml")),
    ("config/desk.json", include_str!("../../../../demo/config/desk.json")),
    ("lint/desk.schema.yaml", include_str!("../../../../demo/lint/desk.schema.yaml")),
    ("lint/service.toml", include_str!("../../../../demo/lint/service.toml")),
    ("ops/keep-tickets.sh", include_str!("../../../../demo/ops/keep-tickets.sh")),
    ("ops/nightly.yaml", include_str!("../../../../demo/ops/nightly.yaml")),
    ("ops/publish-board.sh", include_str!("../../../../demo/ops/publish-board.sh")),
    ("settlement/src/Ledger.cs", include_str!("../../../../demo/settlement/src/Ledger.cs")),
    ("settlement/src/Sale.cs", include_str!("../../../../demo/settlement/src/Sale.cs")),
    (
        "ticket-printer/src/ferries/desk/Desk.java",
        include_str!("../../../../demo/ticket-printer/src/ferries/desk/Desk.java"),
    ),
    (
        "ticket-printer/src/ferries/printer/Ticket.java",
        include_str!("../../../../demo/ticket-printer/src/ferries/printer/Ticket.java"),
    ),
    (
        "ticket-printer/src/ferries/printer/TicketPrinter.java",
        include_str!("../../../../demo/ticket-printer/src/ferries/printer/TicketPrinter.java"),
    ),
    ("tide-library/Cargo.toml", include_str!("../../../../demo/tide-library/Cargo.toml")),
    ("tide-library/src/height.rs", include_str!("../../../../demo/tide-library/src/height.rs")),
    ("tide-library/src/lib.rs", include_str!("../../../../demo/tide-library/src/lib.rs")),
    ("tide-library/src/table.rs", include_str!("../../../../demo/tide-library/src/table.rs")),
    ("tools/import_quays.py", include_str!("../../../../demo/tools/import_quays.py")),
    ("web/pages/board.css", include_str!("../../../../demo/web/pages/board.css")),
    ("web/pages/index.html", include_str!("../../../../demo/web/pages/index.html")),
    ("web/src/Board.tsx", include_str!("../../../../demo/web/src/Board.tsx")),
    ("web/src/late.ts", include_str!("../../../../demo/web/src/late.ts")),
    ("web/src/quays.ts", include_str!("../../../../demo/web/src/quays.ts")),
    ("web/src/time.ts", include_str!("../../../../demo/web/src/time.ts")),
    ("web/src/timetable.ts", include_str!("../../../../demo/web/src/timetable.ts")),
];

/// One step of the walk.
struct Step {
    title: &'static str,
    about: &'static str,
    action: Action,
}

/// What happens in a step.
enum Action {
    /// Runs the program with these arguments, which ends with this status.
    Run(&'static [&'static str], u8),
    /// Puts the second text in the place of the first in a file, as the user would in an editor.
    Edit(&'static str, &'static str, &'static str),
}

const STEPS: &[Step] = &[
    Step {
        title: "First contact",
        about: "No settings yet. The medium mesh reports mistakes and leftovers, and leaves style alone. Each card shows the place, \
                what is wrong there, and what to do.",
        action: Action::Run(&["sift"], 1),
    },
    Step {
        title: "Ask why",
        about: "Every rule says what it is for, where it stays silent, and how to live with it.",
        action: Action::Run(&["explain", "identity-of-literal"], 0),
    },
    Step {
        title: "Look before fixing",
        about: "Exact fixes keep the meaning, or say what the mistake was meant to say. The preview is a diff that `git apply` takes.",
        action: Action::Run(&["fix", "--preview"], 1),
    },
    Step {
        title: "Fix",
        about: "Each file is parsed again after every round of fixes; what would break it is discarded.",
        action: Action::Run(&["fix"], 0),
    },
    Step {
        title: "Fix the serious one by hand",
        about: "A misspelt name would have stopped the program at the worst moment. In an editor, line 35 of booking/tides.py becomes:",
        action: Action::Edit("booking/tides.py", "no tide for {dya} in", "no tide for {day} in"),
    },
    Step {
        title: "Waive a place, with the reason",
        about: "The set of codes is shared between calls on purpose. A waiver says so where everybody sees it; the account counts it.",
        action: Action::Run(
            &["waive", "booking/tickets.py:33", "mutable-default", "--because", "codes are unique for the whole day"],
            0,
        ),
    },
    Step {
        title: "What is left",
        about: "One line for each finding is handy in scripts; the account follows.",
        action: Action::Run(&["sift", "--output", "lines"], 1),
    },
    Step {
        title: "Take a baseline",
        about: "The rest is old and works somehow. It is recorded, so that from now on only new findings fail a run.",
        action: Action::Run(&["baseline", "take"], 0),
    },
    Step {
        title: "What is owed",
        about: "The baseline is a debt, and it is listed openly.",
        action: Action::Run(&["baseline", "status"], 0),
    },
    Step {
        title: "A clean run",
        about: "Nothing new. What is held back is counted in every run, and --held shows it.",
        action: Action::Run(&["sift"], 0),
    },
    Step {
        title: "Rules of your own",
        about: "The team has rules that nobody else needs. Each says in a query what it finds, and its examples are its tests.",
        action: Action::Run(&["pack", "test", "lint/ferry.toml"], 0),
    },
    Step {
        title: "Put them to use",
        about: "A pack is tried on its examples and on the code here, and named in the settings. It can come from an address as well.",
        action: Action::Run(&["pack", "add", "lint/ferry.toml"], 0),
    },
    Step {
        title: "What they find",
        about: "House rules are rules like any other: in settings, waivers and the baseline, and on the command line.",
        action: Action::Run(&["sift", "--output", "lines"], 1),
    },
    Step {
        title: "Data too",
        about: "JSON, YAML and TOML are sifted like code. A rule about data says with a path and a schema what must hold where; here a \
                pack is tried on the description of the ferries' service, and on the steps of the night, without being named in the settings.",
        action: Action::Run(&["sift", "--pack", "lint/service.toml", "--only", "service:*", "api", "ops"], 1),
    },
    Step {
        title: "Is the description valid?",
        about: "Three built-in packs know descriptions in OpenAPI and AsyncAPI: api-valid, api-useful and api-secure.",
        action: Action::Run(&["sift", "--pack", "api-valid", "--only", "api-valid:*", "--output", "lines", "api"], 1),
    },
    Step {
        title: "Pages and style sheets",
        about: "Pages are sifted with the scripts and styles in them. Rules of the concern access name the criterion of WCAG 2.2 that they serve, \
                and who is shut out; the baseline holds these findings back, and --no-baseline shows them.",
        action: Action::Run(
            &[
                "sift",
                "--no-baseline",
                "--only",
                "WCAG 2.2,unknown-property,unknown-pseudo",
                "--output",
                "lines",
                "web/pages",
            ],
            1,
        ),
    },
    Step {
        title: "Infrastructure files",
        about: "The files of a folder are one module: what is declared in one is known in all, and a call of a module of the code base is held \
                against what that takes and gives.",
        action: Action::Run(&["sift", "--no-baseline", "--output", "lines", "infra"], 1),
    },
    Step {
        title: "Packages of Go",
        about: "The files of a folder are one package here, too: what nothing in them uses is reported, and renaming follows a name into all of them.",
        action: Action::Run(&["sift", "--no-baseline", "--output", "lines", "display"], 1),
    },
    Step {
        title: "Rename over packages",
        about: "Others use it through the name of its package, or through the name that they import it by.",
        action: Action::Run(&["rename", "display/tides/tides.go:25:6", "ClockTime", "--preview"], 1),
    },
    Step {
        title: "Rust, Java and C#",
        about: "The library of tides is written in Rust, the printer of tickets in Java, the settlement in C#. The same rules hold; the fine mesh adds what is a matter of \
                taste.",
        action: Action::Run(
            &[
                "sift",
                "--no-baseline",
                "--mesh",
                "fine",
                "--only",
                "mistake,docs,leftover",
                "--output",
                "lines",
                "tide-library",
                "ticket-printer",
                "settlement",
            ],
            1,
        ),
    },
];

/// Unpacks and walks.
pub fn run(arguments: &DemoArguments, screen: &mut Screen) -> anyhow::Result<Status> {
    let temporary =
        tempfile::Builder::new().prefix("saltmarsh-").tempdir().context("no temporary folder can be made")?;
    let folder = match &arguments.folder {
        Some(folder) => unpack_to(folder)?,
        None => temporary.path().to_path_buf(),
    };
    unpack(&folder)?;
    let walk = Walk { folder: &folder, program: std::env::current_exe().context("the program does not find itself")? };
    let place = folder.display();
    screen.line(format!("{} {place}", styled(STRONG, "The code of Saltmarsh Ferries is unpacked in")))?;
    for (index, step) in STEPS.iter().enumerate() {
        walk.step(index + 1, step, screen)?;
    }
    screen.gap()?;
    screen.line(styled(STRONG, "That is the whole job."))?;
    screen.line(format!(
        "{} goes through what is left, finding by finding, with a key for each of these steps.",
        styled(TYPED, "hsieve triage")
    ))?;
    screen.line(format!(
        "While you write, {} tells what each save brings, and {} shows it in the editor.",
        styled(TYPED, "hsieve watch"),
        styled(TYPED, "hsieve lsp")
    ))?;
    match &arguments.folder {
        Some(_) => {
            screen.line(format!("Go on in {place}, or run {} on code of your own.", styled(TYPED, "hsieve sift")))?
        }
        None => screen.line(format!(
            "Run {} to keep the folder, or {} on code of your own.",
            styled(TYPED, "hsieve demo FOLDER"),
            styled(TYPED, "hsieve sift")
        ))?,
    }
    Ok(Status::Clean)
}

/// A folder that the user named: only a new or empty one is filled.
fn unpack_to(folder: &Path) -> anyhow::Result<PathBuf> {
    let is_free = match std::fs::read_dir(folder) {
        Ok(mut entries) => entries.next().is_none(),
        Err(error) => error.kind() == std::io::ErrorKind::NotFound,
    };
    if !is_free {
        return usage(format!(
            "{}: this is not an empty folder; name one that is empty or not there",
            folder.display()
        ));
    }
    std::fs::create_dir_all(folder).with_context(|| format!("{}: the folder cannot be made", folder.display()))?;
    Ok(folder.canonicalize()?)
}

fn unpack(folder: &Path) -> anyhow::Result<()> {
    for (name, content) in FILES {
        let path = folder.join(name);
        let parent = path.parent().unwrap_or(folder);
        std::fs::create_dir_all(parent).with_context(|| format!("{}: the folder cannot be made", parent.display()))?;
        files::write(&path, content.as_bytes())?;
    }
    // A repository of its own, so that settings and baselines further up do not count. Without git it goes as well, in a
    // folder that is alone.
    let _ = Command::new("git").args(["init", "--quiet"]).current_dir(folder).status();
    Ok(())
}

/// A word as it is typed in a shell.
fn quoted(word: &str) -> String {
    if word.contains(' ') { format!("\"{word}\"") } else { word.to_string() }
}

struct Walk<'w> {
    folder: &'w Path,
    program: PathBuf,
}

impl Walk<'_> {
    fn step(&self, number: usize, step: &Step, screen: &mut Screen) -> anyhow::Result<()> {
        let rule = "─".repeat(screen.width().min(92));
        screen.gap()?;
        screen.line(styled(FAINT, &rule))?;
        screen.line(format!(
            "{}  {}",
            styled(FAINT, &format!("{number}/{}", STEPS.len())),
            styled(STRONG, step.title)
        ))?;
        for line in wrapped(step.about, screen.width().min(92)) {
            screen.line(line)?;
        }
        screen.gap()?;
        match step.action {
            Action::Run(arguments, status) => self.run(arguments, status, screen),
            Action::Edit(file, old, new) => self.edit(file, old, new, screen),
        }
    }

    fn run(&self, arguments: &[&str], expected: u8, screen: &mut Screen) -> anyhow::Result<()> {
        let words: Vec<String> = arguments.iter().map(|word| quoted(word)).collect();
        screen.line(styled(TYPED, &format!("$ hsieve {}", words.join(" "))))?;
        screen.gap()?;
        screen.finish()?;
        let mut command = Command::new(&self.program);
        command
            .args(arguments)
            .args(["--color", if screen.in_colour() { "always" } else { "never" }])
            .current_dir(self.folder);
        if arguments == ["sift"] {
            command.args(["--output", "cards"]);
        }
        let status = command.status().context("the program cannot run itself")?;
        if status.code() != Some(i32::from(expected)) {
            anyhow::bail!("`hsieve {}` ended with {status}, where {expected} was expected", arguments.join(" "));
        }
        Ok(())
    }

    fn edit(&self, file: &str, old: &str, new: &str, screen: &mut Screen) -> anyhow::Result<()> {
        let path = self.folder.join(file);
        let text = String::from_utf8_lossy(&files::read(&path)?).into_owned();
        if !text.contains(old) {
            anyhow::bail!("{file}: the place to change is not there any more");
        }
        let changed = text.replacen(old, new, 1);
        files::write(&path, changed.as_bytes())?;
        for line in changed.lines().filter(|line| line.contains(new)) {
            screen.line(format!("  {}", styled(TYPED, line.trim_end())))?;
        }
        Ok(())
    }
}
