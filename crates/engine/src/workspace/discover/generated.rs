//! Recognises files made by programs: by what they say in a comment of their first lines, by the forms of names that
//! generators give, or by lines that nobody would write.

use std::path::Path;

use sieve_syntax::language::Language;
use sieve_syntax::text::{Marks, Text};

/// Endings, before the last dot, of names that generators give: several tools agree on each.
const NAME_ENDINGS: &[&str] = &["_pb2", "_pb2_grpc", ".min", ".generated", "_generated", ".g"];

/// Names of files in which package managers keep what they chose.
const LOCK_FILES: &[&str] = &[
    "package-lock.json",
    "npm-shrinkwrap.json",
    "pnpm-lock.yaml",
    "composer.lock",
    "Cargo.lock",
    "poetry.lock",
    "uv.lock",
];

/// Scripts that the programs which prepare a build copy into a project ("Auxiliary Programs", GNU Automake 1.16).
const COPIED: &[&str] = &[
    "config.guess",
    "config.sub",
    "depcomp",
    "install-sh",
    "ltmain.sh",
    "mkinstalldirs",
    "py-compile",
    "test-driver",
    "ylwrap",
];

/// Folders that hold nothing but what generators made.
const FOLDERS: &[&str] = &["__generated__", "generated", "Generated", "generated-sources", "generated-src", "_site"];

/// Whether a file's name, or that of a folder it is in, has a form that generators give. The path is one within the project: where that
/// was copied to says nothing of its files.
pub(super) fn has_generated_name(path: &Path) -> bool {
    let stem = path.file_stem().and_then(|stem| stem.to_str()).unwrap_or_default();
    let by_name = NAME_ENDINGS.iter().any(|ending| stem.len() > ending.len() && stem.ends_with(ending));
    let is_known = path.file_name().is_some_and(|name| LOCK_FILES.iter().chain(COPIED).any(|known| name == *known));
    let is_page = path.extension().is_some_and(|extension| extension == "html");
    by_name
        || is_known
        || is_hashed(stem)
        || is_page && path.iter().any(|folder| folder == "dist")
        || path.parent().is_some_and(|folder| folder.iter().any(|name| FOLDERS.iter().any(|known| name == *known)))
}

/// How many letters of a hash go into a name, as programs that put scripts together write them: `board-CnJPU9cP.js`.
const HASH: usize = 8;

/// Whether a name ends with a hash of what is in the file: capitals, small letters and digits as no words have them.
fn is_hashed(stem: &str) -> bool {
    let Some((name, hash)) = stem.len().checked_sub(HASH + 1).and_then(|at| stem.split_at_checked(at)) else {
        return false;
    };
    let Some(hash) = hash.strip_prefix('-').filter(|_| !name.is_empty()) else { return false };
    let bytes = hash.as_bytes();
    // What is in capitals alone may be a word, but not behind this one.
    let is_capital = |byte: &u8| byte.is_ascii_uppercase() || byte.is_ascii_digit();
    if name == "chunk" && bytes.iter().all(is_capital) {
        return true;
    }
    let has = |is: fn(&u8) -> bool| bytes.iter().any(is);
    // Words begin with a capital and go on with small letters.
    let cuts = bytes.windows(2).filter(|pair| pair[1].is_ascii_uppercase() || pair[1].is_ascii_digit()).count();
    bytes.iter().all(|byte| byte.is_ascii_alphanumeric() || *byte == b'_')
        && has(u8::is_ascii_lowercase)
        && has(u8::is_ascii_uppercase)
        && (cuts > 2 || has(u8::is_ascii_digit) && cuts > 1 && !bytes[HASH - 1].is_ascii_digit())
}

/// How many lines may be before the mark; licences come first in many files.
const LINES: usize = 12;

/// How many bytes are checked, for the sake of files with long lines.
const BYTES: usize = 2048;

/// The part of a source in which such marks are.
fn head_of(source: &str) -> &str {
    &source[..source.floor_char_boundary(BYTES)]
}

/// Whether the comments of the first lines say that a program made the file.
pub(crate) fn says_generated(source: &str) -> bool {
    let head = head_of(source);
    let comments = comments_of(head.lines().take(LINES));
    // What preparing a build copies into a project says of when it is.
    let is_copied = || head.lines().take(LINES).any(|line| line.starts_with("scriptversion="));
    let is_found = head.lines().next() == Some(FOUND_BY_FUZZING) || is_copied();
    if is_found || head.lines().any(is_mark_of_go) || comments.contains("@generated") {
        return true;
    }
    let begins = |line: &str| MADE_BY.iter().any(|words| line.starts_with(words));
    let is_made = comments.contains("generated") && (comments.lines().any(begins) || MADE.are_in(&comments));
    is_made || comments.contains("generated") && KEEP_OUT.are_in(&comments)
}

/// The line by which generators of Go say what they made, which may be below a licence ("cmd/go: Generate Go files by processing source").
fn is_mark_of_go(line: &str) -> bool {
    line.starts_with("// Code generated ") && line.ends_with(" DO NOT EDIT.")
}

/// The first line of an input that fuzzing found, whatever the name of the file ("Corpus file format", Go Fuzzing, Go 1.18).
const FOUND_BY_FUZZING: &str = "go test fuzz v1";

/// Whether a page says which program made it: `<meta name="generator" …>` ("Standard metadata names", HTML, 4.2.5.1). A part of a template
/// there says it of the pages that are made from this one.
pub(crate) fn says_made_page(source: &str) -> bool {
    let head = head_of(source).to_ascii_lowercase();
    let mut tags = head.split("<meta").skip(1).map(|rest| rest.split('>').next().unwrap_or_default());
    tags.any(|tag| {
        let named: String = tag.split_whitespace().collect();
        let is_it =
            ["name=\"generator\"", "name='generator'", "name=generator"].iter().any(|name| named.contains(name));
        is_it && !tag.contains(['{', '<'])
    })
}

/// Beginnings of comments that say which program made the file.
const MADE_BY: &[&str] = &["generated by ", "file generated by ", "code generated by "];

/// What such comments say anywhere.
static MADE: Marks = Marks::new(&[
    "automatically generated by",
    "auto-generated by",
    "autogenerated by",
    "is a generated file",
    "this file is generated",
    "this file was generated",
    "this file is automatically generated",
    "this file was automatically generated",
    "this file is auto-generated",
    "this file was auto-generated",
]);

/// What generators ask of those who read.
static KEEP_OUT: Marks = Marks::new(&["do not edit", "do not modify", "don't edit", "do not change", "not be edited"]);

/// Statements that come before the comments that head a file.
const PROLOGUE: &[&str] = &["\"use ", "'use ", "set -"];

/// What the comments and the leading documentation string among some lines say, in small letters, each on a line.
fn comments_of<'s>(lines: impl Iterator<Item = &'s str>) -> String {
    let mut comments = String::new();
    let mut quote = None;
    for line in lines {
        let line = line.trim_start_matches('\u{feff}').trim();
        let opened = ["\"\"\"", "'''"].into_iter().find(|quote| line.trim_start_matches('r').starts_with(quote));
        let text = match (quote, opened) {
            (Some(open), _) => {
                quote = Some(open).filter(|open| !line.contains(open));
                line
            }
            // Only the first statement is documentation.
            (None, Some(open)) => {
                let text = line.trim_start_matches('r').trim_start_matches(open);
                quote = Some(open).filter(|open| !text.contains(open));
                text
            }
            (None, None) if is_comment(line) => line.trim_start_matches(['#', '/', '*', '<', '!', '-', ' ']),
            (None, None) if line.is_empty() || PROLOGUE.iter().any(|start| line.starts_with(start)) => continue,
            (None, None) => break,
        };
        comments.push_str(text);
        comments.push('\n');
    }
    comments.make_ascii_lowercase();
    comments
}

/// Lines of more bytes than this are not written by people.
const PACKED_LINE: usize = 250;

/// Of so many bytes of code one at least is a sign that joins or ends something; data has fewer of them.
const BYTES_PER_SIGN: usize = 25;

/// Of so many bytes of packed code no more than one is a space. Code in strings, such as examples, is spaced as people write it.
const BYTES_PER_SPACE: usize = 10;

/// A file of fewer bytes than this is not worth packing.
const PACKED_FILE: usize = 500;

/// Nobody writes so many bytes of code in long lines without spaces, whatever else is in the file.
const MUCH: usize = 50_000;

/// Whether a program took the whitespace and line ends out of a script, to have it loaded faster.
pub(crate) fn is_packed(language: Language, text: &Text) -> bool {
    let source = text.source();
    if language.spec().lines_matter || source.len() <= PACKED_FILE {
        return false;
    }
    let (mut packed, mut data) = (0, 0);
    for line in source.split('\n').filter(|line| line.len() > PACKED_LINE) {
        let of = |one, two, three| memchr::memchr3_iter(one, two, three, line.as_bytes()).count();
        let signs = of(b'(', b')', b';') + of(b'{', b'}', b'=');
        let spaces = memchr::memchr_iter(b' ', line.as_bytes()).count();
        if signs * BYTES_PER_SIGN <= line.len() {
            data += line.len();
        } else if spaces * BYTES_PER_SPACE < line.len() {
            packed += line.len();
        }
    }
    // A licence may be above the code, and programs for other processors or whole texts may be in it.
    packed > PACKED_FILE && packed * 5 > (source.len() - data) * 3 || packed > MUCH
}

/// What programs leave in a script that they put together from many: in comments, and in code of theirs.
static BUNDLE_MARKS: Marks = Marks::new(&[
    "/******/",
    "/* harmony ",
    "var commonjsGlobal = ",
    "getDefaultExportFromCjs",
    "(function(){var define,module,exports;",
]);

/// What compilers put at the head of what they make.
static COMPILED_MARKS: Marks = Marks::new(&[
    "(this && this.__",
    " = require(\"tslib\");",
    "function _interopRequireDefault(",
    "Object.defineProperty(exports, \"__esModule\"",
    "@babel/runtime/helpers/",
    "var __getOwnPropNames = Object.getOwnPropertyNames;",
]);

/// Where compilers say, in the last line, where the lines of what they have compiled are ("Source Map", ECMA-426).
const SOURCE_MAP: &[&str] = &["//# sourceMappingURL=", "/*# sourceMappingURL="];

/// Whether a compiler made a script or a style sheet, by its head and its last line.
pub(crate) fn is_compiled(language: Language, text: &Text) -> bool {
    let source = text.source().trim_ascii_end();
    let last = source.rfind('\n').map_or(source, |before| &source[before + 1..]);
    !language.spec().lines_matter
        && (SOURCE_MAP.iter().any(|mark| last.starts_with(mark)) || COMPILED_MARKS.are_in(head_of(source)))
}

/// Smaller scripts are not looked through for such marks, in bytes.
const BUNDLE: usize = 4 << 10;

/// Whether a program put a script together from many.
pub(crate) fn is_bundle(language: Language, text: &Text) -> bool {
    let source = text.source();
    !language.spec().lines_matter && source.len() > BUNDLE && BUNDLE_MARKS.are_in(source)
}

fn is_comment(line: &str) -> bool {
    ["#", "//", "/*", "*", "<!--", "--"].iter().any(|opener| line.starts_with(opener))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_compilers_made_is_told_by_its_last_line_or_its_head() {
        let is = |source: &str| is_compiled(Language::JavaScript, &Text::new(source.to_string()));
        assert!(is("var tide = 1;\n//# sourceMappingURL=tide.js.map\n"));
        assert!(is("\"use strict\";\nvar __extends = (this && this.__extends) || {};\n"));
        assert!(is("\"use strict\";\nObject.defineProperty(exports, \"__esModule\", { value: true });\n"));
        assert!(!is("const mark = '//# sourceMappingURL=';\nsail(mark);\n"));
        assert!(!is(""));
    }

    #[test]
    fn packed_scripts_are_told_by_their_lines() {
        let packed = Text::new(format!("/*! Ferry 2 */\n{}\n", "var a=b(c);".repeat(100)));
        assert!(is_packed(Language::JavaScript, &packed));
        assert!(!is_packed(Language::Python, &packed));
        let licence = "/*\n * Ferry 2\n * May be used by all crews.\n */\n\n\n".repeat(3);
        let below = Text::new(format!("{licence}{}\n", "var a=b(c);".repeat(200)));
        assert!(is_packed(Language::JavaScript, &below));
        let shader = Text::new(format!("{}`\n{}", "var a=b(c);".repeat(300), "void main() {}\n".repeat(50)));
        assert!(is_packed(Language::JavaScript, &shader));
        let picture = Text::new(format!("{licence}const flag = '{}';\n", "f81fc07e03f".repeat(200)));
        assert!(!is_packed(Language::JavaScript, &picture));
        let examples = Text::new(format!("const code = \"{}\";\n", "if (a) {\\n    b();\\n}\\n".repeat(100)));
        assert!(!is_packed(Language::JavaScript, &examples));
        let written = Text::new("const tide = readTide(quay);\n".repeat(100));
        assert!(!is_packed(Language::JavaScript, &written));
    }

    #[test]
    fn the_mark_of_go_counts_below_a_licence() {
        let licence = "// All crews may use this.\n".repeat(30);
        assert!(says_generated(&format!("{licence}\n// Code generated by tidegen. DO NOT EDIT.\npackage tides\n")));
        assert!(!says_generated(&format!("{licence}\n// Code generated by hand, edit it.\npackage tides\n")));
        assert!(!says_generated(&format!("{licence}\nvar a = `// Code generated by tidegen. DO NOT EDIT.`\n")));
    }

    #[test]
    fn bundles_are_told_by_what_their_makers_leave() {
        let code = "const tide = readTide(quay);\n".repeat(200);
        let bundle = Text::new(format!("/* harmony export */ var tides = 1;\n{code}"));
        assert!(is_bundle(Language::JavaScript, &bundle));
        assert!(!is_bundle(Language::Python, &bundle));
        assert!(!is_bundle(Language::JavaScript, &Text::new(code)));
    }

    #[test]
    fn names_are_seen_by_their_form() {
        for name in [
            "tides_pb2.py",
            "a/tides_pb2_grpc.py",
            "app.min.js",
            "quays.generated.ts",
            "web/__generated__/q.ts",
            "src/generated/quays.py",
            "web/board-CnJPU9cP.js",
            "web/tides-aLN_pQtn.mjs",
            "web/chunk-OCNYVWSN.mjs",
            "dist/docs/quays.html",
        ] {
            assert!(has_generated_name(Path::new(name)), "{name}");
        }
        for name in [
            "pb2.py",
            "generated.py",
            "minimum.js",
            "regenerated/quays.py",
            "_pb2.py",
            "my-TestCase.js",
            "dist/quays.js",
            "tide-20240101.js",
        ] {
            assert!(!has_generated_name(Path::new(name)), "{name}");
        }
    }

    #[test]
    fn marks_are_seen_only_in_comments_at_the_top() {
        assert!(says_generated("# Code generated by tidegen. DO NOT EDIT.\nx = 1\n"));
        assert!(says_generated("/* @generated */\n"));
        assert!(says_generated(
            "#!/bin/sh\n# Wrapper for what may be missing.\n\nscriptversion=2018-03-07.03; # UTC\n"
        ));
        assert!(says_generated("go test fuzz v1\nstring(\"high\")\n"));
        assert!(says_generated(
            "\"\"\"Quays\n\n    Generated by tidegen 3\n\n    Do not edit the class.\n\"\"\"\nx = 1\n"
        ));
        assert!(says_generated("#! /bin/sh\n# Guess the harbour.\n# Generated by tidegen 2.69.\n"));
        assert!(says_generated("// The tables of the quays, generated.\n//\n// Do not edit.\n"));
        assert!(!says_generated("\"\"\"Reads tables.\"\"\"\nx = 1\n# Generated by hand.\n"));
        assert!(!says_generated("# Reads what is generated by the almanac.\n"));
        assert!(!says_generated("text = '# generated, do not edit'\n"));
        assert!(!says_generated(&format!("{}# Generated. Do not edit.\n", "x = 1\n".repeat(40))));
        assert!(!says_generated("# Tide tables are generated from the almanac.\n"));
    }
}
