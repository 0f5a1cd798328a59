import type { ResultField } from '../methods/definition.js';
import type { Figure, ResultValue } from '../methods/result.js';
import { exact, fixed, significant } from '../numbers/exact.js';
import { unitLabel } from '../units/units.js';

/** Digits of a figure that the reference gives no reporting increment for: enough to go on with, few enough to read. */
const UNSTEPPED_DIGITS = 5;

/** Decimal text as a person reads a very small figure: `0.0000000000001` → `1·10⁻¹³`. */
export function powerText(text: string): string {
  const value = Number(text);
  return value !== 0 && Math.abs(value) < SMALL ? powerOfTen(value, text.replace(/^-?0*\.?0*/, '').length) : text;
}

/** As reported, or rounded to some digits where the reference has no rule: the whole figure is in the working and in copies. */
export function figureText(f: Pick<Figure, 'reported' | 'unrounded'>, digits = UNSTEPPED_DIGITS): string {
  if (f.reported !== null) return powerText(f.reported);
  // Twelve digits are enough to read: the whole fraction of a long series would take its time.
  const value = Number(f.unrounded);
  if (value !== 0 && Math.abs(value) < SMALL) return powerOfTen(value, Math.min(digits, SMALL_DIGITS));
  const plain = f.unrounded.includes('.') ? f.unrounded.replace(/\.?0+$/, '') : f.unrounded;
  // What stands before the point is never cut.
  const kept = Math.max(digits, /^-?(\d*)/.exec(plain)![1]!.length);
  const long = plain.replace(/^-?0*\.?0*|\./g, '').length > kept;
  return long ? significant(exact(plain), kept) : plain;
}

/** Below this a figure is read by its power of ten: a permeability. */
const SMALL = 1e-4;
const SMALL_DIGITS = 4;
const RAISED: Readonly<Record<string, string>> = Object.fromEntries([...'0123456789'].map((d, i) => [d, '⁰¹²³⁴⁵⁶⁷⁸⁹'[i]!]));

/** 1.2192e-11 → `1.219·10⁻¹¹`. */
function powerOfTen(value: number, digits: number): string {
  const [mantissa, exponent] = value.toExponential(digits - 1).split('e-');
  return `${mantissa}·10⁻${[...exponent!].map((d) => RAISED[d]).join('')}`;
}

/**
 * What a result says, one text for each of its figures or words; none while it is open or void.
 * @param moment how an ISO moment reads here
 * @param digits of a figure that has no reporting increment
 */
export function answerTexts(field: ResultField, r: ResultValue, moment: (iso: string) => string = (iso) => iso, digits?: number): string[] {
  if (r.state !== 'given') return [];
  if (r.words) return r.words.map((word) => field.words?.[word] ?? (field.moments && word !== '' ? moment(word) : word));
  if (r.series)
    return [
      ...alike(
        r.series.map((f) => figureText(f, digits)),
        r.series,
      ),
    ];
  const { unrounded } = r;
  if (unrounded === null) return [];
  const inPlaces = field.places === undefined || r.reported !== null ? null : fixed(exact(unrounded), field.places);
  return [inPlaces ?? figureText({ unrounded, reported: r.reported }, digits)];
}

/** Further apart than this, figures beside each other are each told by their own digits. */
const WIDEST = 1000;
/** More than anybody compares at a glance. */
const MOST_ALIKE = 200;

/** Figures that have no reporting rule, beside each other: all with the places that the largest of them has room for: `37.500`, `32.333`. */
function alike(texts: readonly string[], figures: readonly Figure[]): readonly string[] {
  if (figures.length > MOST_ALIKE) return texts;
  const sizes = texts.map((text) => Math.abs(Number(text))).filter((size) => size > 0);
  if (
    figures.some((f) => f.reported !== null) ||
    !texts.every((text) => PLAIN.test(text)) ||
    Math.max(...sizes) > Math.min(...sizes) * WIDEST
  )
    return texts;
  const places = (text: string): number => PLAIN.exec(text)![1]?.length ?? 0;
  const cut = texts.filter((text, i) => !exact(text).equals(exact(figures[i]!.unrounded)));
  const room = cut.length > 0 ? Math.min(...cut.map(places)) : Math.max(...texts.map(places));
  return figures.map((f) => fixed(exact(f.unrounded), room));
}
const PLAIN = /^-?\d+(?:\.(\d+))?$/;

/** The same in one line, with the unit once. */
export const answerText = (field: ResultField, r: ResultValue, moment?: (iso: string) => string, digits?: number): string => {
  const texts = answerTexts(field, r, moment, digits).filter((text) => text !== '');
  return texts.length === 0 ? '' : `${texts.join(r.words ? '; ' : ', ')} ${unitLabel(r.unit)}`.trimEnd();
};
