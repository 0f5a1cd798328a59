/** Numbers and names that a sentence needs, as text. */
export type Params = Readonly<Record<string, string>>;

type Words = (p: Params) => string;

/** Whether a marked test counts for acceptance: yes, if the engineer agrees, or no. */
export type Counts = 'yes' | 'ask' | 'no';

interface Said {
  readonly says: Words;
  /** What a technician can do about it. */
  readonly next?: string | Words;
  /** No further test of the same sample: its next step is another one. */
  readonly ends?: true;
  /** Said of a void test too: it is about the sample or the concrete, not about a result. */
  readonly whenVoid?: true;
}

/** What marks a test says whether it counts, and by what. */
export type Entry = Said & ({ readonly counts: Counts; readonly by: string } | { readonly counts?: undefined; readonly by?: undefined });

export const at = (p: Params, key: string): string => p[key] ?? '';

export const got = (p: Params): string => `${p['got'] ?? ''}${p['gotUnit'] ? ` ${p['gotUnit']}` : ''}`;

/** `between 4 and 41 °C`, both ends included; `above 0 and at most 500 kg` where one is not. */
export function range(p: Params): string {
  const unit = p['unit'] ? ` ${p['unit']}` : '';
  const { least, above, most } = p;
  if (least !== undefined && most !== undefined) return `between ${least} and ${most}${unit}`;
  if (above !== undefined) return `above ${above}${most === undefined ? '' : ` and at most ${most}`}${unit}`;
  return least !== undefined ? `at least ${least}${unit}` : `at most ${most ?? ''}${unit}`;
}
