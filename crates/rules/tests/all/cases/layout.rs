//! Layout: what is found, and what the fix makes of it.

use sieve_rules::OptionValue;
use sieve_syntax::language::Language;

use crate::cases::bench::Bench;

#[test]
fn spaces_around_operators_and_commas() {
    let python = Bench::python("operator-spacing");
    python.fixes("depth=3\n", "depth = 3\n");
    python.fixes("late = depth>3 and tide  ==  1\n", "late = depth > 3 and tide == 1\n");
    python.passes(&[
        "def sail(boat=1, *rest, **more): return boat\n",
        "moor(boat=1, *rest, **more)\n",
        "low = -depth\nhigh = ~depth\nall = boats[1:-1]\n",
        "first = 1\nlast  = 2\n",
        "def sail(boat: int = 1) -> int: return boat\n",
        "print(f'{depth=} {depth!r:>10}')\n",
    ]);
    let script = Bench::javascript("operator-spacing");
    script.fixes("const late = depth>3&&tide===1;\n", "const late = depth > 3 && tide === 1;\n");
    script.passes(&[
        "const low = -depth, high = !depth, more = depth++;\n",
        "const next = (boat) => boat ?? (late ? 1 : 2);\n",
        "export const { a = 1, ...rest } = globalThis;\n",
        "function* all() { yield* other(); }\n",
        "const all = /a=b/g;\n",
    ]);
    Bench::python("comma-spacing").fixes("moor(1,2 ,3)\n", "moor(1, 2, 3)\n");
    Bench::python("comma-spacing").passes(&["one = (1,)\nall = boats[1,]\n", "print(f'{1, 2}')\n"]);
    Bench::python("comma-spacing").passes(&[
        "a = quay('low'     , 12)\nb = quay('highest' , 13)\n",
        "tides = [\n    [-6.5,   0.25, -0.125],\n    [ 7.5,  -0.75, 10.125],\n    [-0.5,  -0.25, -1.125],\n]\n",
    ]);
    Bench::javascript("comma-spacing").fixes("moor(1,2 ,3);\n", "moor(1, 2, 3);\n");
    Bench::javascript("comma-spacing").passes(&["const [, second, , fourth] = boats;\n", "for (;;) break;\n"]);
    Bench::python("colon-spacing").fixes("fares = {'child' :1}\n", "fares = {'child': 1}\n");
    Bench::python("colon-spacing").passes(&["all = boats[1:2]\nrest = boats[1:]\n", "first = lambda boat: boat\n"]);
}

#[test]
fn spaces_in_brackets_and_after_keywords() {
    let bench = Bench::python("bracket-spacing");
    bench.fixes("moor( boats[ 0 ] )\n", "moor(boats[0])\n");
    bench.fixes("moor (boats)\n", "moor(boats)\n");
    bench.passes(&["moor(\n    boats,\n)\n", "if (late): moor()\n", "late = (boats) if late else 0\n"]);
    Bench::javascript("keyword-spacing").fixes("if(late) moor();\n", "if (late) moor();\n");
    Bench::javascript("keyword-spacing").passes(&["const boat = { if: 1, for: 2 };\nmoor(boat.if, boat.for);\n"]);
    Bench::python("keyword-spacing").fixes("if  late:\n    moor()\n", "if late:\n    moor()\n");
}

#[test]
fn comments_have_a_space() {
    Bench::python("comment-space")
        .fixes("#Late boats go first\nmoor() #now\n", "# Late boats go first\nmoor()  #now\n");
    Bench::python("comment-space").passes(&[
        "#!/usr/bin/env python3\n",
        "#######\n# Boats\n#######\n",
        "#: the depth\ndepth = 3\n",
        "depth = 3  # type: ignore\n",
    ]);
    Bench::javascript("comment-space").fixes("//Late boats go first\nmoor();\n", "// Late boats go first\nmoor();\n");
    Bench::javascript("comment-space").passes(&["//#region boats\n///<reference path=\"a\" />\n//////\n"]);
    Bench::shell("comment-space").fixes("#!/bin/sh\n#Late boats go first\n", "#!/bin/sh\n# Late boats go first\n");
}

#[test]
fn ends_of_lines_and_of_files() {
    Bench::python("final-newline").fixes("depth = 3", "depth = 3\n");
    Bench::python("final-newline").passes(&["", "depth = 3\n"]);
    Bench::python("trailing-space").fixes("depth = 3  \n\t\ntide = 1\n", "depth = 3\n\ntide = 1\n");
    Bench::python("trailing-space").passes(&["depth = '''\nlow  \n'''\n"]);
    Bench::shell("trailing-space").passes(&["cat <<end\nlow  \nend\n"]);
    Bench::python("line-ending").fixes("a = 1\nb = 2\r\nc = 3\n", "a = 1\nb = 2\nc = 3\n");
    Bench::python("line-ending").fixes("a = 1\r\nb = 2\nc = 3\r\n", "a = 1\r\nb = 2\r\nc = 3\r\n");
}

#[test]
fn semicolons_where_the_file_has_them() {
    let bench = Bench::javascript("semicolons");
    bench.fixes("moor(1);\nmoor(2)\nmoor(3);\n", "moor(1);\nmoor(2);\nmoor(3);\n");
    bench.fixes("moor(1)\nmoor(2);\nmoor(3)\n", "moor(1)\nmoor(2)\nmoor(3)\n");
    bench
        .passes(&["for (;;) { break }\n", "class Ferry {\n  moor() {}\n}\nfunction sail() {}\nif (late) { moor() }\n"]);
    let never = Bench::javascript("semicolons");
    never.passes(&["moor(1)\nmoor(2)\n;[1, 2].forEach(moor)\nmoor(3)\n"]);
}

#[test]
fn quotes_of_one_kind() {
    let bench = Bench::python("quote-style");
    bench.fixes("a = 'x'\nb = 'y'\nc = \"z\"\n", "a = 'x'\nb = 'y'\nc = 'z'\n");
    bench.passes(&[
        "a = 'x'\nb = 'y'\nc = \"it's\"\n",
        "a = 'x'\nb = 'y'\n\"\"\"Words.\"\"\"\n",
        "a = 'x'\nb = 'y'\nc = f\"{d['k']}\"\n",
        "a = 'x'\nb = 'y'\nc = r\"\\'\"\n",
    ]);
    let script = Bench::javascript("quote-style");
    script.fixes("moor('a');\nmoor('b');\nmoor(\"c\");\n", "moor('a');\nmoor('b');\nmoor('c');\n");
    script.passes(&["moor('a');\nmoor('b');\nmoor(`c`);\nmoor(\"it's\");\n"]);
}

#[test]
fn statements_on_lines_of_their_own() {
    let bench = Bench::python("stacked-statements");
    bench.fixes("low = 1; high = 2\n", "low = 1\nhigh = 2\n");
    bench.finds(
        "
        if late: «moor()
        low = 1; «high = 2
        class Empty: pass
        def empty(): ...
        ",
    );
}

#[test]
fn long_lines_are_broken_at_their_brackets() {
    let bench = Bench::python("long-line").with("limit", OptionValue::Count(40));
    bench.finds(
        "
        depth = 3
        boats = moor(first_boat, second_boat, th«ird_boat)
        # https://saltmarsh.example/a/very/long/address/of/a/page
        ",
    );
    bench.fixes(
        "boats = moor(first_boat, second_boat, third_boat)\n",
        "boats = moor(\n    first_boat, second_boat, third_boat\n)\n",
    );
}

#[test]
fn commas_after_the_last() {
    let bench = Bench::python("trailing-comma");
    bench.fixes(
        "
        a = [
            1,
            2,
        ]
        b = [
            3,
            4,
        ]
        c = [
            5,
            6
        ]
        ",
        "
        a = [
            1,
            2,
        ]
        b = [
            3,
            4,
        ]
        c = [
            5,
            6,
        ]
        ",
    );
    bench.passes(&["a = [1, 2]\nb = (1,)\nmoor(*boats)\n"]);
}

#[test]
fn blank_lines_between_definitions() {
    let bench = Bench::python("blank-lines");
    bench.fixes(
        "
        import math
        def sail():
            return math
        def moor():
            return 1
        ",
        "
        import math


        def sail():
            return math


        def moor():
            return 1
        ",
    );
    bench.fixes("a = 1\n\n\n\n\nb = 2\n", "a = 1\n\n\nb = 2\n");
    bench.passes(&[
        "
        class Ferry:
            depth = 3

            def moor(self):
                return 1

            # Words that belong to the next.
            def sail(self):
                return 2
        ",
        "
        @overload
        def sail(boat: int) -> int: ...
        @overload
        def sail(boat: str) -> str: ...
        def sail(boat):
            return boat
        ",
    ]);
}

#[test]
fn imports_in_groups() {
    let bench = Bench::python("import-order");
    bench.fixes(
        "
        from . import fares
        import math
        import os
        print(fares, math, os)
        ",
        "
        import math
        import os

        from . import fares
        print(fares, math, os)
        ",
    );
    bench.passes(&[
        "
        import math

        from . import fares
        print(fares, math)
        ",
        "
        from __future__ import annotations

        import math
        print(math)
        ",
    ]);
}

#[test]
fn arrows_and_braces_like_the_rest_of_the_file() {
    Bench::javascript("arrow-parentheses").fixes(
        "
        const a = (boat) => boat;
        const b = (boat) => boat;
        const c = boat => boat;
        ",
        "
        const a = (boat) => boat;
        const b = (boat) => boat;
        const c = (boat) => boat;
        ",
    );
    Bench::javascript("brace-line").fixes(
        "
        if (a) {
          moor();
        }
        if (b) {
          moor();
        }
        if (c)
        {
          moor();
        }
        ",
        "
        if (a) {
          moor();
        }
        if (b) {
          moor();
        }
        if (c) {
          moor();
        }
        ",
    );
}

#[test]
fn indentation_in_equal_steps() {
    Bench::python("indent-width").fixes(
        "
        if a:
            moor()
            if b:
                moor()
        if c:
          moor()
        ",
        "
        if a:
            moor()
            if b:
                moor()
        if c:
            moor()
        ",
    );
    // After a form feed columns are counted anew.
    Bench::python("indent-width").passes(&["class Quay:\n\x0c    pass\nif a:\n  moor()\n"]);
    // A space of Unicode is a word of a shell.
    Bench::shell("blank-lines").passes(&["a\n\n    \u{3000}\n\n    \u{3000}\nb\n"]);
    Bench::python("tabs").fixes(
        "if a:\n    moor()\n    moor()\nif b:\n\tmoor()\n",
        "if a:\n    moor()\n    moor()\nif b:\n    moor()\n",
    );
    Bench::python("tabs").passes(&["depth = 'low\\thigh'\n", "depth = '''\n\tlow\n'''\n"]);
}

#[test]
fn the_spaces_before_calls_are_as_the_file_has_them() {
    let csharp = || Bench::of("bracket-spacing", Language::CSharp);
    csharp().finds(
        "
        class Desk {
            void Sail () { Moor (north); Wait (); Pay«(all [3]); }
        }
        ",
    );
    // Two of three are a habit; half of them are none.
    csharp().finds(
        "
        class Desk
        {
            void Sail() { Moor (north); Wait (); Pay(); }
        }
        ",
    );
}

#[test]
fn what_lines_up_behind_a_comment_is_aligned() {
    Bench::of("operator-spacing", Language::Java).finds(
        "
        class Desk {
            int north      = 1;
            // The quay in the south is closed.

            int southWest  = 2;
            int fare  «= 3;
        }
        ",
    );
}

#[test]
fn lines_of_data_are_nobodys_layout() {
    let rows = "3,".repeat(600);
    let bench = Bench::of("comma-spacing", Language::Java);
    assert_eq!(bench.run(&format!("class Desk {{\n    int[] fares = {{{rows}}};\n}}\n")).findings.len(), 0);
    assert!(!bench.run("class Desk {\n    int[] fares = {3,3};\n}\n").findings.is_empty());
}

#[test]
fn imports_that_stand_together_are_in_order_where_a_team_wants_that() {
    let java = || Bench::of("import-order", Language::Java).with("alphabet", OptionValue::Flag(true));
    java().fixes(
        "import java.util.List;\nimport ferry.Quay;\nimport java.util.concurrent.Future;\n\nimport a.B;\n",
        "import ferry.Quay;\nimport java.util.List;\nimport java.util.concurrent.Future;\n\nimport a.B;\n",
    );
    java().passes(&["import b.C;\n\nimport a.B;\nimport static z.Z.z;\nimport a.A;\n"]);
}
