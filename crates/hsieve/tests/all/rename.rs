//! Renaming: the program still says what it said, and the old name is gone.

use std::path::{Path, PathBuf};
use std::process::Command;

use crate::ferry::Ferry;

/// Numbers that look random and are the same in every run.
struct Dice(u64);

impl Dice {
    fn below(&mut self, limit: usize) -> usize {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 33) as usize % limit
    }
}

const FILES: usize = 38;

/// A project of 40 files: shadowing, aliases, whole modules, members, re-export, keywords, strings and comments.
fn python_project(ferry: &Ferry, dice: &mut Dice) {
    ferry.write(
        "ferry/__init__.py",
        "from .m3 import fare_3 as entry\nfrom .m4 import fare_4\n\n__all__ = [\"entry\", \"fare_4\"]\n",
    );
    for at in 0..FILES {
        let before = |dice: &mut Dice| dice.below(at.max(1));
        let (one, other, third) = (before(dice), before(dice), before(dice));
        let call = match (at, dice.below(4)) {
            (0, _) => String::new(),
            (_, 0) => format!("from .m{one} import fare_{one} as ride_{at}\nUSED_{at} = ride_{at}(2)\n"),
            (_, 1) => format!("from . import m{one}\nUSED_{at} = m{one}.fare_{one}(amount_{one}=3)\n"),
            (_, 2) => format!("import ferry.m{one}\nUSED_{at} = ferry.m{one}.fare_{one}(2, share_{one}=1)\n"),
            _ => format!("from .m{one} import fare_{one}\nUSED_{at} = fare_{one}(1)\n"),
        };
        let more = match at {
            0 => String::new(),
            _ => format!(
                "import ferry.m{other} as tides_{at}\nfrom ferry.m{third} import LIMIT_{third}, Quay_{third}\n\
                 NEAR_{at} = tides_{at}.LIMIT_{other} + LIMIT_{third} + Quay_{third}(1).rise_{third}(2)\n"
            ),
        };
        let text = format!(
            "\"\"\"Module {at}: fare_{at} and Quay_{at}.\"\"\"\n{call}{more}LIMIT_{at} = {limit}\n\n\n\
             class Quay_{at}:\n    # depth_{at} is low\n    depth_{at} = 3\n\n    def __init__(self, start_{at}):\n        self.level_{at} = start_{at}\n\n    \
             def rise_{at}(self, by_{at}):\n        level_{at} = self.level_{at} + by_{at}\n        return level_{at} + self.depth_{at}\n\n\n\
             def fare_{at}(amount_{at}, share_{at}=2):\n    global COUNT_{at}\n    COUNT_{at} = amount_{at}\n    total_{at} = amount_{at} * share_{at} + LIMIT_{at}\n\n    \
             def inner_{at}(total):\n        fare = total + 1\n        return fare\n\n    seats_{at} = [amount_{at} for amount_{at} in range(3)]\n    \
             LIMIT = 5\n    return inner_{at}(total_{at}) + sum(seats_{at}) + LIMIT\n\n\nTEXT_{at} = \"fare_{at} is a text\"\n",
            limit = dice.below(90)
        );
        ferry.write(format!("ferry/m{at}.py").as_str(), text);
    }
    let mut main =
        String::from("import ferry\nfrom ferry import entry, fare_4\n\nprint(entry(1), fare_4(2), ferry.fare_4(3))\n");
    for at in 0..FILES {
        main += &format!(
            "from ferry.m{at} import Quay_{at} as Berth_{at}, fare_{at} as ride\nimport ferry.m{at} as here\nberth_{at} = Berth_{at}(4)\n\
             print(ride(5), berth_{at}.rise_{at}(1), berth_{at}.level_{at}, here.LIMIT_{at}, len(here.TEXT_{at}))\n"
        );
    }
    ferry.write("main.py", main);
}

fn javascript_project(ferry: &Ferry, dice: &mut Dice) {
    ferry
        .write("ferry/all.mjs", "export * from \"./m1.mjs\";\nexport { fare_4, Quay_4 as entry } from \"./m4.mjs\";\n");
    for at in 0..FILES {
        let before = |dice: &mut Dice| dice.below(at.max(1));
        let (one, other) = (before(dice), before(dice));
        let call = match (at, dice.below(4)) {
            (0, _) => String::new(),
            (_, 0) => format!(
                "import {{ fare_{one} as ride_{at} }} from \"./m{one}.mjs\";\nexport const USED_{at} = ride_{at}(2);\n"
            ),
            (_, 1) => format!(
                "import * as tides_{at} from \"./m{one}.mjs\";\nexport const USED_{at} = tides_{at}.fare_{one}(3);\n"
            ),
            (_, 2) => format!(
                "import {{ fare_{one}, Quay_{one} }} from \"./m{one}.mjs\";\nexport const USED_{at} = [fare_{one}].map((ride) => ride(1))[0] + new Quay_{one}(1).rise_{one}(2);\n"
            ),
            _ => format!(
                "import {{ LIMIT_{one}, fare_{one} }} from \"./m{one}.mjs\";\nexport const USED_{at} = LIMIT_{one} + fare_{one}(1);\n"
            ),
        };
        let more = if at == 0 || one == other {
            String::new()
        } else {
            format!("export {{ LIMIT_{other} }} from \"./m{other}.mjs\";\n")
        };
        let text = format!(
            "// Module {at}: fare_{at} and Quay_{at}.\n{call}{more}const LIMIT_{at} = {limit};\n\nexport class Quay_{at} {{\n  #depth_{at} = 3;\n\n  \
             constructor(start_{at}) {{\n    this.level_{at} = start_{at};\n  }}\n\n  rise_{at}(by_{at}) {{\n    \
             const level_{at} = this.level_{at} + by_{at};\n    return level_{at} + this.#depth_{at};\n  }}\n}}\n\n\
             export function fare_{at}(amount_{at}, share_{at} = 2) {{\n  const total_{at} = amount_{at} * share_{at} + LIMIT_{at};\n  \
             const inner_{at} = (total) => {{\n    const fare = total + 1;\n    return fare;\n  }};\n  \
             const {{ seats_{at}, rest: left_{at} = 2 }} = {{ seats_{at}: 4 }};\n  const packed_{at} = {{ total_{at}, amount_{at} }};\n  \
             return inner_{at}(packed_{at}.total_{at}) + seats_{at} + left_{at} + [1].map((amount_{at}) => amount_{at})[0];\n}}\n\n\
             export const TEXT_{at} = `fare_{at} is ${{LIMIT_{at}}}`;\nexport {{ LIMIT_{at} }};\n",
            limit = dice.below(90)
        );
        ferry.write(format!("ferry/m{at}.mjs").as_str(), text);
    }
    let mut main = String::from(
        "import * as all from \"./ferry/all.mjs\";\nimport { fare_1, fare_4, entry } from \"./ferry/all.mjs\";\nconsole.log(all.fare_1(1), fare_1(2), fare_4(3), typeof entry);\n",
    );
    for at in 0..FILES {
        main += &format!(
            "import {{ Quay_{at} as Berth_{at}, TEXT_{at} }} from \"./ferry/m{at}.mjs\";\nimport * as here_{at} from \"./ferry/m{at}.mjs\";\nconst berth_{at} = new Berth_{at}(4);\n\
             console.log(here_{at}.fare_{at}(5), berth_{at}.rise_{at}(1), berth_{at}.level_{at}, here_{at}.LIMIT_{at}, TEXT_{at}.length);\n"
        );
    }
    ferry.write("main.mjs", main);
}

fn output(program: &str, main: &str, ferry: &Ferry) -> String {
    let output = Command::new(program)
        .arg(main)
        .env("PYTHONDONTWRITEBYTECODE", "1")
        .current_dir(ferry.path(""))
        .output()
        .expect("the reference runs");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    String::from_utf8_lossy(&output.stdout).into_owned()
}

/// The names of the project with a number at their end, by the places where they are in code.
fn places(ferry: &Ferry, files: &[PathBuf]) -> Vec<(PathBuf, usize, usize, String)> {
    let mut found = Vec::new();
    for file in files {
        for (line, text) in ferry.read(&file.to_string_lossy()).lines().enumerate() {
            for (column, word) in words(&code_of(text)) {
                let is_name =
                    word.rsplit_once('_').is_some_and(|(_, end)| end.bytes().all(|byte| byte.is_ascii_digit()));
                if is_name {
                    found.push((file.clone(), line + 1, column + 1, word));
                }
            }
        }
    }
    found
}

/// A line with its strings and comments blanked out.
fn code_of(line: &str) -> String {
    let mut quote = None;
    let mut comment = false;
    line.chars()
        .map(|character| {
            comment |= quote.is_none() && (character == '#' && !line.contains("#depth"))
                || line.trim_start().starts_with("//");
            let was = quote;
            match (quote, character) {
                (None, '"' | '`') => quote = Some(character),
                (Some(open), closing) if open == closing => quote = None,
                _ => {}
            }
            if comment || was.is_some() || quote.is_some() { ' ' } else { character }
        })
        .collect()
}

fn words(text: &str) -> Vec<(usize, String)> {
    let mut found: Vec<(usize, String)> = Vec::new();
    let mut word = String::new();
    for (at, character) in text.chars().chain([' ']).enumerate() {
        if character.is_alphanumeric() || character == '_' {
            word.push(character);
        } else if !word.is_empty() {
            found.push((at - word.chars().count(), std::mem::take(&mut word)));
        }
    }
    found
}

fn files_of(ferry: &Ferry, main: &str) -> Vec<PathBuf> {
    let mut files: Vec<PathBuf> = std::fs::read_dir(ferry.path("ferry"))
        .expect("a folder")
        .flatten()
        .map(|entry| Path::new("ferry").join(entry.file_name()))
        .filter(|path| path.extension().is_some())
        .collect();
    files.push(PathBuf::from(main));
    files.sort();
    files
}

/// Renames a hundred names chosen at random, one after the other.
fn a_hundred_renamings(program: &str, main: &str, ferry: &Ferry, dice: &mut Dice) {
    let before = output(program, main, ferry);
    let files = files_of(ferry, main);
    assert_eq!(files.len(), 40);
    let mut refused = Vec::new();
    for round in 0..100 {
        let all = places(ferry, &files);
        let (file, line, column, old) = &all[dice.below(all.len())];
        let new = format!("{}_{round}x", if old.starts_with(char::is_uppercase) { "Renamed" } else { "renamed" });
        let is_private = ferry.read(&file.to_string_lossy()).contains(&format!("#{old}"));
        let new = if is_private { format!("#{new}") } else { new };
        let place = format!("{}:{line}:{column}", file.display());
        let ended = ferry.run(&["rename", &place, &new, "--all-members"]);
        if ended.status != 0 {
            refused.push(format!("{place} {old}: {}", ended.err));
            continue;
        }
        assert_eq!(output(program, main, ferry), before, "{place} {old}\n{}", ended.out);
        // A key of an entry and the name of an import from elsewhere stay: they are other names.
        let left: Vec<String> = places(ferry, &files)
            .into_iter()
            .filter(|(.., word)| word == old)
            .map(|(file, line, ..)| {
                ferry.read(&file.to_string_lossy()).lines().nth(line - 1).unwrap_or_default().to_string()
            })
            .filter(|line| !line.contains(&format!("{old}: {new}")))
            .collect();
        let shadows = ["amount_", "level_", "total_", "seats_"].iter().any(|shadow| old.starts_with(shadow));
        assert!(left.is_empty() || shadows, "{place} {old} is left in {left:#?}");
    }
    assert!(refused.len() <= 10, "{} refused: {refused:#?}", refused.len());
}

#[test]
fn a_program_in_python_says_what_it_said_after_a_hundred_renamings() {
    let (ferry, mut dice) = (Ferry::empty(), Dice(7));
    python_project(&ferry, &mut dice);
    a_hundred_renamings("python3", "main.py", &ferry, &mut dice);
}

#[test]
fn a_program_in_javascript_says_what_it_said_after_a_hundred_renamings() {
    let (ferry, mut dice) = (Ferry::empty(), Dice(11));
    javascript_project(&ferry, &mut dice);
    a_hundred_renamings("node", "main.mjs", &ferry, &mut dice);
}

/// The code base of the demo, without what is not sifted.
fn demo() -> Ferry {
    let ferry = Ferry::empty();
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    let mut folders = vec![root.clone()];
    while let Some(folder) = folders.pop() {
        for entry in std::fs::read_dir(&folder).expect("a folder").map(|entry| entry.expect("an entry").path()) {
            if entry.is_dir() {
                folders.push(entry);
            } else {
                let name = entry.strip_prefix(&root).expect("below").to_str().expect("UTF-8").to_string();
                ferry.write(&name, std::fs::read(&entry).expect("a file"));
            }
        }
    }
    ferry
}

/// The places in a file where a word is assigned or defined, with the word.
fn named(ferry: &Ferry, path: &Path, text: &str) -> Vec<(String, String)> {
    let shown = path.strip_prefix(ferry.path("")).expect("below").display();
    let is_part = |character: char| character.is_alphanumeric() || character == '_';
    let mut found = Vec::new();
    for (index, line) in text.lines().enumerate() {
        let indent = line.len() - line.trim_start().len();
        let start = ["def ", "class ", "function ", "const ", "let "]
            .iter()
            .find_map(|word| line.find(word).map(|at| at + word.len()))
            .unwrap_or(indent);
        let word: String = line[start..].chars().take_while(|character| is_part(*character)).collect();
        let is_defined = start > indent || line[start + word.len()..].starts_with(" = ");
        if is_defined && !word.is_empty() {
            found.push((format!("{shown}:{}:{}", index + 1, start + 1), word));
        }
    }
    found
}

#[test]
fn a_renaming_there_and_back_leaves_every_byte() {
    let ferry = demo();
    let sources: Vec<PathBuf> = ["booking/fares.py", "booking/tides.py", "booking/tickets.py", "web/src/timetable.ts"]
        .iter()
        .map(|name| ferry.path(name))
        .collect();
    let content = |sources: &[PathBuf]| -> Vec<String> {
        sources.iter().map(|path| std::fs::read_to_string(path).expect("a file")).collect()
    };
    let before = content(&sources);
    let mut dice = Dice(11);
    let all: Vec<(String, String)> =
        sources.iter().zip(&before).flat_map(|(path, text)| named(&ferry, path, text)).collect();
    let (mut done, mut refused) = (0, 0);
    for _ in 0..60 {
        let (place, name) = &all[dice.below(all.len())];
        let new = if name.starts_with(char::is_uppercase) { "Zephyr" } else { "zephyr" };
        let there = ferry.run(&["rename", place, new]);
        if there.status != 0 {
            assert!(there.status == 2 && there.err.contains("nothing was renamed"), "{place}: {there:?}");
            assert_eq!(content(&sources), before, "{place}: a refusal writes nothing");
            refused += 1;
            continue;
        }
        assert_ne!(content(&sources), before, "{place}");
        // The name has not moved: only what is behind it on its line has.
        let back = ferry.run(&["rename", place, name]);
        assert_eq!(back.status, 0, "{place}: {back:?}");
        assert_eq!(content(&sources), before, "{place}, {name}");
        done += 1;
    }
    assert!(done >= 20, "{done} done, {refused} refused");
}
