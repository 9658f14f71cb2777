//! Whatever is sifted can be fixed: the file has no more faults than before, and a second run has nothing to do. The first byte chooses
//! the language.
#![no_main]

use std::sync::{Arc, LazyLock};

use libfuzzer_sys::fuzz_target;
use sieve_engine::Index;
use sieve_engine::fix::{FixedText, fix_text};
use sieve_engine::project::Project;
use sieve_engine::settings::{Effective, Overrides, SettingsTree};
use sieve_engine::run::Subject;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// The settings of an empty folder with every rule on.
struct Empty {
    folder: tempfile::TempDir,
    settings: Arc<Effective>,
    index: Index,
    project: Project,
}

static EMPTY: LazyLock<Empty> = LazyLock::new(|| {
    let folder = tempfile::tempdir().expect("a temporary folder");
    std::fs::write(folder.path().join("sieve.toml"), "mesh = \"fine\"\n").expect("a settings file");
    let project = Project::at(folder.path(), folder.path());
    let tree = SettingsTree::new(&project, None, Overrides::default()).expect("right settings");
    let settings = tree.for_folder(folder.path()).expect("right settings");
    Empty { folder, settings, index: Index::default(), project }
});

fn fixed(language: Language, text: &Text) -> FixedText {
    let name = format!("boat.{}", language.spec().extensions[0]);
    let path = EMPTY.folder.path().join(&name);
    let subject = Subject {
        shown: Arc::from(name),
        language,
        settings: &EMPTY.settings,
        path: &path,
        index: &EMPTY.index,
        project: &EMPTY.project,
        asks_others: true,
    };
    fix_text(text, &subject, sieve_engine::today(), false, &|_, _| {})
}

fuzz_target!(|bytes: &[u8]| {
    let Some((first, rest)) = bytes.split_first() else { return };
    let language = Language::ALL[usize::from(*first) % Language::ALL.len()];
    let Ok(text) = language.decode(rest.to_vec()) else { return };
    let faults = language.parse(&text).faults().len();
    let once = fixed(language, &text);
    let after = Text::new(once.source.clone());
    assert!(language.parse(&after).faults().len() <= faults, "the file is worse than before");
    if once.blamed.is_empty() {
        assert_eq!(fixed(language, &after).source, after.source(), "a second run changes it again");
    }
});
