/** What somebody may decide where the figures alone do not settle it. */
export const DECISIONS = {
  accepted: { label: 'Accepted as it is', says: 'Accepted as it is', does: 'stays out of its limits, and in the work' },
  rejected: { label: 'Rejected', says: 'Rejected', does: 'does not go into the work' },
  counts: { label: 'It counts, as tested', says: 'Counts', does: 'keeps its remark, and counts from then on' },
  'counts-not': { label: 'It does not count', says: 'Does not count', does: 'stays on record, and counts for nothing' },
  cores: { label: 'Cores decide', says: 'Waits for cores', does: 'waits until cores were tested' },
  again: { label: 'Test again', says: 'To be tested again', does: 'waits until it was tested again' },
} as const;

export type DecisionId = keyof typeof DECISIONS;

export const DECISION_IDS = Object.keys(DECISIONS) as [DecisionId, ...DecisionId[]];

/**
 * Somebody's word on a finding, on record: an original. One that is taken back stays, with the reason; of several that stand
 * the newest counts.
 */
export interface Decision {
  readonly id: string;
  readonly finding: string;
  readonly subjectId: string;
  readonly part: string;
  readonly decided: DecisionId;
  /** Who decided, with their firm where they are of another. */
  readonly who: string;
  readonly why: string;
  /** By which paper; null where none was given. */
  readonly paper: string | null;
  readonly at: string;
  /** Why it was taken back; null while it stands. */
  readonly takenBack: string | null;
}

/** The decision that stands on a finding; null where nobody decided, or it was taken back. */
export const decisionOn = (
  decisions: readonly Decision[],
  about: { readonly finding: string; readonly subjectId: string; readonly part: string },
): Decision | null =>
  [...decisions]
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
    .findLast((d) => d.takenBack === null && d.finding === about.finding && d.subjectId === about.subjectId && d.part === about.part) ??
  null;

/** `Accepted as it is by C. Pendry-Vale (HC-77): the deck is not loaded before 28 days.` */
export const decisionWords = ({ decided, who, why, paper }: Pick<Decision, 'decided' | 'who' | 'why' | 'paper'>): string =>
  `${DECISIONS[decided].says}, says ${who}${paper === null ? '' : ` (${paper})`}: ${why.replace(/[.\s]+$/, '')}.`;
