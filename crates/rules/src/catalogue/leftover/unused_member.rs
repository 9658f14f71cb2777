use rustc_hash::FxHashMap;
use sieve_meaning::project::words_before;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::private_binding;
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unused-member",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx, Language::Java, Language::CSharp],
    fix: None,
    what: "a private member of a class that nothing in the class uses",
    why: "Nobody else can use it: it is left over, or the use was forgotten.",
    silent: "For members that a decorator or a string may ask for, those that the runtime finds by their names, such as for serialization, those of types with native methods, the halves of a property of which the other one is not private, fields with numbers that keep a place, fields of objects that are stored, what has a tag of some program in its documentation, what an annotation or its name says to be unused, of types with parts in other files, and where the file asks for all members of types; in C# also for the fields of structures and for methods that extend a type.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "class Boat {\n  #depth = 3;\n\n  sail() {\n    return 1;\n  }\n}\n",
                    at: &["2:3"],
                    fixed: None,
                },
                Wrong { code: "class Boat {\n  #moor() {}\n}\n", at: &["2:3"], fixed: None },
            ],
            right: &[
                "class Boat {\n  #depth = 3;\n\n  sail() {\n    return this.#depth;\n  }\n}\n",
                "class Boat {\n  #brand;\n\n  static is(other) {\n    return #brand in other;\n  }\n}\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong { code: "class Boat {\n  private depth = 3;\n}\n", at: &["2:11"], fixed: None }],
            right: &[
                "class Fare {\n  private __brand: any;\n}\n",
                "class Boat {\n  private depth = 3;\n\n  sail() {\n    const { depth } = this;\n    return depth;\n  }\n}\n",
                "class Boat {\n  private constructor() {}\n}\n",
                "class Boat {\n  private depth = 3;\n\n  sail() {\n    return this[\"depth\"];\n  }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Boat {\n    private int depth = 3, width;\n\n    int sail() {\n        return width;\n    }\n}\n",
                    at: &["2:17"],
                    fixed: None,
                },
                Wrong { code: "class Boat {\n    private void moor(int depth) {}\n}\n", at: &["2:18"], fixed: None },
                Wrong {
                    code: "class Quay {\n    private static class Berth {\n        private Berth() {}\n    }\n}\n",
                    at: &["2:26"],
                    fixed: None,
                },
            ],
            right: &[
                "class Boat {\n    private int depth;\n\n    boolean fits(Boat other) {\n        return other.depth > 3;\n    }\n}\n",
                "class Boat implements java.io.Serializable {\n    private int depth;\n    private static int unusedWharf;\n\n    /**\n     * @parameter expression=\"quay\"\n     */\n    private static String quay;\n}\n",
                "class Boat {\n    private static final long serialVersionUID = 1;\n    @Inject\n    private Quay quay;\n    private Boat() {}\n    private volatile int state;\n    static final Handle STATE = find(Boat.class, \"state\");\n}\n",
                "record Boat(int depth) {\n    private static int low() {\n        return 3;\n    }\n\n    static class Tide {\n        int high() {\n            return low();\n        }\n    }\n}\n",
                "class Boat {\n    private long pad0, pad1, pad2;\n    private int depth;\n\n    public int getDepth() {\n        return depth;\n    }\n\n    private void setDepth(int depth) {\n        this.depth = depth;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[
                Wrong {
                    code: "class Boat {\n    private int depth = 3, width;\n    int crew;\n\n    public int Sail() {\n        return width;\n    }\n}\n",
                    at: &["2:17", "3:9"],
                    fixed: None,
                },
                Wrong {
                    code: "class Boat {\n    private void Moor(int depth) {}\n    private int Low => 3;\n}\n",
                    at: &["2:18", "3:17"],
                    fixed: None,
                },
                Wrong {
                    code: "class Quay {\n    private class Berth {\n        private Berth() {}\n    }\n}\n",
                    at: &["2:19"],
                    fixed: None,
                },
            ],
            right: &[
                "class Boat {\n    private int depth;\n\n    public bool Fits(Boat other) => other.depth > 3;\n}\n",
                "class Boat {\n    [Import]\n    private Quay quay;\n    private protected int low;\n    static void Main() {}\n    void IBoat.Moor() {}\n    private int state;\n    public object State() => Read(\"state\");\n}\n",
                "partial class Boat {\n    private int depth;\n}\n",
                "struct Place {\n    private int reserved;\n}\n\ninterface IBoat {\n    int Depth { get; }\n}\n\nstatic class Boats {\n    static int Low(this IBoat boat) => 3;\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::Class, Kind::ClassExpression, Kind::Enum, Kind::Interface], check),
};

fn check(context: &mut Context, class: NodeRef) {
    let file = context.file();
    if let Some(scope) = context.names().members_scope(class.id()) {
        return private_binding::check(context, class, scope);
    }
    if !matches!(class.kind(), Kind::Class | Kind::ClassExpression) {
        return;
    }
    let Some(body) = class.child(Role::Body).filter(|_| !file.only_describes()) else { return };
    let members: Vec<NodeRef> =
        body.children().filter(|member| matches!(member.kind(), Kind::Field | Kind::Function)).collect();
    let mut own: Vec<NodeRef> = Vec::new();
    for member in &members {
        let Some(name) = member.child(Role::Name) else { continue };
        let words = words_before(file.text, *member);
        // A field that is only declared makes types of one shape differ.
        let only_declares = file.node_text(*member).contains("!:") || words.contains(&"declare");
        if only_declares && member.kind() == Kind::Field {
            continue;
        }
        let is_private = name.kind() == Kind::PrivateName || words.contains(&"private");
        // A name of underscores says that only the value matters.
        let is_nameless = file.node_text(name).trim_matches(['#', '_']).is_empty();
        if is_private
            && !is_nameless
            && file.node_text(name) != "constructor"
            && member.children_in(Role::Decorator).next().is_none()
            // What is assigned in the place of a value is why the field is there.
            && member.child(Role::Value).is_none_or(|value| value.kind() != Kind::Assignment)
            // A mark that makes a type differ from all others is never read.
            && !file.node_text(name).to_ascii_lowercase().contains("brand")
        {
            own.push(name);
        }
    }
    if own.is_empty() {
        return;
    }
    let mut words: FxHashMap<&str, usize> = FxHashMap::default();
    for (_, kind, span) in file.tree.tokens_with_spans(class.token_range()) {
        let text = file.text.slice(span);
        match kind {
            TokenKind::String | TokenKind::FormatText => {
                let is_part = |letter: char| letter == '_' || letter == '$' || letter.is_alphanumeric();
                text.split(|letter| !is_part(letter)).for_each(|word| *words.entry(word).or_default() += 2);
            }
            TokenKind::Comment => {}
            _ => *words.entry(text.trim_start_matches('#')).or_default() += 1,
        }
    }
    // A getter with its setter, and the signatures of a method, are one member.
    let mut declared: FxHashMap<&str, (usize, NodeRef)> = FxHashMap::default();
    for name in &own {
        declared.entry(plain_name(file, *name)).or_insert((0, *name)).0 += 1;
    }
    for name in &own {
        let text = plain_name(file, *name);
        let (count, first) = declared[text];
        if first == *name && words.get(text).copied().unwrap_or_default() <= count {
            context
                .report(name.span(), format!("nothing in the class uses \"{}\"", file.node_text(*name)))
                .advice("remove it");
        }
    }
}

fn plain_name<'f>(file: File<'f>, name: NodeRef<'_>) -> &'f str {
    file.node_text(name).trim_start_matches('#')
}
