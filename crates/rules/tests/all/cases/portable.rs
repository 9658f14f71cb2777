//! What only some shells and some versions have.

use sieve_rules::OptionValue;

use crate::cases::bench::Bench;

#[test]
fn features_of_other_shells() {
    let bench = Bench::shell("dialect-feature");
    bench.finds(
        "
        #!/bin/sh
        if «[[ $tide == low ]]; then moor; fi
        «boats=(north south)
        «source ./tides
        echo «${tide^^}
        moor «<<< \"$tide\"
        ",
    );
    bench.passes(&[
        "
        #!/bin/bash
        if [[ $tide == low ]]; then moor; fi
        boats=(north south)
        source ./tides
        echo ${tide^^}
        moor <<< \"$tide\"
        ",
        "
        #!/bin/sh
        if [ \"$tide\" = low ]; then moor; fi
        . ./tides
        echo \"${tide#low}\" \"${tide%%high}\" $((depth + 1))
        moor() { local boat=$1; echo \"$boat\"; }
        ",
    ]);
}

#[test]
fn features_of_later_versions() {
    let old = Bench::python("version-feature").with("python", OptionValue::Count(7));
    old.finds(
        "
        if («depth := measure()) > 2:
            print(f'{depth}')
        ",
    );
    let newer = Bench::python("version-feature").with("python", OptionValue::Count(9));
    newer.finds(
        "
        if (depth := measure()) > 2:
            print(depth)
        «match depth:
            case 1:
                print(1)
        try:
            moor()
        «except* OSError:
            pass
        ",
    );
    Bench::python("version-feature").with("python", OptionValue::Count(14)).passes(&["
        match depth:
            case 1:
                print(1)
        type Quay = str
        def first[Boat](boats: list[Boat]) -> Boat:
            return boats[0]
        "]);
    Bench::javascript("version-feature").with("ecmascript", OptionValue::Count(2019)).finds(
        "
        export const depth = «quay?.depth;
        export const name = «quay.name ?? 'north';
        export const big = «10n;
        export const short = quay.name || 'north';
        ",
    );
}
