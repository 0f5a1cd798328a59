import { exact, type Exact } from '../numbers/exact.js';

/** A sieve as it is printed (ASTM E11): opening in mm, and the names by which people call it. */
interface Sieve {
  readonly opening: string;
  readonly names: readonly string[];
}

/** ASTM E11-22, table of nominal openings with their alternative designations. */
export const SIEVES: readonly Sieve[] = [
  { opening: '100', names: ['4 in'] },
  { opening: '90', names: ['3 1/2 in'] },
  { opening: '75', names: ['3 in'] },
  { opening: '63', names: ['2 1/2 in'] },
  { opening: '50', names: ['2 in'] },
  { opening: '37.5', names: ['1 1/2 in'] },
  { opening: '25.0', names: ['1 in'] },
  { opening: '19.0', names: ['3/4 in'] },
  { opening: '12.5', names: ['1/2 in'] },
  { opening: '9.5', names: ['3/8 in'] },
  { opening: '6.3', names: ['1/4 in'] },
  { opening: '4.75', names: ['No. 4'] },
  { opening: '2.36', names: ['No. 8'] },
  { opening: '2.00', names: ['No. 10'] },
  { opening: '1.18', names: ['No. 16'] },
  { opening: '0.850', names: ['No. 20'] },
  { opening: '0.600', names: ['No. 30'] },
  { opening: '0.425', names: ['No. 40'] },
  { opening: '0.300', names: ['No. 50'] },
  { opening: '0.150', names: ['No. 100'] },
  { opening: '0.075', names: ['No. 200'] },
];

/** Rows of a sheet that are no sieve: what fell through, and a sum that somebody wrote under it. */
export type NoSieve = 'pan' | 'total';

const NUMBERED = /^(?:no\.?|nr\.?|number|#)\s*(\d{1,3})$/i;
const INCHES = /^(\d+(?:[ -]+\d\/\d)?|\d\/\d|\d+\.\d+)\s*(?:in\.?|inch|inches|["″”])$/i;

const plainly = (name: string): string => name.toLowerCase().replace(/[\s.-]/g, '');

const byName = new Map(SIEVES.flatMap(({ opening, names }) => names.map((name) => [plainly(name), opening])));
/** Inches as decimals: 0.375 in is the 3/8 in sieve. */
const DECIMALS: Readonly<Record<string, string>> = {
  '0.25': '1/4',
  '0.375': '3/8',
  '0.5': '1/2',
  '0.75': '3/4',
  '1.5': '1 1/2',
  '2.5': '2 1/2',
  '3.5': '3 1/2',
};

/** Opening of a sieve called by its name, in mm: `No. 4`, `#200`, `3/8 in`, `1 1/2"`; null for anything else. */
export function sieveNamed(text: string): Exact | null {
  const trimmed = text.trim();
  const number = NUMBERED.exec(trimmed)?.[1];
  const inches = INCHES.exec(trimmed)?.[1];
  const name = number !== undefined ? `no${number}` : inches !== undefined ? plainly(`${DECIMALS[inches] ?? inches} in`) : null;
  const opening = name === null ? undefined : byName.get(name);
  return opening === undefined ? null : exact(opening);
}

/** Whether a row is the pan or a sum, by what stands where a sieve would. */
export function notASieve(text: string): NoSieve | null {
  // What begins with a figure is an opening: nearly every row.
  if (/^\s*\d/.test(text)) return null;
  const word = plainly(text);
  if (/^(pan|bottom|passingpan|inthepan)$/.test(word)) return 'pan';
  return /^(total|sum|totalmass|σ)$/.test(word) ? 'total' : null;
}

/** Stacks that are usual, coarsest first, mm. */
export const STACKS: Readonly<Record<string, { readonly label: string; readonly openings: readonly string[] }>> = {
  fine: { label: 'Fine aggregate', openings: ['9.5', '4.75', '2.36', '1.18', '0.600', '0.300', '0.150', '0.075'] },
  '57': { label: 'Coarse, 25 to 4.75 mm', openings: ['37.5', '25.0', '19.0', '12.5', '9.5', '4.75', '2.36'] },
  '67': { label: 'Coarse, 19 to 4.75 mm', openings: ['25.0', '19.0', '12.5', '9.5', '4.75', '2.36'] },
  '467': { label: 'Coarse, 37.5 to 4.75 mm', openings: ['50', '37.5', '25.0', '19.0', '12.5', '9.5', '4.75', '2.36'] },
};
