import { existsSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { Refused } from '../problems.js';
import { answer, type Answer, type Question } from './answer.js';

/** Quantities up to which a computation is done at once; a thread costs more than that. */
const SMALL = 300;
/** How long a big computation may take, ms. */
const LONGEST = 5000;
/** So many may wait for the thread. */
const MOST_WAITING = 16;

/** Built, the worker lies beside; in the sources it is TypeScript, and a thread has to be told how to read it. */
const BUILT = new URL('./worker.js', import.meta.url);
const FROM_SOURCES = `import('tsx/esm/api').then((tsx) => (tsx.register(), import(${JSON.stringify(new URL('./worker.ts', import.meta.url).href)})))`;

interface Task {
  readonly question: Question;
  readonly done: (answer: Answer) => void;
  readonly failed: (error: unknown) => void;
}

/** Readings in a value, as far as it matters. */
function sizeOf(value: unknown, most = SMALL): number {
  if (value === null || typeof value !== 'object') return 0;
  let size = 1;
  for (const inner of Object.values(value)) if (size <= most) size += sizeOf(inner, most - size);
  return size;
}

/** Where computations run: small ones here, big ones in a thread with a time limit, one after the other. */
export class Computing {
  private worker: Worker | null = null;
  private running: { readonly task: Task; readonly timer: NodeJS.Timeout } | null = null;
  private readonly waiting: Task[] = [];

  constructor(private readonly longest = LONGEST) {}

  async compute(question: Question): Promise<Answer> {
    if (sizeOf(question.inputs) <= SMALL) return answer(question);
    if (this.waiting.length >= MOST_WAITING) throw new Refused('busy', 'Too many big computations wait already. Try again in a minute.');
    return new Promise<Answer>((done, failed) => {
      this.waiting.push({ question, done, failed });
      this.next();
    });
  }

  /** Ends the thread. */
  async close(): Promise<void> {
    await this.worker?.terminate();
    this.worker = null;
  }

  private next(): void {
    if (this.running) return;
    const task = this.waiting.shift();
    if (!task) return;
    const worker = (this.worker ??= this.start());
    const timer = setTimeout(
      () => this.fail(new Refused('too-long', `This takes more than ${this.longest / 1000} s here. Send fewer rows.`)),
      this.longest,
    );
    this.running = { task, timer };
    worker.postMessage(task.question);
  }

  private start(): Worker {
    const worker = existsSync(BUILT) ? new Worker(BUILT) : new Worker(FROM_SOURCES, { eval: true });
    worker.unref();
    worker.on('message', (found: Answer) => {
      const { running } = this;
      this.settle();
      running?.task.done(found);
      this.next();
    });
    worker.on('error', (error) => this.fail(error));
    return worker;
  }

  /** The thread is given up with what it was doing; the next computation gets a new one. */
  private fail(error: unknown): void {
    const { running, worker } = this;
    this.settle();
    this.worker = null;
    void worker?.terminate();
    running?.task.failed(error);
    this.next();
  }

  private settle(): void {
    if (this.running) clearTimeout(this.running.timer);
    this.running = null;
  }
}
