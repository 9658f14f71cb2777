//! Calls that do not fit, and results that are lost.

use crate::cases::bench::Bench;

#[test]
fn what_a_base_is_made_with_is_counted() {
    let bench = Bench::python("argument-count");
    bench.finds(
        "
        class Boat:
            def __init__(self, name, deck):
                self.name, self.deck = name, deck


        class Ferry(Boat):
            def __init__(self, name):
                «super().__init__(name)


        class Barge(Boat):
            def __init__(self, name):
                super().__init__(name, 1, «2)


        class Tug(Boat):
            def __init__(self, name, *rest):
                super().__init__(name, *rest)
                super().__init__(name, deck=3)
        ",
    );
    bench.passes(&[
        // Another class decides what is next.
        "class A:\n    def __init__(self):\n        self.a = 1\n\n\nclass B(A):\n    def __init__(self, b):\n        super().__init__(b)\n\n\nclass C(B, Quay):\n    pass\n",
        "class A:\n    def __init__(self):\n        self.a = 1\n\n\nclass DeckMixin(A):\n    def __init__(self, b):\n        super().__init__(b)\n",
        "class A:\n    def __init__(self):\n        self.a = 1\n\n\nclass B(A, Quay):\n    def __init__(self, b):\n        super().__init__(b)\n",
        "class A:\n    def __init__(self):\n        self.a = 1\n\n\nclass B(A):\n    def moor(self):\n        super(A, self).__init__(3)\n        super().moor(3)\n",
    ]);
}

#[test]
fn arguments_of_python_functions_are_counted() {
    let bench = Bench::python("argument-count");
    bench.finds(
        "
        def fare(child, day, *, ferry=None, late):
            return child, day, ferry, late


        fare(1, 2, late=3)
        «fare(1, 2)
        fare(1, 2, «3, late=4)
        fare(child=1, day=2, late=3)
        «fare(day=2, late=3)
        ",
    );
    bench.finds(
        "
        class Quay:
            def __init__(self, name, depth=3):
                self.name, self.depth = name, depth

            def moor(self, boat):
                return boat

            @staticmethod
            def widest(first, second):
                return first, second

            @classmethod
            def named(cls, name):
                return cls(name)


        Quay('north')
        «Quay()
        Quay('north', 2, «4)
        quay = Quay(name='south', depth=1)
        quay.moor(1)
        ",
    );
    bench.says(
        "
        def fare(child, day):
            return child, day
        fare()
        fare(1)
        fare(1, 2, 3, 4)
        ",
        &[
            "fare is called without \"child\", \"day\"",
            "fare is called without \"day\"",
            "fare takes 2 arguments but is given 4",
        ],
    );
}

#[test]
fn calls_whose_arguments_nobody_can_count_pass() {
    Bench::python("argument-count").passes(&[
        "
        def fare(child, day):
            return child, day
        fare(*quays)
        fare(**tides)
        fare(1, **tides)
        fare(*quays, day=2)
        ",
        "
        @priced
        def fare(child, day):
            return child, day
        fare(1)
        ",
        "
        def fare(child, day):
            return child, day
        fare = partial(fare, 1)
        fare(2)
        ",
        "
        def fare(child, day):
            return child, day
        if late:
            def fare(child):
                return child
        fare(1)
        ",
        "
        class Quay(Berth):
            pass
        Quay(1, 2, 3)
        ",
        "
        class Quay:
            def __new__(cls, *names):
                return super().__new__(cls)
        Quay(1, 2, 3)
        ",
        "
        class Quay(metaclass=Registry):
            def __init__(self, name):
                self.name = name
        Quay()
        ",
        "
        def fare(fare):
            return fare(1, 2, 3)
        ",
        "
        from dataclasses import dataclass
        @dataclass
        class Ticket:
            quay: str
            price: int = 0
        Ticket('north', 2)
        ",
    ]);
}

#[test]
fn javascript_functions_take_fewer_arguments_but_not_more() {
    let bench = Bench::javascript("argument-count");
    bench.finds(
        "
        function fare(child, day) {
          return child + day;
        }
        fare();
        fare(1);
        fare(1, 2);
        fare(1, 2, «3);
        const low = (tide) => tide;
        low(1, «2);
        ",
    );
    bench.passes(&[
        "
        function fare(child) {
          return arguments.length > 1 ? child : 0;
        }
        fare(1, 2);
        ",
        "
        function fare(...quays) {
          return quays;
        }
        fare(1, 2, 3);
        ",
        "
        let low = (tide) => tide;
        low = high;
        low(1, 2);
        ",
        "
        function fare(child) {
          return child;
        }
        fare(...quays);
        fare.call(null, 1, 2);
        fare.apply(null, quays);
        ",
        "
        class Quay {
          constructor(name) {
            this.name = name;
          }
        }
        new Quay();
        new Quay('north');
        ",
    ]);
}

#[test]
fn typescript_functions_need_what_is_not_optional() {
    let bench = Bench::typescript("argument-count");
    bench.finds(
        "
        function fare(child: boolean, day?: string, ferry = 'Tern') {
          return [child, day, ferry];
        }
        «fare();
        fare(true);
        fare(true, 'Monday', 'Gull');
        fare(true, 'Monday', 'Gull', «4);
        // @ts-expect-error the child is missing
        fare();
        // The child is missing.
        «fare();
        ",
    );
    bench.passes(&[
        "
        type Fare = (child: boolean, day?: string) => number;
        const fare: Fare = child => (child ? 1 : 2);
        fare(true, 'Monday');
        ",
        "
        function fare(child: boolean): number;
        function fare(child: boolean, day: string): number;
        function fare(child: boolean, day?: string): number {
          return child && day ? 1 : 2;
        }
        fare(true);
        fare(true, 'Monday');
        ",
        "
        function moor(this: Quay, boat: string) {
          return boat;
        }
        moor('Tern');
        ",
        "
        declare function fare(...quays: string[]): void;
        fare();
        fare('north', 'south');
        ",
    ]);
}

#[test]
fn keywords_must_be_parameters() {
    let bench = Bench::python("unknown-keyword");
    bench.finds(
        "
        def fare(child, /, day, *, ferry):
            return child, day, ferry


        fare(1, day=2, ferry=3)
        fare(1, «dya=2, ferry=3)
        fare(1, 2, ferry=3, «late=True)
        ",
    );
    bench.passes(&[
        "
        def fare(child, **rest):
            return child, rest
        fare(1, late=True)
        ",
        "
        def fare(child):
            return child
        fare(**tides)
        ",
        "
        def fare(child):
            return child
        fare.cache = {}
        dict(late=True)
        print(1, end='')
        ",
        "
        class Ticket(TypedDict):
            quay: str
        Ticket(quay='north', price=2)
        ",
    ]);
    bench.says(
        "
        def fare(child, discount):
            return child, discount
        fare(1, discuont=2)
        ",
        &["fare has no parameter \"discuont\""],
    );
}

#[test]
fn results_that_only_matter_when_used_are_not_ignored() {
    let bench = Bench::python("ignored-result");
    bench.finds(
        "
        def sail(quays, name):
            «sorted(quays)
            quays.sort()
            print(name.strip())
            return sorted(quays)
        ",
    );
    bench.passes(&[
        "
        def sorted(quays):
            quays.clear()
        sorted([])
        ",
        "
        def check(value):
            try:
                int(value)
            except ValueError:
                return False
            return True
        ",
        "
        def sail(boat):
            boat.strip()
        ",
    ]);
    Bench::javascript("ignored-result").finds(
        "
        export function sail(boats) {
          «Math.max(1, 2);
          boats.sort();
          «'north'.trim();
          'north,south'.replace(/[a-z]+/g, quay => boats.push(quay));
          «'north'.replace('n', 'N');
          Math.seedrandom('tide');
          return Math.max(...boats);
        }
        ",
    );
}

#[test]
fn async_calls_are_awaited_kept_or_dropped_on_purpose() {
    let bench = Bench::python("forgotten-await");
    bench.finds(
        "
        async def moor(boat):
            return boat


        async def sail(boats):
            «moor(boats[0])
            await moor(boats[1])
            task = moor(boats[2])
            await task
            return moor(boats[3])
        ",
    );
    bench.fixes(
        "
        async def moor():
            pass
        async def sail():
            moor()
        ",
        "
        async def moor():
            pass
        async def sail():
            await moor()
        ",
    );
    bench.finds(
        "
        class Ferry:
            async def moor(self):
                return self

            async def sail(self):
                «self.moor()
                await self.moor()
        ",
    );
    let script = Bench::javascript("forgotten-await");
    script.finds(
        "
        async function moor() {
          return 1;
        }
        async function sail() {
          «moor();
          void moor();
          await moor();
          moor().then(wave);
          const all = [moor(), moor()];
          await Promise.all(all);
        }
        ",
    );
    script.passes(&[
        "
        async function moor() {
          return 1;
        }
        function sail() {
          moor();
        }
        moor();
        ",
        "
        async function moor() {
          return 1;
        }
        async function sail(moor) {
          moor();
        }
        ",
    ]);
}

#[test]
fn exceptions_that_are_made_are_raised() {
    Bench::python("unraised-error").finds(
        "
        class TideError(ValueError):
            pass


        def check(depth):
            if depth < 2:
                «ValueError('too low')
            if depth < 1:
                raise ValueError('far too low')
            if depth < 0:
                raise TideError(depth)
            error = TideError(depth)
            return error
        ",
    );
    Bench::python("unraised-error").passes(&[
        "
        from quays import ValueError
        ValueError('a name that was imported')
        ",
        "
        def check(ValueError):
            ValueError('a parameter')
        ",
    ]);
}

#[test]
fn placeholders_and_values_are_as_many() {
    let bench = Bench::python("placeholder-count");
    bench.finds(
        "
        print(«'%s of %s' % (quay,))
        print('%s of %s' % (quay, tide))
        print(«'%d %%' % (quay, tide))
        print('%(quay)s' % {'quay': 1})
        print('%s' % quay)
        print(«'{} of {}'.format(quay))
        print('{0} of {0}'.format(quay))
        print('{quay}'.format(quay=1))
        ",
    );
    bench.passes(&[
        "print('%s of %s' % pair)\n",
        "print('%s of %s' % (*quays,))\n",
        "print('{} of {}'.format(*quays))\n",
        "print('{{}} of {}'.format(quay))\n",
        "print('%*d' % (width, depth))\n",
        "print('%.*f' % (places, depth))\n",
        "print(text % (quay, tide))\n",
        "print(b'%s' % (quay,))\n",
        "print('{0.depth} {0[1]}'.format(quay))\n",
        "print('100 %% sure' % ())\n",
    ]);
}
