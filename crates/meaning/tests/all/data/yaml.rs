//! YAML, as the npm package of that name has it.

use std::path::PathBuf;

use sieve_syntax::language::Language;

use super::corpus::{changed, files, packaged};
use super::reference::{compare, compare_strings, told, values};

const REFERENCE: &str = "
import { readFileSync } from 'node:fs';
import { parseAllDocuments } from 'yaml';
function plain(value) {
  if (value instanceof Map) return Object.fromEntries([...value].map(([key, inner]) => [written(key), plain(inner)]));
  if (Array.isArray(value)) return value.map(plain);
  if (typeof value === 'number' || typeof value === 'bigint') return { '= number': String(value) };
  return value === undefined ? null : value;
}
function written(key) {
  if (key === null) return 'null';
  return typeof key === 'object' ? 'a collection' : String(key);
}
for (const name of readFileSync(process.argv.at(-1), 'utf8').split('\\n').filter(Boolean)) {
  const source = readFileSync(name, 'utf8').replace(/^\\ufeff/, '');
  const documents = parseAllDocuments(source, { version: '1.2', uniqueKeys: false, logLevel: 'silent' });
  const list = documents.empty ? [] : [...documents];
  try {
    if (list.some(one => one.errors.length > 0)) throw new Error();
    console.log(JSON.stringify(list.map(one => plain(one.toJS({ mapAsMap: true, maxAliasCount: -1 })))));
  } catch { console.log('\"error\"'); }
}";

#[test]
fn real_files_have_the_values_that_the_reference_gives_them() {
    let files = files(&["yaml", "yml"]);
    assert!(files.len() > 200, "{} files", files.len());
    compare(Language::Yaml, &files, &told("node", &["--input-type=module", "-e", REFERENCE], &files));
}

/// The reference takes lines for entries of a key behind `?` that are in no column of its own: no such sign is put in.
///
/// It also wants the lines of a string in quotes indented, which the second reader does without, as we do: what it refuses and we accept
/// has to be what the second reader accepts and reads in the same way.
#[test]
fn changed_files_are_accepted_where_a_reference_accepts_them() {
    let folder = tempfile::tempdir().expect("a folder");
    let files = changed(&packaged(&["yaml", "yml"]), 80, folder.path());
    let lines = told("node", &["--input-type=module", "-e", REFERENCE], &files);
    let is_ours_alone = |(file, line): &(PathBuf, String)| {
        let source = std::fs::read_to_string(file).expect("a file");
        line == "\"error\"" && values(Language::Yaml, &source).is_some()
    };
    let (alone, shared): (Vec<_>, Vec<_>) = files.into_iter().zip(lines).partition(is_ours_alone);
    let (files, lines): (Vec<_>, Vec<_>) = shared.into_iter().unzip();
    compare(Language::Yaml, &files, &lines);
    assert!(
        alone.len() * 500 < files.len(),
        "{} of {} are accepted by the second reader alone",
        alone.len(),
        files.len()
    );
    let alone: Vec<PathBuf> = alone.into_iter().map(|(file, _)| file).collect();
    compare_strings(&alone, &told("python3", &["-c", SECOND], &alone));
}

/// Composes documents, and says what each scalar is written as, whatever its type.
const SECOND: &str = "
import json, sys, yaml
def plain(node):
    if isinstance(node, yaml.MappingNode):
        return {str(key.value) if isinstance(key, yaml.ScalarNode) else 'a collection': plain(value) for key, value in node.value}
    if isinstance(node, yaml.SequenceNode):
        return [plain(item) for item in node.value]
    return None if node is None else node.value
for name in open(sys.argv[1]).read().splitlines():
    try:
        with open(name, 'rb') as file:
            documents = [plain(node) for node in yaml.compose_all(file, Loader=yaml.CBaseLoader if hasattr(yaml, 'CBaseLoader') else yaml.BaseLoader)]
        print(json.dumps(documents))
    except (yaml.YAMLError, UnicodeDecodeError, RecursionError):
        print('\"error\"')
";

#[test]
fn a_second_reader_has_the_same_structure_and_strings() {
    let files = files(&["yaml", "yml"]);
    compare_strings(&files, &told("python3", &["-c", SECOND], &files));
}
