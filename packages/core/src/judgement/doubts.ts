import type { Issue } from '../methods/check.js';
import type { AnyInputs, Offer } from '../methods/definition.js';
import { evaluate } from '../methods/evaluate.js';
import { brief, exact, ZERO } from '../numbers/exact.js';
import { say } from '../problems.js';
import { factsForm } from '../record/item-forms.js';
import type { ItemKind } from '../record/items.js';
import type { KitKind } from '../record/kit.js';
import type { WaterAdded } from '../record/ticket.js';
import { convert, unitLabel } from '../units/units.js';
import type { Keyed } from '../units/reading.js';
import { factOf, isGone, type Line, type LineItem } from './findings/line.js';
import { waterFor } from './findings/water-on-site.js';
import { kgOf, ticketLines, ticketRemarks, type TicketLine, type Weighed } from './ticket.js';

const doubt = (code: Issue['code'], path: string, params: Issue['params'] = {}, offer?: Offer): Issue => ({
  code,
  severity: 'implausible',
  path,
  params,
  ...(offer ? { offer } : {}),
});

type WaterRow = Partial<WaterAdded>;

/** Each addition of water beside what could have been added then: once, as much as there was room for, before its time was over. */
function waterDoubts(line: Line, load: LineItem): Issue[] {
  const rows = factOf<readonly WaterRow[]>(load, 'water') ?? [];
  return rows.flatMap(({ mass, at }, i): Issue[] => {
    if (!mass || !at) return [];
    const earlier = rows.filter((w, k) => w.at && (Date.parse(w.at) < Date.parse(at) || (w.at === at && k < i)));
    const before = { ...load, facts: { ...load.facts, water: earlier, discharged: undefined } as AnyInputs };
    const e = waterFor(line, before, 'low', Date.parse(at));
    const most = e.results.find((r) => r.id === 'amount' && r.state === 'given');
    const path = `water.${i}.mass`;
    const [added, room] = [kgOf(mass), most ? kgOf({ text: most.unrounded!, unit: most.unit }) : null];
    if (added && room && most)
      return added.compare(room) > 0 ? [doubt('water-over-room', path, { most: `${most.reported ?? ''} ${unitLabel(most.unit)}` })] : [];
    const why = e.notes.filter(({ code }) => AGAINST.has(code)).map(({ code, params }) => say(code, params));
    return why.length === 0 ? [] : [doubt('water-against', path, { why: why.join(' ') })];
  });
}

/** Why no water may go in, whoever allows it. */
const AGAINST: ReadonlySet<string> = new Set(['water-once', 'water-no-room', 'water-too-late']);

/** So near are the weights of one volume to each other, and so far from the design is another one, as ratios. */
const ALIKE = 1.05;
const OTHER = 1.2;
/** Decimal points that slip. */
const SLIPS = ['10', '1/10', '100', '1/100'];

/** Where every weight is off by the same: the volume is. With what it would be, where a decimal point slipped. */
function otherVolume(lines: readonly TicketLine[], volume: Keyed): Issue | null {
  const ratios = lines.flatMap(({ design, actual }) =>
    design && actual && design.sign() > 0 && actual.sign() > 0 ? [actual.div(design)] : [],
  );
  const near = ratios.map((r) => r.near);
  if (near.length < 3 || Math.max(...near) / Math.min(...near) > ALIKE ** 2) return null;
  const mean = near.reduce((a, b) => a + b, 0) / near.length;
  if (Math.max(mean, 1 / mean) < OTHER) return null;
  const slip = SLIPS.map(exact).find((by) => Math.max(mean / by.near, by.near / mean) <= ALIKE);
  const of = slip ? brief(exact(volume.text).mul(slip), 6) : null;
  const times = { times: brief(ratios[0]!, 2), volume: `${volume.text} ${unitLabel(volume.unit)}` };
  return doubt('ticket-other-volume', 'design', times, of === null ? undefined : { text: of, unit: volume.unit });
}

function ticketDoubts(line: Line, load: LineItem): Issue[] {
  const volume = factOf<Keyed>(load, 'design');
  const materials = factOf<readonly Weighed[]>(load, 'materials') ?? [];
  if (!line.revision || !volume) return [];
  const lines = ticketLines(line.revision.ingredients, volume, materials);
  const other = otherVolume(lines, volume);
  if (other) return [other];
  // Two in each other’s place are one question.
  const asked = ticketRemarks(lines).filter((r, i, all) => r.kind !== 'off' && all.findIndex((o) => o.says === r.says) === i);
  return asked.map(({ at, says }) => doubt('ticket-off', `materials.${at}.actual`, { says }));
}

/** So much more than was planned is ordered for what is spilled: a tenth. */
const SPILLED = exact('1.1');

/** Each load of a pour beside those that came before it: one look at all of them. */
function deliveries(pour: LineItem, loads: readonly LineItem[]): Map<LineItem, Issue[]> {
  const planned = factOf<Keyed>(pour, 'planned');
  const unit = planned ? unitLabel(planned.unit) : '';
  const most = planned ? exact(planned.text).mul(SPILLED) : null;
  const tickets = new Map<string, LineItem>();
  let sum = ZERO;
  return new Map(
    [...loads].sort(inOrder).map((load) => {
      const [ticket, own] = [factOf<string>(load, 'ticket'), factOf<Keyed>(load, 'design')];
      const same = ticket === undefined ? undefined : tickets.get(ticket);
      if (ticket !== undefined && !same) tickets.set(ticket, load);
      if (planned && own) sum = sum.add(convert(exact(own.text), own.unit, planned.unit));
      const asked = [
        ...(same ? [doubt('ticket-twice', 'ticket', { ticket: ticket!, load: same.code })] : []),
        ...(planned && own && most && sum.compare(most) > 0
          ? [doubt('over-planned', 'design', { sum: `${brief(sum, 4)} ${unit}`, planned: `${planned.text} ${unit}` })]
          : []),
      ];
      return [load, asked];
    }),
  );
}

const delivered = new WeakMap<Line, Map<LineItem, Issue[]>>();

/** A load of a pour beside the others, as it stands on the line or as it is being keyed. */
function deliveryDoubts(line: Line, load: LineItem): Issue[] {
  const pour = line.items[0]!;
  const loads = (): LineItem[] => line.items.filter((i) => i.kind === 'load' && !isGone(line, i));
  let known = delivered.get(line);
  if (!known) delivered.set(line, (known = deliveries(pour, loads())));
  const own = known.get(load);
  if (own) return own;
  return deliveries(pour, [...loads().filter((i) => i.id !== load.id), load]).get(load)!;
}

const inOrder = (a: LineItem, b: LineItem): number => Date.parse(a.at) - Date.parse(b.at) || (a.id < b.id ? -1 : 1);

/** A composite is combined of two portions and more. */
function portionDoubts(sample: LineItem): Issue[] {
  const portions = factOf<readonly unknown[]>(sample, 'portions') ?? [];
  return factOf(sample, 'finished') !== undefined && portions.length === 1 ? [doubt('one-portion', 'finished')] : [];
}

/**
 * What of an item is unlikely, by itself or beside what is on record of its line: asked about where it is keyed, and kept with a
 * reason. Paths are those of its facts, rows by their places. On the line of a pour: its loads beside each other.
 */
export function doubtsOn(line: Line, item: LineItem): Issue[] {
  if (line.items[0]?.kind === 'pour' && item.kind === 'load') return deliveryDoubts(line, item);
  const { issues } = evaluate(factsForm(item.kind), item.facts, { variant: 'facts', system: line.project.system });
  if (issues.some((i) => i.severity === 'impossible')) return [];
  const beside =
    item.kind === 'load' ? [...ticketDoubts(line, item), ...waterDoubts(line, item)] : item.kind === 'sample' ? portionDoubts(item) : [];
  // What is unlikely by itself is asked about once.
  return [...issues, ...beside.filter((d) => !issues.some((o) => o.path === d.path))];
}

/** Whether what is unlikely of a kind of item is seen only beside the rest of its line. */
export const isDoubtedBeside = (kind: ItemKind): boolean => kind === 'load';

/** The path on record of what stands at a place of the facts of an item: rows by their ids. */
export function pathOnRecord(item: Pick<LineItem, 'facts'>, path: string): string {
  const [field, place, ...rest] = path.split('.');
  const row = place === undefined ? undefined : factOf<readonly { readonly row?: string }[]>(item, field!)?.[Number(place)]?.row;
  return row === undefined ? path : [field, row, ...rest].join('.');
}

/** What of an item nobody gave a reason for. */
export const unansweredOn = (line: Line, item: LineItem): Issue[] =>
  doubtsOn(line, item).filter((d) => item.answered?.includes(pathOnRecord(item, d.path)) !== true);

type Named = { readonly kind: KitKind; readonly name: string };

/** A reading of one instrument in a test that is made with another of its kind; null where it is the same, or the test uses none. */
export function otherInstrument(path: string, read: Named, made: readonly Named[]): Issue | null {
  const own = made.find((k) => k.kind === read.kind);
  return own === undefined || own.name === read.name ? null : doubt('other-instrument', path, { read: read.name, made: own.name });
}
