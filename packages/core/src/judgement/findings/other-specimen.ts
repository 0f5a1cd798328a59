import { exact } from '../../numbers/exact.js';
import { say } from '../../problems.js';
import { isUnit, convert } from '../../units/units.js';
import type { Keyed } from '../../units/reading.js';
import type { AnyInputs, AnyMethod } from '../../methods/definition.js';
import type { Remark } from '../../methods/running.js';
import { always, finding, type Found } from './finding.js';
import { factOf, itemsOf, type LineItem } from './line.js';

/** Further than this from the nominal size of its set, %, it is another mold: no two molds of one shape are nearer. */
const OTHER_SIZE = '10';

/** What each method breaks, and the reading by which it is told: the one that measures what the set calls its width, where one does. */
const MEASURED: Readonly<Record<string, { readonly shapes: readonly string[]; readonly width: string; readonly sized?: true }>> = {
  cylinder: { shapes: ['cylinder', 'core'], width: 'd1', sized: true },
  cube: { shapes: ['cube'], width: 'a', sized: true },
  splitting: { shapes: ['cylinder', 'core'], width: 'load' },
  flexure: { shapes: ['beam'], width: 'load' },
};

const SHAPES: Readonly<Record<string, string>> = { cylinder: 'cylinders', cube: 'cubes', beam: 'beams', core: 'cores' };

/** A specimen that is not what its set was molded as, and the reading that says so; null where it is, or nobody said. */
export function otherSpecimen(
  set: Pick<LineItem, 'facts'>,
  m: Pick<AnyMethod, 'id' | 'title'>,
  inputs: AnyInputs,
): (Remark & { readonly path: string }) | null {
  const measured = MEASURED[m.id];
  const shape = factOf<string>(set, 'shape');
  if (!measured || shape === undefined) return null;
  const path = measured.width;
  if (!measured.shapes.includes(shape))
    return { code: 'other-shape', path, params: { set: SHAPES[shape] ?? shape, tested: m.title.toLowerCase() } };
  // A core is drilled to what it is: its size is measured, not molded.
  if (!measured.sized || shape === 'core') return null;
  const nominal = factOf<Keyed>(set, 'width');
  const found = (inputs as Readonly<Record<string, Keyed | null | undefined>>)[path];
  if (!nominal || !found || !/^\d*\.?\d+$/.test(found.text.trim()) || !isUnit(found.unit)) return null;
  const [ought, is] = [nominal, found].map((k) => convert(exact(k.text.trim()), k.unit, 'mm')) as [
    ReturnType<typeof exact>,
    ReturnType<typeof exact>,
  ];
  if (ought.sign() === 0 || is.sub(ought).abs().div(ought).mul(100).compare(exact(OTHER_SIZE)) <= 0) return null;
  return { code: 'other-size', path, params: { set: `${nominal.text} ${nominal.unit}`, got: `${found.text.trim()} ${found.unit}` } };
}

export const otherSpecimenFinding = finding({
  id: 'other-specimen',
  title: 'What was broken is what was molded',
  about: 'Whether shape and size of each specimen that was broken are those of its set: another one is a mix-up of labels.',
  reads: 'Shape and nominal width of the set, methods and measured widths of its specimens.',
  follows: [],
  find: (line) =>
    itemsOf(line, 'specimen-set').flatMap((set) => {
      const specimens = line.items.filter((i) => i.parentId === set.id && !i.voided);
      return specimens.flatMap((specimen): Found[] =>
        line.tests
          .filter((t) => t.itemId === specimen.id && t.outcome !== null)
          .flatMap((t): Found[] => {
            const other = otherSpecimen(set, t.method, t.inputs);
            return other
              ? [
                  {
                    subjectId: specimen.id,
                    part: t.id,
                    states: always('watch', `${specimen.code}: ${say(other.code, other.params)}`, [
                      'Look at its label, and correct which specimen it was, or what was measured.',
                    ]),
                    stoodOn: [t.id],
                    acceptance: 'waits',
                  },
                ]
              : [];
          }),
      );
    }),
});
