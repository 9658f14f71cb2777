/** The quays that the boats call at, from north to south. */
export const QUAYS = ["north", "marsh", "south"] as const;

/** A quay by its name. */
export type Quay = (typeof QUAYS)[number];

/** Whether a text from outside names a quay. */
export function isQuay(name: string): name is Quay {
  return (QUAYS as readonly string[]).includes(name);
}
