//! Names in a style, and names that others chose.

use sieve_rules::OptionValue;
use sieve_syntax::language::Language;

use crate::cases::bench::Bench;

#[test]
fn functions_and_methods_of_python() {
    let bench = Bench::python("function-name");
    bench.finds(
        "
        def «sailAway():
            return 1


        def sail_away():
            return 2


        def _late():
            return 3


        class Ferry:
            def «moorAt(self):
                return self

            def __len__(self):
                return 1
        ",
    );
    bench.doubts(
        "
        class Ferry(Base):
            def moorAt(self):
                return self
        ",
        &["a base class may have chosen this name"],
    );
}

#[test]
fn functions_of_javascript() {
    Bench::javascript("function-name").finds(
        "
        export function «sail_away() {}
        export function sailAway() {}
        export const moor_at = () => 1;
        export function Board() {
          return new.target;
        }
        ",
    );
}

#[test]
fn types_and_constants() {
    Bench::python("type-name").finds(
        "
        class «ferry_boat:
            pass


        class FerryBoat:
            pass


        class _Late:
            pass
        ",
    );
    Bench::typescript("type-name").finds(
        "
        export interface «quay_side { name: string }
        export interface QuaySide { name: string }
        export type «tide = string;
        export enum «depths { Low }
        ",
    );
    Bench::python("constant-name").finds(
        "
        depth = measure()
        «maxDepth = 3
        MAX_DEPTH = 4
        ",
    );
}

#[test]
fn variables_and_parameters() {
    Bench::python("variable-name").finds(
        "
        def sail(boats):
            «lateBoat = boats[0]
            late_boat = boats[1]
            X_train = boats[2]
            return lateBoat, late_boat, X_train
        ",
    );
    Bench::python("parameter-name").finds(
        "
        def sail(«lateBoat, quay, *, «newQuay=1, **rest):
            return lateBoat, quay, newQuay, rest
        ",
    );
    Bench::javascript("variable-name").finds(
        "
        export function sail(boats) {
          const «late_boat = boats[0];
          const lateBoat = boats[1];
          const LIMIT = 3;
          const { old_quay } = boats;
          return [late_boat, lateBoat, LIMIT, old_quay];
        }
        ",
    );
}

#[test]
fn names_that_say_nothing() {
    Bench::python("banned-name").finds(
        "
        def «foo(quay):
            «l = quay
            «O = quay
            depth = quay
            return l, O, depth
        ",
    );
    Bench::python("banned-name").finds("def «foo(«bar):\n    return bar\n");
    Bench::python("banned-name").passes(&["def bar(chart):\n    return chart\n"]);
    Bench::javascript("banned-name").finds("export const «foo = 1;\nexport const food = 2;\n");
}

#[test]
fn asynchronous_functions_by_name() {
    Bench::python("async-suffix").finds(
        "
        async def «moor():
            return 1


        async def moor_async():
            return 2


        def sail():
            return 3
        ",
    );
}

#[test]
fn files_are_named_like_modules() {
    for (path, is_wrong) in [
        ("booking/lateFares.py", true),
        ("booking/late-fares.py", true),
        ("booking/late_fares.py", false),
        ("booking/__init__.py", false),
        ("booking/late_fares.test.py", false),
    ] {
        let marked = if is_wrong { "«x = 1\n" } else { "x = 1\n" };
        Bench::python("file-name").at(path).finds(marked);
    }
    Bench::python("file-name").at("booking/lateFares").passes(&["#!/usr/bin/env python3\nx = 1\n"]);
}

#[test]
fn the_suffix_of_asynchronous_functions_as_a_team_likes_it() {
    let csharp = || Bench::of("async-suffix", Language::CSharp);
    csharp().finds(
        "
        class Desk
        {
            public async Task<int> «Load() => await Tides();
            public async ValueTask MoorAsync() => await Tides();
            async void OnClick() => await Load();
            Task Sail() => Tides();
        }
        ",
    );
    csharp().with("wanted", OptionValue::Flag(false)).finds(
        "
        class Desk
        {
            public async Task<int> Load() => await Tides();
            public async ValueTask «MoorAsync() => await Tides();
            static async Task Async() => await Tides();
            Task SailAsync() => Tides();
        }
        ",
    );
}
