import type { Item } from '@keen-mortar/contract';
import { randomLoads, type Keyed } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { TestRecord } from '../store/tests.js';
import { INK, Paper, WIDTH } from './paper.js';

/** A line for each load, wide enough for a pencil in gloves. */
const LINE = 26;
const COLUMNS = [
  { head: 'Load', x: 0 },
  { head: 'Ticket', x: 90 },
  { head: 'Truck', x: 190 },
  { head: 'Sampled at', x: 270 },
  { head: 'Sample', x: 360 },
  { head: 'By', x: 450 },
] as const;
/** Loads that are tested as well, by choice. */
const BY_CHOICE = 4;

interface Around {
  readonly mix: string;
  readonly by: string;
  readonly timezone: string;
  readonly now: Date;
}

/** Which loads of a pour are sampled, as they were drawn before it: with the seed, so that anybody can draw them again. */
export async function drawPaper(pour: Item, drawn: TestRecord, { mix, by, timezone, now }: Around): Promise<Buffer> {
  const { said, inputs } = drawn.newest!.frozen;
  const given = (id: string): string => (inputs as Readonly<Record<string, Keyed | null>>)[id]?.text ?? '0';
  const loads = (id: string): readonly string[] => said.results.find((r) => r.id === id)?.words ?? [];
  const paper = new Paper(`Loads to sample: ${pour.code}`, now);
  const at = DateTime.fromJSDate(drawn.startedAt, { zone: timezone }).toFormat('d LLL yyyy, HH:mm');
  paper.say(`Loads to sample: ${pour.code}`, { font: 'bold', size: 16 }, 2);
  paper.say(`${mix}, ${DateTime.fromISO(pour.on).toFormat('cccc d LLLL yyyy')}`, { size: 11 }, 2);
  paper.say(
    `${given('samples')} of ${given('loads')} loads, drawn with seed ${given('seed')} by ${by}, ${at}. ${randomLoads.follows[0]!.designation}: ${randomLoads.variants[drawn.variant]!.label}.`,
    { colour: INK.soft },
    10,
  );
  const table = (title: string, rows: readonly string[]): void => {
    if (rows.length === 0) return;
    paper.room(LINE * 2 + 20);
    paper.say(title, { font: 'bold', size: 11 }, 4);
    for (const { head, x } of COLUMNS) paper.at(head, x, paper.y, { colour: INK.soft, size: 8.5 });
    paper.y += 13;
    paper.rule(INK.ink);
    for (const row of rows) {
      paper.room(LINE);
      paper.at(row, 0, paper.y + 5, { font: 'figures', size: 13 });
      paper.line(0, paper.y + LINE - 3, WIDTH, paper.y + LINE - 3, INK.hair);
      paper.y += LINE;
    }
    paper.y += 10;
  };
  table('To sample', loads('sample'));
  table('In reserve, in this order, where one of these is missed', loads('spares'));
  table('Tested as well, by choice', Array<string>(BY_CHOICE).fill(''));
  return paper.finish(`Drawn before the pour: ${pour.code}`);
}
