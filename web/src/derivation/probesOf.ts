/** Both probes as one name, by which a reading is known to be of them. */
export function probesOf(red: string | null, black: string | null): string {
  return `${red} ${black}`;
}
