import { computed, effect } from '@angular/core';
import {
  byOwnCopy,
  evaluate,
  otherVariants,
  usualInputs,
  type AnyInputs,
  type AnyMethod,
  type Evaluation,
  type Exchange,
  type How,
  type OtherVariant,
  type OwnFigures,
  type Parameters,
  type Shape,
  type System,
  type UnitId,
  type Variant,
} from '@keen-mortar/core';
import { exampleOf } from '@keen-mortar/core/examples';
import { patchState, signalStore, withComputed, withHooks, withMethods, withProps, withState } from '@ngrx/signals';
import type { Hand } from '../state/hand';
import { asked, isBlank, isGrid, keyedAt, rowsAt, setAt, valueAt, withoutRow } from './form/inputs';
import { gridFrom, linesIn, MOST_ROWS, rowsFrom } from './form/table-paste';

/** A computation that nobody has touched for a moment: what takes longer to show is shown of it. */
type Settled = Pick<ComputationState, 'methodId' | 'variant' | 'system' | 'inputs'>;

type Before = Pick<ComputationState, 'system' | 'inputs'>;

interface ComputationState {
  readonly methodId: string;
  readonly variant: string;
  readonly system: System;
  readonly inputs: AnyInputs;
  /** As it was before each paste, example, clearing or removed row: newest last. */
  readonly past: readonly Before[];
  /** What was undone, to be done again: newest last. A new change ends it. */
  readonly ahead: readonly Before[];
  /** What the last of these did, in words. */
  readonly said: string;
  /** A pasted series that is too long for a form: the panel computes it away from the page. */
  readonly long: string | null;
  readonly settled: Settled | null;
  /** A lab’s own figures, by the variant: of what is on record. */
  readonly own: OwnByVariant;
}

export type OwnByVariant = Readonly<Record<string, OwnFigures>>;

const SYSTEM_KEY = 'km.scratch.system';

/** As chosen here before; else as people count where this device says that it is. */
const systemAtFirst = (): System => {
  const chosen = localStorage.getItem(SYSTEM_KEY);
  return chosen === 'us' || chosen === 'si' ? chosen : /-(US|LR|MM)$/.test(navigator.language) ? 'us' : 'si';
};
const MOST_PAST = 50;
/** The answer is there at once; working, the other variants and the link follow when the fingers rest, ms. */
const SETTLES_AFTER = 180;
/** The panel that takes series of any length. */
const LONG_PANEL = 'series';

const blank = (m: AnyMethod, variant: string, system: System): AnyInputs => usualInputs(m, variant, system);

/** One computation without a record: readings, what comes of them, and the way back from a paste. */
export const ComputationStore = signalStore(
  withState<ComputationState>(() => ({
    methodId: '',
    variant: '',
    system: systemAtFirst(),
    inputs: {},
    past: [],
    ahead: [],
    said: '',
    long: null,
    settled: null,
    own: {},
  })),
  // What was opened, by its id: of the register, or the facts of a kind of item.
  withProps(() => ({ opened: new Map<string, AnyMethod>() })),
  withComputed(({ methodId, variant, system, inputs, settled, own, opened }) => {
    /** Of another computation nothing is shown. */
    const rested = computed(() => {
      const s = settled();
      return s && s.methodId === methodId() && s.variant === variant() && s.system === system() ? s : null;
    });
    const method = computed(() => opened.get(methodId()) ?? null);
    const how = (m: AnyMethod, s: Pick<Settled, 'variant' | 'system'>): How => ({
      variant: s.variant,
      system: s.system,
      ...byOwnCopy(m, s.variant, own()[s.variant] ?? null),
    });
    const working = computed((): Evaluation | null => {
      const [m, s] = [method(), rested()];
      return m && s ? evaluate(m, s.inputs, { ...how(m, s), working: true }) : null;
    });
    return {
      method,
      variants: computed(() =>
        Object.entries((method()?.variants ?? {}) as Readonly<Record<string, Variant<Parameters>>>).map(([id, v]) => ({ id, ...v })),
      ),
      fields: computed(() => {
        const m = method();
        return m ? asked(m, variant()) : [];
      }),
      /** The answer to a key, and once the fingers rest the whole: what slipped is looked for then, not with each key. */
      evaluation: computed((): Evaluation | null => {
        const m = method();
        if (!m) return null;
        return rested()?.inputs === inputs()
          ? working()
          : evaluate(m, inputs(), { ...how(m, { variant: variant(), system: system() }), offers: false });
      }),
      rested,
      /** The readings that pictures are drawn of. */
      still: computed((): AnyInputs => rested()?.inputs ?? {}),
      working,
      others: computed((): OtherVariant[] => {
        const [m, s] = [method(), rested()];
        return m && s ? otherVariants(m, s.inputs, how(m, s)) : [];
      }),
      /** Nothing was keyed: what is filled in beforehand does not count. */
      untouched: computed(() => {
        const m = method();
        const usual = m ? blank(m, variant(), system()) : {};
        return Object.entries(inputs()).every(
          ([id, value]) => isBlank(value) || JSON.stringify(value) === JSON.stringify((usual as Record<string, unknown>)[id]),
        );
      }),
    };
  }),
  withMethods((store) => {
    const now = (): Before => ({ system: store.system(), inputs: store.inputs() });
    const remember = () => ({ past: [...store.past().slice(1 - MOST_PAST), now()], ahead: [] });
    const replace = (inputs: AnyInputs, said: string): void => patchState(store, { ...remember(), inputs, said });
    return {
      /** Opens a method; without a hand, with what is usual in its first variant. */
      open(m: AnyMethod, hand?: Omit<Hand, 'method'>): void {
        store.opened.set(m.id, m);
        const variant = hand?.variant ?? Object.keys(m.variants as object)[0]!;
        const system = hand?.system ?? store.system();
        patchState(store, {
          methodId: m.id,
          variant,
          system,
          inputs: hand?.inputs ?? blank(m, variant, system),
          past: [],
          ahead: [],
          said: '',
          long: null,
        });
      },
      /** What is on record is done by the lab’s own figures of a variant. */
      doneBy(own: OwnByVariant): void {
        patchState(store, { own });
      },
      choose(change: Partial<Pick<ComputationState, 'variant' | 'system'>>): void {
        if (change.system) localStorage.setItem(SYSTEM_KEY, change.system);
        const m = store.method();
        const [before, after] = [store.system(), change.system ?? store.system()];
        // What was filled in beforehand follows the system; what was keyed stays as it was keyed.
        const usual = m ? (blank(m, store.variant(), before) as Record<string, unknown>) : {};
        const fresh = m ? (blank(m, change.variant ?? store.variant(), after) as Record<string, unknown>) : {};
        const kept = Object.entries(store.inputs()).filter(
          ([id, value]) => !(JSON.stringify(value) === JSON.stringify(usual[id])) && !(isBlank(value) && before !== after),
        );
        patchState(store, { ...change, inputs: { ...fresh, ...Object.fromEntries(kept) } as AnyInputs });
      },
      key(path: string, text: string, unit: UnitId): void {
        patchState(store, { inputs: setAt(store.inputs(), path, { text, unit }), said: '' });
      },
      /** Two readings that were keyed in each other's place. */
      exchange([one, other]: Exchange): void {
        const before = store.inputs();
        const [first, second] = [valueAt(before, one), valueAt(before, other)];
        replace(setAt(setAt(before, one, second), other, first), 'The two readings were exchanged.');
      },
      set(path: string, value: string | null): void {
        patchState(store, { inputs: setAt(store.inputs(), path, value), said: '' });
      },
      /** A column's unit for every cell of it; what was keyed stays as it was keyed. */
      unitOfColumn(path: string, id: string, unit: UnitId): void {
        const rows = rowsAt(store.inputs(), path).map((row) => {
          const keyed = keyedAt(row, id);
          return keyed ? setAt(row, id, { text: keyed.text, unit }) : row;
        });
        replace(setAt(store.inputs(), path, rows), '');
      },
      addRow(path: string, row: AnyInputs): void {
        patchState(store, { inputs: setAt(store.inputs(), path, [...rowsAt(store.inputs(), path), row]), said: '' });
      },
      removeRow(path: string, index: number): void {
        replace(withoutRow(store.inputs(), path, index), `Row ${index + 1} removed.`);
      },
      /** Rows of a pasted table, from `row` on; `start` is the column in which they were pasted. */
      paste(path: string, text: string, units: Readonly<Record<string, UnitId>> = {}, row = 0, start = 0): void {
        const field = (store.method()?.fields as Shape | undefined)?.[path];
        if (field?.kind !== 'rows') return;
        const count = linesIn(text);
        if (count > MOST_ROWS) {
          const said = `${count} rows are more than this table takes (${MOST_ROWS}). Nothing was changed.`;
          patchState(store, store.method()?.panel === LONG_PANEL ? { long: text, said: '' } : { said });
          return;
        }
        const of = field.of as Shape;
        const pasted = isGrid(field) ? gridRows(of, text, store.system(), units) : rowsFrom(text, of, store.system(), units, start);
        const before = rowsAt(store.inputs(), path);
        const merged = pasted.map((cells, i) =>
          isGrid(field)
            ? mergedLine(before[row + i] ?? {}, cells, start)
            : { ...(before[row + i] as object | undefined), ...(cells as object) },
        );
        const rows = [...before.slice(0, row), ...merged, ...before.slice(row + merged.length)];
        replace(setAt(store.inputs(), path, rows), `${pasted.length} rows pasted into ${field.label.toLowerCase()}.`);
      },
      example(): void {
        const m = store.method();
        if (!m) return;
        patchState(store, {
          ...remember(),
          inputs: { ...blank(m, store.variant(), 'si'), ...exampleOf(m) },
          system: 'si',
          said: 'The worked example, from the footbridge at Quillmouth.',
        });
      },
      clear(): void {
        const m = store.method();
        if (m) replace(blank(m, store.variant(), store.system()), 'Cleared.');
      },
      closeLong(): void {
        patchState(store, { long: null });
      },
      fill(inputs: AnyInputs, said: string): void {
        replace(inputs, said);
      },
      settle(): void {
        const { methodId, variant, system, inputs } = store;
        patchState(store, { settled: { methodId: methodId(), variant: variant(), system: system(), inputs: inputs() } });
      },
      undo(): void {
        const before = store.past().at(-1);
        if (before) patchState(store, { ...before, past: store.past().slice(0, -1), ahead: [...store.ahead(), now()], said: 'Undone.' });
      },
      /** What was keyed since is not lost by undoing. */
      redo(): void {
        const next = store.ahead().at(-1);
        if (next) patchState(store, { ...next, ahead: store.ahead().slice(0, -1), past: [...store.past(), now()], said: 'Done again.' });
      },
    };
  }),
  withHooks((store) => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    return {
      onInit(): void {
        effect(() => {
          store.methodId();
          store.variant();
          store.system();
          store.inputs();
          clearTimeout(timer);
          timer = setTimeout(() => store.settle(), SETTLES_AFTER);
        });
      },
      onDestroy: () => clearTimeout(timer),
    };
  }),
);

/** A line of a grid with pasted cells laid over it from `start` on; what stands beside them stays. */
function mergedLine(before: AnyInputs, pasted: AnyInputs, start: number): AnyInputs {
  const [inner] = Object.keys(pasted);
  const [old, cells] = [rowsAt(before, inner!), rowsAt(pasted, inner!)];
  const left = Array.from({ length: start }, (_c, k) => old[k] ?? {});
  return setAt(before, inner!, [...left, ...cells, ...old.slice(start + cells.length)]);
}

function gridRows(of: Shape, text: string, system: System, units: Readonly<Record<string, UnitId>>): AnyInputs[] {
  const [inner, list] = Object.entries(of)[0]!;
  const leaf = Object.entries((list as { of: Shape }).of)[0]!;
  const [id, field] = leaf;
  return gridFrom(text, inner, leaf, units[id] ?? (field.kind === 'qty' ? field.units[system] : '1'));
}
