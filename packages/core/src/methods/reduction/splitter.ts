import { brief, exact } from '../../numbers/exact.js';
import { convert } from '../../units/units.js';
import { method, pick, qty, YES_NO } from '../definition.js';
import { C702 } from './reduction.js';

type SplitterParams = {
  /** Chute width over the largest particle. */
  multiple: string;
  chutes: { coarse: number; fine: number };
  /** Dry fine passing `size` mm: chutes from `least` to `most` mm. */
  fine: { size: string; least: string; most: string };
};

const BASE = { chutes: { coarse: 8, fine: 12 }, fine: { size: '9.5', least: '12.5', most: '20' } };

export const splitter = method({
  id: 'splitter',
  on: ['field-sample'],
  kit: 'splitter',
  title: 'Splitter against its material',
  names: ['splitter', 'riffle', 'chutes', 'chute width'],
  follows: [C702],
  about: 'Whether a splitter fits: an even number of equal chutes, wide enough that the largest particle does not bridge.',
  fields: {
    material: pick('Material', { coarse: 'Coarse', fine: 'Fine, dry', mixture: 'Coarse and fine' }),
    largest: qty(
      'length',
      'd',
      'Largest particle',
      { si: 'mm', us: 'in' },
      { possible: { unit: 'mm', above: '0', most: '200' }, plausible: { unit: 'mm', least: '0.6', most: '100' } },
    ),
    chutes: qty(
      'ratio',
      'n',
      'Chutes',
      { si: '1', us: '1' },
      { from: 'splitter.chutes', possible: { unit: '1', least: '1', most: '100' } },
    ),
    width: qty(
      'length',
      'w',
      'Width of a chute',
      { si: 'mm', us: 'in' },
      {
        from: 'splitter.width',
        possible: { unit: 'mm', above: '0', most: '500' },
        plausible: { unit: 'mm', least: '5', most: '200' },
        typical: { text: '38', unit: 'mm' },
      },
    ),
  },
  results: {
    fits: { label: 'Fits', symbol: 'fits', units: { si: '1', us: '1' }, words: YES_NO, main: true },
    fewest: { label: 'Chutes that it takes, at least', symbol: 'n ≥', units: { si: '1', us: '1' } },
    least: { label: 'Width of a chute, at least', symbol: 'w ≥', units: { si: 'mm', us: 'in' } },
  },
  variants: {
    text: {
      label: 'half as wide again as the largest particle',
      source: C702,
      params: { ...BASE, multiple: '1.5' } satisfies SplitterParams as SplitterParams,
    },
    twice: {
      label: 'twice the largest particle: a lab’s own, bridges less',
      source: C702,
      params: { ...BASE, multiple: '2' } satisfies SplitterParams as SplitterParams,
    },
    thrice: {
      label: 'three times the largest particle: a lab’s own',
      source: C702,
      params: { ...BASE, multiple: '3' } satisfies SplitterParams as SplitterParams,
    },
  },
  steps: [
    { text: 'Two receiving pans; feed spread from edge to edge, released freely.' },
    { text: 'Dust: mask. Fingers stay out of the chutes; a full pan is heavy.', caution: true },
  ],
  example: { material: 'coarse', largest: '25 mm', chutes: '10', width: '38 mm' },
  run(r) {
    const { c, x, p, system } = r;
    const unit = system === 'us' ? 'in' : 'mm';
    const [largest, chutes, width] = [r.need('largest', unit), r.need('chutes', '1'), r.need('width', unit)];
    if (x.material === null) r.missing('material');
    if (x.material === null || largest === null || chutes === null || width === null) return;
    const faults: string[] = [];
    const refuse = (...said: Parameters<typeof r.doubt>) => {
      faults.push(said[1]);
      r.doubt(...said);
    };
    const count = c.value(chutes);
    const fewest = p.chutes[x.material === 'fine' ? 'fine' : 'coarse'];
    r.result('fewest', c.num(String(fewest)), '1', { '1': '1' });
    if (!count.isWhole() || !count.div(2).isWhole()) refuse('chutes-odd', 'chutes');
    else if (count.compare(fewest) < 0) refuse('chutes-few', 'chutes', { least: String(fewest) });
    const mm = (v: typeof width) => convert(c.value(v), unit, 'mm');
    const least = c.name('w ≥', c.mul(c.num(p.multiple), largest), unit);
    if (x.material === 'fine' && mm(largest).compare(exact(p.fine.size)) <= 0) {
      if (mm(width).compare(exact(p.fine.least)) < 0 || mm(width).compare(exact(p.fine.most)) > 0)
        refuse('chutes-for-fine', 'width', { least: p.fine.least, most: p.fine.most });
    } else {
      r.result('least', least, unit);
      if (c.value(width).compare(c.value(least)) < 0) refuse('chutes-narrow', 'width', { least: `${brief(c.value(least), 4)} ${unit}` });
    }
    r.says('fits', [faults.length === 0 ? 'yes' : 'no']);
  },
});
