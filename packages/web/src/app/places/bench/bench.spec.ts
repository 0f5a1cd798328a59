import type { BenchRun, BenchView } from '@keen-mortar/contract';
import { runById } from '@keen-mortar/core';
import { clashOf, inOrder, laneOf, planBack, type Lane } from './bench.view';

const HOUR = 3_600_000;
/** A Wednesday, at ten. */
const NOW = Date.parse('2026-11-11T10:00:00Z');
const at = (hours: number) => NOW + hours * HOUR;

/** Somebody is there from seven to five. */
const openings = [-24, 0, 24, 48].map((day) => ({ from: at(day - 3), to: at(day + 7) }));
const view: BenchView = { now: new Date(NOW).toISOString(), timezone: 'Etc/UTC', openings, runs: [], more: false };

const run = (code: string, job: string, steps: Readonly<Record<string, number>>, more: Partial<BenchRun> = {}): BenchRun => ({
  itemId: code,
  code,
  where: 'B-1',
  by: 'p',
  facts: {
    run: job,
    steps: Object.entries(steps).map(([step, hours]) => ({ step, at: new Date(at(hours)).toISOString() })),
  },
  tests: [],
  cone: null,
  ...more,
});
const lane = (...of: Parameters<typeof run>): Lane => laneOf(run(...of), view, NOW)!;

describe('the bench', () => {
  it('says of each run what it waits for and until when, and puts first what ends first of what can be done', () => {
    const soaked = lane('soaked', 'fine-aashto', { soak: -17 });
    const soaking = lane('soaking', 'fine-aashto', { soak: -10 });
    const long = lane('long', 'fine-aashto', { soak: -20 });
    const dry = lane('dry', 'bulk', { oven: -2 });
    const done = lane('done', 'bulk', { oven: -5, dry: -3, filled: -1 });
    expect([soaked, soaking, long, dry, done].map((l) => [l.state, l.until])).toEqual([
      ['open', '2 h 00 left'],
      ['later', 'from 15:00'],
      ['late', 'past 09:00'],
      ['open', 'now'],
      ['done', 'done'],
    ]);
    expect(inOrder([done, soaking, soaked, long]).map((l) => l.run.code)).toEqual(['long', 'soaked', 'soaking', 'done']);
    expect(laneOf(run('other', 'no-such-run', {}), view, NOW)).toBeNull();
  });

  it('plans what is left into the hours in which somebody is there, or says what cannot be', () => {
    const soaking = lane('soaking', 'fine-aashto', { soak: -10 });
    expect(soaking.planned[0]!.id).toBe('cone');
    // From 15:00 to 19:00, and they close at 17:00.
    expect(soaking.planned[0]!.at >= at(5) && soaking.planned[0]!.at <= at(7)).toBeTrue();
    expect([soaking.cannot, lane('done', 'bulk', { oven: -5, dry: -3, filled: -1 }).planned]).toEqual(['', []]);
    // Into the water in the evening, out of it at night: nobody is there.
    expect(lane('night', 'coarse-aashto', { soak: -1, dry: -3 }).cannot).toContain('Drain, towel to SSD, weigh');
  });

  it('is planned back from when it has to be ready, and waits for its first step then; too soon it says what has no time', () => {
    const job = runById('bulk')!;
    const ready = at(26);
    const { planned, cannot } = planBack(job, ready, openings, NOW);
    expect([cannot, planned.map((p) => p.id)]).toEqual(['', job.events.map((e) => e.id)]);
    expect([planned.at(-1)!.at <= ready, planned[0]!.at >= NOW]).toEqual([true, true]);
    const begins = new Date(planned[0]!.at).toISOString();
    const waiting = laneOf({ ...run('planned', 'bulk', {}), facts: { run: 'bulk', begins } as never }, view, NOW)!;
    expect([waiting.next?.id, waiting.next?.opensAt]).toEqual([job.events[0]!.id, planned[0]!.at]);
    expect(planBack(job, at(0.2), openings, NOW).cannot).not.toBe('');
    expect(planBack(job, at(24 * 30), openings, NOW)).toEqual({ planned: [], cannot: 'runs are planned 10 days ahead at the most' });
  });

  it('keeps sand out of the flask until the cone shows it at SSD, or somebody has weighed it with a reason', () => {
    const steps = { soak: -17, cone: -0.5 };
    const locked = (more: Partial<BenchRun> = {}) => lane('sand', 'fine-aashto', steps, more).locked;
    expect([locked(), locked({ cone: 'no' }), locked({ cone: 'yes' })]).toEqual([true, true, false]);
    expect(locked({ tests: [{ id: 't', method: 'fine-gravity', says: '' }] })).toBeFalse();
    expect(lane('sand', 'fine-aashto', { soak: -17 }).locked).toBeFalse();
  });

  it('tells of two that end together, and not of two that do not', () => {
    const [a, b, c] = [17, 16.9, 15.5].map((hours, i) => lane(`sand ${i}`, 'fine-aashto', { soak: -hours }));
    expect(clashOf([a!, c!, b!], NOW)!.map((l) => l.run.code)).toEqual(['sand 0', 'sand 1']);
    expect(clashOf([a!, c!], NOW)).toBeNull();
  });
});
