import { useEffect, useState } from "react";

import { QUAYS, type Quay } from "./quays";
import { describe, sailingsOf, type Sailing } from "./timetable";

interface BoardProps {
  day: string;
  onBook: (sailing: Sailing) => void;
}

/** The board of a day's sailings, with a choice of the quay. */
export function Board({ day, onBook }: BoardProps) {
  const [quay, setQuay] = useState<Quay>("north");
  const [sailings, setSailings] = useState<Sailing[]>([]);

  useEffect(() => {
    sailingsOf(day).then(setSailings);
  }, [day]);

  const leaving = sailings.filter((sailing) => sailing.from === quay);
  return (
    <section className="board">
      <select value={quay} onChange={(event) => setQuay(event.target.value as Quay)}>
        {QUAYS.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
      {/* sieve: waive magic-number because more than six do not fit the old screens on the quays */}
      <ol>{leaving.slice(0, 6).map((sailing) => (
        <li key={sailing.leaves}>
          {describe(sailing)} <button onClick={() => onBook(sailing)}>Book</button>
        </li>
      ))}</ol>
    </section>
  );
}
