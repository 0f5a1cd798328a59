import type { Scene } from './scene.js';
import type { Exact } from '../numbers/exact.js';
import type { Keyed } from '../units/reading.js';
import type { Dimension, System, UnitId } from '../units/units.js';
import type { Calc } from './calc.js';
import type { List } from './lists.js';
import type { Code, Params } from '../problems.js';
import type { ItemKind } from '../record/items.js';
import type { KitKind } from '../record/kit.js';
import type { Spelled } from '../record/spelling.js';
import type { PracticeId } from './practices.js';
import type { LeastTable } from './reduction/least-mass.js';

/** Where a quantity that nobody keys comes from, so that a stale calibration can be traced. */
export type Source =
  | 'mix.largest'
  | 'mix.nominal'
  | 'mix.recipe'
  | 'mix.theoretical'
  | 'pour.planned'
  | 'ticket.batch'
  | 'ticket.design'
  | 'ticket.batched'
  | 'ticket.cementitious'
  | 'ticket.water'
  | 'ticket.added'
  | 'ticket.aggregates'
  | 'load.discharged'
  | 'mix.aggregate'
  | 'mix.strength'
  | 'measure.volume'
  | 'measure.nominal'
  | 'meter.division'
  | 'pads.hardness'
  | 'pads.uses'
  | 'splitter.chutes'
  | 'splitter.width'
  | 'retest.shape'
  | 'sample.portions'
  | 'sample.finished'
  | 'specimens.made'
  | 'specimens.shape'
  | 'specimens.width'
  | 'specimens.curing'
  | 'specimens.low'
  | 'specimens.high'
  | 'specimens.moved'
  | 'specimens.arrived'
  | 'specimens.demolded'
  | 'specimens.cured'
  | 'specimen.age'
  | 'specimen.left'
  | 'prisms.gauge'
  | 'prisms.cast'
  | 'prisms.regime'
  | 'prisms.demolded'
  | 'prisms.initial'
  | 'source.kind'
  | 'source.nominal'
  | 'field.mass'
  | 'portion.run'
  | 'portion.steps'
  | Given;

/** What one test gives to others; its definition says so. */
export type Given =
  | 'test.slump'
  | 'test.samples'
  | 'test.density'
  | 'test.before-wash'
  | 'test.after-wash'
  | 'test.strength'
  | 'test.cube-strength'
  | 'test.cone'
  | 'source.absorption'
  | 'source.gravity'
  | 'source.moisture'
  | 'mix.correction';

/**
 * A result or a reading that other tests take, and which: those of the same item, of what was made of it, and, row by
 * row, of what it is one of; or those made later of the same mix or source, as of their day.
 */
export interface Gift {
  readonly as: Given;
  readonly to: 'item' | 'subject';
}

/** Bounds of a reading, each end in its own unit as the method prints it; inclusive unless `above`. */
export interface Range {
  readonly unit: UnitId;
  readonly least?: string;
  readonly above?: string;
  readonly most?: string;
  /** Zero is as usual as what lies between the ends: sand out of the oven has no moisture. */
  readonly zero?: true;
}

interface FieldBase {
  readonly label: string;
  readonly hint?: string;
  /** Not keyed here: filled from the record; may be keyed where there is no record. */
  readonly from?: Source;
  /** Taken from the record where nobody keys it; what is keyed here counts before it. */
  readonly takes?: Source;
  /** The result does not need it. */
  readonly optional?: boolean;
  /** Of an item: not known yet when it is made, and no part of the form that makes it. */
  readonly later?: boolean;
  /** Seldom keyed: stands smaller, after the others. */
  readonly minor?: boolean;
  /** Measured on what is left of a specimen when it has broken. */
  readonly afterwards?: boolean;
}

export interface QtyField extends FieldBase {
  readonly kind: 'qty';
  readonly dimension: Dimension;
  readonly symbol: string;
  /** The unit offered first in each system. */
  readonly units: Record<System, UnitId>;
  /** Outside: refused. */
  readonly possible?: Range;
  /** Outside: asked about, and kept with a reason. */
  readonly plausible?: Range;
  /** What such a reading most often is: of several slips that would be plausible, the nearest to it is offered. */
  readonly typical?: { readonly text: string; readonly unit: UnitId };
  /** Filled in beforehand, as an instrument of the usual size would give. */
  readonly usual?: Record<System, string>;
  /** Sieves by name: `No. 4`, `3/8 in`, `75 µm`, `Pan`. */
  readonly sieve?: true;
  /** Water and admixtures: litres and gallons are taken too, at so many kg a litre. */
  readonly kgPerLitre?: string;
}

export interface PickField<O extends string = string> extends FieldBase {
  readonly kind: 'pick';
  readonly options: Readonly<Record<O, string>>;
  readonly usual?: O;
}

export interface TextField extends FieldBase {
  readonly kind: 'text';
}

/** A moment, as ISO text with its offset. */
export interface InstantField extends FieldBase {
  readonly kind: 'instant';
  /** It may be yet to come: what is planned, rather than what has been. */
  readonly ahead?: true;
}

export interface RowsField<S extends Shape = Shape> extends FieldBase {
  readonly kind: 'rows';
  readonly of: S;
  /** So many rows at the most in one request; {@link MOST_ROWS} where it does not say. */
  readonly most?: number;
  /** A reading that is taken so often, one after the other: where it goes fast it is keyed as so many readings, without a table. */
  readonly times?: number;
  /**
   * Where nobody keys them, one row for each item that was made of this one, by what its columns take; of those alone
   * for which the record has the same as is keyed in the field `of`, and has nothing of what they are left out by.
   */
  readonly made?: { readonly same?: { readonly of: string; readonly as: Source }; readonly unless?: Source };
}

/** Rows of a field, where its declaration gives no number of its own. */
export const MOST_ROWS = 200;

export type Field = QtyField | PickField | TextField | InstantField | RowsField<any>; // eslint-disable-line @typescript-eslint/no-explicit-any -- a shape holds shapes

export interface Shape {
  readonly [id: string]: Field;
}

type Value<F extends Field> = F extends QtyField
  ? Keyed | null
  : F extends PickField<infer O>
    ? O | null
    : F extends RowsField<infer S>
      ? readonly In<S>[] | null
      : string | null;

/** The inputs of a method, typed by inference from its declaration. */
export type In<S extends Shape> = { readonly [K in keyof S]: Value<S[K]> };

/** Inputs of a method whose shape is known only at run time: checked by its schema at the door. */
export type AnyInputs = Partial<In<any>>; // eslint-disable-line @typescript-eslint/no-explicit-any -- see AnyMethod

export type IdsOf<S extends Shape, F extends Field> = { [K in keyof S]: S[K] extends F ? K : never }[keyof S] & string;

export interface Citation {
  readonly designation: string;
  readonly edition: string;
  readonly part?: string;
}

export type Parameters = Readonly<Record<string, unknown>>;

/** One way of doing it: a complete set of parameters, never only a label. A lab's own copy starts from it: `{ ...us, params }`. */
export interface Variant<P extends Parameters, Id extends string = string> {
  readonly label: string;
  readonly source: Citation;
  readonly params: P;
  /** Readings that it does not ask for: they are on no form of it, and it answers without them. */
  readonly without?: readonly Id[];
  /** What would have to be done otherwise than here: then the same readings answer nothing under it. */
  readonly needs?: string;
  /** Practices that take it; of the others, and where none takes any, the first. */
  readonly practices?: readonly PracticeId[];
}

export interface ResultField {
  readonly label: string;
  readonly symbol: string;
  readonly units: Record<System, UnitId>;
  /** Outside: asked about, as an unlikely reading is, with the slip that would explain it; each system as quoted. */
  readonly plausible?: Range | Record<System, Range>;
  /** The property that a specification limits; none where nothing does. */
  readonly property?: string;
  /** A limit on it may hold at an age of what is tested, and then says nothing of the other readings. */
  readonly atAge?: true;
  /** Single-operator standard deviation (1s) as published; named in judgement/precision. */
  readonly precision?: string;
  /** Where only one system has this result, e.g. ft³ per design yd³. */
  readonly system?: System;
  /** Where the reference has no rule: with how many places it is shown, as what it is worked out from is read. */
  readonly places?: number;
  /** Given also when the test is void, because it says why; never a result of the concrete. */
  readonly whenVoid?: boolean;
  /** Shown first and large. */
  readonly main?: boolean;
  /** One for each row of this field, in the order of the rows. */
  readonly along?: string;
  /** For the method's panel to draw; not listed among the results. */
  readonly drawn?: boolean;
  /** How its words read; words that are not here speak for themselves. */
  readonly words?: Readonly<Record<string, string>>;
  /** Its words are moments, as ISO text. */
  readonly moments?: boolean;
}

/** Words of a result that only says whether. */
export const YES_NO = { yes: 'yes', no: 'no' } as const;

/** A clock of the method, judged from what the record says happened when. */
export interface MethodWindow {
  readonly id: string;
  readonly starts: EventId;
  readonly must: 'test.started' | 'test.finished';
  readonly mostSeconds: number;
  readonly missed: 'marked' | 'void';
  /** What must happen, as a clock names it while it runs, and when it has happened. */
  readonly label: string;
  readonly done: string;
  readonly then: string;
  readonly source: Citation;
}

export type EventId =
  | 'load.batched'
  | 'load.discharged'
  | 'sample.first-portion'
  | 'sample.final-portion'
  | 'sample.finished'
  | 'sample.molding'
  | 'test.started'
  | 'test.finished';

/** What to do, in the specification's own order, when a result is out on a side. */
export interface Advice<R extends string = string> {
  readonly result: R;
  readonly side: 'low' | 'high';
  readonly steps: readonly string[];
  /** What is left to do once the check test is out too: the steps that ask for one are stale then. */
  readonly bothOut?: readonly string[];
  /** What it means that the check is out too, where that does not fail the load; and that it is inside. */
  readonly outTwice?: string;
  readonly checked?: string;
  /** What could be changed, each with its price. */
  readonly levers?: readonly string[];
}

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- see AnyMethod
export interface Step<P = any> {
  /** What to do; of a step that depends on the variant's parameters, or that only some have, null for the others. */
  readonly text: string | ((p: P) => string | null);
  readonly caution?: boolean;
}

/** A row by its place, or a row within a row: `[3, 'companions', 0]`. */
export type RowAt = number | readonly [row: number, within: string, inner: number];

export interface Run<S extends Shape, P extends Parameters, V, R extends string = string> {
  readonly x: In<S>;
  readonly p: P;
  readonly system: System;
  readonly c: Calc<V>;
  /** The reading in `unit`; null when it is missing or refused, and then named as missing. */
  need(id: IdsOf<S, QtyField>, unit: UnitId): V | null;
  /** The same, for a reading that the result can do without. */
  have(id: IdsOf<S, QtyField>, unit: UnitId): V | null;
  /** A quantity within a row; its symbol gets the row's number: `m3`, within a row of rows `x3.1`. */
  inRow<K extends IdsOf<S, RowsField>>(rows: K, at: RowAt, id: string, unit: UnitId, symbol: string): V | null;
  /** A quantity of every row as a column of doubles; null where it is none: in another unit, with gaps, with its working recorded. */
  long<K extends IdsOf<S, RowsField>>(rows: K, id: string, unit: UnitId): List<V> | null;
  /** Names a reading as missing: the result stays open. */
  missing(path: string): void;
  /** A reading that cannot be: stays at the field, and nothing is computed from it. */
  refuse(code: Code, path: string, params?: Params, exchange?: Exchange): void;
  /** A reading that is unlikely: can be kept with a reason. */
  doubt(code: Code, path: string, params?: Params, offer?: Offer): void;
  /** The test is void: repeat. Not a failure of the concrete. */
  voids(code: Code, params?: Params): void;
  /** The procedure strayed; the result stands with a remark. */
  marks(code: Code, params?: Params): void;
  note(code: Code, params?: Params): void;
  /** `increments`: reporting increment for each unit, as quoted; none where the reference has no rule. */
  result(id: R, value: V, unit: UnitId, increments?: Increments): void;
  /** One result for each row, in the order of the rows: per cents passing, companions, fractions. */
  series(id: R, values: List<V>, unit: UnitId, increments?: Increments): void;
  /** A result in words, e.g. the consolidation that is allowed. */
  says(id: R, words: readonly string[]): void;
}

export type Increments = Partial<Record<UnitId, string>>;

export interface Offer {
  readonly text: string;
  readonly unit: UnitId;
  /** Where one slip went through several readings: what the others were meant to be, taken with it. */
  readonly also?: readonly { readonly path: string; readonly text: string; readonly unit: UnitId }[];
}

/** Two readings that stand in each other’s place. */
export type Exchange = readonly [path: string, other: string];

/** A test method, defined once: everything else (schema, endpoint, form, working, page) derives from it. */
export interface Method<S extends Shape = Shape, P extends Parameters = Parameters, R extends string = string> {
  readonly id: string;
  readonly title: string;
  readonly short?: string;
  /** Other names by which people look for it. */
  readonly names: readonly string[];
  readonly follows: readonly Citation[];
  readonly about: string;
  readonly fields: S;
  readonly results: Readonly<Record<R, ResultField>>;
  readonly variants: Readonly<Record<string, Variant<P, keyof S & string>>>;
  /** Hints that depend on the variant: `Lift, 3 to 7 s`. */
  hints?(p: P, system: System): Partial<Record<keyof S & string, string>>;
  /** What to do and to watch, in order; the cautions among them where they are needed. */
  readonly steps: readonly Step<P>[];
  /** Equipment that must be picked, because its calibration or its size enters the result. */
  readonly kit?: KitKind;
  /** Equipment that is used beside it: its calibration stands behind the result, and enters no figure. */
  readonly uses?: readonly KitKind[];
  /** Kinds of item on which it is made and kept; none: a computation that leaves no record. */
  readonly on?: readonly ItemKind[];
  /** Of which reading so much is needed at least, by the nominal maximum size, as a table of the least masses has it. */
  readonly least?: { readonly table: LeastTable; readonly of: keyof S & string };
  /** It destroys what is tested: it is made at the age of the item, once, and what its set went through stands on its result. */
  readonly breaks?: true;
  /** Where it stands among the tests of a kind of sample, in the order of the work; whether a measure is filled for it, by what the slump says. */
  readonly work?: { readonly on: 'fresh'; readonly order: number; readonly fills?: 'measure' };
  /** What it is made for: items for which the record says one of these, or nothing of it. */
  readonly suits?: Partial<Readonly<Record<Source, readonly string[]>>>;
  /** Of several that find out the same in their own ways: those that the specification asks for, and where it asks for none, those that are usual. */
  readonly way?: { readonly of: string; readonly usual?: true };
  /** What it gives to other tests, by the result or the reading that is given. */
  readonly gives?: Partial<Readonly<Record<NoInfer<R> | (keyof S & string), Gift>>>;
  /** What a form shows when nothing is keyed yet: from the demonstration scenario, in SI, with the readings of every variant. */
  readonly example: Spelled;
  /** Examples of ways through it that the first does not take: for the formulas of its page. */
  readonly further?: readonly Spelled[];
  readonly windows?: readonly MethodWindow[];
  readonly advice?: readonly Advice<NoInfer<R>>[];
  /** What is weighed or broken, to be drawn with its readings; where there is a panel too, by that. */
  readonly scene?: Scene;
  /** A screen part where the derived form is not enough; it reads this same definition. */
  readonly panel?: string;
  run<V>(r: Run<S, P, V, R>): void;
}

/** Declares a method: types of inputs and parameters follow from the declaration. */
export const method = <const S extends Shape, P extends Parameters, R extends string>(definition: Method<S, P, R>): Method<S, P, R> =>
  definition;

export type AnyMethod = Method<any, any, any>; // eslint-disable-line @typescript-eslint/no-explicit-any -- the register holds methods of every shape

type Options<T extends FieldBase> = Partial<Pick<T, keyof T>>;

/** Field makers: short, so that a declaration reads like the method's own list of readings. */
export const qty = <D extends Dimension>(
  dimension: D,
  symbol: string,
  label: string,
  units: Record<System, UnitId>,
  more: Omit<Options<QtyField>, 'kind' | 'dimension' | 'symbol' | 'label' | 'units'> = {},
): QtyField => ({ kind: 'qty', dimension, symbol, label, units, ...more });

export const pick = <const O extends string>(
  label: string,
  options: Readonly<Record<O, string>>,
  more: Omit<Options<PickField<NoInfer<O>>>, 'kind' | 'options' | 'label'> = {},
): PickField<O> => ({ kind: 'pick', label, options, ...more });

export const text = (label: string, more: Partial<FieldBase> = {}): TextField => ({ kind: 'text', label, ...more });

export const instant = (label: string, more: Partial<FieldBase & Pick<InstantField, 'ahead'>> = {}): InstantField => ({
  kind: 'instant',
  label,
  ...more,
});

export const rows = <const S extends Shape>(
  label: string,
  of: S,
  more: Partial<FieldBase & Pick<RowsField, 'most' | 'made' | 'times'>> = {},
): RowsField<S> => ({
  kind: 'rows',
  label,
  of,
  ...more,
});

export type { Exact };
