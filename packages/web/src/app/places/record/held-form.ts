import { computed, type Signal } from '@angular/core';
import { unitLabel, type Field, type Keyed, type Sources } from '@keen-mortar/core';
import type { ShownField, ShownRows } from '../../test/form/test-form';
import { ComputationForm } from '../../test/computation-form';
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
}

function saysOf(field: Field, given: unknown): string {
  if (field.kind === 'qty') {
    const { text, unit } = given as Keyed;
    return `${text} ${unitLabel(unit)}`.trim();
  }
  if (typeof given !== 'string') return '';
  return field.kind === 'pick' ? (field.options[given] ?? given) : given;
}
