//! What another machine says of a file is taken only if it can be true of its text: a place outside of it would do harm later, when
//! lines are shown or fixes applied.

use sieve_syntax::text::{Span, Text};

use crate::check::FileOutcome;
use crate::outcome::Finding;

/// Whether every place in a result is one of the text.
pub(super) fn fits(outcome: &FileOutcome, text: &Text) -> bool {
    let lines = text.lines().count();
    let is_line = |line: u32| (1..=lines + 1).contains(&line);
    outcome.lines == lines as usize
        && outcome.findings.iter().all(|finding| finding_fits(finding, text))
        && outcome.unsure.iter().all(|place| is_line(place.start.line))
        && outcome.waivers.iter().all(|note| is_line(note.line))
        && outcome.windows.iter().all(|window| {
            is_within(window.span, text)
                && window.line == text.lines().line_of(window.span.start)
                && (window.first as usize) < text.source().len()
        })
}

fn finding_fits(finding: &Finding, text: &Text) -> bool {
    let edits = finding.fix.iter().flat_map(|fix| &fix.edits);
    is_within(finding.span, text)
        && finding.start == text.place(finding.span.start)
        && finding.end == text.place(finding.span.end)
        && edits.into_iter().all(|edit| is_within(edit.span, text))
}

fn is_within(span: Span, text: &Text) -> bool {
    text.source().get(span.range()).is_some()
}

#[cfg(test)]
mod tests {
    use std::collections::HashMap;

    use proptest::prelude::*;
    use xxhash_rust::xxh3::xxh3_128;

    use super::super::{Cache, Head, Store};
    use crate::check::{FileResult, OneFile};
    use crate::edits::apply_edits;
    use crate::join::Index;
    use crate::project::Project;
    use crate::settings::{Overrides, SettingsTree};
    use crate::subject::Wants;
    use crate::workspace::discover::{Discovery, Search, discover};

    const SOURCE: &str = "import os\n\n\ndef fare(kind, day=[]):\n    note = 'größe 🚢'; unused = 3\n    if kind is 'dog':\n        \
        return day\n    return day  # sieve: waive magic-number because it is the tide's\n";

    /// A file of a code base, and all that it takes to look at it.
    struct Bench {
        project: Project,
        settings: SettingsTree,
        discovery: Discovery,
        index: Index,
        _folder: tempfile::TempDir,
    }

    impl Bench {
        fn new() -> Bench {
            let folder = tempfile::tempdir().unwrap();
            std::fs::write(folder.path().join("fares.py"), SOURCE).unwrap();
            std::fs::write(folder.path().join("sieve.toml"), "mesh = \"fine\"\n").unwrap();
            let project = Project::at(folder.path(), folder.path());
            let settings = SettingsTree::new(&project, None, Overrides::default()).unwrap();
            let search = Search { project: &project, settings: &settings, paths: &[], changes: None };
            let discovery = discover(&search).unwrap();
            Bench { project: project.clone(), settings, discovery, index: Index::default(), _folder: folder }
        }

        fn cache(&self, store: Store) -> Cache {
            let search = Search { project: &self.project, settings: &self.settings, paths: &[], changes: None };
            Cache::in_memory(store, &search, &self.discovery)
        }

        fn visit(&self) -> OneFile<'_> {
            OneFile {
                project: &self.project,
                today: crate::day_named("2027-03-01").unwrap(),
                candidate: &self.discovery.files[0],
                index: &self.index,
                wants: Wants { excerpts: true, identities: true, sizes: true },
                answers: None,
                needs_facts: true,
                is_alone: false,
            }
        }

        /// The entry of the file as another machine would send it.
        fn entry(&self) -> (u128, Vec<u8>) {
            let cache = self.cache(Store::default());
            assert!(
                matches!(cache.one_file(&self.visit()), Ok(FileResult::Sifted(outcome)) if outcome.findings.len() > 3)
            );
            let (key, _, data) = cache.met().remove(0);
            (key, data)
        }

        fn store(&self, key: u128, data: Vec<u8>) -> Store {
            let head = Head { stat: None, content: xxh3_128(SOURCE.as_bytes()), start: 0, length: 0 };
            let mut store = Store::default();
            store.add(HashMap::from([(key, (head, data))]));
            store
        }
    }

    #[test]
    fn what_is_true_of_the_file_is_taken() {
        let bench = Bench::new();
        let (key, data) = bench.entry();
        let cache = bench.cache(bench.store(key, data));
        assert!(cache.one_file(&bench.visit()).is_ok());
        assert_eq!((cache.work().kept, cache.work().sifted), (1, 0));
    }

    proptest! {
        #![proptest_config(ProptestConfig { cases: 3000, failure_persistence: None, ..ProptestConfig::default() })]

        /// Whatever an entry says, what is taken of it can be shown and its fixes can be applied.
        #[test]
        fn whatever_is_sent_does_no_harm(changes in prop::collection::vec((any::<prop::sample::Index>(), any::<u8>()), 1..4)) {
            thread_local!(static BENCH: (Bench, (u128, Vec<u8>)) = {
                let bench = Bench::new();
                let entry = bench.entry();
                (bench, entry)
            });
            BENCH.with(|(bench, (key, data))| {
                let mut data = data.clone();
                for (at, byte) in &changes {
                    let at = at.index(data.len());
                    data[at] = *byte;
                }
                let cache = bench.cache(bench.store(*key, data));
                let Ok(FileResult::Sifted(outcome)) = cache.one_file(&bench.visit()) else { return };
                for finding in &outcome.findings {
                    assert!(SOURCE.get(finding.span.range()).is_some());
                    let edits: Vec<_> = finding.fix.iter().flat_map(|fix| &fix.edits).collect();
                    drop(apply_edits(SOURCE, &edits));
                }
            });
        }
    }
}
