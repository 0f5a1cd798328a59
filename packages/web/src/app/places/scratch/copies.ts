import {
  answerText,
  answerTexts,
  CORE_VERSION,
  guidance,
  isUnit,
  spell,
  unitLabel,
  type AnyInputs,
  type AnyMethod,
  type Citation,
  type Evaluation,
  type Field,
  type Shape,
  type Spelled,
} from '@keen-mortar/core';
import Papa from 'papaparse';

/** Digits of a figure that no reporting increment cuts: somebody else goes on with it. */
const WHOLE = 12;

interface Copied {
  readonly method: AnyMethod;
  readonly inputs: AnyInputs;
  readonly evaluation: Evaluation;
}

const resultsOf = ({ method, evaluation }: Copied): { id: string; label: string; text: string }[] =>
  evaluation.results.flatMap((r) => {
    const text = answerText(method.results[r.id]!, r, undefined, WHOLE);
    return text === '' ? [] : [{ id: r.id, label: r.label, text }];
  });

const written = (value: Spelled[string], field: Field): string => {
  if (typeof value !== 'string')
    return value
      .map((row) =>
        Object.entries(row)
          .map(([id, cell]) => written(cell, (field as { of: Shape }).of[id]!))
          .join(' '),
      )
      .join('; ');
  if (field.kind === 'pick') return (field.options as Record<string, string>)[value] ?? value;
  // `285 cm2` is for programs: people read cm².
  const [, figure, unit] = /^(.*) (\S+)$/.exec(value) ?? [];
  return field.kind === 'qty' && unit !== undefined && isUnit(unit) ? `${figure} ${unitLabel(unit)}` : value;
};

/** For an email or a note: what was read, under which variant, and what comes of it. */
export function asText(c: Copied): string {
  const { method: m, evaluation: e } = c;
  const variant = (m.variants as Readonly<Record<string, { label: string; source: Citation }>>)[e.variant]!;
  const readings = Object.entries(spell(m.fields as Shape, c.inputs));
  return [
    m.title,
    `${variant.source.designation} (${variant.source.edition}), ${variant.label}`,
    '',
    ...readings.map(([id, value]) => `${(m.fields as Shape)[id]!.label}: ${written(value, (m.fields as Shape)[id]!)}`),
    '',
    ...resultsOf(c).map(({ label, text }) => `${label}: ${text}`),
    ...guidance(m, e).map(({ says, next }) => [says, ...next].join(' ')),
  ].join('\n');
}

/** For a program: readings as keyed, every result whole, unrounded and reported. */
export function asJson({ method, inputs, evaluation: e }: Copied): string {
  return JSON.stringify(
    {
      method: method.id,
      variant: e.variant,
      system: e.system,
      core: CORE_VERSION,
      readings: spell(method.fields as Shape, inputs),
      validity: e.validity,
      results: e.results.filter((r) => r.state === 'given'),
      issues: e.issues,
      notes: e.notes,
      guidance: guidance(method, e),
    },
    null,
    2,
  );
}

/** For a spreadsheet: a row of heads and a row of values, a column for each reading and result. */
export function asCsv(c: Copied): string {
  const { method: m, evaluation: e } = c;
  const readings = Object.entries(spell(m.fields as Shape, c.inputs)).map(([id, value]): [string, string] => [
    id,
    written(value, (m.fields as Shape)[id]!),
  ]);
  const results = e.results.flatMap((r): [string, string][] => {
    if (r.state !== 'given') return [];
    const unit = unitLabel(r.unit);
    const head = unit === '' ? r.id : `${r.id} (${unit})`;
    // What comes of each row: a column for each.
    if (r.series) return r.series.map((figure, i): [string, string] => [`${head} ${i + 1}`, figure.reported ?? figure.unrounded]);
    return [[head, r.words ? answerTexts(m.results[r.id]!, r).join('; ') : (r.reported ?? r.unrounded ?? '')]];
  });
  const columns: [string, string][] = [['method', m.id], ['variant', e.variant], ...readings, ...results];
  return Papa.unparse([columns.map(([head]) => head), columns.map(([, value]) => value)]);
}
