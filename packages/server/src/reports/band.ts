import { INK, type Paper } from './paper.js';

/** Where a result stands against its limit, drawn in a line: positions only, nothing is computed from them. */
export function band(
  paper: Paper,
  x: number,
  y: number,
  width: number,
  {
    lower,
    upper,
    compared,
    verdict,
  }: { readonly lower: string | null; readonly upper: string | null; readonly compared: string | null; readonly verdict: string | null },
): void {
  if (lower === null && upper === null) return;
  const [low, high] = [Number(lower ?? upper), Number(upper ?? lower)];
  const span = high > low ? high - low : Math.max(Math.abs(high) * 0.1, 0.1);
  const value = compared === null ? null : Number(compared);
  const from = Math.min(low - span, value === null ? Infinity : Math.max(value - span * 0.2, low - span * 3));
  const to = Math.max(high + span, value === null ? -Infinity : Math.min(value + span * 0.2, high + span * 3));
  const at = (v: number): number => x + Math.min(1, Math.max(0, (v - from) / (to - from))) * width;
  const middle = y + 5;
  paper.line(x, middle, x + width, middle, INK.hair);
  const [start, end] = [lower === null ? x : at(low), upper === null ? x + width : at(high)];
  paper.box(start, y + 1.5, Math.max(0, end - start), 7, INK.zone);
  for (const limit of [lower, upper]) if (limit !== null) paper.line(at(Number(limit)), y, at(Number(limit)), y + 10, INK.within, 1.2);
  if (value !== null) paper.dot(at(value), middle, verdict === 'out' ? INK.out : verdict === 'edge' ? INK.edge : INK.within, 2.6);
}
