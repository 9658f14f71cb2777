const MINUTES_OF_HOUR = 60;

/** Minutes since midnight of a time such as `07:10`. */
export function parseTime(text: string): number {
  const [hours = 0, minutes = 0] = text.split(":").map(Number);
  return hours * MINUTES_OF_HOUR + minutes;
}

/** A time such as `07:10` for minutes since midnight. */
export function formatTime(minutes: number): string {
  const two = (count: number) => String(count).padStart(2, "0");
  return `${two(Math.floor(minutes / MINUTES_OF_HOUR))}:${two(minutes % MINUTES_OF_HOUR)}`;
}
