import { always, finding, type Found } from './finding.js';
import { factOf, itemsOf } from './line.js';
import { strengthsOn, wholeOf } from './strength.js';

export const tankFinding = finding({
  id: 'tank',
  title: 'Where the set lay',
  about: 'Whether the tank or moist room of a set was as asked while it lay there, until its last specimen was broken.',
  reads: 'Which tank the set says, when it came there, and what that tank was found at on each day.',
  follows: [{ designation: 'ASTM C31/C31M', edition: '2024', part: 'final curing' }],
  find: (line) =>
    itemsOf(line, 'specimen-set').flatMap((set): Found[] => {
      const tank = factOf<string>(set, 'tank');
      const read = line.storage?.[tank ?? ''];
      if (tank === undefined || !read) return [];
      const from = Date.parse(factOf<string>(set, 'cured') ?? set.at);
      const broke = strengthsOn(line, set).flatMap((s) => s.specimens.map((b) => Date.parse(b.at)));
      const whole = wholeOf(line, set).length > 0;
      const until = whole || broke.length === 0 ? Infinity : Math.max(...broke);
      const strayed = read.filter(({ at }) => Date.parse(at) >= from && Date.parse(at) <= until);
      const last = strayed.at(-1);
      if (!last) return [];
      const days = [...new Set(strayed.map((s) => s.day))];
      const when = days.length === 1 ? `on ${last.day}` : `on ${days.length} days, last on ${last.day}`;
      return [
        {
          subjectId: set.id,
          states: always('watch', `${tank} was not as asked ${when}. ${last.says}`, [
            'What lay there may read low or high: say so with its strength.',
          ]),
          acceptance: 'waits',
        },
      ];
    }),
});
