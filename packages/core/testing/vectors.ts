/* Usage: npm run vectors -- [--known] FILE. Runs a vectors file through the core and says what differs. */
import { readFileSync } from 'node:fs';
import { check, type Case } from './vector-map.js';

const args = process.argv.slice(2);
const known = args.includes('--known');
const file = args.find((arg) => !arg.startsWith('--')) ?? 'packages/core/test/cases.json';
const cases = JSON.parse(readFileSync(file, 'utf8')) as Case[];

let agree = 0;
let differ = 0;
const without = new Map<string, number>();
for (const c of cases) {
  let differences;
  try {
    differences = check(c);
  } catch (error) {
    differences = [{ key: 'error', expected: 'an answer', got: String(error) }];
  }
  if (differences === null) {
    without.set(c.method, (without.get(c.method) ?? 0) + 1);
  } else if (differences.length === 0) {
    agree++;
  } else {
    differ++;
    console.log(`${c.method} ${c.case} (${c.note})`);
    for (const d of differences) console.log(`  ${d.key}: expected ${JSON.stringify(d.expected)}, got ${JSON.stringify(d.got)}`);
  }
}
const left = [...without.values()].reduce((a, b) => a + b, 0);
if (!known) for (const [method, count] of without) console.log(`no method yet: ${method}, ${count} cases`);
console.log(`${agree} agree, ${differ} differ${known ? '' : `, ${left} without a method`}`);
process.exitCode = differ > 0 || (!known && left > 0) ? 1 : 0;
