use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{BanKind, Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "banned-member",
    concern: Concern::Boundary,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "a member that the team does not want used, with its reason",
    why: "Each entry states its reason, so that nobody has to explain it again in a review.",
    silent: "Without entries `[[ban]] member = \"…\"` in the settings; the examples are as if `utcnow` and `innerText` were banned. A name without dots is banned on every object; one with dots where it is known what the object is.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "import datetime\nprint(datetime.datetime.utcnow())\n",
                at: &["2:25"],
                fixed: None,
            }],
            right: &["import datetime\nutcnow = datetime.datetime.now\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "board.innerText = tide;\n", at: &["1:7"], fixed: None }],
            right: &["board.textContent = tide;\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong { code: "package quay\n\nvar _ = board.innerText\n", at: &["3:15"], fixed: None }],
            right: &["package quay\n\nvar _ = board.text\n"],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong { code: "fn f(board: Board) {\n    board.innerText()\n}\n", at: &["2:11"], fixed: None }],
            right: &["fn f(board: Board) {\n    board.text()\n}\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    String text = board.innerText;\n}\n",
                at: &["2:25"],
                fixed: None,
            }],
            right: &["class Quay {\n    String text = board.text;\n}\n"],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay {\n    string text = board.innerText;\n}\n",
                at: &["2:25"],
                fixed: None,
            }],
            right: &["class Quay {\n    string text = board.Text;\n}\n"],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::Member], check),
};

fn check(context: &mut Context, member: NodeRef) {
    if context.bans(BanKind::Member).next().is_none() {
        return;
    }
    let file = context.file();
    let Some(name) = member.child(Role::Name) else { return };
    let text = file.node_text(name);
    let mut whole = None;
    for ban in context.bans(BanKind::Member) {
        let holds = match ban.name.rsplit_once('.') {
            None => ban.name == text,
            Some((_, last)) if last == text => {
                whole.get_or_insert_with(|| file.refers(member)).as_deref() == Some(ban.name.as_str())
            }
            Some(_) => false,
        };
        if holds {
            context.report(name.span(), format!("{} is not to be used: {}", ban.name, ban.because));
        }
    }
}
