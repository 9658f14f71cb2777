/** What the board says when a boat is late. */

import { formatTime, parseTime } from "./time";
import { sailingsOf } from "./timetable";

/** The time at which a late boat will leave. */
export function lateTime(leaves: string, minutes: number): string {
  return formatTime(parseTime(leaves) + minutes, "short");
}

/** Asks for the day once more, so that the board shows what changed. */
export async function refresh(day: string): Promise<void> {
  sailingsOf(day);
  console.info(`asked for ${day} again`);
}
