//! Slips that fail when their line is reached, or do nothing at all.

use crate::cases::bench::Bench;

#[test]
fn collections_that_change_under_their_loop() {
    let bench = Bench::python("changed-in-loop");
    bench.finds(
        "
        for boat in crew.boats:
            if boat.late:
                «crew.boats.remove(boat)
        for name in fares:
            «del fares[name]
        for name, fare in fares.items():
            if fare < 2:
                «fares.pop(name)
        for boat in boats:
            other.remove(boat)
        for boat in sorted(boats):
            boats.remove(boat)
        for boat in boats[:]:
            boats.remove(boat)
        for boat in boats:
            boats = boats.copy()
            boats.remove(boat)
        for boat in boats:
            later(lambda: boats.remove(boat))
        ",
    );
    bench.passes(&[
        "
        for boat in boats:
            if boat.late:
                boats.remove(boat)
                break
        ",
        "
        def sail(boats):
            for boat in boats:
                if boat.late:
                    if boat.gone:
                        boats.remove(boat)
                    return boat
        ",
    ]);
}

#[test]
fn functions_of_a_loop_that_share_its_variable() {
    let bench = Bench::python("late-bound-variable");
    bench.finds(
        "
        made = []
        for boat, quay in plan:
            made.append(lambda: «boat.sail())
            made.append(lambda boat=boat: boat.sail())
            made.append(lambda quay: quay.depth)
            boats.sort(key=lambda other: other - boat)
            def moor(day):
                return «quay.depth + day
            late[quay] = moor
        ",
    );
    bench.passes(&[
        "
        for boat in boats:
            @on_tide
            def moor():
                return boat
        ",
        "
        for boat in boats:
            made.append(lambda: boat)
            break
        ",
    ]);
}

#[test]
fn what_none_cannot_have() {
    Bench::python("member-of-none").finds(
        "
        if boat is None:
            print(«boat.name)
        if boat is None:
            boat = make()
            boat.sail()
        if boat is None:
            if other:
                boat = make()
            boat.sail()
        if boat is None and «boat.late:
            pass
        if boat is None or boat.late:
            pass
        if boat is not None or «boat.late:
            pass
        if boat is not None or isinstance(boat, Boat) and boat.late:
            pass
        if boat is None:
            later(lambda: boat.name)
        if boat is not None:
            boat.sail()
        ",
    );
    Bench::javascript("member-of-none").finds(
        "
        if (boat == null) «boat.moor();
        if (boat === undefined) { (boat ??= make()).moor(); }
        if (boat === null) { boat?.moor(); }
        const late = boat !== null || «boat.late;
        const name = boat === null && boat?.name;
        ",
    );
}

#[test]
fn names_that_are_defined_again() {
    let bench = Bench::python("repeated-definition");
    bench.finds(
        "
        class Boat:
            def sail(self):
                return 1
            @property
            def name(self):
                return 1
            @name.setter
            def name(self, value):
                self.value = value
            def «sail(self):
                return 2

        def low(day):
            return day
        def «low(day):
            return day + 1

        def high(day):
            return day
        high = cached(high)
        def high(day):
            return day

        if low:
            def flat():
                return 1
        else:
            def flat():
                return 2
        ",
    );
    Bench::javascript("repeated-definition").finds(
        "
        class Boat {
          get name() { return 1; }
          set name(name) {}
          static sail() {}
          sail() {}
          static «sail() {}
        }
        function moor(quay) {
          const «quay = 1;
          let depth = 2;
          { let depth = 3; }
          let «depth = 4;
        }
        export { a, b as c };
        export { d as «c };
        ",
    );
    Bench::typescript("repeated-definition").passes(&["
        class Boat {
          sail(day: number): void;
          sail(day: string): void;
          sail(day: any): void {}
        }
        "]);
}

#[test]
fn members_that_a_class_does_not_have() {
    Bench::python("attribute-slip").finds(
        "
        class Boat:
            def __init__(self):
                self.length, self.seats = 3, 4
            def double(self):
                return self.«lenght * 2
            def whole(self):
                return self.seat + self.lengths
        class Ferry(Boat):
            def double(self):
                return self.lenght
        class Raft:
            def __init__(self):
                self.length = 3
                setattr(self, name, 4)
            def double(self):
                return self.lenght
        class Quay:
            def one(self):
                self.length = 1
            def inner(self):
                class Pier:
                    def two(self):
                        return self.lenght
                return Pier
        ",
    );
    Bench::python("missing-super").finds(
        "
        class Boat:
            def __init__(self, name):
                self.name = name
            def label(self):
                return self.name

        class Ferry(Boat):
            def «__init__(self):
                self.seats = 3

        class Raft(Boat):
            def __init__(self):
                self.name = 'raft'

        class Buoy(Boat):
            def __init__(self):
                Boat.__init__ (self, 'buoy')

        class Pier(Boat):
            def __init__(self):
                self.depth = 3
            def label(self):
                return 'pier'

        class Tender(Boat):
            def __init__(self):
                self.seats = 3
            def __getattr__(self, name):
                return 'tender'
        ",
    );
}

#[test]
fn collections_of_a_class_that_its_objects_change() {
    Bench::python("shared-attribute").finds(
        "
        class Boat:
            «seats = []
            «fares = {}
            names = []
            DEPTHS = []
            cache = {}
            crew = []
            def __init__(self):
                self.names = []
            def book(self, seat, names):
                self.seats.append(seat)
                self.fares[seat] = 3
                self.names.append(seat)
                self.DEPTHS.append(1)
                self.cache[seat] = 1
                return self.crew + names

        class Ferry(Boat):
            rafts = []
            def add(self, raft):
                self.rafts.append(raft)
        ",
    );
}

#[test]
fn special_methods_take_what_python_gives_them() {
    Bench::python("special-method").finds(
        "
        class Boat:
            def __init__(self, name):
                if not name:
                    return
                def later():
                    return 3
                «return name
            def «__len__(self, of):
                return 3
            def «__exit__(self, kind, error):
                pass
            def __enter__(self, *rest):
                return self
            def __getitem__(self, at, otherwise=None):
                return at
            @staticmethod
            def __eq__(one):
                return True
        class Tide(Interface):
            def __getitem__(at):
                pass
        ",
    );
}

#[test]
fn escapes_and_patterns_are_those_of_the_language() {
    let bench = Bench::python("invalid-escape");
    bench.finds(
        "
        one = '«\\d+'
        two = b'«\\w'
        three = r'\\d' + '\\n' + '\\x41' + '\\N{BULLET}'
        four = '''a «\\. b'''
        ",
    );
    bench.fixes("one = '\\d'\n", "one = r'\\d'\n");
    bench.fixes("one = '\\d\\n'\n", "one = '\\\\d\\n'\n");
    bench.fixes("one = u'\\d'\n", "one = u'\\\\d'\n");
    Bench::python("invalid-pattern").finds(
        "
        import re
        re.compile(«'(low')
        re.compile('(low)')
        re.compile(r'\\(low')
        re.sub(«'low)', '', tide)
        re.compile('''(  # one
        )''')
        other.compile('(low')
        ",
    );
}

#[test]
fn constants_stay_as_they_are() {
    Bench::javascript("assigned-constant").finds(
        "
        import { depth } from './tides';
        const total = 0, boat = {};
        let late = 1;
        «total += 1;
        «depth = 2;
        late = 2;
        boat.name = 'Tern';
        «total++;
        function sail(total) { total = 3; }
        ",
    );
}

#[test]
fn private_members_are_used_by_their_class() {
    Bench::typescript("unused-member").finds(
        "
        class Boat {
          private «depth = 3;
          private seats = 4;
          private readonly brand!: 'boat';
          #«name = 'Tern';
          #quay = 1;
          static #_ = register(Boat);
          public length = 2;
          private constructor() {}
          sail() { return this.seats + this.#quay; }
        }
        "
        .replace("#«", "«#")
        .as_str(),
    );
}

#[test]
fn promises_where_a_value_is_wanted() {
    Bench::javascript("forgotten-await").finds(
        "
        async function depth() { return 3; }
        async function sail() {
          if («depth()) return 1;
          if (await depth()) return 2;
          const later = depth();
          return «depth() + 1 > 2 || later;
        }
        ",
    );
    Bench::python("forgotten-await").finds(
        "
        import asyncio

        async def depth():
            return 3

        async def sail():
            «asyncio.sleep(1)
            await asyncio.sleep(1)
            task = asyncio.sleep(1)
            while not «depth():
                return task
        ",
    );
    Bench::javascript("async-callback").finds(
        "
        boats.filter(«async (boat) => boat.late());
        boats.forEach(«async (boat) => { await boat.moor(); });
        boats.forEach(async (boat) => { boat.moor(); });
        boats.filter(asyncBoat => asyncBoat.late);
        boats.map(async (boat) => boat.late());
        ",
    );
}

#[test]
fn loops_and_tests_of_scripts() {
    Bench::shell("lost-in-pipe").finds(
        "
        #!/bin/bash
        cat tides | while read -r line; do
          «count=$((count + 1))
          last=$line
        done
        echo \"$count\"
        last=none
        echo \"$last\"
        ls | read -r «first
        echo \"$first\"
        (cat tides | while read -r line; do inner=1; done; echo \"$inner\")
        ",
    );
    Bench::shell("constant-test").finds(
        "
        #!/bin/bash
        [ «low ]
        [ \"$tide\" ]
        [ «\"$tide\"=\"low\" ]
        [ -n «tide ]
        [ \"$tide\" = low ]
        [ xyes = xno ]
        [[ «tide == low ]]
        [[ $tide == low ]]
        while [ 1 ]; do break; done
        ",
    );
    Bench::shell("read-and-written").finds(
        "
        #!/bin/bash
        sort tides «> tides
        sort tides > sorted
        grep low tides | sort «> tides
        sed tides > tides
        sort < tides «> tides
        cat < /dev/tty > /dev/tty
        sort tides >> tides
        ",
    );
    Bench::shell("variable-slip").finds(
        "
        #!/bin/bash
        quay_name=$1
        echo \"«$quay_nmae\" \"$quay_name\" \"$quay_names\" \"$HOME\" \"${quay_nam:-low}\"
        ",
    );
}
