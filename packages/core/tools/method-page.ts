import {
  evaluate,
  METHODS,
  PRECISION,
  PRACTICES,
  unitLabel,
  type AnyInputs,
  type AnyMethod,
  type Citation,
  type Field,
  type Shape,
  type Variant,
  type Parameters,
} from '../src/index.js';

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
  return [field.possible ? `possible ${of(field.possible)}` : '', field.plausible ? `usual ${of(field.plausible)}` : '']
    .filter(Boolean)
    .join('; ');
}

function readings(shape: Shape, prefix = ''): string[][] {
  return Object.entries(shape).flatMap(([id, field]) => {
    const symbol = field.kind === 'qty' ? field.symbol : '';
    const units = field.kind === 'qty' ? [...new Set([field.units.si, field.units.us])].map(unitLabel).filter(Boolean).join(', ') : '';
    const notes = [
      field.optional ? 'not needed' : '',
      field.from ? `from the record (${field.from})` : '',
      field.only ? `only ${field.only.join(', ')}` : '',
      range(field),
    ]
      .filter(Boolean)
      .join('; ');
    const row = [`\`${prefix}${id}\``, field.label, symbol, units, notes];
    return field.kind === 'rows' ? [row, ...readings(field.of as Shape, `${prefix}${id}.`)] : [row];
  });
}

/** Parameters as a person reads them: `lift.least 3`. */
function parameters(value: unknown, path = ''): string[] {
  if (value === null) return [`${path} none`];
  if (Array.isArray(value))
    return value.every((v) => typeof v !== 'object')
      ? [`${path} ${value.join(', ')}`]
      : value.flatMap((v, i) => parameters(v, `${path}[${i + 1}]`));
  if (typeof value === 'object') return Object.entries(value).flatMap(([key, inner]) => parameters(inner, path ? `${path}.${key}` : key));
  return [`${path} ${typeof value === 'string' ? value : JSON.stringify(value)}`];
}

/** The formulas, recorded from the body itself on numbers that let it run through. */
function formulas(m: AnyMethod): string[] {
  const of = (id: string, row: number): string | undefined =>
    (EXAMPLES[`${m.id}.${id}`] ?? EXAMPLES[id])?.split('|')[row] ?? (EXAMPLES[`${m.id}.${id}`] ?? EXAMPLES[id])?.split('|')[0];
  const example = (shape: Shape, row = 0): Record<string, unknown> =>
    Object.fromEntries(
      Object.entries(shape).map(([id, field]): [string, unknown] => {
        if (field.kind === 'qty') return [id, { text: of(id, row) ?? middle(field), unit: field.units.si }];
        if (field.kind === 'pick') return [id, field.usual ?? Object.keys(field.options)[0]];
        if (field.kind === 'rows') return [id, Array.from({ length: ROWS[m.id] ?? 3 }, (_r, k) => example(field.of as Shape, k))];
        return [id, field.kind === 'instant' ? '2026-11-25T10:00:00Z' : null];
      }),
    );
  const seen = new Set<string>();
  for (const variant of Object.keys(m.variants)) {
    const e = evaluate(m, example(m.fields as Shape) as AnyInputs, { variant, system: 'si', working: true });
    for (const line of e.working) if (line.kind === 'formula' && line.symbols !== line.symbol) seen.add(`${line.symbol} = ${line.symbols}`);
  }
  return [...seen];
}

const middle = (field: Extract<Field, { kind: 'qty' }>): string => field.usual?.si ?? (field.dimension === 'percent' ? '2' : '10');

/** Rows enough for a method's own rule. */
const ROWS: Readonly<Record<string, number>> = { 'combined-gravity': 2, rebound: 10, 'is-acceptance': 4, 'en-acceptance': 15 };

/** Numbers for readings whose middle would be refused: an empty measure lighter than a full one. */
const EXAMPLES: Readonly<Record<string, string>> = {
  'combined-gravity.share': '50',
  'moisture.dry': '100',
  'falling-head.h1': '30',
  'falling-head.h2': '20',
  'constant-mass.minute': '60|90|120',
  'gradation.opening': '4.75|2.36|1.18',
  'gradation.dry': '40',
  'rebound.value': '40',
  full: '20',
  empty: '3',
  partial: '18',
  volume: '7',
  centre: '200',
  highest: '200',
  drop: '',
  gauge: '6',
  h1: '6',
  h2: '0',
  ssd: '500',
  dry: '490',
  inWater: '300',
  flaskWater: '650',
  flaskSample: '950',
  companionSsd: '500',
  companionDry: '490',
  wet: '110',
  before: '100',
  after: '98',
  batch: '6',
  filled: '10',
  theoretical: '2400',
  density: '2300',
  made: '6',
  absolute: '5.7',
  'yield.batch': '6',
  removed: '10',
  reading: '5',
  passing: '0.8',
  total: '0.9',
  over: '0.1',
  share: '33',
  sg: '2.65',
  gravity: '2.65',
  d1: '100',
  d2: '100',
  length: '200',
  load: '300',
  a: '100',
  b: '100',
  at: '160',
  span: '450',
  'flexure.load': '30',
  strength: '40',
  specified: '30',
  deviation: '4',
  tests: '20',
  sigma: '4',
  potential: '-250',
  temperature: '30',
  initialBar: '4',
  bar: '4',
  dryingBar: '4',
  initial: '4.5',
  now: '4.4',
  drying: '4.5',
  tube: '10',
  specimen: '80',
  time: '40',
  cast: '',
  age: '28',
  moisture: '4',
  absorption: '1',
  cementitious: '400',
  batched: '170',
  added: '0',
  most: '0.6',
  fineParts: '2',
  coarseParts: '3',
  wc: '0.5',
  sgCement: '3.15',
  sgFine: '2.65',
  sgCoarse: '2.7',
  air: '5',
  nominal: '19',
  capacity: '35',
  diameter: '360',
  stated: '0.9',
  value: '100',
  slump: '100',
  bulk: '40',
  least: '5',
  exactly: '',
  calibratedAt: '23',
  testedAt: '25',
  target: '23',
  tolerance: '2',
  'length-change.gauge': '250',
  opening: '4.75',
  retained: '10',
  pan: '10',
  area: '0.03',
  washed: '',
  pressure: '500',
  head: '',
  thickness: '150',
  rate: '1',
  base: '200',
  top: '100',
  height: '300',
  previous: '6',
  final: '6',
  alcohol: '2',
  correction: '0.3',
  cups: '1',
  division: '0.5',
  design: '6',
  cement: '',
  minute: '60',
  mass: '100',
  mold: '300',
  lift: '5',
  water: '1000',
  'moisture-correction.water': '170',
  'flask-correction.water': '660',
  'slump.total': '110',
};

/** The page of a method, from its definition: what the documentation holds and nothing besides. */
export function methodPage(m: AnyMethod): string {
  const variants = Object.entries(m.variants as Readonly<Record<string, Variant<Parameters>>>);
  const results = Object.entries(m.results);
  const steps = m.steps;
  const precise = results.flatMap(([, f]) => {
    const p = f.precision === undefined ? undefined : PRECISION[f.precision];
    return p
      ? [
          `- ${f.label}: 1s ${p.points
            .map((point) =>
              Object.entries(point.oneSigma)
                .map(([u, s]) => `${s} ${unitLabel(u as never)}`)
                .join(' or '),
            )
            .join(', ')} (${p.source}${p.note ? `; ${p.note}` : ''})`,
        ]
      : [];
  });
  const practices = Object.values(PRACTICES).flatMap((practice) => {
    const chosen = (practice.variants as Readonly<Record<string, string>>)[m.id];
    return chosen === undefined ? [] : [`${practice.label}: \`${chosen}\``];
  });
  const parts = [
    `# ${m.title}`,
    m.about,
    `Also found as ${m.names.join(', ')}. Follows ${m.follows.map(cite).join('; ')}. Computed by \`POST /api/v1/compute/${m.id}\`.`,
    '## Readings',
    table(['id', 'reading', 'symbol', 'units', 'notes'], readings(m.fields as Shape)),
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
    ...section(
      '## Formulas',
      formulas(m)
        .map((f) => `- ${f}`)
        .join('\n'),
    ),
    '## Variants',
    table(
      ['variant', 'what', 'source', 'parameters'],
      variants.map(([id, v]) => [`\`${id}\``, v.label, cite(v.source), parameters(v.params).join('; ')]),
    ),
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
      steps
        .filter((s) => !s.caution)
        .map((s) => `- ${s.text}`)
        .join('\n'),
    ),
    ...section(
      '## Cautions',
      steps
        .filter((s) => s.caution)
        .map((s) => `- **${s.text}**`)
        .join('\n'),
    ),
    'Supports, and never replaces, the project specification, the local code and the licensed engineer’s decision.',
  ];
  return `${parts.join('\n\n')}\n`;
}

const section = (head: string, body: string): string[] => (body === '' ? [] : head === '' ? [body] : [head, body]);

export function indexPage(): string {
  const rows = METHODS.map((m) => [`[${m.title}](${m.id}.md)`, m.follows.map((c) => c.designation).join(', '), m.about]);
  return `# Methods\n\nMade from the definitions by \`npm run method-pages\`; a test holds them current.\n\n${table(['method', 'follows', 'what'], rows)}\n`;
}
