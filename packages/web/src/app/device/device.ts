import { Injectable } from '@angular/core';
import type { Sample } from '@keen-mortar/contract';
import { openDeviceDb, type Command, type Draft } from './device-db';

/** How many sheets stay readable without the network. */
const SHEETS = 20;

@Injectable({ providedIn: 'root' })
export class Device {
  private readonly db = openDeviceDb();

  draftsOf = (sampleId: string): Promise<Draft[]> => this.db.drafts.where('sampleId').equals(sampleId).toArray();
  putDraft = (draft: Draft): Promise<unknown> => this.db.drafts.put(draft);
  dropDraft = (testId: string): Promise<void> => this.db.drafts.delete(testId);

  commands = (): Promise<Command[]> => this.db.commands.orderBy('order').toArray();
  putCommands = (commands: readonly Command[]): Promise<unknown> => this.db.commands.bulkPut([...commands]);
  dropCommand = (id: string): Promise<void> => this.db.commands.delete(id);

  seen = (id: string): Promise<Sample | undefined> => this.db.samples.get(id);
  async remember(sample: Sample): Promise<void> {
    await this.db.samples.put(sample);
    const ids = await this.db.samples.toCollection().primaryKeys();
    if (ids.length > SHEETS) await this.db.samples.bulkDelete(ids.filter((id) => id !== sample.id).slice(0, ids.length - SHEETS));
  }
}
