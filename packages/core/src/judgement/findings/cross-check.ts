import { nextStep, say } from '../../problems.js';
import { gravityDays, ticketOf, waterWords } from '../../record/ticket.js';
import { crossCheckAir, crossCheckDensity, crossCheckYield, type CrossCheck } from '../cross-checks.js';
import { always, because, finding, type Found } from './finding.js';
import { itemsOf, testsOf, type Line, type LineItem } from './line.js';
import { newestOf, type FoundResult } from './load.js';

const DAY = 86_400_000;

const daysSince = (from: string | null | undefined, to: string): number | null =>
  from ? Math.round((Date.parse(to) - Date.parse(from)) / DAY) : null;

/** Days since the instrument was calibrated that entered a result; null: not known. */
const kitAge = (f: FoundResult | null): number | null =>
  f === null ? null : daysSince(f.test.kit.find((k) => k.kind === f.test.method.kit)?.calibratedOn, f.test.startedAt);

/** When the sample was begun: its first portion. */
export const begunAt = (sample: LineItem): string =>
  ((sample.facts as { portions?: readonly { at: string }[] }).portions ?? []).map((p) => p.at).sort()[0] ?? sample.at;

/** Results of a sample that do not fit together, and the causes that are likely, the likeliest first. */
export function checksOf(line: Line, sample: LineItem): readonly CrossCheck[] {
  const tests = testsOf(line, sample).filter((t) => t.state !== 'void');
  const [meter, weighed, density, relative] = ['air', 'air-gravimetric', 'density', 'relative-yield'].map((p) => newestOf(tests, p));
  const load = line.items.find((i) => i.id === sample.parentId && i.kind === 'load');
  const { water } = ticketOf(load?.facts ?? sample.facts);
  const fromDesign = weighed?.test.outcome?.notes.some((n) => n.code === 'air-free-from-design') ?? false;
  const airFree = weighed?.test.outcome?.results.find((r) => r.id === 'airFree' && r.state === 'given');
  const checks = [
    meter?.result.exact && weighed?.result.exact
      ? crossCheckAir({
          pressure: meter.result.exact,
          gravimetric: weighed.result.exact,
          meterAge: kitAge(meter),
          measureAge: kitAge(weighed),
          gravitiesAge: gravityDays(line.revision?.ingredients ?? [], Date.parse(begunAt(sample))),
          correction: line.revision?.correction !== undefined,
          fromDesign,
          waterAdded: water.length === 0 ? null : waterWords(water),
        })
      : null,
    // The same air twice is no second opinion: only a meter's air checks the density.
    meter?.result.exact && density?.result.exact && airFree?.exact && airFree.unit === density.result.unit
      ? crossCheckDensity({
          density: density.result.exact,
          theoretical: airFree.exact,
          airPercent: meter.result.exact,
          unit: density.result.unit,
        })
      : null,
    relative?.result.exact ? crossCheckYield(relative.result.exact) : null,
  ];
  return checks.filter((check) => check !== null);
}

export const crossCheckFinding = finding({
  id: 'cross-check',
  title: 'Results that do not fit together',
  about: 'Pressure against gravimetric air, density against what the mix should weigh at its air, yield against the ticket.',
  reads: 'The newest results of a sample, the ticket, the mix’s gravities and correction factor, and calibrations.',
  follows: [],
  beside: 'seen',
  find: (line) =>
    itemsOf(line, 'sample').flatMap((sample) =>
      checksOf(line, sample).map(({ code, params, causes }): Found => {
        const next = nextStep(code, params);
        return {
          subjectId: sample.id,
          part: code,
          states: always('watch', say(code, params), next === null ? [] : [next]),
          evidence: because(causes.map((cause) => say(cause.code, cause.params))),
        };
      }),
    ),
});
