/* npm run method-pages: docs/methods, a page for each definition; docs/findings.md, a section for each finding. */
import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { METHODS } from '../src/index.js';
import { findingsPage, indexPage, methodPage } from '../src/pages/index.js';

const OUT = join(import.meta.dirname, '../../../docs/methods');

mkdirSync(OUT, { recursive: true });
for (const old of readdirSync(OUT)) rmSync(join(OUT, old));
for (const m of METHODS) writeFileSync(join(OUT, `${m.id}.md`), methodPage(m));
writeFileSync(join(OUT, 'README.md'), indexPage());
writeFileSync(join(OUT, '../findings.md'), findingsPage());
