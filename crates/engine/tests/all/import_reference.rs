//! Which file an absolute import of Python means, against what Python itself says, over folders of any shape.

use std::collections::BTreeMap;
use std::path::Path;
use std::process::Command;

use proptest::prelude::*;
use sieve_engine::settings::Overrides;
use sieve_rules::catalogue;

use crate::folder::Folder;

/// Says for each name the file that it is found in, or an empty line: the folder to begin at is the first argument.
const REFERENCE: &str = "
import importlib.util, os, sys
root = sys.argv[1]
sys.path.insert(0, root)
for name in sys.argv[2:]:
    try:
        spec = importlib.util.find_spec(name)
    except ModuleNotFoundError:
        spec = None
    origin = spec.origin if spec else None
    print(os.path.relpath(origin, root) if origin else '')
";

/// What Python finds for each name.
fn found_by_python(root: &Path, names: &[String]) -> Vec<Option<String>> {
    let output = Command::new("python3").args(["-B", "-c", REFERENCE]).arg(root).args(names).output().expect("python3");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let printed = String::from_utf8_lossy(&output.stdout).into_owned();
    let lines = printed.lines().map(|line| Some(line.to_string()).filter(|line| !line.is_empty()));
    lines.collect()
}

/// A module whose function takes as many arguments as no other one's.
fn module(arity: usize) -> String {
    let parameters: Vec<String> = (0..arity).map(|index| format!("day{index}")).collect();
    format!("def low({}):\n    return 3\n", parameters.join(", "))
}

/// For each name the arities of those modules to which a call through the import does not fit; nothing is known of a name of which all fit.
fn refused(folder: &Folder, names: &[String], arities: &BTreeMap<String, usize>) -> Vec<Vec<usize>> {
    let mut board = String::new();
    for (index, name) in names.iter().enumerate() {
        board.push_str(&format!("from {name} import low as low{index}\n"));
    }
    let mut calls = Vec::new();
    for index in 0..names.len() {
        for arity in arities.values() {
            board.push_str(&format!("low{index}({})\n", vec!["3"; *arity].join(", ")));
            calls.push((index, *arity));
        }
    }
    folder.write("board.py", &board);
    let only = catalogue::named("argument-count").into_iter().collect();
    let outcome = folder.sift(&[], Overrides { only, ..Overrides::default() }, false);
    let mut refused = vec![Vec::new(); names.len()];
    for finding in &outcome.findings {
        let (index, arity) = calls[finding.start.line as usize - names.len() - 1];
        refused[index].push(arity);
    }
    refused
}

fn word() -> impl Strategy<Value = &'static str> {
    prop::sample::select(vec!["ferry", "tides", "north", "quay"])
}

/// A file of a project: a module, or what makes a folder a package.
fn file() -> impl Strategy<Value = String> {
    let folders = prop::collection::vec(word(), 0..3);
    (folders, prop::option::of(word())).prop_map(|(folders, name)| {
        let name = name.unwrap_or("__init__");
        folders.iter().chain([&name]).copied().collect::<Vec<_>>().join("/") + ".py"
    })
}

fn dotted() -> impl Strategy<Value = String> {
    prop::collection::vec(word(), 1..4).prop_map(|words| words.join("."))
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 48, ..ProptestConfig::default() })]

    #[test]
    fn imports_lead_where_python_itself_goes(
        files in prop::collection::btree_set(file(), 1..12),
        names in prop::collection::vec(dotted(), 1..8),
    ) {
        let folder = Folder::with(&[]);
        let files: Vec<String> = files.into_iter().filter(|file| file != "__init__.py").collect();
        let arities: BTreeMap<String, usize> = files.iter().cloned().zip(1..).collect();
        for (file, arity) in &arities {
            folder.write(file, module(*arity));
        }
        let theirs = found_by_python(folder.root(), &names);
        let ours = refused(&folder, &names, &arities);
        for ((name, theirs), ours) in names.iter().zip(theirs).zip(ours) {
            // The call with as many arguments as the module wants is the only one that fits.
            let fits: Vec<&String> = arities.iter().filter(|(_, arity)| !ours.contains(arity)).map(|(file, _)| file).collect();
            let is_found = !ours.is_empty() || arities.len() == 1;
            if let Some(theirs) = &theirs {
                prop_assert_eq!(&fits, &vec![theirs], "{} of {:?}", name, files);
            } else if is_found {
                // Below a folder that Python hides behind a file of its name there may be one still.
                let place = name.replace('.', "/");
                prop_assert!(fits.iter().all(|file| file.starts_with(&place)) || arities.len() == 1, "{} of {:?}: {:?}", name, files, fits);
            }
        }
    }
}
