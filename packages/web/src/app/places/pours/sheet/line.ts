import type { Sample } from '@keen-mortar/contract';
import { findingsOf, type AnyInputs, type Finding, type Line, type LineItem, type LineTest } from '@keen-mortar/core';
import type { Row } from './sheet.view';

/** What is told of a sample and not on record yet lies over what is: its portions, when it was combined, when the truck was empty. */
function overlaid(sample: Sample, item: LineItem): LineItem {
  const at = (kind: string): string | undefined => sample.events.find((e) => e.kind === kind)?.at;
  const said = (facts: object): LineItem => ({ ...item, facts: { ...item.facts, ...facts } as AnyInputs });
  if (item.id === sample.id) {
    const portions = sample.events
      .filter((e) => e.kind === 'portion')
      .map(({ at: taken, part }) => ({ at: taken, ...(part ? { part } : {}) }));
    return said({ portions, finished: at('finished') });
  }
  if (item.kind !== 'load') return item;
  const discharged = at('discharged');
  return said(discharged === undefined ? {} : { discharged });
}

function lineTest(sample: Sample, row: Row): LineTest[] {
  const made = row.draft ?? row.test;
  if (!made) return [];
  const kit = [row.test?.kit ?? sample.kit.find((k) => k.id === made.equipmentId)].filter((k) => k !== undefined && k !== null);
  return [
    {
      id: row.test?.id ?? row.draft!.testId,
      itemId: sample.id,
      method: row.method,
      system: made.system,
      startedAt: row.draft?.startedAt ?? row.test?.startedAt ?? sample.createdAt,
      by: row.test?.by ?? '',
      retestOf: row.retestOf,
      kit: kit.map(({ id, kind, name, calibratedOn }) => ({ id, kind, name, calibratedOn })),
      inputs: {} as AnyInputs,
      outcome: row.state === 'open' && row.evaluation.results.every((r) => r.state === 'open') ? null : row.evaluation,
      judged: row.judged,
      state: row.state,
    },
  ];
}

/** The line of a sample as it stands with what is being keyed laid over it. */
export function lineOfSheet(sample: Sample, rows: readonly Row[]): Line {
  const from = sample.line.findIndex((i) => i.kind === 'load' || i.kind === 'trial-batch');
  return {
    project: sample.project,
    above: sample.line.slice(0, Math.max(0, from)),
    items: sample.line.slice(Math.max(0, from)).map((item) => overlaid(sample, item)),
    tests: rows.flatMap((row) => lineTest(sample, row)).sort((a, b) => Date.parse(a.startedAt) - Date.parse(b.startedAt)),
    revision: sample.revision,
    specifications: sample.specifications,
    decisions: sample.decisions,
  };
}

/** What several things mean together, by the same judge as on record: with what is in hand laid over it. */
export const findingsOfSheet = (sample: Sample, rows: readonly Row[]): readonly Finding[] => findingsOf(lineOfSheet(sample, rows));
