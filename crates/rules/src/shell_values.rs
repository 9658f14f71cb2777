//! What the variables of a script may hold: one word, several on purpose, or anything.

use std::cell::RefCell;

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::shell::{arguments, command_name, variable_of};

/// What a value may be, when the shell splits it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Holds {
    /// One word, or nothing.
    OneWord,
    /// Nothing in the file says.
    Unknown,
    /// What somebody else typed or named: whitespace and patterns may be in it.
    Anything,
    /// Several words on purpose.
    Several,
}

/// Last words in names of variables that hold several words on purpose.
const SEVERAL: &[&str] = &[
    "flag", "opt", "opts", "arg", "args", "cmd", "command", "param", "list", "switch", "prog", "extra", "deps", "libs",
    "all", "rest",
];

/// Words in names of variables that hold a number or a word of a few.
const SIMPLE: &[&str] = &[
    "pid", "err", "error", "count", "num", "number", "idx", "index", "len", "length", "size", "port", "code", "status",
    "ret", "rc", "res", "level", "mode", "uid", "gid", "time", "version", "max", "min", "cnt", "year", "day", "arch",
    "cword", "cur", "lineno", "width", "height", "delay", "timeout", "retries", "major", "minor", "id",
];

/// Variables of the shell that hold numbers and plain words.
const PLAIN: &[&str] = &[
    "?",
    "#",
    "$",
    "!",
    "-",
    "RANDOM",
    "LINENO",
    "UID",
    "EUID",
    "PPID",
    "SECONDS",
    "OPTIND",
    "FUNCNAME",
    "BASHPID",
    "BASH_VERSINFO",
    "BASH_LINENO",
    "BASH_VERSION",
    "HOSTNAME",
    "HOSTTYPE",
    "OSTYPE",
    "MACHTYPE",
    "SHLVL",
    "COLUMNS",
    "LINES",
    "USER",
    "LOGNAME",
    "TERM",
    "SHELL",
];

/// Variables of the shell that hold what users typed or named.
const FROM_OUTSIDE: &[&str] = &["HOME", "PWD", "OLDPWD", "TMPDIR", "OPTARG", "REPLY"];

/// Commands that give one word.
const GIVE_ONE_WORD: &[&str] = &[
    "wc",
    "id",
    "uname",
    "nproc",
    "hostname",
    "whoami",
    "expr",
    "stat",
    "cksum",
    "arch",
    "getconf",
    "tput",
    "mktemp",
    "which",
    "command",
    "type",
    "tty",
    "md5sum",
    "sha256sum",
    "logname",
    "dpkg-architecture",
    "pidof",
    "pgrep",
];

/// Commands that give paths, or lines of what others wrote.
const GIVE_ANYTHING: &[&str] =
    &["pwd", "dirname", "basename", "readlink", "realpath", "head", "tail", "cat", "find", "ls", "zenity", "dialog"];

/// Folders in which no name holds whitespace.
const OF_THE_SYSTEM: &[&str] = &["/sys/", "/proc/", "/dev/", "/etc/", "/boot/", "/lib/", "/usr/lib/"];

/// Commands that pass on their input, changed.
const FILTERS: &[&str] = &["sed", "tr", "cut", "awk", "grep", "sort", "uniq", "rev", "xargs"];

/// What the variables of a script hold, by all that it assigns to them.
#[derive(Debug)]
pub(crate) struct ShellValues<'f> {
    file: File<'f>,
    /// The functions that the script calls with what it says there.
    called: FxHashSet<&'f str>,
    known: FxHashMap<Place<'f>, Holds>,
    /// What the names of variables say, once somebody has asked.
    by_name: RefCell<FxHashMap<Box<str>, Option<Holds>>>,
}

/// A variable, or a parameter of a function: the name of the function, and the variable or its number.
type Place<'f> = (&'f str, &'f str);

/// What one place is given.
#[derive(Debug, Default)]
struct Given<'f> {
    holds: Option<Holds>,
    from: Vec<Place<'f>>,
}

/// How parameters of functions are written.
const PARAMETERS: [&str; 9] = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];

impl<'f> ShellValues<'f> {
    pub(crate) fn of(file: File<'f>) -> ShellValues<'f> {
        let (known, by_name) = (FxHashMap::default(), RefCell::default());
        let mut values = ShellValues { file, called: called_functions(file), known, by_name };
        let given = values.gather();
        values.spread(&given);
        values
    }

    /// What an expansion or the output of a command may be, where the shell splits it.
    pub(crate) fn of_part(&self, part: NodeRef<'f>) -> Holds {
        let mut from = Vec::new();
        let holds = self.direct(part, &mut from);
        from.into_iter().map(|place| self.of_place(place)).chain([holds]).max().unwrap_or(holds)
    }

    /// What the name of a variable says of its value.
    fn by_name(&self, name: &str) -> Option<Holds> {
        if let Some(known) = self.by_name.borrow().get(name) {
            return *known;
        }
        let holds = by_name(name);
        self.by_name.borrow_mut().insert(name.into(), holds);
        holds
    }

    fn of_place(&self, place: Place<'f>) -> Holds {
        let otherwise = if place.0.is_empty() { Holds::Unknown } else { Holds::OneWord };
        self.known.get(&place).copied().or_else(|| self.by_name(place.1)).unwrap_or(otherwise)
    }

    fn gather(&self) -> FxHashMap<Place<'f>, Given<'f>> {
        let file = self.file;
        let mut given: FxHashMap<Place<'f>, Given<'f>> = FxHashMap::default();
        let mut note_place = |place: Place<'f>, holds: Holds| {
            let entry = given.entry(place).or_default();
            entry.holds = Some(entry.holds.map_or(holds, |before| before.max(holds)));
        };
        let mut edges: Vec<(Place<'f>, Place<'f>)> = Vec::new();
        let mut iterated: FxHashSet<&'f str> = FxHashSet::default();
        for node in file.tree.nodes_of_any(&[Kind::Assignment, Kind::For, Kind::Command, Kind::Word]) {
            if node.kind() == Kind::Command && self.called.contains(command_name(file, node)) {
                self.of_call(node, &mut note_place, &mut edges);
            }
            let mut note = |name: &'f str, holds: Holds| note_place(("", name), holds);
            match node.kind() {
                Kind::Assignment => {
                    let Some(target) = node.child(Role::Target) else { continue };
                    let name = file.node_text(target);
                    let mut from = Vec::new();
                    note(name, self.of_value(name, node, &mut from));
                    edges.extend(from.into_iter().map(|source| (("", name), source)));
                }
                Kind::For => {
                    let Some(target) = node.child(Role::Target) else { continue };
                    note(file.node_text(target), self.of_elements(node));
                    let words = node.children_in(Role::Iterable).flat_map(NodeRef::children);
                    iterated.extend(words.filter(|it| it.kind() == Kind::Expansion).map(|it| variable_of(file, it)));
                }
                Kind::Command => self.of_reader(node, &mut note),
                // What is run by the words of its value holds several.
                Kind::Word if node.role() == Role::Callee => {
                    let parts = node.children().filter(|part| part.kind() == Kind::Expansion);
                    parts.for_each(|part| note(variable_of(file, part), Holds::Several));
                }
                _ => {}
            }
        }
        iterated.into_iter().for_each(|name| note_place(("", name), Holds::Several));
        for (place, source) in edges {
            given.entry(place).or_default().from.push(source);
        }
        given
    }

    /// What a call gives to the parameters of a function of the script.
    fn of_call(
        &self,
        command: NodeRef<'f>,
        note: &mut impl FnMut(Place<'f>, Holds),
        edges: &mut Vec<(Place<'f>, Place<'f>)>,
    ) {
        let function = command_name(self.file, command);
        let mut words = arguments(command);
        for (at, parameter) in PARAMETERS.iter().enumerate() {
            let Some(word) = words.next() else { return };
            let mut from = Vec::new();
            let holds = self.of_word(word, &mut from, None);
            note((function, parameter), holds.min(Holds::Anything));
            edges.extend(from.into_iter().map(|source| ((function, *parameter), source)));
            // Whatever comes behind what may be several words has no number that is known.
            if holds == Holds::Several {
                PARAMETERS[at..].iter().for_each(|parameter| note((function, parameter), Holds::Anything));
                return;
            }
        }
    }

    /// Hands on what is known of places to those that are given what they hold.
    fn spread(&mut self, given: &FxHashMap<Place<'f>, Given<'f>>) {
        let mut users: FxHashMap<Place<'f>, Vec<Place<'f>>> = FxHashMap::default();
        let mut waiting: Vec<Place<'f>> = Vec::new();
        for (place, one) in given {
            one.from.iter().for_each(|source| users.entry(*source).or_default().push(*place));
            let from_elsewhere = one.from.iter().filter(|source| !given.contains_key(*source));
            let elsewhere = from_elsewhere.map(|source| self.of_place(*source)).max();
            let holds = one.holds.max(elsewhere).unwrap_or(Holds::Unknown);
            self.known.insert(*place, self.by_name(place.1).unwrap_or(holds));
            waiting.push(*place);
        }
        while let Some(place) = waiting.pop() {
            let holds = self.known[&place];
            for user in users.get(&place).into_iter().flatten() {
                // What a function is given is one word for it, however it came about.
                let holds = if user.0.is_empty() { holds } else { holds.min(Holds::Anything) };
                if self.by_name(user.1).is_none() && self.known[user] < holds {
                    self.known.insert(*user, holds);
                    waiting.push(*user);
                }
            }
        }
    }

    /// What an assignment gives, beside what comes from the variables noted.
    fn of_value(&self, name: &'f str, assignment: NodeRef<'f>, from: &mut Vec<Place<'f>>) -> Holds {
        let Some(value) = assignment.child(Role::Value) else { return Holds::OneWord };
        if assignment.child(Role::Index).is_some() {
            return Holds::Unknown;
        }
        self.of_word(value, from, Some(name))
    }

    /// What a word gives, beside what comes from the places noted; and the variable that is given it, if one is.
    fn of_word(&self, value: NodeRef<'f>, from: &mut Vec<Place<'f>>, target: Option<&'f str>) -> Holds {
        if value.kind() != Kind::Word {
            return Holds::Unknown;
        }
        let text = self.file.node_text(value);
        let unquoted = text.trim_matches(['"', '\'']);
        if unquoted.starts_with('-') {
            return Holds::Several;
        }
        let parts = value.children().flat_map(|part| {
            let inner = (part.kind() == Kind::FormatString).then(|| part.children());
            inner.into_iter().flatten().chain((part.kind() != Kind::FormatString).then_some(part))
        });
        let mut holds = Holds::OneWord;
        let mut plain_end = 0;
        let mut plain = String::new();
        for part in parts.filter(|part| part.kind() != Kind::String) {
            let at = (part.span().start - value.span().start) as usize;
            plain.push_str(text.get(plain_end..at).unwrap_or_default());
            plain_end = (part.span().end - value.span().start) as usize;
            holds = holds.max(self.direct(part, from));
        }
        plain.push_str(text.get(plain_end..).unwrap_or_default());
        let has_space = plain.trim_matches(['"', '\'']).contains([' ', '\t', '\n']);
        // `quays="$quays $new"`, `tug="nice -n 3 tug"`
        let adds = target.is_some_and(|name| from.contains(&("", name))) || plain.contains(" -");
        match holds {
            _ if has_space && adds => Holds::Several,
            _ if has_space || plain.contains(['*', '?']) => Holds::Anything.max(holds),
            _ => holds,
        }
    }

    /// What the variable of a loop holds.
    fn of_elements(&self, of_loop: NodeRef<'f>) -> Holds {
        if of_loop.child(Role::Iterable).is_none() {
            return Holds::Anything;
        }
        let of_word = |word: NodeRef<'f>| {
            let text = self.file.node_text(word);
            let is_quoted = text.starts_with(['"', '\'']);
            if OF_THE_SYSTEM.iter().any(|folder| text.trim_start_matches('"').starts_with(folder)) {
                return Holds::OneWord;
            }
            let is_split = word.children().next().is_some() && !is_quoted;
            let may_be_any = text.contains(['*', '?']) && !is_split || is_quoted && text.contains([' ', '$', '*', '?']);
            if may_be_any { Holds::Anything } else { Holds::OneWord }
        };
        of_loop.children_in(Role::Iterable).map(of_word).max().unwrap_or(Holds::Unknown)
    }

    /// What commands assign to variables that they get by name.
    fn of_reader(&self, command: NodeRef<'f>, note: &mut impl FnMut(&'f str, Holds)) {
        let file = self.file;
        let name = command_name(file, command);
        if !matches!(name, "read" | "getopts" | "mapfile" | "readarray" | "printf") {
            return;
        }
        let words: Vec<&'f str> = arguments(command).map(|argument| file.node_text(argument)).collect();
        match name {
            "read" => {
                let separates = command.children().any(|part| {
                    part.kind() == Kind::Assignment
                        && part.child(Role::Target).is_some_and(|target| file.node_text(target) == "IFS")
                });
                let is_name = |word: &&str| word.bytes().all(|byte| byte == b'_' || byte.is_ascii_alphanumeric());
                let last = words.len().saturating_sub(1);
                for (index, word) in words.iter().enumerate().filter(|(_, word)| is_name(word)) {
                    note(word, if index == last || separates { Holds::Anything } else { Holds::OneWord });
                }
            }
            "getopts" => words.get(1).into_iter().for_each(|name| note(name, Holds::OneWord)),
            "mapfile" | "readarray" | "printf" => words.iter().for_each(|name| note(name, Holds::Unknown)),
            _ => {}
        }
    }

    /// What a part of a word gives by itself, and the variables from which it comes.
    fn direct(&self, part: NodeRef<'f>, from: &mut Vec<Place<'f>>) -> Holds {
        match part.kind() {
            Kind::Expansion => self.of_expansion(part, from),
            Kind::CommandSubstitution => self.of_output(part, from),
            _ => Holds::OneWord,
        }
    }

    fn of_expansion(&self, expansion: NodeRef<'f>, from: &mut Vec<Place<'f>>) -> Holds {
        let text = self.file.node_text(expansion);
        let name = variable_of(self.file, expansion);
        if text.starts_with("${#") || PLAIN.contains(&name) {
            return Holds::OneWord;
        }
        let asks = text.contains(['@', '*']) && !text.contains(['%', '#', '/']) || text.contains('+');
        if asks || matches!(name, "@" | "*") {
            return Holds::Several;
        }
        if FROM_OUTSIDE.contains(&name) {
            return Holds::Anything;
        }
        if name.starts_with(|first: char| first.is_ascii_digit()) {
            return self.of_parameter(expansion, name, from);
        }
        if text.contains('[') || text.starts_with("${!") {
            return self.by_name(name).unwrap_or(Holds::Unknown);
        }
        from.push(("", name));
        Holds::OneWord
    }

    /// What a function is given is what the calls in the script say; what the script is given may be anything.
    fn of_parameter(&self, expansion: NodeRef<'f>, number: &'f str, from: &mut Vec<Place<'f>>) -> Holds {
        let function = expansion.ancestors().find(|node| node.kind() == Kind::Function);
        let name = function.and_then(|function| function.child(Role::Name)).map(|name| self.file.node_text(name));
        match name.filter(|name| self.called.contains(name)) {
            Some(name) => {
                from.push((name, number));
                Holds::OneWord
            }
            None => Holds::Anything,
        }
    }

    fn of_output(&self, substitution: NodeRef<'f>, from: &mut Vec<Place<'f>>) -> Holds {
        let file = self.file;
        let Some(first) = substitution.child(Role::Statement) else { return Holds::Anything };
        if substitution.children_in(Role::Statement).nth(1).is_some() {
            return Holds::Unknown;
        }
        let commands: Vec<NodeRef<'f>> = match first.kind() {
            Kind::Command => vec![first],
            Kind::Pipeline => first.children().collect(),
            _ => return Holds::Unknown,
        };
        let name_at = |index: usize| commands.get(index).map_or("", |command| command_name(file, *command));
        let last = name_at(commands.len().saturating_sub(1));
        if GIVE_ONE_WORD.contains(&last) || commands.last().is_some_and(|command| gives_field(file, *command)) {
            return Holds::OneWord;
        }
        if commands.len() > 1 && FILTERS.contains(&last) && matches!(name_at(0), "echo" | "printf") {
            let words = arguments(commands[0]).flat_map(|word| word.descendants());
            let parts = words.filter(|part| part.kind() == Kind::Expansion);
            return parts.map(|part| self.of_expansion(part, from)).max().unwrap_or(Holds::OneWord);
        }
        let of_system = |command: &NodeRef<'f>| {
            arguments(*command).any(|word| OF_THE_SYSTEM.iter().any(|folder| file.node_text(word).starts_with(folder)))
        };
        let gives_anything = GIVE_ANYTHING.contains(&last) && !commands.iter().any(of_system);
        if gives_anything { Holds::Anything } else { Holds::Unknown }
    }
}

/// The functions of a script that it calls itself and that take their parameters one by one.
fn called_functions<'f>(file: File<'f>) -> FxHashSet<&'f str> {
    let mut defined: FxHashSet<&'f str> = FxHashSet::default();
    let mut called: FxHashSet<&'f str> = FxHashSet::default();
    let mut shifting: FxHashSet<&'f str> = FxHashSet::default();
    for node in file.tree.nodes_of_any(&[Kind::Function, Kind::Command]) {
        match node.kind() {
            Kind::Function => defined.extend(node.child(Role::Name).map(|name| file.node_text(name))),
            Kind::Command if command_name(file, node) == "shift" => {
                let function = node.ancestors().find(|node| node.kind() == Kind::Function);
                let name = function.and_then(|function| function.child(Role::Name));
                shifting.extend(name.map(|name| file.node_text(name)));
            }
            Kind::Command => drop(called.insert(command_name(file, node))),
            _ => {}
        }
    }
    called.retain(|name| defined.contains(name) && !shifting.contains(name));
    called
}

/// Whether a command takes one field of each line, or a date without whitespace.
fn gives_field(file: File<'_>, command: NodeRef<'_>) -> bool {
    let words = || arguments(command).map(|word| file.node_text(word));
    match command_name(file, command) {
        "awk" => words().any(|word| word.matches('$').count() == 1 && !word.contains("$0")),
        "cut" => words().any(|word| {
            let field = word.trim_start_matches("-f").trim_start_matches("-c");
            !field.is_empty() && field.bytes().all(|byte| byte.is_ascii_digit())
        }),
        "date" => words().any(|word| word.trim_matches(['"', '\'']).starts_with('+') && !word.contains(' ')),
        "grep" => words().any(|word| word.starts_with('-') && !word.starts_with("--") && word.contains('c')),
        _ => false,
    }
}

/// What the name of a variable says of its value.
fn by_name(name: &str) -> Option<Holds> {
    let lower = name.to_ascii_lowercase();
    let last = lower.rsplit('_').next().unwrap_or_default();
    let glued = ["flags", "opts", "args", "options", "list", "cmd", "params"];
    let is_plural =
        last.len() > 3 && last.ends_with('s') && !["ss", "us", "is", "as"].iter().any(|it| last.ends_with(it));
    let is_simple = lower.len() == 1 && !lower.starts_with(|first: char| first.is_ascii_digit())
        || SIMPLE.contains(&last)
        || last.len() > 4 && ["pid", "count", "version"].iter().any(|word| last.ends_with(word));
    if PLAIN.contains(&name) || is_simple {
        Some(Holds::OneWord)
    } else if SEVERAL.contains(&last) || glued.iter().any(|word| last.ends_with(word)) || is_plural {
        Some(Holds::Several)
    } else {
        None
    }
}
