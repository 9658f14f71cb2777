//! Members of types are renamed with what overrides them, where it is known whose they are.

use crate::ferry::Ferry;

/// Files, what is renamed to what, with which options; then the files as they are after that.
pub fn renamed(files: &[(&str, &str)], place: &str, new: &str, options: &[&str]) -> Vec<String> {
    let ferry = Ferry::with(files);
    let mut line = vec!["rename", place, new];
    line.extend(options);
    let run = ferry.run(&line);
    assert_eq!(run.status, 0, "{place} {new}: {}", run.err);
    files.iter().map(|(name, _)| ferry.read(name)).collect()
}

/// Why a name is not renamed.
pub fn refusal(files: &[(&str, &str)], place: &str, new: &str, options: &[&str]) -> String {
    let ferry = Ferry::with(files);
    let mut line = vec!["rename", place, new];
    line.extend(options);
    let run = ferry.run(&line);
    assert_ne!(run.status, 0, "{place} {new}: {}", run.out);
    files.iter().for_each(|(name, before)| assert_eq!(ferry.read(name), *before, "{place}: something changed"));
    run.err
}

const TIDE: &str = "package ferries;\n\npublic class Tide {\n    int depth = 3;\n\n    public int low(int hour) {\n        return this.depth + hour;\n    }\n\n    Tide next() {\n        return this;\n    }\n}\n";

/// Objects whose type is written, made, returned, or an element; methods made values; other types of a member of that name.
const BOARD: &str = "package ferries;\n\nclass Board {\n    Tide tide = new Tide();\n\n    int of(Tide one, Tide[] all, Gauge other) {\n        var made = new Tide();\n        int sum = one.low(1) + all[0].low(2) + made.low(3) + tide.low(4);\n        sum += new Tide().low(5) + one.next().low(6) + ((Tide) one).low(7) + this.tide.next().low(8);\n        for (Tide each : all) sum += each.low(9);\n        IntUnaryOperator later = one::low;\n        return sum + other.low(10) + \"low\".length();\n    }\n}\n\nclass Gauge {\n    int low(int hour) { return hour; }\n}\n";

#[test]
fn uses_in_other_files_follow_a_method_whose_object_is_known() {
    let files = [("ferries/Tide.java", TIDE), ("ferries/Board.java", BOARD)];
    let after = renamed(&files, "ferries/Tide.java:6:16", "ebb", &[]);
    assert_eq!(after[0], TIDE.replace("low(", "ebb("));
    let wanted = BOARD.replace(".low(", ".ebb(").replace("::low", "::ebb").replace("other.ebb", "other.low");
    assert_eq!(after[1], wanted);
    // From a use behind a dot as well.
    let from_use = renamed(&files, "ferries/Board.java:8:23", "ebb", &[]);
    assert_eq!(from_use, after);
    let field = renamed(&files, "ferries/Tide.java:4:9", "draught", &[]);
    assert_eq!(field[0], TIDE.replace("depth", "draught"));
}

#[test]
fn what_is_not_known_refuses_unless_all_members_are_meant() {
    let list = "package ferries;\n\nclass List {\n    int of(java.util.List<Tide> all) {\n        return all.get(0).low(3);\n    }\n}\n";
    let files = [("ferries/Tide.java", TIDE), ("ferries/List.java", list)];
    let why = refusal(&files, "ferries/Tide.java:6:16", "ebb", &[]);
    assert!(why.contains("it is not known whose member \"low\" is here; --all-members"), "{why}");
    assert!(why.contains("ferries/List.java:5:27"), "{why}");
    let after = renamed(&files, "ferries/Tide.java:6:16", "ebb", &["--all-members"]);
    assert_eq!(after[1], list.replace(".low(", ".ebb("));
    let two = [files[0], files[1], ("ferries/Board.java", BOARD)];
    let why = refusal(&two, "ferries/Tide.java:6:16", "ebb", &["--all-members"]);
    assert!(why.contains("another type has a member \"low\" too"), "{why}");
}

const BOATS: &str = "package ferries;\n\ninterface Boat {\n    int sail(int hour);\n}\n\nabstract class Ship implements Boat, Runnable {\n    int twice() {\n        return sail(1) + sail(2);\n    }\n}\n";
const FERRY: &str = "package ferries;\n\nclass Ferry extends Ship {\n    @Override\n    public int sail(int hour) {\n        return hour;\n    }\n\n    public void run() {\n        sail(3);\n    }\n}\n\nclass Slow extends Ferry {\n    int far() {\n        return sail(4) + super.sail(5);\n    }\n}\n";

#[test]
fn overrides_are_renamed_together_where_that_is_asked_for() {
    let files = [("ferries/Boat.java", BOATS), ("ferries/Ferry.java", FERRY)];
    let why = refusal(&files, "ferries/Boat.java:4:9", "go", &[]);
    assert!(why.contains("--family renames all of them") && why.contains("ferries/Ferry.java:5:16"), "{why}");
    let after = renamed(&files, "ferries/Boat.java:4:9", "go", &["--family"]);
    assert_eq!(after, [BOATS.replace("sail(", "go("), FERRY.replace("sail(", "go(")]);
    let why = refusal(&files, "ferries/Ferry.java:9:17", "go", &[]);
    assert!(why.contains("a base of the type may have \"run\" too"), "{why}");
    let why = refusal(&files, "ferries/Boat.java:4:9", "twice", &["--family"]);
    assert!(why.contains("the type has a member \"twice\" already"), "{why}");
}

#[test]
fn what_may_override_or_bring_a_member_elsewhere_refuses() {
    let nameless = "package ferries;\n\nclass Pier {\n    Tide made = new Tide() {\n        public int low(int hour) {\n            return 1;\n        }\n    };\n}\n";
    let why =
        refusal(&[("ferries/Tide.java", TIDE), ("ferries/Pier.java", nameless)], "ferries/Tide.java:6:16", "ebb", &[]);
    assert!(why.contains("a class without a name overrides it") && why.contains("Pier.java:5:20"), "{why}");
    let shared = "package ferries;\n\npublic class Quays {\n    static int count() {\n        return 3;\n    }\n}\n";
    let brought = "package board;\n\nimport static ferries.Quays.count;\n\nclass Board {\n    int all = count();\n}\n";
    let why = refusal(
        &[("ferries/Quays.java", shared), ("board/Board.java", brought)],
        "ferries/Quays.java:4:16",
        "number",
        &[],
    );
    assert!(why.contains("an import brings it"), "{why}");
    let record = "package ferries;\n\nrecord Fare(int cents) {}\n";
    let why = refusal(&[("ferries/Fare.java", record)], "ferries/Fare.java:3:17", "pence", &[]);
    assert!(why.contains("components of records are not followed"), "{why}");
    for (code, place, new, said) in [
        (
            "class Quay {\n    public String toString() {\n        return \"\";\n    }\n}\n",
            "2:19",
            "shown",
            "has a meaning of its own in Java",
        ),
        (
            "class Quay {\n    int low() {\n        return 1;\n    }\n}\n",
            "2:9",
            "notify",
            "has a meaning of its own in Java",
        ),
        (
            "class Quay extends Gone {\n    protected int low() {\n        return 1;\n    }\n}\n",
            "2:19",
            "ebb",
            "a base of the type may have \"low\" too",
        ),
    ] {
        let place = format!("Quay.java:{place}");
        let why = refusal(&[("Quay.java", code)], &place, new, &[]);
        assert!(why.contains(said), "{place}: {why}");
    }
}

/// Fields and static methods override nothing, and what overrides is seen by as many.
#[test]
fn a_base_that_is_not_known_has_nothing_to_do_with_what_cannot_override() {
    let code = "class Quay extends Gone {\n    int low;\n    static int of() { return 1; }\n    int next() { return low + of(); }\n}\n";
    for (place, old, new) in [("2:9", "low", "depth"), ("3:16", "of(", "fare("), ("4:9", "next(", "later(")] {
        let after = renamed(&[("Quay.java", code)], &format!("Quay.java:{place}"), new.trim_end_matches('('), &[]);
        assert_eq!(after[0], code.replace(old, new));
    }
    let hidden = code.replace("low + of()", "low + depth");
    let why = refusal(&[("Quay.java", &hidden)], "Quay.java:2:9", "depth", &[]);
    assert!(why.contains("\"depth\" refers to something else where \"low\" is seen"), "{why}");
}

/// A variable of the new name would be meant where the member is used by its name alone.
#[test]
fn a_variable_that_is_nearer_refuses() {
    let heir = "package ferries;\n\nclass Neap extends Tide {\n    int of(int ebb) {\n        return low(ebb) + depth;\n    }\n}\n";
    let files = [("ferries/Tide.java", TIDE), ("ferries/Neap.java", heir)];
    let why = refusal(&files, "ferries/Tide.java:4:9", "ebb", &[]);
    assert!(why.contains("\"ebb\" is taken where \"depth\" is used"), "{why}");
    let after = renamed(&files, "ferries/Tide.java:4:9", "draught", &[]);
    assert_eq!(after[1], heir.replace("depth", "draught"));
    let outer = "package ferries;\n\nclass Pier {\n    int ebb;\n\n    class Inner extends Tide {\n        int of() {\n            return ebb;\n        }\n    }\n}\n";
    let files = [("ferries/Tide.java", TIDE), ("ferries/Pier.java", outer)];
    let why = refusal(&files, "ferries/Tide.java:4:9", "ebb", &[]);
    assert!(why.contains("\"ebb\" refers to something else") && why.contains("ferries/Pier.java:8:20"), "{why}");
}

const LEVEL: &str = "namespace Ferries;\n\npublic interface ILevel\n{\n    int Depth { get; }\n}\n\npublic class Level : ILevel\n{\n    public int Depth { get; set; }\n    public Level Next;\n}\n";

/// Keys of what is made and copied, patterns, `nameof`, members that may be absent.
const READER: &str = "namespace Ferries;\n\nclass Reader\n{\n    int Of(Level one, ILevel other, Pier pier)\n    {\n        var made = new Level { Depth = 3 };\n        Level next = new() { Depth = 4 };\n        if (one is { Depth: 5 }) return one.Next.Depth;\n        var name = nameof(one.Depth);\n        pier.Depth = 2;\n        return made.Depth + next?.Depth ?? other.Depth;\n    }\n}\n\nclass Pier\n{\n    public int Depth;\n}\n";

#[test]
fn properties_are_renamed_with_the_keys_and_patterns_that_name_them() {
    let files = [("Level.cs", LEVEL), ("Reader.cs", READER)];
    let why = refusal(&files, "Level.cs:10:16", "Draught", &[]);
    assert!(why.contains("--family"), "{why}");
    let after = renamed(&files, "Level.cs:10:16", "Draught", &["--family"]);
    assert_eq!(after[0], LEVEL.replace("Depth", "Draught"));
    let wanted = READER.replace("Depth", "Draught").replace("pier.Draught", "pier.Depth");
    assert_eq!(after[1], wanted.replace("public int Draught;", "public int Depth;"));
}

/// What may hold a value has members of its own.
#[test]
fn a_value_that_may_be_absent_is_no_value_yet() {
    let code = "struct Level\n{\n    public int Value;\n    static int Of(Level? one, Level two) => one.Value.Value + two.Value;\n}\n";
    let why = refusal(&[("Level.cs", code)], "Level.cs:3:16", "Depth", &[]);
    assert!(why.contains("it is not known whose member \"Value\" is here") && why.contains("Level.cs:4:49"), "{why}");
    let sure = code.replace("one.Value.Value + ", "");
    let after = renamed(&[("Level.cs", &sure)], "Level.cs:3:16", "Depth", &[]);
    assert_eq!(after[0], sure.replace("Value", "Depth"));
}

#[test]
fn what_implements_a_member_of_one_interface_alone_goes_with_it() {
    let code = "namespace Ferries;\n\ninterface ILow\n{\n    int Low();\n}\n\nclass Quay : ILow\n{\n    int ILow.Low() => 3;\n    public int Low() => 4;\n\n    int Of(ILow one) => one.Low() + Low();\n}\n";
    let why = refusal(&[("Quay.cs", code)], "Quay.cs:5:9", "Ebb", &[]);
    assert!(why.contains("--family"), "{why}");
    let after = renamed(&[("Quay.cs", code)], "Quay.cs:5:9", "Ebb", &["--family"]);
    assert_eq!(after[0], code.replace("Low()", "Ebb()"));
}

#[test]
fn parts_of_a_type_and_members_found_by_statements_are_left_alone() {
    let parts = [
        ("A.cs", "partial class Boat\n{\n    public int Low;\n}\n"),
        ("B.cs", "partial class Boat\n{\n    int High => Low;\n}\n"),
    ];
    let why = refusal(&parts, "A.cs:3:16", "Depth", &[]);
    assert!(why.contains("another part of the type may use it"), "{why}");
    let one = "abstract class Hull\n{\n    protected virtual void Low() {}\n}\n\npartial class Boat\n{\n    protected override void Low() {}\n}\n\npartial class Boat : Hull\n{\n    void High() => Low();\n}\n";
    let why = refusal(&[("Boat.cs", one)], "Boat.cs:8:29", "Depth", &[]);
    assert!(why.contains("--family"), "{why}");
    let after = renamed(&[("Boat.cs", one)], "Boat.cs:8:29", "Depth", &["--family"]);
    assert_eq!(after[0], one.replace("Low()", "Depth()"));
    let found = "class Boats\n{\n    public int GetEnumerator() => 3;\n}\n";
    let why = refusal(&[("Boats.cs", found)], "Boats.cs:3:16", "Go", &[]);
    assert!(why.contains("has a meaning of its own in C#"), "{why}");
    let alias = "using Base = Ferries.Hull;\n\nclass Boat : Base\n{\n    void Go() { Low(); }\n}\n";
    let hull = "namespace Ferries;\n\npublic class Hull\n{\n    public static void Low() {}\n}\n";
    let why = refusal(&[("Boat.cs", alias), ("Hull.cs", hull)], "Hull.cs:5:24", "Depth", &[]);
    assert!(why.contains("it is not known whose member \"Low\" is here"), "{why}");
    let of_type = "class Boats\n{\n    DateTime seen = DateTime.Now;\n    public DateTime DateTime => seen;\n}\n";
    let why = refusal(&[("Boats.cs", of_type)], "Boats.cs:4:21", "Seen", &[]);
    assert!(why.contains("this may be the type \"DateTime\" or the member"), "{why}");
}
