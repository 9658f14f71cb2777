//! A year of an old project, step by step; the account after each step is exactly right.

use serde_json::{Value, json};

use crate::ferry::{Ended, Ferry};

/// The folders of the project, fifteen files each.
const FOLDERS: [&str; 4] = ["booking", "crews", "legacy", "tides"];

/// A release that gave a rule its name and brought another. What the team writes at first is of the release before.
const HISTORY: &str = "oldest 0.0\n0.1 renamed needless-import unused-import\n0.1 added swallowed-error\n";

/// Five findings of rules that were there from the beginning, and one of the rule that came later.
fn old_file(number: usize) -> String {
    format!(
        "import os\n\n\ndef fare{number}(adult, kinds=[]):\n    crew = adult.crew()\n    table = {{\"a\": 1, \"a\": 2}}\n    return table, kinds\n    print(\"sold\")\n\n\n\
         def sail{number}(boat):\n    try:\n        boat.go()\n    except Exception:\n        pass\n"
    )
}

struct Story {
    ferry: Ferry,
}

impl Story {
    fn begin() -> Story {
        let ferry = Ferry::in_git(&[(".git/history", HISTORY)]);
        for number in 0..60 {
            ferry.write(&format!("{}/quay{number:02}.py", FOLDERS[number / 15]), old_file(number));
        }
        let waived = "import json  # sieve: waive needless-import because it registers itself\n";
        ferry.write("tides/table.py", waived);
        Story { ferry }
    }

    fn run(&self, arguments: &[&str]) -> Ended {
        crate::ferry::ended(
            self.ferry.command(arguments).env("SIEVE_SIMULATED_HISTORY", self.ferry.path(".git/history")),
        )
    }

    /// Runs a command that must succeed.
    #[track_caller]
    fn ok(&self, arguments: &[&str]) -> String {
        let ended = self.run(arguments);
        assert_eq!(ended.status, 0, "{arguments:?}: {ended:?}");
        ended.out
    }

    /// Stages everything and commits; the hook sees the simulated history, too.
    fn commit(&self, message: &str) -> Ended {
        assert_eq!(self.ferry.git(&["add", "--all"]).status, 0);
        self.ferry.git_with(&["commit", "--quiet", "--message", message], &self.ferry.path(".git/history"))
    }

    fn edit(&self, name: &str, old: &str, new: &str) {
        let text = self.ferry.read(name);
        assert!(text.contains(old), "{name} does not hold {old:?}");
        self.ferry.write(name, text.replacen(old, new, 1));
    }

    /// The findings caught at each level, those held back, and the entries paid off.
    #[track_caller]
    fn assert_account(&self, caught: [u64; 3], held: Value, paid_off: u64) {
        let run = self.run(&["sift", "--output", "json"]);
        let document: Value = serde_json::from_str(&run.out).unwrap_or_else(|_| panic!("{run:?}"));
        let account = &document["account"];
        let [error, warning, note] = caught;
        let found = json!([account["files"], account["caught"], account["held"], account["paid-off"]]);
        let expected = json!([61, { "error": error, "warning": warning, "note": note }, held, paid_off]);
        assert_eq!(found, expected);
        assert_eq!(run.status, i32::from(error + warning > 0), "{}", run.err);
    }
}

#[test]
#[cfg(debug_assertions)]
fn a_year_of_an_old_project() {
    let story = Story::begin();
    let ferry = &story.ferry;
    assert_eq!(story.commit("as it was").status, 0);

    // First contact: all that there is. The old name in the waiver is a note.
    story.assert_account([0, 360, 1], json!({ "waiver": 1 }), 0);

    // Settings that agree with the code, and the hook. The team works with the release before.
    story.ok(&["init", "--yes", "--without", "baseline,editor,ci"]);
    story.ok(&["settings", "set", "defaults", "\"0.0\""]);
    story.edit("sieve.toml", "[rules]\n", "[rules]\nneedless-import = \"warning\"\n");
    story.assert_account([0, 300, 2], json!({ "waiver": 1 }), 0);

    // The baseline, as that release would have written it.
    let taken = story.ok(&["baseline", "take", "--without", "upkeep"]);
    assert!(taken.starts_with("Recorded 300 findings"), "{taken}");
    ferry.write(
        "sieve-baseline.jsonl",
        ferry.read("sieve-baseline.jsonl").replace("\"unused-import\"", "\"needless-import\""),
    );
    story.assert_account([0, 0, 3], json!({ "baseline": 300, "waiver": 1 }), 0);
    assert_eq!(story.commit("adopt").status, 0);

    // A commit that adds one finding is stopped, and says how to go on.
    story.edit("booking/quay00.py", "import os\n", "import os\nimport sys\n");
    let stopped = story.commit("one more import");
    assert_eq!(stopped.status, 1);
    let said = stopped.out.clone() + &stopped.err;
    assert!(said.contains("booking/quay00.py:2:8: warning: \"sys\" is imported but never used"), "{said}");
    assert!(said.contains("The commit is stopped.") && said.contains("git commit --no-verify"), "{said}");
    story.assert_account([0, 1, 3], json!({ "baseline": 300, "waiver": 1 }), 0);
    assert_eq!(ferry.git(&["reset", "--quiet", "--hard"]).status, 0);

    // A commit that fixes three; trimming takes them from the baseline, which gets the names of today.
    for number in 0..3 {
        story.edit(&format!("booking/quay{number:02}.py"), "import os\n", "");
    }
    story.assert_account([0, 0, 3], json!({ "baseline": 297, "waiver": 1 }), 3);
    let trimmed = story.ok(&["baseline", "trim"]);
    assert!(trimmed.starts_with("Dropped 3, 297 entries left"), "{trimmed}");
    story.assert_account([0, 0, 2], json!({ "baseline": 297, "waiver": 1 }), 0);
    assert_eq!(story.commit("three fewer").status, 0);

    // A file gets another name: its entries go with it, and follow it for good with the next trim.
    assert_eq!(ferry.git(&["mv", "booking/quay05.py", "booking/pier05.py"]).status, 0);
    assert_eq!(story.commit("a pier").status, 0);
    story.assert_account([0, 0, 2], json!({ "baseline": 297, "waiver": 1 }), 0);
    let trimmed = story.ok(&["baseline", "trim"]);
    assert!(trimmed.contains("Dropped 0, 297 entries left") && trimmed.contains("5 entries follow"), "{trimmed}");
    assert_eq!(story.commit("entries follow").status, 0);

    // Two branches trim at the same time, and merge without a conflict.
    for (branch, name) in [("north", "tides/quay50.py"), ("south", "crews/quay20.py")] {
        assert_eq!(ferry.git(&["switch", "--quiet", "--create", branch, "main"]).status, 0);
        story.edit(name, "import os\n", "");
        story.edit(name, "    print(\"sold\")\n", "");
        assert!(story.ok(&["baseline", "trim"]).starts_with("Dropped 2, 295 entries left"));
        assert_eq!(story.commit(branch).status, 0);
    }
    assert_eq!(ferry.git(&["switch", "--quiet", "main"]).status, 0);
    assert_eq!(ferry.git(&["merge", "--quiet", "--no-edit", "north"]).status, 0);
    let merged = ferry.git(&["merge", "--quiet", "--no-edit", "south"]);
    assert_eq!(merged.status, 0, "{merged:?}");
    story.assert_account([0, 0, 2], json!({ "baseline": 293, "waiver": 1 }), 0);

    // The next release: first what it would bring, then the move.
    let upgrade = story.ok(&["settings", "upgrade"]);
    assert!(upgrade.contains("sieve.toml  defaults of 0.0 → 0.1"), "{upgrade}");
    assert!(upgrade.contains("swallowed-error      off → warning      60"), "{upgrade}");
    assert!(upgrade.contains("tides/table.py  1 place") && upgrade.contains("sieve.toml      1 place"), "{upgrade}");
    story.assert_account([0, 0, 2], json!({ "baseline": 293, "waiver": 1 }), 0);
    story.ok(&["settings", "upgrade", "--write"]);
    let settings = ferry.read("sieve.toml");
    assert!(
        settings.contains("defaults = \"0.1\"") && settings.contains("\nunused-import = \"warning\""),
        "{settings}"
    );
    assert!(ferry.read("tides/table.py").contains("sieve: waive unused-import because"));
    story.assert_account([0, 60, 0], json!({ "baseline": 293, "waiver": 1 }), 0);
    assert_eq!(story.ok(&["settings", "upgrade"]), "Nothing to upgrade: settings and names are those of 0.1.\n");

    // One folder is not ready for the new rule.
    let scope = "\n[[scope]]\npaths = [\"legacy/**\"]\nbecause = \"retired in spring\"\nrules = { swallowed-error = \"off\" }\n";
    ferry.write("sieve.toml", settings + scope);
    story.assert_account([0, 45, 0], json!({ "baseline": 293, "scope": 15, "waiver": 1 }), 0);
    assert_eq!(story.run(&["baseline", "take"]).status, 2, "new findings are not added without being asked for");
    story.ok(&["baseline", "take", "--add-new"]);
    story.assert_account([0, 0, 0], json!({ "baseline": 338, "scope": 15, "waiver": 1 }), 0);
    assert_eq!(story.commit("the next release").status, 0);
}
