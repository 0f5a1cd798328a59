import { parentPort } from 'node:worker_threads';
import { answer, type Question } from './answer.js';

/* A thread of its own for big computations: the server goes on answering meanwhile. */
parentPort?.on('message', (question: Question) => {
  parentPort?.postMessage(answer(question));
});
