//! C# that is nearly right: the verdict is that of a free compiler's own parser.

use std::collections::BTreeMap;
use std::path::PathBuf;
use std::process::Command;

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Kind;

use crate::changed::{Choice, changed, pieces};
use crate::csharp_corpus::sources;
use crate::random::Random;

/// How many changed members are compared.
const CASES: usize = 15_000;

/// How many files the compiler is given at once.
const AT_ONCE: usize = 500;

/// Tokens that are put in odd places.
const TOKENS: &[&str] = &[
    "(",
    ")",
    "[",
    "]",
    "{",
    "}",
    "<",
    ">",
    "=",
    "==",
    "::",
    ":",
    ";",
    ",",
    ".",
    "!",
    "*",
    "/",
    "+",
    "++",
    "&",
    "&&",
    "|",
    "?",
    "??",
    "-",
    "->",
    "=>",
    "'a'",
    "\"b\"",
    "1",
    "1.5",
    "x",
    "abstract",
    "as",
    "base",
    "bool",
    "break",
    "case",
    "catch",
    "class",
    "const",
    "continue",
    "default",
    "delegate",
    "do",
    "else",
    "enum",
    "event",
    "finally",
    "for",
    "foreach",
    "goto",
    "if",
    "in",
    "int",
    "interface",
    "is",
    "lock",
    "new",
    "null",
    "operator",
    "out",
    "private",
    "ref",
    "return",
    "static",
    "struct",
    "switch",
    "this",
    "throw",
    "try",
    "typeof",
    "using",
    "void",
    "while",
    "yield",
    "[]",
    "x()",
    "int[]",
    "+=",
    ">>",
];

/// What the compiler's parser says of a file: the first error, and the first one that is one of grammar.
#[derive(Default)]
struct Said {
    any: String,
    of_grammar: Option<String>,
}

/// What the compiler's parser says of files that it finds something wrong with.
fn verdicts(files: &[PathBuf]) -> BTreeMap<PathBuf, Said> {
    let mut found = BTreeMap::new();
    for some in files.chunks(AT_ONCE) {
        let output = Command::new("mcs").args(["--parse", "-unsafe"]).args(some).output();
        let Ok(output) = output else {
            assert!(std::env::var_os("CI").is_none(), "the compiler of C# is not installed");
            eprintln!("0 comparisons: the compiler of C# is not installed");
            return found;
        };
        let said = String::from_utf8_lossy(&output.stderr).into_owned() + &String::from_utf8_lossy(&output.stdout);
        for line in said.lines() {
            let Some((path, error)) = line.split_once('(') else { continue };
            let number = error.split("error CS").nth(1).and_then(|rest| rest.get(..4)?.parse::<u32>().ok());
            let Some(number) = number else { continue };
            let said =
                found.entry(PathBuf::from(path)).or_insert_with(|| Said { any: error.to_string(), of_grammar: None });
            if OF_GRAMMAR.contains(&number) && said.of_grammar.is_none() {
                said.of_grammar = Some(error.to_string());
            }
        }
    }
    found
}

/// The numbers of errors that its parser finds.
const OF_GRAMMAR: &[u32] = &[
    71, 178, 230, 742, 748, 839, 1001, 1002, 1003, 1009, 1010, 1011, 1012, 1013, 1014, 1015, 1018, 1022, 1023, 1026,
    1031, 1035, 1039, 1041, 1043, 1055, 1056, 1513, 1514, 1515, 1518, 1519, 1524, 1525, 1526, 1547, 1552, 1575, 1585,
    1586, 1597, 1627, 1646, 1675, 8124,
];

/// What the language has had since that compiler was written: ranges, `new` without a type, lists in brackets, values that are said to be there,
/// functions in functions, types without a body, `throw` as a value, patterns without parts, and partial methods that give something; and what
/// is a comparison of comparisons here, a type called `async`, arguments of a base.
fn is_newer(error: &str, source: &str) -> bool {
    let newer = [
        "CS8124",
        "expecting `(' or `type'",
        "symbol `!'",
        "symbol `(' in class",
        "symbol `(', expecting `,'",
        "symbol `)'",
        "symbol `.'",
        "symbol `;' in class",
        "symbol `<' in class",
        "symbol `['",
        "symbol `__arglist'",
        "symbol `goo1'",
        "symbol `newc'",
        "symbol `throw'",
    ];
    newer.iter().any(|part| error.contains(part)) || source.contains("partial ") && error.contains("CS1519")
}

/// What that compiler finds in later steps, cuts otherwise, or lets through: attributes whose bracket is never closed, lists of types that end with
/// a comma, braces in strings.
fn is_for_later(fault: &str) -> bool {
    let let_through = [
        "the exponent of this number",
        "expected ']'",
        "expected the name of a member, found '}'",
        "only a variable can be assigned to",
        "expected a type, found '>'",
        "expected a type, found 'in'",
        "expected a name, found",
        "this brace closes no hole",
        "expected a value, found the name of a primitive type",
    ];
    fault == "this is no statement" || let_through.iter().any(|start| fault.starts_with(start))
}

#[test]
fn changed_members_have_the_verdict_of_the_compilers_own_parser() {
    let files = sources("programs");
    if files.is_empty() {
        return;
    }
    let members = pieces(Language::CSharp, &files, &CHOICE);
    let mut random = Random::new(11);
    let folder = tempfile::tempdir().expect("a folder");
    let mut changed_ones = Vec::new();
    for index in 0..CASES {
        let own = &members[random.below(members.len())];
        let source = format!("class A{index} {{\n{}\n}}\n", changed(Language::CSharp, own, TOKENS, &mut random));
        let path = folder.path().join(format!("{index}.cs"));
        std::fs::write(&path, &source).expect("a file");
        changed_ones.push((path, source));
    }
    let paths: Vec<PathBuf> = changed_ones.iter().map(|(path, _)| path.clone()).collect();
    let theirs = verdicts(&paths);
    if theirs.is_empty() {
        return;
    }
    let (mut refused, mut differences) = (0, Vec::new());
    for (path, source) in &changed_ones {
        let tree = Language::CSharp.parse(&Text::new(source.clone()));
        let ours = tree.faults().first().map(|fault| fault.problem.to_string());
        let said = theirs.get(path);
        let of_grammar = said.and_then(|said| said.of_grammar.as_deref());
        refused += usize::from(of_grammar.is_some());
        let differs = match (of_grammar, &ours) {
            (Some(error), None) => !is_newer(error, source),
            // What is wrong here may break another rule there.
            (None, Some(fault)) => said.is_none_or(|said| said.any.is_empty()) && !is_for_later(fault),
            _ => false,
        };
        if differs {
            differences.push(format!("--- there {of_grammar:?}, here {ours:?}\n{source}"));
        }
    }
    assert!(refused > CASES / 5, "the changes do too little");
    assert!(differences.is_empty(), "{} differences:\n{}", differences.len(), differences.join("\n"));
}

/// Members of types.
const CHOICE: Choice = Choice {
    step: 3,
    most: 8,
    spans: |tree| {
        let is_member =
            |kind: Kind| matches!(kind, Kind::Function | Kind::Field | Kind::Property | Kind::Class | Kind::Enum);
        tree.nodes().filter(|node| is_member(node.kind())).map(|node| node.span()).collect()
    },
    is_telling: |text| {
        (25..900).contains(&text.len()) && !text.contains("//") && !text.contains("/*") && !text.contains('#')
    },
};
