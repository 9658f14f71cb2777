//! Numbers that everybody who reads them in their place knows: parts of versions, statuses of HTTP, parts of days, permissions of files.

use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::interface::Context;

/// The families, by the words that the option takes.
pub(super) const FAMILIES: &[&str] = &["http-status", "version", "time", "file-mode"];

/// How far a number is from what says its family.
const FOLLOWED: usize = 4;

/// Hours of a day, minutes and seconds, days of a year, and what these make together.
const OF_TIME: &[f64] = &[24.0, 60.0, 365.0, 366.0, 1440.0, 3600.0, 86400.0, 604800.0, 3600000.0, 86400000.0];

/// Whether a number belongs to one of the families that an option lets pass.
pub(super) fn is_known(context: &Context, number: NodeRef, value: f64, families: &[String]) -> bool {
    let lets = |family: &str| families.iter().any(|known| known == family);
    let is_status = (100.0..600.0).contains(&value) && value.fract() == 0.0;
    lets("time") && OF_TIME.contains(&value) && is_converted(number)
        || lets("http-status") && is_status && is_beside(context, number, "status")
        || lets("version") && is_beside(context, number, "version")
        || lets("file-mode") && is_mode(context.text(number))
}

/// Whether a number is written in base 8, with as many digits as the permissions of a file have ("File Modes", POSIX.1-2024, 4.7):
/// `0o755`, and `0755` where that is base 8 as well.
fn is_mode(written: &str) -> bool {
    let digits = written.strip_prefix(['0']).map(|digits| digits.trim_start_matches(['o', 'O']));
    digits.is_some_and(|digits| {
        matches!(digits.len(), 3..=4) && digits.bytes().all(|digit| (b'0'..=b'7').contains(&digit))
    })
}

/// Whether a number is a factor: that is how times of one unit become those of another.
fn is_converted(number: NodeRef) -> bool {
    let is_factor = |node: NodeRef| node.kind() == Kind::Binary;
    number.parent().is_some_and(is_factor)
}

/// Whether a number is compared with something, or is given to something, whose name holds a word.
fn is_beside(context: &Context, number: NodeRef, word: &str) -> bool {
    let mut inner = number;
    for around in number.ancestors().take(FOLLOWED) {
        match around.kind() {
            Kind::Comparison => {
                let operands = context.file().once_at(around, || Operands::of(context, around));
                return operands.0.iter().any(|(saying, one)| *saying == word && *one != inner.id());
            }
            Kind::Call => {
                let callee = around.child(Role::Callee);
                return callee.is_some_and(|callee| callee != inner && says(context, callee, word));
            }
            Kind::Tuple | Kind::List | Kind::Set | Kind::Group | Kind::Arguments => {}
            _ => return false,
        }
        inner = around;
    }
    false
}

/// The operands of a comparison whose names say a family, with its word: at most two for each.
struct Operands(Vec<(&'static str, NodeId)>);

impl Operands {
    fn of(context: &Context, comparison: NodeRef) -> Operands {
        let saying = |word: &'static str| {
            let operands = comparison.children_in(Role::Operand).filter(move |one| says(context, *one, word));
            operands.take(2).map(move |one| (word, one.id()))
        };
        Operands(["status", "version"].into_iter().flat_map(saying).collect())
    }
}

fn says(context: &Context, node: NodeRef, word: &str) -> bool {
    let text = context.text(node);
    text.len() < LONGEST && text.to_ascii_lowercase().contains(word)
}

/// Longer code than this is no name, in bytes.
const LONGEST: usize = 120;
