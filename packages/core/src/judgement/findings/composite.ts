import { composite } from '../../methods/composite/composite.js';
import type { AnyInputs } from '../../methods/definition.js';
import { evaluate, type Evaluation } from '../../methods/evaluate.js';
import { nextStep, say } from '../../problems.js';
import { always, finding } from './finding.js';
import { factOf, itemsOf, type LineItem } from './line.js';
import type { System } from '../../units/units.js';

/** The composite of a sample by its method, from the portions and times on record. */
export function compositeOf(sample: Pick<LineItem, 'facts'>, system: System): Evaluation {
  const inputs = { portions: factOf(sample, 'portions') ?? null, finished: factOf(sample, 'finished') ?? null };
  return evaluate(composite, inputs as AnyInputs, { variant: 'c172', system, offers: false });
}

export const compositeFinding = finding({
  id: 'composite',
  title: 'The sample’s composite',
  about:
    'Whether the portions of a sample are one composite. One that is void makes every test on the sample, and every specimen molded of it, void.',
  reads: 'Portions and when they were combined.',
  follows: composite.follows,
  find: (line) =>
    itemsOf(line, 'sample').flatMap((sample) => {
      // While it is being taken nothing is settled: its clock says what is to be done.
      if (factOf(sample, 'finished') === undefined) return [];
      const { validity } = compositeOf(sample, line.project.system);
      const why = validity.reasons.map(({ code, params }) => say(code, params)).join(' ');
      const next = validity.reasons.flatMap(({ code, params }) => nextStep(code, params) ?? []);
      const about = { subjectId: sample.id };
      if (validity.state === 'void')
        return [{ ...about, states: always('void', say('sample-void', { why }), next), acceptance: 'excluded' as const }];
      if (validity.state === 'marked') return [{ ...about, states: always('watch', why, next), acceptance: 'waits' as const }];
      const portions = factOf<readonly unknown[]>(sample, 'portions')?.length ?? 0;
      return [{ ...about, states: always('fine', `A composite of ${portions} portions.`) }];
    }),
});
