//! The parser against its references on code that is nearly right: real statements with a token changed, or cut off.

use serde_json::{Value, json};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Role};

use crate::changed::changed;
use crate::node_reference;
use crate::random::Random;

/// How many changed statements of each language are compared.
const CASES: usize = 12_000;

fn agrees(language: Language, endings: &[&str], seed: u64) {
    if !node_reference::installed() {
        return;
    }
    let sources = mutated(&statements(language, endings), seed);
    let requests: Vec<Value> =
        sources.iter().map(|source| json!({"source": source, "language": language.name()})).collect();
    let (mut refused, mut differences) = (0, Vec::new());
    for (source, verdict) in sources.iter().zip(node_reference::verdicts(&requests)) {
        let accepted = verdict["accepted"].as_bool().expect("a verdict");
        refused += usize::from(!accepted);
        let tree = language.parse(&Text::new(source.clone()));
        if accepted != tree.faults().is_empty() && !is_told_elsewhere(source, &verdict) {
            let ours = tree.faults().first().map(|fault| fault.problem.to_string());
            differences.push(format!("--- there {:?}, here {ours:?}\n{source}", verdict["message"]));
        }
    }
    eprintln!("{} changed statements compared, {refused} of them refused there", sources.len());
    assert!(refused > CASES / 5, "the changes do too little");
    assert!(differences.is_empty(), "{} differences:\n{}", differences.len(), differences.join("\n"));
}

#[test]
fn javascript_agrees_with_its_references_on_mutated_code() {
    agrees(Language::JavaScript, &["js", "mjs", "cjs", "jsx"], seed(5));
}

#[test]
fn typescript_agrees_with_its_reference_on_mutated_code() {
    agrees(Language::TypeScript, &["ts"], seed(6));
}

#[test]
fn typescript_with_tags_agrees_with_its_reference_on_mutated_code() {
    agrees(Language::Tsx, &["tsx"], seed(7));
}

/// Another number in `MUTATION_SEED` changes other statements.
fn seed(usual: u64) -> u64 {
    std::env::var("MUTATION_SEED").ok().and_then(|number| number.parse().ok()).unwrap_or(usual)
}

/// What is refused on both sides, but by different parts: the compiler of the types tells some of the grammar after its parser; whether
/// a name that is exported exists and whether parameters share one is asked here where names are understood; declarations that are
/// twice are not reported yet, nor what makes a module of a file beside what makes a function of it. And what the
/// compiler lets pass: a private name in an import, a name after `declare`, whatever is in types of modules that it does not
/// find, an import that makes objects; what it refuses: a shift whose first half could begin type arguments; and what only a module can be: a regular expression after `await`.
fn is_told_elsewhere(source: &str, verdict: &Value) -> bool {
    let message = verdict["message"].as_str().unwrap_or_default();
    let accepted = verdict["accepted"] == true;
    let in_unknown_module = source.contains("import(\"") || (source.starts_with("import") && source.contains('#'));
    verdict["later"].is_string()
        || message.contains("is not defined in module")
        || message.contains("Duplicate parameter name")
        || message.contains("has already been declared")
        || message.contains("await is only valid")
        || (accepted && source.trim_start().starts_with("declare "))
        || (accepted && in_unknown_module)
        || (!accepted && message == "',' expected." && source.contains("<<"))
        || (accepted && (source.contains("await/") || source.contains("new import(")))
}

/// Statements of evenly chosen files, short enough to be changed noticeably.
fn statements(language: Language, endings: &[&str]) -> Vec<String> {
    let files = node_reference::sources(endings);
    let step = files.len().div_ceil(1500).max(1);
    let mut found = Vec::new();
    for path in files.iter().step_by(step) {
        let Ok(text) = language.decode(std::fs::read(path).unwrap_or_default()) else { continue };
        let tree = language.parse(&text);
        let is_member = |kind: Kind| matches!(kind, Kind::Field | Kind::IndexSignature | Kind::StaticBlock);
        let statements = tree.nodes().filter(|node| {
            let holder = node.parent().and_then(|block| block.parent()).map(|holder| holder.kind());
            let in_type = matches!(holder, Some(Kind::Class | Kind::ClassExpression | Kind::Interface));
            node.role() == Role::Statement && node.kind().is_statement() && !is_member(node.kind()) && !in_type
        });
        // Data and tables say little: their lines are long.
        let telling =
            |statement: &&str| (15..900).contains(&statement.len()) && statement.lines().all(|line| line.len() < 160);
        let texts = statements.map(|node| text.slice(node.span())).collect::<Vec<_>>();
        found.extend(texts.iter().filter(|text| telling(text)).take(30).map(|text| format!("{text}\n")));
    }
    found
}

/// Tokens that are put in odd places.
const TOKENS: &[&str] = &[
    "(", ")", "[", "]", "{", "}", "<", ">", "=", "=>", ":", ";", ",", ".", "?", "?.", "...", "!", "*", "/", "+", "&",
    "|", "@", "`", "'", "\n", "x", "1", "as", "async", "await", "yield", "of", "in", "let", "const", "var", "class",
    "function", "new", "return", "if", "else", "for", "type", "import", "export", "default", "static", "get",
    "extends", "is", "keyof", "typeof", "void", "this", "super", "null", "#a", "??", "||", "=", "==", "+=",
];

fn mutated(statements: &[String], seed: u64) -> Vec<String> {
    let mut random = Random::new(seed);
    (0..CASES)
        .map(|_| {
            let index = random.below(statements.len());
            changed(Language::Tsx, &statements[index], TOKENS, &mut random)
        })
        .collect()
}
