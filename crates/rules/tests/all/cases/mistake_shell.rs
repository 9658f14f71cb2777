//! What shells do with words, statuses and folders.

use crate::cases::bench::Bench;

#[test]
fn expansions_without_quotes() {
    let bench = Bench::shell("unquoted-expansion");
    bench.finds(
        "
        #!/bin/bash
        read -r boat
        moor «$1
        moor \"$1\" '$2' \\$3
        rm -- «${boat}.log
        moor «$1 $boat \"$2\"
        moor $elsewhere
        cd \"$quay\" || exit
        [[ $tide == low && -n $boat ]]
        case $tide in low) : ;; esac
        late=$tide
        export quay=$1
        (( depth > $metres ))
        moor $# $? $$ $!
        ",
    );
    bench.passes(&[
        "
        #!/bin/bash
        for boat in $boats; do
          moor \"$boat\"
        done
        ",
        "
        #!/bin/bash
        cat <<end
        $quay and $tide
        end
        ",
        "
        #!/bin/bash
        depth=3
        moor $depth
        ",
    ]);
}

/// What a variable holds is what the script puts into it, through other variables and functions too.
#[test]
fn values_that_cannot_be_split_need_no_quotes() {
    let bench = Bench::shell("unquoted-expansion");
    bench.finds(
        "
        #!/bin/bash
        first=$1
        second=\"$first/tide\"
        third=${second%.*}
        moor «$third
        small='low'
        path=\"/srv/$small\"
        moor $small $path $((1 + 2)) ${#first}
        total=$(wc -l < tides)
        moor $total
        list=\"$first second\"
        list=\"$list third\"
        moor $list
        for filename in *.tide; do moor «$filename; done
        for device in /sys/class/net/*; do moor $device; done
        for day in mon tue; do moor $day; done
        while IFS= read -r report; do moor «$report; done
        [ $first -gt 3 ] && moor
        [ -n «$elsewhere ] && moor
        ",
    );
    bench.finds(
        "
        #!/bin/bash
        whole() { moor $1; }
        whole low
        cut() { moor «$1; }
        cut \"$2\"
        through() { cut_again \"$1\"; }
        cut_again() { moor «$1; }
        through \"$HOME\"
        spaces() { moor «$1; }
        spaces 'low tide'
        ",
    );
}

#[test]
fn expansions_get_their_quotes() {
    let bench = Bench::shell("unquoted-expansion");
    bench.fixes("#!/bin/bash\nmoor $1\n", "#!/bin/bash\nmoor \"$1\"\n");
    bench.fixes("#!/bin/bash\nrm -- ${1}.log\n", "#!/bin/bash\nrm -- \"${1}.log\"\n");
}

#[test]
fn all_arguments_are_passed_on_whole() {
    let bench = Bench::shell("unquoted-arguments");
    bench.finds(
        "
        #!/bin/bash
        moor «$@
        moor \"$@\"
        moor «$*
        moor \"$*\"
        for boat in «$@; do moor \"$boat\"; done
        moor «${boats[@]}
        moor \"${boats[@]}\"
        echo \"all: $*\"
        ",
    );
    bench.passes(&["#!/bin/bash\nboats=(\"$@\")\n", "#!/bin/sh\nset -- \"$@\" north\n"]);
}

#[test]
fn folders_that_may_not_be_there() {
    let bench = Bench::shell("unchecked-cd");
    bench.finds(
        "
        #!/bin/sh
        «cd quays
        rm -rf boats
        cd tides || exit
        cd fares && moor
        if cd north; then moor; fi
        (
          «cd south
          moor
        )
        ",
    );
    bench.passes(&[
        "
        #!/bin/sh
        set -e
        cd quays
        moor
        ",
        "
        #!/bin/sh -e
        cd quays
        moor
        ",
        "
        #!/bin/sh
        cd /
        moor
        ",
        "
        #!/bin/sh
        cd() { moor; }
        ",
    ]);
}

#[test]
fn statuses_that_declarations_hide() {
    let bench = Bench::shell("masked-status");
    bench.finds(
        "
        #!/bin/bash
        set -e
        «export quay=$(find_quay)
        moor() {
          «local boat=$(find_boat)
          local tide
          tide=$(find_tide)
          readonly depth=3
          echo \"$boat $tide $depth\"
        }
        ",
    );
    bench.passes(&["#!/bin/bash\nlocal_quay=$(find_quay)\n", "#!/bin/bash\nexport quay=north\n"]);
}

#[test]
fn lines_that_read_changes() {
    let bench = Bench::shell("raw-read");
    bench.finds(
        "
        #!/bin/bash
        «read boat < boats
        read -r boat < boats
        list_boats | «read boat
        while «read name depth; do moor; done
        ",
    );
    bench.passes(&[
        "#!/bin/bash\nread -p 'Which quay? ' quay\nread boat\n",
        "#!/bin/bash\nread_tides quay\n",
        "#!/bin/bash\nread() { moor; }\n",
    ]);
}

#[test]
fn listings_that_are_split_at_spaces() {
    let bench = Bench::shell("list-files-by-glob");
    bench.finds(
        "
        #!/bin/bash
        for boat in «$(ls *.boat); do moor \"$boat\"; done
        for boat in «`ls`; do moor \"$boat\"; done
        for boat in *.boat; do moor \"$boat\"; done
        for boat in $(boats); do moor \"$boat\"; done
        ",
    );
}

#[test]
fn variables_without_a_value_under_nounset() {
    let bench = Bench::shell("maybe-unset");
    bench.finds(
        "
        #!/bin/bash
        set -u
        echo \"«$quay\"
        quay=north
        echo \"$quay\"
        ",
    );
    bench.passes(&[
        "
        #!/bin/bash
        set -u
        echo \"${quay:-north}\" \"${tide:=low}\" \"${boat+set}\" \"$HOME\" \"$PATH\" \"$1\"
        quay=1 tide=2 boat=3
        ",
        "
        #!/bin/bash
        set -u
        read -r quay
        echo \"$quay\"
        ",
        "
        #!/bin/bash
        set -u
        while getopts 'q:' option; do
          echo \"$option $OPTARG\"
        done
        ",
        "
        #!/bin/bash
        set -u
        moor() {
          echo \"$quay\"
        }
        quay=north
        moor
        ",
    ]);
}

#[test]
fn folders_removed_by_a_variable() {
    let bench = Bench::shell("remove-with-variable");
    bench.finds(
        "
        #!/bin/bash
        rm -rf «\"$quays/\"
        rm -rf «\"$quays\"/*
        rm -rf \"${quays:?}/\"
        rm -rf quays/boats
        ",
    );
}

#[test]
fn programs_that_come_from_the_network() {
    let bench = Bench::shell("pipe-to-shell");
    bench.finds(
        "
        #!/bin/bash
        «curl -fsS https://quays.example/install | sh
        «wget -qO- https://quays.example/install | sudo bash -s --
        curl -fsS https://quays.example/tides | sort
        curl -fsS https://quays.example/install -o install.sh
        ",
    );
}
