import { exampleOf, furtherExamples } from '../examples/index.js';
import {
  answerText,
  asks,
  evaluate,
  METHODS,
  PRECISION,
  PRACTICES,
  say,
  stepsFor,
  keyedText,
  unitLabel,
  type AnyInputs,
  type AnyMethod,
  type Citation,
  type Precision,
  type ResultField,
  type Increments,
  type UnitId,
  type Field,
  type Keyed,
  type Shape,
  type Variant,
  type Parameters,
} from '../index.js';
import { parametersOf } from './parameters.js';

const cite = ({ designation, edition, part }: Citation): string => `${designation}, edition ${edition}${part ? `, ${part}` : ''}`;

const cell = (text: string): string => text.replaceAll('|', '\\|');

const table = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  [`| ${head.join(' | ')} |`, `|${head.map(() => '---').join('|')}|`, ...rows.map((row) => `| ${row.map(cell).join(' | ')} |`)].join('\n');

function range(field: Field): string {
  if (field.kind === 'pick') return Object.values(field.options).join(', ');
  if (field.kind !== 'qty') return '';
  const of = (r: typeof field.possible): string => {
    if (!r) return '';
    const low = r.above !== undefined ? `above ${r.above}` : r.least !== undefined ? `from ${r.least}` : '';
    return `${[low, r.most !== undefined ? `to ${r.most}` : ''].filter(Boolean).join(' ')} ${unitLabel(r.unit)}`.trim();
  };
  const { usual, units } = field;
  const before = usual && (['si', 'us'] as const).map((system) => `${usual[system]} ${unitLabel(units[system])}`.trim());
  return [
    field.possible ? `possible ${of(field.possible)}` : '',
    field.plausible ? `usual ${of(field.plausible)}` : '',
    before ? `filled in with ${[...new Set(before)].join(' or ')}` : '',
  ]
    .filter(Boolean)
    .join('; ');
}

/** Variants that ask for a reading, where not all do. */
function askedBy(m: AnyMethod, id: string): string {
  const variants = Object.keys(m.variants);
  const asking = variants.filter((v) => asks(m, v, id));
  return asking.length === variants.length ? '' : `asked by ${asking.map((v) => `\`${v}\``).join(', ')}`;
}

function readings(m: AnyMethod, shape: Shape, prefix = ''): string[][] {
  return Object.entries(shape).flatMap(([id, field]) => {
    const symbol = field.kind === 'qty' ? field.symbol : '';
    const units = field.kind === 'qty' ? [...new Set([field.units.si, field.units.us])].map(unitLabel).filter(Boolean).join(', ') : '';
    const notes = [
      field.optional ? 'optional' : '',
      field.from ? `from the record (${field.from})` : '',
      field.takes ? `taken from the record where it is not keyed (${field.takes})` : '',
      field.kind === 'rows' && field.made ? 'one for each item that was made of it, where they are not keyed' : '',
      prefix === '' ? askedBy(m, id) : '',
      range(field),
    ]
      .filter(Boolean)
      .join('; ');
    const row = [`\`${prefix}${id}\``, field.label, symbol, units, notes];
    return field.kind === 'rows' ? [row, ...readings(m, field.of as Shape, `${prefix}${id}.`)] : [row];
  });
}

/** The tables of all variants: one that several share stands once, with their names. */
function parameterTables(variants: readonly (readonly [string, Variant<Parameters>])[]): string[] {
  const sharedBy = new Map<string, string[]>();
  for (const [id, { params }] of variants) {
    for (const { title, head, rows } of parametersOf(params).tables) {
      const text = `**${title}**\n\n${table(head, rows)}`;
      sharedBy.set(text, [...(sharedBy.get(text) ?? []), `\`${id}\``]);
    }
  }
  return [...sharedBy].map(([text, ids]) => (ids.length === variants.length ? text : `${ids.join(', ')}: ${text}`));
}

/** The formulas, recorded from the body itself on its worked examples, under every variant. */
function formulas(m: AnyMethod): string[] {
  const seen = new Set<string>();
  for (const inputs of [exampleOf(m), ...furtherExamples(m)]) {
    for (const variant of Object.keys(m.variants)) {
      const { working } = evaluate(m, inputs, { variant, system: 'si', working: true });
      for (const line of working) if (line.kind === 'formula' && line.symbols !== line.symbol) seen.add(`${line.symbol} = ${line.symbols}`);
    }
  }
  return [...seen];
}

/** The formulas, and what each symbol in them is. */
function formulaList(m: AnyMethod): string {
  const all = formulas(m);
  if (all.length === 0) return '';
  const used = all.join(' ');
  const named = [
    ...symbolsOf(m.fields as Shape),
    ...Object.values(m.results as Readonly<Record<string, ResultField>>).map((r) => [r.symbol, r.label] as const),
  ];
  const seen = new Map<string, string>();
  for (const [symbol, label] of named)
    if (symbol !== '' && symbol !== label.toLowerCase() && !seen.has(symbol) && mentions(used, symbol)) seen.set(symbol, label);
  const where = [...seen].map(([symbol, label]) => `${symbol} ${label.replace(/^[A-Z](?=[a-z])/, (c) => c.toLowerCase())}`).join('; ');
  return `${all.map((f) => `- ${f}`).join('\n')}${where === '' ? '' : `\n\nWhere ${where}.`}`;
}

/** Whether a symbol stands in a formula by itself, or with the number of its row. */
const mentions = (formula: string, symbol: string): boolean =>
  new RegExp(`(^|[\\s(])${symbol.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}([\\d.,]*)(?=$|[\\s)])`).test(formula);

const symbolsOf = (shape: Shape): (readonly [string, string])[] =>
  Object.values(shape).flatMap((f) =>
    f.kind === 'qty' ? [[f.symbol, f.label] as const] : f.kind === 'rows' ? symbolsOf(f.of as Shape) : [],
  );

/** What each variant takes, a line a parameter; what differs between them stands in bold. */
function parameterComparison(variants: readonly (readonly [string, Variant<Parameters>])[]): string {
  const columns = variants.map(([, v]) => new Map(parametersOf(v.params).lines.map((line) => [line.words, line.value])));
  const words = [...new Set(columns.flatMap((c) => [...c.keys()]))];
  if (words.length === 0) return '';
  const rows = words.map((word) => {
    const values = columns.map((c) => c.get(word) ?? 'none');
    const differ = new Set(values).size > 1;
    return [word, ...values.map((value) => (differ ? `**${value}**` : value))];
  });
  return table(['parameter', ...variants.map(([id]) => `\`${id}\``)], rows);
}

/** Steps or cautions of all variants: what only some do names them. */
function stepTexts(m: AnyMethod, caution: boolean): string[] {
  const variants = Object.entries(m.variants as Readonly<Record<string, Variant<Parameters>>>);
  const by = new Map<string, string[]>();
  for (const [id, { params }] of variants)
    for (const step of stepsFor(m, params)) if (step.caution === caution) by.set(step.text, [...(by.get(step.text) ?? []), id]);
  // In the order of the steps, whichever variant has them.
  const order = m.steps.flatMap((s) => variants.flatMap(([, { params }]) => [typeof s.text === 'function' ? s.text(params) : s.text]));
  return [...new Set(order)].flatMap((text) => {
    const ids = text === null ? undefined : by.get(text);
    return text === null || !ids ? [] : [ids.length === variants.length ? text : `${ids.map((id) => `\`${id}\``).join(', ')}: ${text}`];
  });
}

/** What was read, and what comes of it: the first variant on the method's worked example. */
function workedExample(m: AnyMethod): string {
  const inputs = exampleOf(m);
  const variant = Object.keys(m.variants)[0]!;
  const e = evaluate(m, inputs, { variant, system: 'si' });
  const given = e.results.flatMap((r) => {
    const text = answerText(m.results[r.id]!, r);
    return text === '' ? [] : [`- ${r.label}: ${text}`];
  });
  const asked = Object.fromEntries(Object.entries(m.fields as Shape).filter(([id]) => asks(m, variant, id)));
  const read = written(asked, inputs).map(([label, text]) => `- ${label}: ${text}`);
  const said = [...e.issues, ...e.validity.reasons, ...e.notes].map(({ code, params }) => `- ${say(code, params)}`);
  return [['Read:', ...read].join('\n'), ['Gives:', ...given, ...said].join('\n')].map((part) => part.replace('\n', '\n\n')).join('\n\n');
}

/** What was read, as a person writes it: its label and its text. */
function written(fields: Shape, inputs: AnyInputs): [label: string, text: string][] {
  return Object.entries(fields).flatMap(([id, field]): [string, string][] => {
    const value: unknown = inputs[id];
    if (value === null || value === undefined) return [];
    if (field.kind === 'rows') {
      const rows = (value as readonly AnyInputs[]).map((row) => written(field.of as Shape, row).map(([, text]) => text));
      return [[field.label, rows.map((row) => row.join(' ')).join('; ')]];
    }
    if (field.kind === 'pick') return [[field.label, field.options[value as string] ?? '']];
    if (field.kind !== 'qty') return [[field.label, value as string]];
    const { text, unit } = value as Keyed;
    return text.trim() === '' ? [] : [[field.label, keyedText(text, unit)]];
  });
}

/** The page of a method, from its definition: what the documentation holds and nothing besides. */
export function methodPage(m: AnyMethod): string {
  const variants = Object.entries(m.variants as Readonly<Record<string, Variant<Parameters>>>);
  const results = Object.entries(m.results);
  const precise = results.flatMap(([, f]) => {
    const p = f.precision === undefined ? undefined : PRECISION[f.precision];
    return p ? [`- ${f.label}: ${p.points.map(repeatability).join('; ')} (${p.source}${p.note ? `; ${p.note}` : ''})`] : [];
  });
  const practices = variants.flatMap(([id, v]) => (v.practices ?? []).map((practice) => `${PRACTICES[practice].label}: \`${id}\``));
  const parts = [
    `# ${m.title}`,
    m.about,
    `Also found as ${m.names.join(', ')}. Follows ${m.follows.map(cite).join('; ')}.`,
    '## Readings',
    table(['id', 'reading', 'symbol', 'units', 'notes'], readings(m, m.fields as Shape)),
    '## Results',
    table(
      ['id', 'result', 'symbol', 'units'],
      results.map(([id, f]) => [
        `\`${id}\``,
        f.label,
        f.symbol,
        [...new Set([f.units.si, f.units.us])].map(unitLabel).filter(Boolean).join(', '),
      ]),
    ),
    ...section('## Formulas', formulaList(m)),
    '## Worked example',
    workedExample(m),
    '## Variants',
    table(
      ['variant', 'what', 'source'],
      variants.map(([id, v]) => [`\`${id}\``, v.needs === undefined ? v.label : `${v.label}; takes ${v.needs}`, cite(v.source)]),
    ),
    ...section('', parameterComparison(variants)),
    ...parameterTables(variants),
    ...section('', practices.length > 0 ? `Taken by ${practices.join(', ')}.` : ''),
    ...section(
      '## Clocks',
      (m.windows ?? [])
        .map(
          (w) =>
            `- ${w.label}: within ${w.mostSeconds / 60} min of ${w.starts.replace('.', ', ').replaceAll('-', ' ')}; ${w.then} (${cite(w.source)})`,
        )
        .join('\n'),
    ),
    ...section('## Repeatability', precise.join('\n')),
    ...section(
      '## Steps',
      stepTexts(m, false)
        .map((text) => `- ${text}`)
        .join('\n'),
    ),
    ...section(
      '## Cautions',
      stepTexts(m, true)
        .map((text) => `- **${text}**`)
        .join('\n'),
    ),
    'Supports, and never replaces, the project specification, the local code and the licensed engineer’s decision.',
  ];
  return `${parts.join('\n\n')}\n`;
}

const inUnits = (figures: Increments): string =>
  Object.entries(figures)
    .map(([u, figure]) => `${figure} ${unitLabel(u as UnitId)}`.trim())
    .join(' or ');

const repeatability = ({ at, oneSigma, twoResults }: Precision['points'][number]): string =>
  `1s ${inUnits(oneSigma)}, two results within ${inUnits(twoResults)}${at ? `, at ${inUnits(at)}` : ''}`;

const section = (head: string, body: string): string[] => (body === '' ? [] : head === '' ? [body] : [head, body]);

export function indexPage(): string {
  const rows = METHODS.map((m) => [`[${m.title}](${m.id}.md)`, m.follows.map((c) => c.designation).join(', '), m.about]);
  return `# Methods\n\nMade from the definitions by \`npm run method-pages\`; a test holds them current.\n\n${table(['method', 'follows', 'what'], rows)}\n`;
}
