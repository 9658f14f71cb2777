//! Changes values of a settings file in place: comments, order and whitespace stay as they are.

use std::fmt;
use std::path::Path;

use sieve_rules::{Level, RuleSet};
use toml_edit::{Array, ArrayOfTables, DocumentMut, InlineTable, Item, Table, Value};

use super::file::{PackSource, SettingsFile};
use super::read::packs_of;
use super::reader::split_mark;
use super::{SettingsError, nearest};

/// Why a value cannot be set.
#[derive(Debug)]
pub enum EditError {
    /// No setting or rule has this name.
    UnknownKey {
        /// The name.
        key: String,
        /// The nearest name there is.
        hint: String,
    },
    /// The file is wrong as it is, or would be with the value.
    Wrong(SettingsError),
}

impl fmt::Display for EditError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            EditError::UnknownKey { key, hint } => {
                write!(out, "there is no setting \"{key}\" that holds one value{hint}")
            }
            EditError::Wrong(error) => error.fmt(out),
        }
    }
}

impl std::error::Error for EditError {}

/// Keys that hold one value, apart from those of rules and names.
const SIMPLE_KEYS: &[&str] = &[
    "baseline.strict",
    "cache.shared",
    "defaults",
    "fail-on",
    "files.generated",
    "files.languages",
    "files.largest",
    "files.skip",
    "mesh",
    "only",
    "top",
];

/// The text of a settings file with a value set. `key` is that of a setting (`files.skip`), a rule (`long-line`, for its level)
/// or an option (`long-line.limit`); `value` is TOML, or a word that is taken for a string.
///
/// # Errors
/// When there is no such key, or the file would be wrong.
pub fn set(path: &Path, source: &str, key: &str, value: &str, rules: &RuleSet) -> Result<String, EditError> {
    let steps = steps(key, rules)?;
    let (mark, body) = split_mark(source);
    SettingsFile::read(path, body, rules).map_err(EditError::Wrong)?;
    let mut document = document(path, body)?;
    put(document.as_table_mut(), &steps, parsed(value));
    let after = document.to_string();
    SettingsFile::read(path, &after, rules).map_err(EditError::Wrong)?;
    Ok(format!("{mark}{after}"))
}

/// A path as a pattern that fits it alone.
pub fn pattern_of(path: &str) -> String {
    globset::escape(path)
}

/// The text of a settings file with the level of a rule for some paths: in the scope that is for these alone, or in a new one at the
/// end, where it has the last word.
///
/// # Errors
/// When the file is wrong, or would be.
pub fn set_for(
    path: &Path,
    source: &str,
    pattern: &str,
    rule: &str,
    (level, because): (Level, Option<&str>),
    rules: &RuleSet,
) -> Result<String, EditError> {
    let (mark, body) = split_mark(source);
    SettingsFile::read(path, body, rules).map_err(EditError::Wrong)?;
    let mut document = document(path, body)?;
    let scopes = document.entry("scope").or_insert_with(|| Item::ArrayOfTables(ArrayOfTables::new()));
    let wrong = |message: &str| {
        EditError::Wrong(SettingsError { path: path.to_path_buf(), place: None, message: message.to_string() })
    };
    let scopes = scopes.as_array_of_tables_mut().ok_or_else(|| wrong("its scopes are not of the form [[scope]]"))?;
    let is_it = |scope: &Table| {
        let paths = scope.get("paths").and_then(Item::as_array);
        let same = |paths: &Array| paths.len() == 1 && paths.get(0).and_then(Value::as_str) == Some(pattern);
        let reason = scope.get("because").and_then(Item::as_str);
        paths.is_some_and(same) && (because.is_none() || reason == because)
    };
    // One that is not the last could be overruled by those after it.
    let last = scopes.len().checked_sub(1);
    if !last.and_then(|last| scopes.get(last)).is_some_and(is_it) {
        let mut scope = Table::new();
        scope.insert("paths", Item::Value(Value::Array(Array::from_iter([pattern]))));
        because.map(|because| scope.insert("because", Item::Value(because.into())));
        scopes.push(scope);
    }
    let last = scopes.len() - 1;
    let scope = scopes.get_mut(last).ok_or_else(|| wrong("it has no scopes"))?;
    match scope.get_mut("rules") {
        Some(Item::Value(Value::InlineTable(levels))) => {
            match levels.get_mut(rule).and_then(Value::as_inline_table_mut) {
                Some(inner) => drop(inner.insert("level", level.word().into())),
                None => drop(levels.insert(rule, level.word().into())),
            }
            levels.fmt();
        }
        Some(levels) => put_option(
            levels.as_table_mut().ok_or_else(|| wrong("its scope has no table of rules"))?,
            rule,
            "level",
            level.word().into(),
        ),
        None => {
            let mut levels = InlineTable::new();
            levels.insert(rule, level.word().into());
            scope.insert("rules", Item::Value(Value::InlineTable(levels)));
        }
    }
    let after = document.to_string();
    SettingsFile::read(path, &after, rules).map_err(EditError::Wrong)?;
    Ok(format!("{mark}{after}"))
}

/// The text of a settings file with a pack added to those that it names; nothing where it names it already.
///
/// # Errors
/// When the file is wrong.
pub fn add_pack(path: &Path, source: &str, pack: &PackSource) -> Result<Option<String>, EditError> {
    let (mark, body) = split_mark(source);
    let named = packs_of(path, body).map_err(EditError::Wrong)?;
    if named.iter().any(|(entry, _)| entry.source == *pack) {
        return Ok(None);
    }
    let mut document = document(path, body)?;
    let entry = match pack {
        PackSource::BuiltIn(name) | PackSource::Path(name) => Value::from(name.as_str()),
        PackSource::Address { address, sha256 } => {
            let mut pinned = InlineTable::new();
            pinned.insert("address", address.as_str().into());
            pinned.insert("sha256", sha256.as_deref().unwrap_or_default().into());
            Value::InlineTable(pinned)
        }
    };
    let same_address = |other: &Value| match (other.as_inline_table(), pack) {
        (Some(table), PackSource::Address { address, .. }) => {
            table.get("address").and_then(Value::as_str) == Some(address)
        }
        _ => false,
    };
    let root = document.as_table_mut();
    match root.get_mut("packs").and_then(Item::as_array_mut) {
        // Another digest for the same address takes the place of the old one.
        Some(packs) => match (0..packs.len()).find(|index| packs.get(*index).is_some_and(&same_address)) {
            Some(index) => drop(packs.replace(index, entry)),
            None => packs.push(entry),
        },
        None => {
            let mut packs = Array::new();
            packs.push(entry);
            root.insert("packs", Item::Value(Value::Array(packs)));
        }
    }
    let after = document.to_string();
    packs_of(path, &after).map_err(EditError::Wrong)?;
    Ok(Some(format!("{mark}{after}")))
}

fn document(path: &Path, body: &str) -> Result<DocumentMut, EditError> {
    body.parse().map_err(|error: toml_edit::TomlError| {
        let message = error.message().to_string();
        EditError::Wrong(SettingsError { path: path.to_path_buf(), place: None, message })
    })
}

/// The value as TOML; a word that is none is a string.
fn parsed(value: &str) -> Value {
    value.trim().parse().unwrap_or_else(|_| Value::from(value.trim()))
}

/// The way to a key through the tables.
fn steps(key: &str, rules: &RuleSet) -> Result<Vec<String>, EditError> {
    let inner = key.strip_prefix("rules.").unwrap_or(key);
    let (rule, option) = inner.split_once('.').map_or((inner, None), |(rule, option)| (rule, Some(option)));
    if let Some(known) = rules.known(rule) {
        let name = rules.name(known.rule);
        let last = option.unwrap_or("level");
        return Ok(["rules", name, last].map(str::to_owned).to_vec());
    }
    if SIMPLE_KEYS.contains(&key) || key.strip_prefix("naming.").is_some_and(|kind| kind.split('.').count() < 3) {
        return Ok(key.split('.').map(str::to_owned).collect());
    }
    let hint = nearest(key, SIMPLE_KEYS.iter().copied().chain(rules.names()));
    Err(EditError::UnknownKey { key: key.to_string(), hint })
}

fn put(root: &mut Table, steps: &[String], value: Value) {
    match steps {
        [key] => replace(root, key, value),
        [table, key] => replace(inner_table(root, table), key, value),
        [table, language, kind] if table == "naming" => {
            replace(inner_table(inner_table(root, table), language), kind, value);
        }
        [table, rule, option] => put_option(inner_table(root, table), rule, option, value),
        _ => {}
    }
}

fn inner_table<'t>(root: &'t mut Table, name: &str) -> &'t mut Table {
    if !root.get(name).is_some_and(Item::is_table) {
        // Written as `name = { … }`, it becomes a table of its own.
        let old = root.remove(name).and_then(|item| item.into_table().ok());
        root.insert(name, Item::Table(old.unwrap_or_default()));
    }
    root[name].as_table_mut().expect("it was made a table")
}

/// Sets a key; what is around the old value, such as a comment after it, stays.
fn replace(table: &mut Table, key: &str, mut value: Value) {
    match table.get_mut(key).and_then(Item::as_value_mut) {
        Some(old) => {
            *value.decor_mut() = old.decor().clone();
            *old = value;
        }
        None => {
            table.insert(key, Item::Value(value));
        }
    }
}

/// `rule = "level"` stays so for a level; an option makes it `rule = { level = "level", option = value }`.
fn put_option(table: &mut Table, rule: &str, option: &str, value: Value) {
    let is_level = option == "level";
    match table.get_mut(rule) {
        Some(Item::Table(inner)) => replace(inner, option, value),
        Some(Item::Value(Value::InlineTable(inner))) => {
            inner.insert(option, value);
        }
        Some(Item::Value(_)) | None if is_level => replace(table, rule, value),
        Some(Item::Value(old)) => {
            let decor = old.decor().clone();
            let mut inner = InlineTable::new();
            inner.insert("level", old.clone().decorated(" ", ""));
            inner.insert(option, value);
            let mut whole = Value::InlineTable(inner);
            *whole.decor_mut() = decor;
            *old = whole;
        }
        _ => {
            let mut inner = InlineTable::new();
            inner.insert(option, value);
            table.insert(rule, Item::Value(Value::InlineTable(inner)));
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[track_caller]
    fn assert_set(source: &str, key: &str, value: &str, expected: &str) {
        let after =
            set(Path::new("sieve.toml"), source, key, value, &RuleSet::built_in()).map_err(|error| error.to_string());
        assert_eq!(after.as_deref(), Ok(expected));
    }

    #[test]
    fn comments_and_order_stay() {
        assert_set(
            "# ours\nmesh = \"fine\"  # all of it\n\n[rules]\nlong-line = \"off\" # tables\n",
            "mesh",
            "coarse",
            "# ours\nmesh = \"coarse\"  # all of it\n\n[rules]\nlong-line = \"off\" # tables\n",
        );
        assert_set(
            "[rules]\n# wide\nlong-line = \"off\" # tables\nunused-import = \"error\"\n",
            "long-line",
            "note",
            "[rules]\n# wide\nlong-line = \"note\" # tables\nunused-import = \"error\"\n",
        );
    }

    #[test]
    fn a_scope_is_joined_or_made() {
        let set = |source: &str, pattern: &str, because: Option<&str>| {
            let rules = RuleSet::built_in();
            let after = set_for(Path::new("sieve.toml"), source, pattern, "long-line", (Level::Off, because), &rules);
            after.map_err(|error| error.to_string())
        };
        let made = set("mesh = \"fine\"\n", "booking/fares.py", Some("tables"));
        let scope = "mesh = \"fine\"\n\n[[scope]]\npaths = [\"booking/fares.py\"]\nbecause = \"tables\"\n";
        assert_eq!(made, Ok(format!("{scope}rules = {{ long-line = \"off\" }}\n")));
        let joined = set(&format!("{scope}rules = {{ magic-number = \"off\" }}\n"), "booking/fares.py", None);
        assert_eq!(joined, Ok(format!("{scope}rules = {{ magic-number = \"off\", long-line = \"off\" }}\n")));
        let first = made.clone().expect("made");
        let overruled = format!("{first}\n[[scope]]\npaths = [\"booking/**\"]\nrules = {{ long-line = \"note\" }}\n");
        let last = set(&overruled, "booking/fares.py", Some("tables")).expect("set");
        assert!(
            last.starts_with(&overruled) && last.ends_with("because = \"tables\"\nrules = { long-line = \"off\" }\n")
        );
        let wrong = set("scope = 3\n", "booking/fares.py", None);
        assert!(wrong.is_err_and(|message| message.contains("sieve.toml:1:9")));
    }

    #[test]
    fn options_join_the_level_that_is_there() {
        assert_set(
            "[rules]\nlong-line = \"note\" # wide\n",
            "long-line.limit",
            "100",
            "[rules]\nlong-line = { level = \"note\", limit = 100 } # wide\n",
        );
        assert_set(
            "[rules]\nlong-line = { limit = 90 }\n",
            "rules.long-line.limit",
            "100",
            "[rules]\nlong-line = { limit = 100 }\n",
        );
        assert_set("", "long-line.limit", "100", "[rules]\nlong-line = { limit = 100 }\n");
        assert_set(
            "[rules.long-line]\nlimit = 9\n",
            "long-line",
            "off",
            "[rules.long-line]\nlimit = 9\nlevel = \"off\"\n",
        );
    }

    #[test]
    fn tables_are_made_and_lists_are_read() {
        assert_set(
            "mesh = \"fine\"\n",
            "files.skip",
            "[\"vendor/**\"]",
            "mesh = \"fine\"\n\n[files]\nskip = [\"vendor/**\"]\n",
        );
        assert_set("", "naming.constant", "UPPER_SNAKE", "[naming]\nconstant = \"UPPER_SNAKE\"\n");
        assert_set("\u{feff}top = true\n", "top", "false", "\u{feff}top = false\n");
    }

    #[test]
    fn what_would_be_wrong_is_refused() {
        let refused = |key: &str, value: &str| {
            set(Path::new("sieve.toml"), "", key, value, &RuleSet::built_in()).unwrap_err().to_string()
        };
        assert_eq!(
            refused("mehs", "fine"),
            "there is no setting \"mehs\" that holds one value; the nearest is \"mesh\""
        );
        assert_eq!(refused("mesh", "fien"), "sieve.toml:1:8: \"fien\" is not a mesh; the nearest is \"fine\"");
        assert!(refused("long-line.limti", "9").contains("the nearest is \"limit\""));
        assert!(refused("naming.constnat", "UPPER_SNAKE").contains("the nearest is \"constant\""));
    }
}
