import type { Test } from '@keen-mortar/contract';
import {
  giftsOf,
  methodById,
  standingOf,
  stateOfTest,
  worst,
  type AnyInputs,
  type AnyMethod,
  type Verdict,
  type VerdictState,
} from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { Bench } from '../queries/tests.js';
import { recountAbove, setWorst } from '../store/items.js';
import { setGifts, type Gift } from '../store/gifts.js';
import { setStanding, type Standing } from '../store/standing.js';

/** The worst that a specification says of each result. */
export function verdictsOf(kept: Pick<NonNullable<Test['kept']>, 'judged' | 'evaluation'>): Map<string, Verdict> {
  return new Map(
    kept.evaluation.results.flatMap((r): [string, Verdict][] => {
      const all = kept.judged.flatMap((j) => j.verdicts.filter((v) => v.result === r.id));
      const state = worst(all.map((v) => v.state));
      const found = all.find((v) => v.state === state);
      return found ? [[r.id, found]] : [];
    }),
  );
}

const stateOf = (m: AnyMethod, { kept }: Test): VerdictState => (kept ? stateOfTest(m, kept.evaluation, kept.judged) : 'open');

/** The tests of one method that stand. */
function standing(m: AnyMethod, tests: readonly Test[]): Test[] {
  const onRecord = tests
    .filter((t) => t.method === m.id)
    .map((t) => ({ id: t.id, retestOf: t.retestOf, evaluation: t.kept?.evaluation ?? null, state: stateOf(m, t), test: t }));
  return standingOf(m, onRecord).map(({ test }) => test);
}

function giftRows(bench: Bench, m: AnyMethod, tests: readonly Test[]): Gift[] {
  return standing(m, tests).flatMap((test) =>
    giftsOf(m, test.kept!.evaluation, test.kept!.inputs as AnyInputs).map(({ as, to, value }): Gift => ({
      itemId: bench.item.id,
      source: as,
      testId: test.id,
      subjectId: to === 'subject' ? bench.item.subjectId : null,
      method: m.id,
      at: new Date(test.startedAt),
      text: value.text,
      unit: value.unit,
    })),
  );
}

function standingRows(bench: Bench, tests: readonly Test[], method: string): Standing[] {
  const m = methodById(method);
  if (!m) return [];
  return standing(m, tests).flatMap((test): Standing[] => {
    const verdicts = verdictsOf(test.kept!);
    return test.kept!.evaluation.results.flatMap((r): Standing[] => {
      const field = m.results[r.id];
      if (field?.property === undefined) return [];
      return [
        {
          itemId: bench.item.id,
          testId: test.id,
          result: r.id,
          subjectId: bench.item.subjectId,
          property: field.property,
          method,
          at: new Date(test.startedAt),
          unit: r.unit,
          reported: r.state === 'given' ? r.reported : null,
          validity: test.kept!.evaluation.validity.state,
          state: verdicts.get(r.id)?.state ?? 'unjudged',
        },
      ];
    });
  });
}

/** What stands for some methods of an item is made again, and what needs attention first of all of them. */
export async function stand(cx: PoolConnection, bench: Bench, tests: readonly Test[], methods: ReadonlySet<string>): Promise<void> {
  const all = new Map([...new Set(tests.map((t) => t.method))].map((method) => [method, standingRows(bench, tests, method)]));
  for (const method of methods) {
    await setStanding(cx, bench.item.id, method, all.get(method) ?? []);
    const m = methodById(method);
    if (m?.gives) await setGifts(cx, bench.item.id, method, giftRows(bench, m, tests));
  }
  const states = [...all.values()]
    .flat()
    .map((s) => s.state)
    .filter((s) => s !== 'open');
  const now = states.length === 0 ? null : worst(states);
  const before = bench.item.worst;
  if (now === before) return;
  await setWorst(cx, bench.item.id, now);
  // What is out here is out in all that it lies in.
  if (now === 'out' || before === 'out') await recountAbove(cx, bench.line);
}
