//! Which variables may have no value where they are read: over many made-up functions, what the compilers of Java and C# refuse, and
//! nothing else.

use std::collections::{BTreeMap, BTreeSet};
use std::fmt::Write;
use std::process::Command;

use sieve_meaning::flow::{Flows, Unset};
use sieve_meaning::names_of;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// How many functions are made for each language.
const FUNCTIONS: usize = 1500;

/// Numbers that are the same in each run: a linear congruential generator (D. Knuth, "The Art of Computer Programming", volume 2).
struct Numbers(u64);

impl Numbers {
    fn below(&mut self, end: u64) -> u64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 33) % end
    }

    fn one<'w>(&mut self, words: &[&'w str]) -> &'w str {
        words[self.below(words.len() as u64) as usize]
    }
}

/// Writes functions that declare variables without values.
struct Maker {
    numbers: Numbers,
    is_java: bool,
    /// The variables that are declared, from the outermost block in.
    declared: Vec<String>,
    made: usize,
    depth: usize,
    loops: usize,
    /// Some conditions are constants. The compiler of C# here follows them by older rules, and that of Java refuses variables that are
    /// declared where, by a constant, nothing comes by; here nothing is said of such places.
    has_constants: bool,
    /// Where no jump leaves: in an expression, in what runs last.
    is_held: bool,
    code: String,
}

impl Maker {
    fn new(is_java: bool) -> Maker {
        let numbers = Numbers(if is_java { 7 } else { 11 });
        Maker {
            numbers,
            is_java,
            declared: Vec::new(),
            made: 0,
            depth: 0,
            loops: 0,
            has_constants: false,
            is_held: false,
            code: String::new(),
        }
    }

    fn line(&mut self, line: &str) {
        writeln!(self.code, "{line}").expect("a string takes it");
    }

    fn variable(&mut self) -> String {
        let place = self.numbers.below(self.declared.len() as u64);
        self.declared[place as usize].clone()
    }

    fn value(&mut self) -> String {
        if self.numbers.below(3) == 0 { format!("{} + 1", self.variable()) } else { "depth".to_string() }
    }

    fn condition(&mut self, deep: usize) -> String {
        let kind = if deep == 0 { self.numbers.below(4) } else { self.numbers.below(12) };
        match kind {
            0..=2 => self.numbers.one(&["low", "late", "full"]).to_string(),
            3 => format!("({} = depth) > 0", self.variable()),
            4 => format!("{} > 0", self.variable()),
            5 if self.has_constants => self.numbers.one(&["true", "false"]).to_string(),
            5 => "low".to_string(),
            6 => format!("!({})", self.condition(deep - 1)),
            7 | 8 => format!("({} && {})", self.condition(deep - 1), self.condition(deep - 1)),
            9 | 10 => format!("({} || {})", self.condition(deep - 1), self.condition(deep - 1)),
            _ => {
                format!("({} ? {} : {})", self.condition(deep - 1), self.condition(deep - 1), self.condition(deep - 1))
            }
        }
    }

    /// One that is no constant, or holds: a loop that is never entered is refused as a whole.
    fn loop_condition(&mut self) -> String {
        if self.numbers.below(4) == 0 {
            return "true".to_string();
        }
        let (one, other) = (self.condition(0), self.condition(0));
        match self.numbers.below(3) {
            0 => one,
            1 => format!("{one} && {other}"),
            _ => format!("!({one} || {other})"),
        }
    }

    fn block(&mut self, last: &str) {
        let declared = self.declared.len();
        self.depth += 1;
        self.line("{");
        for _ in 0..1 + self.numbers.below(2) {
            self.statement();
        }
        if !last.is_empty() {
            self.line(last);
        }
        self.line("}");
        self.depth -= 1;
        self.declared.truncate(declared);
    }

    /// A block, or one that a jump leaves.
    fn branch(&mut self) {
        let jumps: &[&str] = match (self.is_held, self.loops) {
            (true, _) => &["throw new System.Exception();"],
            (false, 0) => &["return;", "throw new System.Exception();"],
            _ => &["return;", "break;", "continue;", "throw new System.Exception();"],
        };
        let last = if self.numbers.below(3) == 0 { self.numbers.one(jumps) } else { "" };
        let last = if self.is_java { last.replace("System.Exception", "RuntimeException") } else { last.to_string() };
        self.block(&last);
    }

    fn statement(&mut self) {
        let is_deep = self.depth > 2;
        match self.numbers.below(if is_deep { 7 } else { 17 }) {
            0..=2 => {
                let line = format!("{} = {};", self.variable(), self.value());
                self.line(&line);
            }
            3 => {
                let line = format!("show({});", self.variable());
                self.line(&line);
            }
            4 => {
                let line = format!("{}{}", self.variable(), self.numbers.one(&[" += 2;", "++;"]));
                self.line(&line);
            }
            5 => {
                let condition = self.condition(2);
                self.line(&format!("known = {condition};"));
            }
            6 if !self.has_constants => {
                self.made += 1;
                let name = format!("v{}", self.made);
                self.line(&format!("int {name};"));
                self.declared.push(name);
            }
            6..=9 => self.choice(),
            10 | 11 => self.repeated(),
            12 => self.attempt(),
            13 | 14 => self.cases(),
            15 if self.is_java => self.chosen(),
            15 => {
                let line = match self.numbers.below(3) {
                    0 => format!("measure(out {});", self.variable()),
                    1 => format!("System.Action later = () => show({}); later();", self.variable()),
                    _ => format!("({}, known) = (depth, low);", self.variable()),
                };
                self.line(&format!("{{ {line} }}"));
            }
            _ => self.block(""),
        }
    }

    fn choice(&mut self) {
        let condition = self.condition(2);
        self.line(&format!("if ({condition})"));
        self.branch();
        if self.numbers.below(2) == 0 {
            self.line("else");
            self.branch();
        }
    }

    fn repeated(&mut self) {
        self.loops += 1;
        self.made += 1;
        let made = self.made;
        match self.numbers.below(4) {
            0 => {
                let condition = self.loop_condition();
                self.line(&format!("while ({condition})"));
                self.branch();
            }
            1 => {
                self.line("do");
                // What a jump out of this loop leaves behind, the compiler of C# here gets wrong.
                if self.is_java {
                    self.branch()
                } else {
                    self.held("")
                }
                let condition = self.loop_condition();
                self.line(&format!("while ({condition});"));
            }
            2 => {
                let (condition, step) = (self.loop_condition(), self.variable());
                self.line(&format!("for (int turn{made} = 0; {condition}; {step} = depth)"));
                self.branch();
            }
            _ => {
                let head = if self.is_java {
                    format!("for (int each{made} : all)")
                } else {
                    format!("foreach (int each{made} in all)")
                };
                self.line(&head);
                self.branch();
            }
        }
        self.loops -= 1;
    }

    fn attempt(&mut self) {
        self.line("try");
        self.branch();
        self.made += 1;
        let made = self.made;
        let caught =
            if self.is_java { format!("RuntimeException error{made}") } else { "System.Exception".to_string() };
        let ways = self.numbers.below(3);
        if ways != 1 {
            self.line(&format!("catch ({caught})"));
            self.branch();
        }
        if ways != 0 {
            self.line("finally");
            self.held("");
        }
    }

    fn cases(&mut self) {
        self.line("switch (depth) {");
        for label in ["case 1:", "case 2:", "default:"] {
            if self.numbers.below(4) == 0 {
                continue;
            }
            self.line(label);
            self.block("");
            if !self.is_java || self.numbers.below(2) == 0 {
                self.line("break;");
            }
        }
        self.line("}");
    }

    /// A choice that is an expression.
    fn chosen(&mut self) {
        self.made += 1;
        let name = format!("chosen{}", self.made);
        self.line(&format!("int {name} = switch (depth) {{ case 1 ->"));
        self.held("yield 1;");
        self.line("default ->");
        self.held("yield 2;");
        self.line("};");
    }

    /// A block that no jump leaves.
    fn held(&mut self, last: &str) {
        let (outer, loops) = (self.is_held, self.loops);
        (self.is_held, self.loops) = (true, 0);
        self.block(last);
        (self.is_held, self.loops) = (outer, loops);
    }

    fn function(&mut self, number: usize) {
        self.has_constants = self.is_java && number.is_multiple_of(2);
        self.declared = vec!["quay".to_string(), "berth".to_string()];
        let all = if self.is_java { "int[] all" } else { "System.Collections.Generic.List<int> all" };
        let (yes, boolean) = if self.is_java { ("void", "boolean") } else { ("static void", "bool") };
        self.line(&format!(
            "{yes} f{number}({boolean} low, {boolean} late, {boolean} full, {boolean} known, int depth, {all}) {{ int quay, berth;"
        ));
        for _ in 0..2 + self.numbers.below(3) {
            self.statement();
        }
        self.line("}");
    }

    fn program(mut self) -> String {
        self.line("class Harbour {");
        self.line(if self.is_java {
            "void show(int depth) {}"
        } else {
            "static void show(int depth) {}\nstatic void measure(out int depth) { depth = 1; }"
        });
        for number in 0..FUNCTIONS {
            self.function(number);
        }
        self.line("}");
        self.code
    }
}

/// The variables of each function of which some place is refused, by the line of the function.
type Refused = BTreeMap<usize, BTreeSet<String>>;

fn refused_here(language: Language, code: &str) -> Refused {
    let text = Text::new(code.to_string());
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "{:?}", tree.faults().first());
    let names = names_of(language, &text, &tree);
    let flows = Flows::new(language, &text, &tree, Some(&names));
    let (mut found, heads) = (Refused::new(), heads(code));
    for owner in flows.notable_owners() {
        let flow = flows.of(owner).expect("nothing is damaged");
        for place in flow.unset_uses() {
            assert_ne!(place.unset, Unset::Doubtful, "what a condition is, is known");
            let line = text.place(tree.node(place.node).span().start).line as usize;
            let name = names.text(names.binding(place.binding).name).to_string();
            found.entry(function_at(&heads, line)).or_default().insert(name);
        }
    }
    found
}

/// The lines on which functions begin, from 1.
fn heads(code: &str) -> Vec<usize> {
    let lines = code.lines().enumerate();
    lines.filter(|(_, line)| line.contains("int quay, berth;")).map(|(number, _)| number + 1).collect()
}

/// The line of the function that a line is in.
fn function_at(heads: &[usize], line: usize) -> usize {
    heads[heads.partition_point(|head| *head <= line) - 1]
}

/// What a compiler says: lines with a place and with the name between two marks.
fn refused_there(code: &str, said: &str, place: fn(&str) -> Option<usize>, before: &str, behind: &str) -> Refused {
    let (mut found, heads) = (Refused::new(), heads(code));
    for line in said.lines() {
        let Some(name) = line.split_once(before).and_then(|(_, rest)| Some(rest.split_once(behind)?.0)) else {
            continue;
        };
        let at = place(line).unwrap_or_else(|| panic!("no place: {line}"));
        found.entry(function_at(&heads, at)).or_default().insert(name.to_string());
    }
    found
}

/// The functions of which a compiler says that some of their code never runs: it goes on with what is in it by rules of its own.
fn with_dead_code(code: &str, said: &str, place: fn(&str) -> Option<usize>, words: &str) -> BTreeSet<usize> {
    let heads = heads(code);
    let lines = said.lines().filter(|line| line.contains(words));
    lines.filter_map(place).map(|line| function_at(&heads, line)).collect()
}

fn compare(language: Language, code: &str, mut there: Refused, dead: &BTreeSet<usize>) {
    let mut here = refused_here(language, code);
    here.retain(|line, _| !dead.contains(line));
    there.retain(|line, _| !dead.contains(line));
    let lines: Vec<&str> = code.lines().collect();
    let all: BTreeSet<usize> = here.keys().chain(there.keys()).copied().collect();
    let differing: Vec<usize> = all.iter().copied().filter(|line| here.get(line) != there.get(line)).collect();
    println!("{} of {} functions refused", there.len(), FUNCTIONS - dead.len());
    assert!(there.len() > FUNCTIONS / 2 && there.len() + dead.len() < FUNCTIONS * 19 / 20, "{}", there.len());
    let shown = differing.iter().take(5).map(|line| {
        let end = heads(code).into_iter().find(|head| head > line).unwrap_or(lines.len());
        let function = lines[line - 1..end - 1].join("\n");
        format!("here {:?}, there {:?}\n{function}", here.get(line), there.get(line))
    });
    let shown: Vec<String> = shown.collect();
    assert!(differing.is_empty(), "{} functions differ\n{}", differing.len(), shown.join("\n\n"));
}

/// What a compiler says of a program; nothing where it is not installed.
fn said_of(code: &str, name: &str, compiler: &str, arguments: &[&str]) -> Option<String> {
    let folder = tempfile::tempdir().expect("a folder");
    std::fs::write(folder.path().join(name), code).expect("the file is written");
    match Command::new(compiler).args(arguments).arg(name).current_dir(folder.path()).output() {
        Ok(ran) => Some((String::from_utf8_lossy(&ran.stderr) + String::from_utf8_lossy(&ran.stdout)).into_owned()),
        Err(_) => {
            assert!(std::env::var_os("CI").is_none(), "{compiler} is not installed");
            None
        }
    }
}

#[test]
fn what_the_compiler_of_java_refuses_is_found_and_nothing_else() {
    let code = Maker::new(true).program();
    let Some(said) = said_of(&code, "Harbour.java", "javac", &["-Xmaxerrs", "100000", "-d", "."]) else { return };
    let place = |line: &str| line.split_once("Harbour.java:")?.1.split(':').next()?.parse().ok();
    let refused = refused_there(&code, &said, place, "error: variable ", " might not have been");
    compare(Language::Java, &code, refused, &with_dead_code(&code, &said, place, "unreachable statement"));
}

#[cfg(not(feature = "without-csharp"))]
#[test]
fn what_a_compiler_of_csharp_refuses_is_found_and_nothing_else() {
    let code = Maker::new(false).program();
    let Some(said) = said_of(&code, "Harbour.cs", "mcs", &["-target:library", "-out:harbour.dll"]) else { return };
    let place = |line: &str| line.split_once("Harbour.cs(")?.1.split(',').next()?.parse().ok();
    let refused = refused_there(&code, &said, place, "CS0165: Use of unassigned local variable `", "'");
    compare(Language::CSharp, &code, refused, &BTreeSet::new());
}
