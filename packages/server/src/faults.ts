import type { Fault } from '@keen-mortar/contract';

/** What can be done about a fault of a request that is none of a method’s own, by its code. */
const NEXT = {
  'already-read': 'Read it again, then correct it by the id of the reading that stands.',
  'bad-cursor': 'Ask for the first page, and follow the cursor that it gives.',
  broken: 'Give the file again from where it came, whole.',
  'code-taken': 'Leave the code out: it is numbered by itself.',
  'long-ago': 'Key the year with four figures.',
  'needs-fact': 'Key it, then keep it again.',
  'needs-mix': 'Choose the mix that it is placed with.',
  'needs-name': 'Say how it is called.',
  'needs-portion': 'Say when its first portion was taken.',
  'needs-project': 'Name the project: ?project=, its id.',
  'needs-reading': 'Key what was read then.',
  'needs-reason': 'Say why, in a few words.',
  'needs-value': 'Key what it found, with its unit.',
  'needs-why': 'Say why in a few words; the one before stays.',
  'no-change': 'Look at it again: somebody has done so already.',
  'no-gravity': 'Key a specific gravity, or test the source first.',
  'no-revision': 'Look at the time on the ticket, or at the day from which the first revision of the mix counts.',
  'not-a-day': 'Write the year, the month and the day.',
  'not-a-moment': 'Write the day, the time and the offset from UTC.',
  'not-due': 'Read the Day again: it may be done already.',
  'not-issued': 'Leave the code out: it is numbered by itself.',
  'not-on-this': 'Choose one of those that its sheet offers.',
  'not-worked': 'Key the value instead of the readings.',
  'not-yet': 'Correct the date, or the clock of this device.',
  nothing: 'Choose something that was tested, or a longer time.',
  'other-project': 'Choose one of this project.',
  'out-of-order': 'Look at both times, and correct the one that is wrong.',
  'testing-ended': 'Report what was found.',
  'too-early': 'Let it count from that day, or a later one.',
  'too-late': 'Choose an earlier day.',
  'too-long': 'Shorten it.',
  'too-many': 'Take one away first.',
  twice: 'Leave one of the two out.',
  unknown: 'Choose one that is on record.',
  'unknown-age': 'Ask for one of these ages.',
  'unknown-choice': 'Choose one of those that the form offers.',
  'unknown-field': 'Use the readings that the method names.',
  'unknown-method': 'Choose one of /api/v1/methods.',
  'unknown-person': 'Choose somebody who is here, or make them known first.',
  'unknown-variant': 'Choose one of those that the method names.',
  voided: 'Put it right again first, or use another.',
  'wrong-kind': 'Choose one of the right kind.',
  'wrong-place': 'Make it in one of these.',
  'wrong-retest': 'Name the test that it repeats, or none.',
  'wrong-unit': 'Choose a unit that fits.',
} as const;

export type FaultCode = keyof typeof NEXT;

/** A fault says what can be done about it. */
export type ToldFault = Fault & { readonly next: string };

/** A fault at one place, with what can be done about it. @param next what can be done, where it is not the usual */
export const fault = (code: FaultCode, path: string, message: string, next: string = NEXT[code]): ToldFault => ({
  code,
  path,
  message,
  next,
});
