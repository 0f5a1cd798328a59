import type { AnyInputs } from '../../methods/definition.js';
import { evaluate, type Evaluation } from '../../methods/evaluate.js';
import { waterOnSite } from '../../methods/mix/water-on-site.js';
import { say, nextStep } from '../../problems.js';
import { usualInputs } from '../../record/sources.js';
import { ticketInputs, ticketOf, waterWords } from '../../record/ticket.js';
import { clockIn } from '../../time/zone.js';
import { unitLabel } from '../../units/units.js';
import { always, finding, type Found, type FindingState } from './finding.js';
import { factOf, type Line, type LineItem, type LineTest } from './line.js';
import { limitsOn, loadsOf, newestOf, strictestUpper } from './load.js';
import { truckUntil } from './time-in-truck.js';

const VARIANT = 'c94';

/** Whether water may go into a load at a moment, ms, how much and until when: w/cm, time, once, and discharge together. */
export function waterFor(line: Line, load: LineItem, slump: 'low' | 'other', now: number): Evaluation {
  const { system } = line.project;
  const ticket = ticketOf(load.facts);
  const inputs = {
    ...usualInputs(waterOnSite, VARIANT, system),
    ...ticketInputs(ticket),
    most: strictestUpper(line, 'wcm'),
    slump,
    once: ticket.water.length > 0 ? 'yes' : 'no',
    discharge: factOf(load, 'discharged') === undefined ? 'none' : 'well',
    // Leave is asked for by whoever may give it: the answer says so.
    allowed: 'yes',
    batchedAt: load.at,
    now: new Date(now).toISOString(),
    limit: strictestUpper(line, 'time-in-truck'),
  };
  return evaluate(waterOnSite, inputs as AnyInputs, { variant: VARIANT, system, working: true });
}

/** Tests on the samples of a load, in the order in which they were made. */
export const testsOfLoad = (line: Line, load: LineItem): readonly LineTest[] => {
  const samples = new Set(line.items.filter((i) => i.kind === 'sample' && i.parentId === load.id && !i.voided).map((i) => i.id));
  return line.tests.filter((t) => samples.has(t.itemId));
};

function may(line: Line, load: LineItem): Found[] {
  const slump = newestOf(testsOfLoad(line, load), 'slump');
  if (slump?.verdict?.state !== 'out' || slump.verdict.side !== 'lower' || ticketOf(load.facts).water.length > 0) return [];
  const until = truckUntil(line, load);
  const at = (now: number): FindingState => {
    const e = waterFor(line, load, 'low', now);
    const amount = e.results.find((r) => r.id === 'amount' && r.state === 'given');
    const from = now === Date.parse(load.at) ? null : new Date(now).toISOString();
    if (!amount) {
      const why = e.notes.map(({ code, params }) => say(code, params)).join(' ');
      if (why !== '') return { from, grade: 'watch', says: why, next: [] };
      return {
        from,
        grade: 'open',
        says: 'Whether water may be added is not known: the ticket is not whole.',
        next: ['Key what the ticket says: batch weights, moistures and volume.'],
      };
    }
    const most = `${amount.reported ?? ''} ${unitLabel(amount.unit)}`;
    const by = until === null ? '' : `, until ${clockIn(line.project.timezone, until)}`;
    const next = ['Ask whoever the specification names. Then all of it at once, 30 revolutions at mixing speed, and a new slump.'];
    return { from, grade: 'open', says: `Water may be added once: at most ${most}${by}.`, next };
  };
  const begins = at(Date.parse(load.at));
  const ends = until === null ? [] : [at(until + 60_000)];
  return [{ subjectId: load.id, part: 'may', states: [begins, ...ends], stoodOn: [slump.test.id] }];
}

function added(line: Line, load: LineItem): Found[] {
  const { water } = ticketOf(load.facts);
  const last = water
    .map((w) => Date.parse(w.at))
    .sort((a, b) => a - b)
    .at(-1);
  if (last === undefined) return [];
  const about = { subjectId: load.id, part: 'added' };
  const says = `${waterWords(water)} of water ${water.length === 1 ? 'was' : 'were'} added on site`;
  const twice = water.length > 1 ? ' Water may be added once.' : '';
  const after = newestOf(
    testsOfLoad(line, load).filter((t) => Date.parse(t.startedAt) >= last),
    'slump',
  );
  if (after === null && limitsOn(line, 'slump').length > 0)
    return [
      {
        ...about,
        states: always('open', `${says}; no slump was made since.${twice}`, [
          'At least 30 revolutions at mixing speed, then a new slump: what was tested before is of another concrete.',
        ]),
      },
    ];
  const new_ = after === null ? '' : `; the slump since is ${after.result.reported ?? ''} ${unitLabel(after.result.unit)}`;
  if (twice !== '')
    return [
      { ...about, states: always('watch', `${says}${new_}.${twice}`, [nextStep('water-once') ?? 'Tell whoever may reject the load.']) },
    ];
  return [{ ...about, states: always('fine', `${says}${new_}.`), ...(after ? { stoodOn: [after.test.id] } : {}) }];
}

export const waterOnSiteFinding = finding({
  id: 'water-on-site',
  title: 'Water on site',
  about: 'Whether water may be added to a load whose slump is too low, how much and until when; and once it was added, what is to be done.',
  reads: 'The newest slump of the load, its ticket, what was added, limits of w/cm and of the time in the truck.',
  follows: waterOnSite.follows,
  beside: 'load',
  find: (line) => loadsOf(line).flatMap((load) => [...may(line, load), ...added(line, load)]),
});
