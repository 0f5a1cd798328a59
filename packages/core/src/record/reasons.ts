/** What people usually say when they correct a reading. */
export const USUAL_CORRECTIONS: readonly string[] = ['Keyed wrong', 'Read wrong', 'Keyed in the wrong unit', 'Belongs to another test'];

/** What people usually say when they take back something that was made by mistake. */
export const USUAL_VOIDINGS: readonly string[] = ['Keyed twice', 'Belongs to something else', 'It did not happen', 'Made for practice'];

/** What people usually say when they keep a reading that is unlikely. */
export const USUAL_EXPLANATIONS: readonly string[] = [
  'Read again, it is so',
  'The concrete is unusual here',
  'Another instrument was used',
  'The specification allows it',
];
