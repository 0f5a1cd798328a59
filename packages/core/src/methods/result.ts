import { ratio, reported, significant, type Exact } from '../numbers/exact.js';
import type { System, UnitId } from '../units/units.js';
import type { ResultField, Steps } from './definition.js';

export interface ResultValue {
  readonly id: string;
  readonly label: string;
  readonly symbol: string;
  readonly unit: UnitId;
  /** `open`: something is missing; `void`: no number may be reported. */
  readonly state: 'given' | 'open' | 'void';
  /** The whole value, `n/d`: nothing is lost between page, wire and table. */
  readonly exact: string | null;
  /** 12 significant digits, for people. */
  readonly unrounded: string | null;
  readonly reported: string | null;
  readonly steps: Steps;
  readonly words?: readonly string[];
  /** One for each row; the single values above are null then. */
  readonly series?: readonly Figure[];
}

/** One figure: whole, for people, and as reported. */
export interface Figure {
  readonly exact: string;
  readonly unrounded: string;
  readonly reported: string | null;
}

/** Significant digits of `unrounded`: as many as any check of a record will ask for. */
const DIGITS = 12;

/**
 * A figure whose texts are worked out when somebody asks for them, to keep it, send it or show it:
 * not all of them at each keystroke.
 */
class ValueFigure implements Figure {
  constructor(
    private readonly value: Exact,
    private readonly step: string | undefined,
  ) {}

  get exact(): string {
    return ratio(this.value);
  }

  get unrounded(): string {
    return significant(this.value, DIGITS);
  }

  get reported(): string | null {
    return this.step === undefined ? null : reported(this.value, this.step);
  }

  toJSON(): Figure {
    return { exact: this.exact, unrounded: this.unrounded, reported: this.reported };
  }
}

interface Head {
  readonly id: string;
  readonly label: string;
  readonly symbol: string;
}

/** A single value, its texts likewise made when asked for. */
class GivenResult implements ResultValue {
  readonly id: string;
  readonly label: string;
  readonly symbol: string;
  readonly state = 'given';

  constructor(
    head: Head,
    readonly unit: UnitId,
    private readonly value: Exact,
    readonly steps: Steps,
  ) {
    ({ id: this.id, label: this.label, symbol: this.symbol } = head);
  }

  get exact(): string {
    return ratio(this.value);
  }

  get unrounded(): string {
    return significant(this.value, DIGITS);
  }

  get reported(): string | null {
    const step = this.steps[this.unit];
    return step === undefined ? null : reported(this.value, step);
  }

  toJSON(): ResultValue {
    const { id, label, symbol, unit, state, exact, unrounded, reported: text, steps } = this;
    return { id, label, symbol, unit, state, exact, unrounded, reported: text, steps };
  }
}

/** One value for each row; the figures likewise made when somebody asks for them. */
class GivenSeries implements ResultValue {
  readonly id: string;
  readonly label: string;
  readonly symbol: string;
  readonly state = 'given';
  readonly exact = null;
  readonly unrounded = null;
  readonly reported = null;
  private figures: readonly Figure[] | null = null;

  constructor(
    head: Head,
    readonly unit: UnitId,
    private readonly values: readonly Exact[],
    readonly steps: Steps,
  ) {
    ({ id: this.id, label: this.label, symbol: this.symbol } = head);
  }

  get series(): readonly Figure[] {
    return (this.figures ??= this.values.map((v) => new ValueFigure(v, this.steps[this.unit])));
  }

  toJSON(): ResultValue {
    const { id, label, symbol, unit, state, exact, unrounded, reported: text, steps, series } = this;
    return { id, label, symbol, unit, state, exact, unrounded, reported: text, steps, series };
  }
}

/** What a method's body gave for a result. */
export type Answer =
  | { readonly value: Exact; readonly unit: UnitId; readonly steps: Steps }
  | { readonly series: readonly Exact[]; readonly unit: UnitId; readonly steps: Steps }
  | { readonly words: readonly string[] };

/** A declared result with what was given for it; a void test hides what is not there to say why. */
export function resultOf(id: string, field: ResultField, got: Answer | undefined, system: System, voided: boolean): ResultValue {
  const head = { id, label: field.label, symbol: field.symbol };
  const blank = { exact: null, unrounded: null, reported: null } as const;
  const hidden = voided && !field.whenVoid;
  if (got && 'words' in got)
    return { ...head, unit: '1', state: hidden ? 'void' : 'given', ...blank, steps: {}, ...(hidden ? {} : { words: got.words }) };
  const unit = got?.unit ?? field.units[system];
  if (hidden || !got) return { ...head, unit, state: hidden ? 'void' : 'open', ...blank, steps: got?.steps ?? {} };
  const { steps } = got;
  if ('series' in got) return new GivenSeries(head, unit, got.series, steps);
  return new GivenResult(head, unit, got.value, steps);
}
