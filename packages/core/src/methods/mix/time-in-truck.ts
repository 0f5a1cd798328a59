import { USUAL_TRUCK_MINUTES } from '../../time/fuses.js';
import { momentOf } from '../../time/moment.js';
import { instant, method } from '../definition.js';
import { C94 } from './fields.js';

export const timeInTruck = method({
  id: 'time-in-truck',
  on: ['load'],
  title: 'Time in the truck',
  names: ['time in truck', 'discharge time', '90 minutes', 'time limit'],
  follows: [{ ...C94, part: 'time of discharge' }],
  about: 'From water meeting cement until the truck is empty, against the time that the specification gives.',
  fields: {
    batched: instant('Water met cement at', { from: 'ticket.batched' }),
    discharged: instant('Truck empty at', { from: 'load.discharged' }),
  },
  results: {
    time: {
      label: 'Time in the truck',
      symbol: 't',
      units: { si: 'min', us: 'min' },
      property: 'time-in-truck',
      plausible: { unit: 'min', least: '0', most: '360' },
      main: true,
    },
  },
  variants: { c94: { label: 'to the minute', source: C94, params: { increments: { min: '1' } } } },
  steps: [
    { text: `The limit is the specification’s own, often ${USUAL_TRUCK_MINUTES} min; newer editions leave it to purchaser and producer.` },
  ],
  advice: [
    {
      result: 'time',
      side: 'high',
      steps: [
        'No water any more. Tell whoever may reject the load, before it is placed.',
        'If it is kept, note who allowed it, and test slump and temperature again.',
      ],
      levers: ['Time and heat: the concrete has lost slump and set begins'],
    },
  ],
  example: { batched: '2026-05-12T07:42:00Z', discharged: '2026-05-12T08:51:00Z' },
  run(r) {
    const { c, x, p } = r;
    const [batched, discharged] = [momentOf(x.batched), momentOf(x.discharged)];
    if (batched === null) r.missing('batched');
    if (discharged === null) r.missing('discharged');
    if (batched === null || discharged === null) return;
    if (discharged < batched) return r.refuse('discharged-before-batched', 'discharged');
    r.result('time', c.name('t', c.div(c.num(String(discharged - batched)), c.num('60000')), 'min'), 'min', p.increments);
  },
});
