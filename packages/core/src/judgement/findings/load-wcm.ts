import { judgeAll } from '../../limits/verdict.js';
import { actualWcm } from '../../methods/mix/actual-wcm.js';
import { evaluate, type Evaluation } from '../../methods/evaluate.js';
import { ticketInputs, ticketOf, waterWords } from '../../record/ticket.js';
import { guidance } from '../guidance.js';
import { always, because, finding, type Found } from './finding.js';
import type { Line, LineItem } from './line.js';
import { limitsWords, loadsOf } from './load.js';

/** w/cm of a load as it was batched, and with the water that was added. */
export const wcmOf = (line: Pick<Line, 'project'>, load: Pick<LineItem, 'facts'>): Evaluation =>
  evaluate(actualWcm, ticketInputs(ticketOf(load.facts)), { variant: 'ticket', system: line.project.system });

const REJECTED_BY = 'No water any more. Tell whoever may reject the load, before it is placed.';

function ofLoad(line: Line, load: LineItem): Found[] {
  const e = wcmOf(line, load);
  const wcm = e.results.find((r) => r.id === 'wcm' && r.state === 'given');
  if (!wcm) return [];
  const { water } = ticketOf(load.facts);
  const as = water.length === 0 ? 'as batched' : `with ${waterWords(water)} added on site`;
  const limits = limitsWords(line, 'wcm');
  const says = `w/cm ${wcm.reported ?? ''} ${as}${limits === '' ? '' : `; ${limits} is asked`}.`;
  const out = guidance(actualWcm, e, judgeAll(actualWcm, e, line.specifications)).filter((t) => t.code === 'out');
  if (out.length === 0) return [{ subjectId: load.id, states: always('fine', says) }];
  const own = out.flatMap((t) => t.next.slice(0, t.source === undefined ? 0 : 1));
  return [
    {
      subjectId: load.id,
      states: always('out', says, [...new Set([REJECTED_BY, ...own])]),
      evidence: because(out.map((t) => t.says)),
    },
  ];
}

export const loadWcmFinding = finding({
  id: 'load-wcm',
  title: 'w/cm of the load',
  about: 'Water batched, added on site and free in the aggregates over what was weighed of cementitious material, against its limit.',
  reads: 'Batch weights with moistures, water added on site, and limits of w/cm.',
  follows: actualWcm.follows,
  beside: 'load',
  find: (line) => loadsOf(line).flatMap((load) => ofLoad(line, load)),
});
