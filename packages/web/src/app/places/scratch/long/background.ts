import type { AnswerOf, Job, Message } from './jobs';

export interface Running<A> {
  readonly answer: Promise<A>;
  /** Ends it at once; `answer` then never comes. */
  cancel(): void;
}

/** Computes away from the page, in a worker of its own, so that the page stays at hand. */
export function inBackground<J extends Job>(job: J, tell: (share: number, doing: string) => void = () => undefined): Running<AnswerOf<J>> {
  const worker = new Worker(new URL('./compute.worker', import.meta.url), { type: 'module' });
  const answer = new Promise<AnswerOf<J>>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<Message>) => {
      if ('progress' in data) return tell(data.progress, data.doing);
      worker.terminate();
      if ('answer' in data) resolve(data.answer as AnswerOf<J>);
      else reject(new Error(data.fault));
    };
    worker.onerror = (event) => {
      worker.terminate();
      reject(new Error(event.message));
    };
  });
  worker.postMessage(job);
  return { answer, cancel: () => worker.terminate() };
}

/** One worker for one kind of question asked again and again: only the newest answer counts. */
export class Asker<J extends Job> {
  private worker: Worker | null = null;
  private busy = false;
  private next: J | null = null;

  constructor(private readonly answered: (answer: AnswerOf<J>, job: J) => void) {}

  ask(job: J): void {
    this.next = job;
    if (!this.busy) this.send();
  }

  private send(): void {
    const job = this.next;
    if (!job) return;
    this.next = null;
    this.busy = true;
    this.worker ??= new Worker(new URL('./compute.worker', import.meta.url), { type: 'module' });
    this.worker.onmessage = ({ data }: MessageEvent<Message>) => {
      if ('progress' in data) return;
      this.busy = false;
      if ('answer' in data && this.next === null) this.answered(data.answer as AnswerOf<J>, job);
      this.send();
    };
    this.worker.postMessage(job);
  }

  end(): void {
    this.worker?.terminate();
  }
}
