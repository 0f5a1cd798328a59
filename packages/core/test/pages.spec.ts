import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { METHODS } from '../src/index.js';
import { findingsPage, methodPage } from '../src/pages/index.js';

describe('docs/methods', () => {
  const folder = join(import.meta.dirname, '../../../docs/methods');

  it('has a page for each definition, and no other', () => {
    expect(readdirSync(folder).sort()).toEqual([...METHODS.map((m) => `${m.id}.md`), 'README.md'].sort());
  });

  it('findings.md is what its definitions say', () => expect(readFileSync(join(folder, '../findings.md'), 'utf8')).toBe(findingsPage()));

  for (const m of METHODS) {
    it(`${m.id}.md is what its definition says`, () => expect(readFileSync(join(folder, `${m.id}.md`), 'utf8')).toBe(methodPage(m)));
  }
});
