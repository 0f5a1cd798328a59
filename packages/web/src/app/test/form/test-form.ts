import type { Signal } from '@angular/core';
import type {
  AnyInputs,
  AnyMethod,
  Evaluation,
  Exchange,
  Field,
  Issue,
  PickField,
  QtyField,
  RowsField,
  System,
  UnitId,
} from '@keen-mortar/core';

/** A reading that is on record, in words. */
export interface Kept {
  readonly id: string;
  /** With its unit, or the name of what was chosen. */
  readonly says: string;
  /** By whom, when and, for a correction, why. */
  readonly told: string;
  /** The record gives it: it is corrected where it stands. */
  readonly given?: true;
}

/** One reading as its form shows it, wherever the test is kept. */
export interface ShownField {
  readonly id: string;
  readonly field: Field;
  readonly hint: string | undefined;
  readonly issues: readonly Issue[];
  /** As keyed; the id of what was chosen; a moment as ISO 8601. */
  readonly text: string;
  readonly unit: UnitId;
  /** Whether its stopwatch runs. */
  readonly running: boolean;
  readonly editable: boolean;
  readonly kept: Kept | null;
  /** What was kept before, oldest first: a correction keeps what it corrects. */
  readonly before: readonly Kept[];
}

/** The readings of a test in a form: on record, or of nothing yet. */
export interface TestForm {
  /** Ids of its inputs begin with it. */
  readonly prefix: string;
  /** A figure is painted before it is worked out: much stands beside it that it moves. */
  readonly seenFirst?: true;
  /** In the order in which they are keyed. */
  readonly fields: Signal<readonly ShownField[]>;
  key(field: string, text: string, unit: UnitId | null): void;
  exchange(pair: Exchange): void;
  /** Starts or stops the stopwatch of a reading. */
  timed(field: string): void;
}

/** The tables of a test: rows appended, pasted over, taken out. Paths are such as `sieves.3.retained`. */
export interface RowsForm {
  readonly method: Signal<AnyMethod | null>;
  readonly tables: Signal<readonly ShownRows[]>;
  readonly system: Signal<System>;
  readonly inputs: Signal<AnyInputs>;
  readonly evaluation: Signal<Evaluation | null>;
  key(path: string, text: string, unit: UnitId): void;
  set(path: string, value: string | null): void;
  exchange(pair: Exchange): void;
  fill(inputs: AnyInputs, said: string): void;
  unitOfColumn(path: string, id: string, unit: UnitId): void;
  removeRow(path: string, index: number): void;
  paste(path: string, text: string, units: Readonly<Record<string, UnitId>>, row: number, column: number): void;
}

/** A table of a test, and what is wrong with it as a whole. */
export interface ShownRows {
  readonly id: string;
  readonly field: RowsField;
  readonly issues: readonly Issue[];
}

export const asQty = (field: Field): QtyField => field as QtyField;
export const asPick = (field: Field): PickField => field as PickField;

/** Of the input of a field. */
export const inputIdOf = (form: TestForm, field: string): string => `${form.prefix}-${field}`;
