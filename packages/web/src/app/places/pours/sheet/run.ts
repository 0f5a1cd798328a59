import { nextTurn, pairWords, unitLabel, type NextTurn, type Side } from '@keen-mortar/core';
import { zonedTime } from '../../../parts/when';
import type { Made } from '../../../test/path';
import type { Row } from './sheet.view';

/** Tests of one method that were made because of each other, drawn as the way that they went. */
export interface Run {
  readonly made: readonly Made[];
  readonly next: NextTurn | null;
  readonly side: Side | undefined;
  readonly end: string | null;
  readonly fails: boolean;
}

const idOf = (row: Row): string => row.test?.id ?? row.draft?.testId ?? '';
const sideOf = (row: Row): Side | undefined => row.verdicts.find((v) => v.state === 'out')?.side;

/** The run that a row belongs to; null while there is nothing to follow from anything. */
export function runOf(all: readonly Row[], row: Row, zone: string): Run | null {
  let first = row;
  for (let before; (before = all.find((r) => idOf(r) !== '' && idOf(r) === first.retestOf));) first = before;
  const run = [first];
  for (let after; (after = all.find((r) => r.retestOf !== null && r.retestOf === idOf(run.at(-1)!)));) run.push(after);
  const made = run.filter((r) => r.state !== 'open' && r.test?.kept);
  const last = made.at(-1);
  if (!last || !made.some((r) => r.state === 'out' || r.state === 'void')) return null;
  const words = last.pair && pairWords(last.pair, last.apart);
  return {
    made: made.map((r) => asMade(r, zone)),
    next: nextTurn(last),
    side: made.map(sideOf).find((side) => side !== undefined),
    end: words ? words.says : null,
    fails: words?.fails ?? false,
  };
}

function asMade(row: Row, zone: string): Made {
  const main = row.evaluation.results.find((r) => row.method.results[r.id]?.main && r.reported !== null);
  return {
    id: row.key,
    text: row.state === 'void' || !main ? 'void' : `${main.reported} ${unitLabel(main.unit)}`.trim(),
    state: row.state,
    side: sideOf(row),
    marked: row.evaluation.validity.state === 'marked',
    at: row.test ? zonedTime(row.test.startedAt, zone) : '',
  };
}
