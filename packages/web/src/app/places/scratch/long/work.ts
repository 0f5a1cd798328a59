import { evaluate, methodById, say, simulatedSeries, statisticsOf, type AnyInputs, type Evaluation, type Shape } from '@keen-mortar/core';
import { drawnIn, figureOf } from '../drawn';
import { rowsFrom } from '../table-paste';
import type { AnswerOf, CurveJob, Job, SeriesJob } from './jobs';
import { pictureOf, saidOf } from './picture';

type Tell = (share: number, doing: string) => void;

const MOST_DRAWN = 1200;
const MOST_FAULTS = 12;

/** What the worker does; apart from the worker, so that it can be tested and does not need one. */
export function work<J extends Job>(job: J, tell: Tell): AnswerOf<J> {
  return (job.kind === 'series' ? series(job, tell) : curve(job)) as AnswerOf<J>;
}

function series(job: SeriesJob, tell: Tell): AnswerOf<SeriesJob> {
  const [acceptance, statistics] = [methodById('aci-acceptance')!, methodById('strength-statistics')!];
  tell(0, 'Reading the series');
  const of = (acceptance.fields as Record<string, { of: Shape }>)['tests']!.of;
  const tests =
    job.text === null
      ? simulatedSeries(job.simulate, 34, 3, 1.5, job.simulate).map((text) => ({ strength: { text, unit: 'MPa' as const } }))
      : rowsFrom(job.text, of, job.system, { strength: job.unit });
  const inputs = { specified: job.specified, tests } as unknown as AnyInputs;
  const count = Math.max(tests.length, 1);
  const judged = evaluate(acceptance, inputs, {
    variant: 'aci318',
    system: job.system,
    progress: (taken) => tell(0.1 + 0.4 * (taken / count), 'Means of three and floors'),
  });
  const scattered = evaluate(statistics, statisticsOf(inputs), {
    variant: 'aci214',
    system: job.system,
    progress: (taken) => tell(0.5 + 0.4 * (taken / count), 'Mean, scatter, cumulative sum'),
  });
  tell(0.95, 'Drawing');
  const said = (m: typeof acceptance, e: Evaluation) => saidOf(m.results, e);
  const specified = drawnIn(job.specified, (acceptance.fields as Record<string, never>)['specified']!, job.system === 'us' ? 'psi' : 'MPa');
  return {
    picture: pictureOf(judged, scattered, Number.isFinite(specified) ? specified : null, MOST_DRAWN),
    said: [...said(statistics, scattered), ...said(acceptance, judged)],
    faults: judged.issues.slice(0, MOST_FAULTS).map((issue) => `${rowOf(issue.path)}${say(issue.code, issue.params)}`),
  };
}

const rowOf = (path: string): string => {
  const row = /^tests\.(\d+)\./.exec(path)?.[1];
  return row === undefined ? '' : `Row ${Number(row) + 1}: `;
};

function curve(job: CurveJob): AnswerOf<CurveJob> {
  const m = methodById(job.method)!;
  const answers = job.places.map((place) =>
    evaluate(m, { ...job.inputs, [job.along]: place } as AnyInputs, { variant: job.variant, system: job.system }),
  );
  return Object.fromEntries(job.results.map((id) => [id, answers.map((e) => figureOf(e, id))]));
}
