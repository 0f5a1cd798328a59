import { curing } from '../../methods/curing/curing.js';
import { evaluate, type Evaluation } from '../../methods/evaluate.js';
import { nextStep, say } from '../../problems.js';
import { inputsOf, type Sources } from '../../record/sources.js';
import { ITEM_KINDS } from '../../record/items.js';
import { strengthLimit } from '../strength-limit.js';
import { always, finding, type Found } from './finding.js';
import { factOf, itemsOf, type Line, type LineItem } from './line.js';

/** What a set of specimens went through, by the method that says what is asked. */
export function curingOf(line: Line, set: LineItem): Evaluation {
  const asked = strengthLimit(line.specifications.flatMap((s) => s.limits));
  const given = Object.fromEntries(
    Object.entries(ITEM_KINDS['specimen-set'].gives ?? {}).map(([fact, source]) => [source, factOf(set, fact)]),
  ) as Sources;
  const sources = { ...given, ...(asked ? { 'mix.strength': { text: asked.lower!, unit: asked.unit } } : {}) };
  return evaluate(curing, inputsOf(curing, {}, sources), { variant: 'c31', system: line.project.system, offers: false });
}

export const curingFinding = finding({
  id: 'curing',
  title: 'What the set went through',
  about: 'Whether a set was kept, moved and cured as the method asks: said on its sheet on the day, and with every strength of it.',
  reads: 'Coldest and warmest beside the set, when it was moved, demolded and in the tank, and the specified strength.',
  follows: curing.follows,
  find: (line) =>
    itemsOf(line, 'specimen-set').flatMap((set): Found[] => {
      if (factOf(set, 'shape') === 'core') return [];
      const { validity } = curingOf(line, set);
      // Cured with the structure it is meant to be: that is no remark on how it was kept.
      const strayed = validity.reasons.filter(({ code }) => code !== 'field-cured');
      if (strayed.length === 0) return [];
      return [
        {
          subjectId: set.id,
          states: always(
            'watch',
            strayed.map(({ code, params }) => say(code, params)).join(' '),
            strayed.flatMap(({ code, params }) => nextStep(code, params) ?? []),
          ),
          acceptance: 'waits',
        },
      ];
    }),
});
