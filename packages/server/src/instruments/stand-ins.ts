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
  /** What it recorded of the last loading: a line for each point. */
  points?(): readonly string[];
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

/** What the specimens of the demonstration break at one after the other, kN. */
const STRENGTHS_KN = [291.6, 284.2, 297.3, 279.9, 288.4, 301.1, 293.7];
/** A point of its trace is written down every so many seconds. */
const STEP_S = 2;

/** A compression machine: loaded at its rate, the first half twice as fast, until what is in it breaks; it holds the largest load. */
export class Press implements StandIn {
  readonly hello: string;
  readonly can = ['ZERO', 'RATE', 'PUT', 'START', 'STOP', 'HURRY', 'TRACE'];
  private state: 'ready' | 'loading' | 'broke' | 'stopped' = 'ready';
  private load = 0;
  private seconds = 0;
  private rate = 2;
  private hurry = 1;
  private broken = 0;
  private strength = STRENGTHS_KN[0]!;
  private trace: { readonly time: number; readonly load: number }[] = [];

  constructor(id: string, name: string) {
    this.hello = `HELLO machine ${id} ${name}`;
  }

  beat(): void {
    if (this.state !== 'loading') return;
    for (let left = (BEAT / 1000) * this.hurry; left > 1e-9 && this.state === 'loading'; left -= 0.25) this.step(Math.min(0.25, left));
  }

  private step(seconds: number): void {
    this.seconds += seconds;
    this.load += this.rate * seconds * (this.load < this.strength / 2 ? 2 : 1);
    if (this.load >= this.strength) [this.load, this.state] = [this.strength, 'broke'];
    const last = this.trace.at(-1);
    if (this.state === 'broke' || !last || this.seconds - last.time >= STEP_S - 1e-9)
      this.trace.push({ time: this.seconds, load: this.load });
    if (this.state !== 'broke') return;
    this.trace.push({ time: this.seconds + 1, load: this.load * 0.3 });
    this.strength = STRENGTHS_KN[++this.broken % STRENGTHS_KN.length]!;
  }

  shows(): string {
    const says = {
      ready: ' ready',
      loading: ` ${this.seconds.toFixed(1)} s`,
      broke: ` broke at ${this.seconds.toFixed(0)} s`,
      stopped: ' stopped',
    };
    return `READ ${this.load.toFixed(1)} kN ${this.state === 'broke' || this.state === 'ready' ? 'STABLE' : 'MOVING'}${says[this.state]}`;
  }

  points = (): string[] => this.trace.map(({ time, load }) => `POINT ${time.toFixed(1)} ${load.toFixed(1)} kN`);

  does(word: string, what: string | undefined): string | null {
    if (word === 'TRACE') return this.trace.length === 0 ? 'nothing was loaded since it was zeroed' : null;
    if (word === 'STOP') {
      if (this.state === 'loading') this.state = 'stopped';
      return null;
    }
    if (this.state === 'loading') return 'it is loading';
    if (word === 'ZERO') return this.cleared();
    if (word === 'START') {
      this.cleared();
      [this.state, this.trace] = ['loading', [{ time: 0, load: 0 }]];
      return null;
    }
    const much = Number(what);
    if (!(much > 0)) return 'say how much';
    if (word === 'RATE') this.rate = much;
    else if (word === 'HURRY') this.hurry = Math.min(200, much);
    else this.strength = much;
    return null;
  }

  private cleared(): null {
    [this.state, this.load, this.seconds, this.trace] = ['ready', 0, 0, []];
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
        if (word === 'TRACE' && standIn.points) for (const point of standIn.points()) socket.write(`${point}\n`);
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
