/// <reference lib="webworker" />
import type { Job, Message } from './jobs';
import { work } from './work';

const post = (message: Message): void => postMessage(message);

addEventListener('message', ({ data }: MessageEvent<Job>) => {
  try {
    post({ answer: work(data, (progress, doing) => post({ progress, doing })) });
  } catch (error) {
    post({ fault: error instanceof Error ? error.message : String(error) });
  }
});
