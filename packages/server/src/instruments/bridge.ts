import { createConnection, type Socket } from 'node:net';
import type { Instrument, InstrumentAnswer, InstrumentCommand, InstrumentReading, TracePoint } from '@keen-mortar/contract';
import { LONGEST_LINE, parseLine, type Said } from './protocol.js';

/** Between two tries of one that does not answer, ms: doubled up to the longest. */
const FIRST_PAUSE = 500;
const LONGEST_PAUSE = 10_000;
/** One that says nothing for so long is unplugged, ms. */
const SILENCE = 4_000;
const ANSWER_WITHIN = 3_000;
/** A trace has no more points: what comes after is left out. */
const MOST_POINTS = 2_000;

export interface Address {
  readonly host: string;
  readonly port: number;
}

type Hears = (reading: InstrumentReading) => void;

/** One instrument at the end of a line: connected, or tried again. */
class Line {
  private socket: Socket | null = null;
  private pause = FIRST_PAUSE;
  private timer: NodeJS.Timeout | undefined;
  private silence: NodeJS.Timeout | undefined;
  private rest = '';
  private over = false;
  private known: { id: string; kind: string; name: string; can: readonly string[] } | null = null;
  private reading: InstrumentReading = away();
  private waiting: ((answer: Extract<Said, { is: 'answer' }>) => void) | null = null;
  private points: TracePoint[] = [];
  readonly hearers = new Set<Hears>();

  constructor(private readonly address: Address) {}

  get instrument(): Instrument | null {
    return this.known && { ...this.known, reading: this.reading };
  }

  open(): void {
    if (this.over) return;
    const socket = createConnection(this.address);
    this.socket = socket;
    this.rest = '';
    socket.setEncoding('ascii');
    socket.on('data', (chunk: string) => this.came(chunk));
    socket.on('error', () => undefined);
    socket.on('close', () => this.gone());
  }

  close(): void {
    this.over = true;
    clearTimeout(this.timer);
    clearTimeout(this.silence);
    this.socket?.destroy();
  }

  private came(chunk: string): void {
    const lines = (this.rest + chunk).split('\n');
    this.rest = lines.pop()!;
    // A line without an end is no instrument.
    if (this.rest.length > LONGEST_LINE) return void this.socket?.destroy();
    for (const line of lines) {
      const said = parseLine(line.trimEnd());
      if (said) this.hear(said);
    }
  }

  private hear(said: Said): void {
    this.pause = FIRST_PAUSE;
    clearTimeout(this.silence);
    this.silence = setTimeout(() => this.socket?.destroy(), SILENCE);
    if (said.is === 'hello') this.known = { id: said.id, kind: said.kind, name: said.name, can: [] };
    else if (said.is === 'can' && this.known) this.known = { ...this.known, can: said.words };
    else if (said.is === 'answer') this.waiting?.(said);
    else if (said.is === 'point') {
      if (this.waiting && this.points.length < MOST_POINTS) this.points.push({ time: said.time, load: said.load, unit: said.unit });
    } else if (said.is === 'read') this.tell({ text: said.text, unit: said.unit, state: said.state, says: said.says, at: now() });
  }

  private gone(): void {
    clearTimeout(this.silence);
    this.tell(away());
    this.waiting?.({ is: 'answer', ok: false, says: 'it was unplugged' });
    if (this.over) return;
    this.timer = setTimeout(() => this.open(), this.pause);
    this.pause = Math.min(LONGEST_PAUSE, this.pause * 2);
  }

  private tell(reading: InstrumentReading): void {
    this.reading = reading;
    for (const hears of this.hearers) hears(reading);
  }

  /** One word at a time; answered within some seconds, or taken for not done. */
  command({ does, with: what }: InstrumentCommand): Promise<InstrumentAnswer> {
    if (this.waiting) return Promise.resolve({ ok: false, says: 'it is busy with another command' });
    if (!this.socket?.writable || this.reading.state === 'away') return Promise.resolve({ ok: false, says: 'it is not connected' });
    return new Promise((resolve) => {
      const done = (answer: { ok: boolean; says: string }): void => {
        clearTimeout(timer);
        this.waiting = null;
        resolve({ ok: answer.ok, says: answer.says, ...(this.points.length > 0 ? { points: this.points } : {}) });
      };
      const timer = setTimeout(() => done({ ok: false, says: 'it did not answer' }), ANSWER_WITHIN);
      this.points = [];
      this.waiting = done;
      this.socket!.write(`${[does, what].filter(Boolean).join(' ')}\n`);
    });
  }
}

const now = (): string => new Date().toISOString();
const away = (): InstrumentReading => ({ text: null, unit: null, state: 'away', says: null, at: now() });

/** The instruments that this server is wired to: each a line protocol over TCP. */
export class Instruments {
  private readonly lines: readonly Line[];

  constructor(addresses: readonly Address[] = []) {
    this.lines = addresses.map((a) => new Line(a));
  }

  start(): void {
    for (const line of this.lines) line.open();
  }

  stop(): void {
    for (const line of this.lines) line.close();
  }

  all(): Instrument[] {
    return this.lines.flatMap((l) => l.instrument ?? []);
  }

  has = (id: string): boolean => this.all().some((i) => i.id === id);

  private lineOf = (id: string): Line | undefined => this.lines.find((l) => l.instrument?.id === id);

  /** What it shows now, and whatever it shows next; null where there is none of that id. */
  listen(id: string, hears: Hears): (() => void) | null {
    const line = this.lineOf(id);
    if (!line) return null;
    hears(line.instrument!.reading);
    line.hearers.add(hears);
    return () => line.hearers.delete(hears);
  }

  command = (id: string, command: InstrumentCommand): Promise<InstrumentAnswer> | null => this.lineOf(id)?.command(command) ?? null;
}
