import type { Page, PourDetail, Pour, Sample } from '@keen-mortar/contract';
import { idFor, loadDemo, momentFrom } from '../src/demo.js';
import { Harness, LOADED_AT } from './harness.js';

describe('the demo scenario', () => {
  let h: Harness;
  beforeAll(async () => (h = await Harness.withDemo()));
  afterAll(() => h.stop());

  it('lies around the day it was loaded: two pours, twelve loads, three mixes', async () => {
    const list = await h.get<Page<Pour>>(`/pours?project=${idFor('quillmouth')}`);
    expect(list.body.items.filter((p) => p.name.startsWith('Boardwalk')).map((p) => [p.name, p.on, p.loads, p.samples])).toEqual([
      ['Boardwalk span 4', '2026-11-25', 6, 2],
      ['Boardwalk span 3', '2026-11-24', 6, 3],
    ]);
    const mixes = await h.get<Page<unknown>>(`/mixes?project=${idFor('quillmouth')}`);
    expect(mixes.body.total).toBeGreaterThanOrEqual(3);
  });

  it('holds one over-watered load whose check test is out too', async () => {
    const sample = (await h.get<Sample>(`/samples/${idFor('sample span-3-3')}`)).body;
    const slumps = sample.tests.filter((t) => t.method === 'slump');
    expect(slumps.map((t) => t.kept?.judged[0]?.verdicts[0]?.state)).toEqual(['out', 'out']);
    expect(slumps[1]?.retestOf).toBe(slumps[0]!.id);
    expect(sample.load.water.length).toBe(1);
    const pour = (await h.get<PourDetail>(`/pours/${idFor('span-3')}`)).body;
    expect(pour.out).toBe(1);
  });

  it('holds a void slump with its repeat, a meter past its calibration and a correction', async () => {
    const voided = (await h.get<Sample>(`/samples/${idFor('sample span-4-3')}`)).body.tests.filter((t) => t.method === 'slump');
    expect(voided.map((t) => t.kept?.evaluation.validity.state)).toEqual(['void', 'valid']);
    const air = (await h.get<Sample>(`/samples/${idFor('sample span-4-1')}`)).body.tests.find((t) => t.method === 'pressure-air');
    expect(air?.kept?.evaluation.validity.reasons.map((r) => r.code)).toEqual(['out-of-calibration']);
    const corrected = (await h.get<Sample>(`/samples/${idFor('sample span-3-5')}`)).body.tests.find((t) => t.method === 'yield');
    const full = corrected!.readings.filter((r) => r.field === 'full');
    expect(full.map((r) => r.supersedes)).toEqual([null, full[0]!.id]);
    expect(corrected?.kept?.turn).toBe(1);
  });

  it('is loaded only into an empty database', async () => {
    expect(await loadDemo(h.pool, 'nowhere', LOADED_AT)).toBeFalse();
  });

  it('reads relative moments in the zone of the project', () => {
    const at = (text: string, zone: string) => momentFrom(text, LOADED_AT, zone).toISOString();
    expect(at('minutes -3.5', 'Etc/UTC')).toBe('2026-11-25T11:56:30.000Z');
    expect(at('day -1 08:05', 'Etc/GMT-2')).toBe('2026-11-24T06:05:00.000Z');
    expect(() => at('soon', 'Etc/UTC')).toThrowError(/not a moment/);
  });
});
