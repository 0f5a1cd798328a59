import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { dayIn, newCertificate, type NewLoad } from '@keen-mortar/contract';
import {
  newCalibration,
  newEquipment,
  newLoad,
  newAcceptance,
  newDecision,
  newLook,
  newMeeting,
  newMix,
  newPour,
  newProject,
  newRevision,
  newSample,
  newSampleEvent,
  newSpecification,
  newTest,
  newWater,
  keep,
  type Amount,
} from '@keen-mortar/contract';
import {
  flatten,
  ITEM_KINDS,
  KIT_VALUES,
  methodById,
  unspell,
  type AnyMethod,
  type ItemKind,
  type KitKind,
  type Shape,
  type Spelled,
} from '@keen-mortar/core';
import Papa from 'papaparse';
import { DateTime } from 'luxon';
import type { Pool, PoolConnection } from 'mysql2/promise';
import type * as z from 'zod';
import { transaction } from './db.js';
import type { Act } from './actor.js';
import { amendItem, makeItem } from './commands/items.js';
import { calibrate, makeEquipment } from './commands/kit.js';
import { certify } from './commands/people.js';
import { accept, lookAt, makeMix, meet, makeProject, makeRevision, makeSpecification } from './commands/office.js';
import { decide } from './commands/decisions.js';
import { judgeLine, judgeTouched } from './commands/findings.js';
import { keepReadings, startTest } from './commands/tests.js';
import { happen, loadItem, pourItem, sampleItem, waterEntries } from './commands/pouring.js';
import { itemsNamed } from './store/items.js';
import { insertPerson } from './store/people.js';
import { countOf } from './store/projects.js';

/** Files name things by readable keys; the tables want ids: the same key is always the same id. */
export function idFor(key: string): string {
  const hex = createHash('sha1').update(`keen-mortar demo ${key}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/**
 * Moments in the files are relative, so that the scenario lies around the day it is loaded:
 * `day -1 09:10` in the project's zone, or `minutes -35`, with seconds as a decimal (`minutes -3.5`).
 */
export function momentFrom(text: string, now: Date, zone: string): Date {
  const [kind, amount, clock] = text.split(' ');
  const base = DateTime.fromJSDate(now, { zone });
  if (kind === 'minutes')
    return base
      .startOf('minute')
      .plus({ minutes: Number(amount) })
      .toJSDate();
  if (kind === 'day' && clock !== undefined) {
    const [hour, minute] = clock.split(':').map(Number);
    return base
      .startOf('day')
      .plus({ days: Number(amount) })
      .set({ hour: hour ?? 0, minute: minute ?? 0 })
      .toJSDate();
  }
  throw new Error(`not a moment: ${text}`);
}

type Raw = Record<string, unknown>;

interface RawPerson {
  key: string;
  name: string;
  role: string;
  certificates?: { what: string; from: string; until: string }[];
}

interface RawTest extends Raw {
  key: string;
  method: string;
  variant: string;
  by: string;
  started: string;
  equipment?: string;
  kitReason?: string;
  retestOf?: string;
  keeps: { by: string; readings: { field: string; text: string; unit?: string; at: string; reason?: string; corrects?: boolean }[] }[];
}

interface RawSample extends Raw {
  key: string;
  load: string;
  by: string;
  events: { kind: string; at: string }[];
  tests: RawTest[];
}

interface RawItem extends Raw {
  key: string;
  kind: ItemKind;
  in?: string;
  mix?: string;
  name?: string;
  made: string;
  by: string;
  facts: Spelled;
  later?: { at: string; by: string; facts: Spelled };
  tests?: { method: string; variant?: string; at: string; by: string; readings: Spelled; reason?: string; also?: string[] }[];
}

/** Loads the demonstration scenario into an empty database; all of it or nothing. */
export async function loadDemo(
  pool: Pool,
  folder: string,
  now: Date,
  zone = Intl.DateTimeFormat().resolvedOptions().timeZone,
): Promise<boolean> {
  if ((await countOf(pool, 'person')) > 0) return false;
  await transaction(pool, (cx) => new Loader(cx, folder, now, zone).load());
  return true;
}

type RawRevision = Raw & { from: string; made: string; number: number; ingredients: (Raw & { source?: string })[] };

class Loader {
  private by = '';
  private projectId = '';
  private writes = 0;
  /** All that the scenario makes is judged once, when all of it is there. */
  private readonly touched: Act['touched'] = new Map();

  constructor(
    private readonly cx: PoolConnection,
    private readonly folder: string,
    private readonly now: Date,
    private readonly zone: string,
  ) {}

  async load(): Promise<void> {
    for (const { key, name, role, certificates } of await this.json<RawPerson[]>('people')) {
      await insertPerson(this.cx, { id: idFor(key), name, role });
      this.by ||= idFor(key);
      for (const { what, from, until } of certificates ?? []) {
        const [begins, ends] = [from, until].map((text) => dayIn(this.zone, this.at(text))) as [string, string];
        const own = { id: idFor(`${key} ${what}`), by: this.by, personId: idFor(key), what, from: begins, until: ends };
        await certify(this.cx, this.act(), this.parse(newCertificate, own));
      }
    }
    const project = await this.json<Raw>('project');
    const projectId = (this.projectId = idFor(String(project['key'])));
    await makeProject(this.cx, this.act(), this.parse(newProject, { ...without(project, 'key'), id: projectId, timezone: this.zone }));
    for (const s of await this.json<(Raw & { key: string; limits: Raw[] })[]>('specifications')) {
      const limits = s.limits.map((l, i) => ({ ...l, id: idFor(`${s.key} limit ${i}`) }));
      await makeSpecification(
        this.cx,
        this.act(),
        this.parse(newSpecification, { ...without(s, 'key'), id: idFor(s.key), projectId, limits }),
      );
    }
    const items = await this.json<RawItem[]>('items');
    for (const source of items.filter((i) => i.kind === 'source')) await this.loadItem(source);
    await this.loadMeetings();
    const planned = await this.loadMixes(projectId);
    await this.loadKit(projectId);
    for (const p of await this.json<(Raw & { key: string; mix: string; on: number; weather: string; air: Amount })[]>('pours')) {
      const on = DateTime.fromJSDate(this.now, { zone: this.zone }).plus({ days: p.on }).toISODate();
      await makeItem(
        this.cx,
        this.act(),
        pourItem(
          this.parse(newPour, { ...without(p, 'key', 'mix', 'weather', 'air'), id: idFor(p.key), projectId, mixId: idFor(p.mix), on }),
        ),
      );
      const at = this.now.toISOString();
      const readings = [
        { id: idFor(`${p.key} weather`), field: 'weather', text: p.weather, unit: null, at },
        { id: idFor(`${p.key} air`), field: 'air', ...p.air, at },
      ];
      await amendItem(this.cx, this.act(), idFor(p.key), this.parse(keep, { id: idFor(`${p.key} facts`), readings }));
    }
    await this.loadTickets();
    for (const item of items.filter((i) => i.kind !== 'source')) await this.loadItem(item);
    await this.loadItemTests(items);
    await this.loadAcceptances();
    // What takes gravities of the sources comes after what found them.
    for (const revise of planned) await revise();
    for (const sample of await this.json<RawSample[]>('samples')) await this.loadSample(sample);
    const specimens = await this.json<RawItem[]>('specimens');
    for (const item of specimens) await this.loadItem(item);
    await this.loadItemTests(specimens);
    const series = await this.json<RawItem[]>('series');
    for (const item of series) await this.loadItem(item);
    await this.loadItemTests(series);
    // What was cast first first: the means of later ones read it.
    const heads = await itemsNamed(this.cx, [...this.touched.keys()]);
    for (const { id } of heads.sort((a, b) => Date.parse(a.at) - Date.parse(b.at))) await judgeLine(this.cx, id);
    await this.loadDecisions();
  }

  /** Somebody's word comes after what was found; what hangs on it is judged once more. */
  private async loadDecisions(): Promise<void> {
    for (const d of await this.json<(Raw & { key: string; on: string; by: string; at: string })[]>('decisions')) {
      const act = { ...this.act(idFor(d.by), new Date(this.at(d.at))), touched: new Map() };
      const own = { id: idFor(d.key), by: act.personId, subjectId: idFor(d.on), whoId: act.personId, at: act.now.toISOString() };
      await decide(this.cx, act, this.parse(newDecision, { ...without(d, 'key', 'on'), ...own }));
      await judgeTouched(this.cx, act);
    }
  }

  private async loadMeetings(): Promise<void> {
    for (const m of await this.json<{ key: string; item: string; specifications: string[]; from: string }[]>('meetings')) {
      const body = { id: idFor(m.key), from: this.at(m.from), specificationIds: m.specifications.map(idFor) };
      await meet(this.cx, this.act(this.by, new Date(body.from)), idFor(m.item), this.parse(newMeeting, body));
    }
  }

  private async loadAcceptances(): Promise<void> {
    for (const a of await this.json<{ key: string; source: string; test: string; from: string; by: string; why: string }[]>(
      'acceptances',
    )) {
      const act = this.act(idFor(a.by), new Date(this.at(a.from)));
      const body = { id: idFor(a.key), by: act.personId, testId: idFor(a.test), from: act.now.toISOString(), why: a.why };
      await accept(this.cx, act, idFor(a.source), this.parse(newAcceptance, body));
    }
    for (const l of await this.json<{ key: string; mix: string; test: string; at: string; by: string; why: string }[]>('looks')) {
      const act = this.act(idFor(l.by), new Date(this.at(l.at)));
      const body = { id: idFor(l.key), by: act.personId, testId: idFor(l.test), why: l.why };
      await lookAt(this.cx, act, idFor(l.mix), this.parse(newLook, body));
    }
  }

  /** @returns what is planned of the mixes: revisions after the first */
  private async loadMixes(projectId: string): Promise<(() => Promise<void>)[]> {
    const planned: (() => Promise<void>)[] = [];
    for (const mix of await this.json<(Raw & { key: string; specifications: string[]; revisions: RawRevision[] })[]>('mixes')) {
      const { key, specifications, revisions, ...rest } = mix;
      await makeMix(this.cx, this.act(), this.parse(newMix, { ...rest, id: idFor(key), projectId }));
      for (const { from, made, ingredients, ...revision } of revisions) {
        const body = {
          ...revision,
          id: idFor(`${key} revision ${revision.number}`),
          effectiveFrom: this.at(from),
          specificationIds: specifications.map(idFor),
          ingredients: ingredients.map(({ source, ...i }) => (source === undefined ? i : { ...i, sourceId: idFor(source) })),
        };
        const revise = () => makeRevision(this.cx, this.act(this.by, new Date(this.at(made))), idFor(key), this.parse(newRevision, body));
        if (revision.number === 1) await revise();
        else planned.push(revise);
      }
    }
    return planned;
  }

  private async loadKit(projectId: string): Promise<void> {
    for (const kit of await this.json<
      (Raw & { key: string; kind: KitKind; calibrations: { on: number; due?: number; values: Raw[] }[] })[]
    >('kit')) {
      const { key, calibrations, ...rest } = kit;
      await makeEquipment(this.cx, this.act(), this.parse(newEquipment, { ...rest, id: idFor(key), projectId }));
      if (KIT_VALUES[kit.kind].own.length + KIT_VALUES[kit.kind].calibrated.length === 0 && !this.shelves.has(kit.kind))
        this.shelves.set(kit.kind, idFor(key));
      for (const [i, c] of calibrations.entries()) {
        const day = (days: number) => DateTime.fromJSDate(this.now, { zone: this.zone }).plus({ days }).toISODate();
        await calibrate(
          this.cx,
          this.act(),
          idFor(key),
          this.parse(newCalibration, {
            id: idFor(`${key} calibration ${i}`),
            on: day(c.on),
            ...(c.due === undefined ? {} : { due: day(c.due) }),
            values: c.values,
          }),
        );
      }
    }
  }

  /** What a test is made with: the first of each kind that its method asks for. Whatever enters a result is said in the test. */
  private readonly shelves = new Map<KitKind, string>();
  private madeWith(m: AnyMethod, also: readonly string[] = []): { equipmentId: string | null; alsoIds: string[] } {
    return {
      equipmentId: (m.kit && this.shelves.get(m.kit)) ?? null,
      alsoIds: [...(m.uses ?? []).flatMap((kind) => this.shelves.get(kind) ?? []), ...also.map(idFor)],
    };
  }

  /** Batch tickets are CSV, a line for each material: what a plant would send. */
  private async loadTickets(): Promise<void> {
    const text = await readFile(join(this.folder, 'tickets.csv'), 'utf8');
    const lines = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true }).data;
    const tickets = new Map<string, Record<string, string>[]>();
    for (const line of lines) tickets.set(line['load']!, [...(tickets.get(line['load']!) ?? []), line]);
    for (const [key, materials] of tickets) {
      const first = materials[0]!;
      const body: z.input<typeof newLoad> = {
        id: idFor(key),
        by: this.by,
        number: Number(first['number']),
        ticket: first['ticket']!,
        truck: first['truck']!,
        batchedAt: this.at(first['batched']!),
        design: { text: first['volume']!, unit: first['volume_unit'] as NewLoad['design']['unit'] },
        materials: materials
          .filter((m) => m['role'] !== 'water-added')
          .map((m) => ({
            name: m['material']!,
            role: m['role'] as 'water',
            target: m['target']!,
            actual: m['actual']!,
            unit: m['unit'] as 'kg',
            ...(m['moisture'] ? { moisture: m['moisture'], absorption: m['absorption']! } : {}),
          })),
      };
      await makeItem(this.cx, this.act(), loadItem(this.projectId, idFor(first['pour']!), this.parse(newLoad, body)));
      for (const m of materials.filter((line) => line['role'] === 'water-added')) {
        const at = DateTime.fromISO(this.at(first['batched']!)).plus({ minutes: 20 }).toISO();
        const water = this.parse(newWater, { id: idFor(`${key} water`), mass: { text: m['actual'], unit: m['unit'] }, at });
        await amendItem(this.cx, this.act(), idFor(key), waterEntries(water, this.now));
      }
    }
  }

  private async loadSample(sample: RawSample): Promise<void> {
    const by = idFor(sample.by);
    const [first, ...events] = sample.events;
    const body = this.parse(newSample, { id: idFor(sample.key), by, loadId: idFor(sample.load), firstPortionAt: this.at(first!.at) });
    await makeItem(this.cx, this.act(by), sampleItem(this.projectId, body));
    for (const [i, e] of events.entries()) {
      const event = this.parse(newSampleEvent, { ...e, id: idFor(`${sample.key} event ${i}`), by, at: this.at(e.at) });
      await happen(this.cx, this.act(by, new Date(Date.parse(event.at))), idFor(sample.key), event);
    }
    for (const test of sample.tests) await this.loadTest(sample, test);
  }

  private async loadTest(sample: RawSample, test: RawTest): Promise<void> {
    const id = idFor(test.key);
    const body = {
      id,
      by: idFor(test.by),
      method: test.method,
      variant: test.variant,
      system: 'si',
      startedAt: this.at(test.started),
      equipmentId: test.equipment === undefined ? null : idFor(test.equipment),
      ...(test.kitReason === undefined ? {} : { kitReason: test.kitReason }),
      retestOf: test.retestOf === undefined ? null : idFor(test.retestOf),
    };
    await startTest(this.cx, this.act(body.by), idFor(sample.key), this.parse(newTest, body));
    const current = new Map<string, string>();
    for (const [turn, k] of test.keeps.entries()) {
      const readings = k.readings.map(({ field, text, unit, at, reason, corrects }) => {
        const readingId = idFor(`${test.key} ${field} ${turn}`);
        const supersedes = corrects ? current.get(field) : undefined;
        current.set(field, readingId);
        return {
          id: readingId,
          field,
          text,
          unit: unit ?? null,
          at: this.at(at),
          ...(supersedes ? { supersedes } : {}),
          ...(reason ? { reason } : {}),
        };
      });
      const last = readings
        .map((r) => r.at)
        .sort()
        .at(-1)!;
      const kept = this.parse(keep, { id: idFor(`${test.key} keep ${turn}`), by: idFor(k.by), readings });
      await keepReadings(this.cx, this.act(idFor(k.by), new Date(last)), id, kept);
    }
  }

  /** An item of any kind, as the page would have made it. */
  private async loadItem({ key, kind, mix, name, made, by, facts, later, tests: _tests, ...raw }: RawItem): Promise<void> {
    const shape = ITEM_KINDS[kind].facts;
    await makeItem(this.cx, this.act(idFor(by), new Date(this.at(made))), {
      id: idFor(key),
      by: idFor(by),
      kind,
      projectId: this.projectId,
      parentId: raw.in === undefined ? null : idFor(raw.in),
      ...(name === undefined ? {} : { name }),
      ...(mix === undefined ? {} : { subjectId: idFor(mix) }),
      facts: unspell(shape, this.dated(shape, facts)),
    });
    if (!later) return;
    const act = this.act(idFor(later.by), new Date(this.at(later.at)));
    const readings = flatten(shape, unspell(shape, this.dated(shape, later.facts))).map(({ path, text, unit }) => ({
      id: idFor(`${key} later ${path}`),
      field: path,
      text,
      unit,
      at: act.now.toISOString(),
    }));
    await amendItem(this.cx, act, idFor(key), this.parse(keep, { id: idFor(`${key} later`), by: act.personId, readings }));
  }

  /** Their tests in the order in which they were made: some take what others give. */
  private async loadItemTests(items: readonly RawItem[]): Promise<void> {
    const all = items.flatMap(({ key, tests = [] }) => tests.map((test, n) => ({ key, test, n, at: new Date(this.at(test.at)) })));
    for (const { key, test, n, at } of all.sort((a, b) => a.at.getTime() - b.at.getTime())) {
      const m = methodById(test.method)!;
      const [id, act] = [idFor(`${key} test ${n}`), this.act(idFor(test.by), at)];
      const variant = test.variant ?? Object.keys(m.variants)[0]!;
      const body = {
        id,
        by: act.personId,
        method: m.id,
        variant,
        system: 'si',
        startedAt: act.now.toISOString(),
        ...this.madeWith(m, test.also),
        retestOf: null,
      };
      await startTest(this.cx, act, idFor(key), this.parse(newTest, body));
      const readings = flatten(m.fields as Shape, unspell(m.fields as Shape, test.readings)).map(({ path, text, unit }) => ({
        id: idFor(`${key} test ${n} ${path}`),
        field: path,
        text,
        unit,
        at: act.now.toISOString(),
        ...(test.reason ? { reason: test.reason } : {}),
      }));
      await keepReadings(this.cx, act, id, this.parse(keep, { id: idFor(`${key} keep ${n}`), by: act.personId, readings }));
    }
  }

  /** Moments of the files are relative: those among the facts too. */
  private dated(shape: Shape, facts: Spelled): Spelled {
    return Object.fromEntries(
      Object.entries(facts).map(([id, value]) => {
        const field = shape[id];
        if (field?.kind === 'instant') return [id, this.at(value as string)];
        if (field?.kind === 'rows') return [id, (value as Spelled[]).map((row) => this.dated(field.of as Shape, row))];
        return [id, value];
      }),
    );
  }

  /** A write of the scenario: by whoever, when it happened. */
  private act(personId = this.by, now = this.now): Act {
    return { personId, writeId: idFor(`write ${++this.writes}`), now, touched: this.touched };
  }

  private at(text: string): string {
    return momentFrom(text, this.now, this.zone).toISOString();
  }

  private async json<T>(name: string): Promise<T> {
    return JSON.parse(await readFile(join(this.folder, `${name}.json`), 'utf8')) as T;
  }

  /** Demo data comes through the same schemas as anybody's. */
  private parse<T>(schema: z.ZodType<T>, body: Raw): T {
    return schema.parse({ by: this.by, ...body });
  }
}

const without = (row: Raw, ...keys: string[]): Raw => Object.fromEntries(Object.entries(row).filter(([key]) => !keys.includes(key)));
