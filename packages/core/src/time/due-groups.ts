/** Where the work of a day is done, in its order. */
export const DUE_GROUPS = {
  pour: 'At the pour',
  press: 'Press',
  curing: 'Curing',
  bench: 'Bench',
  long: 'Long runs',
  kit: 'Kit and people',
} as const;
export type DueGroup = keyof typeof DUE_GROUPS;

/** What is done, within a sentence: `drain, towel to SSD, weigh`; what is written in capitals stays so. */
export const withinSentence = (label: string): string =>
  /^\p{Lu}{2}/u.test(label) ? label : `${label.slice(0, 1).toLowerCase()}${label.slice(1)}`;
