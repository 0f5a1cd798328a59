import { exact, ratio, type Exact } from '../../numbers/exact.js';
import type { Code } from '../../problems.js';
import { method, qty, rows, text, type Citation, type Run } from '../definition.js';
import { crossCheckGravities } from '../../judgement/cross-checks.js';
import { deviationOf } from '../lists.js';
import { column } from '../rows.js';

const C127: Citation = { designation: 'ASTM C127', edition: '2015' };
const C128: Citation = { designation: 'ASTM C128', edition: '2022' };

export type Direction = 'low' | 'usual' | 'high';

/** What a slip does to the three figures, and what to look at. */
interface Signature {
  readonly code: Code;
  readonly od: Direction;
  readonly apparent: Direction;
  readonly absorption: Direction;
}

export type HistoryParams = {
  /** Fewer earlier results tell nothing. */
  least: number;
  /** Standard deviations from the mean: a figure counts as moved, and the shift is news. */
  moved: string;
  news: string;
  /** Published single-operator deviations: a history that is luckily tight is not held against a source. */
  floor: { gravity: string; absorption: string };
  signatures: readonly Signature[];
};

const gravity = (symbol: string, label: string) =>
  qty(
    'ratio',
    symbol,
    label,
    { si: '1', us: '1' },
    { possible: { unit: '1', above: '0', most: '10' }, plausible: { unit: '1', least: '2.2', most: '3.2' } },
  );
const absorption = (symbol: string, label: string) =>
  qty(
    'percent',
    symbol,
    label,
    { si: '%', us: '%' },
    {
      possible: { unit: '%', least: '0', most: '50' },
      plausible: { unit: '%', least: '0.1', most: '8', zero: true },
      typical: { text: '1', unit: '%' },
    },
  );

/** What a slip is called where it is drawn. */
export const FAULT_LABELS: Readonly<Partial<Record<Code, string>>> = {
  'film-left': 'film left',
  'over-dried': 'over-dried',
  'air-in-basket': 'air held',
  'grains-lost': 'grains lost',
  'air-in-flask': 'air held',
  'fines-lost': 'fines lost',
  'above-the-mark': 'above the mark',
};

const DIRECTIONS: Readonly<Record<Direction, string>> = { low: 'low', usual: 'as usual', high: 'high' };
const SHIFTS = { usual: 'as usual', moved: 'moved', news: 'moved so far that it is news' } as const;

export const sourceHistory = method({
  id: 'source-history',
  on: ['source'],
  title: 'A gravity test against its source’s history',
  names: ['source history', 'fault signature', 'control limits', 'shift of a source', 'SG history'],
  follows: [C127, C128],
  about:
    'Whether a new specific gravity and absorption fit what this source has given before, and, when they do not, which slip of the test would look like this. Likely causes, never a verdict.',
  fields: {
    history: rows('Earlier results of the source', {
      on: text('When', { optional: true }),
      od: gravity('G', 'Specific gravity OD'),
      apparent: gravity('G_A', 'Apparent'),
      absorption: absorption('a', 'Absorption'),
    }),
    od: gravity('G0', 'Specific gravity OD now'),
    apparent: gravity('G_A0', 'Apparent now'),
    absorption: absorption('a0', 'Absorption now'),
  },
  results: {
    meanOd: { label: 'Usual specific gravity OD', symbol: 'Ḡ', units: { si: '1', us: '1' } },
    meanApparent: { label: 'Usual apparent', symbol: 'Ḡ_A', units: { si: '1', us: '1' } },
    meanAbsorption: { label: 'Usual absorption', symbol: 'ā', units: { si: '%', us: '%' } },
    spreadOd: { label: 'Spread of the specific gravity OD', symbol: 's_G', units: { si: '1', us: '1' }, drawn: true },
    spreadApparent: { label: 'Spread of the apparent', symbol: 's_GA', units: { si: '1', us: '1' }, drawn: true },
    spreadAbsorption: { label: 'Spread of the absorption', symbol: 's_a', units: { si: '%', us: '%' }, drawn: true },
    moved: { label: 'Specific gravity OD, apparent, absorption are', symbol: 'moved', units: { si: '1', us: '1' }, words: DIRECTIONS },
    shift: { label: 'A shift', symbol: 'shift', units: { si: '1', us: '1' }, words: SHIFTS, main: true },
  },
  variants: {
    coarse: {
      label: 'coarse: basket and towel',
      source: C127,
      params: {
        least: 5,
        moved: '2',
        news: '3',
        floor: { gravity: '0.009', absorption: '0.09' },
        signatures: [
          { code: 'film-left', od: 'low', apparent: 'usual', absorption: 'high' },
          { code: 'over-dried', od: 'high', apparent: 'usual', absorption: 'low' },
          { code: 'air-in-basket', od: 'low', apparent: 'low', absorption: 'usual' },
          { code: 'grains-lost', od: 'low', apparent: 'high', absorption: 'high' },
        ],
      } satisfies HistoryParams as HistoryParams,
    },
    fine: {
      label: 'fine: cone and flask',
      source: C128,
      params: {
        least: 5,
        moved: '2',
        news: '3',
        floor: { gravity: '0.011', absorption: '0.11' },
        signatures: [
          { code: 'film-left', od: 'low', apparent: 'usual', absorption: 'high' },
          { code: 'over-dried', od: 'high', apparent: 'usual', absorption: 'low' },
          { code: 'air-in-flask', od: 'low', apparent: 'low', absorption: 'usual' },
          { code: 'fines-lost', od: 'low', apparent: 'high', absorption: 'high' },
          { code: 'above-the-mark', od: 'high', apparent: 'high', absorption: 'usual' },
        ],
      } satisfies HistoryParams as HistoryParams,
    },
  },
  steps: [
    { text: 'A shift feeds the mixes that use the source: the air-free density and the aggregate correction factor are stale then.' },
  ],
  example: {
    history: [
      { on: '2026-01', od: '2.634', apparent: '2.698', absorption: '0.90 %' },
      { on: '2026-02', od: '2.641', apparent: '2.702', absorption: '0.86 %' },
      { on: '2026-03', od: '2.637', apparent: '2.699', absorption: '0.87 %' },
      { on: '2026-04', od: '2.631', apparent: '2.696', absorption: '0.92 %' },
      { on: '2026-05', od: '2.639', apparent: '2.701', absorption: '0.87 %' },
    ],
    od: '2.608',
    apparent: '2.697',
    absorption: '1.27 %',
  },
  run(r) {
    const { c, p } = r;
    const figures = [
      { id: 'od', mean: 'meanOd', spread: 'spreadOd', unit: '1', symbol: 'G', increments: { '1': '0.001' }, floor: p.floor.gravity },
      {
        id: 'apparent',
        mean: 'meanApparent',
        spread: 'spreadApparent',
        unit: '1',
        symbol: 'G_A',
        increments: { '1': '0.001' },
        floor: p.floor.gravity,
      },
      {
        id: 'absorption',
        mean: 'meanAbsorption',
        spread: 'spreadAbsorption',
        unit: '%',
        symbol: 'a',
        increments: { '%': '0.01' },
        floor: p.floor.absorption,
      },
    ] as const;
    const found = figures.map(({ id, mean, spread: spreadId, unit, symbol, increments, floor }) => {
      const [past, now] = [column(r, 'history', id, unit, `${symbol}`, p.least), r.need(id, unit)];
      if (!past) return null;
      const usual = c.mean(past);
      r.result(mean, usual, unit, increments);
      const own = deviationOf(c, past, usual);
      const spread = c.value(own).compare(exact(floor)) > 0 ? c.value(own) : exact(floor);
      r.result(spreadId, c.value(own).compare(exact(floor)) > 0 ? own : c.num(floor), unit);
      if (now === null) return null;
      return c.value(now).sub(c.value(usual)).div(spread);
    });
    gravitiesFit(r);
    if (found.some((f) => f === null)) return;
    const off = found as Exact[];
    const moved = off.map((f): Direction => (f.abs().compare(exact(p.moved)) <= 0 ? 'usual' : f.sign() > 0 ? 'high' : 'low'));
    r.says('moved', moved);
    r.says('shift', [off.some((f) => f.abs().compare(exact(p.news)) > 0) ? 'news' : moved.some((d) => d !== 'usual') ? 'moved' : 'usual']);
    const [od, apparent, soaked] = moved;
    const fits = p.signatures.filter((sign) => sign.od === od && sign.apparent === apparent && sign.absorption === soaked);
    for (const { code } of fits) r.note(code);
    if (moved.some((d) => d !== 'usual')) r.note('source-shifted');
  },
});

/** Three figures typed from a report must fit each other: absorption/100 = 1/G_OD − 1/G_A. */
function gravitiesFit<V>(r: Run<typeof sourceHistory.fields, HistoryParams, V>): void {
  const [od, apparent, soaked] = [r.have('od', '1'), r.have('apparent', '1'), r.have('absorption', '%')];
  if (od === null || apparent === null || soaked === null) return;
  const text = (v: V): string => ratio(r.c.value(v));
  const check = crossCheckGravities(text(od), text(apparent), text(soaked));
  if (check) r.doubt(check.code, 'absorption', check.params);
}
