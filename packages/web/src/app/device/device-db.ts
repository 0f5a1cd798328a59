import type { Problem, Sample } from '@keen-mortar/contract';
import type { AnyInputs, UnitId } from '@keen-mortar/core';
import { Dexie, type EntityTable } from 'dexie';

/** One value being keyed. `reading` is the id that it will have when kept: a repeat of the keep is the same reading. */
export interface DraftEntry {
  readonly text: string;
  readonly unit: UnitId | null;
  readonly at: string;
  readonly reading: string;
  readonly reason?: string;
  /** The instrument that it was taken from; none: by hand. */
  readonly device?: string;
}

/** A test being keyed on this device: survives reload, crash and a flat battery. */
export interface Draft {
  readonly testId: string;
  readonly sampleId: string;
  readonly method: string;
  readonly variant: string;
  readonly variantReason: string | null;
  readonly system: 'si' | 'us';
  readonly equipmentId: string | null;
  /** What is used beside it. */
  readonly alsoIds: readonly string[];
  /** Why any of it is used although something speaks against it. */
  readonly kitReason: string;
  readonly retestOf: string | null;
  /** When the test was started: the first key or the first clock, unless the person says otherwise. */
  readonly startedAt: string | null;
  /** When all of it was read, where it was written on paper first; else each as it was keyed. */
  readonly readAt: string | null;
  /** The server knows the test already. */
  readonly exists: boolean;
  readonly entries: Readonly<Record<string, DraftEntry>>;
  /** Stopwatches that run: field → started, ms by the server's clock. */
  readonly watches: Readonly<Record<string, number>>;
  readonly state: 'open' | 'keeping';
  readonly problem: Problem | null;
}

/** A write that waits for the server; sent in order, and safe to send twice. */
export interface Command {
  readonly id: string;
  readonly order: number;
  /** The item that it is of: what is written on one goes in order. */
  readonly itemId: string;
  /** Where its sheet is, for whoever has to look at it. */
  readonly opens: string;
  readonly kind:
    | 'event'
    | 'test'
    | 'keep'
    | 'item'
    | 'entries'
    | 'voiding'
    | 'file'
    | 'pour'
    | 'load'
    | 'water'
    | 'sample'
    | 'equipment'
    | 'calibration'
    | 'kit-finding'
    | 'mix'
    | 'revision'
    | 'specification'
    | 'meeting'
    | 'acceptance'
    | 'look'
    | 'own-copy'
    | 'specimens'
    | 'certificate'
    | 'planned'
    | 'hours'
    | 'view'
    | 'report'
    | 'view-removal'
    | 'decision'
    | 'decision-withdrawal';
  readonly path: string;
  readonly body: Readonly<Record<string, unknown>> & { readonly id: string };
  readonly testId?: string;
  /** What is sent in place of the body, which is said in the path then. */
  readonly file?: Blob;
  /** Held back until then, ms by this device's clock: a slip of the thumb can be taken back. */
  readonly heldUntil?: number;
}

/** A write that was refused for good: kept until somebody has looked at it. */
export interface Aside {
  readonly id: string;
  readonly command: Command;
  readonly problem: Problem;
}

/** Readings of a test, or facts of an item, being keyed: survive reload, crash and a flat battery. */
export interface InHand {
  /** Of the test, or of the item whose facts they are. */
  readonly id: string;
  readonly itemId: string;
  readonly method: string;
  readonly variant: string;
  readonly system: 'si' | 'us';
  readonly inputs: AnyInputs;
}

/** A sheet as it was seen last, and when. */
export interface Seen {
  readonly id: string;
  readonly sample: Sample;
  readonly at: number;
}

/** What the server answered last to a question, and when. */
export interface Answer {
  readonly url: string;
  readonly body: unknown;
  readonly at: number;
}

export type DeviceDb = Dexie & {
  answers: EntityTable<Answer, 'url'>;
  drafts: EntityTable<Draft, 'testId'>;
  commands: EntityTable<Command, 'id'>;
  aside: EntityTable<Aside, 'id'>;
  seen: EntityTable<Seen, 'id'>;
  hands: EntityTable<InHand, 'id'>;
};

const onceBegun = (draft: Partial<Draft>): void => {
  Object.assign(draft, { alsoIds: [], kitReason: '', readAt: null, ...draft });
};

/** What this device keeps by itself: drafts, writes that wait, and the sheets it has seen. */
export function openDeviceDb(name = 'keen-mortar'): DeviceDb {
  const db = new Dexie(name) as DeviceDb;
  db.version(2).stores({
    drafts: 'testId, sampleId',
    commands: 'id, order',
    samples: null,
    aside: 'id',
    seen: 'id, at',
    hands: 'id, itemId',
  });
  // What was begun before a test said what it is made with goes on as if nothing had been chosen; sheets are asked for anew.
  db.version(3)
    .stores({})
    .upgrade(async (tx) => {
      await tx.table('seen').clear();
      await tx.table<Partial<Draft>>('drafts').toCollection().modify(onceBegun);
    });
  db.version(4).stores({ answers: 'url, at' });
  // What the station reads has grown: what was answered before it is asked for anew.
  db.version(5)
    .stores({})
    .upgrade((tx) => tx.table('answers').clear());
  // What is found of several things together comes with every answer now.
  db.version(6)
    .stores({})
    .upgrade(async (tx) => {
      await tx.table('answers').clear();
      await tx.table('seen').clear();
    });
  return db;
}
