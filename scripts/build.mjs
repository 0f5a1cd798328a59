import { buildIfChanged } from './lib/build.mjs';
import { step } from './lib/steps.mjs';
import { inWords } from './lib/trouble.mjs';

try {
  await step('Build', buildIfChanged);
} catch (error) {
  console.error(inWords(error));
  process.exitCode = 1;
}
