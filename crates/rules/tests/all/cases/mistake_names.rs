//! Names that do not exist, and names without a value.

use crate::cases::bench::Bench;

#[test]
fn names_that_nothing_defines() {
    let bench = Bench::python("undefined-name");
    bench.finds(
        "
        import math
        from tides import *


        def sail(boat, *rest, **more):
            return math.pi, boat, rest, more
        ",
    );
    bench.finds(
        "
        import math


        def sail(boat, *rest, **more):
            print(«boats, boat, rest, more, math)
            return [quay for quay in boat if quay] + [«quay]


        class Ferry:
            depth = 3

            def moor(self):
                return «depth, self.depth, __class__, __name__
        ",
    );
    bench.passes(&[
        "
        try:
            unicode
        except NameError:
            unicode = str
        ",
        "
        def sail():
            global late
            late = 1
        def check():
            return late
        ",
        "
        def outer():
            def inner():
                nonlocal depth
                depth += 1
            depth = 1
            return inner
        ",
        "
        exec(source)
        print(quay)
        ",
        "
        class Ferry:
            depth = 3
        match Ferry():
            case {'name': name, **rest}:
                print(name, rest)
            case [first, *others] | (first, *others):
                print(first, others)
            case Ferry(depth=depth) as ferry:
                print(depth, ferry)
        ",
        "
        type Quays[Name] = dict[Name, int]
        def first[Boat](boats: list[Boat]) -> Boat:
            return boats[0]
        class Pair[Left, Right]:
            left: Left
        ",
        "
        print([(low := tide) for tide in range(3)], low)
        ",
        "
        def sail(boat: 'Ferry') -> 'list[Ferry]':
            return [boat]
        class Ferry:
            pass
        ",
        "
        boat = lambda quay, *, depth=3: (quay, depth)
        del boat
        ",
    ]);
    bench.says("print(sorteed([]))\n", &["nothing defines \"sorteed\""]);
}

#[test]
fn names_in_typescript_live_in_two_spaces() {
    let bench = Bench::typescript("undefined-name");
    bench.passes(&[
        "
        interface Quay { name: string }
        type Quays = Record<string, Quay>;
        export function first(quays: Quays, key: keyof Quays): Quay | undefined {
          return quays[key];
        }
        ",
        "
        export type Unwrap<T> = T extends Promise<infer Inner> ? Inner : T;
        export type Keys = { [Name in 'north' | 'south']: Name };
        ",
        "
        declare const SALTMARSH: string;
        declare global { interface Window { ferry: string } }
        export const name = SALTMARSH;
        ",
        "
        enum Tide { Low, High = Low + 1 }
        namespace Quays { export const depth = 3; export const twice = depth * 2; }
        export { Tide, Quays };
        ",
        "
        export class Ferry<Cargo> {
          constructor(private readonly cargo: Cargo) {}
          take(): Cargo { return this.cargo; }
          is(other: unknown): other is Ferry<Cargo> { return other instanceof Ferry; }
        }
        ",
        "
        export function assertQuay(value: unknown): asserts value is string {
          if (typeof value !== 'string') throw new TypeError(String(value));
        }
        ",
    ]);
}

#[test]
fn javascript_names_may_come_from_the_place_it_runs_in() {
    let bench = Bench::javascript("undefined-name");
    bench.finds(
        "
        export function sail(boat) {
          for (const quay of boat.quays) moor(quay);
          return «quay;
        }
        function moor(quay) {
          try {
            return quay.name;
          } catch ({ message }) {
            return message;
          }
        }
        ",
    );
    bench.passes(&[
        "console.log(globalThis, setTimeout, JSON, Promise);\n",
        "if (typeof window !== 'undefined') console.log(typeof jest);\n",
        "label: for (;;) break label;\n",
        "export const { a, b: { c = 1 }, ...rest } = globalThis; console.log(a, c, rest);\n",
    ]);
}

#[test]
fn values_that_come_too_late_or_not_at_all() {
    let bench = Bench::python("maybe-unset");
    bench.finds(
        "
        def fare(child, late):
            if child:
                price = 2
            print(late, «price)


        def depth(quay):
            print(«metres)
            metres = quay.depth
            del metres
            return «metres
        ",
    );
    bench.passes(&[
        "
        def fare(child):
            try:
                price = find(child)
            except KeyError:
                raise ValueError(child) from None
            return price
        ",
        "
        def fare(child):
            if not child:
                sys.exit(1)
            else:
                price = 2
            return price
        ",
        "
        def fare(children):
            for child in children:
                price = child.price
            else:
                price = 0
            return price
        ",
        "
        def fare(path):
            with open(path) as file:
                price = file.read()
            return price
        ",
        "
        def fare(tide):
            match tide:
                case 'low':
                    price = 2
                case _:
                    price = 4
            return price
        ",
        "
        def later():
            return price
        price = 3
        ",
        "
        def fare(child):
            if child:
                price = 2
            def inner():
                return price
            return inner
        ",
    ]);
}

#[test]
fn javascript_reads_before_its_declarations() {
    let bench = Bench::javascript("maybe-unset");
    bench.finds(
        "
        export function sail() {
          moor(«boat, wave);
          const boat = 'Tern';
          class Quay extends «Berth {}
          class Berth {}
          var wave = 1;
          return [boat, Quay];
        }
        ",
    );
    bench.passes(&[
        "
        export const sail = () => boat;
        const boat = 'Tern';
        ",
        "
        export class Quay {
          static first = 1;
          static second = Quay.first;
          make() {
            return new Quay();
          }
        }
        ",
    ]);
}

#[test]
fn targets_and_keys_and_parameters_given_twice() {
    Bench::python("repeated-target").finds(
        "
        low, «low = tides
        low, (high, «low) = tides
        low, high = high, low
        _, _ = tides
        for quay, «quay in quays:
            print(quay)
        ",
    );
    Bench::python("repeated-key").finds(
        "
        fares = {
            'child': 1,
            'adult': 2,
            «'child': 3,
            1: 'one',
            «1.0: 'also one',
            True: 'and again',
            late: 1,
        }
        ",
    );
    Bench::python("repeated-key").passes(&[
        "fares = {'child': 1, b'child': 2, **more, 'adult': 3}\n",
        "fares = {read(): 1, read(): 2}\n",
        "fares = {'1': 1, 1: 2}\n",
    ]);
    Bench::javascript("repeated-key").finds(
        "
        export const fares = {
          child: 1,
          adult: 2,
          «'child': 3,
          get late() { return 1; },
          set late(value) { console.log(value); },
          ['adult']: 4,
          1: 'one',
          «0x1: 'also one',
        };
        ",
    );
}

#[test]
fn defaults_that_all_calls_share() {
    let bench = Bench::python("mutable-default");
    bench.finds(
        "
        def board(crew, boats=«[]):
            boats.append(crew)
            return boats


        def table(fares=«{}, *, quays=«set()):
            fares['late'] = 1
            quays.add(1)


        def read_only(names=[], sizes=()):
            return len(names) + len(sizes)
        ",
    );
}

#[test]
fn errors_that_vanish() {
    let bench = Bench::python("swallowed-error");
    bench.finds(
        "
        def read(path):
            try:
                return open(path)
            «except Exception:
                pass
        ",
    );
    bench.passes(&[
        "
        def read(path):
            try:
                return open(path)
            except FileNotFoundError:
                pass
        ",
        "
        def read(path):
            try:
                return open(path)
            except Exception as error:
                print(error)
        ",
        "
        def read(path):
            try:
                return open(path)
            except Exception:
                raise
        ",
    ]);
    Bench::javascript("swallowed-error").finds(
        "
        try {
          draw();
          // Some devices cannot draw this.

        } catch (error) {

        } finally {
          clear();
        }
        try {
          // Some devices cannot draw this.
          draw();
        } «catch (error) {
        }
        ",
    );
}
