use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::described::described;

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

const KINDS: &[&str] = &["module", "type", "function"];

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-doc",
    concern: Concern::Docs,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "a public module, class or function without a docstring or doc comment",
    why: "To use it, one has to read its code.",
    silent: "In JavaScript, TypeScript and Go only what is exported needs one, in Rust, Java and C# what is public without a limit, as is all that it is in, and files need none. Names that begin with an underscore, tests, setters, stubs, and methods of classes with bases, which may be documented there, need none, nor do functions that a type has because of a trait; of several signatures of a function one is enough. Methods of Go by which a type has an interface of the library, such as `Error` and `Read`, need none.",
    standards: &["PEP 257"],
    options: &[OptionFacts {
        name: "of",
        default: OptionDefault::Choices(KINDS, KINDS),
        about: "what needs documentation: module, type, function",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "\"\"\"Fares.\"\"\"\n\ndef fare(adult):\n    return adult\n", at: &["3:5"], fixed: None },
                Wrong {
                    code: "class Quay:\n    \"\"\"A quay.\"\"\"\n    def low(self):\n        pass\n",
                    at: &["1:1", "3:9"],
                    fixed: None,
                },
            ],
            right: &[
                "\"\"\"Fares.\"\"\"\n\ndef fare(adult):\n    \"\"\"What an adult pays.\"\"\"\n    return adult\n",
                "\"\"\"Fares.\"\"\"\n\ndef _share():\n    def inner():\n        pass\n",
                "\"\"\"Quays.\"\"\"\n\nclass Quay(Place):\n    \"\"\"A quay.\"\"\"\n    def low(self):\n        pass\n",
                "",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "/** Fares. */\n\nexport function fare(adult) {\n  return adult;\n}\n",
                at: &["3:17"],
                fixed: None,
            }],
            right: &[
                "/** Fares. */\n\n/** What an adult pays. */\nexport function fare(adult) {\n  return share(adult);\n}\n\nfunction share(of) {}\n",
                "",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[
                Wrong {
                    code: "export class Quay {\n  open(): void {}\n  private depth(): number {\n    return 3;\n  }\n}\n",
                    at: &["1:14", "2:3"],
                    fixed: None,
                },
                Wrong {
                    code: "export function partial(fare: Fare): Fare {\n  return fare;\n}\n",
                    at: &["1:17"],
                    fixed: None,
                },
            ],
            right: &[
                "/** What is due. */\nexport function fare(of: Adult): number;\nexport function fare(of: Child): number;\n",
                "export function fare(of: Adult): number;\nexport function fare(of: Child): number;\n/** What is due. */\nexport function fare(of: any) {}\n",
                "/** A quay. */\nexport class Quay extends Place {\n  open(): void {}\n}\n",
                "// What the crew pays on days off.\nexport function crewFare() {}\nexport function _share() {}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package tide\n\nfunc Low() int { return 3 }\n\ntype Quay struct{}\n\ntype (\n\t// Boat sails.\n\tBoat struct{}\n\tPier int\n)\n\nfunc (q *Quay) Open() {}\n",
                at: &["3:6", "5:6", "10:2", "13:16"],
                fixed: None,
            }],
            right: &[
                "package tide\n\n// Low is when the tide is low.\nfunc Low() int { return high() }\n\nfunc high() int { return 3 }\n\n// Quay is one.\ntype Quay struct{}\n\ntype boat struct{}\n\nfunc (b boat) Sail() {}\n\nfunc (q Quay) String() string { return \"\" }\n\n// Sail is what boats do.\ntype Sail interface {\n\tSail()\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "pub fn low() {}\n\npub struct Quay;\n\nimpl Quay {\n    pub fn open(&self) {}\n    fn close(&self) {}\n}\n\npub enum Tide {}\n\npub trait Sail {\n    fn sail(&self);\n}\n",
                at: &["1:8", "3:12", "6:12", "10:10", "12:11", "13:8"],
                fixed: None,
            }],
            right: &[
                "/// Low.\npub fn low() {}\n\n#[inline]\n/// High.\npub fn high() {}\n\n#[doc = \"A quay.\"]\npub struct Quay;\n\nimpl Clone for Quay {\n    fn clone(&self) -> Quay {\n        Quay\n    }\n}\n\npub(crate) fn share() {}\n\nmod inner {\n    pub fn seen_in_the_crate() {}\n}\n\nstruct Boat;\n\nimpl Boat {\n    pub fn sail(&self) {}\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "public class Quay {\n    public void open() {}\n    void close() {}\n    public interface Tide { int low(); }\n}\n",
                at: &["1:14", "2:17", "4:22", "4:33"],
                fixed: None,
            }],
            right: &[
                "/** A quay. */\npublic class Quay implements Place {\n    private void close() {}\n    @Override public String toString() { return name; }\n    /** Opens it. */\n    @Deprecated\n    public static void open() {}\n    Object low = new Object() { public void high() {} };\n}\n\nclass Boat {\n    public void sail() {}\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "namespace Ferries;\n\npublic class Quay\n{\n    public void Open() { }\n    void Close() { }\n    public interface ITide { int Low(); }\n}\n",
                at: &["3:14", "5:17", "7:22", "7:34"],
                fixed: None,
            }],
            right: &[
                "namespace Ferries\n{\n    /// <summary>A quay.</summary>\n    public class Quay : IPlace\n    {\n        private void Close() { }\n        public override string ToString() => name;\n        /// <summary>Opens it.</summary>\n        [Obsolete]\n        public static void Open() { }\n    }\n\n    public partial class Boat { }\n\n    class Pier\n    {\n        public void Sail() { }\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(
        &[Kind::File, Kind::Class, Kind::Function, Kind::TypeDefinition, Kind::Enum, Kind::Interface],
        check,
    ),
};

fn check(context: &mut Context, node: NodeRef) {
    let kind = kind_of(node);
    // What describes another file is documented there.
    if context.file().only_describes() {
        return;
    }
    if !context.words("of").iter().any(|wanted| wanted == kind) || described(context.file(), node) != Some(false) {
        return;
    }
    if node.kind() == Kind::File {
        return on_module(context);
    }
    let Some(name) = node.child(Role::Name) else { return };
    let text = context.text(name);
    let what = match node.kind() {
        Kind::Class => "class",
        Kind::TypeDefinition | Kind::Enum => "type",
        Kind::Interface => context.file().traits.interface_noun,
        _ => "function",
    };
    context.report(name.span(), format!("the {what} \"{text}\" is not documented")).advice("document what it does");
}

fn kind_of(node: NodeRef) -> &'static str {
    match node.kind() {
        Kind::File => "module",
        Kind::Class | Kind::TypeDefinition | Kind::Enum | Kind::Interface => "type",
        _ => "function",
    }
}

fn on_module(context: &mut Context) {
    let start = context.file().text.lines().line(context.file().text.source(), 1).start;
    // The finding belongs to the file, not to what happens to be first in it.
    context
        .report(Span::at(start), "the module is not documented")
        .advice("say what it is for")
        .anchor(Span::at(start));
}
