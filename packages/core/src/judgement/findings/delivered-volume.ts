import { brief, exact } from '../../numbers/exact.js';
import { convert, unitLabel } from '../../units/units.js';
import type { Keyed } from '../../units/reading.js';
import { always, finding, type Found } from './finding.js';
import { factOf, isGone } from './line.js';

export const deliveredVolumeFinding = finding({
  id: 'delivered-volume',
  title: 'Delivered volume',
  about: 'What the loads of a pour bring together, against what was planned.',
  reads: 'The planned volume of the pour, and the volumes on its tickets.',
  follows: [],
  find: (line) =>
    line.items.flatMap((pour): Found[] => {
      const planned = pour.kind === 'pour' && !isGone(line, pour) ? factOf<Keyed>(pour, 'planned') : undefined;
      if (!planned) return [];
      const loads = line.items.filter((i) => i.kind === 'load' && i.parentId === pour.id && !isGone(line, i));
      if (loads.length === 0) return [];
      const sum = loads.reduce((all, load) => {
        const design = factOf<Keyed>(load, 'design');
        return design ? all.add(convert(exact(design.text), design.unit, planned.unit)) : all;
      }, exact('0'));
      const unit = unitLabel(planned.unit);
      const says = `${brief(sum, 4)} of ${planned.text} ${unit} delivered`;
      return [
        {
          subjectId: pour.id,
          states:
            sum.compare(exact(planned.text)) > 0
              ? always('watch', `${says}: more than planned.`, ['Look for a ticket that was keyed twice, or correct what was planned.'])
              : always('fine', `${says}.`),
        },
      ];
    }),
});
