import { gravitiesFoundOn } from '../../record/ticket.js';
import { dayWords } from '../../time/moment.js';
import { always, finding } from './finding.js';
import { itemsOf, testsOf, type LineRevision } from './line.js';

/** A correction factor that is older than the gravities of its aggregates, in words; null where it is not, or nobody said when it was found. */
export function staleCorrection({ correction, correctionOn, ingredients }: LineRevision, zone: string): string | null {
  const found = gravitiesFoundOn(ingredients, zone);
  if (correction === undefined || correctionOn === undefined || found === null || found <= correctionOn) return null;
  return `The correction factor of ${correction} % is of ${dayWords(correctionOn)}; a gravity of its aggregates was found on ${dayWords(found)}.`;
}

/** What is done about it. */
export const CORRECTION_AGAIN = 'Run the aggregate correction factor again before this air is doubted or believed.';

export const correctionFinding = finding({
  id: 'correction',
  title: 'Correction factor older than its gravities',
  about: 'Air by pressure that was corrected by a factor from before the aggregates changed: it may be stale.',
  reads: 'When the correction factor of the mix was found, and when the gravities were that its revision took of tests.',
  follows: [{ designation: 'ASTM C231/C231M', edition: '2022', part: 'aggregate correction factor' }],
  beside: 'seen',
  find: (line) => {
    const stale = line.revision && staleCorrection(line.revision, line.project.timezone);
    if (!stale) return [];
    return itemsOf(line, 'sample').flatMap((sample) => {
      const by = testsOf(line, sample).filter((t) => t.method.id === 'pressure-air' && t.outcome !== null && t.state !== 'void');
      return by.length === 0
        ? []
        : [{ subjectId: sample.id, states: always('watch', stale, [CORRECTION_AGAIN]), stoodOn: by.map((t) => t.id) }];
    });
  },
});
