import { answerTexts, unitLabel, type AnyMethod, type Evaluation } from '@keen-mortar/core';
import { momentText } from '../../parts/when';

/** What comes of each row, beside it. */
export interface AnswerColumn {
  readonly id: string;
  readonly head: string;
  readonly texts: readonly string[];
  readonly words: boolean;
  /** The figure of a row before it was cut for the table. */
  readonly whole: (row: number) => string;
}

/** Always the same: rows that have no answers are not drawn again with each key. */
const NONE: readonly AnswerColumn[] = [];

/** The answers that run along the rows of a field. */
export function answersAlong(m: AnyMethod | null, e: Evaluation | null, rows: string): readonly AnswerColumn[] {
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
