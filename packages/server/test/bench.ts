import type { KeepAnswer, Problem, Sheet, Test } from '@keen-mortar/contract';
import { exampleOf } from '@keen-mortar/core/examples';
import { flatten, methodById, type ItemKind, type Shape } from '@keen-mortar/core';
import { idFor } from '../src/demo.js';
import { type Harness, id, LOADED_AT, people } from './harness.js';

export const by = people.oakhanger;
export const at = (seconds: number) => new Date(LOADED_AT.getTime() + seconds * 1000).toISOString();
export const projectId = idFor('quillmouth');

/** A record of any kind of item, made as the page makes it. */
export class Bench {
  constructor(readonly h: Harness) {}

  async item(kind: ItemKind, parentId: string | null, facts: object = {}, more: object = {}): Promise<Sheet> {
    const answer = await this.h.post<Sheet & Problem>('/items', {
      id: id(),
      by,
      kind,
      projectId: await this.project(),
      parentId,
      facts,
      ...more,
    });
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return answer.body;
  }

  async project(): Promise<string> {
    const found = (await this.h.get<{ items: { id: string }[] }>('/projects')).body.items;
    return found.find((p) => p.id === projectId)?.id ?? found[0]!.id;
  }

  async start(itemId: string, method: string, more: object = {}): Promise<string> {
    const testId = id();
    const variant = Object.keys(methodById(method)!.variants)[0]!;
    const kitReason = 'nobody wrote down which';
    const body = {
      id: testId,
      by,
      method,
      variant,
      system: 'si',
      startedAt: at(600),
      equipmentId: null,
      kitReason,
      retestOf: null,
      ...more,
    };
    const answer = await this.h.post<Problem>(`/items/${itemId}/tests`, body);
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return testId;
  }

  /** A load for a test of its own; of today's pour where none is named. */
  async load(number: number, pourId = idFor('span-4')): Promise<string> {
    const loadId = id();
    const answer = await this.h.post<Problem>(`/pours/${pourId}/loads`, {
      id: loadId,
      by,
      number,
      ticket: `F-${number}`,
      reason: 'for a test of its own',
      truck: '1',
      batchedAt: at(-600),
      design: { text: '6', unit: 'm3' },
      materials: [{ name: 'All', role: 'coarse', actual: '13000', unit: 'kg' }],
    });
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return loadId;
  }

  /** A sample whose composite counts. */
  async sample(loadId: string): Promise<string> {
    const sampleId = id();
    await this.h.post('/samples', { id: sampleId, by, loadId, firstPortionAt: at(0) });
    await this.h.post(`/samples/${sampleId}/events`, { id: id(), by, kind: 'portion', at: at(30), part: 'middle' });
    await this.h.post(`/samples/${sampleId}/events`, { id: id(), by, kind: 'finished', at: at(60) });
    return sampleId;
  }

  keep = <T = KeepAnswer>(testId: string, readings: object[]) => this.h.post<T>(`/tests/${testId}/readings`, { id: id(), by, readings });
}

export const reading = (field: string, text: string | null, unit: string | null, more: object = {}) => ({
  id: id(),
  field,
  text,
  unit,
  at: at(700),
  ...more,
});

/** The worked example of a method as readings of a test, rows by their ids. */
export const exampleReadings = (method: string) => {
  const m = methodById(method)!;
  return flatten(m.fields as Shape, exampleOf(m)).map(({ path, text, unit }) => reading(path, text, unit));
};

export const reported = (test: Test, result: string) => test.kept?.evaluation.results.find((r) => r.id === result)?.reported;
