import type { Evidence } from './finding.js';

/** What is said where nothing speaks against a test, and everything is known of it. */
export const NOTHING_AGAINST: Evidence = {
  about: 'test',
  says: 'Nothing on record speaks against the test: age, size, companions, curing and loading are known, and were as asked.',
};

/** What evidence speaks of, as heads over its parts. */
const HEADS: readonly (readonly [Evidence['about'], string])[] = [
  ['test', 'What speaks against the test'],
  ['concrete', 'What speaks of the concrete'],
  ['unknown', 'What is not known'],
  ['cause', 'Seen'],
];

/** Evidence in its parts, each with its head; empty parts are left out. */
export const evidenceParts = (evidence: readonly Evidence[]): { readonly head: string; readonly says: readonly string[] }[] =>
  HEADS.flatMap(([about, head]) => {
    const says = evidence.filter((e) => e.about === about).map((e) => e.says);
    // What stands first of the test may be that nothing does.
    return says.length === 0 ? [] : [{ head: says.includes(NOTHING_AGAINST.says) ? 'For and against the test' : head, says }];
  });
