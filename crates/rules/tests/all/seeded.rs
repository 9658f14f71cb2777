//! Mistakes planted into real functions are found: there, and nowhere else.
//!
//! Functions come from the library of the Python that is installed, and from the packages that the comparison of parsers installs.

use std::path::{Path, PathBuf};
use std::process::Command;

use sieve_rules::{Ban, BanKind, Dispatch, Enabled, RuleId, TeamPolicy, catalogue, run};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

/// How many functions each mistake is planted into.
const PLANTED: usize = 60;

/// Larger files are left aside, so that the test stays short; in bytes.
const LARGEST: u64 = 40_000;

/// A mistake: what is put in, and where.
struct Mistake {
    rule: &'static str,
    plant: Plant,
}

enum Plant {
    /// Lines at the head of a function's body; the finding is on the one with this index.
    Lines(&'static [&'static str], usize),
    /// An edit of a call, or of another part of a function.
    Edit(fn(&Text, NodeRef) -> Option<Planted>),
}

/// An edit within one line: what is replaced, and by what.
struct Planted {
    start: u32,
    end: u32,
    text: String,
}

const PYTHON: &[Mistake] = &[
    Mistake { rule: "banned-import", plant: Plant::Lines(&["import seeded_module"], 0) },
    Mistake { rule: "banned-call", plant: Plant::Lines(&["import seeded_clock as c", "print(c.now())"], 1) },
    Mistake { rule: "banned-member", plant: Plant::Lines(&["print(print.seeded_member)"], 0) },
    Mistake { rule: "repeated-parameter", plant: Plant::Lines(&["def seeded(one, one): return one"], 0) },
    Mistake { rule: "magic-number", plant: Plant::Lines(&["print(print * 4711)"], 0) },
    Mistake { rule: "stacked-statements", plant: Plant::Lines(&["print(); print()"], 0) },
    Mistake { rule: "trailing-space", plant: Plant::Lines(&["print()  "], 0) },
    Mistake { rule: "undefined-name", plant: Plant::Lines(&["print(seeded_nowhere)"], 0) },
    Mistake { rule: "unused-variable", plant: Plant::Lines(&["seeded = 1"], 0) },
    Mistake { rule: "unused-import", plant: Plant::Lines(&["import seeded_module"], 0) },
    Mistake { rule: "maybe-unset", plant: Plant::Lines(&["print(seeded)", "seeded = 1"], 0) },
    Mistake {
        rule: "maybe-unset",
        plant: Plant::Lines(&["if seeded_module():", "    seeded = 1", "print(seeded)"], 2),
    },
    Mistake { rule: "unreachable-code", plant: Plant::Lines(&["if 2 > 1:", "    return", "    print()"], 2) },
    Mistake {
        rule: "unreachable-code",
        plant: Plant::Lines(&["while True:", "    print()", "    continue", "    print()"], 3),
    },
    Mistake {
        rule: "argument-count",
        plant: Plant::Lines(&["def seeded(one, two): return one", "print(seeded(1))"], 1),
    },
    Mistake { rule: "argument-count", plant: Plant::Edit(one_argument_more) },
    Mistake { rule: "argument-count", plant: Plant::Edit(one_argument_less) },
    Mistake { rule: "unknown-keyword", plant: Plant::Edit(another_keyword) },
    Mistake { rule: "repeated-key", plant: Plant::Lines(&["print({'quay': 1, 'tide': 2, 'quay': 3})"], 0) },
    Mistake { rule: "same-operands", plant: Plant::Lines(&["print(print < print)"], 0) },
    Mistake { rule: "identity-of-literal", plant: Plant::Lines(&["print(print is 'quay')"], 0) },
    Mistake { rule: "dropped-comparison", plant: Plant::Lines(&["print == 3"], 0) },
    Mistake { rule: "constant-condition", plant: Plant::Lines(&["if print == 3 or 4:", "    print()"], 0) },
    Mistake { rule: "unraised-error", plant: Plant::Lines(&["ValueError('tide')"], 0) },
    Mistake { rule: "placeholder-count", plant: Plant::Lines(&["print('%s of %s' % (print,))"], 0) },
    Mistake { rule: "repeated-target", plant: Plant::Lines(&["seeded, seeded = print", "print(seeded)"], 0) },
    Mistake { rule: "ignored-result", plant: Plant::Lines(&["sorted(print)"], 0) },
    Mistake { rule: "eval-call", plant: Plant::Lines(&["eval(print)"], 0) },
    Mistake { rule: "empty-block", plant: Plant::Lines(&["if print:", "    pass", "print()"], 0) },
    Mistake {
        rule: "repeated-condition",
        plant: Plant::Lines(&["if print:", "    print()", "elif print:", "    print(1)"], 2),
    },
    Mistake {
        rule: "forgotten-await",
        plant: Plant::Lines(&["async def seeded(): return 1", "async def other(): seeded()", "print(other)"], 1),
    },
    Mistake { rule: "shell-with-text", plant: Plant::Lines(&["import os", "os.system(f'print {os}')"], 1) },
    Mistake { rule: "unsafe-load", plant: Plant::Lines(&["import pickle", "print(pickle.loads(b''))"], 1) },
    Mistake { rule: "wide-permission", plant: Plant::Lines(&["import os", "os.chmod('tides', 0o777)"], 1) },
    Mistake { rule: "temp-file-by-name", plant: Plant::Lines(&["import tempfile", "print(tempfile.mktemp())"], 1) },
    Mistake { rule: "local-import", plant: Plant::Lines(&["import seeded_module"], 0) },
    Mistake { rule: "repeated-import", plant: Plant::Lines(&["import seeded_module", "import seeded_module"], 1) },
    Mistake {
        rule: "mutable-default",
        plant: Plant::Lines(&["def seeded(one=[]): one.append(1)", "print(seeded)"], 0),
    },
    Mistake {
        rule: "unreachable-case",
        plant: Plant::Lines(&["try: print()", "except OSError: print(1)", "except FileNotFoundError: print(2)"], 2),
    },
    Mistake { rule: "swallowed-error", plant: Plant::Lines(&["try: print()", "except Exception: pass", "print()"], 1) },
    Mistake { rule: "same-branches", plant: Plant::Lines(&["if print:", "    print()", "else:", "    print()"], 0) },
    Mistake { rule: "left-in-finally", plant: Plant::Lines(&["try: print()", "finally: return"], 1) },
    Mistake { rule: "raised-non-error", plant: Plant::Lines(&["raise NotImplemented"], 0) },
    Mistake {
        rule: "caught-non-error",
        plant: Plant::Lines(&["try: print()", "except (OSError or ValueError): print(1)"], 1),
    },
    Mistake {
        rule: "changed-in-loop",
        plant: Plant::Lines(&["seeded = [1]", "for one in seeded: seeded.remove(one)"], 1),
    },
    Mistake {
        rule: "late-bound-variable",
        plant: Plant::Lines(&["seeded = []", "for one in seeded: seeded.append(lambda: one)"], 1),
    },
    Mistake {
        rule: "shared-attribute",
        plant: Plant::Lines(
            &["class Seeded:", "    quays = []", "    def add(self): self.quays.append(1)", "print(Seeded)"],
            1,
        ),
    },
    Mistake { rule: "missing-comma", plant: Plant::Lines(&["print(['north', 'east', 'south'", "    'west'])"], 0) },
    Mistake { rule: "hidden-builtin", plant: Plant::Lines(&["list = [1]", "print(list(list))"], 1) },
    Mistake {
        rule: "special-method",
        plant: Plant::Lines(&["class Seeded:", "    def __exit__(self): pass", "print(Seeded)"], 1),
    },
    Mistake {
        rule: "missing-self",
        plant: Plant::Lines(&["class Seeded:", "    def sail(): pass", "print(Seeded)"], 1),
    },
    Mistake { rule: "membership-in-string", plant: Plant::Lines(&["print(print in ('quay'))"], 0) },
    Mistake { rule: "invalid-mode", plant: Plant::Lines(&["print(open('tides', 'rz'))"], 0) },
    Mistake { rule: "library-call", plant: Plant::Lines(&["print(len(print, print))"], 0) },
    Mistake { rule: "unpacking-count", plant: Plant::Lines(&["seeded, other = 1, 2, 3", "print(seeded, other)"], 0) },
    Mistake { rule: "member-of-none", plant: Plant::Lines(&["print(print is None and print.quay)"], 0) },
    Mistake { rule: "constant-comparison", plant: Plant::Lines(&["print(len(print) < 0)"], 0) },
    Mistake {
        rule: "unformatted-string",
        plant: Plant::Lines(&["seeded = 1", "print('{seeded} quays')", "print(seeded)"], 1),
    },
    Mistake { rule: "invalid-escape", plant: Plant::Lines(&["print('\\d')"], 0) },
    Mistake { rule: "invalid-pattern", plant: Plant::Lines(&["import re", "print(re.compile('(quay'))"], 1) },
    Mistake {
        rule: "repeated-definition",
        plant: Plant::Lines(
            &["class Seeded:", "    def sail(self): pass", "    def sail(self): print()", "print(Seeded)"],
            2,
        ),
    },
    Mistake { rule: "pointless-statement", plant: Plant::Lines(&["print + print"], 0) },
    Mistake { rule: "reversed-operator", plant: Plant::Lines(&["seeded =+ 1", "print(seeded)"], 0) },
    Mistake { rule: "missing-member", plant: Plant::Lines(&["import math", "print(math.ciel(1))"], 1) },
    Mistake { rule: "idle-handler", plant: Plant::Lines(&["try: print()", "except OSError: raise"], 1) },
    Mistake {
        rule: "attribute-slip",
        plant: Plant::Lines(
            &[
                "class Seeded:",
                "    def one(self): self.length = 1",
                "    def two(self): return self.lenght",
                "print(Seeded)",
            ],
            2,
        ),
    },
];

const JAVASCRIPT: &[Mistake] = &[
    Mistake { rule: "dropped-comparison", plant: Plant::Lines(&["Math === 3;"], 0) },
    Mistake { rule: "empty-block", plant: Plant::Lines(&["if (Math) {}", "seededCall();"], 0) },
    Mistake {
        rule: "same-branches",
        plant: Plant::Lines(&["if (Math) {", "seededCall();", "} else {", "seededCall();", "}"], 0),
    },
    Mistake {
        rule: "forgotten-await",
        plant: Plant::Lines(&["async function seeded() { return 1; }", "seededCall(async () => { seeded(); });"], 1),
    },
    Mistake { rule: "unused-variable", plant: Plant::Lines(&["const seeded = 1;"], 0) },
    Mistake { rule: "maybe-unset", plant: Plant::Lines(&["seededCall(seeded);", "const seeded = 1;"], 0) },
    Mistake { rule: "unreachable-code", plant: Plant::Lines(&["if (2 > 1) {", "return;", "seededCall();", "}"], 2) },
    Mistake {
        rule: "argument-count",
        plant: Plant::Lines(&["const seeded = (one) => one;", "seededCall(seeded(1, 2));"], 1),
    },
    Mistake { rule: "argument-count", plant: Plant::Edit(one_argument_more) },
    Mistake { rule: "repeated-key", plant: Plant::Lines(&["seededCall({ quay: 1, tide: 2, quay: 3 });"], 0) },
    Mistake { rule: "same-operands", plant: Plant::Lines(&["seededCall(Math < Math);"], 0) },
    Mistake { rule: "constant-condition", plant: Plant::Lines(&["if (Math === 3 || 4) seededCall();"], 0) },
    Mistake {
        rule: "assigned-condition",
        plant: Plant::Lines(&["let seeded = 2;", "if (seeded = 3) seededCall(seeded);"], 1),
    },
    Mistake { rule: "eval-call", plant: Plant::Lines(&["eval(Math);"], 0) },
    Mistake { rule: "ignored-result", plant: Plant::Lines(&["Math.max(1, 2);"], 0) },
    Mistake {
        rule: "unreachable-case",
        plant: Plant::Lines(&["switch (Math) { case 1: seededCall(); break;", "case 1: seededCall(2); }"], 1),
    },
    Mistake { rule: "left-in-finally", plant: Plant::Lines(&["try { seededCall(); } finally { return; }"], 0) },
    Mistake { rule: "assigned-constant", plant: Plant::Lines(&["const seeded = 1;", "seededCall(seeded += 1);"], 1) },
    Mistake { rule: "async-callback", plant: Plant::Lines(&["seededCall().filter(async (one) => one);"], 0) },
    Mistake { rule: "negated-left", plant: Plant::Lines(&["if (!Math in seededCall()) seededCall();"], 0) },
    Mistake { rule: "broken-chain", plant: Plant::Lines(&["(Math?.quay).tide();"], 0) },
    Mistake {
        rule: "reversed-operator",
        plant: Plant::Lines(&["let seeded = 1;", "seeded =+ 2;", "seededCall(seeded);"], 1),
    },
    Mistake {
        rule: "endless-count",
        plant: Plant::Lines(&["for (let seeded = 0; seeded < 9; seeded--) seededCall(seeded);"], 0),
    },
    Mistake {
        rule: "idle-handler",
        plant: Plant::Lines(&["try { seededCall(); } catch (seeded) { throw seeded; }"], 0),
    },
    Mistake { rule: "unraised-error", plant: Plant::Lines(&["new Error('quay');"], 0) },
    Mistake { rule: "constant-comparison", plant: Plant::Lines(&["seededCall(typeof Math === 'quay');"], 0) },
    Mistake { rule: "member-of-none", plant: Plant::Lines(&["seededCall(Math === null && Math.quay);"], 0) },
    Mistake { rule: "pointless-statement", plant: Plant::Lines(&["Math + Math;"], 0) },
    Mistake { rule: "unused-member", plant: Plant::Lines(&["class Seeded { #quay = 1; }", "seededCall(Seeded);"], 0) },
    Mistake {
        rule: "this-before-super",
        plant: Plant::Lines(
            &["class Seeded extends Map { constructor() { this.quay = 1; } }", "seededCall(Seeded);"],
            0,
        ),
    },
    Mistake { rule: "returned-in-setter", plant: Plant::Lines(&["seededCall({ set quay(tide) { return 1; } });"], 0) },
    Mistake { rule: "invalid-pattern", plant: Plant::Lines(&["seededCall(new RegExp('(quay'));"], 0) },
];

const SHELL: &[Mistake] = &[
    Mistake { rule: "raw-read", plant: Plant::Lines(&["read seeded < quays"], 0) },
    Mistake { rule: "unchecked-cd", plant: Plant::Lines(&["cd seeded", ":"], 0) },
    Mistake { rule: "masked-status", plant: Plant::Lines(&["local seeded=$(seed) || return"], 0) },
    Mistake { rule: "list-files-by-glob", plant: Plant::Lines(&["for seeded in $(ls *.quay); do :; done"], 0) },
    Mistake { rule: "unquoted-arguments", plant: Plant::Lines(&["seeded_call $@"], 0) },
    Mistake { rule: "unquoted-expansion", plant: Plant::Lines(&["seeded_call $HOME"], 0) },
    Mistake { rule: "pipe-to-shell", plant: Plant::Lines(&["curl -s https://quays.example | sh"], 0) },
    Mistake { rule: "wide-permission", plant: Plant::Lines(&["chmod 777 seeded"], 0) },
    Mistake { rule: "unreachable-code", plant: Plant::Lines(&["if :; then", "return 1", ":", "fi"], 2) },
    Mistake { rule: "dialect-feature", plant: Plant::Lines(&["source seeded"], 0) },
    Mistake { rule: "redirected-test", plant: Plant::Lines(&["[ 1 > 2 ]"], 0) },
    Mistake { rule: "number-test-of-word", plant: Plant::Lines(&["[ \"$1\" -eq low ]"], 0) },
    Mistake { rule: "constant-test", plant: Plant::Lines(&["[ low ]"], 0) },
    Mistake { rule: "spaced-assignment", plant: Plant::Lines(&["seeded = low"], 0) },
    Mistake { rule: "missing-test-space", plant: Plant::Lines(&["[\"$1\" = low ]"], 0) },
    Mistake { rule: "read-and-written", plant: Plant::Lines(&["sort seeded > seeded"], 0) },
    Mistake { rule: "redirection-order", plant: Plant::Lines(&["seeded_call 2>&1 > log"], 0) },
    Mistake { rule: "redirected-sudo", plant: Plant::Lines(&["sudo seeded_call > /etc/tide"], 0) },
    Mistake { rule: "lines-by-splitting", plant: Plant::Lines(&["for line in $(cat seeded); do :; done"], 0) },
    Mistake { rule: "quoted-tilde", plant: Plant::Lines(&["seeded_call \"~/tide\""], 0) },
    Mistake { rule: "format-from-variable", plant: Plant::Lines(&["printf \"$HOME\""], 0) },
    Mistake { rule: "unquoted-pattern", plant: Plant::Lines(&["find . -name *.tide"], 0) },
    Mistake { rule: "status-range", plant: Plant::Lines(&["return 256"], 0) },
    Mistake { rule: "octal-number", plant: Plant::Lines(&["seeded_call $((08 + 1))"], 0) },
];

#[test]
fn mistakes_in_shell_scripts_are_found_where_they_were_planted() {
    let folders = ["/usr/bin", "/usr/sbin", "/usr/lib", "/usr/share"].map(Path::new);
    let mut files = Vec::new();
    for folder in folders {
        scripts(folder, 0, &mut files);
    }
    files.sort();
    if files.len() < 20 {
        eprintln!("0 references: this machine has {} shell scripts; nothing was planted into them", files.len());
        return;
    }
    plant_into(Language::Shell, SHELL, &files);
}

/// Scripts that say in their first line which shell runs them, and nothing that would keep a rule silent.
fn scripts(folder: &Path, depth: usize, found: &mut Vec<PathBuf>) {
    for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
        let path = entry.path();
        let Ok(data) = entry.metadata() else { continue };
        if data.is_dir() && depth < 4 {
            scripts(&path, depth + 1, found);
        } else if data.is_file() && data.len() < LARGEST && found.len() < 400 {
            let Ok(bytes) = std::fs::read(&path) else { continue };
            let text = String::from_utf8_lossy(&bytes);
            let first = text.lines().next().unwrap_or_default();
            let silent = ["set -", "IFS=", " -e"].iter().any(|word| text.contains(word));
            if first.starts_with("#!") && first.ends_with("/sh") && text.contains("()") && !silent {
                found.push(path);
            }
        }
    }
}

#[test]
fn mistakes_in_python_are_found_where_they_were_planted() {
    let library = Command::new("python3").args(["-c", "import os; print(os.path.dirname(os.__file__))"]).output();
    let Ok(library) = library else {
        assert!(std::env::var_os("CI").is_none(), "a reference is missing");
        eprintln!("0 references: python3 is not there; nothing was planted into its library");
        return;
    };
    let folder = PathBuf::from(String::from_utf8_lossy(&library.stdout).trim());
    plant_all(Language::Python, PYTHON, &folder, &["site-packages", "test", "tests", "idlelib", "lib2to3"]);
}

#[test]
fn mistakes_in_javascript_are_found_where_they_were_planted() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../syntax/tests/reference/node_modules");
    if !folder.is_dir() {
        assert!(std::env::var_os("CI").is_none(), "a reference is missing");
        eprintln!("0 references: no packages are installed; nothing was planted into them");
        return;
    }
    plant_all(Language::JavaScript, JAVASCRIPT, &folder, &["test", "tests", "dist", "umd", "cjs"]);
}

fn plant_all(language: Language, mistakes: &[Mistake], folder: &Path, without: &[&str]) {
    let mut files = Vec::new();
    collect(folder, language.spec().extensions[0], without, &mut files);
    files.sort();
    assert!(files.len() > 50, "{} has too few files", folder.display());
    plant_into(language, mistakes, &files);
}

fn plant_into(language: Language, mistakes: &[Mistake], files: &[PathBuf]) {
    for (index, mistake) in mistakes.iter().enumerate() {
        let (mut planted, mut found) = (0, 0);
        let mut missed = Vec::new();
        // Every mistake begins with another file, and takes one function of each.
        let turn = files.iter().cycle().skip(index * 37).take(files.len().max(PLANTED));
        for (number, path) in turn.enumerate() {
            if planted == PLANTED {
                break;
            }
            let Some(outcome) = plant(language, mistake, path, number) else { continue };
            planted += 1;
            match outcome {
                Outcome::Found => found += 1,
                Outcome::Missed => missed.push(path.display().to_string()),
                Outcome::Elsewhere(places) => {
                    panic!("{} in {}: found at {places:?} as well", mistake.rule, path.display())
                }
            }
        }
        println!("{}: {found} of {planted} found", mistake.rule);
        assert!(planted > 5, "{}: only {planted} functions to plant it into", mistake.rule);
        assert!(found * 100 >= planted * 70, "{}: {found} of {planted} found, not in {missed:?}", mistake.rule);
    }
}

fn collect(folder: &Path, ending: &str, without: &[&str], found: &mut Vec<PathBuf>) {
    for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
        let path = entry.path();
        let Ok(kind) = entry.file_type() else { continue };
        let name = entry.file_name().to_string_lossy().into_owned();
        if kind.is_dir() && !without.contains(&name.as_str()) && !name.starts_with("test") {
            collect(&path, ending, without, found);
        } else if kind.is_file()
            && name.ends_with(&format!(".{ending}"))
            && !name.starts_with("test")
            && entry.metadata().is_ok_and(|data| data.len() < LARGEST)
        {
            found.push(path);
        }
    }
}

enum Outcome {
    Found,
    Missed,
    Elsewhere(Vec<u32>),
}

/// Plants a mistake into one function of a file; nothing where no function is fit for it.
fn plant(language: Language, mistake: &Mistake, path: &Path, number: usize) -> Option<Outcome> {
    let text = language.decode(std::fs::read(path).ok()?).ok()?;
    let tree = language.parse(&text);
    if !tree.faults().is_empty() || text.source().contains("eval(") || text.source().contains("exec(") {
        return None;
    }
    let (after, line, added) = match &mistake.plant {
        Plant::Lines(lines, at) => with_lines(&text, &tree, lines, *at, number)?,
        Plant::Edit(edit) => with_edit(&text, &tree, *edit, number)?,
    };
    let after = Text::new(after);
    let changed = language.parse(&after);
    if !changed.faults().is_empty() {
        // Some functions have no room for it, such as those on one line.
        return None;
    }
    let before_lines: Vec<u32> = places(mistake.rule, language, &text, &tree)
        .into_iter()
        .map(|known| if known >= first_of(line, mistake) { known + added } else { known })
        .collect();
    let mut new = places(mistake.rule, language, &after, &changed);
    for known in before_lines {
        if let Some(at) = new.iter().position(|place| *place == known) {
            new.remove(at);
        }
    }
    Some(match new.iter().position(|place| *place == line) {
        Some(at) => {
            new.remove(at);
            if new.is_empty() { Outcome::Found } else { Outcome::Elsewhere(new) }
        }
        None if new.is_empty() => Outcome::Missed,
        None => Outcome::Elsewhere(new),
    })
}

/// The line at which the planted lines begin.
fn first_of(line: u32, mistake: &Mistake) -> u32 {
    match mistake.plant {
        Plant::Lines(_, at) => line - at as u32,
        Plant::Edit(_) => line,
    }
}

/// What the planted uses of banned things are banned as.
fn bans() -> Vec<Ban> {
    let ban = |kind, name: &str| Ban { kind, name: name.into(), because: "it is retired".into() };
    vec![
        ban(BanKind::Import, "seeded_module"),
        ban(BanKind::Call, "seeded_clock.now"),
        ban(BanKind::Member, "seeded_member"),
    ]
}

/// The lines on which a rule reports something.
fn places(rule: &str, language: Language, text: &Text, tree: &Tree) -> Vec<u32> {
    let id: RuleId = catalogue::named(rule).unwrap_or_else(|| panic!("there is no rule {rule}"));
    let values = catalogue::rule(id).options.iter().map(|option| option.default_value()).collect();
    let dispatch = Dispatch::new(vec![Enabled { rule: id, facts: catalogue::rule(id), values }])
        .with_policy(TeamPolicy { bans: bans(), ..TeamPolicy::default() });
    let path = format!("booking/fares.{}", language.spec().extensions[0]);
    let report = run(&path, language, text, tree, &dispatch);
    report.findings.iter().map(|finding| text.lines().line_of(finding.span.start)).collect()
}

/// A function whose body is a block of several lines.
fn function<'t>(text: &Text, tree: &'t Tree, number: usize) -> Option<NodeRef<'t>> {
    let fit = |node: &NodeRef<'t>| {
        let Some(body) = node.child(Role::Body).filter(|body| body.kind() == Kind::Block) else { return false };
        let Some(first) = body.children_in(Role::Statement).next() else { return false };
        let own_line = text.lines().full_line(text.lines().line_of(first.span().start));
        let before = &text.source()[own_line.start as usize..first.span().start as usize];
        before.trim().is_empty() && first.first_token_kind() != sieve_syntax::tree::TokenKind::String
    };
    let functions: Vec<NodeRef<'t>> = tree.nodes().filter(|node| node.kind() == Kind::Function).filter(fit).collect();
    (!functions.is_empty()).then(|| functions[number * 7 % functions.len()])
}

/// The source with lines at the head of a function, the line of the mistake, and how many lines came in.
fn with_lines(text: &Text, tree: &Tree, lines: &[&str], at: usize, number: usize) -> Option<(String, u32, u32)> {
    let body = function(text, tree, number)?.child(Role::Body)?;
    let first = body.children_in(Role::Statement).next()?;
    let line = text.lines().line_of(first.span().start);
    let start = text.lines().full_line(line).start as usize;
    let indent = &text.source()[start..first.span().start as usize];
    let unit = if indent.contains('\t') { "\t" } else { "    " };
    let planted: String = lines.iter().map(|code| format!("{indent}{}\n", code.replace("    ", unit))).collect();
    let (before, behind) = text.source().split_at(start);
    Some((format!("{before}{planted}{behind}"), line + at as u32, lines.len() as u32))
}

fn with_edit(
    text: &Text,
    tree: &Tree,
    edit: fn(&Text, NodeRef) -> Option<Planted>,
    number: usize,
) -> Option<(String, u32, u32)> {
    let edits: Vec<Planted> =
        tree.nodes().filter(|node| node.kind() == Kind::Call).filter_map(|call| edit(text, call)).collect();
    let planted = edits.get(number * 7 % edits.len().max(1))?;
    let (start, end) = (planted.start as usize, planted.end as usize);
    let after = format!("{}{}{}", &text.source()[..start], planted.text, &text.source()[end..]);
    Some((after, text.lines().line_of(planted.start), 0))
}

/// The call of a function of the file that is once at its top and takes what it is given, on one line.
fn plain_call(text: &Text, call: NodeRef) -> Option<usize> {
    let tree = call.tree();
    let name = text.slice(call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name)?.span());
    let named = |node: &NodeRef| node.child(Role::Name).is_some_and(|it| text.slice(it.span()) == name);
    let bound = tree
        .nodes()
        .filter(|node| matches!(node.kind(), Kind::Function | Kind::Class | Kind::ImportItem | Kind::Parameter))
        .filter(named);
    let assigned = tree.nodes().any(|node| node.role() == Role::Target && text.slice(node.span()) == name);
    let functions: Vec<NodeRef> = bound.collect();
    let [only] = functions.as_slice() else { return None };
    let is_plain = only.kind() == Kind::Function
        && only.child(Role::Decorator).is_none()
        && only.parent().is_some_and(|holder| holder.kind() == Kind::File);
    let parameters: Vec<NodeRef> = only.child(Role::Parameters)?.children().collect();
    let simple = parameters
        .iter()
        .all(|one| one.children().count() == 1 && one.child(Role::Name).is_some_and(|name| name.span() == one.span()));
    let arguments: Vec<NodeRef> = call.child(Role::Arguments)?.children().collect();
    let positional = arguments.iter().all(|one| !matches!(one.kind(), Kind::KeywordArgument | Kind::Spread));
    let line = |offset: u32| text.lines().line_of(offset);
    let one_line = line(call.span().start) == line(call.span().end);
    let expects = call.ancestors().any(|around| matches!(around.kind(), Kind::Try | Kind::With));
    let speaks = text.slice(only.span()).contains("arguments");
    (is_plain
        && simple
        && positional
        && one_line
        && !assigned
        && !expects
        && !speaks
        && arguments.len() == parameters.len())
    .then_some(arguments.len())
}

fn one_argument_more(text: &Text, call: NodeRef) -> Option<Planted> {
    let count = plain_call(text, call)?;
    let end = call.span().end - 1;
    Some(Planted { start: end, end, text: if count == 0 { "3".into() } else { ", 3".into() } })
}

fn one_argument_less(text: &Text, call: NodeRef) -> Option<Planted> {
    let count = plain_call(text, call)?;
    let arguments: Vec<NodeRef> = call.child(Role::Arguments)?.children().collect();
    let last = arguments.last()?;
    let start = if count == 1 { last.span().start } else { arguments[count - 2].span().end };
    Some(Planted { start, end: last.span().end, text: String::new() })
}

fn another_keyword(text: &Text, call: NodeRef) -> Option<Planted> {
    plain_call(text, call).filter(|count| *count > 0)?;
    let end = call.span().end - 1;
    Some(Planted { start: end, end, text: ", seeded=3".into() })
}
