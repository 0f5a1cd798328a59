import type { Band } from './bands.js';

/** First in steps of so many %, then by single ones about the best of these. */
const COARSE = 5;

/** All shares in whole % that come from `step`, near some where these are given; the last takes what is left. */
function* sharesOf(parts: number, step: number, near: readonly number[] | null): Generator<number[]> {
  const chosen: number[] = [];
  function* next(left: number): Generator<number[]> {
    if (chosen.length === parts - 1) return void (yield [...chosen, left]);
    const about = near?.[chosen.length];
    const [from, to] = about === undefined ? [0, left] : [Math.max(0, about - COARSE), Math.min(left, about + COARSE)];
    for (let share = from; share <= to; share += step) {
      chosen.push(share);
      yield* next(left - share);
      chosen.pop();
    }
  }
  yield* next(100);
}

/**
 * Shares of some aggregates, whole %, whose mixture lies best in a band: out of it as little as can be, then nearest to its middle.
 * Plain doubles: it is advice, and what is reported is worked out with the shares that are keyed.
 * @param passing of each aggregate, % on each opening of the band that was sieved
 */
export function bestShares(passing: readonly (readonly number[])[], band: Band): { shares: number[]; inside: boolean } {
  const rows = band.map(({ least, most }) => ({ least: Number(least), most: Number(most) }));
  const of = (shares: readonly number[]): { out: number; off: number } => {
    let [out, off] = [0, 0];
    rows.forEach(({ least, most }, k) => {
      const mixed = shares.reduce((sum, share, i) => sum + (share * passing[i]![k]!) / 100, 0);
      // As it is reported: whole per cents.
      const reported = Math.round(mixed);
      out += Math.max(0, reported - most, least - reported);
      off += (mixed - (least + most) / 2) ** 2;
    });
    return { out, off };
  };
  const search = (step: number, near: readonly number[] | null): { shares: number[]; out: number; off: number } => {
    let best: { shares: number[]; out: number; off: number } | null = null;
    for (const shares of sharesOf(passing.length, step, near)) {
      const now = of(shares);
      if (best === null || now.out < best.out || (now.out === best.out && now.off < best.off)) best = { shares, ...now };
    }
    return best!;
  };
  const { shares, out } = search(1, search(COARSE, null).shares);
  return { shares, inside: out === 0 };
}
