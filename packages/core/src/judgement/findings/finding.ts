import type { Citation } from '../../methods/definition.js';
import type { Decision, DecisionId } from '../decisions.js';
import type { Line } from './line.js';

/**
 * How pressing a finding is, the least first. `fine`: as asked; `open`: something is not known yet, or is to be done; `watch`:
 * something strayed, and stands; `asks`: somebody has to decide; `out`: a requirement is not met; `void`: it counts for nothing.
 */
export const FINDING_GRADES = ['fine', 'open', 'watch', 'asks', 'out', 'void'] as const;
export type FindingGrade = (typeof FINDING_GRADES)[number];

/** What a finding says from a moment on. */
export interface FindingState {
  /** ISO; null: from the start. */
  readonly from: string | null;
  readonly grade: FindingGrade;
  readonly says: string;
  /** What can be done about it, in order. */
  readonly next: readonly string[];
}

/** What it does to the acceptance of the concrete: it counts, waits until somebody decides, or is left out. */
export type FindingAcceptance = 'counts' | 'waits' | 'excluded';

/** What speaks for a finding. Of a strength test: against the test, of the concrete, or what nobody read. */
export interface Evidence {
  readonly about: 'cause' | 'test' | 'concrete' | 'unknown';
  readonly says: string;
}

/** A decision that is not to be had, and why. */
export interface Cannot {
  readonly decided: DecisionId;
  readonly why: string;
}

/** What several things on record mean together, about one subject. */
export interface Finding {
  readonly finding: string;
  /** The item, mix, source or instrument that it is about. */
  readonly subjectId: string;
  /** Which of several of its kind on one subject: a method, a property at an age; empty where there is one. */
  readonly part: string;
  /** In order of their moments; the first from the start. */
  readonly states: readonly [FindingState, ...FindingState[]];
  readonly evidence: readonly Evidence[];
  /** What it stands on: ids of items and tests. */
  readonly stoodOn: readonly string[];
  readonly acceptance: FindingAcceptance | null;
  /** What may be decided, where it asks; empty where nothing is. */
  readonly choices: readonly DecisionId[];
  /** What would be decided elsewhere, and cannot be here. */
  readonly cannot: readonly Cannot[];
  /** The decision that stands on it. */
  readonly decision: Decision | null;
}

/** What a definition gives of a finding; the rest is added by {@link findingsOf}. */
export interface Found extends Pick<Finding, 'subjectId'> {
  readonly part?: string;
  readonly states: Finding['states'];
  readonly evidence?: readonly Evidence[];
  readonly stoodOn?: readonly string[];
  readonly acceptance?: FindingAcceptance;
  readonly choices?: readonly DecisionId[];
  readonly cannot?: readonly Cannot[];
}

/** What was found already on the same line, by the findings that come before. */
export type FoundBefore = (finding: string, subjectId?: string) => readonly Finding[];

/** What somebody looks at beside a test, in that order. */
export const BESIDE = {
  load: 'The load',
  pair: 'With its other tests',
  seen: 'Seen so far',
  diagnosis: 'Likely causes',
} as const;
export type Beside = keyof typeof BESIDE;

/** A kind of finding, declared once: of what it speaks, what it reads, and how it is found. Pure. */
export interface FindingDefinition {
  readonly id: string;
  readonly title: string;
  /** For its page: of what it speaks, and what it reads. */
  readonly about: string;
  readonly reads: string;
  readonly follows: readonly Citation[];
  /** Where it stands beside a test that is in hand; nowhere, where it says nothing about a test. */
  readonly beside?: Beside;
  /** It hangs on more than lies on the line: what is in hand changes nothing of it, and only the record gives it. */
  readonly ofRecord?: true;
  readonly find: (line: Line, before: FoundBefore) => readonly Found[];
}

export const finding = (definition: FindingDefinition): FindingDefinition => definition;

/** A state that holds from the start. */
export const always = (grade: FindingGrade, says: string, next: readonly string[] = []): [FindingState] => [
  { from: null, grade, says, next },
];

/** Plain evidence: a sentence each. */
export const because = (sentences: readonly string[]): Evidence[] => sentences.map((says) => ({ about: 'cause', says }));

/** The state that holds at a moment, ms: the row keeps the moments, and every reader picks by the server's clock. */
export const stateAt = ({ states }: Pick<Finding, 'states'>, now: number): FindingState =>
  states.findLast((s) => s.from === null || Date.parse(s.from) <= now) ?? states[0];

/** Worst first: what a list shows where it has room for one. */
export const pressing = (a: FindingGrade, b: FindingGrade): number => FINDING_GRADES.indexOf(b) - FINDING_GRADES.indexOf(a);

/** Said in lists, beside tests and on papers: it wants somebody, or something is not as asked. What only runs has its clock. */
export const isTold = ({ grade, next }: Pick<FindingState, 'grade' | 'next'>): boolean =>
  grade !== 'fine' && (grade !== 'open' || next.length > 0);
