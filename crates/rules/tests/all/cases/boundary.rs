//! What a team does not want used.

use sieve_rules::BanKind;

use crate::cases::bench::Bench;

#[test]
fn banned_calls_are_known_by_where_they_come_from() {
    let bench = Bench::python("banned-call").banning(BanKind::Call, "datetime.datetime.now");
    bench.finds(
        "
        import datetime
        import datetime as days
        from datetime import datetime as moment

        «datetime.datetime.now()
        «days.datetime.now()
        «moment.now()
        moment.fromtimestamp(0)
        clock.now()
        ",
    );
    bench.passes(&[
        "
        from clocks import datetime
        datetime.datetime.now()
        ",
        "
        def now(datetime):
            return datetime.datetime.now()
        ",
        "
        import datetime
        now = datetime.datetime
        now.now
        ",
    ]);
    let script = Bench::javascript("banned-call").banning(BanKind::Call, "Date.now");
    script.finds("export const start = «Date.now();\n");
    script.passes(&["import { Date } from './dates';\nexport const start = Date.now();\n"]);
    Bench::shell("banned-call").banning(BanKind::Call, "telnet").finds(
        "
        #!/bin/sh
        «telnet quay 23
        echo telnet
        sudo telnet quay
        netcat quay 23
        ",
    );
}

#[test]
fn banned_modules_in_every_form_of_import() {
    let bench = Bench::python("banned-import").banning(BanKind::Import, "tides.old");
    bench.finds(
        "
        import «tides.old
        import «tides.old.tables
        import tides
        from «tides.old import low
        from «tides.old.tables import high
        from tides import «old
        from tides import new
        import tides.older
        ",
    );
    let script = Bench::javascript("banned-import").banning(BanKind::Import, "old-tides");
    script.finds(
        "
        import low from «'old-tides';
        import high from «'old-tides/high';
        export { high as top } from «'old-tides';
        const late = require(«'old-tides');
        const later = import(«'old-tides');
        import other from 'older-tides';
        console.log(low, high, late, later, other);
        ",
    );
}

#[test]
fn banned_members_on_every_object() {
    let bench = Bench::python("banned-member").banning(BanKind::Member, "utcnow");
    bench.finds(
        "
        print(clock.«utcnow())
        print(clock.«utcnow)
        utcnow = 3
        print(utcnow, 'utcnow', clock.now)
        ",
    );
    Bench::javascript("banned-member").banning(BanKind::Member, "innerText").finds(
        "
        board.«innerText = 'north';
        const { innerText } = board;
        console.log(board?.«innerText, innerText);
        ",
    );
}

#[test]
fn imports_inside_functions() {
    let bench = Bench::python("local-import");
    bench.finds(
        "
        import math


        def moor():
            «import tides
            return tides, math
        ",
    );
    bench.passes(&[
        "
        try:
            import tides
        except ImportError:
            tides = None
        ",
        "
        if late:
            import tides
        ",
    ]);
}

#[test]
fn imports_of_everything() {
    Bench::python("wildcard-import").finds(
        "
        from tides import «*
        from quays import north
        import boats
        print(north(boats))
        ",
    );
    Bench::python("wildcard-import").at("booking/__init__.py").passes(&["from .fares import *\n"]);
    Bench::python("wildcard-import")
        .at("booking/all.py")
        .passes(&["\"\"\"All of it.\"\"\"\nfrom .fares import *\nfrom .tides import *\n"]);
    Bench::python("wildcard-import").at("booking/fares.pyi").passes(&["from .desk import *\ndef fare() -> int: ...\n"]);
}
