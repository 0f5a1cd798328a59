const seconds = (since) => `${((performance.now() - since) / 1000).toFixed(1)} s`;

/** Runs a step and prints what it is, how it goes on, and how long it took. */
export async function step(name, work) {
  const since = performance.now();
  process.stdout.write(`  ${name} …\n`);
  const note = await work((text) => process.stdout.write(`    ${text}\n`));
  process.stdout.write(`  ${name}: ${note ?? 'done'}, ${seconds(since)}\n`);
}
