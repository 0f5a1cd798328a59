import { decisionOn, decisionWords, type DecisionId } from '../decisions.js';
import { compositeFinding } from './composite.js';
import { correctionFinding } from './correction.js';
import { crossCheckFinding } from './cross-check.js';
import { curingFinding } from './curing.js';
import { deliveredVolumeFinding } from './delivered-volume.js';
import { fieldShareFinding } from './field-share.js';
import type { Finding, FindingAcceptance, FindingDefinition, FindingState, Found } from './finding.js';
import { initialReadingFinding } from './initial-reading.js';
import { instrumentFinding } from './instrument.js';
import { lengthLimitFinding } from './length-limit.js';
import { likelyCauseFinding } from './likely-cause.js';
import type { Line } from './line.js';
import { lowStrengthFinding } from './low-strength.js';
import { loadStandsFinding } from './load-stands.js';
import { loadWcmFinding } from './load-wcm.js';
import { mixAcceptanceFinding } from './mix-acceptance.js';
import { noGainFinding } from './no-gain.js';
import { otherSpecimenFinding } from './other-specimen.js';
import { pairFinding } from './pair.js';
import { replacedFinding } from './replaced.js';
import { sourceStraysFinding } from './source-strays.js';
import { strengthTestFinding } from './strength-test.js';
import { tankFinding } from './tank.js';
import { unansweredFinding } from './unanswered.js';
import { timeInTruckFinding } from './time-in-truck.js';
import { waterOnSiteFinding } from './water-on-site.js';

/** Every kind of finding, each after those that it reads. Adding one is adding a file, its tests, and a line here. */
export const FINDINGS: readonly FindingDefinition[] = [
  deliveredVolumeFinding,
  unansweredFinding,
  replacedFinding,
  compositeFinding,
  timeInTruckFinding,
  loadWcmFinding,
  waterOnSiteFinding,
  pairFinding,
  crossCheckFinding,
  likelyCauseFinding,
  correctionFinding,
  instrumentFinding,
  sourceStraysFinding,
  loadStandsFinding,
  curingFinding,
  otherSpecimenFinding,
  tankFinding,
  noGainFinding,
  strengthTestFinding,
  lowStrengthFinding,
  fieldShareFinding,
  mixAcceptanceFinding,
  initialReadingFinding,
  lengthLimitFinding,
];

export const findingById = (id: string): FindingDefinition | undefined => FINDINGS.find((f) => f.id === id);

/** What somebody’s word does to what waited for it. */
const SETTLES: Readonly<Partial<Record<DecisionId, FindingAcceptance>>> = { counts: 'counts', 'counts-not': 'excluded' };

/** A decision answers what is asked: what it says stands with the finding, and nothing more is to be done. */
function decided(states: Found['states'], words: string): Finding['states'] {
  const answered = (s: FindingState): FindingState => ({
    ...s,
    grade: s.grade === 'asks' ? 'watch' : s.grade,
    says: `${s.says} ${words}`,
    next: [],
  });
  return [answered(states[0]), ...states.slice(1).map(answered)];
}

/**
 * All that is to be said of a line: what several things on it mean together, in the order of what they read. Pure: the server calls
 * it on what stands on record, a page on that with what is being keyed laid over it.
 */
export function findingsOf(line: Line): Finding[] {
  const all: Finding[] = [];
  const before = (finding: string, subjectId?: string): readonly Finding[] =>
    all.filter((f) => f.finding === finding && (subjectId === undefined || f.subjectId === subjectId));
  for (const { id, find } of FINDINGS)
    for (const { subjectId, part = '', states, evidence = [], stoodOn = [], acceptance = null, choices = [], cannot = [] } of find(
      line,
      before,
    )) {
      const decision = choices.length === 0 ? null : decisionOn(line.decisions, { finding: id, subjectId, part });
      all.push({
        finding: id,
        subjectId,
        part,
        states: decision === null ? states : decided(states, decisionWords(decision)),
        evidence,
        stoodOn,
        acceptance: acceptance === 'waits' && decision !== null ? (SETTLES[decision.decided] ?? acceptance) : acceptance,
        choices,
        cannot,
        decision,
      });
    }
  return all;
}
