import { always, finding, type Found } from './finding.js';
import { isGone } from './line.js';

export const replacedFinding = finding({
  id: 'replaced',
  title: 'Specification replaced',
  about:
    'What was judged by a revision of its mix, or by limits, whose place others took from a moment before it was made: keyed afterwards, so what is on record stands as it was judged.',
  reads: 'What the item was judged by, and what holds for its moment by now.',
  follows: [],
  beside: 'load',
  ofRecord: true,
  find: (line) => {
    const [head] = line.items;
    if (!head || !line.replaced || isGone(line, head)) return [];
    const { was, now, day, why } = line.replaced;
    const says = `Judged by ${was}. From ${day} on, before this was made, ${now} holds${why === null ? '' : `: ${why.replace(/[.\s]+$/, '')}`}.`;
    const found: Found = {
      subjectId: head.id,
      states: always('watch', says, ['Ask whoever specified the concrete which of the two holds for it.']),
    };
    return [found];
  },
});
