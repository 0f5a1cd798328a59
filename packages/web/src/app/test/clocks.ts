import {
  boundsOf,
  convert,
  exact,
  fuse,
  inOrder,
  SAMPLE_WINDOWS,
  truckWindow,
  type AnyMethod,
  type Events,
  type Fuse,
  type MethodWindow,
} from '@keen-mortar/core';
import type { Specification } from '@keen-mortar/contract';

/** A test that a clock waits for, or one that has met it. */
export interface Timed {
  readonly method: AnyMethod;
  /** When it was started or read through, ms; null while it was not. */
  readonly doneAt: (must: MethodWindow['must']) => number | null;
}

/** The clocks that run for an item: of the sample itself, of its tests, of the truck; the one that ends first before the others. */
export function clocksOf(events: Events, tests: readonly Timed[], specifications: readonly Specification[], now: number): Fuse[] {
  const own = SAMPLE_WINDOWS.map((w) => fuse(w, events, now));
  const limit = specifications.flatMap((s) => s.limits).find((l) => l.property === 'time-in-truck');
  const most = limit && boundsOf(limit).upper;
  // In minutes, whatever the limit is written in.
  const truck = most === undefined ? null : fuse(truckWindow(convert(exact(most), limit!.unit, 'min').valueOf()), events, now);
  return inOrder([...own, ...testFuses(events, tests, now), truck].filter((f) => f !== null));
}

/** The methods' own windows: one fuse for each that some test still waits for. */
function testFuses(events: Events, tests: readonly Timed[], now: number): Fuse[] {
  const byId = new Map<string, { window: MethodWindow; waiting: string[]; done: number[] }>();
  for (const { method, doneAt } of tests) {
    for (const window of method.windows ?? []) {
      const entry = byId.get(window.id) ?? { window, waiting: [], done: [] };
      const at = doneAt(window.must);
      if (at === null) entry.waiting.push(method.short ?? method.title);
      else entry.done.push(at);
      byId.set(window.id, entry);
    }
  }
  return [...byId.values()].flatMap(({ window, waiting, done }) => {
    const verb = window.must === 'test.started' ? 'to be started' : 'to be read';
    const label = waiting.length > 2 ? `${waiting.length} tests ${verb} in` : `${waiting.join(', ')} ${verb} in`;
    const all: Events = waiting.length > 0 ? events : { ...events, [window.must]: Math.max(...done) };
    const burning = fuse({ ...window, label }, all, now);
    return burning ? [burning] : [];
  });
}
