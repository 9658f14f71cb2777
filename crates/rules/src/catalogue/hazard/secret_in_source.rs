use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "secret-in-source",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::ALL,
    fix: None,
    what: "a key or password in the code",
    why: "Whoever reads the code, or any copy of its history, has it; and it cannot be changed without a release.",
    silent: "In tests and examples, for values that look made up or are read at run time, and for names that mean something else.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "API_TOKEN = \"f3Kd91xQz7Lm20PaWv84\"\n", at: &["1:13"], fixed: None },
                Wrong { code: "API_TOKEN: str = \"f3Kd91xQz7Lm20PaWv84\"\n", at: &["1:18"], fixed: None },
            ],
            right: &[
                "API_TOKEN = os.environ[\"API_TOKEN\"]\npassword = \"changeme\"\ntoken_name = \"x-ferry-token\"\nTOKEN = \"your-token-here-1234\"\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong { code: "const API_TOKEN: &str = \"f3Kd91xQz7Lm20PaWv84\";\n", at: &["1:25"], fixed: None }],
            right: &[
                "const API_TOKEN: Option<&str> = option_env!(\"API_TOKEN\");\nconst HASHED_PASSWORD: &str = \"f3Kd91xQz7Lm20PaWv84\";\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    string ApiToken { get; } = \"f3Kd91xQz7Lm20PaWv84\";\n}\n",
                at: &["3:32"],
                fixed: None,
            }],
            right: &["class Desk\n{\n    string ApiToken { get; } = Read(\"ApiToken\");\n}\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "password='kX82mQw01ZpL'\n", at: &["1:10"], fixed: None }],
            right: &["password=$1\n"],
        },
        Examples {
            language: Language::Yaml,
            wrong: &[Wrong { code: "api:\n  token: f3Kd91xQz7Lm20PaWv84\n", at: &["2:10"], fixed: None }],
            right: &["examples:\n  desk:\n    value: {token: f3Kd91xQz7Lm20PaWv84}\n", "token: ${API_TOKEN}\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(
        &[Kind::Assignment, Kind::AnnotatedAssignment, Kind::Pair, Kind::KeywordArgument, Kind::Field, Kind::Property],
        check,
    ),
};

/// Last words of names of things that are to be kept secret.
const SECRETS: &[&str] = &[
    "password",
    "passwd",
    "passphrase",
    "secret",
    "token",
    "apikey",
    "api_key",
    "private_key",
    "secret_key",
    "access_key",
    "auth_key",
    "credential",
];

/// Words of names of what may be read by all: the value is no secret, or not without another one.
const OPEN: &[&str] = &["public", "encrypted", "hashed"];

/// Shorter strings are rather words than keys.
const SHORTEST: usize = 10;

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let Some(value) = node.child(Role::Value) else { return };
    if !matches!(value.kind(), Kind::String | Kind::Word) || (value.span().len() as usize) < SHORTEST {
        return;
    }
    let Some(name) = [Role::Target, Role::Key, Role::Name].iter().find_map(|role| node.child(*role)) else { return };
    // A word that expands to something else is read from there.
    let expands = || value.descendants().any(|part| !matches!(part.kind(), Kind::String | Kind::FormatString));
    if value.kind() == Kind::Word && expands() {
        return;
    }
    let name = file.node_text(name).trim_matches(['"', '\'']).rsplit('.').next().unwrap_or_default();
    if !is_secret(&apart(name)) || file.is_test() || is_example(file, node) {
        return;
    }
    let written = file.node_text(value);
    let secret = match value.kind() {
        Kind::Word => written.trim_matches(['"', '\'']).to_string(),
        _ => file.language.string_value(written).unwrap_or_default(),
    };
    if looks_random(&secret) {
        context
            .report(value.span(), format!("the value of \"{name}\" is in the source for everybody to read"))
            .advice("read it from the environment or a secret store, and replace it: it is known now");
    }
}

/// Whether a name, in small letters with underscores, is one of something to be kept secret.
fn is_secret(name: &str) -> bool {
    let is_open = OPEN.iter().any(|word| name.contains(word)) || name.ends_with("_name") || name.ends_with("_id");
    let mut before = SECRETS.iter().filter_map(|secret| name.strip_suffix(*secret));
    !is_open && before.any(|rest| rest.is_empty() || rest.ends_with('_'))
}

/// Whether data says of itself that it only shows what such a value looks like.
fn is_example(file: File, pair: NodeRef) -> bool {
    let shows = |around: NodeRef| {
        let key = around.child(Role::Key).map(|key| file.node_text(key).to_ascii_lowercase());
        key.is_some_and(|key| ["example", "sample"].iter().any(|word| key.contains(word)))
    };
    file.language.is_data() && pair.ancestors().filter(|around| around.kind() == Kind::Pair).any(shows)
}

/// A name in small letters, its words joined by underscores: `clientSecret` is `client_secret`.
fn apart(name: &str) -> String {
    let mut plain = String::new();
    let mut before = '_';
    for letter in name.chars() {
        if letter.is_ascii_uppercase() && before.is_ascii_lowercase() {
            plain.push('_');
        }
        plain.push(if letter == '-' { '_' } else { letter.to_ascii_lowercase() });
        before = letter;
    }
    plain
}

/// Letters and digits in no order that words have: digits within, capitals and small letters mixed, or figures of base 16.
fn looks_random(text: &str) -> bool {
    let plain = text.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"+/=_-".contains(&byte));
    let made_up =
        ["example", "your", "test", "dummy", "sample", "change", "xxxx", "secret", "password", "token", "1234567"];
    let lower = text.to_ascii_lowercase();
    let digits = text.bytes().filter(u8::is_ascii_digit).count();
    let turns = text.as_bytes().windows(2).filter(|pair| pair[0].is_ascii_digit() != pair[1].is_ascii_digit()).count();
    text.len() >= SHORTEST && plain && digits >= 3 && turns >= 4 && !made_up.iter().any(|word| lower.contains(word))
}
