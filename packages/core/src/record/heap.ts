import { kilos, shortOf } from '../methods/reduction/least-mass.js';
import { methodById } from '../methods/register.js';
import { brief, exact, type Exact } from '../numbers/exact.js';

/** A field sample, or a portion that was cut from it. */
export interface Split {
  readonly id: string;
  readonly parentId: string | null;
  readonly facts: Readonly<Record<string, unknown>>;
  /** Methods of the tests that were made on it. */
  readonly methods: readonly string[];
}

/** What the masses on record say of a split. Masses in kg, in plain decimals. */
export interface Heaped {
  readonly id: string;
  /** Null where nobody has weighed it. */
  readonly kg: string | null;
  /** What it would weigh were every cut above it an even one; null where what it came of was not weighed. */
  readonly even: string | null;
  /** Cuts that lie between it and what it came of: the halving that comes nearest. */
  readonly cuts: number | null;
  /** Of two halves of one cut, so far apart as % of their mean. */
  readonly apart: string | null;
  /** Less than a test that was made on it asks for. */
  readonly short: { readonly have: string; readonly least: string; readonly nominal: string } | null;
}

/** All splits of a field sample, and what went into the air, kg: less than nothing where the splits weigh more than what they came of. */
export interface Heap {
  readonly splits: readonly Heaped[];
  readonly lost: string | null;
}

const MOST_CUTS = 12;
const DIGITS = 4;

/** A half, a quarter, an eighth: the one that a part of its whole comes nearest to, by ratio. */
function cutsOf(part: Exact, whole: Exact): number {
  const far = (n: number): number =>
    Math.abs(
      Math.log2(
        part
          .mul(2 ** n)
          .div(whole)
          .valueOf(),
      ),
    );
  let best = 1;
  for (let n = 2; n <= MOST_CUTS; n++) if (far(n) < far(best)) best = n;
  return best;
}

/** From the bulk to every portion: what was weighed, what even cuts would have left, and what is lost. */
export function heapOf(all: readonly Split[]): Heap {
  const mass = new Map(all.map(({ id, facts }) => [id, kilos(facts['mass'])]));
  const of = (parentId: string): Split[] => all.filter((s) => s.parentId === parentId);
  const root = all.find((s) => !all.some((other) => other.id === s.parentId));
  const lost = all.flatMap(({ id }) => {
    const [own, parts] = [mass.get(id) ?? null, of(id).map((s) => mass.get(s.id) ?? null)];
    // What was cut in two or more, and weighed whole, says what the cut lost.
    return own === null || parts.length < 2 || parts.some((p) => p === null) ? [] : [parts.reduce<Exact>((left, p) => left.sub(p!), own)];
  });
  const splits = all.map((split): Heaped => {
    const own = mass.get(split.id) ?? null;
    const whole = split.parentId === null || split === root ? null : (mass.get(split.parentId) ?? null);
    const cuts = own !== null && whole !== null && own.compare(0) > 0 && whole.compare(0) > 0 ? cutsOf(own, whole) : null;
    const halves = split === root ? [] : of(split.parentId ?? '');
    const [a, b] = halves.map((s) => mass.get(s.id) ?? null);
    const pair = halves.length === 2 && a && b && a.add(b).compare(0) > 0;
    const short = split.methods.flatMap((m) => {
      const table = methodById(m)?.least?.table;
      return (table && shortOf(table, split.facts['mass'], root?.facts['nominal'])) ?? [];
    });
    return {
      id: split.id,
      kg: own && brief(own, DIGITS),
      even: cuts === null || whole === null ? null : brief(whole.div(2 ** cuts), DIGITS),
      cuts,
      apart: pair ? brief(a.sub(b).abs().mul(200).div(a.add(b)), 2) : null,
      short: short[0] ?? null,
    };
  });
  return {
    splits,
    lost:
      lost.length === 0
        ? null
        : brief(
            lost.reduce((sum, one) => sum.add(one), exact('0')),
            DIGITS,
          ),
  };
}
