import type { Exact } from '../numbers/exact.js';
import { Exact as Value } from '../numbers/value.js';
import { brief, reported } from '../numbers/exact.js';
import { inUnit, read, type Keyed } from '../units/reading.js';
import { convert, dimensionOf, unitLabel, type System, type UnitId } from '../units/units.js';
import type { Issue } from './check.js';
import type {
  AnyInputs,
  AnyMethod,
  Exchange,
  Field,
  Method,
  Offer,
  Parameters,
  QtyField,
  Range,
  ResultField,
  Shape,
  In,
} from './definition.js';
import { evaluate, type Evaluation, type How } from './evaluate.js';
import { asks } from './asks.js';
import { outside, rangeWords } from './range.js';
import type { Answer } from './result.js';
import { apart, middleOf, slips } from './slips.js';

/** So many tries at what was meant, and rows of what is tried: an offer is a kindness, not a search. */
const MOST_TRIES = 150;
const MOST_ROWS = 40;

const rangeOf = (field: ResultField, system: System): Range | undefined =>
  field.plausible && 'si' in field.plausible ? field.plausible[system] : (field.plausible as Range | undefined);

/** The first reading that a person keys in this variant: where a remark on the whole stands. */
export function firstKeyed(m: AnyMethod, variant: string): string {
  const keyed = Object.entries(m.fields as Shape).filter(([id, f]) => asks(m, variant, id) && f.from === undefined);
  const [id, field] = keyed.find(([, f]) => f.kind === 'qty' && !f.minor && !f.optional) ??
    keyed.find(([, f]) => f.kind === 'rows') ??
    keyed[0] ?? ['', undefined];
  return field?.kind === 'rows' ? `${id}.0.${Object.keys(field.of as Shape)[0] ?? ''}` : id;
}

/** Results that no concrete or aggregate usually gives: asked about, as an unlikely reading is. */
export function unlikelyResults(m: AnyMethod, how: How, answers: Readonly<Record<string, Answer>>): Issue[] {
  for (const id in m.results) {
    const field = m.results[id]!;
    const answer = answers[id];
    if (!answer || !('value' in answer)) continue;
    const range = [rangeOf(field, how.system), how.usual?.[id]].find((one) => one && outside(one, answer.value, answer.unit));
    if (!range) continue;
    const text = asReported(answer, range);
    return [
      {
        code: 'unlikely-result',
        severity: 'implausible',
        path: firstKeyed(m, how.variant),
        params: { label: field.label, ...rangeWords(range, answer.value, answer.unit), got: text, gotUnit: unitLabel(answer.unit) },
      },
    ];
  }
  return [];
}

/** As it would be reported, unless that hides that it is outside. */
function asReported({ value, unit, increments }: Extract<Answer, { value: Exact }>, range: Range): string {
  const step = increments[unit];
  const text = step === undefined ? null : reported(value, step);
  return text !== null && outside(range, Value.decimal(text), unit) ? text : brief(value, 4);
}

/**
 * Finds what would explain an impossible or unlikely whole: two readings in each other's place, or one
 * with a slip of unit or decimal point. Offered on the issue, at the reading it is about.
 */
export function explained<S extends Shape, P extends Parameters>(
  m: Method<S, P>,
  input: Partial<In<S>>,
  how: How,
  issues: readonly Issue[],
): readonly Issue[] {
  if (issues.length === 0 || rowsIn(input) > MOST_ROWS) return issues;
  const whole = jointly(m, input as AnyInputs, how, issues) ?? fitting(m, input as AnyInputs, how, issues);
  return issues.some((i) => UNREAD.has(i.code)) ? whole : together(m, input, how, whole);
}

/** What a slip did to a reading: how many times too much it made of it, by a unit or a point; of temperatures the unit. */
function kindOf(was: Keyed, { text, unit }: Offer): string | null {
  const dimension = dimensionOf(unit);
  if (dimension === 'temperature' || dimension !== dimensionOf(was.unit)) return unit;
  const [from, to] = [read(was, dimension), read({ text, unit }, dimension)];
  return from instanceof Value && to instanceof Value && from.sign() !== 0 ? convert(to, unit, was.unit).div(from).toString() : null;
}

/** One slip that went through several readings is one offer: where all of it, taken, leaves nothing of them unlikely. Null where there is none. */
function jointly(m: AnyMethod, input: AnyInputs, how: How, issues: readonly Issue[]): readonly Issue[] | null {
  const byKind = new Map<string, (Issue & { readonly offer: Offer })[]>();
  for (const issue of issues) {
    const was = valueAt(input, issue.path.split('.'));
    const kind = issue.offer && was ? kindOf(was, issue.offer) : null;
    if (kind !== null) byKind.set(kind, [...(byKind.get(kind) ?? []), issue as Issue & { readonly offer: Offer }]);
  }
  const slip = [...byKind.values()].sort((a, b) => b.length - a.length)[0] ?? [];
  const [first, ...others] = slip;
  if (!first || others.length === 0) return null;
  const { working: _working, progress: _progress, ...rest } = how;
  const meant = slip.reduce((so, { path, offer }) => put(so, path.split('.'), offer), input);
  if (evaluate(m, meant, { ...rest, offers: false }).issues.length > issues.length - slip.length) return null;
  const also = others.map(({ path, offer: { text, unit } }) => ({ path, text, unit }));
  return issues.map((issue) =>
    issue === first ? { ...issue, offer: { ...first.offer, also } } : others.some((o) => o === issue) ? withoutOffer(issue) : issue,
  );
}

/** Offers that make the whole likelier: taken, each clears more than it breaks. */
function fitting(m: AnyMethod, input: AnyInputs, how: How, issues: readonly Issue[]): readonly Issue[] {
  const { working: _working, progress: _progress, ...rest } = how;
  let tries = 0;
  return issues.map((issue) => {
    if (!issue.offer || tries++ >= MOST_ROWS) return issue;
    const e = evaluate(m, put(input, issue.path.split('.'), issue.offer), { ...rest, offers: false });
    return e.issues.length < issues.length ? issue : withoutOffer(issue);
  });
}

/** The same inputs with another reading at a place. */
function put(input: AnyInputs, [first, place, ...rest]: readonly string[], keyed: Keyed): AnyInputs {
  if (place === undefined) return { ...input, [first!]: keyed } as AnyInputs;
  const rows = (input as Readonly<Record<string, readonly AnyInputs[]>>)[first!] ?? [];
  return { ...input, [first!]: rows.map((row, i) => (String(i) === place ? put(row, rest, keyed) : row)) } as AnyInputs;
}

/** The reading at a place of the inputs. */
function valueAt(input: AnyInputs, [first, place, ...rest]: readonly string[]): Keyed | undefined {
  const at = (input as Readonly<Record<string, unknown>>)[first!];
  if (place !== undefined) return valueAt(((at as readonly AnyInputs[] | undefined) ?? [])[Number(place)] ?? ({} as AnyInputs), rest);
  return typeof at === 'object' && at !== null && 'unit' in at ? (at as Keyed) : undefined;
}

function together<S extends Shape, P extends Parameters>(
  m: Method<S, P>,
  input: Partial<In<S>>,
  how: How,
  issues: readonly Issue[],
): readonly Issue[] {
  const first = issues[0]!;
  const trial = trialOf(m, input as AnyInputs, how);
  // What is said of readings together comes first; what stands at one field may only follow from it.
  const whole = issues.find((i) => i.code !== 'implausible-value') ?? first;
  const exchange = whole.code === 'implausible-value' ? null : exchanged(trial);
  if (exchange) {
    const others = issues.filter((i) => i !== whole).map((i) => (exchange.includes(i.path) ? withoutOffer(i) : i));
    return [{ ...whole, path: exchange[0], exchange }, ...others];
  }
  // Anything that is already offered at its own field explains itself.
  if (issues.some((i) => i.offer)) return issues;
  const slip = slipped(trial);
  return slip ? [{ ...first, path: slip.path, offer: slip.offer }, ...issues.slice(1)] : issues;
}

/** Where a reading is none, or none that can be, there is nothing to try. */
const UNREAD: ReadonlySet<string> = new Set([
  'impossible-value',
  'not-a-number',
  'too-long',
  'wrong-unit',
  'two-ways',
  'other-unit',
  'not-an-option',
]);

const withoutOffer = ({ offer: _offer, ...issue }: Issue): Issue => issue;

const rowsIn = (input: object): number =>
  Object.values(input).reduce<number>(
    (sum, v: unknown) => sum + (Array.isArray(v) ? v.reduce<number>((n, row: object) => n + 1 + rowsIn(row), 0) : 0),
    0,
  );

interface Trial {
  readonly keyed: readonly { readonly id: string; readonly field: QtyField; readonly keyed: Keyed; readonly value: Exact }[];
  /** How usual the whole is with these readings instead: smaller is more usual; null when it is not right either. */
  readonly off: (instead: Readonly<Record<string, Keyed>>) => number | null;
}

function trialOf(m: AnyMethod, input: AnyInputs, how: How): Trial {
  let tries = 0;
  const { working: _working, progress: _progress, ...rest } = how;
  const keyed = Object.entries(m.fields as Shape).flatMap(([id, field]: [string, Field]) => {
    const given = (input as Readonly<Record<string, unknown>>)[id] as Keyed | null | undefined;
    if (field.kind !== 'qty' || !given || field.from !== undefined || !asks(m, how.variant, id)) return [];
    const value = read(given, field.dimension, field);
    return value instanceof Value ? [{ id, field, keyed: given, value }] : [];
  });
  return {
    keyed,
    off: (instead) => {
      if (tries++ >= MOST_TRIES) return null;
      const e = evaluate(m, { ...input, ...instead } as AnyInputs, { ...rest, offers: false });
      return e.issues.length > 0 || e.validity.state === 'void' ? null : unusual(m, e);
    },
  };
}

/** How far the results that have a usual range are from its middle. */
function unusual(m: AnyMethod, e: Evaluation): number {
  return e.results.reduce((sum, r) => {
    const range = rangeOf(m.results[r.id]!, e.system);
    const middle = range && middleOf(range);
    return middle && r.unrounded !== null ? sum + apart(convertNear(r.unrounded, r.unit, middle.unit), middle.value) : sum;
  }, 0);
}

const convertNear = (text: string, from: UnitId, to: UnitId): number => convert(Value.decimal(text), from, to).near;

/** The one pair that, exchanged, makes it right; null when none or several would. */
function exchanged({ keyed, off }: Trial): Exchange | null {
  const found: Exchange[] = [];
  keyed.forEach((a, i) => {
    for (const b of keyed.slice(i + 1)) {
      if (a.field.dimension !== b.field.dimension || a.value.equals(b.value)) continue;
      if (off({ [a.id]: b.keyed, [b.id]: a.keyed }) !== null) found.push([a.id, b.id]);
    }
  });
  return found.length === 1 ? found[0]! : null;
}

/** The slip of one reading that leads to the most usual whole. */
function slipped({ keyed, off }: Trial): { path: string; offer: Offer } | null {
  let best: { path: string; offer: Offer; off: number } | null = null;
  for (const { id, field, keyed: given, value } of keyed) {
    for (const slip of slips(given, value, field)) {
      // Where nothing is known of what a reading usually is, nothing is known of what was meant.
      const range = field.plausible ?? field.possible;
      if (!range || outside(range, slip.value, slip.unit, field.kgPerLitre)) continue;
      const here = off({ [id]: { text: slip.text, unit: slip.unit } });
      if (here === null) continue;
      // Between slips that fit alike, the more usual reading.
      const middle = middleOf(range, field.typical);
      const far = here + (middle ? apart(inUnit(slip.value, slip.unit, middle.unit, field.kgPerLitre).near, middle.value) / 10 : 0);
      if (best === null || far < best.off) best = { path: id, offer: { text: slip.text, unit: slip.unit }, off: far };
    }
  }
  return best;
}
