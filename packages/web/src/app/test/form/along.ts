import { computed, linkedSignal, type Signal } from '@angular/core';
import { answerTexts, unitLabel, type AnyInputs, type AnyMethod, type Evaluation } from '@keen-mortar/core';
import { momentText } from '../../parts/when';
import { rowsAt } from './inputs';
import type { RowsForm } from './test-form';

/** What comes of each row, beside it. */
interface AnswerColumn {
  readonly id: string;
  readonly head: string;
  readonly texts: readonly string[];
  readonly words: boolean;
  /** The figure of a row before it was cut for the table. */
  readonly whole: (row: number) => string;
}

/** Always the same: rows that have no answers are not drawn again with each key. */
const NONE: readonly AnswerColumn[] = [];
const NO_TEXTS: readonly string[] = [];

export const same = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((value, i) => value === b[i]);

/** Where a row stands; the kit’s table takes no bare 0 for a row. */
export interface Place {
  readonly at: number;
}

export const placesOf = (count: number): Place[] => Array.from({ length: count }, (_p, at) => ({ at }));

/** Lists of texts, one to a row; a row of which nothing changed keeps its list, and is not drawn again. */
export const steady = (texts: () => readonly (readonly string[])[]): Signal<readonly (readonly string[])[]> =>
  linkedSignal<readonly (readonly string[])[], readonly (readonly string[])[]>({
    source: texts,
    computation: (fresh, before) => fresh.map((row, i) => (before?.value[i] && same(before.value[i], row) ? before.value[i] : row)),
  }).asReadonly();

/** The answers that run along the rows of a table. */
export class Along {
  private readonly columns: Signal<readonly AnswerColumn[]>;
  readonly heads: Signal<{ readonly ids: readonly string[]; readonly heads: readonly string[]; readonly words: readonly boolean[] }>;
  /** One text to a column, for each row. */
  readonly rows: Signal<readonly (readonly string[])[]>;

  constructor(form: Signal<RowsForm>, path: Signal<string>) {
    this.columns = computed(() => answersAlong(form().method(), form().evaluation(), path()));
    this.heads = computed(
      () => ({
        ids: this.columns().map((a) => a.id),
        heads: this.columns().map((a) => a.head),
        words: this.columns().map((a) => a.words),
      }),
      { equal: (a, b) => same(a.ids, b.ids) && same(a.heads, b.heads) && same(a.words, b.words) },
    );
    this.rows = steady(() =>
      this.columns().length === 0
        ? []
        : rowsAt(form().inputs(), path()).map((_row: AnyInputs, i) => this.columns().map((a) => a.texts[i] ?? '')),
    );
  }

  of(row: number): readonly string[] {
    return this.rows()[row] ?? NO_TEXTS;
  }

  whole(id: string, row: number): string {
    return (
      this.columns()
        .find((a) => a.id === id)
        ?.whole(row) ?? ''
    );
  }
}

function answersAlong(m: AnyMethod | null, e: Evaluation | null, rows: string): readonly AnswerColumn[] {
  if (!m || !e) return NONE;
  const found = e.results.flatMap((r) => {
    const field = m.results[r.id]!;
    if (field.along !== rows) return [];
    const unit = unitLabel(r.unit);
    const head = unit === '' ? field.label : `${field.label}, ${unit}`;
    return [
      {
        id: r.id,
        head,
        texts: answerTexts(field, r, momentText, 3),
        words: r.words !== undefined,
        whole: (row: number) => r.series?.[row]?.unrounded ?? '',
      },
    ];
  });
  return found.length === 0 ? NONE : found;
}
