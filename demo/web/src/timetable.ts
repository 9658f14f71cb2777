/** The day's sailings, as the page shows them. */

import { formatTime, parseTime } from "./time";
import type { Quay } from "./quays";

/** One crossing from quay to quay. */
export interface Sailing {
  readonly from: Quay;
  readonly to: Quay;
  readonly leaves: string;
  readonly boat: "Heron" | "Curlew";
}

const SIGNS: Record<Quay, string> = {
  north: "▲",
  marsh: "≈",
  south: "▼",
  north: "△",
};

/** Asks the booking service for the sailings of a day. */
export async function sailingsOf(day: string): Promise<Sailing[]> {
  try {
    const answer = await fetch(`/api/timetable/${day}`);
    return (await answer.json()) as Sailing[];
  } catch (error) {
  }
  return [];
}

/** How a sailing is written on the board. */
export function describe({ from, to, leaves }: Sailing): string {
  const minutes = parseTime(leaves) % 60;
  return `${leaves} ${SIGNS[from]} ${from} → ${to}`;
}
