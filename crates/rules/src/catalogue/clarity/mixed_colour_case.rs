use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};
use crate::style::value::is_hex_colour;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "mixed-colour-case",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: Some(FixKind::Exact),
    what: "a colour in hexadecimal digits whose letters are not in the case that the others of the sheet are in",
    why: "A search for a colour misses those that are written otherwise.",
    silent: "In a sheet where both are as frequent, unless settings say which is wanted.",
    standards: &[],
    options: &[OptionFacts {
        name: "case",
        default: OptionDefault::Choice("usual", &["usual", "lower", "upper"]),
        about: "the case that letters are to be in; usual: that of most colours in the sheet",
    }],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[Wrong {
            code: ".a { color: #fff }\n.b { color: #abc }\n.c { color: #ABCDEF }\n",
            at: &["3:13"],
            fixed: Some(".a { color: #fff }\n.b { color: #abc }\n.c { color: #abcdef }\n"),
        }],
        right: &[".a { color: #FFF }\n.b { color: #123456 }\n", ".a { color: #FFF }\n.b { color: #fff }\n"],
    }],
    needs_names: false,
    check: Check::All(&[Kind::HashValue], check),
};

fn check(context: &mut Context, colours: &[NodeRef]) {
    let file = context.file();
    let is_colour = |node: &&NodeRef| is_hex_colour(&file.node_text(**node)[1..]);
    let has = |node: &NodeRef, is_case: fn(&u8) -> bool| file.node_text(*node).as_bytes().iter().any(is_case);
    let count = |is_case: fn(&u8) -> bool| colours.iter().filter(is_colour).filter(|node| has(node, is_case)).count();
    let (lower, upper) = (count(u8::is_ascii_lowercase), count(u8::is_ascii_uppercase));
    let wants_lower = match context.word("case") {
        "lower" => true,
        "upper" => false,
        _ if lower == upper => return,
        _ => lower > upper,
    };
    let (wrong, word): (fn(&u8) -> bool, _) =
        if wants_lower { (u8::is_ascii_uppercase, "small") } else { (u8::is_ascii_lowercase, "capital") };
    for colour in colours.iter().filter(is_colour).filter(|node| has(node, wrong)) {
        let text = file.node_text(*colour);
        let right = if wants_lower { text.to_ascii_lowercase() } else { text.to_ascii_uppercase() };
        context
            .report(colour.span(), format!("{text} is not in {word} letters"))
            .advice(format!("write {right}"))
            .fix(vec![Edit::replace(colour.span(), right)]);
    }
}
