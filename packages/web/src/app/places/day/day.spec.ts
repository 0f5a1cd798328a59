import type { DayThing, DayView } from '@keen-mortar/contract';
import { cannotBeMet, firstFor, groupsOf, lanesOf, rowOf } from './day.view';
import { leftWords, ribbonOf } from '../../parts/ribbon';

const HOUR = 3_600_000;
const at = (day: number, clock: string) => Date.parse(`2026-11-${String(day).padStart(2, '0')}T${clock}:00Z`);
const NOW = at(12, '10:42');
const opening = (day: number, until = '17:30') => ({ from: at(day, '07:00'), to: at(day, until) });
const OPEN = [opening(12), opening(13), opening(14, '12:00'), opening(16), opening(17)];
const iso = (ms: number) => new Date(ms).toISOString();

const thing = (more: Partial<DayThing> & { opens: number; ends: number | null }): DayThing => ({
  itemIds: ['i'],
  due: 'break',
  group: 'press',
  label: 'Break',
  window: '7 d ± 6 h',
  then: 'not for acceptance',
  what: 'D-34, two',
  where: '',
  openId: `${more.opens} ${more.ends}`,
  openKind: 'specimen-set',
  opensAt: iso(more.opens),
  endsAt: more.ends === null ? null : iso(more.ends),
  doneAt: null,
  attended: true,
  who: 'sallow',
  plannedAt: null,
  fit: { pieces: [], best: more.opens },
  ...more,
});
const row = (opens: number, ends: number | null, more: Partial<DayThing> = {}) => rowOf(thing({ opens, ends, ...more }), NOW, 'Etc/UTC');

describe('the day', () => {
  it('one scale: what is done narrow, the next hour wide, to closing, days to come; back from a place to its moment', () => {
    const { x, at: back, ticks, stretches, closed } = ribbonOf(NOW, 'Etc/UTC', OPEN);
    const moments = [at(12, '07:00'), NOW, NOW + HOUR, at(12, '17:30'), at(14, '12:00'), at(16, '08:00')];
    const places = moments.map(x);
    expect(places).toEqual([...places].sort((a, b) => a - b));
    expect(x(NOW + HOUR) - x(NOW)).toBeGreaterThan(x(NOW) - x(at(12, '07:00')));
    expect([x(0), x(at(30, '00:00'))]).toEqual([0, 1]);
    for (const ms of moments.slice(0, 4)) expect(Math.abs(back(x(ms)) - ms)).toBeLessThan(1000);
    expect(stretches.map((s) => s.label)).toContain('to closing');
    expect(ticks.map((t) => t.text)).toContain('17:30');
    // Closed at night, on Saturday from noon to Monday.
    const shut = closed.find((c) => c.x <= x(at(15, '12:00')) && x(at(15, '12:00')) <= c.x + c.w)!;
    expect(shut.x).toBeCloseTo(x(at(14, '12:00')), 5);
    // After closing it goes on all the same.
    expect(ribbonOf(at(12, '21:00'), 'Etc/UTC', OPEN).stretches.map((s) => s.label)).toContain('next hours');
    expect([leftWords(50 * 60_000), leftWords(108_000), leftWords(3.6 * HOUR), leftWords(53 * HOUR)]).toEqual([
      '50 min',
      '1:48',
      '3 h 36',
      '2 d 5 h',
    ]);
  });

  it('is open, to come or past; what was planned is when it is to be done', () => {
    expect(row(NOW - HOUR, NOW + HOUR).state).toBe('open');
    expect(row(NOW + HOUR, NOW + 2 * HOUR)).toEqual(jasmine.objectContaining({ state: 'later', says: 'from 11:42' }));
    expect(row(NOW - 2 * HOUR, NOW - HOUR)).toEqual(jasmine.objectContaining({ state: 'missed', says: 'past 09:42' }));
    expect(row(NOW - 50 * HOUR, null)).toEqual(jasmine.objectContaining({ state: 'open', says: 'since Tue 08:42' }));
    expect(row(NOW - HOUR, NOW + 4 * 60_000).soon).toBeTrue();
    expect(row(NOW, NOW + HOUR, { plannedAt: iso(NOW + 1000) }).at).toBe(NOW + 1000);
  });

  it('names what ends first for whoever is there, and for everybody where nothing is theirs', () => {
    const rows = [row(NOW, NOW + 3 * HOUR), row(NOW, NOW + 2 * HOUR, { who: 'oakhanger' }), row(NOW - HOUR, NOW - 1)];
    expect(firstFor(rows, 'sallow')?.ends).toBe(NOW + 3 * HOUR);
    expect(firstFor(rows, 'nobody')?.ends).toBe(NOW + 2 * HOUR);
    expect(firstFor([rows[2]!], 'sallow')).toBeNull();
    // Planned earlier it comes earlier.
    const planned = row(NOW, NOW + 9 * HOUR, { plannedAt: iso(NOW + HOUR) });
    expect(firstFor([rows[0]!, planned], 'sallow')).toBe(planned);
  });

  it('groups by where the work is done: what can be done today, at most four, the rest folded', () => {
    const days = Array.from({ length: 6 }, (_d, i) => row(NOW, NOW + (6 - i) * HOUR));
    const later = row(at(20, '08:00'), at(20, '09:00'));
    const view = { timezone: 'Etc/UTC', done: [thing({ opens: 1, ends: 2 })] } as unknown as DayView;
    const shown = (open: string[]) => groupsOf([...days, later], view, NOW, new Set(open) as never)[0]!;
    expect([shown([]).rows.length, shown([]).all, shown([]).done, shown(['press']).rows.length]).toEqual([4, 7, 1, 7]);
    expect(shown([]).rows[0]!.ends).toBe(NOW + HOUR);
  });

  it('says what cannot be met, and two things of one person that end together', () => {
    const shut = row(NOW, NOW + HOUR, { fit: { pieces: [], best: null } });
    // Somebody may come all the same: its bead can be moved, and nothing is planned by that it lies there.
    expect([shut.at, shut.bead, row(NOW - HOUR, NOW + HOUR, { fit: shut.thing.fit }).bead]).toEqual([null, NOW + HOUR / 2, NOW + HOUR / 2]);
    const settled = { ...shut, thing: { ...shut.thing, plannedAt: iso(NOW) } };
    expect(cannotBeMet([shut, settled, row(NOW - 2, NOW - 1, { fit: { pieces: [], best: null } }), row(NOW, NOW + HOUR)])).toEqual([shut]);
    const lanes = lanesOf(
      [row(NOW, NOW + 30 * 60_000), row(NOW, NOW + 33 * 60_000), row(NOW, NOW + 50 * 60_000)],
      ['sallow', 'pendry'],
      NOW,
      'Etc/UTC',
    );
    expect(lanes.map((l) => [l.id, l.today, l.clash.length])).toEqual([['sallow', 3, 2]]);
  });
});
