import { effect, inject, Injectable, signal, untracked, type OnDestroy } from '@angular/core';
import type { Problem } from '@keen-mortar/contract/problem';
import { Store } from '@ngrx/store';
import { filter, firstValueFrom, Observable, Subject, timer } from 'rxjs';
import { Api, isAway, problemOf } from '../api/api';
import { session } from '../state/session';
import { Codes } from './codes';
import { Device } from './device';
import type { Aside, Command } from './device-db';
import { OUTBOX_BEGUN, WAITS } from './waits';

/** What came of a write. */
export type Answered =
  | { readonly command: Command; readonly answer: unknown }
  | { readonly command: Command; readonly problem: Problem; readonly fallen: readonly Command[] };

/** What comes of a write that somebody waits for: its answer, or that it waits for the server. */
export type Sending<T> = { readonly answer: T } | 'waits';

/** Nobody looks at a form longer without a word, ms. */
const PATIENCE = 8000;
/** Between two tries while the server is away, ms: doubled up to the longest. */
const FIRST_PAUSE = 1000;
const LONGEST_PAUSE = 30_000;
/** A write that breaks the server so often is for a person. */
const TRIES = 5;
const BROKEN = 500;

/** A test that was refused takes its readings with it: they would only be refused for want of the test. */
export const fallsWith = (refused: Command, other: Command): boolean =>
  other.id === refused.id || (refused.kind === 'test' && other.testId === refused.testId);

/** What `storage` says when it fails, for whoever stands there. */
const NOT_STORED =
  'This device cannot store what waits to be sent: its storage is full, blocked or switched off. Leave this page open until nothing waits any more.';

/**
 * Every write of every place, on its way to the server: stored on the device before it is sent, in the order
 * of each sheet, by one page at a time. While the server is away it waits; what is refused for good is set
 * aside for a person, and holds nothing else up.
 */
@Injectable({ providedIn: 'root' })
export class Outbox implements OnDestroy {
  private readonly device = inject(Device);
  private readonly api = inject(Api);
  private readonly codes = inject(Codes);
  private readonly person = inject(Store).selectSignal(session.selectPersonId);

  readonly commands = signal<readonly Command[]>([]);
  readonly aside = signal<readonly Aside[]>([]);
  readonly away = signal(false);
  /** What is wrong with the device's own store; null while nothing is. */
  readonly trouble = signal<string | null>(null);
  readonly answered = new Subject<Answered>();
  private readonly stalled = new Subject<void>();

  private readonly channel = 'BroadcastChannel' in globalThis ? new BroadcastChannel('keen-mortar-outbox') : null;
  /** Not on the device yet, or not to be had on it: known to this page alone. */
  private readonly unsaved = new Set<string>();
  private readonly broken = new Map<string, number>();
  /** Sheets that wait behind a write which breaks the server, until then. */
  private readonly lanes = new Map<string, number>();
  private pause = FIRST_PAUSE;
  private restored: Promise<void> | null = null;
  private gone = false;
  private draining = false;
  private again = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    if (this.channel)
      this.channel.onmessage = ({ data }: MessageEvent<Answered | null>) =>
        void this.restore().then(() => data && this.answered.next(data));
    document.dispatchEvent(new CustomEvent(OUTBOX_BEGUN));
    effect(() => {
      if (this.commands().length + this.aside().length > 0) localStorage.setItem(WAITS, '1');
      else localStorage.removeItem(WAITS);
    });
    // Whoever signs in finds it going on.
    effect(() => {
      if (this.person() !== null) untracked(() => void this.start());
    });
  }

  ngOnDestroy(): void {
    this.gone = true;
    this.channel?.close();
    clearTimeout(this.timer);
  }

  /** What an earlier page left on the device is taken up. */
  start(): Promise<void> {
    this.restored ??= this.restore();
    return this.restored.then(() => this.drain());
  }

  /** @param released nothing is held back any longer: a result is judged by what happened before it */
  async put(commands: readonly Command[], released = false): Promise<void> {
    // Pressed again it is the same write.
    const others = this.commands().filter((c) => !commands.some((same) => same.id === c.id));
    const before = released ? others.map(({ heldUntil: _held, ...c }): Command => c) : others;
    const last = Math.max(0, ...before.map((c) => c.order));
    // Pressed again it is called as before; without a network this device says how.
    const known = new Map(this.commands().map((c) => [c.id, c.body['code']]));
    const offline = this.away() || !navigator.onLine;
    const added = commands.map((c, i): Command => {
      const code = known.get(c.id);
      const own = code === undefined ? c : { ...c, body: { ...c.body, code } };
      return { ...(offline && !known.has(c.id) ? this.codes.called(own) : own), order: last + 1 + i };
    });
    for (const c of added) this.unsaved.add(c.id);
    this.commands.set([...before, ...added]);
    await (this.restored ??= this.restore());
    const saved = released ? this.commands() : added;
    if (await this.stored(this.device.putCommands(saved))) for (const c of saved) this.unsaved.delete(c.id);
    this.tell();
    this.drain();
  }

  /**
   * Puts one write and tells what comes of it: that it waits, as long as it does, and its answer. Fails with the problem of one
   * that is refused: whoever sent it has it in hand still, and it is not set aside.
   */
  sends<T>(command: Omit<Command, 'order'>): Observable<Sending<T>> {
    return new Observable((to) => {
      const heard = this.answered.pipe(filter((came) => came.command.id === command.id)).subscribe((came) => {
        if ('problem' in came) {
          void this.dismiss(...came.fallen.map((c) => c.id));
          to.error(came.problem);
        } else {
          to.next({ answer: came.answer as T });
          to.complete();
        }
      });
      heard.add(this.stalled.subscribe(() => to.next('waits')));
      heard.add(timer(PATIENCE).subscribe(() => to.next('waits')));
      void this.put([{ ...command, order: 0 }]);
      return heard;
    });
  }

  /** How this device called what a write makes that still waits; null where it did not. */
  codeOf(id: string): string | null {
    const code = this.commands().find((c) => c.id === id)?.body['code'];
    return typeof code === 'string' ? code : null;
  }

  /** What was just told did not happen: it never leaves the device. */
  async takeBack(id: string): Promise<void> {
    this.commands.update((all) => all.filter((c) => c.id !== id));
    await this.stored(this.device.dropCommand(id));
    this.tell();
  }

  /** It is told otherwise while it is held back. */
  async tellOtherwise(id: string, body: Partial<Command['body']>): Promise<void> {
    this.commands.update((all) => all.map((c) => (c.id === id ? { ...c, body: { ...c.body, ...body } } : c)));
    const command = this.commands().find((c) => c.id === id);
    if (command) await this.stored(this.device.putCommands([command]));
    this.tell();
  }

  /** Somebody has mended what it was refused for: it is sent once more. */
  async tryAgain(id: string): Promise<void> {
    const found = this.aside().find((a) => a.id === id);
    if (!found) return;
    this.aside.update((all) => all.filter((a) => a.id !== id));
    this.commands.update((all) => [...all, found.command]);
    await this.stored(this.device.takeUp(found));
    this.tell();
    this.drain();
  }

  /** Somebody has looked at it, and does not need it any more. */
  async dismiss(...ids: readonly string[]): Promise<void> {
    this.aside.update((all) => all.filter((a) => !ids.includes(a.id)));
    for (const id of ids) await this.stored(this.device.dropAside(id));
    this.tell();
  }

  private async restore(): Promise<void> {
    try {
      const [commands, aside] = await Promise.all([this.device.commands(), this.device.aside()]);
      const kept = this.commands().filter((c) => this.unsaved.has(c.id) && !commands.some((d) => d.id === c.id));
      this.commands.set([...commands, ...kept]);
      this.aside.set([...aside].sort((a, b) => a.command.order - b.command.order));
    } catch {
      this.trouble.set(NOT_STORED);
    }
  }

  private async stored(writing: Promise<unknown>): Promise<boolean> {
    try {
      await writing;
      this.trouble.set(null);
      return true;
    } catch {
      this.trouble.set(NOT_STORED);
      return false;
    }
  }

  /** Other pages of this device look again. */
  private tell(came: Answered | null = null): void {
    if (came) this.answered.next(came);
    if (!this.gone) this.channel?.postMessage(came);
  }

  private drain(): void {
    if (this.draining) {
      this.again = true;
      return;
    }
    this.draining = true;
    this.again = false;
    void this.alone(() => this.sendAll()).finally(() => {
      this.draining = false;
      if (this.again) this.drain();
    });
  }

  /** One page of this device sends; the others wait, and go on when it is closed. */
  private async alone(work: () => Promise<void>): Promise<void> {
    if (!('locks' in navigator)) return work();
    await navigator.locks.request('keen-mortar-outbox', async () => {
      // Another page may have sent meanwhile what this one still shows.
      await this.restore();
      await work();
    });
  }

  private next(now: number): Command | undefined {
    if (this.gone || this.person() === null) return undefined;
    return this.commands().find((c) => (c.heldUntil ?? 0) <= now && (this.lanes.get(c.itemId) ?? 0) <= now);
  }

  private async sendAll(): Promise<void> {
    for (let command = this.next(Date.now()); command; command = this.next(Date.now())) {
      if (!(await this.send(command))) break;
    }
    this.wake();
  }

  /** When the next one may go: one that is held back, or one that waits for the server. */
  private wake(): void {
    clearTimeout(this.timer);
    if (this.gone) return;
    const now = Date.now();
    const times = this.commands().map((c) => Math.max(c.heldUntil ?? 0, this.lanes.get(c.itemId) ?? 0, this.away() ? now + this.pause : 0));
    const first = Math.min(...times);
    if (Number.isFinite(first)) this.timer = setTimeout(() => this.drain(), Math.max(1, first - now + 1));
  }

  /** @returns whether the next may be sent at once */
  private async send(command: Command): Promise<boolean> {
    try {
      const answer = await firstValueFrom(this.api.write(command.path, command.file ?? command.body));
      this.reached(command);
      this.commands.update((all) => all.filter((c) => c.id !== command.id));
      await this.stored(this.device.dropCommand(command.id));
      this.tell({ command, answer });
      return true;
    } catch (error) {
      return this.failed(command, problemOf(error));
    }
  }

  private reached(command: Command): void {
    this.away.set(false);
    this.pause = FIRST_PAUSE;
    this.broken.delete(command.id);
    this.lanes.delete(command.itemId);
  }

  private async failed(command: Command, problem: Problem): Promise<boolean> {
    if (problem.status === BROKEN) {
      const tries = (this.broken.get(command.id) ?? 0) + 1;
      this.broken.set(command.id, tries);
      if (tries < TRIES) {
        // The server stumbles over this one: its sheet waits, the others go on.
        this.lanes.set(command.itemId, Date.now() + FIRST_PAUSE * 2 ** (tries - 1));
        return true;
      }
    } else if (isAway(problem)) {
      this.pause = this.away() ? Math.min(LONGEST_PAUSE, this.pause * 2) : FIRST_PAUSE;
      this.away.set(true);
      this.stalled.next();
      return false;
    }
    this.reached(command);
    const fallen = this.commands().filter((c) => fallsWith(command, c));
    const asides = fallen.map((c): Aside => ({ id: c.id, command: c, problem }));
    this.commands.update((all) => all.filter((c) => !fallsWith(command, c)));
    this.aside.update((all) => [...all.filter((a) => !asides.some((b) => b.id === a.id)), ...asides]);
    await this.stored(this.device.setAside(asides));
    this.tell({ command, problem, fallen });
    return true;
  }
}
