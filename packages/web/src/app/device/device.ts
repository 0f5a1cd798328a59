import { Injectable } from '@angular/core';
import type { Sample } from '@keen-mortar/contract';
import { openDeviceDb, type Answer, type Aside, type Command, type Draft, type InHand } from './device-db';

/** How many sheets stay readable without the network. */
const SHEETS = 20;
/** And how many answers to all else that was asked. */
const ANSWERS = 150;

@Injectable({ providedIn: 'root' })
export class Device {
  private readonly db = openDeviceDb();

  draftsOf = (sampleId: string): Promise<Draft[]> => this.db.drafts.where('sampleId').equals(sampleId).toArray();
  putDraft = (draft: Draft): Promise<unknown> => this.db.drafts.put(draft);
  dropDraft = (testId: string): Promise<void> => this.db.drafts.delete(testId);

  commands = (): Promise<Command[]> => this.db.commands.orderBy('order').toArray();
  putCommands = (commands: readonly Command[]): Promise<unknown> => this.db.commands.bulkPut([...commands]);
  dropCommand = (id: string): Promise<void> => this.db.commands.delete(id);

  aside = (): Promise<Aside[]> => this.db.aside.toArray();
  dropAside = (id: string): Promise<void> => this.db.aside.delete(id);
  /** Out of the queue and to the side in one: neither lost nor in both. */
  setAside = (asides: readonly Aside[]): Promise<unknown> =>
    this.db.transaction('rw', this.db.commands, this.db.aside, async () => {
      await this.db.aside.bulkPut([...asides]);
      await this.db.commands.bulkDelete(asides.map((a) => a.id));
    });
  takeUp = ({ id, command }: Aside): Promise<unknown> =>
    this.db.transaction('rw', this.db.commands, this.db.aside, async () => {
      await this.db.commands.put(command);
      await this.db.aside.delete(id);
    });

  inHand = (id: string): Promise<InHand | undefined> => this.db.hands.get(id);
  /** What was begun on an item and not sent yet. */
  inHandOf = (itemId: string): Promise<InHand[]> => this.db.hands.where('itemId').equals(itemId).toArray();
  putInHand = (hand: InHand): Promise<unknown> => this.db.hands.put(hand);
  dropInHand = (id: string): Promise<void> => this.db.hands.delete(id);

  /** What was answered last to a question, and when. */
  answer = (url: string): Promise<Answer | undefined> => this.db.answers.get(url);
  async putAnswer(url: string, body: unknown): Promise<void> {
    await this.db.answers.put({ url, body, at: Date.now() });
    const over = (await this.db.answers.count()) - ANSWERS;
    if (over > 0) await this.db.answers.bulkDelete(await this.db.answers.orderBy('at').limit(over).primaryKeys());
  }

  seen = async (id: string): Promise<Sample | undefined> => (await this.db.seen.get(id))?.sample;
  /** The sheets that were looked at longest ago make room. */
  async remember(sample: Sample): Promise<void> {
    await this.db.seen.put({ id: sample.id, sample, at: Date.now() });
    const over = (await this.db.seen.count()) - SHEETS;
    if (over > 0) await this.db.seen.bulkDelete(await this.db.seen.orderBy('at').limit(over).primaryKeys());
  }
}
