import { computed, type Signal } from '@angular/core';
import { unitLabel, type Field, type Keyed, type QtyField, type RowsField, type Shape, type Sources } from '@keen-mortar/core';
import type { ShownField, ShownRows } from '../../test/form/test-form';
import { ComputationForm } from '../../test/computation-form';
import { issuesAt } from '../../test/form/columns';
import { keyedAt, rowsAt, single } from '../../test/form/inputs';
import type { ComputationStore } from '../../test/computation.store';

const NONE: ShownField['before'] = [];

/** The form of a test on record: what the record gives stands there as given, and is not keyed. */
export class HeldForm extends ComputationForm {
  override readonly prefix = 'held';

  constructor(
    store: InstanceType<typeof ComputationStore>,
    private readonly sources: Signal<Sources>,
    private readonly locked: Signal<boolean>,
  ) {
    super(store);
  }

  /** Of the record: known, or to be keyed where it is not. */
  readonly held: Signal<readonly ShownField[]> = computed(() =>
    this.fields().flatMap((f): ShownField[] => {
      const given = f.field.from === undefined ? undefined : this.sources()[f.field.from];
      if (given === undefined) return [{ ...f, editable: !this.locked() }];
      const says = saysOf(f.field, given);
      return says === '' ? [] : [{ ...f, editable: false, kept: { id: f.id, says, told: 'from the record', given: true }, before: NONE }];
    }),
  );

  /** Tables that are keyed here; those that the record gives are its own. */
  readonly keyedTables: Signal<readonly ShownRows[]> = computed(() =>
    this.tables().filter(({ field }) => field.from === undefined || this.sources()[field.from] === undefined),
  );

  /** One after the other, without a table: what is taken several times stands each by itself. */
  readonly singly: Signal<readonly ShownField[]> = computed(() => {
    const [plain, tables] = [this.held(), this.keyedTables()];
    return Object.keys((this.method()?.fields ?? {}) as Shape).flatMap((id) => {
      const table = tables.find((t) => t.id === id);
      return table ? this.eachOf(table) : plain.filter((f) => f.id === id);
    });
  });

  private eachOf({ id, field, issues }: ShownRows): ShownField[] {
    const [inputs, all] = [this.inputs(), this.evaluation()?.issues ?? []];
    const column = single(field)?.[0];
    if (column === undefined || field.times === undefined) return [];
    return Array.from({ length: Math.max(field.times, rowsAt(inputs, id).length) }, (_row, i): ShownField => {
      const at = `${id}.${i}.${column}`;
      const [keyed, own] = [keyedAt(inputs, at), this.numbered(field, i)];
      return {
        id: at,
        field: own,
        hint: own.hint,
        // What is wrong with all of them is said once.
        issues: i === 0 && issues.length > 0 ? [...issuesAt(all, at), ...issues] : issuesAt(all, at),
        text: keyed?.text ?? '',
        unit: keyed?.unit ?? own.units[this.system()],
        running: false,
        editable: !this.locked(),
        kept: null,
        before: NONE,
      };
    });
  }

  private readonly known = new WeakMap<RowsField, QtyField[]>();
  /** The same each time: what is the same is not drawn again. */
  private numbered(field: RowsField, i: number): QtyField {
    const list = this.known.get(field) ?? [];
    this.known.set(field, list);
    const of = single(field)![1] as QtyField;
    return (list[i] ??= { ...of, label: `${of.label} ${i + 1}`, ...(field.afterwards ? { afterwards: true } : {}) });
  }
}

/** Whether all of a method that is usual can be keyed one after the other. */
export const isKeyedSingly = (fields: Shape): boolean =>
  Object.values(fields).every((f) => f.kind !== 'rows' || f.minor === true || (f.times !== undefined && single(f)?.[1].kind === 'qty'));

function saysOf(field: Field, given: unknown): string {
  if (field.kind === 'qty') {
    const { text, unit } = given as Keyed;
    return `${text} ${unitLabel(unit)}`.trim();
  }
  if (typeof given !== 'string') return '';
  return field.kind === 'pick' ? (field.options[given] ?? given) : given;
}
