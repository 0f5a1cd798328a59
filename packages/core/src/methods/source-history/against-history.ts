import { evaluate, type Evaluation } from '../evaluate.js';
import type { AnyInputs } from '../definition.js';
import { FAULT_LABELS, sourceHistory, type Direction, type HistoryParams } from './source-history.js';

/** What was found of a source before, by property: the code of what it was found on, and as it was reported. */
export type HistoryByProperty = Readonly<Record<string, readonly { readonly sample: string; readonly reported: string }[]>>;

const VARIANTS: Readonly<Record<string, keyof typeof sourceHistory.variants>> = { 'coarse-gravity': 'coarse', 'fine-gravity': 'fine' };
/** The methods of which tests are held against the history of their source, and what is found by them. */
export const GRAVITY_METHODS: readonly string[] = Object.keys(VARIANTS);

const FIGURES = { od: 'sg-od', apparent: 'sg-apparent', absorption: 'absorption' } as const;

export const GRAVITY_PROPERTIES: readonly string[] = Object.values(FIGURES);

type Figures = Readonly<Record<keyof typeof FIGURES, string>>;

/** Earlier results of which all three figures are known, and the figures of now; null for what is no gravity, or is not whole. */
function rowsAgainst(
  e: Pick<Evaluation, 'method' | 'results'>,
  history: HistoryByProperty,
): { rows: (Figures & { readonly on: string })[]; now: Figures } | null {
  if (VARIANTS[e.method] === undefined) return null;
  const [od, apparent, absorption] = Object.keys(FIGURES).map((id) => e.results.find((r) => r.id === id && r.state === 'given')?.reported);
  if (!od || !apparent || !absorption) return null;
  const before = (property: string) => new Map((history[property] ?? []).map((p) => [p.sample, p.reported]));
  const [ods, apparents, absorptions] = [before(FIGURES.od), before(FIGURES.apparent), before(FIGURES.absorption)];
  const rows = [...ods].flatMap(([on, text]) => {
    const [other, soaked] = [apparents.get(on), absorptions.get(on)];
    return other === undefined || soaked === undefined ? [] : [{ on, od: text, apparent: other, absorption: soaked }];
  });
  return { rows, now: { od, apparent, absorption } };
}

const keyed = ({ od, apparent, absorption }: Figures) => ({
  od: { text: od, unit: '1' },
  apparent: { text: apparent, unit: '1' },
  absorption: { text: absorption, unit: '%' },
});

/**
 * A gravity test against what its source has given before, those alone of which all three figures are known. Null for what is
 * no gravity, is not whole, or has too little before it.
 */
export function againstHistory(e: Pick<Evaluation, 'method' | 'results'>, history: HistoryByProperty): Evaluation | null {
  const [variant, found] = [VARIANTS[e.method], rowsAgainst(e, history)];
  if (variant === undefined || !found || found.rows.length < sourceHistory.variants[variant]!.params.least) return null;
  const inputs = { history: found.rows.map((row) => ({ on: row.on, ...keyed(row) })), ...keyed(found.now) };
  return evaluate(sourceHistory, inputs as AnyInputs, { variant, system: 'si', offers: false });
}

/** Dry gravity along, absorption up: to be drawn. */
interface Place {
  readonly x: number;
  readonly y: number;
}

/** Where the results of a source lie, and whither each slip would have led: plain doubles, to draw with. */
export interface FaultMap {
  readonly before: readonly Place[];
  readonly now: Place;
  readonly usual: Place;
  /** As far as this to either side is as usual. */
  readonly reach: Place;
  readonly faults: readonly { readonly label: string; readonly towards: Place; readonly looks: boolean }[];
}

const SIGN: Readonly<Record<Direction, number>> = { low: -1, usual: 0, high: 1 };

/** @param against what {@link againstHistory} says of it */
export function faultMap(e: Evaluation, against: Evaluation, history: HistoryByProperty): FaultMap | null {
  const found = rowsAgainst(e, history);
  const of = (id: string): number => Number(against.results.find((r) => r.id === id)?.unrounded ?? NaN);
  const { moved, signatures } = against.params as HistoryParams;
  const place = ({ od, absorption }: Figures): Place => ({ x: Number(od), y: Number(absorption) });
  if (!found || Number.isNaN(of('spreadOd')) || Number.isNaN(of('spreadAbsorption'))) return null;
  return {
    before: found.rows.map(place),
    now: place(found.now),
    usual: { x: of('meanOd'), y: of('meanAbsorption') },
    reach: { x: Number(moved) * of('spreadOd'), y: Number(moved) * of('spreadAbsorption') },
    faults: signatures.map(({ code, od, absorption }) => ({
      label: FAULT_LABELS[code] ?? code,
      towards: { x: SIGN[od], y: SIGN[absorption] },
      looks: against.notes.some((n) => n.code === code),
    })),
  };
}
