//! Places that cannot be decided: nothing is found there, and the reason is given.

use crate::cases::bench::Bench;

#[test]
fn imports_that_somebody_else_may_need() {
    let bench = Bench::python("unused-import");
    bench.doubts(
        "try:\n    import tides\nexcept ImportError:\n    pass\n",
        &["the import tries whether the module is there"],
    );
    bench.doubts("class Quay:\n    import tides\n", &["a name of a class may be used through the class"]);
    bench.doubts("import tides  # registers the tables\n", &["a comment says something of the import"]);
    bench.doubts("import tides\nprint(eval('1'))\n", &["names are made at run time here"]);
    bench.doubts("import tides\ngetattr(quays, 'tides')\n", &["a string mentions the name"]);
    bench.finds("import «tides\nprint('tides')  # tides\n");
    bench.doubts("from tides import low\n__all__ = make()\n", &["the list of exports is made at run time"]);
    Bench::python("unused-import")
        .at("booking/__init__.py")
        .doubts("from .fares import fare\n", &["the file may hand the name on"]);
    Bench::python("unused-import")
        .at("booking/conftest.py")
        .doubts("from .fares import load_tests\n", &["the name is found by whoever loads the file"]);
    let by_parameter = "a runner of tests may find the name by parameters";
    Bench::python("unused-import").at("tests/conftest.py").doubts("from quays import pier\n", &[by_parameter]);
    Bench::python("unused-import")
        .at("tests/test_quays.py")
        .doubts("from quays import pier\n\n\ndef test_depth(pier):\n    assert pier\n", &[by_parameter]);
    Bench::python("unused-import")
        .at("tests/test_quays.py")
        .finds("from quays import «pier\n\n\ndef test_depth(tide):\n    assert tide\n");
    Bench::python("unused-import")
        .doubts("def sail():\n    global tides\n    import tides\n", &["the name is shared with other functions"]);
}

#[test]
fn variables_that_a_string_may_read() {
    let bench = Bench::python("unused-variable");
    let reads = ["a string that may read the variables around it mentions the name"];
    bench.doubts("def late(boats):\n    now = 3\n    return boats.query('left > @now')\n", &reads);
    bench.doubts("def late(store):\n    now = 3\n    return store.select('boats', where='left > now')\n", &reads);
    bench.finds("def late(boats):\n    «now = 3\n    return boats.find('left > @now')\n");
}

#[test]
fn names_that_may_come_from_somewhere() {
    let bench = Bench::python("undefined-name");
    bench.doubts("print(__tides__)\n", &["what loads the file may give it special names"]);
    bench.finds("print(«__flie__)\n");
    bench.doubts("from tides import *\nprint(low)\n", &["a star import may define this name"]);
    bench.doubts("exec('low = 1')\nprint(low)\n", &["names are made at run time here"]);
    bench.doubts(
        "try:\n    print(low)\nexcept NameError:\n    pass\n",
        &["the code handles that the name may not exist"],
    );
    Bench::javascript("undefined-name")
        .doubts("export default describe;\n", &["another file may define or use this name"]);
    Bench::javascript("undefined-name").doubts(
        "moor(low);\n",
        &["another file may define or use this name", "another file may define or use this name"],
    );
    Bench::typescript("undefined-name")
        .doubts("export const low = high;\n", &["another file may define or use this name"]);
}

#[test]
fn values_that_may_be_there() {
    let bench = Bench::python("maybe-unset");
    bench.doubts(
        "
        def sail(boats):
            for boat in boats:
                last = boat
            return last
        ",
        &["the way without a value may never be taken"],
    );
    bench.doubts(
        "
        def fare(child):
            if child:
                price = 2
            if child:
                print(price)
        ",
        &["the condition of the place may be that of the value"],
    );
    bench.doubts(
        "
        def sail(boats):
            for boat in boats:
                if boat:
                    print(last)
                last = boat
        ",
        &["the condition of the place may be that of the value"],
    );
    bench.doubts(
        "
        def read(path):
            try:
                file = open(path)
                file.read()
            except OSError:
                file.close()
        ",
        &["the error that is handled may come only when the value is there"],
    );
    bench.doubts(
        "
        def read(low):
            if low:
                depth = 1
            try:
                print(depth)
            except NameError:
                print(low)
        ",
        &["the code handles that the name may not exist"],
    );
    Bench::python("maybe-unset").at("tests/test_fares.py").doubts(
        "
        def test_fare(child):
            if child:
                price = 2
            assert price
        ",
        &["a test may know which way it goes"],
    );
}

#[test]
fn variables_and_functions_that_may_be_used() {
    Bench::python("unused-variable")
        .doubts("def sail():\n    low = 1\n    return locals()\n", &["names are made at run time here"]);
    Bench::python("unused-variable")
        .doubts("def sail():\n    low = 1\n    return eval('low')\n", &["names are made at run time here"]);
    Bench::python("unused-function").doubts(
        "def sail():\n    def low():\n        return 1\n    return locals()\n",
        &["names are made at run time here"],
    );
    Bench::javascript("unused-variable").doubts(
        "export function sail() {\n  const low = 1;\n  return eval('low');\n}\n",
        &["names are made at run time here"],
    );
}

#[test]
fn statements_that_may_mean_something() {
    Bench::javascript("assigned-condition")
        .doubts("let low;\nif (low = next()) moor(low);\n", &["the value may be kept and asked for at once"]);
}
