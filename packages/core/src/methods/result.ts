import { ratio, reported, significant, type Exact } from '../numbers/exact.js';
import type { System, UnitId } from '../units/units.js';
import type { ResultField, Increments } from './definition.js';
import { arrayOf, type List } from './lists.js';

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
  readonly increments: Increments;
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

/** What every result has of its field. */
interface Head {
  readonly id: string;
  readonly field: ResultField;
}

/** A single value, its texts likewise made when asked for. */
class GivenResult implements ResultValue {
  readonly id: string;
  readonly label: string;
  readonly symbol: string;
  readonly state = 'given';

  constructor(
    { id, field }: Head,
    readonly unit: UnitId,
    private readonly value: Exact,
    readonly increments: Increments,
  ) {
    this.id = id;
    this.label = field.label;
    this.symbol = field.symbol;
  }

  get exact(): string {
    return ratio(this.value);
  }

  get unrounded(): string {
    return significant(this.value, DIGITS);
  }

  get reported(): string | null {
    const step = this.increments[this.unit];
    return step === undefined ? null : reported(this.value, step);
  }

  toJSON(): ResultValue {
    const { id, label, symbol, unit, state, exact, unrounded, reported: text, increments } = this;
    return { id, label, symbol, unit, state, exact, unrounded, reported: text, increments };
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
    { id, field }: Head,
    readonly unit: UnitId,
    private readonly values: List<Exact>,
    readonly increments: Increments,
  ) {
    this.id = id;
    this.label = field.label;
    this.symbol = field.symbol;
  }

  get series(): readonly Figure[] {
    return (this.figures ??= arrayOf(this.values).map((v) => new ValueFigure(v, this.increments[this.unit])));
  }

  toJSON(): ResultValue {
    const { id, label, symbol, unit, state, exact, unrounded, reported: text, increments, series } = this;
    return { id, label, symbol, unit, state, exact, unrounded, reported: text, increments, series };
  }
}

/** What a method's body gave for a result. */
export type Answer =
  | { readonly value: Exact; readonly unit: UnitId; readonly increments: Increments }
  | { readonly series: List<Exact>; readonly unit: UnitId; readonly increments: Increments }
  | { readonly words: readonly string[] };

/** A declared result with what was given for it; a void test hides what is not there to say why. */
export function resultOf(id: string, field: ResultField, got: Answer | undefined, system: System, voided: boolean): ResultValue {
  const hidden = voided && !field.whenVoid;
  if (got && !hidden && !('words' in got)) {
    const { unit, increments } = got;
    return 'series' in got
      ? new GivenSeries({ id, field }, unit, got.series, increments)
      : new GivenResult({ id, field }, unit, got.value, increments);
  }
  const { label, symbol } = field;
  const words = got && 'words' in got ? got.words : null;
  return {
    id,
    label,
    symbol,
    unit: words ? '1' : ((got as { unit?: UnitId } | undefined)?.unit ?? field.units[system]),
    state: hidden ? 'void' : words ? 'given' : 'open',
    exact: null,
    unrounded: null,
    reported: null,
    increments: got && 'increments' in got ? got.increments : {},
    ...(words && !hidden ? { words } : {}),
  };
}
