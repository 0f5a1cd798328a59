import { dayIn, type Item } from '@keen-mortar/contract';
import { ageWords, daysOf } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import { INK, Paper, WIDTH } from './paper.js';

const COLUMNS = 3;
const LABEL = { width: WIDTH / COLUMNS, height: 92 };
const CODE = 66;

/** Labels for the molds of a set: what people read, and a code that leads to the specimen. Glued to the mold, not to its lid. */
export async function labelsOf(
  set: Item,
  specimens: readonly Item[],
  { timezone, address, now }: { readonly timezone: string; readonly address: string; readonly now: Date },
): Promise<Buffer> {
  const paper = new Paper(`Labels of ${set.code}`, now);
  const cast = DateTime.fromISO(set.at, { zone: timezone }).toFormat('d LLL yyyy, HH:mm');
  paper.say(`${set.code}: ${specimens.length} labels`, { font: 'bold', size: 13 }, 1);
  paper.say('On the mold, not on its lid; another on the specimen once it is out.', { colour: INK.soft }, 6);
  specimens.forEach((specimen, i) => {
    const column = i % COLUMNS;
    if (column === 0) {
      if (i > 0) paper.y += LABEL.height;
      paper.room(LABEL.height);
    }
    const x = column * LABEL.width;
    const age = daysOf((specimen.facts as { age?: unknown }).age);
    const beside = x + CODE + 16;
    const width = LABEL.width - CODE - 24;
    paper.box(x, paper.y, LABEL.width - 6, LABEL.height - 6, null, INK.soft);
    paper.code(`${address}/record/${specimen.id}`, x + 8, paper.y + 10, CODE);
    paper.at(specimen.code, beside, paper.y + 12, { font: 'figures', size: 15, width });
    paper.at(cast, beside, paper.y + 34, { size: 9, width });
    paper.at(age === null ? 'spare' : ageWords(age), beside, paper.y + 48, { font: 'bold', size: 11, width });
    paper.at(age === null ? '' : `on ${dueDay(set.at, age, timezone)}`, beside, paper.y + 63, { size: 9, width });
  });
  paper.y += LABEL.height;
  return paper.finish(`Labels of ${set.code}, cast on ${dayIn(timezone, set.at)}`);
}

/** The day on which a specimen of an age is due, where the project is. */
const dueDay = (cast: string, days: number, zone: string): string =>
  DateTime.fromMillis(Date.parse(cast) + days * 86_400_000, { zone }).toFormat('ccc d LLL yyyy');
