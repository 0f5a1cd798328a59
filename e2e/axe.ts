import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface AxeResult {
  violations: { id: string; impact: string | null; nodes: { html: string }[] }[];
}

/** What axe finds serious or critical on the page as it stands. */
export async function seriousOf(page: Page): Promise<string[]> {
  // What is still coming into view is looked at once it is there.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter((a) => a.effect?.getTiming().iterations !== Infinity)
        .map((a) => a.finished.catch(() => null)),
    ),
  );
  await page.evaluate(AXE);
  const result = await page.evaluate(() => (window as unknown as { axe: { run: () => Promise<AxeResult> } }).axe.run());
  return result.violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 160)}`));
}
