import { buildIfChanged } from './lib/build.mjs';
import { step } from './lib/steps.mjs';

await step('Build', buildIfChanged);
