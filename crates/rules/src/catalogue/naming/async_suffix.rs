use sieve_meaning::project::{gives_nothing, words_before};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "async-suffix",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_WAITING,
    fix: None,
    what: "an asynchronous function whose name does not show it, or shows it where a team does not want that",
    why: "Callers see from the name that the result has to be awaited.",
    silent: "Methods of a class with bases may be determined by the bases. What gives nothing to wait for is called by a library, which chose its name. It is on only where settings name it: not every team wants it.",
    standards: &[],
    options: &[OptionFacts {
        name: "wanted",
        default: OptionDefault::Flag(true),
        about: "whether the names of asynchronous functions say that they are; without it none may end with it",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "async def load_tides():\n    pass\n", at: &["1:11"], fixed: None }],
            right: &["async def load_tides_async():\n    pass\n", "def load():\n    pass\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "async function loadTides() {}\n", at: &["1:16"], fixed: None }],
            right: &["async function loadTidesAsync() {}\nasync function toAsyncTides() {}\n"],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    public async Task<int> Load() { return await Tides(); }\n}\n",
                at: &["3:28"],
                fixed: None,
            }],
            right: &[
                "class Desk\n{\n    public async Task<int> LoadAsync() { return await Tides(); }\n    async void OnClick() { await LoadAsync(); }\n    static async Task Main() => await Run();\n}\n",
                "class Desk : Quay\n{\n    public override async Task Load() { await Tides(); }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Function], check),
};

fn check(context: &mut Context, function: NodeRef) {
    let file = context.file();
    let Some(name) = function.child(Role::Name).filter(|name| name.kind() != Kind::ComputedName) else { return };
    if !words_before(file.text, function).contains(&"async") || gives_nothing(file.text, function) {
        return;
    }
    let text = context.text(name);
    let is_foreign = function.class_around().is_some_and(|class| file.has_bases(class));
    // Its runtime looks for some by their names, such as where a program begins.
    let is_special = text.starts_with("__") || file.traits.special_members.contains(&text);
    if is_foreign || is_special || file.is_test() {
        return;
    }
    let lower = text.to_lowercase();
    if context.flag("wanted") && !lower.contains("async") {
        context
            .report(name.span(), format!("\"{text}\" is asynchronous, and its name does not show it"))
            .advice("let its name end with \"async\"");
    } else if !context.flag("wanted") && lower.ends_with("async") && lower != "async" {
        context
            .report(name.span(), format!("the name \"{text}\" repeats that it is asynchronous"))
            .advice("leave the suffix out");
    }
}
