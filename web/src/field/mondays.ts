/** The day so many days after another, both as ISO dates. */
export function plusDays(iso: string, days: number): string {
  const at = new Date(`${iso}T12:00:00Z`);
  at.setUTCDate(at.getUTCDate() + days);
  return at.toISOString().slice(0, 10);
}

/** The Monday of a day's week. */
export const mondayOf = (iso: string): string =>
  plusDays(iso, -((new Date(`${iso}T12:00:00Z`).getUTCDay() + 6) % 7));
