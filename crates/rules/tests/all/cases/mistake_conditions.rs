//! Conditions that do not ask what they seem to ask, and branches that never run.

use crate::cases::bench::Bench;

#[test]
fn assignments_that_should_compare() {
    let bench = Bench::javascript("assigned-condition");
    bench.finds(
        "
        let tide = 1;
        if («tide = 3) moor(tide);
        if ((tide = 3)) moor(tide);
        if (tide === 3) moor(tide);
        const low = (tide = 2) ? 1 : 2;
        moor(low);
        ",
    );
    bench.passes(&[
        "let match; while ((match = next())) moor(match);\n",
        "let match; while (match = next()) moor(match);\n",
        "let quay; if (quay = find('north')) moor(quay);\n",
        "let tide; moor(tide = 3);\n",
    ]);
}

#[test]
fn conditions_that_are_constant() {
    let bench = Bench::python("constant-condition");
    bench.finds(
        "
        def sail(kind, quay):
            if kind == 1 or «2:
                return 1
            if kind == 'a' or «'b':
                return 2
            while «(quay, 'waits'):
                wait()
            assert «(quay, 'no quay')
            return 3
        ",
    );
    bench.passes(&[
        "while True:\n    wait()\n",
        "while 1:\n    wait()\n",
        "while 'waiting':\n    wait()\n",
        "if False:\n    wait()\n",
        "if TYPE_CHECKING:\n    import tides\n",
        "name = quay or 'north'\n",
        "name = quay and 'north' or 'south'\n",
        "if sort in (1, 2):\n    wait()\n",
        "assert quay, 'no quay'\n",
        "if __debug__:\n    wait()\n",
    ]);
    Bench::javascript("constant-condition").finds(
        "
        export function sail(kind) {
          if (kind === 1 || «2) moor(1);
          if («'waiting') moor(2);
          for (;;) moor(3);
          while (true) moor(4);
        }
        ",
    );
}

#[test]
fn comparisons_that_nobody_looks_at() {
    let bench = Bench::python("dropped-comparison");
    bench.finds(
        "
        def sail(boat):
            «boat.name == 'Tern'
            boat.late = boat.name == 'Gull'
            assert boat.name != 'Tern'
            return boat.name == 'Tern'
        ",
    );
    bench.passes(&[
        "
        def check(boat):
            with raises(TypeError):
                boat < 3
        ",
        "
        def check(boat):
            try:
                boat < 3
            except TypeError:
                return False
            return True
        ",
    ]);
    Bench::javascript("dropped-comparison").finds(
        "
        export function sail(boat) {
          «boat.name === 'Tern';
          boat.late = boat.name === 'Gull';
          return boat.name == 'Tern';
        }
        ",
    );
}

#[test]
fn literals_compared_by_identity() {
    let bench = Bench::python("identity-of-literal");
    bench.finds(
        "
        def check(quay):
            if quay «is 'north':
                return 1
            if quay «is not 3:
                return 2
            if quay is None or quay is True or quay is ...:
                return 3
            return quay == 'north'
        ",
    );
    bench.fixes("check = quay is 'north'\n", "check = quay == 'north'\n");
    bench.fixes("check = quay is not 'north'\n", "check = quay != 'north'\n");
}

#[test]
fn conditions_asked_twice_in_a_chain() {
    let bench = Bench::python("repeated-condition");
    bench.finds(
        "
        def fare(kind):
            if kind == 1:
                return 2
            elif kind == 2:
                return 3
            elif «kind == 1:
                return 4
            return 5
        ",
    );
    bench.passes(&[
        "
        if read():
            moor(1)
        elif read():
            moor(2)
        ",
        "
        if tide:
            moor(1)
        if tide:
            moor(2)
        ",
    ]);
    Bench::javascript("repeated-condition").finds(
        "
        export function fare(kind) {
          if (kind === 1) return 2;
          else if (kind === 2) return 3;
          else if («kind === 1) return 4;
          return 5;
        }
        ",
    );
}

#[test]
fn operands_that_are_the_same() {
    let bench = Bench::python("same-operands");
    bench.finds(
        "
        def check(low, high):
            if low == low:
                return 1
            if low < «low and high:
                return 2
            return high or «high
        ",
    );
    bench.passes(&[
        "check = low() == low()\n",
        "square = low * low\n",
        "twice = low + low\n",
        "import math\nisnan = low.depth * low.depth\n",
        "check = next(low) - next(low)\n",
        "check = 1 << 1\n",
    ]);
    Bench::javascript("same-operands").finds(
        "
        export const check = (low, high) => low.tide < «low.tide || high;
        ",
    );
    Bench::javascript("same-operands").passes(&["export const isNaN = (low) => low !== low;\n"]);
}

#[test]
fn branches_that_do_the_same() {
    let bench = Bench::python("same-branches");
    bench.finds(
        "
        def fare(child):
            «if child:
                return price(2)
            else:
                return price(2)
        ",
    );
    bench.passes(&[
        "
        def fare(child):
            if child:
                return price(2)
            else:
                return price(3)
        ",
        "
        def fare(child):
            if child:
                return price(2)
            elif child is None:
                return price(2)
            else:
                return price(4)
        ",
    ]);
    Bench::javascript("same-branches").finds(
        "
        export function fare(child) {
          «if (child) {
            return price(2);
          } else {
            return price(2);
          }
        }
        export const other = (child) => («child ? 2 : 2);
        ",
    );
}

#[test]
fn cases_that_an_earlier_one_takes() {
    let bench = Bench::python("unreachable-case");
    bench.finds(
        "
        def read(path):
            try:
                return open(path)
            except OSError:
                return 1
            except «FileNotFoundError:
                return 2
            except ValueError:
                return 3
        ",
    );
    bench.finds(
        "
        def read(path):
            try:
                return open(path)
            except Exception:
                return 1
            except «(KeyError, ValueError):
                return 2
        ",
    );
    bench.passes(&[
        "
        def read(path):
            try:
                return open(path)
            except FileNotFoundError:
                return 2
            except OSError:
                return 1
        ",
        "
        def read(path):
            try:
                return open(path)
            except TideError:
                return 2
            except LowTideError:
                return 1
        ",
    ]);
    Bench::javascript("unreachable-case").finds(
        "
        export function fare(kind) {
          switch (kind) {
            case 1:
              return 2;
            case 2:
              return 3;
            case «1:
              return 4;
            default:
              return 5;
          }
        }
        ",
    );
}

#[test]
fn loops_that_end_in_their_first_round() {
    let bench = Bench::python("loop-runs-once");
    bench.finds(
        "
        def first(boats):
            «while boats:
                print(boats)
                return boats[0]
        ",
    );
    bench.passes(&[
        "
        def first(boats):
            while boats:
                if boats[0].late:
                    continue
                return boats[0]
        ",
        "
        def first(boats):
            for boat in boats:
                return boat
        ",
        "
        def first(boats):
            while True:
                try:
                    return read(boats)
                except OSError:
                    wait()
        ",
    ]);
}

#[test]
fn code_after_the_end() {
    let bench = Bench::python("unreachable-code");
    bench.finds(
        "
        def sail(boat):
            if boat:
                return 1
                «print(boat)
            raise ValueError(boat)
            «return 2
        ",
    );
    bench.finds(
        "
        def sail(boats):
            for boat in boats:
                continue
                «print(boat)
            while True:
                wait()
            «print(boats)
        ",
    );
    bench.passes(&[
        "
        def sail(boats):
            while True:
                if boats:
                    break
            return boats
        ",
        "
        def empty():
            return
            yield
        ",
        "
        def sail(boats):
            try:
                return boats[0]
            except IndexError:
                pass
            return None
        ",
        "
        def sail(boats):
            with lock:
                return boats
            return None
        ",
    ]);
    let script = Bench::javascript("unreachable-code");
    script.finds(
        "
        export function sail(boat) {
          if (boat) {
            return 1;
            «moor(boat);
          }
          throw new Error('no boat');
          «moor(2);
        }
        ",
    );
    script.passes(&[
        "
        export function sail() {
          return moor();
          function moor() {
            return 1;
          }
        }
        ",
        "
        export function sail(kind) {
          switch (kind) {
            case 1:
              return 1;
            default:
              break;
          }
          return 2;
        }
        ",
        "
        export function sail(boats) {
          outer: for (const boat of boats) {
            for (;;) {
              if (boat) continue outer;
              break outer;
            }
          }
          return boats;
        }
        ",
    ]);
}

#[test]
fn cases_that_go_on_into_the_next() {
    let bench = Bench::javascript("fall-through");
    bench.finds(
        "
        export function fare(kind) {
          let price = 0;
          switch (kind) {
            «case 1:
              price += 1;
            case 2:
            case 3:
              price += 2;
              break;
            case 4:
              price += 3;
              // falls through
            case 5:
              return price;
            default:
              price += 4;
          }
          return price;
        }
        ",
    );
}
