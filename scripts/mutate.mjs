/* npm run mutate: what the tests of the core do not notice. Not part of npm test; takes some minutes. */
import { formulaMutants } from './lib/formula-mutants.mjs';
import { ROOT } from './lib/paths.mjs';
import { run } from './lib/run.mjs';

const { count, survivors } = await formulaMutants(ROOT);
for (const { where, what } of survivors.sort((a, b) => a.where.localeCompare(b.where))) console.log(`survived: ${where}  ${what}`);
console.log(
  `Formulas and printed numbers: ${count - survivors.length} of ${count} noticed (${(100 * (1 - survivors.length / count)).toFixed(1)} %)`,
);
if (!process.argv.includes('--formulas'))
  process.stdout.write(await run('npx', ['stryker', 'run', 'packages/core/mutation.json'], { cwd: ROOT }));
