import { judgeAll, type Judged } from '../../limits/verdict.js';
import { timeInTruck } from '../../methods/mix/time-in-truck.js';
import { evaluate } from '../../methods/evaluate.js';
import { exact } from '../../numbers/exact.js';
import { spanWords } from '../../time/moment.js';
import { clockIn } from '../../time/zone.js';
import { convert } from '../../units/units.js';
import { adviceOn, guidance } from '../guidance.js';
import { always, finding, type Found } from './finding.js';
import { factOf, type Line, type LineItem } from './line.js';
import { loadsOf, strictestUpper } from './load.js';

/** min from batching to an empty truck, by the strictest specification; null where none limits it. */
export function truckMinutes(line: Pick<Line, 'specifications'>): number | null {
  const most = strictestUpper(line, 'time-in-truck');
  return most && Number(convert(exact(most.text), most.unit, 'min').valueOf());
}

/** When the time of a load is over, ms; null where no specification limits it. */
export function truckUntil(line: Pick<Line, 'specifications'>, load: Pick<LineItem, 'at'>): number | null {
  const minutes = truckMinutes(line);
  return minutes === null ? null : Date.parse(load.at) + minutes * 60_000;
}

const isOut = (judged: readonly Judged[]): boolean => judged.some((j) => j.verdicts.some((v) => v.state === 'out'));

function ofLoad(line: Line, load: LineItem): Found[] {
  const until = truckUntil(line, load);
  if (until === null) return [];
  const batched = load.at;
  const discharged = factOf<string>(load, 'discharged') ?? null;
  const most = spanWords(until - Date.parse(batched));
  const by = clockIn(line.project.timezone, until);
  if (discharged === null) {
    const advice = adviceOn(timeInTruck, 'time', 'high');
    return [
      {
        subjectId: load.id,
        states: [
          { from: null, grade: 'open', says: `To be empty by ${by}, ${most} from batching.`, next: [] },
          {
            from: new Date(until).toISOString(),
            grade: 'open',
            says: `Its ${most} ended at ${by}, and nobody has said when the truck was empty.`,
            next: ['Say when it was empty. If it is not: no water any more.', ...(advice?.steps.slice(1) ?? [])],
          },
        ],
      },
    ];
  }
  const e = evaluate(timeInTruck, { batched, discharged }, { variant: 'c94', system: line.project.system });
  const judged = judgeAll(timeInTruck, e, line.specifications);
  const out = guidance(timeInTruck, e, judged).filter((t) => t.kind === 'verdict' && t.code === 'out');
  const took = spanWords(Date.parse(discharged) - Date.parse(batched));
  if (!isOut(judged)) return [{ subjectId: load.id, states: always('fine', `Empty ${took} after batching; at most ${most}.`) }];
  return [
    {
      subjectId: load.id,
      states: always('out', `Empty ${took} after batching; at most ${most}.`, [...new Set(out.flatMap((t) => t.next))]),
    },
  ];
}

export const timeInTruckFinding = finding({
  id: 'time-in-truck',
  title: 'Time in the truck',
  about: 'Whether a load was empty within the time that its specifications give. It is open until somebody says when it was empty.',
  reads: 'When it was batched and when it was empty, and limits of the time in the truck.',
  follows: timeInTruck.follows,
  beside: 'load',
  find: (line) => loadsOf(line).flatMap((load) => ofLoad(line, load)),
});
