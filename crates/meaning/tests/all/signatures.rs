//! Whether calls fit their functions: by hand, and compared with what Python itself says of functions and calls made at random.

use std::io::Write;
use std::process::{Command, Stdio};

use sieve_meaning::signature::{Given, Misfit, Passing, Signature};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Kind;

use crate::random::Random;

/// What the last call makes of the first function.
fn checked(language: Language, source: &str) -> Result<(), String> {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "{source}: {:?}", tree.faults());
    let is_function = |kind| matches!(kind, Kind::Function | Kind::Lambda);
    let function = tree.nodes().find(|node| is_function(node.kind())).expect("a function");
    let call = tree.nodes().filter(|node| node.kind() == Kind::Call).last().expect("a call");
    let signature = Signature::of(language, &text, function);
    let given = Given::by(&text, call);
    signature.check(&given).map_err(|misfit| match misfit {
        Misfit::TooMany(most) => format!("at most {most}"),
        Misfit::Missing(names) => format!("missing {}", names.join(" ")),
        Misfit::UnknownName(index) => format!("unknown {}", given.names[index]),
        Misfit::Twice(name) => format!("twice {name}"),
    })
}

#[test]
fn python_passes_by_position_and_by_name() {
    for (function, call, expected) in [
        ("a, b", "1, 2", Ok(())),
        ("a, b", "1", Err("missing b")),
        ("a, b", "", Err("missing a b")),
        ("a, b", "1, 2, 3", Err("at most 2")),
        ("a, b=1", "1", Ok(())),
        ("a, b=1", "b=2", Err("missing a")),
        ("a, b", "1, a=2", Err("twice a")),
        ("a", "c=1", Err("unknown c")),
        ("a, **k", "1, c=1", Ok(())),
        ("a, *r", "1, 2, 3", Ok(())),
        ("*, a", "1", Err("at most 0")),
        ("*, a", "a=1", Ok(())),
        ("*, a", "", Err("missing a")),
        ("*, a=1", "", Ok(())),
        ("a, /", "a=1", Err("unknown a")),
        ("a, /, **k", "1, a=1", Ok(())),
        ("a, /, b", "1, 2", Ok(())),
        ("a, b", "*r", Ok(())),
        ("a, b", "**k", Ok(())),
        ("a, *, b", "*r", Err("missing b")),
        ("a, *, b", "1, **k", Ok(())),
        ("a", "*r, c=1", Err("unknown c")),
        ("a", "(yield)", Ok(())),
        ("a: int = 1, *r: str, b: int, **k: int", "b=1", Ok(())),
        ("", "", Ok(())),
        ("", "1,", Err("at most 0")),
    ] {
        let source = format!("def f({function}):\n    g({call})\n");
        assert_eq!(checked(Language::Python, &source), expected.map_err(str::to_string), "f({function}), f({call})");
    }
}

#[test]
fn a_bound_method_takes_one_less() {
    let text = Text::new("def f(self, a, *, b): pass\n".to_string());
    let tree = Language::Python.parse(&text);
    let function = tree.nodes().find(|node| node.kind() == Kind::Function).expect("a function");
    let whole = Signature::of(Language::Python, &text, function);
    assert_eq!((whole.most_positions(), whole.parameters.len()), (Some(2), 3));
    let bound = whole.bound();
    assert_eq!((bound.most_positions(), bound.parameters[0].name.as_str()), (Some(1), "a"));
    let all =
        Signature { parameters: bound.parameters.into_iter().filter(|one| one.passing == Passing::Name).collect() };
    assert_eq!(all.clone().bound(), all, "a parameter that is given by name is not filled in");
}

#[test]
fn scripts_pass_by_position_alone() {
    for (language, source, expected) in [
        (Language::TypeScript, "function f(a: number, b?: number) {} f(1);", Ok(())),
        (Language::TypeScript, "function f(a: number, b?: number) {} f(1, 2, 3);", Err("at most 2")),
        (Language::TypeScript, "function f(a: number, b: number) {} f(1);", Err("missing b")),
        (Language::TypeScript, "function f(a: number, b = 2) {} f(1);", Ok(())),
        (Language::TypeScript, "function f(a: number, ...b: number[]) {} f(1, 2, 3);", Ok(())),
        (Language::TypeScript, "function f(this: Boat, a: number) {} f(1);", Ok(())),
        (Language::TypeScript, "function f({ a }: Boat) {} f(b, c);", Err("at most 1")),
        (Language::JavaScript, "function f(a) {} f(1, 2);", Err("at most 1")),
        (Language::JavaScript, "const f = (a, b) => a; f(1, 2, 3);", Err("at most 2")),
        (Language::JavaScript, "const f = (a, b) => a; f(...c);", Ok(())),
    ] {
        assert_eq!(checked(language, source), expected.map_err(str::to_string), "{source}");
    }
}

/// Functions and calls made at random.
trait Made {
    fn parameters(&mut self) -> String;
    fn arguments(&mut self) -> String;
}

impl Made for Random {
    /// Parameters, each kind in its place, defaults from some point on.
    fn parameters(&mut self) -> String {
        let names = ["a", "b", "c", "d", "e"];
        let (slash, star) = (self.below(4), 1 + self.below(4));
        let first_default = self.below(6);
        let count = self.below(names.len() + 1);
        let mut all = Vec::new();
        for (index, name) in names.iter().enumerate().take(count) {
            if index == star {
                all.push(if self.below(2) == 0 { "*" } else { "*rest" }.to_string());
            }
            let by_name = index >= star;
            let has_default = if by_name { self.below(2) == 0 } else { index >= first_default };
            all.push(if has_default { format!("{name}=0") } else { (*name).to_string() });
            if index + 1 == slash && slash <= star {
                all.push("/".into());
            }
        }
        if self.below(4) == 0 {
            all.push("**more".into());
        }
        all.join(", ")
    }

    fn arguments(&mut self) -> String {
        let names = ["a", "b", "c", "d", "e", "x"];
        let mut all: Vec<String> = (0..self.below(4)).map(|value| value.to_string()).collect();
        let from = self.below(names.len());
        for name in &names[from..(from + self.below(3)).min(names.len())] {
            all.push(format!("{name}=1"));
        }
        all.join(", ")
    }
}

#[test]
fn python_binds_arguments_as_it_is_said_here() {
    let mut random = Random::new(7);
    let cases: Vec<(String, String)> = (0..3_000).map(|_| (random.parameters(), random.arguments())).collect();
    let mut program = String::from(
        "def check(f, call):\n    try:\n        call(f)\n        print('fits')\n    except TypeError:\n        print('not')\n\n",
    );
    for (parameters, arguments) in &cases {
        program += &format!("def f({parameters}): pass\ncheck(f, lambda f: f({arguments}))\n");
    }
    let Some(answers) = python(&program) else { return };
    assert_eq!(answers.len(), cases.len());
    let mut fitting = 0;
    for ((parameters, arguments), answer) in cases.iter().zip(&answers) {
        let found = checked(Language::Python, &format!("def f({parameters}): pass\nf({arguments})\n"));
        assert_eq!(found.is_ok(), answer == "fits", "f({parameters}), f({arguments}): {found:?}");
        fitting += usize::from(found.is_ok());
    }
    assert!(fitting > 300 && fitting < 2_700, "too few of one kind: {fitting} fit");
}

/// What a program prints, by line; nothing where there is no Python, which fails where every reference must be there.
fn python(program: &str) -> Option<Vec<String>> {
    let child = Command::new("python3").arg("-").stdin(Stdio::piped()).stdout(Stdio::piped()).spawn();
    let Ok(mut child) = child else {
        assert!(std::env::var_os("CI").is_none(), "python3 is missing");
        return None;
    };
    child.stdin.take().expect("a pipe").write_all(program.as_bytes()).expect("writing");
    let output = child.wait_with_output().expect("an end");
    assert!(output.status.success(), "the program failed");
    Some(String::from_utf8(output.stdout).expect("UTF-8").lines().map(str::to_string).collect())
}
