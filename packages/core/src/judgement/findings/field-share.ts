import { brief, exact, type Exact } from '../../numbers/exact.js';
import { convert, unitLabel, type System, type UnitId } from '../../units/units.js';
import type { Keyed } from '../../units/reading.js';
import { atAge } from '../../time/dues.js';
import { COMPRESSIVE } from '../strength-test.js';
import { partOf } from '../strength-of-set.js';
import { always, finding, type Found } from './finding.js';
import { factOf, itemsOf } from './line.js';
import { acceptedOn, strengthsOn } from './strength.js';

/** ACI 318, protection and curing: 85 % of the standard-cured companions, or so much over f’c that the share is not asked. */
export const FIELD_SHARE = { least: '85', over: { si: { text: '3.5', unit: 'MPa' }, us: { text: '500', unit: 'psi' } } } as const;

export interface FieldShare {
  /** Per cent of the standard-cured mean, unrounded. */
  readonly share: Exact;
  /** f’c and what must be exceeded for the share not to count. */
  readonly beyond: Exact;
  readonly unit: UnitId;
  /** Which of the two rules are met. */
  readonly by: readonly ('share' | 'fc_plus')[];
}

/**
 * Strength that was cured with the structure beside what was cured as the method asks, both unrounded.
 * @param specified f’c
 */
export function fieldShare(field: Keyed, standard: Keyed, specified: Keyed, system: System): FieldShare {
  const unit: UnitId = system === 'us' ? 'psi' : 'MPa';
  const inUnit = (k: Keyed): Exact => convert(exact(k.text), k.unit, unit);
  const share = inUnit(field).div(inUnit(standard)).mul(100);
  const beyond = inUnit(specified).add(exact(FIELD_SHARE.over[system].text));
  const by = [
    ...(share.compare(exact(FIELD_SHARE.least)) >= 0 ? (['share'] as const) : []),
    ...(inUnit(field).compare(beyond) > 0 ? (['fc_plus'] as const) : []),
  ];
  return { share, beyond, unit, by };
}

export const fieldShareFinding = finding({
  id: 'field-share',
  title: 'Cured with the structure, beside standard',
  about: 'Whether specimens that were cured with the structure reach what shows that its curing is adequate.',
  reads: 'Strength tests of the sets of one sample at one age, cured either way, and f’c.',
  follows: [{ designation: 'ACI 318', edition: '2019', part: 'protection and curing' }],
  find: (line) => {
    const sets = itemsOf(line, 'specimen-set');
    const accepted = acceptedOn(line);
    return sets
      .filter((set) => factOf(set, 'curing') === 'field')
      .flatMap((set) =>
        strengthsOn(line, set).flatMap((s): Found[] => {
          const specified = (accepted.find((a) => a.ageDays === s.ageDays) ?? accepted.at(-1))?.specified;
          if (!COMPRESSIVE.includes(s.property) || s.test.mean === null || !specified) return [];
          const beside = sets
            .filter((other) => other.parentId === set.parentId && factOf(other, 'curing') !== 'field')
            .flatMap((other) => strengthsOn(line, other))
            .find((o) => o.property === s.property && o.ageDays === s.ageDays && o.test.mean !== null);
          if (!beside) return [];
          const { share, by, beyond, unit } = fieldShare(
            { text: s.test.mean, unit: s.test.unit },
            { text: beside.test.mean!, unit: beside.test.unit },
            specified,
            line.project.system,
          );
          const says = `${atAge(s.ageDays)}: cured with the structure it reaches ${brief(share, 3, exact(FIELD_SHARE.least))} % of its standard-cured companions`;
          return [
            {
              subjectId: set.id,
              part: partOf(s),
              states:
                by.length > 0
                  ? always('fine', `${says}: curing and protection are adequate.`)
                  : always('watch', `${says}; ${FIELD_SHARE.least} % is asked, or more than ${brief(beyond, 4)} ${unitLabel(unit)}.`, [
                      'Improve curing and protection of the structure, and tell the engineer.',
                    ]),
              stoodOn: [...s.specimens, ...beside.specimens].map((b) => b.testId),
            },
          ];
        }),
      );
  },
});
