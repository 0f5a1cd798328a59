import { FINDING_GRADES, always, because, finding, pressing, type Found } from './finding.js';
import { itemsOf } from './line.js';
import { loadsOf } from './load.js';

const OUT = FINDING_GRADES.indexOf('out');

export const loadStandsFinding = finding({
  id: 'load-stands',
  title: 'Whether the load stands',
  about:
    'What a load does not meet, once its check tests are made, and whether somebody decided. Keen Mortar rejects nothing: it says who decides, and keeps what was decided.',
  reads: 'Time in the truck, w/cm, water on site, and the pairs of its samples.',
  follows: [{ designation: 'ASTM C94/C94M', edition: '2023', part: 'failure to meet requirements' }],
  beside: 'load',
  find: (line, before) =>
    loadsOf(line).flatMap((load): Found[] => {
      const samples = itemsOf(line, 'sample').filter((s) => s.parentId === load.id);
      const all = [
        ...before('time-in-truck', load.id),
        ...before('load-wcm', load.id),
        ...before('water-on-site', load.id),
        ...samples.flatMap((s) => before('pair', s.id)),
      ].sort((a, b) => pressing(a.states.at(-1)!.grade, b.states.at(-1)!.grade));
      const fails = all.filter((f) => FINDING_GRADES.indexOf(f.states.at(-1)!.grade) >= OUT);
      if (fails.length === 0) return [];
      return [
        {
          subjectId: load.id,
          states: always('asks', 'The load does not meet what is asked of it: whoever may reject it decides.', [
            'Put on record what was decided, by whom, and why.',
          ]),
          evidence: because(fails.map((f) => f.states.at(-1)!.says)),
          stoodOn: fails.flatMap((f) => f.stoodOn),
          choices: ['rejected', 'accepted'],
        },
      ];
    }),
});
