//! The demo and the sample code base.

use crate::ferry::{Ferry, repository};

#[test]
fn the_walk_runs_to_its_end() {
    let ferry = Ferry::empty();
    let ended = ferry.run(&["demo", "ferry"]);
    assert_eq!(ended.status, 0, "{}\n{}", ended.out, ended.err);
    for words in ["1/20  First contact", "10/20  A clean run", "20/20  Rust, Java and C#", "That is the whole job."] {
        assert!(ended.out.contains(words), "{words}: {}", ended.out);
    }
    assert!(ferry.read("ferry/sieve-baseline.jsonl").lines().count() > 1);
    assert_eq!(ferry.run(&["demo", "ferry"]).status, 2, "a folder that is not empty is refused");
}

#[test]
fn every_file_of_the_sample_is_unpacked() {
    let ferry = Ferry::empty();
    ferry.run(&["demo", "ferry"]);
    let sample = repository().join("demo");
    let mut waiting = vec![sample.clone()];
    let mut count = 0;
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(folder).expect("a folder").flatten() {
            if entry.path().is_dir() {
                waiting.push(entry.path());
                continue;
            }
            let name = entry.path().strip_prefix(&sample).expect("below it").to_path_buf();
            assert!(ferry.path("ferry").join(&name).is_file(), "{} is not unpacked", name.display());
            count += 1;
        }
    }
    assert!(count > 5);
}
