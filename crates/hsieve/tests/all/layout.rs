//! Layout of whole code bases: fixing it leaves what the reference parsers of the language make of each file, and nothing to be fixed again.

use std::path::{Path, PathBuf};
use std::process::Command;

use crate::ferry::{Ferry, has, missing};
use crate::packages::reference;

/// Fixes the layout of a code base in a folder, and compares what a reference says of each file before and after: a line for each in a list
/// of paths. Where it says `unknown` of a file it does not judge.
fn layout_keeps_trees(ferry: &Ferry, ending: &str, judge: &dyn Fn(&Path) -> Command) {
    let folder = ferry.path("library");
    let files = files_below(&folder, ending);
    assert!(files.len() > 300, "only {} files", files.len());
    let list = ferry.path("list");
    let lines: Vec<String> = files.iter().map(|file| file.display().to_string()).collect();
    std::fs::write(&list, lines.join("\n")).expect("written");
    let said = || {
        let output = judge(&list).output().expect("the reference runs");
        assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
        String::from_utf8(output.stdout).expect("text").lines().map(str::to_string).collect::<Vec<String>>()
    };
    let read = || files.iter().map(|file| std::fs::read(file).expect("a file")).collect::<Vec<Vec<u8>>>();
    let (before, sources) = (said(), read());
    assert_eq!(before.len(), files.len());

    let fixed = ferry.run(&["fix", "library", "--only", "layout", "--quiet"]);
    assert_eq!((fixed.status, fixed.err.as_str()), (0, ""));
    let (after, fixed_sources) = (said(), read());
    for ((file, old), new) in files.iter().zip(&before).zip(&after) {
        assert!(old == "unknown" || old == new, "{}: {old}, then {new}", file.display());
    }
    let changed = sources.iter().zip(&fixed_sources).filter(|(old, new)| old != new).count();
    let known = before.iter().filter(|said| *said != "unknown").count();
    eprintln!("{} files laid out, {changed} changed, {known} known to the reference", files.len());
    assert!(changed * 10 > files.len() && known * 10 > files.len() * 9, "{changed} changed, {known} known");

    let again = ferry.run(&["fix", "library", "--only", "layout", "--preview"]);
    assert_eq!((again.status, again.out.as_str()), (0, ""), "a second run finds nothing");
}

/// The files with an ending below a folder, in order.
fn files_below(folder: &Path, ending: &str) -> Vec<PathBuf> {
    let (mut files, mut waiting) = (Vec::new(), vec![folder.to_path_buf()]);
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(&folder).into_iter().flatten().flatten() {
            let path = entry.path();
            if path.is_dir() {
                waiting.push(path);
            } else if path.extension().is_some_and(|own| own == ending) {
                files.push(path);
            }
        }
    }
    files.sort();
    files
}

#[test]
fn java_is_for_its_compiler_what_it_was() {
    let homes = std::fs::read_dir("/usr/lib/jvm").into_iter().flatten().flatten().map(|home| home.path());
    let Some(home) = homes.filter(|home| home.join("lib/src.zip").is_file()).max() else {
        return missing("the sources of the library of Java are not installed");
    };
    let ferry = Ferry::empty();
    let library = ferry.path("library");
    std::fs::create_dir(&library).expect("a folder");
    let mut unpack = Command::new("jar");
    unpack.arg("xf").arg(home.join("lib/src.zip")).arg("java.base/java/util").current_dir(&library);
    assert!(unpack.status().expect("jar runs").success());
    layout_keeps_trees(&ferry, "java", &|list| {
        let mut command = Command::new(home.join("bin/java"));
        let program = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/java/Trees.java");
        command.args(["-Xss64m", "-Dfile.encoding=UTF-8", program]).arg(list);
        command
    });
}

/// Every which of the files is taken: the rest says the same.
const EVERY: usize = 9;

#[test]
fn csharp_is_for_a_parsing_library_what_it_was() {
    let sources = reference().join("csharp_sources");
    let files = files_below(&sources, "cs");
    if files.is_empty() || !has("python3") {
        return missing("there are no sources of C#, or python3 is not installed");
    }
    let ferry = Ferry::empty();
    let library = ferry.path("library");
    for file in files.iter().step_by(EVERY) {
        let to = library.join(file.strip_prefix(&sources).expect("below it"));
        std::fs::create_dir_all(to.parent().expect("a parent")).expect("a folder");
        std::fs::copy(file, to).expect("a copy");
    }
    layout_keeps_trees(&ferry, "cs", &|list| {
        let mut command = Command::new("python3");
        command.arg(concat!(env!("CARGO_MANIFEST_DIR"), "/tests/csharp_trees.py")).arg(list);
        command
    });
}
