import { PI } from '../numbers/constants.js';
import { exact, shown, toStep } from '../numbers/exact.js';
import { Exact } from '../numbers/value.js';
import { normalShare, studentShare } from '../numbers/distributions.js';
import { naturalLog, powerOfTen, root } from '../numbers/transcendental.js';
import { unitLabel, type UnitId } from '../units/units.js';

/**
 * The arithmetic that a method's body is written in. The body is written once and run by one of
 * two interpreters: {@link plain} computes; {@link recording} computes the same and keeps what it
 * did, so that the working can never drift from the formula.
 */
export interface Calc<V> {
  /** A value read elsewhere, entering the arithmetic under its symbol, in `unit`. */
  enter(symbol: string, value: Exact, unit: UnitId): V;
  /** A number printed in the method, e.g. 100 or 27. */
  num(text: string): V;
  add(a: V, b: V): V;
  sub(a: V, b: V): V;
  mul(a: V, b: V): V;
  div(a: V, b: V): V;
  sum(values: readonly V[]): V;
  /** Of at least one value. */
  mean(values: readonly V[]): V;
  /** √, ln or 10^ of a value, to 40 digits; the share below it of a normal (Φ) or of Student’s t. */
  apply(f: Transcendental, v: V): V;
  /** Gives an intermediate or a result its symbol: one line of the working. */
  name(symbol: string, value: V, unit: UnitId): V;
  /** Rounding inside a formula: only where the variant says so, and the line says so too. */
  round(symbol: string, value: V, step: string, unit: UnitId): V;
  value(v: V): Exact;
}

/** `T6`: Student’s t with six degrees of freedom. */
export type Transcendental = '√' | 'ln' | '10^' | 'Φ' | `T${number}`;

const FUNCTIONS: Readonly<Record<string, (x: Exact) => Exact>> = { '√': root, ln: naturalLog, '10^': powerOfTen, Φ: normalShare };

const applied = (f: Transcendental, x: Exact): Exact => FUNCTIONS[f]?.(x) ?? studentShare(x, Number(f.slice(1)));

export const plain: Calc<Exact> = {
  enter: (_symbol, value) => value,
  num: exact,
  add: (a, b) => a.add(b),
  sub: (a, b) => a.sub(b),
  mul: (a, b) => a.mul(b),
  div: (a, b) => a.div(b),
  sum: (values) => Exact.sum(values),
  mean: (values) => Exact.mean(values),
  apply: applied,
  name: (_symbol, value) => value,
  round: (_symbol, value, step) => toStep(value, exact(step)),
  value: (v) => v,
};

/** One line of the working, ready to be set as type: `symbol = symbols = numbers = value unit`. */
export interface WorkingLine {
  readonly kind: 'reading' | 'formula' | 'rounding' | 'left-out';
  readonly symbol: string;
  readonly symbols: string;
  readonly numbers: string;
  readonly value: string;
  readonly unit: string;
}

/** A line for people: figures that go on (`2285.9577…` as recorded) stand to eight digits, behind the sign that says so. */
export const lineText = ({ numbers, value }: WorkingLine): { numbers: string; value: string; sign: '=' | '≈' } => ({
  numbers: numbers.replace(GOES_ON, '$1'),
  value: value.replace(GOES_ON, '$1'),
  sign: /\d…/.test(value) ? '≈' : '=',
});
const GOES_ON = /(\d)…/g;

/** The same in one line, for paper. */
export function lineWords(line: WorkingLine): string {
  const { numbers, value, sign } = lineText(line);
  const end = `${value} ${line.unit}`.trim();
  if (line.kind === 'left-out') return line.symbols;
  if (line.kind === 'rounding') return `${line.symbol} ${line.symbols}: ${line.value} ${line.unit}`.trim();
  if (line.kind === 'reading') return `${line.symbol} = ${numbers} ${sign} ${end}`;
  const formula = line.symbols === line.numbers || line.symbols === line.symbol ? '' : ` = ${line.symbols}`;
  return `${line.symbol}${formula}${line.numbers === line.value ? '' : ` = ${numbers}`} ${sign} ${end}`;
}

interface Recorded {
  readonly value: Exact;
  /** As written with symbols, and with the numbers in place. */
  readonly symbols: string;
  readonly numbers: string;
  /** Binding strength of the outermost operator: 1 sum, 2 product, 3 atom. */
  readonly binds: 1 | 2 | 3;
}

type Operator = '+' | '−' | '·' | '/';

const wrap = (text: string, wrapped: boolean): string => (wrapped ? `(${text})` : text);

function combine(a: Recorded, operator: Operator, b: Recorded, value: Exact): Recorded {
  const binds = operator === '+' || operator === '−' ? 1 : 2;
  const left = a.binds < binds;
  // a − (b + c) and a / (b · c) need their brackets, a + (b + c) does not.
  const right = b.binds < binds || (b.binds === binds && (operator === '−' || operator === '/'));
  const join = (x: string, y: string): string => `${wrap(x, left)} ${operator} ${wrap(y, right)}`;
  return { value, symbols: cut(join(a.symbols, b.symbols)), numbers: cut(join(a.numbers, b.numbers)), binds };
}

/** A sum of more terms than this is written by its first and last ones: nobody reads on. */
const MOST_TERMS = 8;
/** Longest side of a line of the working; what is longer is cut. */
const LONGEST = 600;

const cut = (text: string): string => (text.length > LONGEST ? `${text.slice(0, LONGEST)} …` : text);

const negativeAware = (text: string): string => (text.startsWith('-') ? `(−${text.slice(1)})` : text);

/** So many lines of working at the most; then one says how many more there were. */
const MOST_LINES = 150;

/** Lines of a working, of which the first are kept. */
/** A symbol as it stands in a formula, without brackets and what is applied to it. */
const bare = (symbol: string): string => symbol.replace(/^.*\(|\)+$/g, '');

export class Working {
  readonly lines: WorkingLine[] = [];
  private left = 0;

  push(line: WorkingLine): void {
    if (this.lines.length < MOST_LINES) this.lines.push(line);
    else this.left++;
  }

  /** What is shown: the lines, and how many were left out. A reading that only a check looked at is no step of it. */
  whole(): WorkingLine[] {
    const used = new Set(this.lines.flatMap(({ kind, symbols }) => (kind === 'formula' ? symbols.split(' ').map(bare) : [])));
    const named = new Set(this.lines.flatMap(({ kind, symbol }) => (kind === 'reading' ? [] : [symbol])));
    const lines = this.lines.filter(
      ({ kind, symbol }) => kind !== 'reading' || this.left > 0 || named.has(symbol) || used.has(bare(symbol)),
    );
    if (this.left === 0) return lines;
    return [...lines, { kind: 'left-out', symbol: '', symbols: `and ${this.left} more`, numbers: '', value: '', unit: '' }];
  }
}

/** Computes like {@link plain} and appends a line to `lines` for each named value. */
export function recording(lines: Pick<Working, 'push'>): Calc<Recorded> {
  const atom = (symbols: string, value: Exact, text = shown(value)): Recorded => ({
    value,
    symbols,
    numbers: negativeAware(text),
    binds: 3,
  });
  const num = (text: string): Recorded => (text === PI ? atom('π', exact(PI)) : atom(text, exact(text)));
  const div = (a: Recorded, b: Recorded): Recorded => combine(a, '/', b, a.value.div(b.value));
  const sum = (values: readonly Recorded[]): Recorded => {
    if (values.length <= MOST_TERMS)
      return values.length === 0 ? num('0') : values.reduce((total, v) => combine(total, '+', v, total.value.add(v.value)));
    const [first, last, left] = [values.slice(0, 3), values.at(-1)!, values.length - 4];
    const written = (of: (v: Recorded) => string): string => `${first.map(of).join(' + ')} + … and ${left} more … + ${of(last)}`;
    return {
      value: Exact.sum(values.map((v) => v.value)),
      symbols: cut(written((v) => v.symbols)),
      numbers: cut(written((v) => v.numbers)),
      binds: 1,
    };
  };
  return {
    enter: (symbol, value) => atom(symbol, value),
    num,
    add: (a, b) => combine(a, '+', b, a.value.add(b.value)),
    sub: (a, b) => combine(a, '−', b, a.value.sub(b.value)),
    mul: (a, b) => combine(a, '·', b, a.value.mul(b.value)),
    div,
    sum,
    mean: (values) => div(sum(values), num(String(values.length))),
    apply: (f, v) => ({ value: applied(f, v.value), symbols: `${f}(${v.symbols})`, numbers: `${f}(${v.numbers})`, binds: 3 }),
    name(symbol, v, unit) {
      const text = shown(v.value);
      lines.push({ kind: 'formula', symbol, symbols: v.symbols, numbers: v.numbers, value: text, unit: unitLabel(unit) });
      return atom(symbol, v.value, text);
    },
    round(symbol, v, step, unit) {
      const value = toStep(v.value, exact(step));
      lines.push({ kind: 'rounding', symbol, symbols: v.symbols, numbers: shown(v.value), value: shown(value), unit: unitLabel(unit) });
      return atom(symbol, value);
    },
    value: (v) => v.value,
  };
}
