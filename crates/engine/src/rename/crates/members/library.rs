//! What the best known types of the library make of the types in them (The Rust Standard Library 1.89).

use super::lookup::POINTERS;
use super::types::Type;

/// The types of what a call is given.
pub(super) struct Given(pub(super) Vec<Type>);

impl Given {
    fn get(&self, index: usize) -> Type {
        self.0.get(index).cloned().unwrap_or(Type::Unknown)
    }

    /// What a function gives that is given.
    fn result(&self, index: usize) -> Type {
        match self.get(index) {
            Type::Function(result) => *result,
            _ => Type::Unknown,
        }
    }
}

const MAPS: &[&str] = &["BTreeMap", "FxHashMap", "HashMap", "IndexMap"];

/// Types that hold many of one type, and go through them.
const MANY: &[&str] = &[
    "BTreeSet",
    "BinaryHeap",
    "DoubleEndedIterator",
    "ExactSizeIterator",
    "FxHashSet",
    "HashSet",
    "IndexSet",
    "IntoIterator",
    "Iterator",
    "LinkedList",
    "Option",
    "Peekable",
    "Vec",
    "VecDeque",
];

fn option(of: Type) -> Type {
    Type::other("Option", vec![of])
}

fn iterator(of: Type) -> Type {
    Type::other("Iterator", vec![of])
}

fn number() -> Type {
    Type::other("number", Vec::new())
}

fn first(arguments: &[Type]) -> Type {
    arguments.first().cloned().unwrap_or(Type::Unknown)
}

fn second(arguments: &[Type]) -> Type {
    arguments.get(1).cloned().unwrap_or(Type::Unknown)
}

/// What a value gives that is gone through, one by one.
pub(super) fn element(of: &Type) -> Type {
    match of {
        Type::List(element) => (**element).clone(),
        Type::Other(name, arguments) if MANY.contains(&name.as_str()) => first(arguments),
        Type::Other(name, arguments) if MAPS.contains(&name.as_str()) => {
            Type::Tuple(vec![first(arguments), second(arguments)])
        }
        Type::Other(name, arguments) if POINTERS.contains(&name.as_str()) => {
            arguments.first().map_or(Type::Unknown, element)
        }
        _ => Type::Unknown,
    }
}

/// What is at a place of a value.
pub(super) fn indexed(of: &Type) -> Type {
    match of {
        Type::Other(name, arguments) if MAPS.contains(&name.as_str()) => second(arguments),
        Type::Other(name, arguments) if POINTERS.contains(&name.as_str()) => {
            arguments.first().map_or(Type::Unknown, indexed)
        }
        _ => element(of),
    }
}

/// What `?` takes out of a value.
pub(super) fn propagated(of: Type) -> Type {
    match of {
        Type::Other(name, arguments) if matches!(name.as_str(), "Option" | "Result") => first(&arguments),
        _ => Type::Unknown,
    }
}

/// The type that a function of the library wraps what it is given in.
pub(super) fn wrapper(callee: &str) -> Option<&'static str> {
    let mut words = callee.rsplit("::");
    let (last, of) = (words.next()?, words.next());
    match (of, last) {
        (_, "Some") => Some("Option"),
        (_, "Ok") => Some("Result"),
        (Some("Box"), "new") => Some("Box"),
        (Some("Rc"), "new" | "clone") => Some("Rc"),
        (Some("Arc"), "new" | "clone") => Some("Arc"),
        (Some("RefCell"), "new") => Some("RefCell"),
        (Some("Cell"), "new") => Some("Cell"),
        (Some("Mutex"), "new") => Some("Mutex"),
        (Some("RwLock"), "new") => Some("RwLock"),
        _ => None,
    }
}

/// What a function of a type is that the type has from the library: `Tide::default`.
pub(super) fn constructed(of: &Type, name: &str) -> Type {
    match (of, name) {
        (Type::Own(..), "default" | "from" | "clone") => Type::Function(Box::new(of.clone())),
        (Type::Other(library, _), "new" | "default" | "with_capacity" | "from") if library != "Self" => {
            Type::Function(Box::new(of.clone()))
        }
        _ => Type::Unknown,
    }
}

/// What a method of the library gives.
pub(super) fn called(of: &Type, name: &str, given: &Given) -> Type {
    if matches!(name, "clone" | "to_owned" | "by_ref" | "as_mut_slice" | "as_slice" | "to_vec") {
        return match of {
            Type::Other(pointer, arguments) if pointer == "Cow" => first(arguments),
            _ => of.clone(),
        };
    }
    match of {
        Type::Other(kind, arguments) => match kind.as_str() {
            "Option" => of_option(of, &first(arguments), name, given),
            "Result" => of_result(arguments, name, given),
            "RefCell" | "Mutex" | "RwLock" | "OnceCell" | "OnceLock" | "Cell" => of_cell(kind, &first(arguments), name),
            "Entry" if name.starts_with("or_") => first(arguments),
            kind if MAPS.contains(&kind) => of_map(arguments, name),
            kind if MANY.contains(&kind) => of_many(of, &first(arguments), name, given),
            kind if POINTERS.contains(&kind) => match name {
                "as_ref" | "as_mut" | "deref" | "deref_mut" | "get_mut" | "into_inner" => first(arguments),
                _ => called(&first(arguments), name, given),
            },
            _ => Type::Unknown,
        },
        Type::List(element) => of_many(of, element, name, given),
        _ => Type::Unknown,
    }
}

fn of_option(of: &Type, inner: &Type, name: &str, given: &Given) -> Type {
    match name {
        "unwrap" | "expect" | "unwrap_or" | "unwrap_or_else" | "unwrap_or_default" | "get_or_insert"
        | "get_or_insert_with" | "insert" => inner.clone(),
        "as_ref" | "as_mut" | "as_deref" | "as_deref_mut" | "take" | "cloned" | "copied" | "filter" | "or"
        | "or_else" | "replace" | "xor" | "inspect" => match (name, inner) {
            ("as_deref" | "as_deref_mut", Type::Other(pointer, arguments)) if POINTERS.contains(&pointer.as_str()) => {
                option(first(arguments))
            }
            _ => of.clone(),
        },
        "ok_or" | "ok_or_else" => Type::other("Result", vec![inner.clone(), Type::Unknown]),
        "map" => option(given.result(0)),
        "and_then" => given.result(0),
        "map_or" | "map_or_else" => given.result(1),
        "iter" | "iter_mut" | "into_iter" => iterator(inner.clone()),
        _ => Type::Unknown,
    }
}

fn of_result(arguments: &[Type], name: &str, given: &Given) -> Type {
    let error = || second(arguments);
    match name {
        "unwrap" | "expect" | "unwrap_or" | "unwrap_or_else" | "unwrap_or_default" => first(arguments),
        "ok" => option(first(arguments)),
        "err" => option(error()),
        "unwrap_err" | "expect_err" => error(),
        "as_ref" | "as_mut" | "or_else" | "cloned" | "copied" | "inspect" => {
            Type::other("Result", vec![first(arguments), error()])
        }
        "map_err" => Type::other("Result", vec![first(arguments), given.result(0)]),
        "map" => Type::other("Result", vec![given.result(0), error()]),
        "and_then" => given.result(0),
        _ => Type::Unknown,
    }
}

fn of_cell(kind: &str, inner: &Type, name: &str) -> Type {
    match (kind, name) {
        ("RefCell", "borrow" | "borrow_mut" | "get_mut" | "into_inner" | "take" | "replace") => inner.clone(),
        ("Cell", "get" | "take" | "replace" | "into_inner") => inner.clone(),
        ("Mutex", "lock" | "into_inner" | "get_mut") | ("RwLock", "read" | "write" | "into_inner" | "get_mut") => {
            Type::other("Result", vec![inner.clone(), Type::Unknown])
        }
        (_, "get_or_init") => inner.clone(),
        ("OnceCell" | "OnceLock", "get" | "get_mut" | "take" | "into_inner") => option(inner.clone()),
        _ => Type::Unknown,
    }
}

fn of_map(arguments: &[Type], name: &str) -> Type {
    let (key, value) = (first(arguments), second(arguments));
    match name {
        "get" | "get_mut" | "remove" | "insert" => option(value),
        "entry" => Type::other("Entry", vec![value]),
        "keys" | "into_keys" => iterator(key),
        "values" | "values_mut" | "into_values" => iterator(value),
        "iter" | "iter_mut" | "into_iter" | "drain" | "range" => iterator(Type::Tuple(vec![key, value])),
        "first_key_value" | "last_key_value" | "pop_first" | "pop_last" | "remove_entry" | "get_key_value" => {
            option(Type::Tuple(vec![key, value]))
        }
        "len" => number(),
        _ => Type::Unknown,
    }
}

fn of_many(of: &Type, inner: &Type, name: &str, given: &Given) -> Type {
    let is_iterator = matches!(of, Type::Other(kind, _) if kind.ends_with("Iterator") || kind == "Peekable");
    let own = || inner.clone();
    match name {
        "iter" | "iter_mut" | "into_iter" | "drain" | "rev" | "skip" | "take_while" | "skip_while" | "filter"
        | "step_by" | "chain" | "cycle" | "fuse" | "inspect" | "cloned" | "copied" | "difference" | "union"
        | "intersection" | "into_sorted_vec" => iterator(own()),
        "take" if is_iterator => iterator(own()),
        "peekable" => Type::other("Peekable", vec![own()]),
        "get" | "first" | "first_mut" | "last" | "last_mut" | "get_mut" | "pop" | "pop_front" | "pop_back"
        | "front" | "back" | "front_mut" | "back_mut" | "next" | "next_back" | "nth" | "find" | "max" | "min"
        | "max_by" | "min_by" | "max_by_key" | "min_by_key" | "peek" | "peek_mut" | "next_if" | "pop_first"
        | "pop_last" | "reduce" | "take" => option(own()),
        "remove" | "swap_remove" if matches!(of, Type::Other(kind, _) if kind == "Vec") => own(),
        "enumerate" => iterator(Type::Tuple(vec![number(), own()])),
        "zip" => iterator(Type::Tuple(vec![own(), element(&given.get(0))])),
        "map" => iterator(given.result(0)),
        "filter_map" | "map_while" | "flat_map" => iterator(element(&given.result(0))),
        "flatten" => iterator(element(inner)),
        "find_map" => given.result(0),
        "fold" => given.get(0),
        "chunks" | "windows" | "chunks_exact" | "split" => iterator(Type::List(Box::new(own()))),
        "split_at" | "split_at_mut" => Type::Tuple(vec![of.clone(), of.clone()]),
        "split_first" | "split_last" => option(Type::Tuple(vec![own(), of.clone()])),
        "partition" => Type::Tuple(vec![Type::Unknown, Type::Unknown]),
        "len" | "count" => number(),
        "position" => option(number()),
        _ => Type::Unknown,
    }
}

/// What a function is given that a method of the library calls, by the place of its parameter.
pub(super) fn passed(of: &Type, name: &str, index: usize) -> Type {
    let inner = match of {
        Type::Other(kind, arguments)
            if kind == "Result" && matches!(name, "map_err" | "or_else" | "unwrap_or_else") =>
        {
            second(arguments)
        }
        Type::Other(kind, arguments) if matches!(kind.as_str(), "Result" | "Entry") => first(arguments),
        _ => element(of),
    };
    match (name, index) {
        ("fold", 1) => inner,
        ("fold" | "scan", _) => Type::Unknown,
        ("sort_by" | "sort_unstable_by" | "max_by" | "min_by" | "dedup_by" | "reduce" | "is_sorted_by", 0 | 1) => inner,
        ("retain", _) => match &inner {
            // A map gives both.
            Type::Tuple(both) if matches!(of, Type::Other(kind, _) if MAPS.contains(&kind.as_str())) => {
                both.get(index).cloned().unwrap_or(Type::Unknown)
            }
            _ => inner,
        },
        (_, 0) if GIVE_EACH.contains(&name) => inner,
        _ => Type::Unknown,
    }
}

/// Methods that call what they are given with each of what is in them.
const GIVE_EACH: &[&str] = &[
    "all",
    "and_modify",
    "and_then",
    "any",
    "binary_search_by",
    "binary_search_by_key",
    "dedup_by_key",
    "filter",
    "filter_map",
    "find",
    "find_map",
    "flat_map",
    "for_each",
    "inspect",
    "is_none_or",
    "is_some_and",
    "is_ok_and",
    "map",
    "map_err",
    "map_or",
    "map_while",
    "max_by_key",
    "min_by_key",
    "next_if",
    "or_else",
    "partition",
    "partition_point",
    "position",
    "retain",
    "rposition",
    "skip_while",
    "sort_by_cached_key",
    "sort_by_key",
    "sort_unstable_by_key",
    "take_while",
    "try_for_each",
    "unwrap_or_else",
];
