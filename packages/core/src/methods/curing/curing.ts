import { brief, exact, type Exact } from '../../numbers/exact.js';
import { momentOf, spanWords } from '../../time/moment.js';
import { unitLabel, type System } from '../../units/units.js';
import { instant, method, pick, qty, type Citation } from '../definition.js';

export const C31: Citation = { designation: 'ASTM C31/C31M', edition: '2024' };

const HOUR = 3_600_000;
const MINUTE = 60_000;

interface Span {
  least: string;
  most: string;
}

type CuringParams = {
  /** Initial curing: temperature around the specimens, and from this specified strength on narrower. */
  initial: Record<System, Span>;
  strong: Record<System, string>;
  initialStrong: Record<System, Span>;
  initialMostHours: number;
  moveAfterHours: number;
  rideMostHours: number;
  finalWithinMinutes: number;
  /** Least dimension of the mold, in nominal maximum sizes of the aggregate. */
  moldTimes: string;
};

export const CURING_PARAMS: CuringParams = {
  initial: { si: { least: '16', most: '27' }, us: { least: '60', most: '80' } },
  strong: { si: '40', us: '6000' },
  initialStrong: { si: { least: '20', most: '26' }, us: { least: '68', most: '78' } },
  initialMostHours: 48,
  moveAfterHours: 8,
  rideMostHours: 4,
  finalWithinMinutes: 30,
  moldTimes: '3',
};

const air = (symbol: string, label: string, from: 'specimens.low' | 'specimens.high') =>
  qty('temperature', symbol, label, { si: 'C', us: 'F' }, { optional: true, from, possible: { unit: 'C', least: '-40', most: '70' } });

export const CURING = {
  standard: 'Standard: for acceptance',
  field: 'With the structure: for form removal',
} as const;

export const curing = method({
  id: 'curing',
  title: 'Molding and curing of a set of specimens',
  names: ['curing', 'initial curing', 'final curing', 'molding', 'cure box', 'specimens'],
  follows: [C31],
  about:
    'Whether a set of specimens was molded, kept, moved and cured as the method asks: what strayed stands on every strength of the set.',
  fields: {
    made: instant('Molded at', { from: 'specimens.made' }),
    kept: pick('Curing', CURING, { from: 'specimens.curing', optional: true }),
    strength: qty(
      'stress',
      "f'c",
      'Specified strength',
      { si: 'MPa', us: 'psi' },
      { from: 'mix.strength', optional: true, possible: { unit: 'MPa', above: '0', most: '300' } },
    ),
    width: qty(
      'length',
      'd',
      'Nominal diameter or width',
      { si: 'mm', us: 'in' },
      { from: 'specimens.width', optional: true, possible: { unit: 'mm', above: '0', most: '5000' } },
    ),
    nominal: qty(
      'length',
      'D',
      'Nominal maximum size of the aggregate',
      { si: 'mm', us: 'in' },
      { from: 'mix.nominal', optional: true, possible: { unit: 'mm', above: '0', most: '300' } },
    ),
    low: air('tl', 'Coldest beside them in the first two days', 'specimens.low'),
    high: air('th', 'Warmest beside them in the first two days', 'specimens.high'),
    moved: instant('Moved off the site at', { from: 'specimens.moved', optional: true }),
    arrived: instant('At the laboratory at', { from: 'specimens.arrived', optional: true }),
    demolded: instant('Demolded at', { from: 'specimens.demolded', optional: true }),
    cured: instant('In final curing at', { from: 'specimens.cured', optional: true }),
  },
  results: {
    initial: { label: 'Initial curing', symbol: 't1', units: { si: 'h', us: 'h' }, main: true },
    ride: { label: 'On the road', symbol: 't2', units: { si: 'min', us: 'min' } },
    open: { label: 'From the mold to final curing', symbol: 't3', units: { si: 'min', us: 'min' } },
  },
  variants: {
    c31: {
      label: '16 to 27 °C (60 to 80 °F) for up to 48 h',
      source: C31,
      params: CURING_PARAMS,
    },
  },
  steps: [
    { text: 'On a level, firm place out of the sun. Cover at once: no moisture is lost. Mark the mold, not its lid.' },
    { text: 'A thermometer that keeps the coldest and the warmest stays beside them until they are moved.' },
    { text: 'Not moved before 8 h after final set; cushioned, upright, at most 4 h on the road, warm and wet.' },
    { text: 'Out of the molds and into the tank or moist room within 30 min: 23 ± 2 °C (73.5 ± 3.5 °F), free water on every face.' },
    { text: 'A filled 150 mm (6 in) mold weighs 13 kg (28 lb) and more: two hands. Lime water burns: gloves.', caution: true },
  ],
  example: {
    made: '2026-05-12T08:20:00Z',
    kept: 'standard',
    strength: '32 MPa',
    width: '100 mm',
    nominal: '20 mm',
    low: '18.5 C',
    high: '23.0 C',
    moved: '2026-05-13T07:10:00Z',
    arrived: '2026-05-13T07:50:00Z',
    demolded: '2026-05-13T08:00:00Z',
    cured: '2026-05-13T08:15:00Z',
  },
  run(r) {
    const { x, p, c } = r;
    const made = momentOf(x.made);
    if (made === null) return r.missing('made');
    const [width, nominal] = [r.have('width', 'mm'), r.have('nominal', 'mm')];
    if (width !== null && nominal !== null && c.value(width).compare(c.value(nominal).mul(exact(p.moldTimes))) < 0)
      r.marks('mold-too-small', { times: p.moldTimes, nominal: brief(c.value(nominal), 3) });
    const [moved, arrived, demolded, cured] = [x.moved, x.arrived, x.demolded, x.cured].map(momentOf) as [Moment, Moment, Moment, Moment];
    const wrong = outOfOrder(made, { moved, arrived, demolded, cured });
    if (wrong !== null) return r.refuse('curing-out-of-order', wrong);
    const ended = arrived ?? demolded ?? cured;
    const lasted = (from: number, to: number, per: number) =>
      c.num(
        exact(String(to - from))
          .div(per)
          .toString(),
      );
    if (ended !== null) r.result('initial', lasted(made, ended, HOUR), 'h', { h: '0.1' });
    if (moved !== null && arrived !== null) r.result('ride', lasted(moved, arrived, MINUTE), 'min', { min: '1' });
    if (demolded !== null && cured !== null) r.result('open', lasted(demolded, cured, MINUTE), 'min', { min: '1' });
    // What lies with the structure is meant to be as cold and as dry as that.
    if (x.kept === 'field') return r.marks('field-cured');
    around(r);
    if (ended !== null && ended - made > p.initialMostHours * HOUR)
      r.marks('initial-cure-long', { got: spanWords(ended - made), most: String(p.initialMostHours) });
    if (moved !== null && moved - made < p.moveAfterHours * HOUR)
      r.marks('moved-early', { got: spanWords(moved - made), least: String(p.moveAfterHours) });
    if (moved !== null && arrived !== null && arrived - moved > p.rideMostHours * HOUR)
      r.marks('ride-long', { got: spanWords(arrived - moved), most: String(p.rideMostHours) });
    if (demolded !== null && cured !== null && cured - demolded > p.finalWithinMinutes * MINUTE)
      r.marks('final-cure-late', { got: spanWords(cured - demolded), most: String(p.finalWithinMinutes) });
  },
});

type Moment = number | null;

/** The first of what follows each other that was before what comes first. */
function outOfOrder<Id extends string>(made: number, steps: Readonly<Record<Id, Moment>>): Id | null {
  let before = made;
  for (const [id, at] of Object.entries(steps) as [Id, Moment][]) {
    if (at === null) continue;
    if (at < before) return id;
    before = at;
  }
  return null;
}

type CuringRun = Parameters<typeof curing.run>[0];

/** What it must be around them in initial curing, in the units of the system. */
export function initialRange(p: CuringParams, strength: Exact | null, system: System): Span & { readonly unit: 'C' | 'F' } {
  const strong = strength !== null && strength.compare(exact(p.strong[system])) >= 0;
  return { ...(strong ? p.initialStrong : p.initial)[system], unit: system === 'us' ? 'F' : 'C' };
}

function around(r: CuringRun): void {
  const { c, p, system } = r;
  const strength = r.have('strength', system === 'us' ? 'psi' : 'MPa');
  const { least, most, unit } = initialRange(p, strength === null ? null : c.value(strength), system);
  const [low, high] = [r.have('low', unit), r.have('high', unit)];
  if (low !== null && high !== null && c.value(low).compare(c.value(high)) > 0) return r.refuse('cold-above-warm', 'low');
  const params = { least, most, unit: unitLabel(unit) };
  if (low !== null && c.value(low).compare(exact(least)) < 0) r.marks('initial-cure-cold', { ...params, got: brief(c.value(low), 3) });
  if (high !== null && c.value(high).compare(exact(most)) > 0) r.marks('initial-cure-warm', { ...params, got: brief(c.value(high), 3) });
}
