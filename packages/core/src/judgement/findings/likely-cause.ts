import { exact } from '../../numbers/exact.js';
import { designWcm, ticketOf } from '../../record/ticket.js';
import { diagnose, SIGN_WORDS, USUAL_WITHIN, type Diagnosis, type Level, type Sign, type Signs } from '../diagnosis.js';
import { always, because, finding, type Found, type FoundBefore } from './finding.js';
import { itemsOf, testsOf, type Line, type LineItem } from './line.js';
import { loadsOf, newestOf, type FoundResult } from './load.js';
import { wcmOf } from './load-wcm.js';
import { checksOf } from './cross-check.js';

/** High or low by what the specification allows; usual where it is inside. */
function level(f: FoundResult | null): Level | undefined {
  if (!f?.verdict || f.verdict.state === 'unjudged' || f.verdict.state === 'open') return undefined;
  if (f.verdict.state !== 'out') return 'usual';
  return f.verdict.side === 'lower' ? 'low' : 'high';
}

/** A figure beside what it ought to be: further than `within` above or below. */
function beside(value: string | null | undefined, ought: string, within: string): Level | undefined {
  if (!value) return undefined;
  const off = exact(value).sub(exact(ought));
  return off.abs().compare(exact(within)) <= 0 ? 'usual' : off.sign() > 0 ? 'high' : 'low';
}

function signsOf(line: Line, sample: LineItem, load: LineItem | undefined, before: FoundBefore): Signs {
  const tests = testsOf(line, sample).filter((t) => t.state !== 'void');
  const [slump, air, density, relative, temperature] = ['slump', 'air', 'density', 'relative-yield', 'temperature'].map((p) =>
    newestOf(tests, p),
  ) as [FoundResult | null, FoundResult | null, FoundResult | null, FoundResult | null, FoundResult | null];
  const checks = checksOf(line, sample);
  const off = checks.find((c) => c.code === 'density-off-mix');
  const both = air && newestOf(tests, 'air-gravimetric');
  const design = line.revision && designWcm(line.revision.ingredients);
  const wcm = load && wcmOf(line, load).results.find((r) => r.id === 'wcm')?.exact;
  const truck = load ? before('time-in-truck', load.id)[0]?.states[0].grade : undefined;
  const signs: { [K in keyof Signs]: Signs[K] | undefined } = {
    slump: level(slump),
    air: level(air),
    density: off ? (off.params['side'] === 'less' ? 'low' : 'high') : (level(density) ?? (density ? 'usual' : undefined)),
    yield: beside(relative?.result.exact, '1', USUAL_WITHIN.yield),
    wcm: design ? beside(wcm, design, USUAL_WITHIN.wcm) : undefined,
    temperature: level(temperature),
    timeInTruck: truck === 'out' ? 'high' : truck === 'fine' ? 'usual' : undefined,
    airs: both ? (checks.some((c) => c.code === 'airs-disagree') ? 'apart' : 'agree') : undefined,
  };
  return Object.fromEntries(Object.entries(signs).filter(([, sign]) => sign !== undefined));
}

/** What speaks for a cause, what against it, and what is not known: so that nobody takes it for a verdict. */
function evidenceOf(d: Diagnosis): string[] {
  const words = (signs: readonly Sign[]): string => signs.map((sign) => SIGN_WORDS[sign]).join(', ');
  const capital = (text: string): string => text.replace(/^[a-z]/, (c) => c.toUpperCase());
  return [
    `${capital(d.supports.map((sign) => `${SIGN_WORDS[sign]} ${d.signs[sign] ?? ''}`.trim()).join(', '))}.`,
    ...(d.against.length > 0 ? [`Against it: ${words(d.against)}.`] : []),
    ...(d.unknown.length > 0 ? [`Not known: ${words(d.unknown)}.`] : []),
  ];
}

/** What is asked for is asked of somebody: what is on record already is not. */
function askedFor(ask: string, load: LineItem | undefined): string[] {
  const ticket = ticketOf(load?.facts ?? ({} as LineItem['facts']));
  const damp = ticket.materials.filter((m) => m.role === 'fine' || m.role === 'coarse');
  const onRecord: Readonly<Record<string, boolean>> = {
    ticket: ticket.materials.length > 0,
    'moisture test': damp.length > 0 && damp.every((m) => m.moisture !== undefined),
    'driver’s additions': ticket.water.length > 0,
    times: true,
  };
  const left = ask.split(', ').filter((what) => onRecord[what] !== true);
  return left.length === 0 ? [] : [`Ask for: ${left.join(', ')}.`];
}

export const likelyCauseFinding = finding({
  id: 'likely-cause',
  title: 'Likely causes',
  about: 'What the results of a sample, seen together, look like; each with what speaks for and against it. Offered, never a verdict.',
  reads: 'Results and their verdicts, cross-checks, w/cm of the load, time in the truck.',
  follows: [],
  beside: 'diagnosis',
  find: (line, before) => {
    const loads = loadsOf(line);
    return itemsOf(line, 'sample').flatMap((sample) => {
      const load = loads.find((l) => l.id === sample.parentId);
      return diagnose(signsOf(line, sample, load, before)).map((d): Found => ({
        subjectId: sample.id,
        part: d.id,
        states: always('watch', `Likely: ${d.likely}.`, askedFor(d.ask, load)),
        evidence: because(evidenceOf(d)),
      }));
    });
  },
});
