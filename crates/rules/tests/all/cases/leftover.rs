//! What nobody uses, and what does nothing.

use sieve_syntax::language::Language;

use crate::cases::bench::Bench;

#[test]
fn variables_that_nobody_reads() {
    let bench = Bench::python("unused-variable");
    bench.finds(
        "
        def sail(boats):
            «late = 3
            depth = 3
            print(depth)
            «tide = measure()
            for boat in boats:
                moor()
            with open('tides') as «file:
                moor()
            try:
                moor()
            except OSError as «error:
                moor()
            first, second = boats
            return first
        ",
    );
    bench.passes(&[
        "
        late = 3
        ",
        "
        def sail():
            late = 3
            return locals()
        ",
        "
        def sail():
            _late = 3
            _ = measure()
        ",
        "
        def sail():
            late = 3
            def inner():
                return late
            return inner
        ",
        "
        def sail():
            global late
            late = 3
        ",
        "
        def sail(late=None):
            pass
        ",
        "
        def sail():
            late: int
            late = 3
            del late
        ",
        "
        class Ferry:
            depth = 3
        ",
    ]);
    Bench::javascript("unused-variable").finds(
        "
        export function sail(boats) {
          const «late = 3;
          let depth = 3;
          moor(depth);
          for (const boat of boats) moor();
          const { first, ...rest } = boats;
          return rest;
        }
        ",
    );
}

#[test]
fn what_assigns_a_useless_variable_keeps_its_effect() {
    let bench = Bench::python("unused-variable");
    bench.fixes(
        "
        def sail():
            tide = measure()
            return 1
        ",
        "
        def sail():
            measure()
            return 1
        ",
    );
    bench.fixes(
        "
        def sail():
            late = 3
            return 1
        ",
        "
        def sail():
            return 1
        ",
    );
    bench.fixes(
        "
        def sail():
            try:
                moor()
            except OSError as error:
                return 2
        ",
        "
        def sail():
            try:
                moor()
            except OSError:
                return 2
        ",
    );
}

#[test]
fn imports_that_nobody_uses() {
    let bench = Bench::python("unused-import");
    bench.finds(
        "
        import «math
        import os.path
        from tides import low, «high
        from tides import top as top
        from quays import «north as pole
        print(os, low)
        ",
    );
    bench.passes(&[
        "from __future__ import annotations\n",
        "
        import tides
        __all__ = ['tides']
        ",
        "
        import tides
        def sail(boat: 'tides.Boat'):
            return boat
        ",
        "
        try:
            import tides
        except ImportError:
            tides = None
        ",
        "
        import tides
        def sail():
            return tides
        ",
        "
        from tides import *
        ",
        "
        from typing import TYPE_CHECKING
        if TYPE_CHECKING:
            from tides import Tide
        def sail(tide: \"Tide\") -> None:
            print(tide)
        ",
    ]);
    Bench::python("unused-import").at("booking/__init__.py").passes(&["from .fares import fare\n"]);
    let script = Bench::typescript("unused-import");
    script.finds(
        "
        import «math from 'math';
        import { low, «high } from './tides';
        import type { Quay } from './quays';
        import «* as boats from './boats';
        import './effects';
        export const first: Quay = low();
        ",
    );
    script.passes(&[
        "import { Quay } from './quays';\nexport { Quay };\n",
        "import { Quay } from './quays';\nexport default class Berth extends Quay {}\n",
        "import { low } from './tides';\nexport type Low = typeof low;\n",
    ]);
}

#[test]
fn imports_leave_with_their_commas() {
    let bench = Bench::python("unused-import");
    bench.fixes(
        "
        from tides import low, high
        print(low)
        ",
        "
        from tides import low
        print(low)
        ",
    );
    bench.fixes(
        "
        from tides import (
            low,
            high,
        )
        print(high)
        ",
        "
        from tides import (
            high,
        )
        print(high)
        ",
    );
}

#[test]
fn modules_imported_twice() {
    let bench = Bench::python("repeated-import");
    bench.finds(
        "
        import math
        import «math
        from tides import low
        from tides import high
        from tides import «low
        print(math, low, high)
        ",
    );
    bench.passes(&[
        "
        import os
        import os.path
        print(os)
        ",
        "
        try:
            import tides
        except ImportError:
            import old_tides as tides
        ",
        "
        import math
        def sail():
            import math
            return math
        print(math)
        ",
    ]);
}

#[test]
fn functions_that_nobody_calls() {
    let bench = Bench::python("unused-function");
    bench.finds(
        "
        def sail():
            def «moor():
                return 1

            def wave():
                return 2

            return wave


        def «_late():
            return 1


        class Ferry:
            def _moor(self):
                return self
        ",
    );
    bench.passes(&[
        "
        def _late():
            return 1
        print(_late())
        ",
        "
        @app.route('/tides')
        def _tides():
            return 1
        ",
        "
        def _late():
            return 1
        __all__ = ['_late']
        ",
        "
        class Ferry:
            def _moor(self):
                return self
            def sail(self):
                return getattr(self, '_moor')()
        ",
    ]);
}

#[test]
fn blocks_without_anything() {
    Bench::javascript("empty-block").finds(
        "
        export function sail(boat) {
          if (boat) «{}
          for (const quay of boat) {
          }
          try { moor(); } catch {}
          while (next()) {}
          if (boat) { /* nothing to do */ }
          const nothing = () => {};
          return nothing;
        }
        class Empty {}
        function empty() {}
        ",
    );
    Bench::python("empty-block").finds(
        "
        def sail(boat):
            «if boat:
                pass
            for quay in boat:
                pass
            while boat:
                pass  # waits
            return boat


        def empty():
            pass


        class Empty:
            pass
            with raises(ValueError):
                if boat:
                    pass
        ",
    );
}

#[test]
fn an_anchor_that_is_all_there_is_stays() {
    let bench = || Bench::of("unused-anchor", Language::Yaml);
    bench().finds("tides: [«&low , 3]\n");
    bench().fixes("tides: [&low , 3]\n", "tides: [&low , 3]\n");
    bench().fixes("tides: [&low 2, 3]\n", "tides: [2, 3]\n");
}
