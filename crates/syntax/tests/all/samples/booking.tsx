import React, { useState, type FC } from "react";
import * as tides from "./tides";
import type { Quay } from "./quays";

declare global {
  interface Window { ferry?: string }
}

export enum Fare { Adult = 4, Child = Adult >> 1 }

abstract class Boat<in out T extends object = {}> implements Named, Other<T> {
  static #count = 0;
  readonly name!: string;
  [key: string]: unknown;
  constructor(private seats: number, protected quay?: Quay) { super(); }
  abstract sail(to: Quay): Promise<void>;
  get free(): number { return this.seats - Boat.#count; }
  static { Boat.#count ??= 1; }
  async *legs<U>(this: Boat<T>, ...stops: U[]): AsyncGenerator<U> { yield* stops; }
}

type Leg<T> = T extends (infer U extends string)[] ? `${U}-leg` : { -readonly [K in keyof T as `on${K & string}`]?: T[K] };
function isQuay(x: unknown): x is Quay { return (x as any)?.depth > 0 && x !== null; }
function check(x: any): asserts x;
function check(x: any) { if (!x) throw new Error(/[/\]]+/u.test("") ? 'no' : `no ${x}`); }

export const Timetable: FC<{ quay: Quay; onBook?: (leg: Leg<string[]>) => void }> = ({ quay, onBook = () => {}, ...rest }) => {
  const [leg, setLeg] = useState<Leg<string[]> | null>(null);
  let { depth: [low, , high = 3] = [], ...others } = tides.of(quay)!;
  label: for (const [time, tide] of Object.entries(others)) {
    switch (tide) { case low: continue label; default: break label; }
  }
  for (let i = 0, n = high ** 2; i < n; i++, n--) if (i in others) delete others[i];
  do { low--; } while (low > 0)
  return (
    <section data-quay={quay.name} {...rest}>
      {/* sieve: nothing here */}
      <tides.Chart low={low < high ? low : <b>none</b>} title='the "tide"' /> at {quay.name}
      <>{leg && <button onClick={async () => await onBook?.(leg satisfies Leg<string[]>)}>Book</button>}</>
    </section>
  );
};

namespace Saltmarsh.Ferries { export import Q = Saltmarsh.Quays; }
export default class extends Boat<Quay> { sail = async <T,>(to: T) => { try { await to } catch { } finally { } } }
