/** ASTM C39/C39M-2024, permissible age tolerances: how far off its age a specimen may be broken. */
export const AGE_TOLERANCES: readonly { readonly days: string; readonly hours: string }[] = [
  { days: '1', hours: '0.5' },
  { days: '3', hours: '2' },
  { days: '7', hours: '6' },
  { days: '28', hours: '20' },
  { days: '56', hours: '40' },
  { days: '90', hours: '48' },
];

const HOUR = 3_600_000;

/** ms either side of an age in days; null for an age that has no window in print. */
export function ageTolerance(days: number): number | null {
  const found = AGE_TOLERANCES.find((t) => Number(t.days) === days);
  return found ? Number(found.hours) * HOUR : null;
}
