//! Fixing a whole real library, proved by the language's own parser.

use std::path::{Path, PathBuf};
use std::process::Command;

use crate::ferry::{Ferry, has, missing};

/// Prints for each file below a folder whether it is accepted, and a digest of its tree.
const DIGESTS: &str = "
import ast, hashlib, os, sys, warnings
warnings.simplefilter('ignore')
for root, folders, names in os.walk(sys.argv[1]):
    folders.sort()
    for name in sorted(names):
        if name.endswith('.py'):
            path = os.path.join(root, name)
            try:
                tree = ast.dump(ast.parse(open(path, 'rb').read()))
                print(os.path.relpath(path, sys.argv[1]), hashlib.md5(tree.encode('utf-8', 'surrogatepass')).hexdigest())
            except (SyntaxError, ValueError, RecursionError):
                print(os.path.relpath(path, sys.argv[1]), 'refused')
";

fn digests(folder: &Path) -> Vec<(String, String)> {
    let output = Command::new("python3").args(["-c", DIGESTS]).arg(folder).output().expect("the reference runs");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let text = String::from_utf8_lossy(&output.stdout).into_owned();
    text.lines()
        .filter_map(|line| line.rsplit_once(' '))
        .map(|(path, digest)| (path.to_string(), digest.to_string()))
        .collect()
}

/// A part of the library that holds code of all sorts, small enough for every run of the tests.
pub fn copy_of_library(to: &Path) -> usize {
    let print = "import sysconfig; print(sysconfig.get_path('stdlib'))";
    let output = Command::new("python3").args(["-c", print]).output().expect("the reference runs");
    let library = PathBuf::from(String::from_utf8_lossy(&output.stdout).trim());
    let mut count = 0;
    let mut waiting = vec![library.clone()];
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(folder).expect("a folder").flatten() {
            let path = entry.path();
            let left_out = ["site-packages", "__pycache__", "idlelib", "turtledemo"]
                .iter()
                .any(|name| entry.file_name() == **name);
            if path.is_dir() && !left_out {
                waiting.push(path);
            } else if path.extension().is_some_and(|extension| extension == "py") {
                let target = to.join(path.strip_prefix(&library).expect("below it"));
                std::fs::create_dir_all(target.parent().expect("a parent")).expect("a folder");
                std::fs::copy(&path, &target).expect("a copy");
                count += 1;
            }
        }
    }
    count
}

#[test]
fn fixing_the_library_keeps_every_file_acceptable_and_layout_keeps_its_tree() {
    if !has("python3") {
        missing("0 libraries fixed: no python3 on this machine");
        return;
    }
    let ferry = Ferry::empty();
    let library = ferry.path("library");
    let count = copy_of_library(&library);
    let before = digests(&library);
    assert!(count > 500 && before.len() == count);

    let layout = ferry.run(&["fix", "library", "--only", "layout", "--quiet"]);
    assert_eq!(layout.status, 0, "{}", layout.err);
    let after_layout = digests(&library);
    for (old, new) in before.iter().zip(&after_layout) {
        assert_eq!(old, new, "layout changed the code");
    }

    let all = ferry.run(&["fix", "library", "--mesh", "fine"]);
    assert_eq!((all.status, all.err.as_str()), (0, ""));
    let after = digests(&library);
    for ((path, old), (_, new)) in before.iter().zip(&after) {
        assert!(old == "refused" || new != "refused", "{path} was accepted and is refused now");
    }
    let changed = before.iter().zip(&after).filter(|(old, new)| old != new).count();
    eprintln!("{count} files fixed, the trees of {changed} changed");
    assert!(changed > 10);

    let again = ferry.run(&["fix", "library", "--mesh", "fine", "--preview"]);
    assert_eq!((again.status, again.out.as_str()), (0, ""), "a second run finds nothing");
}
