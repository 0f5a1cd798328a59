export { dayIn } from '@keen-mortar/core';
