import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { evaluate, type AnyMethod } from '../src/index.js';

const DOC = join(import.meta.dirname, '../../../docs/adding-a-method.md');
const FOLDER = join(import.meta.dirname, '../src/methods/bleeding');

/** The page for newcomers, followed to the letter: its folder is made, used, and taken away again. */
describe('docs/adding-a-method.md', () => {
  const blocks = [...readFileSync(DOC, 'utf8').matchAll(/```ts\n([\s\S]*?)```/g)].map((m) => m[1]!);

  it('has a definition that works, and a worked case that holds', async () => {
    const [definition, register, test] = blocks;
    expect(register?.trim()).toBe("import { bleeding } from './bleeding/bleeding.js';");
    mkdirSync(FOLDER, { recursive: true });
    try {
      writeFileSync(join(FOLDER, 'bleeding.ts'), definition!);
      const { bleeding } = (await import(`${FOLDER}/bleeding.ts`)) as { bleeding: AnyMethod };
      const body = test!.replaceAll(/ as const| as BleedingParams|\(text: string\)/g, (type) => (type.startsWith('(') ? '(text)' : ''));
      // eslint-disable-next-line @typescript-eslint/no-implied-eval -- the page's own code is what is tested
      const follow = new Function('evaluate', 'bleeding', 'expect', body) as (...args: unknown[]) => void;
      follow(evaluate, bleeding, expect);
      const kg = (text: string) => ({ text, unit: 'kg' as const });
      const more = evaluate(
        bleeding,
        { drawn: kg('3'), water: kg('160'), batch: kg('2300'), specimen: kg('32.2') },
        { variant: 'c232', system: 'si' },
      );
      expect(more.issues.map((i) => i.path)).toEqual(['drawn']);
    } finally {
      rmSync(FOLDER, { recursive: true });
    }
  });
});
