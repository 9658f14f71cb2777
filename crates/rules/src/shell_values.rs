//! What the variables of a script may hold: one word, several on purpose, or anything.

use std::cell::RefCell;

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{File, Holds, Place, ShellValues, word_hash};
use crate::shell::{arguments, command_name, variable_of};

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

/// What is in the place of a function where a variable is the script's own.
const SCRIPT: u64 = 0;

/// What one place is given.
#[derive(Debug, Default)]
struct Given {
    holds: Option<Holds>,
    from: Vec<Place>,
}

/// How parameters of functions are written.
const PARAMETERS: [&str; 9] = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];

/// What the variables of a script hold; worked out once.
pub(crate) fn shell_values<'f>(file: File<'f>) -> &'f ShellValues {
    file.data().shell_values.get_or_init(|| ShellValues::of(file))
}

impl ShellValues {
    fn of(file: File<'_>) -> ShellValues {
        let (known, by_name) = (FxHashMap::default(), RefCell::default());
        let mut values = ShellValues { called: called_functions(file), known, by_name };
        let given = values.gather(file);
        values.spread(&given);
        values
    }

    /// What an expansion or the output of a command may be, where the shell splits it.
    pub(crate) fn of_part(&self, file: File<'_>, part: NodeRef<'_>) -> Holds {
        let mut from = Vec::new();
        let holds = self.direct(file, part, &mut from);
        from.into_iter().map(|place| self.of_place(place)).chain([holds]).max().unwrap_or(holds)
    }

    /// The script's own variable of a name.
    fn variable(&self, name: &str) -> Place {
        (SCRIPT, self.key(name))
    }

    /// The hash of the name of a variable, of which it is noted what the name says.
    fn key(&self, name: &str) -> u64 {
        let hash = word_hash(name);
        self.by_name.borrow_mut().entry(hash).or_insert_with(|| by_name(name));
        hash
    }

    /// What the name of a variable says of its value.
    fn by_name(&self, variable: u64) -> Option<Holds> {
        self.by_name.borrow().get(&variable).copied().flatten()
    }

    fn of_place(&self, place: Place) -> Holds {
        let otherwise = if place.0 == SCRIPT { Holds::Unknown } else { Holds::OneWord };
        self.known.get(&place).copied().or_else(|| self.by_name(place.1)).unwrap_or(otherwise)
    }

    fn gather(&self, file: File<'_>) -> FxHashMap<Place, Given> {
        let tree = file.tree;
        let mut given: FxHashMap<Place, Given> = FxHashMap::default();
        let mut edges: Vec<(Place, Place)> = Vec::new();
        let mut note = |place: Place, holds: Holds| {
            let entry = given.entry(place).or_default();
            entry.holds = Some(entry.holds.map_or(holds, |before| before.max(holds)));
        };
        for command in tree.nodes_of(Kind::Command) {
            let name = command_name(file, command);
            if !self.called.is_empty() && self.called.contains(&word_hash(name)) {
                self.of_call(file, command, &mut note, &mut edges);
            }
            self.of_reader(file, command, &mut note);
        }
        for assignment in tree.nodes_of(Kind::Assignment) {
            let Some(target) = assignment.child(Role::Target) else { continue };
            let mut from = Vec::new();
            let place = self.variable(file.node_text(target));
            note(place, self.of_value(file, place, assignment, &mut from));
            edges.extend(from.into_iter().map(|source| (place, source)));
        }
        for of_loop in tree.nodes_of(Kind::For) {
            let Some(target) = of_loop.child(Role::Target) else { continue };
            note(self.variable(file.node_text(target)), of_elements(file, of_loop));
            let words = of_loop.children_in(Role::Iterable).flat_map(NodeRef::children);
            let iterated = words.filter(|it| it.kind() == Kind::Expansion).map(|it| variable_of(file, it));
            iterated.for_each(|name| note(self.variable(name), Holds::Several));
        }
        // What is run by the words of its value holds several.
        for callee in tree.nodes_of(Kind::Word).filter(|word| word.role() == Role::Callee) {
            let parts = callee.children().filter(|part| part.kind() == Kind::Expansion);
            parts.for_each(|part| note(self.variable(variable_of(file, part)), Holds::Several));
        }
        for (place, source) in edges {
            given.entry(place).or_default().from.push(source);
        }
        given
    }

    /// What a call gives to the parameters of a function of the script.
    fn of_call(
        &self,
        file: File<'_>,
        command: NodeRef<'_>,
        note: &mut impl FnMut(Place, Holds),
        edges: &mut Vec<(Place, Place)>,
    ) {
        let function = word_hash(command_name(file, command));
        let mut words = arguments(command);
        for (at, parameter) in PARAMETERS.iter().enumerate() {
            let Some(word) = words.next() else { return };
            let mut from = Vec::new();
            let holds = self.of_word(file, word, &mut from, None);
            let place = (function, self.key(parameter));
            note(place, holds.min(Holds::Anything));
            edges.extend(from.into_iter().map(|source| (place, source)));
            // Whatever comes behind what may be several words has no number that is known.
            if holds == Holds::Several {
                PARAMETERS[at..].iter().for_each(|parameter| note((function, self.key(parameter)), Holds::Anything));
                return;
            }
        }
    }

    /// Hands on what is known of places to those that are given what they hold.
    fn spread(&mut self, given: &FxHashMap<Place, Given>) {
        let mut users: FxHashMap<Place, Vec<Place>> = FxHashMap::default();
        let mut waiting: Vec<Place> = Vec::new();
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
                let holds = if user.0 == SCRIPT { holds } else { holds.min(Holds::Anything) };
                if self.by_name(user.1).is_none() && self.known[user] < holds {
                    self.known.insert(*user, holds);
                    waiting.push(*user);
                }
            }
        }
    }

    /// What an assignment gives, beside what comes from the variables noted.
    fn of_value(&self, file: File<'_>, place: Place, assignment: NodeRef<'_>, from: &mut Vec<Place>) -> Holds {
        let Some(value) = assignment.child(Role::Value) else { return Holds::OneWord };
        if assignment.child(Role::Index).is_some() {
            return Holds::Unknown;
        }
        self.of_word(file, value, from, Some(place))
    }

    /// What a word gives, beside what comes from the places noted; and the variable that is given it, if one is.
    fn of_word(&self, file: File<'_>, value: NodeRef<'_>, from: &mut Vec<Place>, target: Option<Place>) -> Holds {
        if value.kind() != Kind::Word {
            return Holds::Unknown;
        }
        let text = file.node_text(value);
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
            holds = holds.max(self.direct(file, part, from));
        }
        plain.push_str(text.get(plain_end..).unwrap_or_default());
        let has_space = plain.trim_matches(['"', '\'']).contains([' ', '\t', '\n']);
        // `quays="$quays $new"`, `tug="nice -n 3 tug"`
        let adds = target.is_some_and(|place| from.contains(&place)) || plain.contains(" -");
        match holds {
            _ if has_space && adds => Holds::Several,
            _ if has_space || plain.contains(['*', '?']) => Holds::Anything.max(holds),
            _ => holds,
        }
    }

    /// What commands assign to variables that they get by name.
    fn of_reader(&self, file: File<'_>, command: NodeRef<'_>, note: &mut impl FnMut(Place, Holds)) {
        let name = command_name(file, command);
        if !matches!(name, "read" | "getopts" | "mapfile" | "readarray" | "printf") {
            return;
        }
        let words: Vec<&str> = arguments(command).map(|argument| file.node_text(argument)).collect();
        let mut note = |name: &str, holds: Holds| note(self.variable(name), holds);
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
    fn direct(&self, file: File<'_>, part: NodeRef<'_>, from: &mut Vec<Place>) -> Holds {
        match part.kind() {
            Kind::Expansion => self.of_expansion(file, part, from),
            Kind::CommandSubstitution => self.of_output(file, part, from),
            _ => Holds::OneWord,
        }
    }

    fn of_expansion(&self, file: File<'_>, expansion: NodeRef<'_>, from: &mut Vec<Place>) -> Holds {
        let text = file.node_text(expansion);
        let name = variable_of(file, expansion);
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
            return self.of_parameter(file, expansion, name, from);
        }
        if text.contains('[') || text.starts_with("${!") {
            return by_name(name).unwrap_or(Holds::Unknown);
        }
        from.push(self.variable(name));
        Holds::OneWord
    }

    /// What a function is given is what the calls in the script say; what the script is given may be anything.
    fn of_parameter(&self, file: File<'_>, expansion: NodeRef<'_>, number: &str, from: &mut Vec<Place>) -> Holds {
        let function = expansion.function_around();
        let name = function.and_then(|function| function.child(Role::Name)).map(|name| word_hash(file.node_text(name)));
        match name.filter(|name| self.called.contains(name)) {
            Some(function) => {
                from.push((function, self.key(number)));
                Holds::OneWord
            }
            None => Holds::Anything,
        }
    }

    fn of_output(&self, file: File<'_>, substitution: NodeRef<'_>, from: &mut Vec<Place>) -> Holds {
        let Some(first) = substitution.child(Role::Statement) else { return Holds::Anything };
        if substitution.children_in(Role::Statement).nth(1).is_some() {
            return Holds::Unknown;
        }
        let commands: Vec<NodeRef<'_>> = match first.kind() {
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
            return parts.map(|part| self.of_expansion(file, part, from)).max().unwrap_or(Holds::OneWord);
        }
        let of_system = |command: &NodeRef<'_>| {
            arguments(*command).any(|word| OF_THE_SYSTEM.iter().any(|folder| file.node_text(word).starts_with(folder)))
        };
        let gives_anything = GIVE_ANYTHING.contains(&last) && !commands.iter().any(of_system);
        if gives_anything { Holds::Anything } else { Holds::Unknown }
    }
}

/// What the variable of a loop holds.
fn of_elements(file: File<'_>, of_loop: NodeRef<'_>) -> Holds {
    if of_loop.child(Role::Iterable).is_none() {
        return Holds::Anything;
    }
    let of_word = |word: NodeRef<'_>| {
        let text = file.node_text(word);
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

/// The functions of a script that it calls itself and that take their parameters one by one.
fn called_functions(file: File<'_>) -> FxHashSet<u64> {
    let name_of = |function: NodeRef<'_>| function.child(Role::Name).map(|name| word_hash(file.node_text(name)));
    let defined: FxHashSet<u64> = file.tree.nodes_of(Kind::Function).filter_map(name_of).collect();
    let mut called = FxHashSet::default();
    let mut shifting = FxHashSet::default();
    for command in file.tree.nodes_of(Kind::Command).take(if defined.is_empty() { 0 } else { usize::MAX }) {
        let name = command_name(file, command);
        if name == "shift" {
            let function = command.function_around();
            shifting.extend(function.and_then(name_of));
        } else {
            called.insert(word_hash(name));
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
