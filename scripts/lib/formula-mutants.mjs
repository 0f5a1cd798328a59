/*
 * Mutants that a general tool does not know: an operation of a formula exchanged for its opposite,
 * a printed number off by a hundredth. The specs are bundled once with every mutant in it, asleep;
 * a process wakes one and runs the specs until the first that fails.
 */
import { fork } from 'node:child_process';
import { readFileSync, readdirSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import { build } from 'esbuild';
import ts from 'typescript';

const OPPOSITE = { add: 'sub', sub: 'add', mul: 'div', div: 'mul' };
const PRINTED = /^-?\d+(\.\d+)?$/;

/** Places in a file that can be changed: what stands there, and what would stand there instead. */
function placesIn(path, text) {
  const places = [];
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true);
  const visit = (node) => {
    if (ts.isCallExpression(node) && ts.isPropertyAccessExpression(node.expression)) {
      const { name } = node.expression;
      const instead = Object.hasOwn(OPPOSITE, name.text) ? OPPOSITE[name.text] : null;
      if (instead) places.push({ from: name.getStart(), to: name.end, is: name.text, instead, kind: 'operation' });
    }
    const key = node.parent?.name === node && (ts.isPropertyAssignment(node.parent) || ts.isPropertySignature(node.parent));
    if (ts.isStringLiteral(node) && PRINTED.test(node.text) && !key && !ts.isLiteralTypeNode(node.parent)) {
      const off = (Number(node.text) * 1.01 + (Number(node.text) === 0 ? 0.01 : 0)).toFixed(8).replace(/0+$/, '');
      places.push({ from: node.getStart(), to: node.end, is: node.text, instead: off.endsWith('.') ? `${off}0` : off, kind: 'number' });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return places;
}

/** The file with all its mutants in it, each asleep until `KM_MUTANT` is its number. */
function withMutants(path, root, mutants) {
  const text = readFileSync(path, 'utf8');
  let changed = text;
  for (const place of placesIn(path, text).sort((a, b) => b.from - a.from)) {
    const number = mutants.length;
    const line = text.slice(0, place.from).split('\n').length;
    mutants.push({ where: `${relative(root, path)}:${line}`, what: `${place.is} → ${place.instead}`, kind: place.kind });
    const awake = `globalThis.__awake === ${number}`;
    if (place.kind === 'operation') {
      // `.add(` becomes `[awake ? 'sub' : 'add'](`.
      const dot = changed.lastIndexOf('.', place.from);
      changed = `${changed.slice(0, dot)}[${awake} ? '${place.instead}' : '${place.is}']${changed.slice(place.to)}`;
    } else {
      changed = `${changed.slice(0, place.from)}(${awake} ? '${place.instead}' : '${place.is}')${changed.slice(place.to)}`;
    }
  }
  return changed;
}

function filesIn(folder) {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && entry.name.endsWith('.ts'))
    .map((entry) => join(entry.parentPath, entry.name));
}

/** Runs one; true when a spec noticed. */
function killed(bundle, number) {
  return new Promise((resolve) => {
    const child = fork(bundle, [], { env: { ...process.env, KM_MUTANT: String(number) }, stdio: 'ignore', execArgv: [] });
    // One that never ends was noticed too.
    const timer = setTimeout(() => child.kill('SIGKILL'), 30_000);
    child.on('exit', (code) => {
      clearTimeout(timer);
      resolve(code !== 0);
    });
  });
}

/** Specs that try a mutant; the pages of docs/methods hold every number that is data. */
const isSpec = (path) => path.endsWith('.spec.ts') && !path.endsWith('docs.spec.ts');
const isPages = (path) => path.endsWith('pages.spec.ts');

/** The specs in one file, with every mutant in it. */
async function bundled(root, outfile, specs, touched) {
  await build({
    stdin: {
      contents: [
        "import Jasmine from 'jasmine';",
        'const runner = new Jasmine();',
        'runner.configureDefaultReporter({ print() {} });',
        'runner.randomizeTests(false); runner.stopOnSpecFailure(true); runner.exitOnCompletion = false;',
        'globalThis.__awake = Number(process.env.KM_MUTANT);',
        ...specs.map((path) => `await import(${JSON.stringify(path)});`),
        'const done = await runner.execute();',
        "process.exit(done?.overallStatus === 'passed' ? 0 : 1);",
      ].join('\n'),
      resolveDir: root,
    },
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    external: ['jasmine', 'fast-check', 'fraction.js', 'decimal.js'],
    plugins: [
      {
        name: 'mutants',
        setup: (b) =>
          b.onLoad({ filter: /packages\/core\/src\/.*\.ts$/ }, ({ path }) =>
            touched.has(path) ? { contents: touched.get(path), loader: 'ts' } : undefined,
          ),
      },
    ],
  });
}

/** Those of `numbers` that a bundle of specs does not notice. */
async function survivorsOf(bundle, mutants, numbers, workers, what) {
  if (await killed(bundle, -1)) throw new Error('The specs fail without any mutant.');
  const survivors = [];
  let next = 0;
  const work = async () => {
    while (next < numbers.length) {
      const at = next++;
      if (!(await killed(bundle, numbers[at]))) {
        survivors.push(numbers[at]);
        console.log(`${what} survived: ${mutants[numbers[at]].where}  ${mutants[numbers[at]].what}`);
      }
      if (at % 100 === 99) console.log(`${what}: ${at + 1} of ${numbers.length}, ${survivors.length} survived`);
    }
  };
  await Promise.all(Array.from({ length: workers }, work));
  return survivors;
}

/**
 * Changes formulas and printed numbers of the core's methods one by one; says which nobody noticed:
 * operations by worked cases and laws, printed numbers by the pages of docs/methods and then by the cases and laws.
 */
export async function formulaMutants(root, workers = 2) {
  const core = join(root, 'packages/core');
  const bundle = join(core, 'test/.mutants.mjs');
  const mutants = [];
  const specs = filesIn(join(core, 'test')).filter(isSpec);
  const touched = new Map(
    ['src/methods', 'src/judgement', 'src/limits']
      .flatMap((folder) => filesIn(join(core, folder)))
      .map((path) => [path, withMutants(path, root, mutants)]),
  );
  const of = (kind) => mutants.flatMap((m, i) => (m.kind === kind ? [i] : []));
  // Worked cases kill most, so they go first.
  const cases = specs.filter((path) => !isPages(path)).sort((a, b) => Number(b.includes('vectors')) - Number(a.includes('vectors')));
  const left = async (numbers, by, what) => {
    await bundled(root, bundle, by, touched);
    return survivorsOf(bundle, mutants, numbers, workers, what);
  };
  try {
    const operations = await left(of('operation'), cases, 'operation');
    const onNoPage = await left(of('number'), specs.filter(isPages), 'number on no page');
    const unseen = await left(onNoPage, cases, 'number');
    return {
      operations: { count: of('operation').length, survived: operations.length },
      numbers: { count: of('number').length, onNoPage: onNoPage.length, survived: unseen.length },
    };
  } finally {
    rmSync(bundle, { force: true });
  }
}
