/// <reference lib="webworker" />
import { expose } from 'comlink';
import { work } from './work';

expose({ work });
