/** Numbers from a seed (mulberry32): whole, below 2³²; the same seed gives the same ones, so that a draw can be shown again. */
export function* seeded(seed: number): Generator<number, never> {
  let state = seed | 0;
  for (;;) {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    yield (t ^ (t >>> 14)) >>> 0;
  }
}
