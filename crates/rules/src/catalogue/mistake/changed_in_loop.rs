use std::cell::OnceCell;

use sieve_meaning::declared::written_type;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::tests_error;
use crate::inside::Leaving;
use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::{same_code, uses_other_member};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "changed-in-loop",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Python, Language::Java, Language::CSharp],
    fix: None,
    what: "a collection that is changed while a loop goes over it",
    why: "Elements are passed over, or the loop ends with an error.",
    silent: "Where the loop ends right after the change, for other collections than the one of the loop, those for several threads, those of types that the library does not have, and for elements that get another value; where a test expects an error; for `self`, whose class says what a loop over it means; for removals by key in files that handle mail, whose messages give copies; and where the function uses a member of the collection that those of the language do not have.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "for boat in boats:\n    if boat.late:\n        boats.remove(boat)\n",
                    at: &["3:9"],
                    fixed: None,
                },
                Wrong { code: "for name in fares:\n    del fares[name]\n", at: &["2:5"], fixed: None },
                Wrong { code: "for name, fare in fares.items():\n    fares.pop(name)\n", at: &["2:5"], fixed: None },
            ],
            right: &[
                "def thin(score):\n    for note in score:\n        score.remove(note)\n    return score.duration\n",
                "class Quay:\n    def clear(self):\n        for key in self.keys():\n            self.discard(key)\n",
                "from email.message import Message\n\ndef clean(post: Message):\n    for name in post:\n        del post[name]\n",
                "def thin(score: Score):\n    for note in score:\n        score.remove(note)\n",
                "for boat in list(boats):\n    boats.remove(boat)\n",
                "for quay, low in tides.items():\n    tides.update({quay: low + 1})\n",
                "for quay in tides:\n    with pytest.raises(TypeError):\n        del tides[quay]\n",
                "for boat in boats:\n    boats.remove(boat)\n    break\n",
                "for name in fares:\n    fares[name] = 3\n",
                "for boat in boats:\n    if boat.late:\n        boats.remove(boat)\n        return\n",
                "for quay in quays:\n    for boat in boats:\n        quays.remove(boat)\n        break\n    break\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    private java.util.Set<Boat> boats;\n    void sail() {\n        for (var boat : boats) {\n            if (boat.late()) boats.remove(boat);\n        }\n        for (String name : fares.keySet()) fares.remove(name);\n    }\n}\n",
                at: &["5:30", "7:44"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    private final Berths boats = new Berths();\n\n    void sail() {\n        for (Boat boat : boats) boats.remove(boat);\n    }\n}\n",
                "class Quay {\n    void sail() {\n        for (var boat : List.copyOf(boats)) boats.remove(boat);\n        for (var boat : boats) {\n            boats.remove(boat);\n            break;\n        }\n        for (var boat : boats) {\n            boats.set(0, boat);\n            late.add(boat);\n        }\n    }\n}\n",
                "import java.util.concurrent.CopyOnWriteArrayList;\n\nclass Quay {\n    void sail() {\n        for (var boat : boats) boats.remove(boat);\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay {\n    void Sail() {\n        foreach (var boat in boats) {\n            if (boat.Late) boats.Remove(boat);\n        }\n    }\n}\n",
                at: &["4:28"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    void Sail() {\n        foreach (var boat in boats.ToList()) boats.Remove(boat);\n        foreach (var boat in boats) {\n            boats.Remove(boat);\n            return;\n        }\n        foreach (var fare in fares) fares.Remove(fare.Key);\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::For], check),
};

/// Methods that put elements in or take them out.
const CHANGE: &[&str] = &[
    "add",
    "addAll",
    "clear",
    "discard",
    "insert",
    "pop",
    "popitem",
    "popleft",
    "remove",
    "removeAll",
    "update",
    "Add",
    "AddRange",
    "Clear",
    "Insert",
    "Remove",
    "RemoveAll",
    "RemoveAt",
];

/// Collections that may change while a loop goes over them.
const MAY_CHANGE: &[&[u8]] = &[
    b"BlockingQueue",
    b"BlockingDeque",
    b"Concurrent",
    b"CopyOnWrite",
    b"ImmutableList",
    b"get_payload",
    b"import email",
    b"from email",
    b"email.message",
];

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let (Some(iterable), Some(body)) = (node.child(Role::Iterable), node.child(Role::Body)) else { return };
    // What going over the object itself means is up to its class.
    let Some(collection) = looped(file, iterable).filter(|one| file.node_text(*one) != "self") else { return };
    let says = |word: &[u8]| memchr::memmem::find(file.text.source().as_bytes(), word).is_some();
    let mut leaving = Leaving::default();
    let may_change = OnceCell::new();
    // Asked once, if something seems to change.
    let reassigned = OnceCell::new();
    for inner in body.descendants() {
        if !changed_object(file, inner).is_some_and(|object| same_code(file, object, collection)) {
            continue;
        }
        let in_function =
            inner.ancestors().take_while(|around| *around != body).any(|around| around.kind().is_function());
        let is_statement =
            |around: &NodeRef| around.role() == Role::Statement || around.kind() == Kind::ExpressionStatement;
        let statement = inner.ancestors().find(is_statement);
        let Some(statement) = statement.filter(|statement| !in_function && !leaving.is_behind(*statement, body)) else {
            continue;
        };
        let is_new = || *reassigned.get_or_init(|| is_reassigned(file, body, collection));
        let is_free = || *may_change.get_or_init(|| MAY_CHANGE.iter().any(|word| says(word)));
        if tests_error(file, statement) || fills_in(file, node, inner) {
            continue;
        }
        let is_own = || is_of_own_class(file, node, collection) || is_of_another_type(context, collection);
        if !is_new() && !is_free() && !is_own() {
            context
                .report(
                    statement.span(),
                    format!("the loop goes over {}, which changes here", file.node_text(collection)),
                )
                .advice("go over a copy, or collect what is to change and do it after the loop");
        }
    }
}

/// Methods of the collections that come with the languages where members are in small letters.
const COLLECTION: &[&str] = &[
    "add",
    "append",
    "appendleft",
    "clear",
    "copy",
    "count",
    "difference",
    "discard",
    "extend",
    "fromkeys",
    "get",
    "index",
    "insert",
    "intersection",
    "items",
    "keys",
    "move_to_end",
    "pop",
    "popitem",
    "popleft",
    "remove",
    "reverse",
    "setdefault",
    "sort",
    "union",
    "update",
    "values",
];

/// Types of collections that must not change while a loop goes over them: those of the language (Python 3.14), of `java.util` (Java 21), and
/// of `System.Collections` (.NET 9), with the interfaces through which they are known.
const TYPES: &[&str] = &[
    "AbstractList",
    "ArrayDeque",
    "ArrayList",
    "Collection",
    "Counter",
    "DefaultDict",
    "Deque",
    "Dict",
    "Dictionary",
    "EnumMap",
    "EnumSet",
    "HashMap",
    "HashSet",
    "Hashtable",
    "ICollection",
    "IDictionary",
    "IList",
    "ISet",
    "IdentityHashMap",
    "Iterable",
    "LinkedHashMap",
    "LinkedHashSet",
    "LinkedList",
    "List",
    "Map",
    "MutableMapping",
    "MutableSequence",
    "MutableSet",
    "NavigableMap",
    "NavigableSet",
    "ObservableCollection",
    "OrderedDict",
    "PriorityQueue",
    "Queue",
    "Set",
    "SortedDictionary",
    "SortedList",
    "SortedMap",
    "SortedSet",
    "Stack",
    "TreeMap",
    "TreeSet",
    "Vector",
    "defaultdict",
    "deque",
    "dict",
    "list",
    "set",
];

/// Whether a declaration gives the collection a type that none of the library has: what a loop over it means is up to that type.
fn is_of_another_type(context: &Context, collection: NodeRef) -> bool {
    let name = collection.child(Role::Name).filter(|_| collection.kind() == Kind::Member).unwrap_or(collection);
    let Some(written) = written_type(context.names(), name) else { return false };
    let written = context.text(written);
    let end = written.find(|letter: char| letter != '.' && letter != '_' && !letter.is_alphanumeric());
    let last = written[..end.unwrap_or(written.len())].rsplit('.').next().unwrap_or_default();
    let is_open = matches!(last, "" | "var" | "Optional" | "Union" | "Annotated" | "Final" | "ClassVar");
    !is_open && !TYPES.contains(&last)
}

/// Whether the function around uses a member that no collection of the language has: what a loop over it means is up to its class.
fn is_of_own_class(file: File<'_>, node: NodeRef, collection: NodeRef) -> bool {
    let around = node.ancestors().find(|around| around.kind().is_function());
    file.traits.word_operators && around.is_some_and(|around| uses_other_member(file, around, collection, COLLECTION))
}

/// What loses or gets elements by a call or a `del`.
fn changed_object<'t>(file: File<'_>, node: NodeRef<'t>) -> Option<NodeRef<'t>> {
    match node.kind() {
        Kind::Call if node.role() == Role::Value => {
            let callee = node.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member)?;
            let method = callee.child(Role::Name)?;
            let is_change = CHANGE.contains(&file.node_text(method)) && !removes_by_key(file, node, method);
            callee.child(Role::Object).filter(|_| is_change)
        }
        Kind::Subscript if node.parent().is_some_and(|parent| parent.kind() == Kind::Delete) => {
            node.child(Role::Object)
        }
        _ => None,
    }
}

/// A table may lose an entry by its key while a loop goes over it, where the names of members have capitals (`Dictionary.Remove`, .NET 3.0).
fn removes_by_key(file: File<'_>, call: NodeRef<'_>, method: NodeRef<'_>) -> bool {
    let argument = call.child(Role::Arguments).and_then(|all| all.children().next());
    file.node_text(method) == "Remove" && argument.is_some_and(|argument| argument.kind() != Kind::Name)
}

/// What a loop goes over: a name or a path, perhaps by its items.
fn looped<'t>(file: File<'_>, iterable: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let collection = if iterable.kind() == Kind::Call {
        let callee = iterable.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member)?;
        let method = file.node_text(callee.child(Role::Name)?);
        let views = match file.traits.word_operators {
            true => matches!(method, "items" | "keys" | "values"),
            false => matches!(method, "entrySet" | "keySet" | "values"),
        };
        callee.child(Role::Object).filter(|_| views)?
    } else {
        iterable
    };
    let is_path = |node: NodeRef| matches!(node.kind(), Kind::Name | Kind::Member);
    (is_path(collection) && collection.descendants().all(is_path)).then_some(collection)
}

/// `tides.update({quay: low})` with the key of the loop: the entry is there, and gets another value.
fn fills_in(file: File<'_>, node: NodeRef<'_>, call: NodeRef<'_>) -> bool {
    let Some(target) = node.child(Role::Target) else { return false };
    let key = if target.kind() == Kind::Name { Some(target) } else { target.children().next() };
    let only = call.child(Role::Arguments).and_then(|all| all.children().next());
    let table = only.filter(|table| call.kind() == Kind::Call && table.kind() == Kind::Dictionary);
    key.zip(table).is_some_and(|(key, table)| {
        let is_there = |pair: NodeRef| pair.child(Role::Key).is_some_and(|own| same_code(file, own, key));
        table.children().all(is_there)
    })
}

fn is_reassigned(file: File<'_>, body: NodeRef, collection: NodeRef) -> bool {
    body.descendants().any(|node| {
        node.role() == Role::Target && node.kind() == collection.kind() && same_code(file, node, collection)
    })
}
