import type { BreakBeside, FindingView, Project, StrengthTestView } from '@keen-mortar/contract';
import { ageWords, evidenceParts, TOLD_OF_LOW, unitLabel } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import { INK, Paper, WIDTH } from './paper.js';

export interface Letter {
  readonly project: Project;
  readonly beside: BreakBeside;
  readonly test: StrengthTestView;
  /** What is found of it: that it is low, with what speaks for and against the test. */
  readonly low: FindingView;
  /** Where the concrete went, as the record has it. */
  readonly where: string;
  /** Address that leads back to the record. */
  readonly link: string;
  readonly now: Date;
}

/** A letter to print when a strength test is low: to whom it goes, what was found, what speaks for and against the test, and what is next. */
export async function letterOf({ project, beside, test, low, where, link, now }: Letter): Promise<Buffer> {
  const title = `Low strength of ${test.code}`;
  const paper = new Paper(title, now);
  const zone = project.timezone;
  const at = (iso: string): string => DateTime.fromISO(iso, { zone }).toFormat('d LLLL yyyy HH:mm');
  paper.code(link, WIDTH - 64, paper.y, 64);
  paper.say(title, { font: 'bold', size: 18, width: WIDTH - 80 }, 3);
  paper.say(`${project.name}, ${project.site} (${project.code})`, { size: 10.5, width: WIDTH - 80 });
  paper.say(DateTime.fromJSDate(now, { zone }).toFormat('d LLLL yyyy'), { colour: INK.soft, width: WIDTH - 80 }, 12);
  for (const who of TOLD_OF_LOW) paper.say(`To: ${who} ________________________________`, { size: 10 }, 5);
  paper.y += 6;
  paper.say(low.says, { font: 'bold', size: 12, colour: INK.out }, 6);
  const lines: [string, string][] = [
    ['Concrete', [beside.mix?.name, where].filter(Boolean).join(', ')],
    ['Cast', at(test.castAt)],
    ['Broken', `${at(test.brokenAt)}, ${ageWords(test.ageDays)}`],
    [
      'Specimens',
      test.specimens.map((s) => `${s.code} ${s.reported ?? 'void'}${s.fracture === null ? '' : `, fracture ${s.fracture}`}`).join('; '),
    ],
    [
      'Mean',
      `${test.reported ?? '–'} ${unitLabel(test.unit)}, ${test.count} counted${test.range === null ? '' : `, ${test.range} % apart`}`,
    ],
  ];
  for (const [label, text] of lines) {
    paper.at(label, 0, paper.y, { colour: INK.soft, width: 84 });
    paper.say(text, { x: 90 }, 2);
  }
  const part = (head: string, all: readonly string[]): void => {
    paper.y += 6;
    paper.room(40);
    paper.say(head, { font: 'bold', size: 11 }, 3);
    for (const text of all) paper.say(`– ${text}`, { x: 8 }, 2);
  };
  for (const { head, says } of evidenceParts(low.evidence)) part(head, says);
  part('What is to be done', low.next);
  paper.y += 10;
  paper.say(
    'What the results mean for the work is for the engineer to judge, by the contract and the code that applies.',
    { colour: INK.soft },
    16,
  );
  paper.say('Signed ________________________________      Date ____________________', { size: 10 });
  return paper.finish(`${title}, ${project.name}`);
}
