use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::habit::AS_IS;
use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "key-order",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Guess,
    languages: Language::OF_DATA,
    fix: None,
    what: "a key out of order among keys that are sorted",
    why: "Who looks for a key in a sorted list looks where it should be, and adds it once more; and two branches that add keys at the end conflict.",
    silent: "Objects of fewer than ten keys or with numbers among them, and those with more than one key out of order, unless `order` asks for it; of one object one key is reported. Small letters and capitals may be mixed or apart.",
    standards: &[],
    options: &[OptionFacts {
        name: "order",
        default: OptionDefault::Choice(AS_IS, &[AS_IS, "alphabetical"]),
        about: "as-is asks for it where all keys of an object but one are sorted, alphabetical everywhere",
    }],
    examples: &[
        Examples {
            language: Language::Yaml,
            wrong: &[Wrong {
                code: "avocet: 1\nbittern: 2\ncurlew: 3\neider: 4\nheron: 5\nknot: 6\ndunlin: 7\nplover: 8\nteal: 9\nwigeon: 10\n",
                at: &["7:1"],
                fixed: None,
            }],
            right: &[
                "avocet: 1\nbittern: 2\ncurlew: 3\ndunlin: 4\nEider: 5\nheron: 6\nknot: 7\nplover: 8\nteal: 9\nwigeon: 10\n",
                "name: north\ndepth: 3\nboats: 2\n",
            ],
        },
        Examples {
            language: Language::Toml,
            wrong: &[Wrong {
                code: "[birds]\nplover = 8\navocet = 1\nbittern = 2\ncurlew = 3\neider = 4\nheron = 5\nknot = 6\nredshank = 7\nteal = 8\nwigeon = 9\n",
                at: &["2:1"],
                fixed: None,
            }],
            right: &["[birds]\navocet = 1\nbittern = 2\ncurlew = 3\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Dictionary, Kind::Table], check),
};

/// Of fewer keys, all but one may be sorted by chance.
const ENOUGH: usize = 10;

fn check(context: &mut Context, holder: NodeRef) {
    let keys: Vec<(NodeRef, String)> = holder
        .children_in(Role::Element)
        .filter(|pair| pair.kind() == Kind::Pair)
        .filter_map(|pair| pair.child(Role::Key))
        .map(|key| (key, context.text(key).trim_matches(['"', '\'']).to_string()))
        .collect();
    let asks_for_all = context.word("order") != AS_IS;
    let written: Vec<&str> = keys.iter().map(|(_, name)| name.as_str()).collect();
    let has_numbers = written.iter().any(|name| name.starts_with(|first: char| first.is_ascii_digit()));
    if has_numbers || !asks_for_all && keys.len() < ENOUGH {
        return;
    }
    let small: Vec<String> = written.iter().map(|name| name.to_lowercase()).collect();
    let (by_letter, by_byte) = (descents(&small), descents(&written));
    if by_letter.is_empty() || by_byte.is_empty() {
        return;
    }
    let (index, are) = if asks_for_all {
        (by_letter[0] + 1, "are to be sorted")
    } else {
        match single(&small, &by_letter).or_else(|| single(&written, &by_byte)) {
            Some(odd) => (odd, "are sorted"),
            None => return,
        }
    };
    let (key, name) = &keys[index];
    let smaller = (0..keys.len()).filter(|other| small[*other] < small[index]);
    let advice = match smaller.max_by_key(|other| &small[*other]) {
        Some(before) => format!("put it behind {}", written[before]),
        None => "put it first".to_string(),
    };
    context.report(key.span(), format!("the keys here {are}, and {name} is out of order")).advice(advice);
}

/// The places of keys that are greater than the one behind them.
fn descents<T: Ord>(keys: &[T]) -> Vec<usize> {
    keys.windows(2).enumerate().filter(|(_, pair)| pair[0] > pair[1]).map(|(at, _)| at).collect()
}

/// The key without which all would be sorted.
fn single<T: Ord>(keys: &[T], descents: &[usize]) -> Option<usize> {
    let [at] = *descents else { return None };
    let fits_without_next = keys.get(at + 2).is_none_or(|behind| keys[at] <= *behind);
    let fits_without_this = at.checked_sub(1).is_none_or(|before| keys[before] <= keys[at + 1]);
    if fits_without_next { Some(at + 1) } else { fits_without_this.then_some(at) }
}
