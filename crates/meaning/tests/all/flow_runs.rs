//! What the flow of a program says agrees with what running it does: programs are made at random and run by python3 and node. No line
//! that runs is called unreachable; no variable that is read well is called unset, and none that is not is called set.

use std::collections::BTreeSet;
use std::io::Write;
use std::process::{Command, Stdio};

use serde_json::Value;
use sieve_meaning::flow::{Flows, Unset};
use sieve_meaning::names_of;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

const PROGRAMS: u64 = 300;

#[test]
fn python_runs_as_its_flow_says() {
    agree(Language::Python, &["python3", concat!(env!("CARGO_MANIFEST_DIR"), "/tests/runs/run.py")]);
}

#[test]
fn javascript_runs_as_its_flow_says() {
    agree(Language::JavaScript, &["node", concat!(env!("CARGO_MANIFEST_DIR"), "/tests/runs/run.cjs")]);
}

fn agree(language: Language, command: &[&str]) {
    let programs: Vec<String> = (0..PROGRAMS).map(|seed| Writer::program(language, seed)).collect();
    let Some(runs) = run(command, &programs) else { return };
    let (mut dead_lines, mut unset_reads, mut failed_reads) = (0, 0, 0);
    for (source, run) in programs.iter().zip(&runs) {
        let told = told(language, source);
        let lines = |key: &str| -> BTreeSet<u32> {
            run[key].as_array().expect("a list").iter().map(|line| line.as_u64().expect("a line") as u32).collect()
        };
        let (ran, failed) = (lines("ran"), lines("failed"));
        assert!(ran.is_disjoint(&told.dead), "these lines ran: {:?}\n{source}", &ran & &told.dead);
        assert!(ran.is_disjoint(&told.never_set), "these had a value: {:?}\n{source}", &ran & &told.never_set);
        assert!(failed.is_subset(&told.unset), "these had none: {:?}\n{source}", &failed - &told.unset);
        dead_lines += told.dead.len();
        unset_reads += told.unset.len();
        failed_reads += failed.len();
    }
    println!(
        "{PROGRAMS} programs, {dead_lines} dead lines, {unset_reads} reads that may fail, {failed_reads} that did"
    );
    assert!(dead_lines > 100 && failed_reads > 100, "the programs must have what is asked about");
}

/// The lines that a flow mentions.
#[derive(Default)]
struct Told {
    dead: BTreeSet<u32>,
    unset: BTreeSet<u32>,
    never_set: BTreeSet<u32>,
}

fn told(language: Language, source: &str) -> Told {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "{source}");
    let names = names_of(language, &text, &tree);
    let flows = Flows::new(language, &text, &tree, Some(&names));
    let mut told = Told::default();
    let line = |offset: u32| text.lines().line_of(offset);
    let notable: Vec<_> = flows.notable_owners().collect();
    for flow in flows.owners().map(|owner| flows.of(owner).expect("the code is whole")) {
        let has_none = flow.dead_statements().is_empty() && flow.unset_uses().is_empty();
        assert!(has_none || notable.contains(&flow.owner()), "{source}");
        told.dead.extend(flow.dead_statements().iter().map(|statement| line(statement.span().start)));
        for place in flow.unset_uses() {
            let at = line(tree.node(place.node).span().start);
            told.unset.insert(at);
            if place.unset == Unset::Always {
                told.never_set.insert(at);
            }
        }
    }
    told
}

/// What each program did; nothing where the interpreter is not there.
fn run(command: &[&str], programs: &[String]) -> Option<Vec<Value>> {
    let spawned = Command::new(command[0]).args(&command[1..]).stdin(Stdio::piped()).stdout(Stdio::piped()).spawn();
    let Ok(mut child) = spawned else {
        assert!(std::env::var_os("CI").is_none(), "a reference is missing");
        eprintln!("0 references: {} is not there; nothing was run", command[0]);
        return None;
    };
    let mut stdin = child.stdin.take().expect("it has a standard input");
    let input: String = programs.iter().map(|program| Value::from(program.as_str()).to_string() + "\n").collect();
    let writer = std::thread::spawn(move || stdin.write_all(input.as_bytes()));
    let output = child.wait_with_output().expect("it ends");
    writer.join().expect("the writer ends").expect("it reads all");
    let text = String::from_utf8(output.stdout).expect("it writes text");
    let runs: Vec<Value> = text.lines().map(|line| serde_json::from_str(line).expect("JSON")).collect();
    assert_eq!(runs.len(), programs.len());
    Some(runs)
}

/// Writes one program, a statement on each line.
struct Writer {
    language: Language,
    state: u64,
    lines: Vec<String>,
    depth: usize,
    loops: usize,
    /// Variables that are declared around, by the blocks that declare them.
    declared: Vec<Vec<u64>>,
    left: i32,
}

impl Writer {
    fn program(language: Language, seed: u64) -> String {
        let mut writer = Writer {
            language,
            state: seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) + 1,
            lines: Vec::new(),
            depth: 0,
            loops: 0,
            declared: Vec::new(),
            left: 40,
        };
        let head = if writer.is_python() { "def sail():" } else { "(function () {" };
        writer.line(head);
        writer.block();
        if writer.is_python() {
            // So all of them are the function's own.
            writer.line("    v0 = v1 = v2 = v3 = 0");
        } else {
            writer.line("})();");
        }
        writer.lines.join("\n") + "\n"
    }

    fn is_python(&self) -> bool {
        self.language == Language::Python
    }

    fn next(&mut self, below: u64) -> u64 {
        self.state = self.state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.state >> 33) % below
    }

    fn line(&mut self, text: &str) {
        self.lines.push(format!("{}{text}", "    ".repeat(self.depth)));
    }

    /// A line that knows its own number.
    fn numbered(&mut self, text: &str) {
        let number = self.lines.len() + 1;
        let end = if self.is_python() { "" } else { ";" };
        self.line(&format!("{}{end}", text.replace('#', &number.to_string())));
    }

    fn head(&mut self, python: &str, javascript: &str) {
        let text = if self.is_python() { format!("{python}:") } else { format!("{javascript} {{") };
        self.line(&text);
    }

    fn close(&mut self) {
        if !self.is_python() {
            self.line("}");
        }
    }

    fn block(&mut self) {
        self.depth += 1;
        self.declared.push(Vec::new());
        self.numbered("hit(#)");
        for _ in 0..=self.next(4) {
            self.statement();
        }
        self.declared.pop();
        self.depth -= 1;
    }

    fn statement(&mut self) {
        self.left -= 1;
        let kind = if self.left < 0 || self.depth > 5 { self.next(9) } else { self.next(16) };
        match kind {
            0 | 1 => self.assign(),
            2..=4 => self.read(),
            5 => self.numbered("storm()"),
            6 => self.leave(),
            7 | 8 => self.numbered("hit(#)"),
            9 | 10 => self.choice(),
            11 | 12 => self.repeat(),
            13 | 14 => self.attempt(),
            _ if self.is_python() => self.endless(),
            _ => self.switch(),
        }
    }

    fn assign(&mut self) {
        let variable = self.next(4);
        if self.is_python() {
            if self.next(6) == 0 {
                return self.numbered(&format!("if choose(): v{variable} = None"));
            }
            return self.numbered(&format!("v{variable} = #"));
        }
        if self.declared.iter().flatten().any(|known| *known == variable) {
            return self.numbered(&format!("v{variable} = #"));
        }
        if let Some(own) = self.declared.last_mut() {
            own.push(variable);
        }
        self.numbered(&format!("let v{variable} = #"));
    }

    fn read(&mut self) {
        let variable = self.next(4);
        if self.is_python() || self.declared.iter().flatten().any(|known| *known == variable) {
            return self.numbered(&format!("hit(#, v{variable})"));
        }
        // A variable of this block that is declared further down.
        let fresh = !self.lines.iter().any(|line| line.contains(&format!("v{variable}")));
        if fresh && let Some(own) = self.declared.last_mut() {
            own.push(variable);
            self.numbered(&format!("if (choose()) hit(#, v{variable})"));
            self.numbered(&format!("let v{variable} = #"));
            return;
        }
        self.numbered("hit(#)");
    }

    fn leave(&mut self) {
        let word = match self.next(5) {
            0 if self.loops > 0 => "break",
            1 if self.loops > 0 => "continue",
            2 if self.is_python() => "raise North",
            3 if !self.is_python() => "throw new Error('north')",
            _ => "return",
        };
        self.numbered(word);
    }

    fn choice(&mut self) {
        let condition = ["choose()", "choose() and choose()", "not choose() or choose()"][self.next(3) as usize];
        let other = condition.replace("and", "&&").replace("or", "||").replace("not ", "!");
        self.head(&format!("if {condition}"), &format!("if ({other})"));
        self.block();
        if self.next(2) == 0 {
            if self.is_python() {
                self.line("else:");
            } else {
                self.line("} else {");
            }
            self.block();
        }
        self.close();
    }

    fn repeat(&mut self) {
        if self.next(2) == 0 {
            self.head("while choose()", "while (choose())");
        } else {
            self.head("for _ in range(2)", "for (let i = 0; i < 2; i++)");
        }
        self.loops += 1;
        self.block();
        self.loops -= 1;
        self.close();
        if self.is_python() && self.next(3) == 0 {
            self.line("else:");
            self.block();
        }
    }

    fn endless(&mut self) {
        self.line("while True:");
        self.loops += 1;
        self.block();
        self.loops -= 1;
        self.depth += 1;
        self.numbered("storm()");
        self.depth -= 1;
    }

    fn attempt(&mut self) {
        self.head("try", "try");
        self.block();
        let has_last = self.next(2) == 0;
        let has_handler = !has_last || self.next(2) == 0;
        if has_handler {
            let error = ["North", "South", "(North, South)"][self.next(3) as usize];
            if self.is_python() {
                self.line(&format!("except {error}:"));
            } else {
                self.line("} catch (error) {");
                self.depth += 1;
                self.numbered("note(error)");
                self.depth -= 1;
            }
            self.block();
            if self.is_python() && self.next(3) == 0 {
                self.line("else:");
                self.block();
            }
        }
        if has_last {
            self.line(if self.is_python() { "finally:" } else { "} finally {" });
            self.block();
        }
        self.close();
    }

    fn switch(&mut self) {
        self.line("switch (pick()) {");
        self.declared.push(Vec::new());
        for case in 0..3 {
            self.line(&if case == 2 { "default:".to_string() } else { format!("case {case}:") });
            self.depth += 1;
            for _ in 0..=self.next(3) {
                // All cases share one block.
                if self.next(4) == 0 { self.numbered("break") } else { self.simple() }
            }
            self.depth -= 1;
        }
        self.declared.pop();
        self.line("}");
    }

    fn simple(&mut self) {
        match self.next(4) {
            0 => self.assign(),
            1 => self.read(),
            2 => self.numbered("storm()"),
            _ => self.numbered("hit(#)"),
        }
    }
}
