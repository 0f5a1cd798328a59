/* npm run mutate: what the tests of the core do not notice. Not part of npm test; takes half an hour on two cores. */
import { formulaMutants } from './lib/formula-mutants.mjs';
import { ROOT } from './lib/paths.mjs';
import { run } from './lib/run.mjs';

const share = (count, left) => `${count - left} of ${count} noticed (${(100 * (1 - left / count)).toFixed(1)} %)`;

const { operations, numbers } = await formulaMutants(ROOT);
console.log(`Operations of formulas, by worked cases and laws: ${share(operations.count, operations.survived)}`);
console.log(`Printed numbers, by the pages of docs/methods: ${share(numbers.count, numbers.onNoPage)}`);
console.log(`Printed numbers, by worked cases and laws as well: ${share(numbers.count, numbers.survived)}`);
if (!process.argv.includes('--formulas'))
  process.stdout.write(await run('npx', ['stryker', 'run', 'packages/core/mutation.json'], { cwd: ROOT }));
