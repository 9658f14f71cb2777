use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::expected::is_short;
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, command_name, is_standard_shell};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "dialect-feature",
    concern: Concern::Portable,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "a feature that the shell named in the first line does not have",
    why: "Where `/bin/sh` is not bash, the script stops there, or silently does something else.",
    silent: "For scripts whose first line names no shell or one that has it; `local`, which nearly every shell has, is allowed. Where a condition asks for the version of a shell that has more, and for `RANDOM` in scripts that ask for it first.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/sh\nif [[ $1 = low ]]; then :; fi\n", at: &["2:4"], fixed: None },
            Wrong { code: "#!/bin/sh\nquays=(north south)\n", at: &["2:1"], fixed: None },
            Wrong {
                code: "#!/bin/sh\nfunction moor { :; }\n[ \"$1\" == low ]\nsource tides\n",
                at: &["2:1", "3:8", "4:1"],
                fixed: None,
            },
            Wrong { code: "#!/bin/sh\necho ${1//a/b} <<< x\n", at: &["2:6", "2:16"], fixed: None },
        ],
        right: &[
            "#!/bin/sh\nif [ -n \"$RANDOM\" ]; then\n  berth=$((RANDOM % 9))$RANDOM\nfi\n",
            "#!/bin/sh\nif [ -n \"$BASH_VERSION\" ]; then\n  [[ $1 = quay* ]] && echo \"$1\"\nfi\n",
            "#!/bin/bash\n[[ $1 = low ]] && source tides\n",
            "#!/bin/sh\nmoor() {\n  local quay=${1%/}\n  [ \"$quay\" = low ] && . tides\n}\n",
            "if [[ $1 = low ]]; then :; fi\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::File], check),
};

/// The kinds of nodes among which such features are.
const KINDS: &[Kind] = &[
    Kind::ShellTest,
    Kind::List,
    Kind::Function,
    Kind::Command,
    Kind::Redirection,
    Kind::ProcessSubstitution,
    Kind::Arithmetic,
    Kind::For,
    Kind::Expansion,
    Kind::Pipeline,
    Kind::Coprocess,
    Kind::Word,
];

/// Commands that only some shells have built in.
const COMMANDS: &[&str] = &[
    "source",
    "declare",
    "typeset",
    "shopt",
    "pushd",
    "popd",
    "dirs",
    "let",
    "mapfile",
    "readarray",
    "compgen",
    "complete",
    "enable",
    "disown",
];

/// Whether the script asks first if the shell gives random numbers.
struct AsksForRandom(bool);

fn check(context: &mut Context, _root: NodeRef) {
    let file = context.file();
    if is_standard_shell(file) {
        let nodes = KINDS.iter().flat_map(|kind| file.tree.nodes_of(*kind));
        nodes.for_each(|node| on_node(context, node));
    }
}

fn on_node(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let text = context.text(node);
    let what = match node.kind() {
        Kind::ShellTest => Some("the test in double brackets"),
        Kind::List => Some("a list of values"),
        Kind::Function if node.first_token_kind() == TokenKind::FunctionWord => Some("the word `function`"),
        Kind::Coprocess => Some("a coprocess"),
        Kind::ProcessSubstitution => Some("a command in the place of a file"),
        Kind::Redirection if text.starts_with("<<<") => Some("a string as input"),
        Kind::Redirection if text.starts_with("&>") => Some("one sign for both outputs"),
        Kind::Arithmetic if text.starts_with("((") && node.parent().is_none_or(|parent| parent.kind() != Kind::For) => {
            Some("a calculation as a command")
        }
        Kind::For if text.starts_with("select") => Some("`select`"),
        Kind::For if text[3..].trim_start().starts_with("((") => Some("a loop that counts"),
        Kind::Expansion if matches!(text, "$RANDOM" | "${RANDOM}") => {
            (!file.once(|| AsksForRandom(asks_for_random(file))).0).then_some("the variable RANDOM")
        }
        Kind::Expansion => of_expansion(text),
        Kind::Word if is_range(text) => Some("a range in braces"),
        Kind::Pipeline if joins_errors(file, node) => Some("a pipe for both outputs"),
        Kind::Command => return on_command(context, node),
        _ => None,
    };
    let Some(what) = what.filter(|_| !knows_shell(file, node)) else { return };
    let span =
        if node.kind() == Kind::List { node.parent().map_or(node.span(), |whole| whole.span()) } else { node.span() };
    report(context, span, what);
}

/// Whether a script asks first if the shell gives random numbers, or has a value in their place.
fn asks_for_random(file: File<'_>) -> bool {
    let source = file.text.source();
    ["${RANDOM:-", "${RANDOM-", "-n \"$RANDOM\"", "-z \"$RANDOM\"", "-n \"${RANDOM}\"", "-z \"${RANDOM}\""]
        .iter()
        .any(|asks| source.contains(asks))
}

/// Whether code runs only where a variable says that the shell has more than the standard asks for.
fn knows_shell(file: File<'_>, node: NodeRef) -> bool {
    let asks = |test: NodeRef| {
        let test = file.node_text(test);
        is_short(test) && ["BASH_VERSION", "ZSH_VERSION", "KSH_VERSION"].iter().any(|name| test.contains(name))
    };
    let mut choices = node.ancestors().filter(|around| around.kind() == Kind::If);
    choices.any(|choice| choice.child(Role::Condition).is_some_and(asks))
}

fn report(context: &mut Context, span: Span, what: &str) {
    context
        .report(span, format!("POSIX sh does not have {what}"))
        .advice("write it in POSIX sh, or name bash in the first line");
}

fn of_expansion(text: &str) -> Option<&'static str> {
    let inner = text.strip_prefix("${")?.strip_suffix('}')?;
    let name_end = inner.find(|letter: char| letter != '_' && !letter.is_ascii_alphanumeric()).unwrap_or(inner.len());
    let (name, rest) = inner.split_at(name_end);
    match rest.bytes().next()? {
        b'/' if !name.is_empty() => Some("the replacing of parts of a value"),
        b'^' | b',' if !name.is_empty() => Some("the change of capitals in a value"),
        b':' if rest[1..].starts_with(|next: char| next.is_ascii_digit() || next == ' ' || next == '$') => {
            Some("the cutting of a value by positions")
        }
        b'[' if !name.is_empty() => Some("a list of values"),
        b'!' if name.is_empty() && rest.len() > 1 => Some("the value of a variable whose name is a value"),
        _ => None,
    }
}

/// `{1..3}`, `{a..f}`
fn is_range(word: &str) -> bool {
    let inner = word.strip_prefix('{').and_then(|rest| rest.strip_suffix('}'));
    let ends = inner.and_then(|inner| inner.split_once(".."));
    let is_end = |end: &str| {
        !end.is_empty() && end.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'.' || byte == b'-')
    };
    ends.is_some_and(|(from, to)| is_end(from) && is_end(to))
}

fn joins_errors(file: File, pipeline: NodeRef) -> bool {
    let elements: Vec<NodeRef> = pipeline.children_in(Role::Element).collect();
    elements.windows(2).any(|pair| file.text.slice(Span::new(pair[0].span().end, pair[1].span().start)).contains("|&"))
}

/// Whether a command runs only where another one failed: the script tries what there is.
fn is_alternative(file: File, command: NodeRef) -> bool {
    let before = &file.text.source()[..command.span().start as usize];
    command.role() == Role::Operand && before.trim_end().ends_with("||")
}

fn on_command(context: &mut Context, command: NodeRef) {
    let file = context.file();
    let name = command_name(file, command);
    if COMMANDS.contains(&name) && !is_alternative(file, command) {
        let span = command.child(Role::Callee).map_or(command.span(), |callee| callee.span());
        report(context, span, &format!("the command `{name}`"));
    }
    if name == "echo"
        && let Some(option) =
            arguments(command).next().filter(|first| matches!(file.node_text(*first), "-e" | "-E" | "-ne" | "-en"))
    {
        report(context, option.span(), "this option of echo");
    }
    if matches!(name, "[" | "test") {
        let equal = arguments(command).find(|argument| file.node_text(*argument) == "==");
        if let Some(equal) = equal {
            report(context, equal.span(), "`==` in a test");
        }
    }
}
