/* npm run method-pages: docs/methods, a page for each definition. */
import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { METHODS } from '../src/index.js';
import { indexPage, methodPage } from '../src/pages/index.js';

const OUT = join(import.meta.dirname, '../../../docs/methods');

mkdirSync(OUT, { recursive: true });
for (const old of readdirSync(OUT)) rmSync(join(OUT, old));
for (const m of METHODS) writeFileSync(join(OUT, `${m.id}.md`), methodPage(m));
writeFileSync(join(OUT, 'README.md'), indexPage());
