import { brief, exact } from '../../numbers/exact.js';
import { notASieve } from '../../units/sieves.js';
import type { Calc } from '../calc.js';
import { method, pick, qty, rows, YES_NO, type Citation, type Run } from '../definition.js';
import { againstBand, BAND_LABELS, BAND_RESULTS, BANDS, NEIGHBOURS_MOST, sayAgainst, type BandParams } from './bands.js';
import { PASSING_RULE, reportedPassing, type PassingRule } from './passing.js';
import { stack } from '../../examples/write.js';

const C136: Citation = { designation: 'ASTM C136/C136M', edition: '2019' };
const T27: Citation = { designation: 'AASHTO T 27', edition: '2022' };

const mass = { possible: { unit: 'g', least: '0', most: '500000' } } as const;

type GradationParams = BandParams & {
  lossMost: string;
  /** From this opening up: `factor`·opening (mm)·area (m²) kg; finer: `fine` kg/m². */
  overload: { fromMm: string; factor: string; fine: string };
  fineness: readonly string[];
  reporting: PassingRule;
  fmStep: string;
  /** Clear area of a sieve by its frame, m². */
  areas: Readonly<Record<'d8' | 'd12', string>>;
  lossStep: string;
};

const fields = {
  dry: qty(
    'mass',
    'M',
    'Original dry mass',
    { si: 'g', us: 'g' },
    { takes: 'test.before-wash', possible: { unit: 'g', above: '0', most: '500000' } },
  ),
  frame: pick(
    'Sieves are',
    { d8: '200 mm (8 in)', d12: '300 mm (12 in)', other: 'Others: key their area' },
    { optional: true, usual: 'd8' },
  ),
  area: qty(
    'area',
    'A',
    'Area of a sieve',
    { si: 'm2', us: 'm2' },
    { optional: true, minor: true, possible: { unit: 'm2', above: '0', most: '2' }, plausible: { unit: 'm2', least: '0.01', most: '0.5' } },
  ),
  masses: pick(
    'Masses are',
    { each: 'Of each sieve', summed: 'Added up from the coarsest' },
    { optional: true, minor: true, usual: 'each', hint: 'added up, the pan stands for all' },
  ),
  washed: qty('mass', 'Mw', 'Dry mass after washing', { si: 'g', us: 'g' }, { ...mass, takes: 'test.after-wash', optional: true }),
  sieves: rows('Sieves, coarsest first', {
    opening: qty('length', 'o', 'Sieve', { si: 'mm', us: 'mm' }, { sieve: true, possible: { unit: 'mm', least: '0', most: '300' } }),
    retained: qty('mass', 'm', 'Retained', { si: 'g', us: 'g' }, mass),
  }),
  band: pick('Band', BAND_LABELS, { optional: true }),
  pan: qty('mass', 'm0', 'In the pan', { si: 'g', us: 'g' }, { ...mass, optional: true }),
};

type R<V> = Run<typeof fields, GradationParams, V>;

export const gradation = method({
  id: 'gradation',
  on: ['field-sample', 'portion'],
  least: { table: 'c136', of: 'dry' },
  kit: 'sieves',
  uses: ['balance'],
  title: 'Gradation by sieving',
  names: ['gradation', 'sieve analysis', 'grading', 'fineness modulus', 'FM', 'passing'],
  follows: [C136, T27],
  about: 'Shares of an aggregate that pass each sieve, its fineness modulus, the loss in sieving, and overloaded sieves.',
  panel: 'sieves',
  fields,
  results: {
    retained: { label: 'Retained', symbol: 'r', units: { si: '%', us: '%' }, along: 'sieves' },
    cumulative: { label: 'Retained, cumulative', symbol: 'R', units: { si: '%', us: '%' }, along: 'sieves' },
    passing: { label: 'Passing', symbol: 'P', units: { si: '%', us: '%' }, along: 'sieves', main: true },
    reported: { label: 'Passing, as reported', symbol: 'P', units: { si: '1', us: '1' }, along: 'sieves' },
    fineness: {
      label: 'Fineness modulus',
      symbol: 'FM',
      units: { si: '1', us: '1' },
      property: 'fineness-modulus',
      plausible: { unit: '1', least: '1', most: '9' },
      main: true,
    },
    loss: { label: 'Loss in sieving', symbol: 'loss', units: { si: '%', us: '%' }, property: 'sieving-loss' },
    lossOk: { label: 'Loss within its limit', symbol: 'loss', units: { si: '1', us: '1' }, words: YES_NO },
    ...BAND_RESULTS,
    limits: { label: 'Most on each sieve', symbol: 'most', units: { si: 'kg', us: 'kg' }, along: 'sieves' },
    overloaded: { label: 'Overloaded sieves', symbol: 'overloaded', units: { si: '1', us: '1' } },
  },
  variants: {
    c136: {
      label: 'whole per cents, loss at most 0.3 %',
      source: C136,
      params: {
        lossMost: '0.3',
        bands: BANDS,
        neighboursMost: NEIGHBOURS_MOST,
        overload: { fromMm: '4.75', factor: '2.5', fine: '7' },
        fineness: ['0.150', '0.300', '0.600', '1.18', '2.36', '4.75', '9.5', '19.0', '37.5', '75', '150'],
        reporting: PASSING_RULE,
        fmStep: '0.01',
        areas: { d8: '0.0285', d12: '0.0670' },
        lossStep: '0.1',
      } satisfies GradationParams as GradationParams,
    },
  },
  steps: [
    { text: 'Sieve until another minute passes less than 0.5 % of the total; brush each sieve out.' },
    { text: 'An overloaded sieve is split and shaken again. Dust: mask.', caution: true },
  ],
  example: {
    dry: '512.4 g',
    frame: 'd8',
    washed: '503.1 g',
    sieves: stack('9.5 4.75 2.36 1.18 0.600 0.300 0.150 0.075', '0 12.8 57.1 95.3 128.6 131.2 58.9 15.4'),
    pan: '3.4 g',
  },
  run(r) {
    const { c, p } = r;
    const [dry, area, washed] = [r.need('dry', 'g'), areaOf(r), r.have('washed', 'g')];
    const read = sievesOf(r);
    if (!read) return;
    const { sieves } = read;
    const keyedPan = read.pan ?? r.need('pan', 'g');
    const pan = keyedPan === null ? null : panOf(r, read.last, keyedPan);
    if (area !== null) overload(r, sieves, area);
    if (dry === null) return;
    const hundred = c.num('100');
    const retained = sieves.map((s) => c.div(c.mul(hundred, s.mass), dry));
    const sums = running(c, sieves);
    const cumulative = sieves.map((_s, i) => c.name(`R${i + 1}`, c.div(c.mul(hundred, sums[i]!), dry), '%'));
    const passing = cumulative.map((sum) => c.sub(hundred, sum));
    // What a loss may be it may also be the other way, by the balance; more than that never went in.
    const left = c.value(passing.at(-1)!);
    if (left.add(exact(p.lossMost)).sign() < 0) return r.refuse('more-than-went-in', 'dry', { by: brief(left.neg(), 3) });
    r.series('retained', retained, '%');
    r.series('cumulative', cumulative, '%');
    r.series('passing', passing, '%', { '%': p.reporting.step });
    const openings = sieves.map((s) => c.value(s.opening));
    const reported = passing.map((v, i) => reportedPassing(c.value(v), openings[i]!, p.reporting));
    r.says('reported', reported);
    if (r.x.band) sayAgainst(r, r.x.band, againstBand(r.x.band, p, openings, reported.map(exact)), p);
    const { series, wanted } = ofSeries(r, sieves, cumulative);
    // A sieve of the series that was left out below the coarsest one would change the modulus: then there is none.
    if (series.length === wanted) r.result('fineness', c.name('FM', c.div(c.sum(series), hundred), '1'), '1', { '1': p.fmStep });
    else r.note('series-has-gaps');
    if (pan === null) return;
    loss(r, washed ?? dry, c.add(sums.at(-1)!, pan));
  },
});

interface Sieve<V> {
  readonly opening: V;
  readonly mass: V;
}

/** A sieve, and its row. */
interface Placed<V> extends Sieve<V> {
  readonly i: number;
}

/** What is retained on the sieves of the modulus, and how many of them there are from the coarsest sieve down. */
function ofSeries<V>({ c, p }: R<V>, sieves: readonly Sieve<V>[], cumulative: readonly V[]): { series: V[]; wanted: number } {
  const series: V[] = [];
  const coarsest = c.value(sieves[0]!.opening);
  const finestFirst = p.fineness.map(exact);
  const wanted = finestFirst.filter((o) => o.compare(coarsest) <= 0).length;
  // Both run in order of size: one walk down the stack meets each opening once.
  for (let i = 0, of = wanted - 1; i < sieves.length; i++) {
    const opening = c.value(sieves[i]!.opening);
    while (of >= 0 && finestFirst[of]!.compare(opening) > 0) of--;
    if (of >= 0 && finestFirst[of]!.equals(opening)) series.push(cumulative[i]!);
  }
  return { series, wanted };
}

/** Area of one sieve: as keyed, or by its frame. */
function areaOf<V>(r: R<V>): V | null {
  const own = r.have('area', 'm2');
  if (own !== null) return own;
  const frame = r.x.frame ?? 'd8';
  return frame === 'other' ? r.need('area', 'm2') : r.c.num(r.p.areas[frame]);
}

/** Masses from the coarsest sieve down to each. */
function running<V>(c: Calc<V>, sieves: readonly Sieve<V>[]): V[] {
  let sum: V | null = null;
  return sieves.map(({ mass: m }, i) => (sum = sum === null ? m : c.name(`Σm${i + 1}`, c.add(sum, m), 'g')));
}

/** Where masses are added up, the pan stands for all of it: what it holds is what it adds. */
function panOf<V>(r: R<V>, last: V, keyed: V): V | null {
  if (r.x.masses !== 'summed') return keyed;
  if (r.c.value(keyed).compare(r.c.value(last)) >= 0) return r.c.sub(keyed, last);
  r.refuse('masses-fall', 'pan');
  return null;
}

/** Of each sieve, where they were added up from the coarsest down; null where one is less than the one before it. */
function eachOf<V>(r: R<V>, sieves: readonly Placed<V>[]): Placed<V>[] | null {
  if (r.x.masses !== 'summed') return [...sieves];
  const { c } = r;
  const falls = sieves.findIndex((s, i) => i > 0 && c.value(s.mass).compare(c.value(sieves[i - 1]!.mass)) < 0);
  if (falls > 0) {
    r.refuse('masses-fall', `sieves.${sieves[falls]!.i}.retained`);
    return null;
  }
  return sieves.map((s, i) => (i === 0 ? s : { ...s, mass: c.sub(s.mass, sieves[i - 1]!.mass) }));
}

/**
 * The sieves, what stands in a row of its own for the pan, and the last mass as it was keyed; a row with the total is checked and
 * left out.
 */
function sievesOf<V>(r: R<V>): { sieves: Sieve<V>[]; pan: V | null; last: V } | null {
  const { c } = r;
  const list = r.x.sieves ?? [];
  if (list.length === 0) r.missing('sieves');
  const [sieves, pans, totals]: [Placed<V>[], Placed<V>[], Placed<V>[]] = [[], [], []];
  let lacking = false;
  for (let i = 0; i < list.length; i++) {
    const [opening, grams] = [r.inRow('sieves', i, 'opening', 'mm', 'o'), r.inRow('sieves', i, 'retained', 'g', 'm')];
    if (opening === null || grams === null) lacking = true;
    else {
      const row = notASieve(list[i]!.opening?.text ?? '');
      (row === null ? sieves : row === 'pan' ? pans : totals).push({ opening, mass: grams, i });
    }
  }
  if (sieves.length === 0 || lacking) return null;
  if (pans.length > 1 || (pans.length === 1 && r.have('pan', 'g') !== null)) {
    r.refuse('pan-twice', pans.length > 1 ? `sieves.${pans[1]!.i}.retained` : 'pan');
    return null;
  }
  const [total] = totals;
  const [summed, last] = [r.x.masses === 'summed', sieves.at(-1)!.mass];
  // The pan may stand in its row, or in a field of its own.
  const rest = r.have('pan', 'g');
  const parts = [...sieves.map((s) => s.mass), ...pans.map((s) => s.mass), ...(rest === null ? [] : [rest])];
  const sum = total && (summed ? (pans[0]?.mass ?? last) : c.sum(parts));
  if (total && sum && c.value(total.mass).equals(c.value(sum))) r.note('total-left-out', { total: brief(c.value(total.mass), 5) });
  else if (total && sum)
    r.doubt('total-off', `sieves.${total.i}.retained`, { sum: brief(c.value(sum), 5), total: brief(c.value(total.mass), 5) });
  const wrong = sieves.findIndex((s, i) => i > 0 && c.value(s.opening).compare(c.value(sieves[i - 1]!.opening)) >= 0);
  if (wrong > 0) {
    r.refuse('sieves-in-disorder', `sieves.${sieves[wrong]!.i}.opening`);
    return null;
  }
  const each = eachOf(r, sieves);
  return each && { sieves: each, pan: pans[0]?.mass ?? null, last };
}

function overload<V>(r: R<V>, sieves: readonly Sieve<V>[], area: V): void {
  const { c, p } = r;
  const from = exact(p.overload.fromMm);
  const [fine, factor] = [c.mul(c.num(p.overload.fine), area), c.num(p.overload.factor)];
  const limits = sieves.map((s) => (c.value(s.opening).compare(from) < 0 ? fine : c.mul(c.mul(factor, s.opening), area)));
  r.series('limits', limits, 'kg');
  const over = sieves.filter((s, i) => c.value(s.mass).compare(c.value(limits[i]!).mul(1000)) > 0).map((s) => brief(c.value(s.opening), 4));
  r.says('overloaded', over);
  if (over.length > 0) r.marks('sieve-overloaded', { sieves: over.join(', ') });
}

function loss<V>(r: R<V>, before: V, after: V): void {
  const { c, p } = r;
  // Against the original dry mass, also when the sample was washed.
  const dry = r.have('dry', 'g');
  if (dry === null) return;
  const lost = c.name('loss', c.div(c.mul(c.num('100'), c.sub(before, after)), dry), '%');
  r.result('loss', lost, '%', { '%': p.lossStep });
  const ok = c.value(lost).abs().compare(exact(p.lossMost)) <= 0;
  r.says('lossOk', [ok ? 'yes' : 'no']);
  if (!ok)
    r.marks(c.value(lost).sign() > 0 ? 'sieving-loss' : 'sieving-gain', {
      loss: brief(c.value(lost).abs(), 2, exact(p.lossMost)),
      most: p.lossMost,
    });
}
