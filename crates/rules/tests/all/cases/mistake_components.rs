//! Components and their hooks.

use sieve_syntax::language::Language;

use crate::cases::bench::Bench;

#[test]
fn hooks_that_are_not_always_called() {
    let bench = Bench::of("hook-in-branch", Language::Tsx);
    bench.finds(
        "
        import React, { useState } from 'react';
        import { useTide } from './tides';

        export function Board({ quay, late }) {
          const depth = late ? «useTide(quay) : useTide();
          if (process.env.TIDES) useState(2);
          for (const one of quay.piers) «useState(one);
          const low = late && «React.useMemo(() => 1, []);
          late && form.useField();
          if (useTide(quay) > 3) sail();
          quay.watch(() => { if (late) useTide(); });
          switch (quay.name) {
            case 'north':
              «useTide(quay);
          }
          return depth + low;
        }

        const useBoat = boat => {
          if (!boat) return null;
          return «useTide(boat);
        };

        function sail(boat) {
          if (boat) useTide(boat);
        }
        "
        .replace("«useTide(quay) : useTide()", "«useTide(quay) : «useTide()")
        .as_str(),
    );
    bench.passes(&["
        import { useTide } from './tides';

        export function Board({ late }) {
          if (late) useTide();
        }
    "]);
}

#[test]
fn elements_of_lists_need_keys() {
    let bench = Bench::of("keyless-element", Language::Tsx);
    bench.finds(
        "
        import { Children } from 'react';

        export function Board({ quays, children }) {
          const rows = quays.map(quay => {
            if (quay.late) return «<b>{quay}</b>;
            return quay.open ? <li key={quay.name} /> : «<></>;
          });
          const all = quays.map(quay => <Quay {...quay} />);
          const kept = Children.map(children, child => <li>{child}</li>);
          const names = [...quays.map(quay => <li>{quay}</li>)];
          const depths = quays.map(quay => quay.measure(<li />));
          const piers = Array.from(quays, quay => quay && «<li><b>{quay}</b></li>);
          return <ul>{rows}{all}{kept}{names}{depths}{piers}</ul>;
        }
        ",
    );
    bench.passes(&["export const rows = quays.map(quay => <li>{quay}</li>);\n"]);
}

#[test]
fn states_that_are_set_without_end() {
    Bench::of("state-while-drawing", Language::Tsx).finds(
        "
        import { useEffect, useReducer, useState as hold } from 'react';

        export const Board = memo(({ quay }) => {
          const [tide, setTide] = hold(0);
          const [crew, tell] = useReducer(reduce, []);
          «setTide(quay.tide);
          «tell({ name: 'Tern' });
          useEffect(() => { setTide(1); });
          if (tide > 3) setTide(3);
          function sail() {
            setTide(4);
          }
          return <p onClick={sail}>{tide}{crew}</p>;
        });

        export function start() {
          const [tide, setTide] = hold(0);
          setTide(tide + 1);
        }
        ",
    );
}
