import { exact, reported as reportedText, type Exact } from '../../numbers/exact.js';

/** Per cents are whole; of the 75 µm sieve to 0.1 below 10 %. */
export interface PassingRule {
  readonly step: string;
  readonly fineOpening: string;
  readonly fineBelow: string;
  readonly fineStep: string;
}

export const PASSING_RULE: PassingRule = { step: '1', fineOpening: '0.075', fineBelow: '10', fineStep: '0.1' };

/** What passes a sieve, as it is reported. @param opening mm */
export function reportedPassing(value: Exact, opening: Exact, rule: PassingRule): string {
  const fine = value.compare(exact(rule.fineBelow)) < 0 && opening.equals(exact(rule.fineOpening));
  return reportedText(value, fine ? rule.fineStep : rule.step);
}
