import { evaluate, type Evaluation } from '../evaluate.js';
import type { AnyInputs } from '../definition.js';
import { sourceHistory } from './source-history.js';

/** What was found of a source before, by property: the code of what it was found on, and as it was reported. */
export type HistoryByProperty = Readonly<Record<string, readonly { readonly sample: string; readonly reported: string }[]>>;

const VARIANTS: Readonly<Record<string, keyof typeof sourceHistory.variants>> = { 'coarse-gravity': 'coarse', 'fine-gravity': 'fine' };
const FIGURES = { od: 'sg-od', apparent: 'sg-apparent', absorption: 'absorption' } as const;

/**
 * A gravity test against what its source has given before, those alone of which all three figures are known. Null for what is
 * no gravity, is not whole, or has too little before it.
 */
export function againstHistory(e: Evaluation, history: HistoryByProperty): Evaluation | null {
  const variant = VARIANTS[e.method];
  const now = Object.keys(FIGURES).map((id) => e.results.find((r) => r.id === id && r.state === 'given')?.reported);
  if (variant === undefined || now.some((text) => !text)) return null;
  const [od, apparent, absorption] = Object.values(FIGURES).map(
    (property) => new Map((history[property] ?? []).map((p) => [p.sample, p.reported])),
  ) as [Map<string, string>, Map<string, string>, Map<string, string>];
  const rows = [...od].flatMap(([sample, text]) => {
    const [other, soaked] = [apparent.get(sample), absorption.get(sample)];
    return other === undefined || soaked === undefined
      ? []
      : [{ on: sample, od: { text, unit: '1' }, apparent: { text: other, unit: '1' }, absorption: { text: soaked, unit: '%' } }];
  });
  if (rows.length < sourceHistory.variants[variant]!.params.least) return null;
  const [a, b, c] = now as [string, string, string];
  const figures = { od: { text: a, unit: '1' }, apparent: { text: b, unit: '1' }, absorption: { text: c, unit: '%' } };
  return evaluate(sourceHistory, { history: rows, ...figures } as AnyInputs, { variant, system: 'si', offers: false });
}
