import { computed, signal, type Signal } from '@angular/core';
import type { AnyInputs, Exchange, RowsField, UnitId } from '@keen-mortar/core';
import { elapsed } from '../parts/when';
import { issuesAt } from './form/columns';
import { keyedAt, valueAt } from './form/inputs';
import type { RowsForm, ShownField, ShownRows, TestForm } from './form/test-form';
import type { ComputationStore } from './computation.store';

const NONE: ShownField['before'] = [];

/** The readings of a computation without a record, as a form of a test shows them. */
export class ComputationForm implements TestForm, RowsForm {
  readonly prefix: string = 'scratch';
  private readonly watches = signal<Readonly<Record<string, number>>>({});

  readonly method: RowsForm['method'];
  readonly system: RowsForm['system'];
  readonly inputs: RowsForm['inputs'];
  readonly evaluation: RowsForm['evaluation'];

  constructor(private readonly store: InstanceType<typeof ComputationStore>) {
    this.method = store.method;
    this.system = store.system;
    this.inputs = store.inputs;
    this.evaluation = store.evaluation;
  }

  readonly fields: Signal<readonly ShownField[]> = computed(() => {
    const [m, e, inputs] = [this.store.method(), this.store.evaluation(), this.store.inputs()];
    if (!m || !e) return [];
    const hints = (m.hints?.(e.params, e.system) ?? {}) as Record<string, string>;
    return this.store.fields().flatMap(([id, field]) => {
      if (field.kind === 'rows') return [];
      const keyed = field.kind === 'qty' ? keyedAt(inputs, id) : null;
      return {
        id,
        field,
        hint: hints[id] ?? field.hint,
        issues: issuesAt(e.issues, id),
        text: keyed?.text ?? (field.kind === 'qty' ? '' : ((valueAt(inputs, id) as string | null) ?? '')),
        unit: field.kind === 'qty' ? (keyed?.unit ?? field.units[this.store.system()]) : '1',
        running: this.watches()[id] !== undefined,
        editable: true,
        kept: null,
        before: NONE,
      };
    });
  });

  readonly tables: Signal<readonly ShownRows[]> = computed(() =>
    this.store
      .fields()
      .filter((entry): entry is [string, RowsField] => entry[1].kind === 'rows')
      .map(([id, field]) => ({ id, field, issues: issuesAt(this.store.evaluation()?.issues ?? [], id) })),
  );

  key(id: string, text: string, unit: UnitId | null): void {
    if (unit !== null) this.store.key(id, text, unit);
    else this.store.set(id, text === '' ? null : text);
  }

  set(path: string, value: string | null): void {
    this.store.set(path, value);
  }

  fill(inputs: AnyInputs, said: string): void {
    this.store.fill(inputs, said);
  }

  unitOfColumn(path: string, id: string, unit: UnitId): void {
    this.store.unitOfColumn(path, id, unit);
  }

  removeRow(path: string, index: number): void {
    this.store.removeRow(path, index);
  }

  paste(path: string, text: string, units: Readonly<Record<string, UnitId>>, row: number, column: number): void {
    this.store.paste(path, text, units, row, column);
  }

  exchange(pair: Exchange): void {
    this.store.exchange(pair);
  }

  timed(id: string): void {
    const started = this.watches()[id];
    if (started === undefined) {
      this.watches.update((all) => ({ ...all, [id]: Date.now() }));
      return;
    }
    this.watches.update((all) => Object.fromEntries(Object.entries(all).filter(([other]) => other !== id)));
    this.store.key(id, elapsed(Date.now() - started), 's');
  }
}
