//! Fields and methods of Go are renamed with their uses, where it is known whose they are, and refused where code that is not seen may use
//! them.

use crate::members::{refusal, renamed};

const MODULE: (&str, &str) = ("go.mod", "module saltmarsh.example/ferries\n\ngo 1.22\n");

/// A package of tides: a struct with methods, one that embeds it, a list of it, and functions that give it.
const TIDES: &str = "package tides\n\ntype Tide struct {\n\tdepth, Height int\n\tnext *Tide\n}\n\ntype Table []Tide\n\ntype Spring struct {\n\t*Tide\n\tmoon string\n}\n\nfunc (tide *Tide) Low(hour int) int {\n\treturn tide.depth + hour\n}\n\nfunc Find(name string) (*Tide, error) {\n\treturn &Tide{depth: len(name)}, nil\n}\n\nfunc All() Table {\n\treturn Table{{depth: 1}, {depth: 2}}\n}\n";

/// Objects of another package: results, elements, keys and fields, what is promoted, and members of the same name of others.
const BOARD: &str = "package board\n\nimport (\n\t\"strings\"\n\n\tt \"saltmarsh.example/ferries/tides\"\n)\n\ntype gauge struct{ Low func(int) int }\n\ntype quay struct {\n\ttide  t.Tide\n\ttimes map[string][]*t.Tide\n}\n\nfunc (q quay) sum(any interface{}) int {\n\tone, err := t.Find(\"north\")\n\tif err != nil {\n\t\treturn q.tide.Low(0)\n\t}\n\ttotal := one.Low(1) + t.All()[0].Low(2)\n\tfor _, each := range t.All() {\n\t\ttotal += each.Low(3)\n\t}\n\tfor _, all := range q.times {\n\t\ttotal += all[0].Low(4)\n\t}\n\tswitch it := any.(type) {\n\tcase *t.Tide:\n\t\ttotal += it.Low(5)\n\tcase gauge:\n\t\ttotal += it.Low(6)\n\t}\n\tspring := t.Spring{Tide: one}\n\tlater := (*t.Tide).Low\n\tmade := func() *t.Tide { return one }\n\tgiven := make(chan t.Tide)\n\ttotal += spring.Low(7) + later(one, 8) + made().Low(9) + any.(*t.Tide).Low(10)\n\tlast := <-given\n\tvar again = last\n\tother := gauge{Low: again.Low}\n\treturn total + other.Low(11) + strings.Count(\"Low\", \"L\")\n}\n";

fn files() -> [(&'static str, &'static str); 3] {
    [MODULE, ("tides/tides.go", TIDES), ("board/board.go", BOARD)]
}

#[test]
fn a_method_is_renamed_wherever_the_type_of_its_object_is_known() {
    let after = renamed(&files(), "tides/tides.go:15:19", "Ebb", &[]);
    assert_eq!(after[1], TIDES.replace("Low(", "Ebb("));
    let mut wanted = BOARD.replace(".Low", ".Ebb");
    for others in ["it.Ebb(6)", "other.Ebb(11)"] {
        wanted = wanted.replace(others, &others.replace("Ebb", "Low"));
    }
    assert_eq!(after[2], wanted);
    // From a use, through a value that embeds the type, as well.
    assert_eq!(renamed(&files(), "board/board.go:38:18", "Ebb", &[]), after);
}

#[test]
fn a_field_is_renamed_behind_dots_and_as_a_key() {
    let after = renamed(&files(), "tides/tides.go:4:2", "draught", &[]);
    assert_eq!(after[1], TIDES.replace("depth", "draught"));
    assert_eq!(after[2], BOARD);
    let own = renamed(&files(), "board/board.go:9:20", "low", &[]);
    let wanted = ["struct{ Low", "gauge{Low", "other.Low", "it.Low(6)"]
        .iter()
        .fold(BOARD.to_string(), |code, use_of| code.replace(use_of, &use_of.replace("Low", "low")));
    assert_eq!(own[2], wanted);
    let why = refusal(&files(), "tides/tides.go:15:19", "low", &[]);
    assert!(why.contains("other packages would not see \"low\"") && why.contains("board/board.go:19:17"), "{why}");
}

#[test]
fn an_embedded_type_takes_the_fields_that_it_names_along() {
    let after = renamed(&files(), "tides/tides.go:3:6", "Ebb", &[]);
    assert!(after[1].contains("struct {\n\t*Ebb\n\tmoon string\n}"), "{}", after[1]);
    assert!(after[2].contains("t.Spring{Ebb: one}") && after[2].contains("(*t.Ebb).Low"), "{}", after[2]);
    let why = refusal(&files(), "tides/tides.go:3:6", "moon", &[]);
    assert!(why.contains("a type that embeds it has a member \"moon\" already"), "{why}");
    let why = refusal(&files(), "board/board.go:34:21", "Ebb", &[]);
    assert!(why.contains("an embedded type gives the field its name"), "{why}");
}

#[test]
fn what_is_not_known_refuses_unless_all_members_are_meant() {
    let generic = "package board\n\nimport \"saltmarsh.example/ferries/tides\"\n\nfunc first[T any](all []T) T {\n\treturn all[0]\n}\n\nfunc low(all []tides.Tide) int {\n\tone := first(all)\n\treturn one.Low(1)\n}\n";
    let files = [MODULE, ("tides/tides.go", TIDES), ("board/first.go", generic)];
    let why = refusal(&files, "tides/tides.go:15:19", "Ebb", &[]);
    assert!(why.contains("it is not known whose member \"Low\" is here; --all-members"), "{why}");
    assert!(why.contains("board/first.go:11:13"), "{why}");
    let after = renamed(&files, "tides/tides.go:15:19", "Ebb", &["--all-members"]);
    assert_eq!(after[2], generic.replace(".Low", ".Ebb"));
    let two = [files[0], files[1], files[2], ("board/board.go", BOARD)];
    let why = refusal(&two, "tides/tides.go:15:19", "Ebb", &["--all-members"]);
    assert!(why.contains("another type has a member \"Low\" too"), "{why}");
}

const BOATS: &str = "package boats\n\ntype Boat interface {\n\tSail(hours int) error\n}\n\ntype Named interface {\n\tBoat\n\tTitle() string\n}\n\ntype Ferry struct{ title string }\n\nfunc (ferry Ferry) Sail(hours int) error { return nil }\n\nfunc (ferry Ferry) Title() string { return ferry.title }\n\ntype Raft struct{}\n\nfunc (raft Raft) Sail(hours int, crew int) error { return nil }\n\nfunc run(boat Boat, raft Raft, named Named) {\n\t_ = boat.Sail(1)\n\t_ = raft.Sail(2, 3)\n\t_ = named.Sail(4)\n}\n";

#[test]
fn what_an_interface_asks_for_is_renamed_with_what_types_have_for_it() {
    let files = [MODULE, ("boats/boats.go", BOATS)];
    let why = refusal(&files, "boats/boats.go:14:20", "Cross", &[]);
    assert!(why.contains("--family renames all of them") && why.contains("boats/boats.go:4:2"), "{why}");
    let after = renamed(&files, "boats/boats.go:14:20", "Cross", &["--family"]);
    let wanted = BOATS.replace("Sail(", "Cross(").replace("(raft Raft) Cross", "(raft Raft) Sail");
    assert_eq!(after[1], wanted.replace("raft.Cross(2", "raft.Sail(2"));
    // A method with other parameters is nothing to the interface.
    let after = renamed(&files, "boats/boats.go:20:18", "Drift", &[]);
    assert_eq!(after[1], BOATS.replace("(raft Raft) Sail", "(raft Raft) Drift").replace("raft.Sail", "raft.Drift"));
    let why = refusal(&files, "boats/boats.go:16:20", "Shown", &[]);
    assert!(why.contains("boats/boats.go:9:2"), "{why}");
}

/// A source, the place of a member, its new name, and why it keeps the old one.
const REFUSED: &[(&str, &str, &str, &str)] = &[
    (
        "type Pipe struct{}\n\nfunc (pipe Pipe) Close() error { return nil }\n",
        "4:18",
        "Shut",
        "an interface of Go's library asks for it: Close",
    ),
    (
        "type Quay struct{}\n\nfunc (quay Quay) Shown() string { return \"\" }\n",
        "4:18",
        "String",
        "as \"String\" it would be what an interface of Go's library asks for: String",
    ),
    (
        "type Quay struct{ Low, High int }\n\nvar depth = Quay{}.Low\n",
        "2:19",
        "High",
        "the type has a member \"High\" already",
    ),
    (
        "type Quay struct{ Low int }\n\ntype Pier struct {\n\tQuay\n\tEbb int\n}\n",
        "2:19",
        "Ebb",
        "the type has a member \"Ebb\" already",
    ),
    (
        "import \"encoding/json\"\n\ntype Quay struct{ Low int }\n\nvar text, _ = json.Marshal(Quay{})\n",
        "4:19",
        "Ebb",
        "this package may read \"Low\" by its name",
    ),
    (
        "import \"gauges.example/low\"\n\ntype Quay struct{}\n\nfunc (quay Quay) Low() { low.Of(quay) }\n",
        "6:18",
        "Ebb",
        "this package may ask for \"Low\" by an interface",
    ),
    (
        "type Quay struct{ Low int }\n\nconst page = \"{{range .All}}{{.Low}}{{end}}\"\n",
        "2:19",
        "Ebb",
        "\"Low\" is looked up by name in a string",
    ),
    (
        "import \"reflect\"\n\ntype Quay struct{ low int }\n\nvar low = reflect.ValueOf(Quay{}).FieldByName(\"low\")\n",
        "4:19",
        "ebb",
        "\"low\" is looked up by name in a string",
    ),
    (
        "type Quay struct{ low int }\n\ntype Pier struct{ low int }\n\nvar pier = Pier(Quay{})\n",
        "2:19",
        "ebb",
        "structs with the same fields are converted here",
    ),
    ("type Quay struct{}\n\nfunc (quay Quay) low() int\n", "4:18", "ebb", "the method is written in another language"),
];

#[test]
fn what_other_code_may_use_by_its_name_keeps_it() {
    for (code, place, new, said) in REFUSED {
        let code = format!("package quays\n{code}");
        let why = refusal(&[MODULE, ("quays/quays.go", &code)], &format!("quays/quays.go:{place}"), new, &[]);
        assert!(why.contains(said), "{code}{why}");
    }
}

#[test]
fn names_that_are_taken_to_be_seen_by_nobody_else_may_change() {
    for (code, place, used) in [
        (
            "import \"gauges.example/low\"\n\ntype Quay struct{}\n\nfunc (quay Quay) Low() { low.Of(quay) }\n",
            "6:18",
            "quay Quay) Ebb()",
        ),
        (
            "import \"encoding/json\"\n\ntype Quay struct{ Low int }\n\nvar text, _ = json.Marshal(Quay{Low: 1})\n",
            "4:19",
            "Quay{Ebb: 1}",
        ),
    ] {
        let code = format!("package quays\n{code}");
        let after = renamed(
            &[MODULE, ("quays/quays.go", &code)],
            &format!("quays/quays.go:{place}"),
            "Ebb",
            &["--all-members"],
        );
        assert!(after[1].contains(used), "{}", after[1]);
    }
    // A tag says by which name it is read.
    let code = "package quays\n\nimport \"encoding/json\"\n\ntype Quay struct {\n\tLow int `json:\"low\"`\n}\n\nvar text, _ = json.Marshal(Quay{})\n";
    let after = renamed(&[MODULE, ("quays/quays.go", code)], "quays/quays.go:6:2", "Ebb", &[]);
    assert_eq!(after[1], code.replace("Low", "Ebb"));
}
