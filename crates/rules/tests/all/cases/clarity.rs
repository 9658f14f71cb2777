//! What can be said more simply, and what is too much at once.

use sieve_rules::OptionValue;

use crate::cases::bench::Bench;

#[test]
fn comparisons_with_true_and_false() {
    let bench = Bench::python("compare-with-boolean");
    bench.finds(
        "
        def sail(boat, ready):
            if «ready == True:
                return 1
            while «boat.late != False:
                wait()
            late = boat.late == True
            if ready is True:
                return 2
            return late
        ",
    );
    let script = Bench::javascript("compare-with-boolean");
    script.finds(
        "
        export function sail(ready) {
          if («ready == true) return 1;
          if (ready === true) return 2;
          return ready == false;
        }
        ",
    );
}

#[test]
fn chains_of_equalities_become_lists() {
    let bench = Bench::python("equality-chain");
    bench.finds(
        "
        def sail(tide, boat):
            if «tide == 'low' or tide == 'high' or tide == 'spring':
                return 1
            if tide == 'low' or tide == 'high':
                return 2
            if tide == 'low' or boat == 'high' or tide == 'spring':
                return 3
            return tide() == 1 or tide() == 2 or tide() == 3
        ",
    );
    bench.fixes(
        "check = tide == 'low' or tide == 'high' or tide == 'spring'\n",
        "check = tide in ('low', 'high', 'spring')\n",
    );
}

#[test]
fn functions_over_their_limits() {
    Bench::python("many-parameters").with("limit", OptionValue::Count(3)).finds(
        "
        def «sail(boat, quay, tide, crew):
            return boat, quay, tide, crew


        def moor(boat, quay, tide):
            return boat, quay, tide


        class Ferry:
            def moor(self, boat, quay, tide):
                return self, boat, quay, tide
        ",
    );
    Bench::python("many-returns").with("limit", OptionValue::Count(2)).finds(
        "
        def «fare(child):
            if child == 1:
                return 1
            if child == 2:
                return 2
            return 3


        def outer(child):
            def inner():
                return 1
            if child:
                return inner
            return 2
        ",
    );
    Bench::python("long-function").with("limit", OptionValue::Count(3)).finds(
        "
        def «long(boat):
            moor(boat)
            moor(boat)
            moor(boat)
            moor(boat)


        def short(boat):
            # said

            moor(boat)
            moor(boat)
        ",
    );
    Bench::javascript("many-parameters").with("limit", OptionValue::Count(2)).finds(
        "
        export function «sail(boat, quay, tide) {
          return [boat, quay, tide];
        }
        export const moor = (boat, { quay, tide }) => [boat, quay, tide];
        ",
    );
}

#[test]
fn branches_and_nesting_are_counted_by_function() {
    Bench::python("branch-count").with("limit", OptionValue::Count(3)).finds(
        "
        def «fare(child, late):
            if child:
                return 1
            elif late and child is None:
                return 2
            return 3


        def plain(child):
            return 1 if child else 2
        ",
    );
    Bench::javascript("deep-nesting").with("limit", OptionValue::Count(2)).finds(
        "
        export function sail(boats) {
          for (const boat of boats) {
            if (boat.late) {
              «if (boat.full) {
                moor(boat);
              }
            } else if (boat.full) {
              moor(boat);
            }
          }
        }
        ",
    );
}

#[test]
fn numbers_without_a_name() {
    let bench = Bench::python("magic-number");
    bench.finds(
        "
        DEPTH = 4711


        def sail(boat, width=200):
            if boat.depth > «37:
                return 0
            late = 3 * 60
            return boat.width * «1.75 + late + width
        ",
    );
    bench.passes(&[
        "TABLE = [11, 12, 13, 14]\n",
        "def sail(boat):\n    return boat[0], boat[-1], boat * 2, 100 * boat\n",
    ]);
    bench.finds(
        "
        if sys.version_info >= (3, 11) and answer.status_code == 404:
            wait(days * 24 * 60, «3600)
        if answer.status_code in (301, 302) or answer.depth == «404 or answer.status_code > «4711:
            wait(days * «23)
        ",
    );
    Bench::javascript("magic-number").finds(
        "
        if (answer.status >= 500) answer.sendStatus(503);
        setTimeout(sail, «5000);
        ",
    );
    let none = OptionValue::Words(Vec::new());
    Bench::python("magic-number").with("known", none).finds("if answer.status == «404:\n    wait(days * «24)\n");
}

#[test]
fn lambdas_that_only_pass_on() {
    let bench = Bench::python("needless-lambda");
    bench.finds(
        "
        def moor(boat, quay=1):
            return boat, quay


        def sail(boats):
            first = map(«lambda boat: moor(boat), boats)
            second = map(lambda boat: moor(boat, 1), boats)
            third = map(lambda boat: boat.moor(), boats)
            fourth = map(lambda boat, quay=1: moor(boat), boats)
            return first, second, third, fourth
        ",
    );
}

#[test]
fn conditions_said_the_wrong_way_round() {
    let bench = Bench::python("negated-condition");
    bench.finds(
        "
        def sail(boat):
            if «not boat:
                moor(1)
            else:
                moor(2)
            if not boat:
                moor(3)
            if not boat:
                moor(4)
            elif boat.late:
                moor(5)
            else:
                moor(6)
        ",
    );
    bench.fixes(
        "
        if not boat:
            moor(1)
        else:
            moor(2)
        ",
        "
        if boat:
            moor(2)
        else:
            moor(1)
        ",
    );
}

#[test]
fn conditionals_inside_conditionals() {
    Bench::javascript("nested-conditional").finds(
        "
        export const fare = (child, late) => (child ? («late ? 1 : 2) : 3);
        export const flat = (child) => (child ? 1 : 2);
        export const call = (child, late) => (child ? pick(late ? 1 : 2) : 3);
        ",
    );
}

#[test]
fn classes_around_one_method() {
    let bench = Bench::python("few-methods");
    bench.finds(
        "
        class «Fare:
            def __init__(self, child):
                self.child = child

            def price(self):
                return 1 if self.child else 2
        ",
    );
    bench.passes(&[
        "
        class Fare(Base):
            def price(self):
                return 1
        ",
        "
        @dataclass
        class Fare:
            child: bool
            def price(self):
                return 1
        ",
        "
        class Fare:
            def price(self):
                return 1
            def late(self):
                return 2
        ",
    ]);
}
