import { exact } from '../../numbers/exact.js';
import { convert, unitLabel } from '../../units/units.js';
import { ACCEPTED_AT_DAYS, COMPRESSIVE, EARLY_AT_DAYS } from '../strength-test.js';
import type { StrengthOfSet } from '../strength-of-set.js';
import { always, finding, type Found } from './finding.js';
import { itemsOf } from './line.js';
import { strengthsOn } from './strength.js';

/** What came of no gain between two means, unrounded. */
export const gainsNothing = (
  early: Pick<StrengthOfSet['test'], 'mean' | 'unit'>,
  late: Pick<StrengthOfSet['test'], 'mean' | 'unit'>,
): boolean => early.mean !== null && late.mean !== null && exact(late.mean).compare(convert(exact(early.mean), early.unit, late.unit)) <= 0;

export const noGainFinding = finding({
  id: 'no-gain',
  title: 'No strength gained',
  about: 'A set whose 28-day mean is at or below its 7-day mean: curing or testing is looked at before the concrete.',
  reads: 'The strength tests of a set at 7 and 28 days.',
  follows: [],
  find: (line) =>
    itemsOf(line, 'specimen-set').flatMap((set) => {
      const all = strengthsOn(line, set);
      return COMPRESSIVE.flatMap((property): Found[] => {
        const at = (days: number) => all.find((s) => s.property === property && s.ageDays === days);
        const [early, late] = [at(EARLY_AT_DAYS), at(ACCEPTED_AT_DAYS)];
        if (!early || !late || !gainsNothing(early.test, late.test)) return [];
        const unit = unitLabel(late.test.unit);
        return [
          {
            subjectId: set.id,
            part: property,
            states: always(
              'watch',
              `No strength gained from 7 to 28 days: ${early.test.reported ?? ''} and ${late.test.reported ?? ''} ${unit}.`,
              ['Look at curing and at both breaks before the concrete is doubted.'],
            ),
            stoodOn: [...early.specimens, ...late.specimens].map((b) => b.testId),
          },
        ];
      });
    }),
});
