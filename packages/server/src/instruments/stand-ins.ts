import { createServer, type Server, type Socket } from 'node:net';
import { LONGEST_LINE } from './protocol.js';

/** So often an instrument says what it shows, ms. */
const BEAT = 250;

/** What stands in for an instrument: it says what it shows, and does what it is told. */
interface StandIn {
  readonly hello: string;
  readonly can: readonly string[];
  /** A beat further. */
  beat(): void;
  shows(): string;
  /** @returns null where it was done, else why not */
  does(word: string, what: string | undefined): string | null;
}

/** A balance: what is put on it swings for a moment before it stands. */
export class Balance implements StandIn {
  readonly hello: string;
  readonly can = ['PUT', 'CLEAR', 'ZERO'];
  private on = 0;
  private shown = 0;
  private zero = 0;
  private swings = 0;

  constructor(
    id: string,
    name: string,
    private readonly unit: 'kg' | 'g',
    private readonly most: number,
    private readonly decimals: number,
  ) {
    this.hello = `HELLO balance ${id} ${name}`;
  }

  beat(): void {
    if (this.swings > 0) this.swings--;
    const off = (this.swings * this.most) / 4000;
    this.shown = this.on - this.zero + (this.swings % 2 === 0 ? off : -off);
  }

  shows(): string {
    if (this.on > this.most) return 'READ - - FAULT overloaded';
    return `READ ${this.shown.toFixed(this.decimals)} ${this.unit} ${this.swings > 0 ? 'MOVING' : 'STABLE'}`;
  }

  does(word: string, what: string | undefined): string | null {
    if (word === 'PUT') {
      if (what === undefined) return 'say how much';
      this.on = Number(what);
    } else if (word === 'CLEAR') this.on = 0;
    else if (this.swings > 0) return 'it is moving';
    else this.zero = this.on;
    if (word !== 'ZERO') this.swings = 6;
    return null;
  }
}

/** An air meter: pumped past the initial line, tapped onto it, its valve opened and tapped again until it stands. */
export class AirMeter implements StandIn {
  readonly hello: string;
  readonly can = ['PUMP', 'TAP', 'OPEN', 'RELEASE', 'LEAK'];
  private phase: 'empty' | 'pumped' | 'line' | 'opened' | 'read' = 'empty';
  private shown: number | null = null;
  private leaks = false;
  private taps = 0;

  constructor(
    id: string,
    name: string,
    private readonly air: number,
  ) {
    this.hello = `HELLO air-meter ${id} ${name}`;
  }

  beat(): void {
    if (this.leaks && this.shown !== null && this.phase !== 'pumped') this.shown += 0.05;
    else if (this.phase === 'opened' && this.shown! < this.air - 0.3) this.shown! += 0.5;
  }

  shows(): string {
    if (this.shown === null) return 'READ - - MOVING no pressure';
    const stands = !this.leaks && (this.phase === 'line' || this.phase === 'read');
    const says = { empty: '', pumped: 'past the initial line', line: 'on the initial line', opened: 'tap until it stands', read: '' }[
      this.phase
    ];
    return `READ ${this.shown.toFixed(1)} % ${stands ? 'STABLE' : 'MOVING'}${says ? ` ${says}` : ''}`;
  }

  does(word: string, what: string | undefined): string | null {
    if (word === 'LEAK') {
      if (what === undefined) return 'say ON or OFF';
      this.leaks = what === 'ON';
    } else if (word === 'PUMP') {
      if (this.phase === 'opened' || this.phase === 'read') return 'release the pressure first';
      [this.phase, this.shown, this.taps] = ['pumped', -0.4, 0];
    } else if (word === 'RELEASE') [this.phase, this.shown] = ['empty', null];
    else if (word === 'OPEN') {
      if (this.phase !== 'line') return 'bring it onto the initial line first';
      [this.phase, this.taps] = ['opened', 0];
    } else return this.tap();
    return null;
  }

  private tap(): string | null {
    if (this.phase === 'empty') return 'pump it up first';
    if (this.phase === 'pumped') [this.phase, this.shown] = ['line', 0];
    else if (this.phase === 'opened' && ++this.taps >= 2) {
      this.phase = 'read';
      if (!this.leaks) this.shown = this.air;
    }
    return null;
  }
}

/** Serves one on a port of this machine; whoever connects hears it. */
export function serveStandIn(standIn: StandIn, port = 0): Promise<{ port: number; stop: () => Promise<void> }> {
  const sockets = new Set<Socket>();
  const beat = setInterval(() => {
    standIn.beat();
    for (const socket of sockets) socket.write(`${standIn.shows()}\n`);
  }, BEAT);
  const server: Server = createServer((socket) => {
    sockets.add(socket);
    let rest = '';
    socket.setEncoding('ascii');
    socket.on('error', () => undefined);
    socket.on('close', () => sockets.delete(socket));
    socket.on('data', (chunk: string) => {
      const lines = (rest + chunk).split('\n');
      rest = lines.pop()!;
      if (rest.length > LONGEST_LINE) return void socket.destroy();
      for (const line of lines) {
        const [word = '', what] = line.trim().split(' ');
        const why = standIn.can.includes(word) ? standIn.does(word, what) : `there is no ${word.slice(0, 12)}`;
        socket.write(why === null ? `OK ${word}\n` : `NO ${why}\n`);
      }
    });
    socket.write(`${standIn.hello}\nCAN ${standIn.can.join(' ')}\n${standIn.shows()}\n`);
  });
  const stop = (): Promise<void> =>
    new Promise((resolve) => {
      clearInterval(beat);
      for (const socket of sockets) socket.destroy();
      server.close(() => resolve());
    });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve({ port: (server.address() as { port: number }).port, stop }));
  });
}
