import {
  evaluate,
  giftsOf,
  inputsOf,
  methodById,
  unitLabel,
  type AnyInputs,
  type Evaluation,
  type Keyed,
  type Sources,
} from '@keen-mortar/core';
import type { Sample } from './resources.js';

/** How measure and bowl are filled. */
export interface Filling {
  /** What the slump says of it; null while none counts. */
  readonly words: string | null;
  /** All of it, for whoever fills next. */
  readonly how: string;
}

/**
 * From the newest slump that gives a figure (after a void test the one before it), and the measure of the kit.
 * @param tests of the sample, in the order in which they were made
 */
export function fillingOf(sample: Sample, tests: readonly Evaluation[]): Filling {
  const said = consolidation(sample, tests);
  const rod = said === null || said.allowed.includes('rod') ? rodding(sample) : null;
  const vibrate = said?.allowed.includes('vibrate') ? said.how.at(-1) : undefined;
  const how = [
    // Without a slump that counts nothing says how to consolidate; how it is rodded is known all the same.
    said?.words ?? 'No slump that counts yet: rod it, or vibrate it if it is stiff.',
    rod === null ? '' : `${rod}.`,
    vibrate ?? '',
    'If it is the air meter’s own bowl, filling it starts the air test too.',
  ];
  return { words: said?.words ?? null, how: how.filter((part) => part !== '').join(' ') };
}

function consolidation(sample: Sample, tests: readonly Evaluation[]) {
  const m = methodById('consolidation')!;
  // What the newest gives counts.
  const given: Sources = Object.fromEntries(
    tests.flatMap((e) => giftsOf(methodById(e.method)!, e, {} as AnyInputs).map(({ as, value }) => [as, value])),
  );
  const inputs = inputsOf(m, { use: 'measure' }, given);
  const slump = (inputs as { slump: Keyed | null }).slump;
  if (slump === null) return null;
  const e = evaluate(m, inputs, { variant: 'astm', system: sample.project.system });
  const [allowed, how] = ['allowed', 'how'].map((id) => e.results.find((r) => r.id === id)?.words ?? []) as [string[], string[]];
  const either = allowed.length > 1 ? ' Either will do.' : '';
  return { allowed, how, words: `The slump is ${slump.text} ${unitLabel(slump.unit)}: ${allowed.join(' or ')} the measure.${either}` };
}

/** How the measure is rodded that the density test would take, by its nominal size; null where there is none. */
function rodding(sample: Sample): string | null {
  const nominal = sample.kit.find((k) => k.kind === 'measure')?.sources['measure.nominal'];
  if (nominal === undefined) return null;
  const e = evaluate(methodById('rodding')!, { capacity: nominal } as AnyInputs, { variant: 'c138', system: sample.project.system });
  return e.results.find((r) => r.id === 'how')?.words?.[0] ?? null;
}
