//! Findings without a fix: what a program cannot prove, it leaves to people.

use crate::cases::bench::Bench;

#[test]
fn defaults_that_a_type_or_the_line_ties_down() {
    let bench = Bench::python("mutable-default");
    bench.leaves("def board(boats: list = []):\n    boats.append(1)\n");
    bench.leaves("def board(boats=[]): boats.append(1)\n");
    bench.leaves("board = lambda boats=[]: boats.append(1)\n");
    bench.leaves("def board(quay, boats=[quay]):\n    boats.append(quay)\n");
    bench.fixes(
        "
        def board(boats=[]):
            \"\"\"Adds one.\"\"\"
            boats.append(1)
        ",
        "
        def board(boats=None):
            \"\"\"Adds one.\"\"\"
            if boats is None:
                boats = []
            boats.append(1)
        ",
    );
}

#[test]
fn conditions_whose_other_side_may_be_anything() {
    Bench::python("compare-with-boolean")
        .leaves("def sail(late):\n    if late == True:\n        return 1\n    return 2\n");
    Bench::javascript("compare-with-boolean")
        .leaves("export function sail(late) {\n  if (late == true) return 1;\n  return 2;\n}\n");
    Bench::python("compare-with-boolean").fixes(
        "
        def sail(late, depth):
            if (late > depth) == True:
                return 1
            return 2
        ",
        "
        def sail(late, depth):
            if (late > depth):
                return 1
            return 2
        ",
    );
}

#[test]
fn swaps_that_would_lose_a_comment() {
    let bench = Bench::python("negated-condition");
    bench.leaves(
        "
        if not boat:
            moor(1)
        # The usual case:
        else:
            moor(2)
        ",
    );
}

#[test]
fn blocks_with_something_that_runs_later() {
    let bench = Bench::javascript("unreachable-code");
    bench.leaves(
        "
        export function sail() {
          return moor();
          function moor() {
            return 1;
          }
          moor();
        }
        ",
    );
    Bench::python("unreachable-code").fixes(
        "
        def sail(boat):
            return boat
            print(boat)
            print(boat)
        ",
        "
        def sail(boat):
            return boat
        ",
    );
}

#[test]
fn variables_whose_value_does_something_unclear() {
    let bench = Bench::python("unused-variable");
    bench.leaves("def sail(boats):\n    for boat in boats:\n        late = boat\n");
    let script = Bench::javascript("unused-variable");
    script.fixes(
        "
        export function sail() {
          const late = moor();
          return 1;
        }
        ",
        "
        export function sail() {
          moor();
          return 1;
        }
        ",
    );
    script.leaves("export function sail() {\n  const late = 3, depth = 2;\n  return depth;\n}\n");
}

#[test]
fn calls_whose_awaiting_would_change_what_is_called() {
    let bench = Bench::javascript("forgotten-await");
    bench.fixes(
        "
        async function moor() {
          return 1;
        }
        async function sail() {
          moor()
          return 2
        }
        ",
        "
        async function moor() {
          return 1;
        }
        async function sail() {
          await moor()
          return 2
        }
        ",
    );
    Bench::python("identity-of-literal").fixes("late = boat is 'Tern' is not 3\n", "late = boat == 'Tern' != 3\n");
}

#[test]
fn shell_words_keep_their_number() {
    let bench = Bench::shell("unquoted-expansion");
    bench.fixes("#!/bin/bash\nmoor $1$2 x$3y\n", "#!/bin/bash\nmoor \"$1$2\" \"x$3y\"\n");
    bench.leaves("#!/bin/bash\nmoor \"$1\"$2\n");
    bench.leaves("#!/bin/bash\nmoor $1/*.boat\n");
    Bench::shell("unchecked-cd").fixes("#!/bin/sh\ncd quays\nmoor\n", "#!/bin/sh\ncd quays || exit 1\nmoor\n");
    Bench::shell("unchecked-cd").fixes(
        "
        #!/bin/sh
        sail() {
          cd quays
          moor
        }
        sail
        ",
        "
        #!/bin/sh
        sail() {
          cd quays || return 1
          moor
        }
        sail
        ",
    );
}
