/** What people usually say when they correct a reading. */
export const USUAL_CORRECTIONS: readonly string[] = ['Keyed wrong', 'Read wrong', 'Keyed in the wrong unit', 'Belongs to another test'];

/** Why a result was worked out again although nobody kept a reading of its test, by the cause on record. */
const CAUSES: Readonly<Record<string, string>> = {
  facts: 'Worked out again: something that it stands on was added or amended.',
  kit: 'Worked out again: an instrument that it was made with was found wrong.',
  test: 'Worked out again: a test that it stands on was made or corrected.',
};
/** Of a test that waits to be worked out again. */
export const AGAIN_WORDS = 'Being made again: something that much stands on was changed.';
export const causeWords = (cause: string | null): string | null => (cause === null ? null : (CAUSES[cause] ?? null));

/** Why equipment is used although it is past its calibration, or was found wrong. */
export const USUAL_USES: readonly string[] = [
  'No other one on site',
  'Calibrated, its paper is on the way',
  'Checked against another one today',
];

/** Why what a test found of a source is taken over. */
export const USUAL_ACCEPTANCES: readonly string[] = ['Two tests agree', 'A new face, asked at the pit', 'Tested again by somebody else'];

/** Why a mix is left as it is although its source was found otherwise. */
export const USUAL_LEAVES: readonly string[] = ['Too little to matter', 'The next revision takes it', 'The source is tested again first'];

/** What people usually say when they take back something that was made by mistake. */
export const USUAL_VOIDINGS: readonly string[] = ['Keyed twice', 'Belongs to something else', 'It did not happen', 'Made for practice'];

/** Why something unlikely of a pour, a load or a sample is so. */
export const USUAL_ON_SITE: readonly string[] = [
  'The ticket says so',
  'Whoever may allow it did',
  'More was ordered',
  'The truck had gone',
];

/** What people usually say when they keep a reading that is unlikely. */
export const USUAL_EXPLANATIONS: readonly string[] = [
  'Read again, it is so',
  'The concrete is unusual here',
  'Another instrument was used',
  'The specification allows it',
];
