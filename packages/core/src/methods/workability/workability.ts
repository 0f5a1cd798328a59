import { exact } from '../../numbers/exact.js';
import { method, qty, type Citation } from '../definition.js';

const IS456: Citation = { designation: 'IS 456', edition: '2000', part: 'placing conditions' };
const IS1199: Citation = { designation: 'IS 1199', edition: '1959', part: 'degrees of workability' };
const ACI211: Citation = { designation: 'ACI 211.1', edition: '2022', part: 'recommended slumps' };

/** Classes of a school, each in the unit it is printed in; they may overlap, and a value may fall into two. */
type GuideParams = { unit: 'mm' | 'in'; classes: readonly { name: string; least: string; most: string }[] };

export const workability = method({
  id: 'workability',
  title: 'Workability guide',
  names: ['workability', 'degree of workability', 'recommended slump', 'placing'],
  follows: [IS456, IS1199, ACI211],
  about: 'What a slump is good for, by each standard: classes overlap and standards differ, so every class that fits is named.',
  fields: { slump: qty('length', 's', 'Slump', { si: 'mm', us: 'in' }, { possible: { unit: 'mm', least: '0', most: '305' } }) },
  results: { classes: { label: 'Good for', symbol: 'classes', units: { si: '1', us: '1' }, main: true } },
  variants: {
    is456: {
      label: 'placing conditions',
      source: IS456,
      params: {
        unit: 'mm',
        classes: [
          { name: 'low: mass concrete, lightly reinforced', least: '25', most: '75' },
          { name: 'medium: heavily reinforced', least: '50', most: '100' },
          { name: 'medium: pumped', least: '75', most: '100' },
          { name: 'high: trench fill, in-situ piling', least: '100', most: '150' },
        ],
      } satisfies GuideParams as GuideParams,
    },
    degrees: {
      label: 'degrees, with compaction factor',
      source: IS1199,
      params: {
        unit: 'mm',
        classes: [
          { name: 'very low (0.78)', least: '0', most: '25' },
          { name: 'low (0.85)', least: '25', most: '50' },
          { name: 'medium (0.92)', least: '50', most: '100' },
          { name: 'high (0.95)', least: '100', most: '175' },
        ],
      } satisfies GuideParams as GuideParams,
    },
    aci211: {
      label: 'by element',
      source: ACI211,
      params: {
        unit: 'in',
        classes: [
          { name: 'footings and walls', least: '1', most: '3' },
          { name: 'beams, reinforced walls, columns', least: '1', most: '4' },
          { name: 'pavements, slabs', least: '1', most: '3' },
          { name: 'mass concrete', least: '1', most: '2' },
        ],
      } satisfies GuideParams as GuideParams,
    },
  },
  steps: [{ text: 'A guide, not a requirement: the specification decides.' }],
  example: { slump: '95 mm' },
  run(r) {
    const { c, p } = r;
    const slump = r.need('slump', p.unit);
    if (slump === null) return;
    const value = c.value(slump);
    const fits = p.classes.filter(({ least, most }) => value.compare(exact(least)) >= 0 && value.compare(exact(most)) <= 0);
    r.says(
      'classes',
      fits.map(({ name }) => name),
    );
    if (fits.length === 0) r.note('no-class-fits');
    if (p.classes.some(({ least, most }) => value.equals(exact(least)) || value.equals(exact(most)))) r.note('on-a-boundary');
  },
});
