import { brief, exact, type Exact } from '../numbers/exact.js';

/** One material of a ticket beside what the design wants of it for this volume, in one unit. */
export interface TicketLine {
  readonly name: string;
  readonly design: Exact | null;
  readonly actual: Exact | null;
}

export interface TicketRemark {
  /** Position of the material. */
  readonly at: number;
  /** `off`: worth a look; `far`: hardly so, or one in the other’s place: asked about before it is kept. */
  readonly kind: 'off' | 'far' | 'exchanged';
  readonly says: string;
}

/** Per cent of the design: batching accuracy is 1 to 3 % (ASTM C94, tolerances of scales and batches); moisture moves aggregates by some more. */
const OFF = '5';
const FAR = '20';

/**
 * What of a ticket does not look like its mix: scaled masses far from the design, and two that stand in
 * each other's place. Never refuses: a plant may have batched it so, which is then worth knowing.
 */
export function ticketRemarks(lines: readonly TicketLine[]): TicketRemark[] {
  const share = (actual: Exact, design: Exact): Exact => actual.sub(design).div(design).mul(100);
  const within = (actual: Exact, design: Exact, percent: string): boolean => share(actual, design).abs().compare(exact(percent)) <= 0;
  const found = lines.map((line, at): TicketRemark | null => {
    const { design, actual } = line;
    if (!design || !actual || design.sign() === 0 || within(actual, design, OFF)) return null;
    const by = share(actual, design);
    const how = `${brief(by.abs(), 2)} % ${by.sign() < 0 ? 'less' : 'more'} than the design`;
    if (within(actual, design, FAR)) return { at, kind: 'off', says: `${line.name}: ${how}.` };
    const other = lines.findIndex(
      (l, k) => k !== at && l.design && l.actual && l.design.sign() !== 0 && within(actual, l.design, OFF) && within(l.actual, design, OFF),
    );
    return other >= 0
      ? { at, kind: 'exchanged', says: `${line.name} and ${lines[other]!.name} look exchanged.` }
      : { at, kind: 'far', says: `${line.name}: ${how}.` };
  });
  return found.filter((remark) => remark !== null);
}
