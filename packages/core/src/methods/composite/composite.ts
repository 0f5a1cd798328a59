import { exact } from '../../numbers/exact.js';
import { unitLabel, type System } from '../../units/units.js';
import { instant, method, pick, qty, rows, type Citation } from '../definition.js';
import { momentOf } from '../../time/moment.js';
import { duration } from '../evaluate.js';
import { C172 } from './windows.js';

const R60: Citation = { designation: 'AASHTO R 60', edition: '2012' };
const EN: Citation = { designation: 'EN 12350-1', edition: '2019' };

type CompositeParams = { leastPortions: number; portionsWithinSeconds: number; leastForSpecimens: Record<System, string> };

const PARAMS: CompositeParams = { leastPortions: 2, portionsWithinSeconds: 900, leastForSpecimens: { si: '28', us: '1' } };

export const composite = method({
  id: 'composite',
  title: 'Composite sample of fresh concrete',
  names: ['sample', 'sampling', 'composite', 'portions'],
  follows: [C172, R60, EN],
  about: 'Two or more portions from the middle of the discharge, combined and turned. Its clocks start everything else.',
  fields: {
    portions: rows(
      'Portions',
      {
        at: instant('Taken at'),
        part: pick(
          'Part of the discharge',
          { first: 'First tenth', middle: 'Middle', last: 'Last tenth' },
          { optional: true, usual: 'middle' },
        ),
      },
      { from: 'sample.portions' },
    ),
    finished: instant('Combined and turned at', { from: 'sample.finished' }),
    volume: qty(
      'volume',
      'V',
      'Volume of the composite',
      { si: 'L', us: 'ft3' },
      { optional: true, possible: { unit: 'L', above: '0', most: '1000' } },
    ),
    specimens: pick('Strength specimens will be made', { no: 'No', yes: 'Yes' }, { optional: true }),
    combined: pick('The portions were', { yes: 'Combined and turned', no: 'Tested as they were' }, { optional: true, usual: 'yes' }),
  },
  results: {
    spread: { label: 'First to last portion', symbol: 'spread', units: { si: 's', us: 's' }, whenVoid: true },
  },
  variants: {
    c172: { label: 'portions from the middle, at most 15 min apart', source: C172, params: PARAMS },
  },
  steps: [
    { text: 'Two or more portions at regular intervals from the middle of the discharge; none from the first or the last tenth.' },
    { text: 'At least 28 L (1 ft³) when strength specimens will be made. Combine and turn the least that makes it uniform.' },
    { text: 'The middle of the chute’s whole stream, never one edge of it; no portion before the drum has turned.' },
    { text: 'Shield it from sun, wind, rain and drying. Remix after carrying it to where the tests are made.' },
    {
      text: 'Keep clear of the swinging chute and of reversing trucks: the driver must see you. Gloves, eyes covered: fresh paste burns.',
      caution: true,
    },
  ],
  example: {
    portions: [
      { at: '2026-05-12T08:04:00Z', part: 'middle' },
      { at: '2026-05-12T08:09:00Z', part: 'middle' },
    ],
    finished: '2026-05-12T08:11:00Z',
    volume: '42 L',
    specimens: 'yes',
  },
  run(r) {
    const { x, p, c, system } = r;
    const unit = system === 'us' ? 'ft3' : 'L';
    const volume = r.have('volume', unit);
    if (volume !== null && x.specimens === 'yes' && c.value(volume).compare(exact(p.leastForSpecimens[system])) < 0) {
      r.marks('sample-too-small', { least: `${p.leastForSpecimens[system]} ${unitLabel(unit)}` });
    }
    const portions = x.portions ?? [];
    const times = portions.map((portion) => momentOf(portion.at)).filter((at) => at !== null);
    if (portions.some((portion) => portion.part === 'first' || portion.part === 'last')) r.marks('portion-at-end');
    const finished = momentOf(x.finished);
    if (times.length === 0) r.missing('portions');
    if (finished === null) r.missing('finished');
    if (x.combined === 'no') r.voids('not-combined');
    if (times.length === 0) return;
    const seconds = Math.round((Math.max(...times) - Math.min(...times)) / 1000);
    if (seconds > p.portionsWithinSeconds) r.voids('portions-apart', { took: duration(seconds), most: duration(p.portionsWithinSeconds) });
    if (finished !== null) {
      if (finished < Math.max(...times)) r.refuse('portions-out-of-order', 'finished');
      if (times.length < p.leastPortions) r.voids('one-grab');
    }
    r.result('spread', c.num(String(seconds)), 's', { s: '1' });
  },
});
