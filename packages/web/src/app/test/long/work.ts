import {
  causesOf,
  evaluate,
  foretell,
  foretoldSoFar,
  methodById,
  say,
  seriesView,
  simulatedSeries,
  statisticsOf,
  type AnyInputs,
  type Evaluation,
  type Shape,
} from '@keen-mortar/core';
import { drawnIn, figureOf } from '../drawn';
import { cellsOf, gridFrom, rowsFrom } from '../form/table-paste';
import type { AnswerOf, CurveTask, MixTask, SeriesTask, Task } from './tasks';
import { pictureOf, saidOf } from './picture';

type Tell = (share: number, doing: string) => void;

const MOST_DRAWN = 1200;
const MOST_FAULTS = 12;

/** What the worker does; apart from the worker, so that it can be tested and does not need one. */
export function work<T extends Task>(task: T, tell: Tell): AnswerOf<T> {
  if (task.kind === 'mix') return mix(task, tell) as AnswerOf<T>;
  return (task.kind === 'series' ? series(task, tell) : curve(task)) as AnswerOf<T>;
}

function series(task: SeriesTask, tell: Tell): AnswerOf<SeriesTask> {
  if (task.companions && task.text !== null) return companions(task, task.text, tell);
  const [acceptance, statistics] = [methodById('aci-acceptance')!, methodById('strength-statistics')!];
  tell(0, 'Reading the series');
  const of = (acceptance.fields as Record<string, { of: Shape }>)['tests']!.of;
  const tests =
    task.text === null
      ? simulatedSeries(task.simulate, 34, 3, 1.5, task.simulate).map((text) => ({ strength: { text, unit: 'MPa' as const } }))
      : rowsFrom(task.text, of, task.system, { strength: task.unit });
  const inputs = { specified: task.specified, tests } as unknown as AnyInputs;
  const count = Math.max(tests.length, 1);
  const judged = evaluate(acceptance, inputs, {
    variant: 'aci318',
    system: task.system,
    progress: (taken) => tell(0.1 + 0.4 * (taken / count), 'Means of three and floors'),
  });
  const scattered = evaluate(statistics, statisticsOf(inputs), {
    variant: 'aci214',
    system: task.system,
    progress: (taken) => tell(0.5 + 0.4 * (taken / count), 'Mean, scatter, cumulative sum'),
  });
  tell(0.95, 'Drawing');
  const said = (m: typeof acceptance, e: Evaluation) => saidOf(m.results, e);
  const specified = drawnIn(
    task.specified,
    (acceptance.fields as Record<string, never>)['specified']!,
    task.system === 'us' ? 'psi' : 'MPa',
  );
  return {
    picture: pictureOf(judged, scattered, Number.isFinite(specified) ? specified : null, MOST_DRAWN),
    said: [...said(statistics, scattered), ...said(acceptance, judged)],
    faults: [
      ...severalColumns(task.text),
      ...judged.issues.slice(0, MOST_FAULTS).map((issue) => `${rowOf(issue.path)}${say(issue.code, issue.params)}`),
    ],
  };
}

/** A series for acceptance is one strength a test: of a wider table it is said which column was taken. */
const severalColumns = (text: string | null): string[] => {
  const first = text === null ? [] : (cellsOf(text.slice(0, 2000))[0] ?? []);
  return first.length > 1 ? [`The text has ${first.length} columns: the one headed as the strength was taken, else the first.`] : [];
};

/** Tests with their companions: described by their statistics. */
function companions(task: SeriesTask, text: string, tell: Tell): AnswerOf<SeriesTask> {
  const m = methodById('strength-statistics')!;
  tell(0, 'Reading the series');
  const leaf = (m.fields as Record<string, { of: Record<string, { of: Shape }> }>)['tests']!.of['companions']!.of['strength']!;
  const tests = gridFrom(text, 'companions', ['strength', leaf], task.unit);
  const count = Math.max(tests.length, 1);
  const e = evaluate(m, { tests, specified: task.specified } as unknown as AnyInputs, {
    variant: 'aci214',
    system: task.system,
    progress: (taken) => tell(Math.min(0.9, 0.1 + (0.4 * taken) / count), 'Mean, scatter within and between tests'),
  });
  tell(0.95, 'Drawing');
  return {
    picture: pictureOf(null, e, null, MOST_DRAWN),
    said: saidOf(m.results, e),
    faults: e.issues.slice(0, MOST_FAULTS).map((issue) => `${rowOf(issue.path)}${say(issue.code, issue.params)}`),
  };
}

const rowOf = (path: string): string => {
  const row = /^tests\.(\d+)\./.exec(path)?.[1];
  return row === undefined ? '' : `Row ${Number(row) + 1}: `;
};

function mix({ tests, of, traced, traits, pairs, early }: MixTask, tell: Tell): AnswerOf<MixTask> {
  tell(0, 'Means, scatter, acceptance');
  const view = seriesView(tests, of, (share) => tell(0.85 * share, 'Means, scatter, acceptance'));
  tell(0.85, 'What changed, and what is to come');
  return {
    view,
    causes: view.shift ? causesOf(traced, view.shift.at, traits) : [],
    foretold: early.map((e) => e && foretell(pairs, e, of.specified, of.system)),
    soFar: foretoldSoFar(pairs, of.system),
  };
}

function curve(task: CurveTask): AnswerOf<CurveTask> {
  const m = methodById(task.method)!;
  const answers = task.places.map((place) =>
    evaluate(m, { ...task.inputs, [task.along]: place } as AnyInputs, { variant: task.variant, system: task.system }),
  );
  return Object.fromEntries(task.results.map((id) => [id, answers.map((e) => figureOf(e, id))]));
}
