import { say } from '../../problems.js';
import { factsForm } from '../../record/item-forms.js';
import { offerWords } from '../guidance.js';
import { pathOnRecord, unansweredOn } from '../doubts.js';
import { always, finding } from './finding.js';
import { isGone, type Line, type LineItem } from './line.js';

/** On the line of a pour its loads stand beside each other; what each is by itself is told on its own line. */
const isJudged = (line: Line, item: LineItem): boolean =>
  item.answered !== undefined &&
  !isGone(line, item) &&
  (line.items[0]!.kind === 'pour' ? item.kind === 'load' || item === line.items[0] : true);

export const UNANSWERED = 'unanswered';

export const unansweredFinding = finding({
  id: UNANSWERED,
  title: 'To be answered',
  about:
    'What was kept of a pour, a load, a sample or a set although it is unlikely beside what else is on record, and nobody said why: keyed without a network, or before what makes it unlikely was known.',
  reads: 'What is known of each item, its mix, its limits, and reasons that were given.',
  follows: [],
  find: (line) =>
    line.items.flatMap((item) =>
      !isJudged(line, item)
        ? []
        : unansweredOn(line, item).map((d) => {
            const offers = offerWords(factsForm(item.kind), d);
            return {
              subjectId: item.id,
              part: pathOnRecord(item, d.path),
              states: always('asks', `${say(d.code, d.params)} Nobody has said why.`, [
                ...(offers === null ? [] : [`${offers}?`]),
                `Say why on ${item.code}, or correct it.`,
              ]),
            };
          }),
    ),
});
