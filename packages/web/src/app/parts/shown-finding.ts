import { findingById, stateAt, type Finding } from '@keen-mortar/core';
import type { ShownFinding } from './findings';

/** What was found here of what is in hand, as the server would show it. @param now ms */
export function shownFinding(f: Finding, now: number): ShownFinding {
  const { grade, says, next } = stateAt(f, now);
  return {
    ...f,
    title: findingById(f.finding)?.title ?? f.finding,
    grade,
    says,
    next: [...next],
    evidence: [...f.evidence],
    choices: [...f.choices],
  };
}
