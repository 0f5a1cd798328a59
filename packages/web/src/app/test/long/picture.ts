import { answerText, type Evaluation, type ResultField } from '@keen-mortar/core';
import { bin } from 'd3-array';
import { figureOf, seriesOf, wordsOf, type Point } from '../drawn';

/** What a series of strength tests looks like: figures for drawing, and the lines that are said of it. */
export interface Picture {
  readonly count: number;
  readonly unit: string;
  readonly tests: readonly Point[];
  readonly runs: readonly Point[];
  readonly cusum: readonly Point[];
  readonly bars: readonly Bar[];
  readonly specified: number | null;
  readonly floor: number | null;
  /** Tests (from 1) that break a rule, the first of them. */
  readonly broken: readonly number[];
}

interface Bar {
  readonly from: number;
  readonly to: number;
  readonly count: number;
}

export interface Said {
  readonly id: string;
  readonly label: string;
  readonly text: string;
}

const MOST_BROKEN = 400;
const BARS = 24;

/**
 * The extremes of each of some stretches of a long series: what is drawn of it shows every peak.
 * @param first number of the first value
 */
export function thinned(values: ArrayLike<number>, first: number, most: number): Point[] {
  const all = Array.from({ length: values.length }, (_v, i): Point => ({ x: first + i, y: values[i]! }));
  if (all.length <= most) return all;
  const stretch = Math.ceil((2 * all.length) / most);
  const kept: Point[] = [];
  for (let from = 0; from < all.length; from += stretch) {
    const part = all.slice(from, from + stretch);
    const low = part.reduce((a, b) => (b.y < a.y ? b : a));
    const high = part.reduce((a, b) => (b.y > a.y ? b : a));
    kept.push(...(low.x < high.x ? [low, high] : low === high ? [low] : [high, low]));
  }
  return kept;
}

/** `acceptance` and `statistics` of one series; either may be missing. */
export function pictureOf(acceptance: Evaluation | null, statistics: Evaluation | null, specified: number | null, most: number): Picture {
  const tests = seriesOf(statistics, 'tests');
  const runs = seriesOf(acceptance, 'runs');
  return {
    count: tests.length,
    unit: statistics?.results.find((r) => r.id === 'mean')?.unit ?? 'MPa',
    tests: thinned(tests, 1, most),
    // A mean of three stands at its last test.
    runs: thinned(
      runs.length > 0 ? runs : seriesOf(statistics, 'runs'),
      1 + tests.length - (runs.length || seriesOf(statistics, 'runs').length),
      most,
    ),
    cusum: thinned(seriesOf(statistics, 'cusum'), 1, most),
    bars: bin()
      .thresholds(BARS)(tests)
      .map((part) => ({ from: part.x0!, to: part.x1!, count: part.length })),
    specified,
    floor: figureOf(acceptance, 'floor'),
    broken: [...new Set([...wordsOf(acceptance, 'ruleA'), ...wordsOf(acceptance, 'ruleB')])]
      .map(Number)
      .sort((a, b) => a - b)
      .slice(0, MOST_BROKEN),
  };
}

const MOST_WORDS = 12;

/** The single results of an evaluation as they read; of many words the first, and how many there are. */
export function saidOf(results: Readonly<Record<string, ResultField>>, e: Evaluation): Said[] {
  return e.results.flatMap((r) => {
    if (r.series) return [];
    const short =
      r.words && r.words.length > MOST_WORDS ? { ...r, words: [...r.words.slice(0, MOST_WORDS), `… ${r.words.length} in all`] } : r;
    const text = answerText(results[r.id]!, short);
    return text === '' ? [] : [{ id: r.id, label: r.label, text }];
  });
}
